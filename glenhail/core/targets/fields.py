"""The fields a target sheet is made of: one visible table, and for each a painter."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from glenhail.core.errors import BadRequest
from glenhail.core.parameters import Number, Values
from glenhail.core.picture import Floats, Rect
from glenhail.core.targets import shapes

GROUND = 0.42  # linear; between the darkest and the lightest that a print holds
Painter = Callable[[Values, int, int, float], Floats]


@dataclass(frozen=True)
class FieldKind:
    """What a field is called, what it shows, what it asks for;

    ``least`` is the smallest side in px it can be painted at.
    """

    id: str
    title: str
    does: str
    parameters: tuple[Number, ...]
    paint: Painter
    least: int


def _number(values: Values, name: str) -> float:
    return float(values[name])


def square_of(p: Values, width: int, height: int) -> shapes.Square:
    """The slanted square of an edges field.

    Parameters
    ----------
    p : Mapping
        The field's parameters by name, checked.
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    angle = _number(p, "angle")
    side = (
        0.62 * min(width, height) / (math.cos(math.radians(angle)) + math.sin(math.radians(angle)))
    )
    return shapes.Square(
        width / 2, height / 2, side * 1.1, angle, _number(p, "dark"), _number(p, "light")
    )


def _edges(p: Values, width: int, height: int, sigma: float) -> Floats:
    return shapes.square(width, height, square_of(p, width, height), sigma)


def _leaves(p: Values, width: int, height: int, sigma: float) -> Floats:
    low, high = _number(p, "low"), _number(p, "high")
    smallest, largest = _number(p, "smallest"), _number(p, "largest")
    if largest <= smallest or high <= low:
        raise BadRequest(
            "Dead leaves: the largest leaf and the lightest grey lie above the smallest and the"
            " darkest."
        )
    return shapes.leaves(
        width,
        height,
        smallest,
        min(largest, min(width, height) / 4),
        low,
        high,
        int(p["seed"]),
        sigma,
    )


def star_radius(width: int, height: int) -> float:
    """Of the star in a field of that size.

    Parameters
    ----------
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    return 0.46 * min(width, height)


def _star(p: Values, width: int, height: int, sigma: float) -> Floats:
    radius = star_radius(width, height)
    return shapes.star(
        width, height, radius, int(p["spokes"]), _number(p, "low"), _number(p, "high"), sigma
    )


def wedge_steps(p: Values, width: int, height: int) -> list[tuple[Rect, float]]:
    """Each step's place and linear luminance, the lightest first, in rows.

    Parameters
    ----------
    p : Mapping
        The field's parameters by name, checked.
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    count = int(p["steps"])
    columns = min(count, max(1, round(math.sqrt(count * width / height))))
    rows = math.ceil(count / columns)
    found = []
    for i in range(count):
        row, column = divmod(i, columns)
        x0, x1 = round(width * column / columns), round(width * (column + 1) / columns)
        y0, y1 = round(height * row / rows), round(height * (row + 1) / rows)
        found.append(
            (
                Rect(x0, y0, x1 - x0, y1 - y0),
                _number(p, "white") * 2 ** (_number(p, "reach") * i / (count - 1)),
            )
        )
    return found


def _wedge(p: Values, width: int, height: int, sigma: float) -> Floats:
    plane = np.full((height, width), GROUND, dtype=np.float32)
    for rect, light in wedge_steps(p, width, height):
        plane[int(rect.y) : int(rect.y + rect.h), int(rect.x) : int(rect.x + rect.w)] = light
    return plane


def line_groups(p: Values, width: int, height: int) -> list[tuple[Rect, float, bool]]:
    """Each group's place, frequency in cycles/px and whether its lines stand upright;
    coarse to fine.

    Parameters
    ----------
    p : Mapping
        The field's parameters by name, checked.
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    count = int(p["groups"])
    coarse, fine = _number(p, "coarse"), _number(p, "fine")
    found = []
    for upright in (True, False):
        top = 0 if upright else height // 2
        for i in range(count):
            x0, x1 = round(width * i / count), round(width * (i + 1) / count)
            frequency = coarse * (fine / coarse) ** (i / (count - 1))
            found.append((Rect(x0 + 2, top + 2, x1 - x0 - 4, height // 2 - 4), frequency, upright))
    return found


def _lines(p: Values, width: int, height: int, sigma: float) -> Floats:
    plane = np.full((height, width), GROUND, dtype=np.float32)
    low, high = _number(p, "low"), _number(p, "high")
    for rect, frequency, upright in line_groups(p, width, height):
        w, h = int(rect.w), int(rect.h)
        y, x = shapes.grid(w, h)
        wave = shapes.bars(x if upright else y, frequency, sigma)
        plane[int(rect.y) : int(rect.y) + h, int(rect.x) : int(rect.x) + w] = (low + high) / 2 + (
            high - low
        ) / 2 * wave
    return plane


def light_places(p: Values, width: int, height: int) -> list[tuple[float, float, float]]:
    """Each light's x, y and linear peak above the ground: rows grow fainter, places
    fall between pixels differently each time.

    Parameters
    ----------
    p : Mapping
        The field's parameters by name, checked.
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    spacing = _number(p, "spacing")
    columns, rows = max(1, int(width / spacing)), max(1, int(height / spacing))
    rng = np.random.default_rng(int(p["seed"]))
    found = []
    for row in range(rows):
        peak = _number(p, "peak") * 2 ** (-_number(p, "fall") * row / max(1, rows - 1))
        for column in range(columns):
            dx, dy = rng.uniform(-0.5, 0.5, 2)
            found.append(
                ((column + 0.5) * width / columns + dx, (row + 0.5) * height / rows + dy, peak)
            )
    return found


def _lights(p: Values, width: int, height: int, sigma: float) -> Floats:
    return shapes.points(
        width, height, light_places(p, width, height), _number(p, "ground"), max(sigma, 0.5)
    )


def _dark(usual: float) -> Number:
    return Number("low", "darkest", "of white", 0.002, 0.95, usual)


def _light(usual: float) -> Number:
    return Number("high", "lightest", "of white", 0.01, 1.0, usual)


def _seed() -> Number:
    return Number("seed", "seed", "", 0, 4294967295, 1, whole=True)


KINDS = {
    kind.id: kind
    for kind in (
        FieldKind(
            "edges",
            "Slanted edges",
            "a turned square: four edges for the MTF (ISO 12233)",
            (
                Number("angle", "angle", "°", 2, 20, 5),
                Number("dark", "square", "of white", 0.002, 0.9, 0.05),
                Number("light", "ground", "of white", 0.01, 1.0, 0.75),
            ),
            _edges,
            90,
        ),
        FieldKind(
            "leaves",
            "Dead leaves",
            "texture that looks the same at every scale (Cao et al. 2009)",
            (
                Number("smallest", "smallest leaf", "px", 0.5, 20, 1.5),
                Number("largest", "largest leaf", "px", 4, 400, 60),
                _dark(0.1),
                _light(0.7),
                _seed(),
            ),
            _leaves,
            128,
        ),
        FieldKind(
            "star",
            "Siemens star",
            "sine spokes: sharpness in every direction (ISO 12233, annex E)",
            (Number("spokes", "spokes", "", 8, 200, 48, whole=True), _dark(0.08), _light(0.75)),
            _star,
            90,
        ),
        FieldKind(
            "wedge",
            "Step wedge",
            "plain steps from white down: tone, noise and range",
            (
                Number("steps", "steps", "", 3, 24, 12, whole=True),
                Number("white", "lightest", "of white", 0.1, 1.0, 0.9),
                Number("reach", "darkest", "EV", -14, -1, -8),
            ),
            _wedge,
            60,
        ),
        FieldKind(
            "lines",
            "Fine lines",
            "groups of bars, coarse to fine, both ways",
            (
                Number("groups", "groups", "", 3, 12, 6, whole=True),
                Number("coarse", "coarsest", "cycles/px", 0.02, 0.3, 0.06),
                Number("fine", "finest", "cycles/px", 0.05, 0.48, 0.4),
                _dark(0.08),
                _light(0.75),
            ),
            _lines,
            120,
        ),
        FieldKind(
            "lights",
            "Points of light",
            "small lights on a dark ground, fainter from row to row",
            (
                Number("spacing", "apart", "px", 12, 200, 32),
                Number("peak", "brightest", "of white", 0.05, 4.0, 0.9),
                Number("fall", "fainter by", "EV", 0, 8, 4),
                Number("ground", "ground", "of white", 0.0, 0.5, 0.01),
                _seed(),
            ),
            _lights,
            60,
        ),
    )
}
