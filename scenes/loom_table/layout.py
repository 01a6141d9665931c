"""Where things are on the loom table. Centimetres: x to the right, y away from the camera, z up from the table top."""

import numpy as np

from scenes.kit.camera import Camera
from scenes.kit.mesh import place

CAMERA = Camera(origin=(4, -92, 38), target=(1.2, 0, 9.3), fov=34)
WALL_AT = 24.0
CLOTH = place((-11.5, 4.5, 0), rz=-21)
CLOTH_WIDTH, THREAD = 24.0, 0.145
ROLL_RADIUS, ROLL_Y, ROLL_Z = 7.3, 2.0, 7.45
# name, placement, height, flange radius, core radius, yarn radius, dye
BOBBINS = (
    ("b1", place((9.0, 4.4, 0), rz=90), 13.0, 3.1, 1.2, 2.65, "rust"),
    ("b2", place((15.2, 9.2, 0), rz=100), 11.0, 3.0, 1.2, 2.5, "teal"),
    (
        "b3",
        place((7.2, -10.8, 2.75), rz=-28) @ place(ry=90) @ place((0, 0, -5.5)),
        10.5,
        2.75,
        1.1,
        2.3,
        "ochre",
    ),
)
GAUGE = place((24.2, 17.0, 16.9), rx=84, rz=-12)
BLOCK = place((24.0, 18.2, 0), rz=-12)
CRATE = place((23.2, -10.6, 0), rz=13)
CRATE_SIZE = (17.0, 11.0, 8.8, 0.8)  # across, deep, high, thickness of a board
SHUTTLE = place((11.2, -21.6, 1.15), rz=8) @ place(ry=90)
DYES = {
    "c": (0.62, 0.545, 0.41), "n": (0.022, 0.032, 0.062), "r": (0.36, 0.085, 0.028), "g": (0.13, 0.165, 0.062),
    "rust": (0.42, 0.105, 0.032), "teal": (0.03, 0.17, 0.19), "ochre": (0.58, 0.36, 0.07),
}  # fmt: skip
# The check: cream, navy, red, green.
CHECK = (
    "c" * 26
    + "n" * 10
    + "c" * 4
    + "r" * 4
    + "c" * 4
    + "n" * 10
    + "c" * 26
    + "g" * 6
    + "r" * 2
    + "g" * 6
)
WINDOW = np.array([-69.5, -60.0, 22.0, 8.0, 78.0])  # x, y from, y to, z from, z to
