"""Could a slider do it: one contender brought to another's level, in sharpness, noise,
contrast or size.
"""

from __future__ import annotations

from typing import Any

from glenhail.core.colour import srgb
from glenhail.core.errors import CoreError, NotMeasurable
from glenhail.core.filters.resample import resample
from glenhail.core.level.told import levelled_told
from glenhail.core.level.way import LevelPair, Way
from glenhail.core.level.ways import brought
from glenhail.core.measures.catalogue import Patch as MeasuredPatch
from glenhail.core.picture import Picture, Rect
from glenhail.server.common.errors import ActionError
from glenhail.server.inquiries import evidence
from glenhail.server.inquiries.answering.pictures import (
    aligned_output,
    cell_keys,
    cells_of_frames,
    contender_pair,
    hashed,
    output_key,
    output_pairs,
)
from glenhail.server.inquiries.kinds import Found, InquiryKind
from glenhail.server.jobs.registry import Progress
from glenhail.server.material.decoded import decoded
from glenhail.server.measuring.subjects import truth_of
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Contender, Kind, Patch, Study

VERSION = "2"
MOST_FRAMES = 6
SHOWN = ("texture", "edge", "print")  # patches at which it is looked at, the first that there is
CROP = (300, 220)  # px of the first one's grid


def subject_of(one: Contender, other: Contender, way: Way = Way.SHARPNESS) -> str:
    """Who is brought to whose level, and in what."""
    return f"{one.pk} {other.pk} {way.value}"


def told_of(study: Study, subject: str) -> tuple[Contender, Contender, Way]:
    """Both contenders, and in what.

    Raises
    ------
    Missing
        If one of them was taken out.
    """
    *numbers, way = subject.split()
    return *contender_pair(study, numbers), Way(way)


def check(study: Study, subject: str) -> None:
    """Both have an output of one frame."""
    one, other, _ = told_of(study, subject)
    if one.pk == other.pk or Kind.TRUTH in (one.kind, other.kind):
        raise ActionError(
            "Choose two contenders: the one to change, and the one whose level is wanted."
        )
    if not any(output_pairs(study, one, other)):
        raise ActionError(
            f"No frame has an output of {one.letter} and one of {other.letter} yet. Bring them in"
            " first."
        )


def key(study: Study, subject: str) -> str:
    """By which one knows whether an answer is of now."""
    one, other, way = told_of(study, subject)
    told = cell_keys(cells_of_frames(study))
    cells = [cell for cell in told if cell[0] in (one.letter, other.letter)]
    patches = [(p.frame_id, *p.drawn) for p in study.patches.all()]
    truths = list(study.study_frames.values_list("frame__truth_id", flat=True))
    return hashed((VERSION, cells, patches, truths, one.letter, other.letter, way.value))


def answer(progress: Progress, study: Study, subject: str, before: Found | None) -> Found:
    """Bring one contender's outputs to the other's level, frame by frame, and measure
    all three.
    """
    one, other, way = told_of(study, subject)
    pairs = list(output_pairs(study, one, other))[:MOST_FRAMES]
    frames = []
    for done, (mine, theirs) in enumerate(pairs):
        progress.tell(done / len(pairs), f"levelling {mine.frame.name}")
        frames.append(_frame(study, mine, theirs, (one.letter, other.letter), way))
    evidence.bound_pictures()
    several = len(frames) > 1
    return {
        "version": VERSION,
        "one": one.letter,
        "other": other.letter,
        "way": way.value,
        "cells": frames,
        "said": [f"{f['name']}: {f['said']}" if several else f["said"] for f in frames],
    }


def _frame(
    study: Study, mine: Output, theirs: Output, letters: tuple[str, str], way: Way
) -> dict[str, Any]:
    place = {"frame": mine.frame_id, "name": mine.frame.name}
    patches = list(study.patches.filter(frame=mine.frame))
    try:
        pair = _pair(mine, theirs, patches)
        found = brought(way, pair, letters)
    except (NotMeasurable, CoreError) as why:
        said = f"{letters[0]} and {letters[1]}: {str(why).rstrip('.')}."
        return {**place, "key": "", "shown": "", "problem": said, **_NOTHING, "said": said}
    shown = next((p for role in SHOWN for p in patches if p.role == role), None)
    # What crops show depends on where the patch lies: their address says so.
    told = output_key(mine), output_key(theirs), shown.drawn if shown else (), way.value
    cell = hashed((VERSION, "level", *told))
    if shown is not None:
        _keep_crops(cell, shown.rect, pair, found.made)
    return {
        **place,
        "key": cell if shown else "",
        "shown": shown.name if shown else "",
        "problem": "",
        **levelled_told(found),
    }


_NOTHING: dict[str, Any] = {
    **{k: [] for k in ("frequency", "ratio", "fitted", "readings")},
    "method": "",
    "values": {},
    "numbers": {},
}


def _pair(mine: Output, theirs: Output, patches: list[Patch]) -> LevelPair:
    """As they are lined up on the bench, by hand where that was done."""
    drawn = [MeasuredPatch(p.name, p.role, p.rect) for p in patches]
    both = aligned_output(mine), aligned_output(theirs)
    return LevelPair(decoded(mine.frame.picture), *both, truth_of(mine.frame), drawn)


def _keep_crops(cell: str, rect: Rect, pair: LevelPair, made: Picture) -> None:
    """The same place of all three, on the pixels of what was made."""
    one, other = pair.one, pair.other
    across, down = made.width / one.picture.width, made.height / one.picture.height
    middle = one.mapping.rect(rect)
    w, h = min(CROP[0], made.width), min(CROP[1], made.height)
    left = round(across * (middle.x + middle.w / 2) - w / 2)
    top = round(down * (middle.y + middle.h / 2) - h / 2)
    part = Rect(min(max(0, left), made.width - w), min(max(0, top), made.height - h), w, h)
    before = Rect(part.x / across, part.y / down, part.w / across, part.h / down)
    for name, picture, place in (
        ("before", one.picture, before),
        ("made", made, part),
        ("other", other.picture, other.mapping.rect(one.mapping.back(before))),
    ):
        light = resample(picture.pixels, place, w, h, "lanczos")
        evidence.keep_picture(cell, name, srgb.to_display(light))


KIND = InquiryKind("Levels of two contenders", VERSION, check, key, answer)
