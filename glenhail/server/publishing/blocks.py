"""What an edition's page is made of: one table of the kinds of its blocks, each with a
template of its name.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

Document = dict[str, Any]


@dataclass(frozen=True)
class BlockKind:
    """A kind of block; ``there`` tells whether a document has anything for it."""

    id: str
    title: str
    there: Callable[[Document], object]


def _always(_: Document) -> bool:
    return True


# In the order of a new report: the answer and a picture first, then pictures with their
# text, numbers, how it was done, and what there is to check.
KINDS = (
    BlockKind("answer", "Answer", _always),
    BlockKind("lead", "At a glance", lambda d: d["lead"] is not None),
    BlockKind("contenders", "Contenders", _always),
    BlockKind("figures", "Side by side", lambda d: any(s["figures"] for s in d["sections"])),
    BlockKind("remarks", "Remarks", lambda d: d["remarks"]),
    BlockKind("findings", "What each does", lambda d: d["findings"]),
    BlockKind("numbers", "Whole frames", _always),
    BlockKind("method", "Method", _always),
    BlockKind("fairness", "Like for like", lambda d: d["fairness"]),
    BlockKind("tools", "Tools", lambda d: d["tools"]["rows"]),
    BlockKind("costs", "What they took", lambda d: d["costs"]["rows"]),
    BlockKind("disclosure", "Disclosure", lambda d: d["disclosure"]),
    BlockKind("files", "Check it yourself", _always),
)


def laid_out(document: Document) -> list[Document]:
    """The blocks of a document in their order, those that have something to say."""
    return [{"kind": k.id, "title": k.title} for k in KINDS if k.there(document)]
