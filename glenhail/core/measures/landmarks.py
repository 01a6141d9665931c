"""What is known of a scene beforehand: where its lights are and where its edges run."""

from __future__ import annotations

import json
import math
from dataclasses import asdict, dataclass
from typing import Any

from glenhail.core.errors import BadFile

REMEDY = (
    "See docs/operations.md for what the file holds; a scene exported by Glenhail is one to follow."
)
MOST = 10_000  # marks in one file


@dataclass(frozen=True)
class Light:
    """A point of light: its place in px and its linear peak, 1.0 = display white."""

    x: float
    y: float
    peak: float


@dataclass(frozen=True)
class KnownEdge:
    """A straight edge between two places in px."""

    name: str
    x0: float
    y0: float
    x1: float
    y1: float

    @property
    def angle(self) -> float:
        """Degrees off the nearer axis, -45 to 45; positive is clockwise as the picture
        is seen.
        """
        return (math.degrees(math.atan2(self.y1 - self.y0, self.x1 - self.x0)) + 45) % 90 - 45


@dataclass(frozen=True)
class Landmarks:
    """Marks in the pixels of a picture of that size; places lie between pixels, as in
    `picture.Rect`.
    """

    width: int
    height: int
    lights: tuple[Light, ...] = ()
    edges: tuple[KnownEdge, ...] = ()

    def sized(self, width: int, height: int) -> Landmarks:
        """The same marks in a picture of another size of the same scene."""
        sx, sy = width / self.width, height / self.height
        lights = tuple(Light(p.x * sx, p.y * sy, p.peak) for p in self.lights)
        edges = tuple(
            KnownEdge(e.name, e.x0 * sx, e.y0 * sy, e.x1 * sx, e.y1 * sy) for e in self.edges
        )
        return Landmarks(width, height, lights, edges)

    def as_json(self) -> dict[str, Any]:
        """As plain values, which `read_known` reads back."""
        return {
            "width": self.width,
            "height": self.height,
            "lights": [asdict(p) for p in self.lights],
            "edges": [asdict(e) for e in self.edges],
        }


def read_known(raw: bytes, name: str) -> Landmarks:
    """Read marks from JSON.

    Parameters
    ----------
    raw : bytes
        The whole file.
    name : str
        By which it is known.

    Raises
    ------
    BadFile
        If it is no such file, a mark lies outside the picture, or an edge has no
        length.
    """
    try:
        return known_of(json.loads(raw.decode("utf-8")))
    except (ValueError, TypeError, KeyError, AttributeError, RecursionError) as error:
        what = (
            f"{error.args[0]} is missing"
            if isinstance(error, KeyError)
            else str(error) or "not what was expected"
        )
        raise BadFile(name, f"no lights and edges could be read from it: {what}", REMEDY) from error


def known_of(values: dict[str, Any]) -> Landmarks:
    """From plain values.

    Parameters
    ----------
    values : dict
        Plain values, as JSON has them.

    Raises
    ------
    ValueError, TypeError, KeyError
        If they are not what `Landmarks.as_json` gives.
    """
    size = int(values["width"]), int(values["height"])
    lights, edges = values.get("lights", []), values.get("edges", [])
    if min(size) < 1 or len(lights) + len(edges) > MOST:
        raise ValueError(f"a picture of at least 1 × 1 px with at most {MOST:,} marks is wanted")
    known = Landmarks(
        *size,
        tuple(Light(*(_number(p[k]) for k in ("x", "y", "peak"))) for p in lights),
        tuple(
            KnownEdge(str(e["name"])[:80], *(_number(e[k]) for k in ("x0", "y0", "x1", "y1")))
            for e in edges
        ),
    )
    _check_places(known)
    return known


def _number(value: object) -> float:
    number = float(value)  # type: ignore[arg-type]
    if not math.isfinite(number):
        raise ValueError(f"{value} is no number")
    return number


def _check_places(known: Landmarks) -> None:
    places = [(p.x, p.y) for p in known.lights] + [
        q for e in known.edges for q in ((e.x0, e.y0), (e.x1, e.y1))
    ]
    for x, y in places:
        if not (0 <= x <= known.width and 0 <= y <= known.height):
            raise ValueError(
                f"the mark at {x:g}, {y:g} lies outside the picture of {known.width} ×"
                f" {known.height} px"
            )
    for edge in known.edges:
        if (edge.x0, edge.y0) == (edge.x1, edge.y1):
            raise ValueError(f"the edge {edge.name} has no length")
