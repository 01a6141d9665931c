"""Looking for a target in a frame, and measuring it there."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.targets.detection import SheetPose, find
from glenhail.core.targets.layout import Sheet, sheet_of
from glenhail.core.targets.measuring import VERSION, read_sheet
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Finding, Frame, PictureState, Target


@does("find target")
def detect_target(progress: Progress, arguments: dict[str, Any]) -> None:
    """Find the bench's target in a frame and measure its fields; where there is none
    any more, forget it.
    """
    frame = Frame.objects.select_related("picture__file").filter(pk=arguments["frame"]).first()
    if frame is None or frame.picture.state != PictureState.READY:
        return
    progress.tell(0.1, "looking for its marks")
    picture = decoded(frame.picture)
    found = find(srgb.luminance(picture.pixels))
    target = (
        Target.objects.filter(bench=frame.bench_id, number=found.number).first() if found else None
    )
    if found is None or target is None:
        Finding.objects.filter(frame=frame).delete()
        return
    progress.tell(0.4, f"measuring {target}")
    sheet = sheet_of(target.sheet)
    lie = found.lie(sheet)
    fields: dict[str, Any] = {
        "target": target,
        "corners": _corners(sheet, lie),
        "turn": lie.turn,
        "version": VERSION,
    }
    fields["scale"] = lie.scale(sheet.cells[0])
    fields |= {"readings": [], "curves": [], "reason": ""}
    try:
        told = read_sheet(picture, sheet, lie)
        fields |= {
            "readings": [r.as_json() for r in told.readings],
            "curves": [asdict(c) for c in told.curves],
        }
    except NotMeasurable as why:
        fields["reason"] = str(why)
    Finding.objects.update_or_create(frame=frame, defaults=fields)


def _corners(sheet: Sheet, lie: SheetPose) -> list[list[float]]:
    x, y = lie.to_picture(
        np.array([0.0, sheet.width, sheet.width, 0.0]),
        np.array([0.0, 0.0, sheet.height, sheet.height]),
    )
    return [[round(float(a), 2), round(float(b), 2)] for a, b in zip(x, y, strict=True)]
