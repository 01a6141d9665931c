"""A bench's own uses, and those that documents keep, checked."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from glenhail.core.errors import BadRequest
from glenhail.core.uses.table import Use, video_at

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
MOST_MBIT = 1000.0
LONGEST_NAME = 80


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
    if len(name) > LONGEST_NAME:
        raise BadRequest(f"The name of a use has at most {LONGEST_NAME} characters.")
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


def kept_use(told: Mapping[str, Any]) -> Use:
    """A use as a document keeps it: all that its picture is made by.

    Parameters
    ----------
    told : Mapping
        The fields of a `Use`.

    Raises
    ------
    BadRequest
        If it is none that a picture can be seen in.
    """
    key, mbit = str(told.get("id", "")), told.get("video_mbit")
    if mbit is None:
        return own_use(key, told)
    if isinstance(mbit, bool) or not isinstance(mbit, int | float) or not 0 < mbit <= MOST_MBIT:
        raise BadRequest(f"A video has at most {MOST_MBIT:g} Mbit/s, and more than none.")
    return video_at(mbit)


def _within(field: str, told: Mapping[str, Any]) -> float:
    least, most, unit = BOUNDS[field]
    value = told.get(field)
    if isinstance(value, bool) or not isinstance(value, int | float) or not least <= value <= most:
        raise BadRequest(f"{field.replace('_cm', '')} is {least:g} to {most:g} {unit}.")
    if field in WHOLE and value != int(value):
        raise BadRequest(f"{field} is a whole number.")
    return float(value)
