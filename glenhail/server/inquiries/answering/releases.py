"""Release against release: what changed on every frame, by every measure, in speed."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from glenhail.core.answers.succession import SUCCEEDED, succession, succession_words
from glenhail.core.errors import CoreError
from glenhail.core.execution.timing import spread_told
from glenhail.core.measures.catalogue import MEASURES
from glenhail.core.releases.changes import change_told, picture_change
from glenhail.core.releases.recognised import release_pairs
from glenhail.core.releases.said import changes_said, speed_said
from glenhail.core.releases.shown import change_shown
from glenhail.server.common.errors import ActionError
from glenhail.server.inquiries import evidence
from glenhail.server.inquiries.answering.order import contenders_by_letter
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
from glenhail.server.measuring.answers import board_of
from glenhail.server.outputs.costs import costs
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Contender, Study

VERSION = "2"
PICTURES = ("map", "earlier", "later")


def subject_of(earlier: Contender, later: Contender) -> str:
    """Which two releases."""
    return f"{earlier.pk} {later.pk}"


def pairs_of(study: Study) -> list[tuple[str, str]]:
    """Letters of earlier and later: those that were entered to follow another, and
    treatments that differ in nothing but their releases.
    """
    entered = contenders_by_letter(study)
    letters = {c.pk: letter for letter, c in entered.items()}
    follow = [
        (letters[c.follows_id], letter)
        for letter, c in entered.items()
        if c.follows_id is not None and c.follows_id in letters
    ]
    told = {letter: c.treatment.told for letter, c in entered.items() if c.treatment}
    return list(dict.fromkeys([*follow, *release_pairs(told)]))


def check(study: Study, subject: str) -> None:
    """Both are treatments with an output of one frame."""
    earlier, later = contender_pair(study, subject.split())
    if earlier.pk == later.pk or not (earlier.treatment and later.treatment):
        raise ActionError("Choose two treatments: of the earlier release, and of the later one.")
    if not any(output_pairs(study, earlier, later)):
        raise ActionError(
            f"No frame has an output of {earlier.letter} and one of {later.letter} yet. Bring them"
            " in first."
        )


def key(study: Study, subject: str) -> str:
    """By which one knows whether an answer is of now."""
    both = contender_pair(study, subject.split())
    letters = [c.letter for c in both]
    cells = [c for c in cell_keys(cells_of_frames(study)) if c[0] in letters]
    readings = [
        (where, [row[k].taken.value if k in row else None for k in letters])
        for where, row in sorted(board_of(study).cells.items())
        if where[0] in SUCCEEDED
    ]
    return hashed((VERSION, letters, cells, readings, _costs(study, both)))


def answer(progress: Progress, study: Study, subject: str, before: Found | None) -> Found:
    """Hold both against each other on every frame; pairs that are what they were before
    are not looked at again.
    """
    earlier, later = contender_pair(study, subject.split())
    names = earlier.letter, later.letter
    known = {cell["key"]: cell for cell in (before or {}).get("cells", ())}
    pairs, cells = list(output_pairs(study, earlier, later)), []
    for done, (one, two) in enumerate(pairs):
        progress.tell(done / len(pairs), f"comparing {one.frame.name}")
        cells.append(_cell(one, two, known))
    cells.sort(key=lambda cell: (bool(cell["problem"]), -cell["rms"]))
    evidence.bound_pictures()
    measured = succession(board_of(study), later.letter, earlier.letter)
    costing = _costs(study, (earlier, later))
    told = [(c["name"], change_told(c)) for c in cells if not c["problem"]]
    seconds = [spread_told(cost and cost["seconds"]) for cost in costing]
    runs = min(cost["runs"] if cost else 0 for cost in costing)
    speed = speed_said(seconds[0], seconds[1], runs, names)
    return {
        "version": VERSION,
        "earlier": names[0],
        "later": names[1],
        "cells": cells,
        "rows": [{**asdict(m), "title": MEASURES[m.measure].name} for m in measured],
        "costs": costing,
        "said": [w for w in (changes_said(told, names), succession_words(measured), speed) if w],
    }


def _cell(one: Output, two: Output, known: dict[str, Any]) -> dict[str, Any]:
    cell_key = hashed((VERSION, "releases", output_key(one), output_key(two)))
    place = {"frame": one.frame_id, "name": one.frame.name, "key": cell_key}
    kept = known.get(cell_key)
    if kept is not None and not kept["problem"] and evidence.is_kept(cell_key, PICTURES[0]):
        return {**kept, **place}
    try:
        maps = picture_change(aligned_output(one), aligned_output(two))
    except CoreError as why:
        return {**place, **_NOTHING, "problem": str(why)}
    shown = change_shown(maps)
    for name in PICTURES:
        evidence.keep_picture(cell_key, name, getattr(shown, name))
    told = asdict(maps.told)
    return {**place, **{k: told[k] for k in _NOTHING}, "problem": ""}


_NOTHING: dict[str, Any] = {
    **dict.fromkeys(("changed", "rms", "most", "moved"), 0.0),
    "same": False,
    "sizes": None,
}


def _costs(study: Study, both: tuple[Contender, Contender]) -> list[dict[str, Any] | None]:
    """Seconds a megapixel and bytes of an output, of each; None where nothing was
    timed.
    """
    timed = {cost.contender.pk: cost for cost in costs(study)}
    return [
        {
            "seconds": cost.speed.per_megapixel and asdict(cost.speed.per_megapixel),
            "size": cost.size and asdict(cost.size),
            "by_hand": cost.told_by_hand,
            "runs": cost.speed.runs,
        }
        if (cost := timed.get(c.pk))
        else None
        for c in both
    ]


KIND = InquiryKind("Release against release", VERSION, check, key, answer)
