"""The blocks of a report under work, as they come from whoever writes it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import nh3

from glenhail.server.common.errors import ActionError
from glenhail.server.publishing.blocks import (
    BY_ID,
    CHART,
    FIGURE,
    HEADING,
    REPLY,
    TABLE,
    complete,
)
from glenhail.server.publishing.own_figures import LONGEST_CAPTION, checked_figure
from glenhail.server.publishing.own_tables import checked_table
from glenhail.server.studies.models import Study

Document = dict[str, Any]
MOST_BLOCKS = 200
LONGEST_HEADING, LONGEST_TEXT, LONGEST_BY = 200, 20_000, 120
TAGS = {"p", "br", "strong", "em", "a", "ul", "ol", "li", "blockquote"}
SCHEMES = {"http", "https", "mailto"}


def rich(html: str, numbered: bool = False) -> str:
    """Rich text with nothing in it but what a reader may get; once its footnotes are
    `numbered`, their numbers too.
    """
    return nh3.clean(
        html,
        tags=TAGS | ({"sup"} if numbered else set()),
        clean_content_tags={"script", "style"},
        attributes={"a": {"href"}, "sup": {"id"}} if numbered else {"a": {"href"}},
        url_schemes=SCHEMES,
        link_rel="noopener noreferrer",
    )


def checked(
    study: Study, blocks: Sequence[Document], kept: Sequence[Document] = ()
) -> list[Document]:
    """Blocks as they are kept: known, each kind once but the author's own, with clean
    words, and with those that every edition has.

    A figure or table of those that are kept stays as it is, whatever became of its
    frames and contenders: editions leave out what can not be shown.

    Raises
    ------
    ActionError
        If a kind is none, stands twice, or has too many words.
    """
    if len(blocks) > MOST_BLOCKS:
        raise ActionError(f"A report has at most {MOST_BLOCKS} blocks; this one has {len(blocks)}.")
    known = [b["figure"] for b in kept if b["kind"] == FIGURE]
    tables = [b["table"] for b in kept if b["kind"] in (TABLE, CHART)]
    made: list[Document] = []
    for block in blocks:
        kind = BY_ID.get(block["kind"])
        if kind is None:
            raise ActionError(
                f"{block['kind']!r} is no kind of block; there are {', '.join(BY_ID)}."
            )
        if kind.id == FIGURE:
            made.append(_figure(study, block, known))
        elif kind.id in (TABLE, CHART):
            made.append(_table(study, block, tables))
        elif kind.id == REPLY:
            made.append(_reply(block))
        elif kind.own:
            made.append({"kind": kind.id, "text": _words(kind.id, str(block.get("text", "")))})
        elif any(b["kind"] == kind.id for b in made):
            raise ActionError(f"“{kind.title}” stands in the report twice. Remove one of the two.")
        else:
            made.append({"kind": kind.id})
    return complete(made)


def _figure(study: Study, block: Document, known: Sequence[Document]) -> Document:
    if not block.get("figure"):
        raise ActionError("A figure comes from the wall or the close look: Into the report.")
    told = _stated(block["figure"])
    kept = (figure for figure in known if _stated(figure) == told)
    figure = next(kept, None) or checked_figure(study, told)
    return {"kind": FIGURE, "text": _caption(block), "figure": figure}


def _stated(figure: Document) -> Document:
    """What is said of a figure, without what is only said to be nothing."""
    return {k: v for k, v in figure.items() if v is not None}


def _table(study: Study, block: Document, known: Sequence[Document]) -> Document:
    told = block.get("table") or {}
    table = told if told in known else checked_table(study, told)
    return {"kind": block["kind"], "text": _caption(block), "table": table}


def _reply(block: Document) -> Document:
    by = " ".join(str(block.get("by") or "").split())
    if len(by) > LONGEST_BY:
        raise ActionError(f"Whose reply it is has at most {LONGEST_BY} characters.")
    return {"kind": REPLY, "by": by, "text": _words(REPLY, str(block.get("text", "")))}


def _caption(block: Document) -> str:
    return " ".join(str(block.get("text", "")).split())[:LONGEST_CAPTION]


def _words(kind: str, text: str) -> str:
    if kind == HEADING:
        text = " ".join(text.split())
        most, what = LONGEST_HEADING, "A heading"
    else:
        text = rich(text)
        most, what = LONGEST_TEXT, "A text"
    if len(text) > most:
        raise ActionError(f"{what} has at most {most:,} characters; this one has {len(text):,}.")
    return text
