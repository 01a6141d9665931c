"""Where things are on the gauge wall. Centimetres: x along the wall, y into it, z up."""

import numpy as np

from scenes.kit.camera import Camera
from scenes.kit.mesh import moved, place

CAMERA = Camera(origin=(8.0, -196.0, 58.0), target=(1.5, 0.0, 49.5), fov=45.5)
WALL = (-92.0, 92.0, -8.0, 108.0)  # x0, x1, z0, z1
PLASTER_FROM = 19.0
TAR_BELOW = 9.5
SUN = (-0.36, -0.52, 0.775)  # towards it: late noon, high and to the left

GAUGE = place((-6.0, -9.5, 60.0), rx=90)
GAUGE_RADIUS = 18.0
ENAMEL = place((-53.5, -2.0, 39.5), ry=3.6)
ENAMEL_SIZE = (43.0, 29.0)
SLATE = place((65.5, -1.6, 70.5), ry=-5.0)
SLATE_SIZE = (27.0, 36.0)
ARM = place((36.0, -3.2, 66.0), ry=10.5)
ARM_SIZE = (4.6, 52.0)
PLATE = place((62.0, -1.0, 30.0), ry=0.6)
PLATE_SIZE = (26.0, 10.0)
WHEEL = place((28.5, -17.0, 21.5), rx=90)

# The edges whose angle is known: the board they belong to, half its size, and which of its sides.
EDGES = (
    ("Slate, left side", SLATE, SLATE_SIZE, "left", 1.6),
    ("Slate, top", SLATE, SLATE_SIZE, "top", 1.6),
    ("Damper arm, left side", ARM, ARM_SIZE, "left", 0.9),
    ("Enamel sign, left side", ENAMEL, ENAMEL_SIZE, "left", 0.35),
)


def edges(width, height):
    """Known edges in the picture: name, and both ends in pixels."""
    found = []
    for name, board, (w, h), side, thick in EDGES:
        ends = {
            "left": [(-w / 2, -thick, -h / 2 * 0.9), (-w / 2, -thick, h / 2 * 0.9)],
            "top": [(-w / 2 * 0.9, -thick, h / 2), (w / 2 * 0.9, -thick, h / 2)],
        }[side]
        (x0, y0), (x1, y1) = (
            CAMERA.project(moved(board, np.array(ends)), width, height).round(3).tolist()
        )
        found.append({"name": name, "x0": x0, "y0": y0, "x1": x1, "y1": y1})
    return found
