"""The figures of an edition by what they show, each section with its answer."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from glenhail.core.answers.paragraphs import ABOUT, Paragraph, paragraphs
from glenhail.core.answers.words import in_words, over_words
from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.measuring.answers import board_of
from glenhail.server.publishing.blocks import FIGURE
from glenhail.server.studies.models import Study

Document = dict[str, Any]


def arrange(
    study: Study, patches: list[Document], own: list[Document], blocks: Sequence[Document]
) -> Document:
    """The lead's place among the patches and the sections with the places of theirs;
    they and the author's own figures gain their numbers, in the order of the blocks.

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
    in_sections = [patches[i] for _, figures in shown for i in figures]
    order: list[Document] = []
    for block in blocks:
        if block["kind"] == "lead" and lead is not None:
            order.append(patches[lead])
        elif block["kind"] == "figures":
            order += in_sections
        elif block["kind"] == FIGURE:
            order.append(own[block["at"]])
    # What is on no page has a number all the same.
    order += in_sections if "figures" not in kinds else []
    for number, figure in enumerate(order, 1):
        figure["figure"] = number
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
