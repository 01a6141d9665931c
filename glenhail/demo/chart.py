"""A painted test chart: slanted squares, a step wedge, sine stars, plain ground."""

from __future__ import annotations

import numpy as np

from glenhail.core.degrade.targets import Square, paint_square, paint_star, paint_wedge
from glenhail.core.picture import Floats, Rect

WIDTH, HEIGHT = 2100, 1430
SIGMA = 0.6  # px, the lens
SQUARES = {
    "Edge, high contrast": Square(340, 330, 380, 5, 0.03, 0.75),
    "Edge, low contrast": Square(880, 330, 380, 5, 0.30, 0.52),
    "Edge, steep": Square(340, 870, 380, 12, 0.03, 0.75),
    "Edge, in shadow": Square(880, 870, 380, 5, 0.006, 0.03),
}
WEDGE = Rect(90, 1200, 1920, 160)
STEPS = 12


def paint_chart() -> Floats:
    """Linear light, shape (1430, 2100, 3)."""
    canvas = np.full((HEIGHT, WIDTH, 3), 0.52, dtype=np.float32)
    for square in SQUARES.values():
        half = int(square.side * 0.68)
        x, y = int(square.x), int(square.y)
        canvas[y - half : y + half, x - half : x + half] = square.light
    for square in SQUARES.values():
        paint_square(canvas, square, SIGMA)
    paint_star(canvas, 1640, 360, 270, 72, 0.08, 0.75)
    paint_star(canvas, 1640, 900, 210, 36, 0.30, 0.52)
    paint_wedge(canvas, WEDGE, STEPS, -8)
    return canvas
