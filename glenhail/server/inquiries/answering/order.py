"""The same steps in every order: where the order matters, from the study's readings."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from glenhail.core.answers.orders import ASKED, OrderGroup, order_groups, order_pair
from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.common.errors import ActionError
from glenhail.server.inquiries.answering.pictures import hashed
from glenhail.server.inquiries.kinds import Found, InquiryKind
from glenhail.server.jobs.registry import Progress
from glenhail.server.measuring.answers import board_of
from glenhail.server.studies.models import Contender, Kind, Study

VERSION = "1"


def contenders_by_letter(study: Study) -> dict[str, Contender]:
    """A study's treatments."""
    rows = study.contenders.filter(kind=Kind.TREATMENT, treatment__isnull=False)
    return {c.letter: c for c in rows.select_related("treatment")}


def groups_of(study: Study) -> list[OrderGroup[str]]:
    """Contenders that differ in nothing but the order of their steps."""
    entered = contenders_by_letter(study)
    return order_groups({letter: c.treatment.told for letter, c in entered.items() if c.treatment})


def check(study: Study, subject: str) -> None:
    """There are two orders of the same steps."""
    if not groups_of(study):
        raise ActionError(
            "No two contenders differ in nothing but the order of their steps. Enter a treatment of"
            " two steps or more as a series over the order of its steps."
        )


def key(study: Study, subject: str) -> str:
    """By which one knows whether an answer is of now."""
    readings = [
        (where, sorted((letter, c.taken.value) for letter, c in row.items()))
        for where, row in sorted(board_of(study).cells.items())
        if where[0] in ASKED
    ]
    return hashed((VERSION, [g.members for g in groups_of(study)], readings))


def answer(progress: Progress, study: Study, subject: str, before: Found | None) -> Found:
    """Every other order against the first of its group."""
    board, pairs = board_of(study), []
    for group in groups_of(study):
        first, *others = group.members
        pairs += [order_pair(board, first, other) for other in others]
    titles = {m: f"{MEASURES[m].name}, {MEASURES[m].unit}".strip(", ") for m in ASKED}
    return {
        "version": VERSION,
        "groups": [
            [{"letter": k, "order": words} for k, words in g.members] for g in groups_of(study)
        ],
        "pairs": [_pair(asdict(pair), titles) for pair in pairs],
        "cells": [],
        "said": [pair.said for pair in pairs],
    }


def _pair(told: dict[str, Any], titles: dict[str, str]) -> dict[str, Any]:
    places = [{**place, "title": titles[place["measure"]]} for place in told["places"]]
    return {**told, "places": places}


KIND = InquiryKind("Order of steps", VERSION, check, key, answer)
