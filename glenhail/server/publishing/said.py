"""Readings within the texts of a report: put in place for an edition, and told to
whoever writes.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import asdict
from typing import Any

from glenhail.core.articles.claims import claims, contradiction
from glenhail.core.articles.notes import with_notes
from glenhail.core.articles.values import Value, values_in, with_values
from glenhail.server.publishing.blocks import CHART, FIGURE, HEADING, REPLY, TABLE, TEXT, complete
from glenhail.server.publishing.queries import report_of
from glenhail.server.publishing.readings import readings_of
from glenhail.server.studies.models import Study

Document = dict[str, Any]
RICH = (TEXT, REPLY)
OWN = (*RICH, HEADING, FIGURE, TABLE, CHART)


def put_values(document: Document, blocks: Sequence[Document]) -> list[Document]:
    """Blocks with every reading that their texts ask for in its place; so have the
    document's summary and verdicts. It gains ``values``, one entry for each.
    """
    kinds = {b["kind"] for b in blocks}
    told: list[Document] = []

    def put(where: str, text: str, rich: bool = False) -> str:
        words, values = with_values(document, text, kinds, rich)
        told.extend(_entry(where, v) for v in values if not v.problem)
        return words

    for name in ("summary", "method"):
        document[name] = put(f"the {name}", document[name])
    for verdict in document["verdicts"]:
        verdict["text"] = put(f"the verdict for {verdict['use']}", verdict["text"])
    made = [
        {**b, "text": put(f"the {b['kind']}", b.get("text", ""), b["kind"] in RICH)}
        if b["kind"] in OWN
        else b
        for b in blocks
    ]
    for block in made:
        # Its figure has the caption too.
        if block["kind"] == FIGURE:
            document["figures"][block["at"]]["name"] = block["text"]
    document["values"] = told
    return _numbered(made)


def _numbered(blocks: Sequence[Document]) -> list[Document]:
    """Blocks whose footnotes are numbered through the whole report, each with its own
    as ``notes``.
    """
    count = 0
    made: list[Document] = []
    for block in blocks:
        if block["kind"] not in RICH:
            made.append(block)
            continue
        text, notes = with_notes(block["text"], count + 1)
        count += len(notes)
        own = {"notes": [asdict(note) for note in notes]} if notes else {}
        made.append({**block, "text": text, **own})
    return made


def _entry(where: str, value: Value) -> Document:
    assert value.spot is not None
    assert value.cell is not None
    return {
        "where": where,
        "asked": value.asked,
        "letter": value.letter,
        "measure": value.measure,
        "frame_at": value.spot.frame,
        "patch": value.spot.patch,
        "text": value.text,
        "reading": f"{value.cell['text']} ±{value.cell['half']}",
    }


def values_told(study: Study) -> list[Document]:
    """What the texts of a report ask for as they are kept, and what they say otherwise
    than its numbers; ``block`` is the place of theirs, None for another text.
    """
    texts = [t for t in _texts(study) if "{" in t[2]]
    if not texts:
        return []
    document = readings_of(study)
    return [row for where, block, text in texts for row in _told(document, where, block, text)]


def _texts(study: Study) -> Iterator[tuple[str, int | None, str]]:
    report = report_of(study)
    yield "summary", None, report.summary
    yield "method", None, report.method
    for verdict in study.verdicts.all():
        yield f"verdict for {verdict.use}", None, verdict.text
    for at, block in enumerate(complete(report.blocks)):
        yield block["kind"], at, block.get("text", "")


def _told(document: Document, where: str, block: int | None, text: str) -> Iterator[Document]:
    head, rich = {"where": where, "block": block}, where in RICH
    for v in values_in(document, text, rich):
        warning = f"The {where} says {v.text} for {v.asked}; {v.warning}." if v.warning else ""
        problem = f"The {where} asks for {{{v.asked}}}. {v.problem}" if v.problem else ""
        yield {**head, "asked": v.asked, "text": v.text, "problem": problem, "warning": warning}
    for claim in claims(document, text, rich):
        if wrong := contradiction(claim):
            yield {**head, "asked": "", "text": "", "problem": "", "warning": wrong}
