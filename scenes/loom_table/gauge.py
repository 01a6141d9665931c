"""The table gauge: brass case, painted dial, pointer, on a wooden block with an engraved plate."""

import numpy as np
from scipy.ndimage import gaussian_filter
from shapely.geometry import Point, Polygon

from scenes.kit.lettering import ENGRAVED, SIGN, SMALL, Sheet
from scenes.kit.mesh import Mesh, Part, box, extrude, lathe, place, quad, rounded, write_ply
from scenes.kit.noise import colour, field, mix, ramp
from scenes.loom_table.layout import BLOCK, GAUGE

DIAL, SHEET = 5.4, 11.2  # radius of the dial; side of its drawing


def _angle(value):
    return np.radians(225 - 270 * value / 160)


def build(folder):
    np.save(folder / "dial_colour.npy", _dial().astype(np.float16))
    turn = np.linspace(0, 2 * np.pi, 181)
    ring = np.stack([np.cos(turn), np.sin(turn)], 1) * DIAL
    face = Part(np.r_[[[0, 0, 0.2]], np.c_[ring, 0 * turn + 0.2]], np.array([[0, i, i + 1] for i in range(1, 181)]),
                np.tile([0.0, 0, 1], (182, 1)), np.r_[[[0.5, 0.5]], 0.5 + ring / SHEET])  # fmt: skip
    write_ply(folder / "dial.ply", face.moved(GAUGE))
    a = _angle(53)
    turned = np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])
    hand = np.array([[-1.15, -0.13], [-0.95, -0.18], [0, -0.10], [4.3, -0.035], [4.75, 0], [4.3, 0.035], [0, 0.10], [-0.95, 0.18], [-1.15, 0.13]])  # fmt: skip
    needle = Polygon(hand @ turned.T).union(Point(0, 0).buffer(0.32))
    write_ply(folder / "needle.ply", extrude([needle], 0.62, 0.70).moved(GAUGE))
    _case(folder)
    _plate(folder)


def _dial():
    half, px = SHEET / 2, 4608 / SHEET
    black, red = Sheet(SHEET, SHEET, px), Sheet(SHEET, SHEET, px)

    def spot(value, r):
        return half + r * np.cos(_angle(value)), half + r * np.sin(_angle(value))

    for value in range(161):
        inner, width = next(v for step, v in ((20, (4.35, 0.075)), (10, (4.55, 0.05)), (5, (4.7, 0.028)), (1, (4.83, 0.028))) if value % step == 0)  # fmt: skip
        a = _angle(value)
        across = np.array([-np.sin(a), np.cos(a)]) * width / 2
        ends = np.array([spot(value, inner), spot(value, 5.05)])
        black.polygon([*map(tuple, ends + across), *map(tuple, ends[::-1] - across)])
    black.circle(half, half, 5.05, line=0.03)
    black.circle(half, half, 5.2, line=0.07)
    for value in range(0, 161, 20):
        black.text(*spot(value, 3.75), str(value), ENGRAVED, 0.88)
    for y, words, font, size, track in (
        (-1.72, "HARROWBECK No 7", ENGRAVED, 0.62, 0.025), (-2.38, "STEAM PRESSURE", SIGN, 0.36, 0.05),
        (-2.78, "POUNDS PER SQUARE INCH", SIGN, 0.22, 0.03), (1.75, "WEAVING MILL", SIGN, 0.34, 0.06),
        (-4.55, "TESTED 14 TIMES  LOOM SHED C", SMALL, 0.17, 0.02),
    ):  # fmt: skip
        black.text(half, half + y, words, font, size, track)
    arc = np.linspace(130, 160, 120)
    red.polygon([spot(v, 4.9) for v in arc] + [spot(v, 4.74) for v in arc[::-1]])
    ink, warn = gaussian_filter(black.map(), 2.0), gaussian_filter(red.map(), 2.0)
    n = ink.shape[0]
    age, spots = (
        field(n, n, 2.4, seed=50),
        ramp(2.6, 3.2, field(n, n, 0.8, low=0.01, high=0.06, seed=51)),
    )
    yy, xx = np.mgrid[0:n, 0:n]
    r = np.hypot(xx / px - half, yy / px - half)
    face = mix(
        colour(0.74, 0.71, 0.62) * (1 + 0.025 * age)[..., None],
        colour(0.50, 0.40, 0.24),
        (ramp(4.2, 5.6, r + 0.25 * age) * 0.45)[..., None],
    )
    face = mix(
        mix(face, colour(0.25, 0.16, 0.08), (spots * 0.6)[..., None]),
        colour(0.42, 0.03, 0.02),
        (warn * 0.9)[..., None],
    )
    return mix(face, colour(0.018, 0.018, 0.02), (ink * 0.97)[..., None])


def _case(folder):
    brass, steel = Mesh(), Mesh()
    bezel = [(5.35, 0.15), (5.35, 0.95), (5.55, 1.25), (5.85, 1.32), (6.15, 1.1), (6.3, 0.7), (6.3, 0.3), (6.7, 0.2), (6.95, 0.05),
             (6.95, -0.5), (6.2, -0.8), (6.2, -2.2)]  # fmt: skip
    brass.add(lathe(rounded(bezel, 0.12), 360, sub=3, ring=True), GAUGE)
    brass.add(
        lathe(rounded([(0.01, 1.0), (0.28, 1.0), (0.42, 0.9), (0.42, 0.55)], 0.06), 64), GAUGE
    )
    foot = place((24.0, 18.6, 6.0))
    brass.add(
        lathe(
            rounded([(0.9, 0), (0.9, 4.6), (1.3, 4.7), (1.3, 5.4), (0.9, 5.5), (0.8, 8.0)], 0.1),
            96,
            sub=3,
        ),
        foot,
    )
    brass.add(
        lathe(rounded([(0.01, 0.5), (2.2, 0.5), (2.3, 0.35), (2.3, 0)], 0.08), 128, sub=2), foot
    )
    for i in range(6):
        a = np.radians(30 + 60 * i)
        screw = GAUGE @ place((6.62 * np.cos(a), 6.62 * np.sin(a), 0.12))
        steel.add(lathe([(0.01, 0.2), (0.12, 0.19), (0.19, 0.13), (0.22, 0)], 32), screw)
    brass.write(folder / "gauge_brass.ply")
    steel.write(folder / "gauge_screws.ply")


def _plate(folder):
    w, h, px = 9.0, 2.6, 230
    sheet = Sheet(w, h, px)
    sheet.text(w / 2, h * 0.66, "HARROWBECK", ENGRAVED, 0.98, 0.1)
    sheet.text(w / 2, h * 0.26, "GAUGE No 7  \u00b7  LOOM SHED C", SIGN, 0.42, 0.05)
    sheet.rectangle(0.14, 0.14, w - 0.14, h - 0.14, line=0.04)
    cut = gaussian_filter(sheet.map(), 3.5)
    np.save(folder / "plate_ink.npy", cut.astype(np.float16))
    brushed = field(*cut.shape, 0.8, along_x=60, low=0.02, seed=60)
    np.save(folder / "plate_height.npy", (-0.03 * cut + 0.00035 * brushed).astype(np.float16))
    Mesh().add(box((-6.2, -2.6, 0), (6.2, 2.6, 6.0), 0.18), BLOCK).write(folder / "block.ply")
    write_ply(
        folder / "plate.ply",
        quad([[-4.5, -2.68, 2.9], [4.5, -2.68, 2.9], [4.5, -2.68, 5.5], [-4.5, -2.68, 5.5]]).moved(
            BLOCK
        ),
    )
    Mesh().add(box((-4.55, -2.67, 2.85), (4.55, -2.5, 5.55), 0.03), BLOCK).write(
        folder / "plate_body.ply"
    )
