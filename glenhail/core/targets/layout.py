"""A target sheet: fields in a grid, four ring marks, and a strip of bars that says
which sheet it is.
"""

from __future__ import annotations

import hashlib
import json
import math
import zlib
from dataclasses import dataclass
from typing import Any

import numpy as np

from glenhail.core.errors import BadRequest
from glenhail.core.measures.landmarks import KnownEdge, Landmarks, Light
from glenhail.core.parameters import Values, checked, in_words
from glenhail.core.picture import Floats, Rect
from glenhail.core.targets import shapes
from glenhail.core.targets.fields import GROUND, KINDS, FieldKind, light_places, square_of

VERSION = 1
LEAST_SIDE, MOST_SIDE, MOST_FIELDS = 400, 12_000, 12
BLUR = (0.3, 5.0)
INK, PAPER = 0.03, 0.85  # of marks and strip
# A mark is a dot in a ring: radii in units of the mark's own, and where it lies off the corner.
DOT, RING, OFF = 0.35, 0.7, 1.9
INSET = 3.9  # of the fields, in the same unit
GAP = 0.8
STRIP_FROM, STRIP_HIGH = 2.4, 1.4  # from a mark's centre on; height
START, END = (1, 0), (0, 1)
ID_BITS, SUM_BITS = 32, 8
CELLS = len(START) + ID_BITS + SUM_BITS + len(END)


@dataclass(frozen=True)
class Field:
    """One field: its kind and values, told by name."""

    kind: FieldKind
    values: Values

    def words(self) -> str:
        """As a reader is told of it."""
        return f"{self.kind.title}: {in_words(self.kind.parameters, self.values)}"


@dataclass(frozen=True)
class Sheet:
    """A sheet of that size in px, every edge in it under a Gaussian of ``blur`` px."""

    width: int
    height: int
    blur: float
    fields: tuple[Field, ...]

    def as_json(self) -> dict[str, Any]:
        """Plain values, which `sheet_of` reads back."""
        fields = [{"kind": f.kind.id, **f.values} for f in self.fields]
        return {
            "version": VERSION,
            "width": self.width,
            "height": self.height,
            "blur": self.blur,
            "fields": fields,
        }

    @property
    def number(self) -> int:
        """The number in the strip, 0 to 2^32 - 1, made from all of the above."""
        digest = hashlib.sha256(json.dumps(self.as_json(), sort_keys=True).encode()).digest()
        return int.from_bytes(digest[:4], "big")

    @property
    def mark(self) -> float:
        """Radius of a ring mark, px."""
        return max(9.0, 0.024 * min(self.width, self.height))

    @property
    def marks(self) -> tuple[tuple[float, float], ...]:
        """Centres of the marks: top left, top right, bottom right, bottom left."""
        off = OFF * self.mark
        return (
            (off, off),
            (self.width - off, off),
            (self.width - off, self.height - off),
            (off, self.height - off),
        )

    @property
    def cells(self) -> list[Rect]:
        """Each field's place, whole px."""
        inset, gap = INSET * self.mark, GAP * self.mark
        wide, high = self.width - 2 * inset, self.height - 2 * inset
        columns = max(1, min(len(self.fields), round(math.sqrt(len(self.fields) * wide / high))))
        rows = math.ceil(len(self.fields) / columns)
        w, h = int((wide - gap * (columns - 1)) / columns), int((high - gap * (rows - 1)) / rows)
        places = (divmod(i, columns) for i in range(len(self.fields)))
        return [
            Rect(round(inset + c * (w + gap)), round(inset + r * (h + gap)), w, h)
            for r, c in places
        ]

    def known(self) -> Landmarks:
        """Its edges and lights, as places beforehand known of a scene."""
        edges, lights = [], []
        for number, (field, cell) in enumerate(zip(self.fields, self.cells, strict=True), 1):
            w, h = int(cell.w), int(cell.h)
            if field.kind.id == "edges":
                square = square_of(field.values, w, h)
                for quarter, side in enumerate(("right", "bottom", "left", "top")):
                    x0, y0, x1, y1 = square.edge(quarter)
                    edges.append(
                        KnownEdge(
                            f"Field {number}, {side} edge",
                            x0 + cell.x,
                            y0 + cell.y,
                            x1 + cell.x,
                            y1 + cell.y,
                        )
                    )
            if field.kind.id == "lights":
                lights += [
                    Light(x + cell.x, y + cell.y, peak)
                    for x, y, peak in light_places(field.values, w, h)
                ]
        return Landmarks(self.width, self.height, tuple(lights), tuple(edges))


def sheet_of(values: Any) -> Sheet:
    """Read a sheet from plain values; what a field does not tell takes its usual value.

    Parameters
    ----------
    values : Any
        Plain values, as JSON has them.

    Raises
    ------
    BadRequest
        If it is none, or a field would be too small; the text names what is wrong and
        lists what is valid.
    """
    fields = values.get("fields") if isinstance(values, dict) else None
    if not isinstance(fields, list) or not 1 <= len(fields) <= MOST_FIELDS:
        raise BadRequest(f"A target has 1 to {MOST_FIELDS} fields.")
    if values.get("version", VERSION) != VERSION:
        raise BadRequest(
            f"This target is of version {values['version']}; version {VERSION} is known here."
        )
    width, height = (values.get(side) for side in ("width", "height"))
    if not all(
        isinstance(v, int) and not isinstance(v, bool) and LEAST_SIDE <= v <= MOST_SIDE
        for v in (width, height)
    ):
        raise BadRequest(
            f"Width and height are whole numbers from {LEAST_SIDE} to {MOST_SIDE:,} px."
        )
    blur = values.get("blur", 0.6)
    if (
        not isinstance(blur, int | float)
        or isinstance(blur, bool)
        or not BLUR[0] <= blur <= BLUR[1]
    ):
        raise BadRequest(f"The blur is a number from {BLUR[0]:g} to {BLUR[1]:g} px.")
    sheet = Sheet(
        int(width), int(height), float(blur), tuple(_field(i, f) for i, f in enumerate(fields, 1))
    )
    for number, (field, cell) in enumerate(zip(sheet.fields, sheet.cells, strict=True), 1):
        if min(cell.w, cell.h) < field.kind.least:
            raise BadRequest(
                f"Field {number}, {field.kind.title}: it would be {cell.w:.0f} × {cell.h:.0f} px"
                f" and needs {field.kind.least} px a side. Make the target larger, or take fields"
                " out."
            )
    return sheet


def _field(number: int, values: Any) -> Field:
    kind = KINDS.get(str(values.get("kind"))) if isinstance(values, dict) else None
    if kind is None:
        raise BadRequest(f"Field {number}: no such kind. Choose among {', '.join(KINDS)}.")
    told = {name: value for name, value in values.items() if name != "kind"}
    return Field(kind, checked(f"Field {number}, {kind.title}", kind.parameters, told))


def strip_bits(number: int) -> list[int]:
    """The strip's cells from left to right, 1 = ink: a start, the sheet's number, its
    check sum, an end.

    Parameters
    ----------
    number : int
        The sheet's number.
    """
    total = zlib.crc32(number.to_bytes(4, "big")) & (2**SUM_BITS - 1)
    bits = [number >> i & 1 for i in reversed(range(ID_BITS))] + [
        total >> i & 1 for i in reversed(range(SUM_BITS))
    ]
    return [*START, *bits, *END]


def number_of(bits: list[int]) -> int | None:
    """The number that such cells tell; None where start, end or check sum do not fit.

    Parameters
    ----------
    bits : list of int
        The strip's cells from left to right, 1 is ink.
    """
    number = int("".join(map(str, bits[len(START) : len(START) + ID_BITS])), 2)
    return number if bits == strip_bits(number) else None


def paint(sheet: Sheet) -> Floats:
    """The sheet in linear light, grey, shape (height, width, 3).

    Parameters
    ----------
    sheet : Sheet
        The target as it was laid out.
    """
    plane = np.full((sheet.height, sheet.width), GROUND, dtype=np.float32)
    for x, y in sheet.marks:
        _paint_mark(plane, x, y, sheet.mark, sheet.blur)
    _paint_strip(plane, sheet)
    for field, cell in zip(sheet.fields, sheet.cells, strict=True):
        w, h = int(cell.w), int(cell.h)
        plane[int(cell.y) : int(cell.y) + h, int(cell.x) : int(cell.x) + w] = paint_field(
            sheet, field, w, h
        )
    return np.repeat(plane[..., None], 3, axis=2)


def paint_field(sheet: Sheet, field: Field, width: int, height: int) -> Floats:
    """One field's plane.

    Parameters
    ----------
    sheet : Sheet
        The target as it was laid out.
    field : Field
        The field.
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    return field.kind.paint(field.values, width, height, sheet.blur)


def _paint_mark(plane: Floats, x: float, y: float, radius: float, sigma: float) -> None:
    reach = math.ceil(radius * 1.35)
    x0, y0 = int(x) - reach, int(y) - reach
    part = plane[y0 : y0 + 2 * reach, x0 : x0 + 2 * reach]
    gy, gx = shapes.grid(part.shape[1], part.shape[0])
    distance = np.hypot(gx + x0 - x, gy + y0 - y)
    for size, value in ((1.0, INK), (RING, PAPER), (DOT, INK)):
        inside = shapes.band(distance, size * radius, sigma)
        part[:] = (part + (value - part) * inside).astype(np.float32)


def _paint_strip(plane: Floats, sheet: Sheet) -> None:
    left, top = sheet.marks[0]
    x0, x1 = left + STRIP_FROM * sheet.mark, sheet.marks[1][0] - STRIP_FROM * sheet.mark
    y0, y1 = round(top - STRIP_HIGH / 2 * sheet.mark), round(top + STRIP_HIGH / 2 * sheet.mark)
    bits = np.array(strip_bits(sheet.number))
    columns = np.arange(math.ceil(x0), math.floor(x1))
    cell = ((columns + 0.5 - x0) / (x1 - x0) * CELLS).astype(int).clip(0, CELLS - 1)
    plane[y0:y1, columns] = np.where(bits[cell] == 1, INK, PAPER)
