"""Lamps, the cart with its bales and ropes, crate, barrel, and the boarded shed."""

import numpy as np
from scipy.ndimage import gaussian_filter, map_coordinates

from scenes.kit.lettering import STENCIL, Sheet
from scenes.kit.mesh import (
    Mesh,
    Part,
    box,
    grid_faces,
    grid_normals,
    lathe,
    moved,
    place,
    rounded,
    tube,
)
from scenes.kit.noise import colour, field, mix, ramp
from scenes.kit.yarn import rope, smooth, write_curves
from scenes.night_yard import layout as at

ROPE = {"step": 0.006, "hair": 160, "hair_length": 0.02, "hair_radius": 0.0006}


class Stock:
    """What has been made so far, by material, and all rope."""

    def __init__(self):
        self.iron, self.wood, self.sack, self.crate, self.boards = (Mesh() for _ in range(5))
        self.ropes, self.hairs = [], []

    def rope(self, line, radius, pitch, seed):
        strands, loose = rope(line, radius, pitch, seed=seed, **ROPE)
        self.ropes += strands
        self.hairs += loose


def build(folder):
    _surfaces(folder)
    stock = Stock()
    _lamps(stock)
    _cart(stock)
    _load(stock)
    _crate(stock)
    _barrel(stock)
    _shed(stock)
    for name in ("iron", "wood", "sack", "crate", "boards"):
        getattr(stock, name).write(folder / f"goods_{name}.ply")
    write_curves(folder / "rope.txt", stock.ropes)
    write_curves(folder / "rope_hair.txt", stock.hairs)


def _surfaces(folder):
    for name, light, dark, seed in (("cart_wood", (0.25, 0.19, 0.13), (0.12, 0.085, 0.055), 300), ("boards", (0.105, 0.088, 0.070), (0.045, 0.037, 0.030), 320)):  # fmt: skip
        h, w, px = 400, 1024, 512
        rings = ((np.arange(h) + 0.5) / px)[:, None] / 0.02 + field(h, w, 2.6, along_x=9, seed=seed)
        late = ramp(0.35, 0.93, rings % 1) * (1 - ramp(0.95, 1.0, rings % 1))
        fibre, dirt = (
            field(h, w, 1.0, along_x=40, low=0.01, seed=seed + 1),
            ramp(0.4, 2.0, field(h, w, 2.4, along_x=3, seed=seed + 2)),
        )
        albedo = mix(
            colour(*light), colour(*dark), (late * 0.6 + 0.2 * fibre + 0.1)[..., None].clip(0, 1.3)
        )
        np.save(
            folder / f"{name}_colour.npy",
            (albedo * (1 + 0.12 * fibre)[..., None] * (1 - 0.45 * dirt)[..., None]).astype(
                np.float16
            ),
        )
        np.save(folder / f"{name}_height.npy", (-0.0006 * late + 0.0007 * fibre).astype(np.float16))
    n = 720
    y, x = np.mgrid[0:n, 0:n]
    weave = (
        np.cos(2 * np.pi * x / 6)
        * np.cos(2 * np.pi * y / 6)
        * (1 + 0.35 * field(n, n, 1.0, along_x=8, seed=1))
    )
    patchy = field(n, n, 1.6, seed=2)
    sheet = Sheet(n, n, 1)
    sheet.text(n * 0.42, n * 0.58, "HB 3", STENCIL, 150, 12)
    mark = gaussian_filter(sheet.map(), 1.2) * ramp(-1.2, -0.2, patchy)
    albedo = (
        colour(0.34, 0.275, 0.18)
        * (1 + 0.16 * weave + 0.09 * patchy + 0.06 * field(n, n, 0.6, seed=3))[..., None]
    )
    np.save(folder / "sack_colour.npy", (albedo * (1 - 0.72 * mark)[..., None]).astype(np.float16))
    np.save(folder / "sack_height.npy", (0.0013 * weave + 0.0008 * patchy).astype(np.float16))


def _lantern(iron, where, foot, top, height):
    """A four-sided tapered lantern frame: half width ``foot`` below, ``top`` above."""
    for i in range(4):
        a, b = np.pi / 4 + i * np.pi / 2, np.pi / 4 + (i + 1) * np.pi / 2

        def corner(r, z, t):
            return np.array([r * np.sqrt(2) * np.cos(t), r * np.sqrt(2) * np.sin(t), z])

        iron.add(
            tube(
                [
                    corner(foot, 0, a),
                    corner((foot + top) / 2, height / 2, a),
                    corner(top, height, a),
                ],
                0.009,
                8,
            ),
            where,
        )
        for r, z in ((foot, 0.0), (top, height)):
            iron.add(
                tube(
                    [corner(r, z, a), (corner(r, z, a) + corner(r, z, b)) / 2, corner(r, z, b)],
                    0.011,
                    8,
                ),
                where,
            )
        lid = np.array(
            [
                corner(top * 1.12, height, a),
                corner(top * 1.12, height, b),
                corner(0.03, height + top * 0.75, b),
                corner(0.03, height + top * 0.75, a),
            ]
        )
        iron.add(Part(lid, np.array([[0, 1, 2], [0, 2, 3], [2, 1, 0], [3, 2, 0]])), where)
    knob = rounded(
        [
            (0.06, 0),
            (0.06, 0.05),
            (0.035, 0.07),
            (0.035, 0.10),
            (0.012, 0.13),
            (0.02, 0.15),
            (0.001, 0.18),
        ],
        0.01,
    )
    iron.add(lathe(knob, 20), where @ place((0, 0, height + top * 0.70)))
    iron.add(
        lathe(
            rounded([(0.001, -0.05), (foot * 0.9, -0.03), (foot * 0.95, 0), (0.001, 0)], 0.01), 16
        ),
        where,
    )


def _lamps(stock):
    iron, pole = stock.iron, place((*at.POLE, 0), rz=20)
    shaft = [(0.20, 0), (0.20, 0.12), (0.15, 0.18), (0.15, 0.5), (0.17, 0.54), (0.12, 0.62), (0.075, 0.75), (0.065, 1.5), (0.085, 1.54), (0.06, 1.6),
             (0.045, 3.05), (0.065, 3.1), (0.065, 3.16), (0.04, 3.2), (0.04, 3.4), (0.001, 3.42)]  # fmt: skip
    iron.add(lathe(rounded(shaft, 0.02), 40), pole)
    iron.add(
        tube([[-0.36, 0, 3.02], [-0.2, 0, 3.02], [0.2, 0, 3.02], [0.36, 0, 3.02]], 0.014, 10), pole
    )
    for sign in (-1, 1):
        ball = rounded(
            [(0.001, -0.03), (0.022, -0.02), (0.026, 0), (0.022, 0.02), (0.001, 0.03)], 0.01
        )
        iron.add(lathe(ball, 16), pole @ place((sign * 0.37, 0, 3.02)))
    _lantern(iron, pole @ place((0, 0, 3.42)), 0.13, 0.22, 0.46)
    x, z, off = at.WALL_LAMP
    bracket = at.MILL @ place((x, -off, z))
    _lantern(iron, bracket, 0.09, 0.145, 0.33)
    t, a = np.linspace(0, 1, 24), np.linspace(0, 1, 50)
    iron.add(
        tube(
            np.stack([0 * t, off * (1 - t), 0.62 - 0.02 * np.sin(t * np.pi)], 1),
            0.013,
            10,
            up=(1, 0.05, 0.03),
        ),
        bracket,
    )
    iron.add(tube([[0, 0, 0.62], [0, 0, 0.55], [0, 0, 0.45]], 0.010, 8), bracket)
    iron.add(
        tube(
            np.stack(
                [0 * a, off * (1 - a) * 0.92, 0.16 + 0.44 * a**0.6 - 0.10 * np.sin(a * np.pi)], 1
            ),
            0.010,
            8,
            up=(1, 0.05, 0.03),
        ),
        bracket,
    )
    iron.add(box((-0.05, off - 0.03, 0.05), (0.05, off, 0.75), 0.008, 2.0), bracket)


def _cart(stock):
    wood, iron, rng = stock.wood, stock.iron, np.random.default_rng(3)

    def plank(low, high, bevel=0.008):
        wood.add(box(low, high, bevel, 2.0), at.CART)

    for k in range(6):
        plank(
            (-1.05, -0.52 + 0.175 * k, 0.66 + 0.004 * rng.random()),
            (1.05, -0.352 + 0.175 * k, 0.695),
            0.006,
        )
    for y in (-0.50, 0.42):
        plank((-1.15, y, 0.55), (1.9, y + 0.08, 0.655), 0.012)
    for x in (-1.0, -0.3, 0.4, 0.98):
        plank((x, -0.54, 0.56), (x + 0.07, 0.54, 0.64), 0.01)
    for y, low, high in ((-0.535, -0.555, -0.53), (0.475, 0.53, 0.555)):
        for x in (-1.0, -0.36, 0.30, 0.93):
            plank((x, y, 0.60), (x + 0.06, y + 0.06, 1.12))
        for z in (0.80, 1.00):
            plank((-1.06, low, z), (1.06, high, z + 0.10), 0.006)
    plank((1.72, -0.03, 0.06), (1.78, 0.03, 0.60), 0.01)
    plank((1.70, -0.5, 0.57), (1.78, 0.5, 0.64), 0.01)
    for sign in (-1, 1):
        _wheel(wood, iron, at.CART @ place((-0.12, sign * 0.66, 0.44), rx=90))
    iron.add(tube([[-0.12, -0.7, 0.44], [-0.12, 0, 0.44], [-0.12, 0.7, 0.44]], 0.025, 12), at.CART)


def _wheel(wood, iron, where, r=0.44):
    wood.add(
        lathe(
            rounded(
                [(r - 0.075, -0.03), (r - 0.012, -0.03), (r - 0.012, 0.03), (r - 0.075, 0.03)],
                0.008,
            ),
            80,
            ring=True,
        ),
        where,
    )
    iron.add(
        lathe(
            rounded([(r - 0.012, -0.033), (r, -0.033), (r, 0.033), (r - 0.012, 0.033)], 0.003),
            96,
            ring=True,
        ),
        where,
    )
    wood.add(
        lathe(
            rounded(
                [
                    (0.001, -0.13),
                    (0.05, -0.13),
                    (0.085, -0.06),
                    (0.085, 0.06),
                    (0.05, 0.13),
                    (0.001, 0.13),
                ],
                0.015,
            ),
            32,
        ),
        where,
    )
    iron.add(
        lathe(
            [(0.0515, -0.132), (0.056, -0.11), (0.056, -0.14), (0.03, -0.141), (0.001, -0.141)], 24
        ),
        where,
    )
    iron.add(lathe([(0.001, 0.141), (0.03, 0.141), (0.056, 0.14), (0.056, 0.11)], 24), where)
    spoke = lathe([(0.022, 0.07), (0.026, 0.12), (0.018, r - 0.2), (0.022, r - 0.06)], 12)
    for k in range(12):
        wood.add(spoke, where @ place(rz=30 * k + 7) @ place(ry=90))


def _bale(a, b, c, seed, roped_at, radius=0.10, n=70):
    """Soft sacking, half sizes a, b, c: it bulges between its ropes and gives way under them."""
    half, lumps, sides = (
        np.array([a, b, c]),
        [field(256, 256, 2.6, seed=seed + k) for k in range(2)],
        [],
    )
    for axis in range(3):
        for sign in (-1, 1):
            i, j = (k for k in range(3) if k != axis)
            g = np.sin(np.linspace(-np.pi / 2, np.pi / 2, n))
            gi, gj = np.meshgrid(g * half[i], g * half[j], indexing="ij")
            points = np.zeros((n, n, 3))
            points[..., i], points[..., j], points[..., axis] = gi, gj, sign * half[axis]
            core = np.clip(points, -(half - radius), half - radius)
            out = (points - core) / np.maximum(
                np.linalg.norm(points - core, axis=-1, keepdims=True), 1e-9
            )
            points = core + out * radius
            bulge = 0.05 * (1 - np.abs(gi / half[i]) ** 2.5) * (1 - np.abs(gj / half[j]) ** 2.5)
            where = [128 + points[..., i] * 90, 128 + points[..., j] * 90 + 40 * sign]
            bulge += 0.010 * map_coordinates(lumps[axis % 2], where, order=1, mode="wrap")
            for x in roped_at:
                bulge -= 0.035 * np.exp(-(((points[..., 0] - x) / 0.05) ** 2)) * (axis != 0)
            points = points + out * bulge[..., None]
            normals = grid_normals(points)
            normals = -normals if (normals * out).sum(-1).mean() < 0 else normals
            uv = np.stack([gi, gj], -1).reshape(-1, 2) / 0.6 + 0.3 * seed
            sides.append(Part(points.reshape(-1, 3), grid_faces(n, n), normals.reshape(-1, 3), uv))
    return sides


def _band(x, b, c, r):
    """A loop round a bale, in a plane across it."""
    points = []
    for y, z, start in (
        (b - r, c - r, 0),
        (-b + r, c - r, 90),
        (-b + r, -c + r, 180),
        (b - r, -c + r, 270),
    ):
        points += [
            [x, y + r * np.cos(t), z + r * np.sin(t)]
            for t in np.radians(np.linspace(start, start + 90, 14))
        ]
    points = np.array(points + points[:6])
    points[:, 0] += 0.012 * np.sin(np.linspace(0, 7, len(points)) + x * 9)
    run = np.r_[0, np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))]
    return np.stack(
        [np.interp(np.linspace(0, run[-1], 600), run, points[:, k]) for k in range(3)], 1
    )


def _load(stock):
    for k, (x, y, z, turn, a, b, c) in enumerate(at.BALES):
        where, roped_at = at.CART @ place((x, y, z), rz=turn), (-a * 0.5, a * 0.5)
        for side in _bale(a, b, c, 20 + k, roped_at):
            stock.sack.add(side, where)
        for rx in roped_at:
            stock.rope(moved(where, _band(rx, b + 0.010, c + 0.018, 0.11)), 0.0125, 0.075, 40 + k)
            t = np.linspace(0, 4 * np.pi, 120)  # a knot on top
            knot = np.stack(
                [
                    rx + 0.022 * np.cos(t) * (1 + 0.4 * np.sin(t * 0.5)),
                    -b * 0.55 + 0.030 * np.sin(t),
                    c + 0.045 + 0.012 * np.sin(2.5 * t),
                ],
                1,
            )
            stock.rope(moved(where, knot), 0.011, 0.075, 60 + k)
    stock.rope(moved(at.CART, smooth(at.LASHING, 1200)), 0.0135, 0.085, 80)


def _crate(stock):
    for z in (0.03, 0.20, 0.37):
        for y in (-0.30, 0.28):
            stock.crate.add(box((-0.45, y, z), (0.45, y + 0.022, z + 0.145), 0.004, 2.0), at.CRATE)
        for x in (-0.45, 0.428):
            stock.crate.add(
                box((x, -0.276, z), (x + 0.022, 0.278, z + 0.145), 0.004, 2.0), at.CRATE
            )
    for x in (-0.448, 0.388):
        for y in (-0.322, 0.302):
            stock.crate.add(box((x, y, 0), (x + 0.06, y + 0.022, 0.53), 0.004, 2.0), at.CRATE)
    for k in range(4):
        stock.crate.add(
            box((-0.47, -0.32 + 0.163 * k, 0.525), (0.47, -0.165 + 0.163 * k, 0.55), 0.004, 2.0),
            at.CRATE,
        )
    t = np.linspace(0, 2 * np.pi * 6.3, 1600)
    r = gaussian_filter(
        0.205 + 0.018 * np.sin(t * 0.37 + 1) - 0.035 * ((t / (2 * np.pi)) % 2 > 1), 40
    )
    z = gaussian_filter(
        0.568 + 0.027 * np.floor(t / (4 * np.pi)) + 0.008 * np.sin(t * 0.5 + 2) + 0.012 * t / t[-1],
        40,
    )
    coil = np.stack([-0.20 + r * np.cos(t) * 1.08, -0.02 + r * np.sin(t) * 0.95, z], 1)
    stock.rope(moved(at.CRATE, coil), 0.0145, 0.09, 91)
    tail = [coil[-1], coil[-1] + [-0.06, -0.10, 0.01], [-0.30, -0.30, 0.60], [-0.36, -0.352, 0.50], [-0.37, -0.36, 0.25], [-0.40, -0.40, 0.06],
            [-0.30, -0.52, 0.03], [-0.12, -0.50, 0.028], [-0.05, -0.38, 0.03]]  # fmt: skip
    stock.rope(moved(at.CRATE, smooth(tail, 500)), 0.0145, 0.09, 92)
    _hand_lamp(stock.iron, at.CRATE @ place(at.HAND_LAMP))


def _hand_lamp(iron, where):
    foot = rounded(
        [(0.001, 0), (0.075, 0), (0.075, 0.05), (0.055, 0.065), (0.03, 0.08), (0.03, 0.095)], 0.008
    )
    top = rounded(
        [(0.035, 0.235), (0.05, 0.24), (0.04, 0.27), (0.045, 0.285), (0.02, 0.31), (0.001, 0.315)],
        0.006,
    )
    for profile in (foot, top):
        iron.add(lathe(profile, 32), where)
    for k in range(4):
        c, s = np.cos(k * np.pi / 2 + 0.6), np.sin(k * np.pi / 2 + 0.6)
        iron.add(
            tube(
                [
                    [0.05 * c, 0.05 * s, 0.09],
                    [0.066 * c, 0.066 * s, 0.16],
                    [0.046 * c, 0.046 * s, 0.24],
                ],
                0.0035,
                6,
            ),
            where,
        )
    a = np.linspace(0, np.pi, 24)
    iron.add(
        tube(
            np.stack([0.075 * np.cos(a), 0 * a, 0.24 + 0.14 * np.sin(a)], 1), 0.003, 6, up=(0, 1, 0)
        ),
        where,
    )


def _barrel(stock):
    x, off = at.BARREL
    where, staves = at.MILL @ place((x, -off, 0)), 22
    z = np.linspace(0, 0.88, 24)
    part = lathe(
        np.r_[
            np.stack([0.27 + 0.065 * np.sin(np.pi * z / 0.88), z], 1),
            [[0.25, 0.88], [0.25, 0.85], [0.001, 0.85]],
        ],
        440,
    )
    turn = np.arctan2(part.vertices[:, 1], part.vertices[:, 0]) / (2 * np.pi) * staves
    gap, stave = np.abs(turn - np.round(turn)), np.floor(turn).astype(int) % staves
    part.vertices[:, :2] *= (
        1
        - 0.018 * np.exp(-((gap / 0.05) ** 2))
        - 0.004 * np.random.default_rng(4).random(staves)[stave]
    )[:, None]
    part.uv = np.stack([part.vertices[:, 2] / 1.3 + 0.31 * stave, turn * 0.115 + 0.27 * stave], 1)
    stock.wood.add(part, where)
    for z0 in (0.06, 0.22, 0.62, 0.78):
        r = 0.27 + 0.065 * np.sin(np.pi * (z0 + 0.02) / 0.88) + 0.004
        stock.iron.add(
            lathe(
                rounded(
                    [(r - 0.004, z0), (r, z0), (r, z0 + 0.045), (r - 0.004, z0 + 0.045)], 0.002
                ),
                48,
                ring=True,
            ),
            where,
        )


def _shed(stock):
    x, y, rng = at.SHED_X, 8.0, np.random.default_rng(13)
    while y < 18:
        stock.boards.add(
            box(
                (x - 0.05, y, 0.05 + 0.06 * rng.random()),
                (x + 0.012 * rng.random(), y + 0.185, 2.5 + 0.02 * rng.random()),
                0.004,
                2.0,
            )
        )
        stock.boards.add(box((x, y - 0.024, 0.08), (x + 0.032, y + 0.020, 2.48), 0.004, 2.0))
        y += 0.192
    stock.boards.add(box((x - 0.1, 7.5, 2.52), (x + 0.22, 18.2, 2.62), 0.01, 2.0))
    stock.boards.add(box((x - 4, 7.5, 2.58), (x - 0.1, 18.2, 2.68), 0.01, 2.0))
