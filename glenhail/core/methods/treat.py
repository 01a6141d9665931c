"""Treating a picture with a built-in method, in bands of rows, so that its size costs
time but little memory.

Each band is worked on together with as many rows around it as its pixels see, and only
its own rows are kept: the result does not depend on where the bands begin (but for
rounding, well under half a 16-bit code).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from glenhail.core.errors import BadRequest
from glenhail.core.files.encoding import STRIP
from glenhail.core.filters.resample import resample
from glenhail.core.methods.catalogue import method_of
from glenhail.core.methods.method import Measured, Method, put_together, take_apart
from glenhail.core.parallel import in_order
from glenhail.core.parameters import Values, checked
from glenhail.core.picture import Floats, Rect

# Pixels of a band, without what is around it.
BAND_PIXELS = 2_000_000

Tell = Callable[[float], None]


@dataclass(frozen=True)
class Part:
    """A part of the picture, in per cent of its width and height from the top left
    corner.
    """

    x: float
    y: float
    w: float
    h: float

    def rows_and_columns(self, height: int, width: int) -> tuple[int, int, int, int]:
        """First and end row, first and end column, whole pixels."""
        top, left = round(self.y / 100 * height), round(self.x / 100 * width)
        return (
            top,
            round((self.y + self.h) / 100 * height),
            left,
            round((self.x + self.w) / 100 * width),
        )


@dataclass(frozen=True)
class Processing:
    """A method with everything it needs to know, on one picture."""

    method: Method
    values: Values
    measured: Measured
    strength: float
    part: Part | None


def size_after(name: str, values: Mapping[str, Any], height: int, width: int) -> tuple[int, int]:
    """Height and width of what a method makes of a picture of that size.

    Parameters
    ----------
    name : str
        By which it is known.
    values : Mapping
        Plain values by name.
    height : int
        Pixels down, at least 1.
    width : int
        Pixels across, at least 1.
    """
    method = method_of(name)
    scale = method.scale(checked(method.title, method.parameters, values))
    return (
        (height, width)
        if scale == 1
        else (max(1, round(height * scale)), max(1, round(width * scale)))
    )


def bands(
    linear: Floats,
    name: str,
    values: Mapping[str, Any],
    strength: float = 100,
    part: Part | None = None,
    rows: int | None = None,
) -> Iterator[Floats]:
    """What a method makes of a picture, in bands of full width from the top down.

    Parameters
    ----------
    linear : ndarray of float32, shape (h, w, 3)
    name, values
        A method's id, and values for its parameters; those not told take their usual
        value.
    strength : float
        Per cent of the way from the picture to what the method makes of it, in the
        planes that it works on.
    part : Part or None
        What lies outside of it stays as it was.
    rows : int or None
        Rows of a band; chosen by the picture's width where None.

    Raises
    ------
    BadRequest
        If the method or a value is unknown, or a method that resizes is asked for a
        strength or a part.
    """
    method = method_of(name)
    told = checked(method.title, method.parameters, values)
    if method.work is None:
        if strength != 100 or part is not None:
            raise BadRequest(
                f"{method.title}: it changes the size, so that it has no strength, and no part to"
                " be kept to."
            )
        yield from _resized(linear, method, told, rows)
        return
    work = Processing(method, told, method.measure(linear, told), strength / 100, part)
    height, width = linear.shape[:2]
    step = rows or max(STRIP, BAND_PIXELS // width // STRIP * STRIP)
    yield from in_order(
        lambda a: _band(linear, work, a, min(height, a + step)), range(0, height, step)
    )


def treat(
    linear: Floats,
    name: str,
    values: Mapping[str, Any],
    tell: Tell = lambda share: None,
    **how: Any,
) -> Floats:
    """All `bands` in one picture; `tell` hears what share of it is done.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    name : str
        By which it is known.
    values : Mapping
        Plain values by name.
    tell : callable
        Hears what share is done, 0..1.
    """
    height, width = size_after(name, values, *linear.shape[:2])
    made = np.empty((height, width, 3), dtype=np.float32)
    done = 0
    for band in bands(linear, name, values, **how):
        made[done : done + band.shape[0]] = band
        done += band.shape[0]
        tell(done / height)
    return made


def _band(linear: Floats, work: Processing, first: int, end: int) -> Floats:
    method = work.method
    assert method.work is not None
    reach, align = method.reach(work.values, work.measured), method.align(work.values)
    top = max(0, first - reach) // align * align
    around = linear[top : min(linear.shape[0], end + reach)]
    domain = method.domain(work.values)
    planes = take_apart(around, domain)
    for i, plane in enumerate(planes):
        made = method.work(plane, i, work.values, work.measured)
        planes[i] = _blended(
            plane[first - top : end - top], made[first - top : end - top], work.strength
        )
    treated = put_together(planes, domain)
    return treated if work.part is None else _only_part(linear, treated, work.part, first, end)


def _blended(given: Floats, made: Floats, strength: float) -> Floats:
    return (
        np.ascontiguousarray(made)
        if strength == 1
        else np.asarray(given + np.float32(strength) * (made - given))
    )


def _only_part(linear: Floats, treated: Floats, part: Part, first: int, end: int) -> Floats:
    top, bottom, left, right = part.rows_and_columns(*linear.shape[:2])
    whole = linear[first:end].copy()
    inside = slice(max(0, top - first), max(0, bottom - first)), slice(left, right)
    whole[inside] = treated[inside]
    return whole


def _resized(linear: Floats, method: Method, values: Values, rows: int | None) -> Iterator[Floats]:
    height, width = linear.shape[:2]
    new_height, new_width = size_after(method.id, values, height, width)
    step = rows or max(STRIP, BAND_PIXELS // new_width // STRIP * STRIP)
    per_row = height / new_height

    def band(first: int) -> Floats:
        count = min(step, new_height - first)
        return resample(
            linear, Rect(0, first * per_row, width, count * per_row), new_width, count, method.id
        )

    yield from in_order(band, range(0, new_height, step))
