"""Whether anybody would see it: contenders by uses, held against one of them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import asdict
from functools import cached_property
from typing import Any

from glenhail.core.errors import CoreError
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.seeing.evidence import evidence_of
from glenhail.core.seeing.matrix import SeenAt, matrix, matrix_said, short_names
from glenhail.core.seeing.visible import VERSION, Seen, VisibleMaps, visible
from glenhail.core.uses.seen import SeenPicture
from glenhail.core.uses.table import Use
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.inquiries import evidence
from glenhail.server.inquiries.answering.pictures import (
    aligned_output,
    cell_keys,
    cells_of_frames,
    hashed,
    output_key,
)
from glenhail.server.inquiries.kinds import Found, InquiryKind
from glenhail.server.inquiries.models import About
from glenhail.server.inquiries.queries import find_inquiry
from glenhail.server.jobs.registry import Progress
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Contender, Study
from glenhail.server.studies.uses import uses_of

MATCHED = "matched"
PICTURES = ("map", "flip", "one", "two")


def subject_of(against: Contender, readings: str) -> str:
    """Who others are held against, and whether their light is matched."""
    return f"{against.pk} {readings}".strip()


def _told(study: Study, subject: str) -> tuple[Contender, bool]:
    number, _, readings = subject.partition(" ")
    against = study.contenders.filter(pk=int(number)).first()
    if against is None:
        raise Missing("The contender that others were held against was taken out.")
    return against, readings == MATCHED


def check(study: Study, subject: str) -> None:
    """There is something to hold against it, on one frame at least."""
    against, matched = _told(study, subject)
    if matched and not study.matched:
        raise ActionError("This study matches nothing. Choose in Audit how outputs are matched.")
    if not any(_pairs(study, against)):
        raise ActionError(
            f"No frame has both an output of {against.letter} and another one yet. Bring them in"
            " first."
        )


def key(study: Study, subject: str) -> str:
    """By which one knows whether an answer is of now."""
    against, by_match = _told(study, subject)
    cells = cell_keys(cells_of_frames(study))
    told = VERSION, cells, [asdict(use) for use in _uses(study)], against.letter
    return hashed((*told, study.matched if by_match else ""))


def _uses(study: Study) -> list[Use]:
    """Without videos: what is seen of them is seen moving, which no model here tells."""
    return [use for use in uses_of(study.bench) if use.video_mbit is None]


def _pairs(study: Study, against: Contender) -> Iterator[tuple[Output, list[Output]]]:
    for of in cells_of_frames(study).values():
        held = [o for o in of if o.contender_id == against.pk]
        others = [o for o in of if o.contender_id != against.pk]
        if held and others:
            yield held[0], others


def answer(progress: Progress, study: Study, subject: str, before: Found | None) -> Found:
    """Hold every contender against one, in every use, on every frame; pairs that are
    what they were before are not looked at again.
    """
    against, by_match = _told(study, subject)
    uses = _uses(study)
    known = {cell["key"]: cell for cell in (before or {}).get("cells", ())}
    pairs = list(_pairs(study, against))
    count, done = len(uses) * sum(len(others) for _, others in pairs), 0
    cells: list[dict[str, Any]] = []
    for held, others in pairs:
        bench = _HeldFrame(held, by_match)
        for output in others:
            progress.tell(done / count, f"looking at {output.contender.letter}, {held.frame.name}")
            cells += _looked(bench, output, uses, known)
            done += len(uses)
    names = {str(held.frame_id): held.frame.name for held, _ in pairs}
    table = matrix([_at(cell) for cell in cells if not cell["problem"]])
    short = short_names(uses)
    evidence.bound_pictures()
    return {
        "version": VERSION,
        "against": against.letter,
        "matched": study.matched if by_match else "",
        "uses": [{"id": use.id, "name": use.name, "short": short[use.id]} for use in uses],
        "frames": [{"id": int(pk), "name": name} for pk, name in names.items()],
        "cells": cells,
        "matrix": [asdict(cell) for cell in table],
        "said": matrix_said(table, short, against.letter),
    }


class _HeldFrame:
    """What a frame's outputs are held against: lined up, and brought to each use once."""

    def __init__(self, output: Output, matched: bool) -> None:
        self.output, self.by_match = output, matched
        self.matched = output.contender.study.matched if matched else ""
        self.seen: dict[Use, SeenPicture] = {}

    @cached_property
    def aligned(self) -> AlignedPicture:
        return aligned_output(self.output, self.by_match)


def _looked(
    held: _HeldFrame, output: Output, uses: list[Use], known: dict[str, Any]
) -> Iterator[dict[str, Any]]:
    """One output in every use."""
    other: AlignedPicture | None = None
    place = {"letter": output.contender.letter, "frame": output.frame_id}
    for use in uses:
        made_by = {**asdict(use), "id": "", "name": ""}
        keys = output_key(held.output), output_key(output)
        cell_key = hashed((VERSION, *keys, sorted(made_by.items()), held.matched))
        of = {**place, "use": use.id, "key": cell_key}
        kept = known.get(cell_key)
        if kept is not None and not kept["problem"] and evidence.is_kept(cell_key, "map"):
            yield {**kept, **of}
            continue
        try:
            other = other or aligned_output(output, held.by_match)
            found = visible(held.aligned, other, use, known=held.seen)
            yield {**_kept(found, cell_key), **of, "problem": ""}
        except CoreError as error:
            yield {**_NOTHING, **of, "problem": str(error)}


_NOTHING = {
    **dict.fromkeys(("share", "strong", "at", "most", "flip"), 0.0),
    "seen": Seen.NOBODY.value,
    "place": {"x": 0.0, "y": 0.0, "w": 1.0, "h": 1.0},
    "same": False,
}


def _kept(found: VisibleMaps, cell_key: str) -> dict[str, Any]:
    shown = evidence_of(found)
    for name in PICTURES:
        evidence.keep_picture(cell_key, name, getattr(shown, name))
    return {**asdict(found.told), "seen": found.told.seen.value}


def seen_of(study: Study, reference: str) -> dict[str, tuple[Use, list[SeenAt]]]:
    """What was found of contenders against one, as made, by the use's name; nothing
    where that is of before something changed.
    """
    against = study.contenders.filter(letter=reference).first()
    kept = None if against is None else find_inquiry(study, About.VISIBILITY, f"{against.pk}")
    if kept is None or not kept.found or kept.key != key(study, kept.subject):
        return {}
    made: dict[str, tuple[Use, list[SeenAt]]] = {use.name: (use, []) for use in _uses(study)}
    names = {use.id: use.name for use, _ in made.values()}
    for cell in kept.found["cells"]:
        if not cell["problem"] and cell["use"] in names:
            made[names[cell["use"]]][1].append(_at(cell))
    return {name: told for name, told in made.items() if told[1]}


def _at(cell: dict[str, Any]) -> SeenAt:
    return SeenAt(cell["letter"], cell["frame"], cell["use"], Seen(cell["seen"]), cell["share"])


KIND = InquiryKind("Whether anybody would see it", VERSION, check, key, answer)
