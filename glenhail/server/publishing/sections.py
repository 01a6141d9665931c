"""The figures of an edition by what they show, each section with its answer."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from glenhail.core.answers.paragraphs import ABOUT, Paragraph, paragraphs
from glenhail.core.answers.words import in_words, over_words
from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.measuring.answers import board_of
from glenhail.server.studies.models import Study

Document = dict[str, Any]


def arrange(study: Study, patches: list[Document], blocks: Sequence[Document]) -> Document:
    """The lead's place among the patches and the sections with the places of theirs;
    patches gain the numbers of their figures, in the order of the blocks.

    Without a block for a lead none is taken out of its section.
    """
    kinds = [b["kind"] for b in blocks]
    told = {p.role: p for p in paragraphs(board_of(study))}
    # What an answer is told of comes first; other types of patch follow.
    roles = [*told, *(role for role in ABOUT if role not in told)]
    by_role = [(role, [i for i, p in enumerate(patches) if p["role"] == role]) for role in roles]
    able = (i for _, places in by_role for i in places if patches[i]["outputs"])
    lead = next(able, None) if "lead" in kinds else None
    shown = [(role, [i for i in places if i != lead]) for role, places in by_role if places]
    order = [i for _, figures in shown for i in figures]
    if lead is not None:
        first = "figures" not in kinds or kinds.index("lead") < kinds.index("figures")
        order.insert(0 if first else len(order), lead)
    for number, i in enumerate(order, 1):
        patches[i]["figure"] = number
    sections = [
        {"about": ABOUT[role], "answer": _answer(told.get(role)), "figures": figures}
        for role, figures in shown
    ]
    return {"lead": lead, "sections": sections}


def _answer(paragraph: Paragraph | None) -> Document | None:
    if paragraph is None:
        return None
    return {
        "text": in_words(paragraph),
        "measure": MEASURES[paragraph.measure].name,
        "over": over_words(paragraph.places),
    }
