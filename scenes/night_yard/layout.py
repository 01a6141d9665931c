"""Where things are in the yard. Metres: x to the right, y away from the camera, z up. In the mill's own frame x runs along its
wall and y into it."""

from scenes.kit.camera import Camera
from scenes.kit.mesh import place

CAMERA = Camera(origin=(0, 0, 2.2), target=(0, 10, 2.28), fov=56)
MILL = place((-1.55, 14.2, 0), rz=-24)
MILL_SIZE = (9.0, 6.2)
STRING_COURSE = 3.50
PANES = (4, 6)


def _window(centre, z0, z1, width=1.14):
    return (centre - width / 2, centre + width / 2, z0, z1)


GATE = (0.95, 3.45, 0.0, 2.62)  # x0, x1, z0, z1, as all openings
OPENINGS = (
    GATE,
    *(_window(c, 1.02, 2.66) for c in (4.78, 6.42, 8.06)),
    *(_window(c, 4.02, 5.62) for c in (1.12, 2.87, 4.62, 6.37, 8.12)),
)
LIT = {
    2: ((1.0, 0.56, 0.21), 0.62, "shelf"),
    6: ((1.0, 0.62, 0.26), 0.60, "loom"),
    4: ((1.0, 0.47, 0.16), 0.22, "blind"),
}  # opening: colour, gain, what is seen
PIPES = (5.60,)
SIGN = (3.79, 1.62, 0.40)  # x, z, width
WALL_LAMP = (3.98, 2.72, 0.42)  # x, z of the lantern's foot, how far from the wall
POLE = (-2.95, 9.3)
CART = place((-1.45, 10.9, 0), rz=-14)
BALES = (
    (-0.52, 0, 0.97, 2, 0.46, 0.40, 0.27),
    (0.46, 0.02, 0.97, -3, 0.46, 0.40, 0.27),
    (-0.05, 0.0, 1.50, 6, 0.44, 0.37, 0.25),
)  # centre, turn, half sizes
LASHING = ((-0.95, -0.50, 0.72), (-0.85, -0.52, 1.0), (-0.62, -0.45, 1.32), (-0.42, -0.30, 1.70), (-0.1, -0.05, 1.83), (0.3, 0.22, 1.78),
           (0.5, 0.43, 1.36), (0.75, 0.50, 1.1), (0.85, 0.56, 0.9), (0.86, 0.58, 0.5))  # fmt: skip
CRATE = place((2.75, 8.75, 0), rz=-17)
HAND_LAMP = (0.26, -0.05, 0.55)
BARREL = (7.2, 0.42)
SHED_X = -7.3
FAR_WALL_Y, FAR_WALLS, PIERS = 18.0, ((-14.0, -6.3), (-4.3, 0.5)), (-6.3, -4.3)
CHIMNEY = (-25.0, 62.0)
# Far lamps: x, y, z, radius, intensity (W/sr), colour, share of the samples.
FAR_LAMPS = (
    (-9.0, 34.0, 3.7, 0.10, 4.0, (1, 0.62, 0.28), 0.5), (-27.5, 58.0, 5.2, 0.11, 4.0, (1, 0.70, 0.38), 0.2),
    (-35.5, 100.0, 7.6, 0.16, 9.0, (1, 0.80, 0.55), 0.06), (-62.0, 120.0, 10.5, 0.17, 7.0, (1, 0.55, 0.22), 0.06),
    (-7.4, 39.6, 4.3, 0.09, 6.0, (0.80, 0.92, 1.0), 0.5), (-66.0, 150.0, 13.2, 0.2, 12.0, (1, 0.72, 0.4), 0.06),
)  # fmt: skip
COBBLES = (-7.5, 6.5, 5.0, 18.5)  # x0, x1, y0, y1 of the paved ground
NEAREST, GUTTER = 5.5, 8.3
