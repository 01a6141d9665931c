"""Patches over the fields of a sheet, where it lies in a picture: what a reviewer would
draw on it by hand.
"""

from __future__ import annotations

from glenhail.core.measures.catalogue import Patch
from glenhail.core.parameters import Values
from glenhail.core.picture import Rect
from glenhail.core.targets import fields
from glenhail.core.targets.detection import SheetPose
from glenhail.core.targets.layout import Sheet

LEAST = 16  # px a side
SHADOW = 0.05  # linear: wedge steps darker than this are shadow
SIDES = ("right", "bottom", "left", "top")


def patches_of(sheet: Sheet, lie: SheetPose) -> list[Patch]:
    """Edges, plain steps, texture and lights, each with its role, whole px of the
    picture; what lies too small is left out.

    Parameters
    ----------
    sheet : Sheet
        The target as it was laid out.
    lie : SheetPose
        Where the picture shows it.
    """
    found = []
    for number, (field, cell) in enumerate(zip(sheet.fields, sheet.cells, strict=True), 1):
        for name, role, part in _parts(field.kind.id, field.values, int(cell.w), int(cell.h)):
            rect = lie.inner(Rect(part.x + cell.x, part.y + cell.y, part.w, part.h))
            if min(rect.w, rect.h) >= LEAST:
                found.append(Patch(f"Field {number}, {name}", role, rect))
    return found


def _parts(kind: str, values: Values, w: int, h: int) -> list[tuple[str, str, Rect]]:
    """Name, role and place within the field."""
    if kind == "edges":
        square = fields.square_of(values, w, h)
        return [
            (f"{side} edge", "edge", square.edge_patch(quarter))
            for quarter, side in enumerate(SIDES[:2])
        ]
    if kind == "wedge":
        steps = fields.wedge_steps(values, w, h)
        chosen = sorted({1, len(steps) // 2, len(steps) - 2} & set(range(len(steps))))
        return [
            (
                f"step {i + 1}",
                "shadow" if steps[i][1] < SHADOW else "flat",
                _middle(steps[i][0], 0.7),
            )
            for i in chosen
        ]
    role = "lights" if kind == "lights" else "texture"
    side = min(w, h)
    whole = Rect((w - side) / 2, (h - side) / 2, side, side)
    return [(fields.KINDS[kind].title.lower(), role, _middle(whole, 0.6))]


def _middle(rect: Rect, share: float) -> Rect:
    return Rect(
        rect.x + rect.w * (1 - share) / 2,
        rect.y + rect.h * (1 - share) / 2,
        rect.w * share,
        rect.h * share,
    )
