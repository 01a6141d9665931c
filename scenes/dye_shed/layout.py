"""Where things are in the dye shed. Centimetres: x to the right, y into the room, z up."""

from scenes.kit.camera import Camera
from scenes.kit.mesh import place

CAMERA = Camera(origin=(0.0, -30.0, 152.0), target=(2.0, 420.0, 121.0), fov=50.0)
LEFT, RIGHT, BACK, CEILING = -262.0, 235.0, 600.0, 318.0
REVEAL = 42.0  # thickness of the back wall
DOOR = (46.0, 152.0, 0.0, 214.0)  # x0, x1, z0, z1

# Tubs: where, radius at the foot and the rim, height, how far the liquor stands below the rim, its colour.
TUBS = (
    (place((-74, 330, 0), rz=20), 56, 62, 84, 13, (0.010, 0.014, 0.045)),
    (place((-196, 430, 0), rz=75), 48, 53, 78, 16, (0.050, 0.010, 0.006)),
    (place((190, 300, 0), rz=130), 40, 45, 92, 20, (0.030, 0.024, 0.006)),
)
# Poles hung from the beams: y, z, x from, x to.
POLES = ((292, 216, -168, 26), (432, 224, -232, 8))
# Skeins: pole, x, width, length, colour.
SKEINS = (
    (0, -146, 22, 92, "madder"), (0, -117, 21, 88, "madder"), (0, -88, 23, 95, "weld"), (0, -57, 21, 90, "indigo"),
    (0, -29, 22, 97, "indigo"), (0, 2, 20, 86, "raw"),
    (1, -206, 24, 92, "raw"), (1, -174, 24, 90, "green"), (1, -141, 25, 95, "green"), (1, -44, 24, 90, "madder"), (1, -12, 23, 94, "weld"),
)  # fmt: skip
SHADES = {
    "madder": (0.31, 0.062, 0.040), "weld": (0.50, 0.375, 0.085), "indigo": (0.026, 0.048, 0.125), "raw": (0.62, 0.55, 0.43),
    "green": (0.075, 0.15, 0.050), "hemp": (0.44, 0.34, 0.21), "fleece": (0.66, 0.59, 0.47),
}  # fmt: skip
BENCH = (-112.0, -24.0, 118.0, 186.0, 84.0)  # x0, x1, y0, y1, top
FLEECE = place((-62, 150, 84), rz=10)
POST = (66.0, 78.0, 158.0, 170.0)
HOOK = (66.0, 154.0, 184.0)
