"""A bench's own uses, checked."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from glenhail.core.errors import BadRequest
from glenhail.core.uses.table import Use

#: The least and the most of each number, with its unit in words.
BOUNDS: dict[str, tuple[float, float, str]] = {
    "width": (16, 16000, "px"),
    "height": (16, 16000, "px"),
    "jpeg": (1, 100, "of quality"),
    "ppi": (20, 2400, "ppi"),
    "distance_cm": (5, 2000, "cm"),
    "part": (0.02, 1, "of the sides"),
}
WHOLE = ("width", "height", "jpeg")
MOST_PIXELS = 120_000_000


def own_use(key: str, told: Mapping[str, Any]) -> Use:
    """A use out of what somebody entered.

    Parameters
    ----------
    key : str
        Its id.
    told : Mapping
        name, width, height, enlarge, jpeg (None without), ppi, distance_cm, part.

    Raises
    ------
    BadRequest
        If it has no name, or a number makes no sense.
    """
    name = str(told.get("name", "")).strip()
    if not name:
        raise BadRequest("A use needs a name, such as “poster, 60 cm”.")
    values = {
        field: None if field == "jpeg" and told.get(field) is None else _within(field, told)
        for field in BOUNDS
    }
    width, height = int(values["width"] or 0), int(values["height"] or 0)
    if width * height > MOST_PIXELS:
        raise BadRequest(
            f"{name}: {width:,} × {height:,} px are more than {MOST_PIXELS // 10**6} MP. Choose a"
            " smaller size."
        )
    jpeg = None if values["jpeg"] is None else int(values["jpeg"])
    ppi, distance, part = (float(values[f] or 0) for f in ("ppi", "distance_cm", "part"))
    return Use(
        key, name, width, height, bool(told.get("enlarge", False)), jpeg, ppi, distance, part
    )


def _within(field: str, told: Mapping[str, Any]) -> float:
    least, most, unit = BOUNDS[field]
    value = told.get(field)
    if isinstance(value, bool) or not isinstance(value, int | float) or not least <= value <= most:
        raise BadRequest(f"{field.replace('_cm', '')} is {least:g} to {most:g} {unit}.")
    if field in WHOLE and value != int(value):
        raise BadRequest(f"{field} is a whole number.")
    return float(value)
