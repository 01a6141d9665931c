"""The crate with its pirns, the flying shuttle, a loom post, and the bars of the window."""

import numpy as np

from scenes.kit.mesh import Mesh, box, lathe, place, rounded
from scenes.loom_table.layout import CRATE, CRATE_SIZE, SHUTTLE, WINDOW


def build(folder):
    _crate(folder)
    _shuttle(folder)
    Mesh().add(box((34.5, 6, 0), (39, 12, 60), 0.2)).write(folder / "post.ply")
    x, y0, y1, z0, z1 = WINDOW
    bars = Mesh()
    for y in np.linspace(y0, y1, 4):
        bars.add(box((x, y - 1.2, z0), (x + 2, y + 1.2, z1), 0.1))
    for z in np.linspace(z0, z1, 4):
        bars.add(box((x, y0, z - 1.0), (x + 2, y1, z + 1.0), 0.1))
    bars.write(folder / "bars.ply")


def _crate(folder):
    boards, pirns, nails = Mesh(), Mesh(), Mesh()
    a, b, h, t = CRATE_SIZE
    for low, high in (
        ((-a / 2, -b / 2, 0), (a / 2, b / 2, t)), ((-a / 2, -b / 2, h - t), (a / 2, b / 2, h)),
        ((-a / 2, -b / 2, t + 0.01), (-a / 2 + t, b / 2, h - t - 0.01)), ((a / 2 - t, -b / 2, t + 0.01), (a / 2, b / 2, h - t - 0.01)),
        ((-a / 2 + t, b / 2 - t, t), (a / 2 - t, b / 2, h - t)),
    ):  # fmt: skip
        boards.add(box(low, high, 0.08), CRATE)
    pirn = rounded(
        [
            (0.01, 0),
            (0.9, 0),
            (1.0, 0.5),
            (1.5, 1.2),
            (1.5, 5.2),
            (0.5, 7.2),
            (0.35, 8.2),
            (0.01, 8.2),
        ],
        0.2,
    )
    for x, z in ((-3.6, t + 1.5), (0.2, t + 1.5), (3.9, t + 1.5), (-1.7, t + 4.3)):
        pirns.add(lathe(pirn, 64, sub=3), CRATE @ place((x, -b / 2 + 1.0, z), rx=-90))
    for x in (-a / 2 + 0.4, a / 2 - 0.4):
        for z in (0.4, h - 0.4):
            nails.add(
                lathe([(0.01, 0.06), (0.14, 0.05), (0.17, 0)], 24),
                CRATE @ place((x, -b / 2, z), rx=90),
            )
    boards.write(folder / "crate.ply")
    pirns.write(folder / "pirns.ply")
    nails.write(folder / "nails.ply")


def _shuttle(folder):
    s, length, end = np.linspace(-1, 1, 90), 9.5, 8.05
    profile = np.stack([1.12 * np.clip(1 - np.abs(s) ** 3.2, 0, 1) ** 0.75, s * length], 1)
    body = np.r_[[[0.01, -end]], profile[np.abs(profile[:, 1]) < end], [[0.01, end]]]
    Mesh().add(lathe(body[::-1], 128), SHUTTLE).write(folder / "shuttle.ply")
    r = float(np.interp(end, profile[45:, 1], profile[45:, 0]))
    tip = [
        (0.01, 1.97),
        (0.12, 1.9),
        (r * 0.28, 1.6),
        (r * 0.5, 1.25),
        (r * 0.85, 0.7),
        (r * 1.03, 0.25),
        (r * 1.03, 0),
    ]
    tips = Mesh()
    for where in (place((0, 0, end)), place((0, 0, -end), rx=180)):
        tips.add(lathe(rounded(tip, 0.2), 64, sub=3), SHUTTLE @ where)
    tips.write(folder / "tips.ply")
