"""What an edition's page is made of: one table of the kinds of its blocks, each with a
template of its name.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

Document = dict[str, Any]


@dataclass(frozen=True)
class Kind:
    """A kind of block; ``there`` tells whether a document has anything for it."""

    id: str
    title: str
    there: Callable[[Document], object]


def _always(_: Document) -> bool:
    return True


# In the order of a new report: the answer and a picture first, then pictures with their
# text, numbers, how it was done, and what there is to check.
KINDS = (
    Kind("answer", "Answer", _always),
    Kind("lead", "At a glance", lambda d: d["lead"] is not None),
    Kind("contenders", "Contenders", _always),
    Kind("figures", "Side by side", lambda d: any(s["figures"] for s in d["sections"])),
    Kind("remarks", "Remarks", lambda d: d["remarks"]),
    Kind("findings", "What each does", lambda d: d["findings"]),
    Kind("numbers", "Whole frames", _always),
    Kind("method", "Method", _always),
    Kind("fairness", "Like for like", lambda d: d["fairness"]),
    Kind("tools", "Tools", lambda d: d["tools"]["rows"]),
    Kind("costs", "What they took", lambda d: d["costs"]["rows"]),
    Kind("disclosure", "Disclosure", lambda d: d["disclosure"]),
    Kind("files", "Check it yourself", _always),
)


def laid_out(document: Document) -> list[Document]:
    """The blocks of a document in their order, those that have something to say."""
    return [{"kind": k.id, "title": k.title} for k in KINDS if k.there(document)]
