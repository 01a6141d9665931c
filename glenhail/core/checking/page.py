"""What an edition's page says, compared with its data: captions, numbers under crops
and in tables.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from html.parser import HTMLParser
from typing import Any

from glenhail.core.articles.licences import licences_table
from glenhail.core.articles.linked import linked
from glenhail.core.articles.looking import for_looking
from glenhail.core.articles.names import inline
from glenhail.core.checking.checks import Check, check
from glenhail.core.checking.chosen import PageFigure, cell_words, chosen_again, values_again

Document = dict[str, Any]
KIND = "page"


class _Reader(HTMLParser):
    """Collects the texts of figures by their numbers; the first table of each."""

    def __init__(self) -> None:
        super().__init__()
        self.figures: dict[str, PageFigure] = {}
        self._now: PageFigure | None = None
        self._into: str | None = None
        self._tag = ""
        self._depth = self._skip = 0
        self._tables = 0
        self._every = False
        self._text: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        told = dict(attrs)
        if tag in ("figure", "article"):
            self._now = self.figures.setdefault(told.get("id") or "", PageFigure())
            self._tables = 0
            # A chart has a table for each of its measures.
            self._every = (told.get("id") or "").startswith("chart-")
            return
        if self._now is None:
            return
        self._tables += tag == "table"
        if self._into is not None:
            self._depth += tag == self._tag
            # What acts on a figure is no part of what it says.
            self._skip += self._skip > 0 or "acts" in (told.get("class") or "")
            return
        names = (told.get("class") or "").split()
        where = {
            "figcaption": "caption",
            "td": "cell" if self._tables == 1 or self._every else None,
        }.get(tag)
        if tag == "p" and "name" in names:
            where = "name"
        elif tag == "p" and "mono" in names:
            where = "line"
        if where:
            self._into, self._tag, self._depth, self._skip, self._text = where, tag, 1, 0, []

    def handle_data(self, data: str) -> None:
        if self._into is not None and not self._skip:
            self._text.append(data)

    def handle_endtag(self, tag: str) -> None:
        if tag in ("figure", "article"):
            self._now = None
        if self._into is None or self._now is None:
            return
        self._skip = max(0, self._skip - 1)
        self._depth -= tag == self._tag
        if self._depth:
            return
        words = " ".join("".join(self._text).split())
        if self._into == "caption":
            self._now.caption = words
        elif self._into == "name":
            self._now.names.append(words)
        elif self._into == "line":
            self._now.lines.append(words)
        else:
            self._now.cells.append(words)
        self._into = None


def page_again(document: Document, html: str) -> Iterator[Check]:
    """Each figure's caption, names, numbers and table, as the data has them.

    Parameters
    ----------
    document : dict
        The edition.
    html : str
        Its page.
    """
    reader = _Reader()
    reader.feed(html)
    titles = {c["letter"]: c["title"] for c in document["contenders"]}
    words = _text_of(html)
    for what, text in _texts(document):
        yield check(KIND, what, _plain(text) in words, "the page does not say it so")
    yield from _given(document, html)
    yield from chosen_again(document, reader.figures)
    yield from values_again(document)
    kinds = _kinds(document)
    for number, frame in enumerate(document["frames"] if "numbers" in kinds else (), 1):
        page = reader.figures.get(f"frame-{number}", PageFigure())
        yield _table(f"table of {frame['name']}", frame["table"], page.cells)
    for patch in _shown(document):
        figure = reader.figures.get(f"figure-{patch['figure']}", PageFigure())
        what = f"figure {patch['figure']}, {patch['name']}"
        wanted = _caption(patch)
        yield check(
            KIND, f"caption of {what}", figure.caption == wanted, f"the page has {figure.caption!r}"
        )
        names = [f"{c['letter']} {titles[c['letter']]}" for c in patch["crops"]]
        lines = [c["line"] for c in patch["crops"]]
        yield check(
            KIND,
            f"names and numbers of {what}",
            (figure.names, figure.lines) == (names, lines),
            f"the page has {figure.names} with {figure.lines}",
        )
        yield _table(f"table of {what}", patch["table"], figure.cells)


def _kinds(document: Document) -> set[str]:
    """The kinds of blocks that its author left on the page."""
    return {block["kind"] for block in document["blocks"]}


def _shown(document: Document) -> Iterator[Document]:
    """The patches that stand on the page as figures."""
    kinds, patches = _kinds(document), document["patches"]
    if "lead" in kinds:
        yield patches[document["lead"]]
    for block in document["blocks"]:
        if block["kind"] == "figure":
            yield document["figures"][block["at"]]
    if "figures" in kinds:
        yield from (patches[i] for section in document["sections"] for i in section["figures"])


def _texts(document: Document) -> Iterator[tuple[str, str]]:
    """What a page says in whole sentences, in the blocks that it has."""
    kinds = _kinds(document)
    yield "the question", document["question"]
    for name, kind in (("summary", "answer"), ("method", "method"), ("disclosure", "disclosure")):
        for paragraph in document[name].splitlines() if kind in kinds else ():
            yield f"the {name}", paragraph
    yield from _own(document)
    for row in licences_table(document) if "files" in kinds else ():
        for part in ("of", "title", "source", "credit"):
            yield f"the {part} of the licence of {row['of']}", row[part]
    yield from _since(document)
    yield from _verdicts(document, kinds)
    for section in document["sections"]:
        figures = section["figures"] and "figures" in kinds
        apart = not document["verdicts"] or "verdicts" in kinds
        if section["answer"] and (figures or ("answer" in kinds and apart)):
            yield f"the answer for {section['about']}", section["answer"]["text"]
    for remark in document["remarks"] if "remarks" in kinds else ():
        yield f"remark {remark['number']}", remark["text"]
    for sitting in document.get("sittings", ()) if "sittings" in kinds else ():
        for part in ("question", "said", "speaks"):
            yield f"“{part}” of sitting {sitting['number']}", sitting[part]
    yield from _asked(document, kinds)
    for contender in document["findings"] if "findings" in kinds else ():
        for sentence in contender["sentences"]:
            yield f"what {contender['letter']} does", sentence["text"]


def _asked(document: Document, kinds: set[str]) -> Iterator[tuple[str, str]]:
    """What bodies are over ISO, and what was asked of the whole study."""
    series: Document = document.get("series") or {}
    for ahead in series.get("ahead", ()) if "series" in kinds else ():
        yield f"who is ahead at {series['spots'][ahead['spot']]['name']}", ahead["said"]
    for answer in document.get("inquiries", ()) if "inquiries" in kinds else ():
        for words in answer["said"]:
            yield f"the answer to “{answer['title']}”", words


def _verdicts(document: Document, kinds: set[str]) -> Iterator[tuple[str, str]]:
    """Their words where they stand with the answer; in their own block all of them."""
    for verdict in document["verdicts"] if kinds & {"answer", "verdicts"} else ():
        yield f"the verdict for {verdict['use']}", verdict["text"]
        rests = (verdict.get("marked", ""), *verdict.get("evidence", ()))
        for text in filter(None, rests) if "verdicts" in kinds else ():
            yield f"what the verdict for {verdict['use']} rests on", text


def _own(document: Document) -> Iterator[tuple[str, str]]:
    """What its author wrote between the blocks of every report."""
    for block in document["blocks"]:
        if block["kind"] in ("heading", "text", "reply"):
            yield f"the {block['kind']} {block['anchor']}", _text_of(block["text"])
        for note in block.get("notes", ()):
            yield f"note {note['number']}", _text_of(note["text"])
        if block["kind"] == "reply":
            yield f"the title of {block['anchor']}", block["title"]


def _since(document: Document) -> Iterator[tuple[str, str]]:
    """What a page says of earlier editions and releases."""
    for pair in document.get("succession", ()) if "releases" in _kinds(document) else ():
        yield f"what changed from {pair['earlier']} to {pair['later']}", pair["text"]
    for group in ("contenders", "material", "texts"):
        for line in (document["changes"] or {}).get(group, ()):
            # Frames, patches and texts begin a line of the page with a capital.
            yield "what changed", line if group == "contenders" else line[:1].upper() + line[1:]
    for wrong in document.get("corrections", ()):
        yield f"correction {wrong['number']}", f"{wrong['where']}: {wrong['text']}"


def _table(what: str, table: list[Document], shown: list[str]) -> Check:
    cells = [cell_words(cell) for row in _rows(table) for cell in row["cells"]]
    pairs = zip(shown, cells, strict=False)
    wrong = next((f"{now!r} for {then!r}" for now, then in pairs if now != then), "other rows")
    return check(KIND, what, shown == cells, f"the page has {wrong}")


def _rows(table: list[Document]) -> list[Document]:
    told = [row for row in table if row["cells"]]
    return [r for r in told if r.get("main")] + [r for r in told if not r.get("main")]


def _caption(patch: Document) -> str:
    head = patch["headline"]
    below = ""
    if head:
        below = f"; below each, {inline(head['measure'])}" + (
            f" in {head['unit']}" if head["unit"] else ""
        )
    place = f"{patch['name']}, {patch['frame']}, {patch['percent']} of the subject"
    if patch.get("shown"):
        place += f", {patch['shown']}"
    if patch.get("over"):
        place += f", {patch['over']['words']}"
    listed = ", ".join(f"{m['number']} {m['name']}" for m in patch.get("marks", ()))
    marked = f" Marked: {listed}." if listed else ""
    return " ".join(f"Figure {patch['figure']}. {place}{below}.{marked}".split())


class _Words(HTMLParser):
    """Words that are read, and data that scripts and machines are given."""

    def __init__(self) -> None:
        super().__init__()
        self.words: list[str] = []
        self.data: dict[str, str] = {}
        self._into = ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        told = dict(attrs)
        if tag in ("script", "style"):
            self._into = told.get("id") or told.get("type") or tag
            self.data.setdefault(self._into, "")

    def handle_endtag(self, tag: str) -> None:
        self._into = ""

    def handle_data(self, data: str) -> None:
        if self._into:
            self.data[self._into] += data
        else:
            self.words.append(data)


def _given(document: Document, html: str) -> Iterator[Check]:
    """What stands within the page for scripts and machines."""
    words = _Words()
    words.feed(html)
    wanted = {
        "document": for_looking(document),
        "application/ld+json": linked(document, document.get("address", "")),
    }
    for name, data in wanted.items():
        try:
            same = json.loads(words.data.get(name, "")) == json.loads(json.dumps(data))
        except ValueError:
            same = False
        yield check(KIND, f"data of the page, {name}", same, "it is other than the edition's")


def _text_of(html: str) -> str:
    words = _Words()
    words.feed(html)
    return _plain("".join(words.words))


def _plain(text: str) -> str:
    return " ".join(text.split())
