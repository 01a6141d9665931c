"""The boiler gauge: brass case, painted dial with ticks at every half pound, pointer, cock, and the copper siphon below."""

import numpy as np
from scipy.ndimage import gaussian_filter
from shapely.geometry import Point, Polygon

from scenes.gauge_wall.layout import GAUGE, GAUGE_RADIUS
from scenes.kit.lettering import ENGRAVED, SIGN, SMALL, Sheet
from scenes.kit.mesh import Mesh, Part, box, extrude, lathe, moved, place, rounded, tube, write_ply
from scenes.kit.noise import colour, field, mix, ramp
from scenes.kit.yarn import smooth

FULL = 200  # pounds per square inch at the end of the scale
R = GAUGE_RADIUS


def _angle(pounds):
    return np.radians(225 - 270 * pounds / FULL)


def build(folder):
    np.save(folder / "dial_colour.npy", _dial().astype(np.float16))
    _face(folder)
    _case(folder)
    _pipework(folder)


def _dial():
    half = R / 0.97  # the bitmap reaches just beyond the dial
    px = 4608 / (2 * half)
    black, red = Sheet(2 * half, 2 * half, px), Sheet(2 * half, 2 * half, px)

    def spot(value, r):
        return half + r * R * np.cos(_angle(value)), half + r * R * np.sin(_angle(value))

    for tick in range(2 * FULL + 1):
        value = tick / 2
        inner, width = next(v for step, v in ((20, (0.78, 0.30)), (10, (0.805, 0.20)), (5, (0.83, 0.13)), (1, (0.852, 0.085)), (0.5, (0.872, 0.05))) if value % step == 0)  # fmt: skip
        a = _angle(value)
        across = np.array([-np.sin(a), np.cos(a)]) * width / 2
        ends = np.array([spot(value, inner), spot(value, 0.905)])
        black.polygon([*map(tuple, ends + across), *map(tuple, ends[::-1] - across)])
    black.circle(half, half, 0.91 * R, line=0.09)
    black.circle(half, half, 0.935 * R, line=0.22)
    for value in range(0, FULL + 1, 20):
        black.text(*spot(value, 0.655), str(value), ENGRAVED, 2.9)
    black.text(half, half + 6.6, "HARROWBECK", ENGRAVED, 1.55, 0.10)
    black.text(half, half + 4.5, "WEAVING MILL", SIGN, 0.85, 0.14)
    black.text(half, half - 5.6, "STEAM", SIGN, 1.3, 0.28)
    black.text(half, half - 7.4, "POUNDS PER SQUARE INCH", SIGN, 0.66, 0.06)
    black.text(half, half - 13.2, "BOILER NO 2", SIGN, 1.05, 0.1)
    black.text(half, half - 14.9, "PROVED TO 300 LB   SET AT 140", SMALL, 0.52, 0.06)
    arc = np.linspace(140, FULL, 200)
    red.polygon([spot(v, 0.872) for v in arc] + [spot(v, 0.842) for v in arc[::-1]])
    red.polygon([spot(139.6, 0.74), spot(140.4, 0.74), spot(140.3, 0.93), spot(139.7, 0.93)])
    return _aged(gaussian_filter(black.map(), 1.4), gaussian_filter(red.map(), 1.4), half, px)


def _aged(ink, red, half, px):
    n = ink.shape[0]
    age = field(n, n, 2.4, seed=50)
    yy, xx = np.mgrid[0:n, 0:n]
    r = np.hypot(xx / px - half, yy / px - half) / R
    face = (
        colour(0.80, 0.775, 0.69)
        * (1 + 0.02 * age + 0.006 * field(n, n, 0.8, low=0.02, seed=49))[..., None]
    )
    face = mix(face, colour(0.55, 0.43, 0.25), (ramp(0.76, 1.05, r + 0.05 * age) * 0.40)[..., None])
    spots = ramp(2.7, 3.3, field(n, n, 0.8, low=0.008, high=0.05, seed=51))
    face = mix(face, colour(0.28, 0.17, 0.08), (spots * 0.5)[..., None])
    fade = 0.95 - 0.10 * ramp(0.2, 2, field(n, n, 1.8, low=0.003, seed=52))
    face = mix(face, colour(0.46, 0.035, 0.022), (red * 0.9)[..., None])
    return mix(face, colour(0.020, 0.020, 0.022), (ink * fade)[..., None])


def _face(folder):
    turn = np.linspace(0, 2 * np.pi, 361)
    rim = np.stack([R * np.cos(turn), R * np.sin(turn), 0 * turn + 2.2], 1)
    uv = 0.5 + 0.97 * np.stack([np.cos(turn), np.sin(turn)], 1) / 2
    faces = np.array([[0, i, i + 1] for i in range(1, 361)])
    part = Part(
        np.r_[[[0, 0, 2.2]], rim], faces, np.tile([0.0, 0, 1], (362, 1)), np.r_[[[0.5, 0.5]], uv]
    )
    write_ply(folder / "dial.ply", part.moved(GAUGE))
    a = _angle(86)
    turn_to = np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])
    hand = np.array([[-4.6, -0.42], [-3.6, -0.62], [0, -0.32], [14.2, -0.10], [15.9, 0], [14.2, 0.10], [0, 0.32], [-3.6, 0.62], [-4.6, 0.42]])  # fmt: skip
    shape = Polygon(hand @ turn_to.T).union(Point(0, 0).buffer(1.15))
    write_ply(folder / "pointer.ply", extrude([shape], 3.3, 3.5).moved(GAUGE))


def _case(folder):
    brass, steel = Mesh(), Mesh()
    bezel = [(R - 0.1, 2.0), (R - 0.1, 3.4), (R + 0.4, 4.3), (R + 1.5, 4.6), (R + 2.5, 4.0), (R + 2.8, 2.9), (R + 2.8, 1.0),
             (R + 3.6, 0.8), (R + 3.9, 0.3), (R + 3.9, -1.2), (R + 2.2, -2.0), (R + 2.0, -8.0)]  # fmt: skip
    brass.add(lathe(rounded(bezel, 0.4), 480, sub=3, ring=True), GAUGE)
    brass.add(lathe(rounded([(0.01, 4.5), (0.75, 4.5), (1.1, 4.2), (1.1, 3.2)], 0.2), 64), GAUGE)
    for i in range(8):
        a = np.radians(22.5 + 45 * i)
        at = GAUGE @ place(((R + 3.3) * np.cos(a), (R + 3.3) * np.sin(a), 0.75), rz=37 * i)
        steel.add(lathe([(0.01, 0.42), (0.4, 0.38), (0.55, 0.2), (0.58, 0)], 32), at)
        steel.add(box((-0.5, -0.07, 0.36), (0.5, 0.07, 0.46), 0.02), at)
    steel.write(folder / "screws.ply")
    cx, cz = GAUGE[0, 3], GAUGE[2, 3]
    upright = place((cx, -9.5, 0))
    brass.add(lathe(rounded([(1.5, cz - R - 1), (1.5, cz - R - 5.2), (2.6, cz - R - 5.4), (2.6, cz - R - 7.6), (1.7, cz - R - 7.8), (1.7, cz - R - 9.2)], 0.25), 96, sub=3), upright)  # fmt: skip
    cock = moved(upright, np.array([0, 0, cz - R - 12.0]))
    across = place(cock, ry=90)
    brass.add(lathe(rounded([(0.01, -4.2), (1.2, -4.2), (1.4, -3.6), (1.4, -2.8), (2.1, -2.5), (2.5, 0), (2.1, 2.5), (1.4, 2.8), (1.4, 5.0), (0.01, 5.0)], 0.3), 96, sub=3), across)  # fmt: skip
    brass.add(
        lathe(rounded([(1.9, 3.0), (2.5, 1.4), (2.7, -1.4), (1.9, -3.0)], 0.4), 96, sub=3),
        place(cock),
    )
    brass.add(
        lathe(
            rounded([(0.01, 1.2), (2.1, 1.2), (2.3, 0.9), (2.3, -0.6), (1.4, -0.9)], 0.25), 6, sub=1
        ),
        place(cock + [0, 0, -4.2]),
    )
    lever = tube(
        smooth(
            [
                cock + [4.6, 0, 0],
                cock + [6.8, -0.4, 0.5],
                cock + [9.6, -1.0, 2.0],
                cock + [11.2, -1.2, 3.2],
            ],
            60,
        ),
        np.linspace(0.62, 0.42, 60),
    )
    brass.add(lever)
    brass.add(
        lathe(
            rounded([(0.01, 1.1), (0.8, 0.9), (1.1, 0), (0.8, -0.9), (0.01, -1.1)], 0.4), 48, sub=3
        ),
        place(cock + [11.6, -1.25, 3.5]),
    )
    brass.write(folder / "brass.ply")


def _pipework(folder):
    """The siphon: a full turn of copper pipe that keeps live steam off the gauge, then down to a flange."""
    copper, iron = Mesh(), Mesh()
    cx, top = GAUGE[0, 3], GAUGE[2, 3] - R - 17.0
    turn = np.linspace(np.pi, 3 * np.pi, 160)
    loop = np.stack(
        [
            cx + 5.2 + 5.2 * np.cos(turn),
            -9.5 - 2.4 * (np.linspace(0, 1, 160)),
            top - 7 + 5.2 * np.sin(turn),
        ],
        1,
    )
    down = [
        [cx, -9.5, top + 2],
        [cx, -9.5, top - 2],
        *loop[::8],
        [cx, -11.9, top - 13],
        [cx, -11.9, top - 16.5],
    ]
    copper.add(tube(smooth(down, 600), 1.05, 32, up=(0.03, 1.0, 0.05)))
    copper.write(folder / "copper.ply")
    main = 6.0
    iron.add(
        tube(
            [
                [-100, -11.9, main],
                [-50, -11.9, main],
                [0, -11.9, main],
                [60, -11.9, main],
                [100, -11.9, main],
            ],
            3.6,
            64,
        )
    )
    iron.add(
        lathe(rounded([(1.3, 4.6), (3.0, 4.4), (3.0, 2.2), (2.4, 1.8), (2.4, -1)], 0.2), 6),
        place((cx, -11.9, main + 2.2)),
    )
    for x in (-44.0, 52.0):
        iron.add(
            lathe(
                rounded(
                    [(3.6, -2.4), (6.6, -2.4), (6.8, -2.2), (6.8, 2.2), (6.6, 2.4), (3.6, 2.4)],
                    0.25,
                ),
                96,
                sub=2,
            ),
            place((x, -11.9, main), ry=90),
        )
        for i in range(8):
            a = np.radians(45 * i + 10)
            iron.add(
                lathe(
                    rounded(
                        [
                            (0.01, 3.3),
                            (0.75, 3.3),
                            (0.75, 2.3),
                            (0.75, -2.3),
                            (0.75, -3.3),
                            (0.01, -3.3),
                        ],
                        0.1,
                    ),
                    6,
                ),
                place((x, -11.9, main), ry=90) @ place((5.3 * np.cos(a), 5.3 * np.sin(a), 0)),
            )
    iron.write(folder / "iron.ply")
