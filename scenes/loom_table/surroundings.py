"""The wall behind, the table top, the wood everything is made of."""

import numpy as np
from PIL import Image, ImageDraw
from scipy.ndimage import gaussian_filter

from scenes.kit.lettering import STENCIL, Sheet
from scenes.kit.mesh import grid, quad, write_ply
from scenes.kit.noise import colour, field, mix, ramp
from scenes.kit.surfaces import Bond, brickwork, wood, worn
from scenes.loom_table.layout import WALL_AT

PX = 64
WALL = (96, 36)
TABLE = (110, 52)
PLASTER_TO = -27.4
BRIDGE_AT = 20.0  # height of the stencil's bridges
KNOTS = ([(38, 6, 2.2)], [(72, 5, 1.8), (20, 9, 1.5)], [(60, 7.5, 2.5)], [(47, 4, 2.0)])


def wall(folder):
    brick = brickwork(*WALL, PX, Bond(length=19.5, height=6.5, joint=0.42, arris=0.5))
    h, w = brick.height.shape
    soot = ramp(0.2, 2.6, field(h, w, 3.0, along_y=0.35, seed=40))
    albedo = brick.albedo * (1 - 0.45 * soot)[..., None]
    sheet = Sheet(*WALL, PX)
    sheet.text(-5.6 + 48, 20.2 + 2, "WEFT STORE", STENCIL, 8.0, 0.58)
    letters = sheet.map()
    letters[np.abs(brick.z - 2 - BRIDGE_AT) < 0.20] = 0
    mist = (
        gaussian_filter(letters, 0.5 * PX)
        * 0.10
        * ramp(-0.5, 2, field(h, w, 0.6, low=0.05, seed=41))
    )
    paint = np.clip(
        worn(
            gaussian_filter(letters, 0.035 * PX),
            42,
            amount=-0.3 + 0.6 * (1 - brick.inside),
            scale=0.005,
        )
        * 0.93
        + mist,
        0,
        1,
    )
    albedo = mix(
        albedo,
        colour(0.78, 0.75, 0.66) * (1 + 0.05 * brick.coarse + 0.03 * brick.fine)[..., None],
        paint[..., None],
    )
    height = brick.height + 0.012 * paint
    bare = ramp(PLASTER_TO - 0.2, PLASTER_TO + 0.2, brick.x - 48 + 0.25 * field(h, w, 2.5, seed=44))
    plaster = (
        colour(0.46, 0.52, 0.44)
        * (1 + 0.018 * field(h, w, 2.6, seed=45) + 0.006 * brick.fine)[..., None]
    )
    albedo, height = (
        mix(plaster, albedo, bare[..., None]),
        mix(0.46 + 0.006 * field(h, w, 2.4, seed=46), height, bare),
    )
    np.save(folder / "brick_colour.npy", np.clip(albedo, 0.01, 0.95).astype(np.float16))
    np.save(folder / "brick_height.npy", (height - gaussian_filter(height, 2.5)).astype(np.float16))
    coarse = gaussian_filter(height, 1.2)[::4, ::4]
    x, z = np.meshgrid(
        (np.arange(coarse.shape[1]) * 4 + 0.5) / PX, (np.arange(coarse.shape[0]) * 4 + 0.5) / PX
    )
    points = np.stack([x - 48, WALL_AT - coarse, z - 2], -1)
    write_ply(folder / "brick.ply", grid(points, np.stack([x / WALL[0], z / WALL[1]], -1)))


def table(folder):
    """Four planks, scratched, with the rings of cups that stood there."""
    w, h = TABLE[0] * PX, TABLE[1] * PX
    albedo, height = np.zeros((h, w, 3), np.float32), np.zeros((h, w), np.float32)
    for i, knots in enumerate(KNOTS):
        y0, y1 = i * h // 4, (i + 1) * h // 4
        plank, relief = wood(
            y1 - y0, w, PX, 100 + 10 * i, (0.34, 0.215, 0.115), (0.17, 0.092, 0.042), 0.62, knots
        )
        y = np.arange(y1 - y0) / PX
        edge = np.minimum(y, (y1 - y0) / PX - y)[:, None]
        shade = 0.86 + 0.28 * np.random.default_rng(i).random()
        albedo[y0:y1] = plank * shade * (0.12 + 0.88 * ramp(0.02, 0.09, edge))[..., None]
        height[y0:y1] = relief - 0.16 * (1 - ramp(0.0, 0.14, edge))
    scratches = _scratches(w, h)
    albedo = mix(albedo, albedo * 1.35 + 0.03, (scratches * 0.7)[..., None])
    stain = field(h, w, 2.6, seed=201)
    albedo *= (1 - 0.25 * ramp(0.8, 2.2, stain))[..., None] * (1 + 0.06 * field(h, w, 2, seed=202))[
        ..., None
    ]
    y, x = ((np.arange(h) + 0.5) / PX)[:, None], ((np.arange(w) + 0.5) / PX)[None, :]
    for cx, cy, r in ((63, 14, 4.1), (88, 30, 3.6)):
        off = np.abs(np.hypot(x - cx, y - cy) - r) + 0.05 * stain
        albedo *= (
            1 - 0.45 * (1 - ramp(0.06, 0.28, off)) * ramp(-1.2, 0.6, field(h, w, 2.4, seed=204))
        )[..., None]
    rough = np.clip(
        0.42 + 0.06 * stain - 0.12 * scratches + 0.04 * field(h, w, 1.5, seed=203), 0.2, 0.8
    )
    for name, values in (
        ("colour", albedo),
        ("height", height - 0.012 * scratches),
        ("roughness", rough),
    ):
        np.save(folder / f"table_{name}.npy", values.astype(np.float16))
    write_ply(folder / "table.ply", quad([[-55, -26, 0], [55, -26, 0], [55, 26, 0], [-55, 26, 0]]))


def _scratches(w, h):
    rng, image = np.random.default_rng(2), Image.new("L", (w, h), 0)
    pen = ImageDraw.Draw(image)
    for _ in range(420):
        x, y, length, a = (
            rng.random() * w,
            rng.random() * h,
            rng.exponential(180),
            rng.normal(0, 0.7),
        )
        line = [x, y, x + length * np.cos(a), y + length * np.sin(a)]
        pen.line(line, fill=int(rng.integers(60, 255)), width=int(rng.integers(1, 4)))
    return gaussian_filter(np.asarray(image).astype(np.float32) / 255, 0.8)


def timber(folder):
    for name, light, dark, seed in (("beech", (0.52, 0.34, 0.17), (0.33, 0.18, 0.075), 300), ("pine", (0.40, 0.27, 0.14), (0.20, 0.11, 0.05), 320), ("dark", (0.12, 0.065, 0.035), (0.05, 0.026, 0.014), 340)):  # fmt: skip
        albedo, height = wood(1536, 3840, PX, seed, light, dark, 0.4, [(40, 10, 1.6)])
        np.save(folder / f"{name}_colour.npy", albedo.astype(np.float16))
        np.save(folder / f"{name}_height.npy", height.astype(np.float16))
