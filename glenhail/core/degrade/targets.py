"""Painted test targets whose truth is known by construction."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from scipy.special import erf

from glenhail.core.picture import Floats, Rect


@dataclass(frozen=True)
class Square:
    """A dark square turned by an angle on a lighter ground: four slanted edges.

    ``x``, ``y`` centre and ``side`` in px, ``angle`` in degrees, ``dark`` and ``light`` linear.
    """

    x: float
    y: float
    side: float
    angle: float
    dark: float
    light: float

    def right_edge(self) -> tuple[float, float, float, float]:
        """Both ends of the right-hand edge: x0, y0, x1, y1."""
        c, s = math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))
        half = self.side / 2
        (x0, y0), (x1, y1) = ((self.x + half * c - v * s, self.y + half * s + v * c) for v in (-half, half))
        return x0, y0, x1, y1

    def edge_patch(self, width: float = 96, height: float = 160) -> Rect:
        """A patch over the right-hand edge."""
        at = self.x + self.side / 2 * math.cos(math.radians(self.angle))
        y = self.y + self.side / 2 * math.sin(math.radians(self.angle))
        return Rect(round(at - width / 2), round(y - height / 2), width, height)


def paint_square(canvas: Floats, square: Square, sigma: float) -> None:
    """Paint a square with edges blurred by a Gaussian of `sigma` px: exact along each edge, in place."""
    reach = square.side * 0.75 + 4 * sigma
    y0, y1 = max(0, int(square.y - reach)), min(canvas.shape[0], int(square.y + reach))
    x0, x1 = max(0, int(square.x - reach)), min(canvas.shape[1], int(square.x + reach))
    y, x = np.mgrid[y0:y1, x0:x1] + 0.5
    turn = math.radians(square.angle)
    u = (x - square.x) * math.cos(turn) + (y - square.y) * math.sin(turn)
    v = -(x - square.x) * math.sin(turn) + (y - square.y) * math.cos(turn)
    inside = _band(u, square.side / 2, sigma) * _band(v, square.side / 2, sigma)
    value = square.light + (square.dark - square.light) * inside
    canvas[y0:y1, x0:x1] = value[..., None].astype(np.float32)


def _band(at: np.ndarray, half: float, sigma: float) -> np.ndarray:
    """A box of half-width `half` under a Gaussian: a separable, exact blur of a square."""
    root = sigma * math.sqrt(2)
    return np.asarray(0.5 * (erf((at + half) / root) - erf((at - half) / root)))


def paint_wedge(canvas: Floats, rect: Rect, steps: int, darkest_stop: float) -> list[Rect]:
    """Paint a row of plain fields from white down to `darkest_stop` EV below it; returns their places."""
    width = rect.w / steps
    fields = [Rect(round(rect.x + i * width), rect.y, round(width), rect.h) for i in range(steps)]
    for i, field in enumerate(fields):
        value = 0.9 * 2 ** (darkest_stop * i / (steps - 1))
        x, y = int(field.x), int(field.y)
        canvas[y : y + int(field.h), x : x + int(field.w)] = value
    return fields


def paint_star(canvas: Floats, x: float, y: float, radius: float, spokes: int, low: float, high: float) -> None:
    """Paint a sine Siemens star (ISO 12233:2017, annex E): modulation runs around the centre, in place."""
    y0, y1, x0, x1 = (int(v) for v in (y - radius, y + radius, x - radius, x + radius))
    gy, gx = np.mgrid[y0:y1, x0:x1] + 0.5
    r, phi = np.hypot(gx - x, gy - y), np.arctan2(gy - y, gx - x)
    # Nearer the centre than this the spokes are finer than the grid holds; they fade to their mean.
    fade = np.clip((r - spokes / math.pi) / (0.15 * radius), 0, 1)
    value = (low + high) / 2 + (high - low) / 2 * np.cos(spokes * phi) * fade
    inside = r < radius
    canvas[y0:y1, x0:x1][inside] = value[inside][:, None].astype(np.float32)
