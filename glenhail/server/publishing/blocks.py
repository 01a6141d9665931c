"""What an edition's page is made of: one table of the kinds of its blocks, each with a
template of its name.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

Document = dict[str, Any]
HEADING, TEXT, FIGURE = "heading", "text", "figure"
TABLE, CHART, REPLY = "table", "chart", "reply"


@dataclass(frozen=True)
class BlockKind:
    """A kind of block; ``there`` tells whether a document has anything for it.

    What readers need to trust the rest is ``kept``: it is in every edition. Of a kind
    that is ``own`` there may be several, each with words of its author's. A new report
    begins with those that are ``usual``.
    """

    id: str
    title: str
    there: Callable[[Document], object]
    kept: bool = False
    own: bool = False
    usual: bool = True


def _always(_: Document) -> bool:
    return True


# In the order of a new report: the answer and a picture first, then pictures with their
# text, numbers, how it was done, and what there is to check.
KINDS = (
    BlockKind("answer", "Answer", _always),
    BlockKind("lead", "At a glance", lambda d: d["lead"] is not None),
    BlockKind("contenders", "Contenders", _always, kept=True),
    BlockKind("changes", "What changed", lambda d: d["changes"], kept=True),
    BlockKind("corrections", "Corrections", lambda d: d["corrections"], kept=True),
    BlockKind("releases", "Release against release", lambda d: d["succession"], kept=True),
    BlockKind("series", "Over ISO", lambda d: d["series"]),
    BlockKind("inquiries", "Asked of the whole study", lambda d: d["inquiries"]),
    BlockKind("figures", "Side by side", lambda d: any(s["figures"] for s in d["sections"])),
    BlockKind("remarks", "Remarks", lambda d: d["remarks"]),
    BlockKind("sittings", "Judged blind", lambda d: d["sittings"]),
    BlockKind("findings", "What each does", lambda d: d["findings"]),
    BlockKind("numbers", "Whole frames", _always),
    BlockKind("method", "Method", _always, kept=True),
    BlockKind("fairness", "Like for like", lambda d: d["fairness"], kept=True),
    BlockKind("tools", "Tools", lambda d: d["tools"]["rows"]),
    BlockKind("costs", "What they took", lambda d: d["costs"]["rows"]),
    BlockKind("worth", "Price and speed", lambda d: d["worth"]["rows"]),
    BlockKind("disclosure", "Disclosure", lambda d: d["disclosure"], kept=True),
    BlockKind("files", "Check it yourself", _always, kept=True),
    # Without it they stand with the answer.
    BlockKind("verdicts", "Verdicts", lambda d: d["verdicts"], usual=False),
    BlockKind(HEADING, "Heading", _always, own=True),
    BlockKind(TEXT, "Text", _always, own=True),
    BlockKind(FIGURE, "Figure", _always, own=True),
    BlockKind(TABLE, "Table", _always, own=True),
    BlockKind(CHART, "Chart", _always, own=True),
    BlockKind(REPLY, "Reply", _always, own=True),
)
BY_ID = {k.id: k for k in KINDS}


def usual() -> list[Document]:
    """The blocks of a new report."""
    return [{"kind": k.id} for k in KINDS if k.usual and not k.own]


def complete(blocks: Sequence[Document]) -> list[Document]:
    """Blocks with those that every edition has, in their usual order at the end where
    somebody left them out; the usual ones where there are none.
    """
    if not blocks:
        return usual()
    there = {b["kind"] for b in blocks}
    return [*blocks, *({"kind": k.id} for k in KINDS if k.kept and k.id not in there)]


# What is taken from where it is seen stands after the last of its like, else before these.
BEFORE = {FIGURE: "figures", TABLE: "numbers", CHART: "numbers"}


def with_taken(blocks: Sequence[Document], block: Document) -> list[Document]:
    """Blocks with another figure, table or chart."""
    kinds = [b["kind"] for b in blocks]
    before = BEFORE[block["kind"]]
    like = [at for at, kind in enumerate(kinds) if BEFORE.get(kind) == before]
    usual_at = kinds.index(before) if before in kinds else len(kinds)
    at = like[-1] + 1 if like else usual_at
    return [*blocks[:at], block, *blocks[at:]]


def laid_out(document: Document, blocks: Sequence[Document]) -> list[Document]:
    """The blocks of an edition in their order, those that have something to say, each
    with its title and its own anchor.
    """
    made: list[Document] = []
    own = 0
    for block in complete(blocks):
        kind = BY_ID.get(block["kind"])
        # Kinds come and go with releases; what is kept of a report stays readable.
        if (
            kind is None
            or not kind.there(document)
            or (kind.own and not block.get("text", "").strip())
        ):
            continue
        own += kind.own
        title = block.get("text", "") if kind.id == HEADING else kind.title
        if kind.id == REPLY:
            title = f"Reply: {block['by']}" if block["by"] else kind.title
        anchor = f"own-{own}" if kind.own else kind.id
        made.append({**block, "title": title, "anchor": anchor})
    return made
