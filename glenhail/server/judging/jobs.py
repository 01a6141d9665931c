"""Freezing what a sitting shows: cut, brought to one size and one length, and kept."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Any

import numpy as np
from django.db import transaction

from glenhail.core.colour import srgb
from glenhail.core.files.contact_sheet import magnified
from glenhail.core.files.encoding import png_bytes
from glenhail.core.files.padding import of_one_length
from glenhail.core.judging.setup import BESIDE, shown_part
from glenhail.core.looking.shown import Showing
from glenhail.core.picture import Rect
from glenhail.core.tone.matching import at_exposure
from glenhail.server.common.errors import Conflict
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.judging.actions.sittings import JOB
from glenhail.server.judging.models import Sitting, SittingCrop, SittingState
from glenhail.server.material.decoded import decoded
from glenhail.server.measuring.queries import tones_of
from glenhail.server.outputs.models import Output
from glenhail.server.storage.files import keep
from glenhail.server.studies.uses import find_use
from glenhail.server.viewing.shots import Codes, Shot, shot_of


def not_frozen(arguments: dict[str, Any], problem: str) -> None:
    """A sitting that could not be prepared says why."""
    waiting = Sitting.objects.filter(pk=arguments["sitting"], state=SittingState.PREPARING)
    waiting.update(state=SittingState.FAILED, problem=(problem or "Cancelled.")[:300])


@does(JOB, settle=not_frozen)
def freeze(progress: Progress, arguments: dict[str, Any]) -> None:
    """Cut and keep every crop, then open the sitting."""
    sitting = Sitting.objects.select_related("study__bench").filter(pk=arguments["sitting"]).first()
    if sitting is None or sitting.state in (SittingState.OPEN, SittingState.CLOSED):
        return
    drawn: dict[tuple[int, str], Codes] = {}
    for at, spot in enumerate(sitting.spots):
        progress.tell(0.9 * at / len(sitting.spots), f"cutting {spot['name']}")
        drawn |= {(at, letter): codes for letter, codes in _drawn(sitting, spot).items()}
    pngs = of_one_length([png_bytes(codes, level=6) for codes in drawn.values()])
    rows = []
    for ((at, letter), codes), png in zip(drawn.items(), pngs, strict=True):
        file = keep(io.BytesIO(png), f"crop {letter} of sitting {sitting.number}")
        height, width = codes.shape[:2]
        rows.append(
            SittingCrop(
                sitting=sitting, spot=at, letter=letter, file=file, width=width, height=height
            )
        )
    with progress.settling(), transaction.atomic():
        sitting.crops.all().delete()
        SittingCrop.objects.bulk_create(rows)
        Sitting.objects.filter(pk=sitting.pk).update(state=SittingState.OPEN, problem="")


def _drawn(sitting: Sitting, spot: dict[str, Any]) -> dict[str, Codes]:
    """Everybody's picture of one spot, all of one size: as many screen pixels."""
    told, rect = sitting.showing, Rect(*spot["rect"])
    use = find_use(sitting.study.bench, told["use"]) if told["use"] else None
    centre = _centre(rect, spot, sitting)
    showing = Showing(use=use, centre=centre) if use else Showing()
    outputs = _outputs(sitting, spot["frame"], told["letters"])
    shots = [shot_of(output, showing) for output in outputs]
    room = (spot.get("room") or BESIDE)[0], (spot.get("room") or BESIDE)[1]
    # Pixels of the screen for each of the frame's.
    scale = told["zoom"] * (shots[0].place(rect).w / rect.w if use else 1.0)
    if spot["patch"] is None:
        scale = min(scale, room[0] / rect.w, room[1] / rect.h)
    part = shown_part(rect, scale, room)
    size = max(1, round(part.w * scale)), max(1, round(part.h * scale))
    tones = tones_of(outputs) if told["matched"] else {}
    return {
        shot.letter: _sized(shot, output, part, size, (tones.get(output.pk) or {}).get("stops"))
        for shot, output in zip(shots, outputs, strict=True)
    }


def _centre(rect: Rect, spot: dict[str, Any], sitting: Sitting) -> tuple[float, float]:
    """Where a use that shows a part looks: at the spot."""
    frame = sitting.study.study_frames.get(frame_id=spot["frame"]).frame.picture
    return (rect.x + rect.w / 2) / frame.width, (rect.y + rect.h / 2) / frame.height


def _outputs(sitting: Sitting, frame: int, letters: Sequence[str]) -> list[Output]:
    rows = Output.objects.filter(contender__study=sitting.study, frame_id=frame)
    related = rows.select_related("contender__study", "picture__file", "frame__picture__file")
    by = {o.contender.letter: o for o in related if o.picture is not None}
    gone = [letter for letter in letters if letter not in by]
    if gone:
        raise Conflict(f"{', '.join(gone)}: an output that it shows was removed meanwhile.")
    return [by[letter] for letter in letters]


def _sized(
    shot: Shot, output: Output, part: Rect, size: tuple[int, int], stops: float | None
) -> Codes:
    """A spot of one output at a size: pixels stay pixels where they are enlarged."""
    target = shot.place(part)
    outer = target.outer().clipped(shot.bounds)
    codes = _matched(output, outer, stops) if stops else shot.codes(outer)
    box = Rect(target.x - outer.x, target.y - outer.y, target.w, target.h)
    return np.asarray(magnified(codes, box, *size), dtype=np.uint8)


def _matched(output: Output, part: Rect, stops: float) -> Codes:
    """As the eye is shown it, brought to its frame's brightness."""
    assert output.picture is not None
    light = at_exposure(decoded(output.picture).crop(part), stops)
    return np.asarray(srgb.to_display(light), dtype=np.uint8)
