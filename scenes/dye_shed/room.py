"""Walls, the wet flagged floor, beams, and the yard that is seen through the door."""

import numpy as np
from scipy.ndimage import gaussian_filter

from scenes.dye_shed import layout as at
from scenes.kit.lettering import STENCIL, Sheet
from scenes.kit.mesh import Mesh, box, grid, lathe, place, quad, rounded, write_ply
from scenes.kit.noise import colour, field, mix, ramp
from scenes.kit.surfaces import Bond, brickwork, wood, worn

PX = 9  # of the walls
RUBBLE = Bond(length=34.0, height=13.5, joint=0.8, arris=2.0)


def build(folder):
    _walls(folder)
    _floor(folder)
    _timber(folder)


def _wall_maps(width, height, seed, board=None):
    """Coursed stone under many coats of wash, dark with damp at its foot and with steam and soot above."""
    stone = brickwork(width, height, PX, RUBBLE, seed)
    h, w = stone.height.shape
    smooth = gaussian_filter(stone.height, 0.25 * PX)
    wash = colour(0.47, 0.45, 0.39) * (1 + 0.05 * stone.coarse + 0.03 * stone.fine)[..., None]
    bare = colour(0.20, 0.175, 0.145) * (1 + 0.15 * stone.coarse + 0.10 * stone.fine)[..., None]
    peel = field(h, w, 2.0, low=0.006, seed=seed + 7)
    damp = ramp(95, 5, stone.z + 22 * field(h, w, 2.6, seed=seed + 8))
    coat = ramp(1.15, 1.05, peel + 1.1 * damp)
    albedo = mix(bare, wash, coat[..., None])
    run = ramp(-0.2, 1.8, field(h, w, 1.6, along_x=0.25, along_y=7, seed=seed + 9)) * ramp(
        120, 290, stone.z
    )
    soot = 0.5 * ramp(150, 320, stone.z + 30 * stone.coarse)
    albedo = albedo * (1 - 0.55 * damp - soot * 0.7 - 0.2 * run).clip(0.12, 1)[..., None]
    moss = damp * ramp(0.6, 1.8, field(h, w, 2.2, seed=seed + 10))
    albedo = mix(albedo, colour(0.05, 0.065, 0.03), (0.6 * moss)[..., None])
    if board is not None:
        paint = worn(gaussian_filter(board, 0.8), seed + 11, amount=-0.35) * 0.8
        albedo = mix(albedo, colour(0.06, 0.055, 0.05), paint[..., None])
    return albedo.clip(0.01, 0.8), smooth + 0.25 * coat + 0.02 * stone.fine


def _walls(folder):
    width, height = at.RIGHT - at.LEFT, at.CEILING + 10
    sheet = Sheet(width, height, PX)
    sheet.text(99 - at.LEFT, 256, "DYE HOUSE 1", STENCIL, 24, 2.0)
    sheet.text(194 - at.LEFT, 150, "KEEP", STENCIL, 17, 1.2)
    sheet.text(194 - at.LEFT, 130, "DRY", STENCIL, 17, 1.2)
    _wall(
        folder,
        "back",
        _wall_maps(width, height, 11, sheet.map()),
        (at.LEFT, at.BACK),
        (1, 0),
        at.DOOR,
    )
    depth = at.BACK + 60
    _wall(folder, "left", _wall_maps(depth, height, 21), (at.LEFT, at.BACK), (0, -1))
    _wall(folder, "right", _wall_maps(depth, height, 31), (at.RIGHT, at.BACK), (0, -1))
    x0, x1, z0, z1 = at.DOOR
    stone = Mesh()
    for low, high in (((x0 - 16, at.BACK - 3, z0), (x0 + 0.5, at.BACK + at.REVEAL, z1)), ((x1 - 0.5, at.BACK - 3, z0), (x1 + 16, at.BACK + at.REVEAL, z1)), ((x0 - 26, at.BACK - 3.5, z1), (x1 + 26, at.BACK + at.REVEAL, z1 + 24))):  # fmt: skip
        stone.add(box(low, high, 1.2, grain=200))
    stone.add(box((x0 - 5, at.BACK - 6, -4), (x1 + 5, at.BACK + at.REVEAL, 3.5), 1.5, grain=200))
    stone.write(folder / "door_stone.ply")
    grain = field(700, 700, 1.6, low=0.006, seed=41)
    albedo = (
        colour(0.30, 0.26, 0.205)
        * (1 + 0.10 * grain + 0.07 * field(700, 700, 0.7, seed=42))[..., None]
    )
    np.save(folder / "stone_colour.npy", albedo.clip(0.02, 0.8).astype(np.float16))
    np.save(folder / "stone_height.npy", (0.08 * grain).astype(np.float16))


def _wall(folder, name, maps, start, along, hole=None):
    """A wall standing on the floor from ``start``, running ``along`` (x, y); its stones stick out into the room."""
    albedo, height = maps
    np.save(folder / f"{name}_colour.npy", albedo.astype(np.float16))
    step = 3
    coarse = gaussian_filter(height, 1.5)[::step, ::step]
    np.save(folder / f"{name}_height.npy", (height - gaussian_filter(height, 3)).astype(np.float16))
    rows, columns = coarse.shape
    s, z = np.meshgrid((np.arange(columns) * step + 0.5) / PX, (np.arange(rows) * step + 0.5) / PX)
    into = {"back": (0, -1), "left": (1, 0), "right": (-1, 0)}[name]
    points = np.stack(
        [
            start[0] + along[0] * s + into[0] * coarse,
            start[1] + along[1] * s + into[1] * coarse,
            z - 2,
        ],
        -1,
    )
    uv = np.stack([s / (albedo.shape[1] / PX), z / (albedo.shape[0] / PX)], -1)
    part = grid(points, uv, facing=(*into, 0))
    if hole:
        x0, x1, z0, z1 = hole
        c = part.vertices[part.faces]
        out = (c[..., 0] > x0) & (c[..., 0] < x1) & (c[..., 2] > z0 - 5) & (c[..., 2] < z1)
        part.faces = part.faces[~out.all(1)]
    write_ply(folder / f"{name}.ply", part)


def _floor(folder):
    """Stone flags, worn and wet: water stands in the joints and hollows and runs to a gutter."""
    px = 6.5
    x0, x1, y0, y1 = at.LEFT, at.RIGHT, -60.0, at.BACK + 50
    w, h = round((x1 - x0) * px), round((y1 - y0) * px)
    x, y = np.meshgrid(
        x0 + (np.arange(w, dtype=np.float32) + 0.5) / px,
        y0 + (np.arange(h, dtype=np.float32) + 0.5) / px,
    )
    bend = 0.8 * field(h, w, 2.6, low=0.002, seed=61)
    row_height = 47.0
    row = np.floor((y + bend) / row_height).astype(int)
    shade = np.random.default_rng(62).random((400, 6)).astype(np.float32)
    length = 58 + 34 * shade[row % 400, 0]
    along = x + bend + 300 * shade[row % 400, 1]
    column = np.floor(along / length).astype(int)
    u, v = along - column * length, y + bend - row * row_height
    each = shade[(row * 31 + column * 17) % 400]
    depth = (
        np.minimum(np.minimum(u, length - u), np.minimum(v, row_height - v))
        - 0.5
        + 0.25 * field(h, w, 1.8, low=0.01, seed=63)
    )
    flat = ramp(-0.2, 1.6, depth)
    coarse, fine = field(h, w, 2.2, low=0.003, seed=64), field(h, w, 1.1, low=0.02, seed=65)
    hollow = field(h, w, 3.2, low=0.0006, seed=66)
    lean = (each[..., 2] - 0.5) * 0.016 * (u - length / 2) + (each[..., 3] - 0.5) * 0.02 * (
        v - row_height / 2
    )
    gutter = -1.3 * np.exp(-(((x - 98 + 0.10 * (y - 300)) / 26) ** 2))
    tall = (
        flat * (1.1 + lean + 0.4 * (each[..., 4] - 0.5))
        + 0.10 * coarse
        + 0.03 * fine
        + 0.5 * hollow
        + gutter
    )
    level = 0.42
    pool = ramp(0.0, 0.10, level - tall)
    surface = np.maximum(tall, level)
    stone = mix(colour(0.105, 0.098, 0.090), colour(0.20, 0.185, 0.16), each[..., 5][..., None])
    stone = stone * (1 + 0.16 * coarse + 0.10 * fine)[..., None]
    stone = mix(colour(0.035, 0.032, 0.028), stone, flat[..., None])
    for cx, cy, r, tint in (
        (-74, 250, 60, (0.03, 0.045, 0.12)),
        (-190, 350, 45, (0.14, 0.03, 0.02)),
    ):
        spill = ramp(1.2, 0.2, np.hypot(x - cx, (y - cy) * 1.3) / r + 0.35 * coarse)
        stone = mix(stone, colour(*tint), (0.45 * spill)[..., None])
    wet = ramp(
        -0.9, 0.9, field(h, w, 2.6, low=0.001, seed=67) + 0.9 * np.exp(-(((x - 90) / 130) ** 2))
    )
    stone = stone * (1 - 0.40 * wet)[..., None]
    rough = mix(mix(0.55 + 0.05 * fine, 0.20 + 0.04 * fine, wet), 0.03, pool).clip(0.02, 0.7)
    np.save(
        folder / "floor_colour.npy",
        mix(stone, colour(0.016, 0.015, 0.014), (0.7 * pool)[..., None])
        .clip(0.004, 0.6)
        .astype(np.float16),
    )
    np.save(folder / "floor_roughness.npy", rough.astype(np.float16))
    np.save(
        folder / "floor_height.npy",
        ((surface - gaussian_filter(surface, 2.5)) * (1 - pool)).astype(np.float16),
    )
    s = gaussian_filter(surface, 1.2)[::3, ::3]
    gx, gy = x[::3, ::3], y[::3, ::3]
    uv = np.stack([(gx - x0) / (x1 - x0), (gy - y0) / (y1 - y0)], -1)
    write_ply(folder / "floor.ply", grid(np.stack([gx, gy, s - 1.2], -1), uv, (0, 0, 1)))


def _timber(folder):
    for name, light, dark, seed in (("oak", (0.19, 0.125, 0.07), (0.085, 0.052, 0.028), 71), ("grey", (0.27, 0.225, 0.17), (0.13, 0.10, 0.07), 81)):  # fmt: skip
        albedo, height = wood(900, 2200, 36, seed, light, dark, 0.55, [(18, 8, 1.6), (44, 15, 2.0)])
        np.save(folder / f"{name}_colour.npy", albedo.astype(np.float16))
        np.save(folder / f"{name}_height.npy", (1.6 * height).astype(np.float16))
    beams = Mesh()
    for y in (90, 292, 432, 575):
        beams.add(
            box(
                (at.LEFT, y - 11, at.CEILING - 40),
                (at.RIGHT, y + 11, at.CEILING - 12),
                1.0,
                grain=300,
                seed=y,
            )
        )
    for x in np.arange(at.LEFT, at.RIGHT, 24.0):
        beams.add(
            box(
                (x, -60, at.CEILING - 12),
                (x + 23.6, at.BACK, at.CEILING - 8),
                0.4,
                grain=300,
                seed=int(x - at.LEFT),
            )
        )
    for y, z, xa, xb in at.POLES:
        for x in (xa + 10, xb - 10):
            beams.add(
                box(
                    (x - 1.6, y - 2.2, z - 5),
                    (x + 1.6, y + 2.2, at.CEILING - 12),
                    0.5,
                    grain=200,
                    seed=3,
                )
            )
    x0, x1, y0, y1 = at.POST
    beams.add(box((x0, y0, 0), (x1, y1, at.CEILING - 10), 0.8, grain=260, seed=9))
    beams.write(folder / "beams.ply")
    write_ply(
        folder / "behind.ply",
        quad(
            [
                [at.LEFT, -60, 0],
                [at.RIGHT, -60, 0],
                [at.RIGHT, -60, at.CEILING],
                [at.LEFT, -60, at.CEILING],
            ]
        ),
    )


def outside(folder):
    """The sunlit yard beyond the door, rendered by itself and used as the light of the room."""
    from scenes.kit import renderer as r

    wall = brickwork(520, 420, 6, Bond(23, 7.6, 0.5, 0.8), seed=5)
    np.save(
        folder / "yard_wall_colour.npy", (0.75 * wall.albedo + 0.06).clip(0, 0.8).astype(np.float16)
    )
    np.save(folder / "yard_wall_height.npy", wall.height.astype(np.float16))
    write_ply(
        folder / "yard_wall.ply",
        quad([[-160, 1500, 0], [360, 1500, 0], [360, 1500, 420], [-160, 1500, 420]]),
    )
    h, w = 900, 900
    cobbles = field(h, w, 0.9, low=0.02, high=0.09, seed=91) + 0.5 * field(h, w, 2.4, seed=92)
    np.save(
        folder / "yard_floor_colour.npy",
        (colour(0.33, 0.30, 0.255) * (1 + 0.16 * cobbles)[..., None])
        .clip(0.03, 0.8)
        .astype(np.float16),
    )
    write_ply(
        folder / "yard_floor.ply",
        quad([[-300, 560, 0], [500, 560, 0], [500, 1500, 0], [-300, 1500, 0]]),
    )
    things = Mesh()
    for low, high in (((40, 1494, 0), (44, 1502, 200)), ((128, 1494, 0), (132, 1502, 200)), ((40, 1494, 196), (132, 1502, 202)), ((-60, 1490, 118), (20, 1504, 126)), ((180, 1490, 118), (262, 1504, 126))):  # fmt: skip
        things.add(box(low, high, 0.8))
    dark = Mesh().add(quad([[44, 1497, 0], [128, 1497, 0], [128, 1497, 198], [44, 1497, 198]]))
    for xa, xb in ((-56, 16), (184, 258)):
        dark.add(quad([[xa, 1498, 126], [xb, 1498, 126], [xb, 1498, 240], [xa, 1498, 240]]))
    for x in np.linspace(184, 258, 5):
        things.add(box((x - 1.1, 1493, 126), (x + 1.1, 1497, 240), 0.3))
    for z in np.linspace(126, 240, 7):
        things.add(box((184, 1493, z - 1.1), (258, 1497, z + 1.1), 0.3))
    things.write(folder / "yard_frames.ply")
    goods = Mesh()
    cask = rounded(
        [(0.01, 92), (27, 92), (28, 95), (31, 90), (36, 48), (31, 5), (28, 0), (0.01, 0)], 2
    )
    for x, y in ((112, 1290), (196, 1330), (70, 1420)):
        goods.add(lathe(cask, 48, sub=3), place((x, y, 0)))
        for z, r_ in ((6, 31.6), (26, 34.4), (62, 35.2), (82, 32.4)):
            dark.add(
                lathe(
                    [(r_, z), (r_ + 0.7, z + 0.3), (r_ + 0.7, z + 4.7), (r_, z + 5)], 48, ring=True
                ),
                place((x, y, 0)),
            )
    for x, z in ((236, 0), (241, 44)):
        goods.add(box((x, 1180, z), (x + 62, 1240, z + 43), 1.0))
    dark.write(folder / "yard_dark.ply")
    goods.write(folder / "yard_goods.ply")
    s = r.Stage(folder, at.CAMERA, depth=5)
    s.material(
        "wall",
        r.bumped(s.texture("yard_wall_height"), r.matt(r.bitmap(s.texture("yard_wall_colour")))),
    )
    s.material("floor", r.matt(r.bitmap(s.texture("yard_floor_colour"))))
    s.material("paint", r.coated(r.rgb(0.55, 0.54, 0.50), 0.5))
    s.material("dark", r.both_sides(r.coated(r.rgb(0.02, 0.05, 0.045), 0.4)))
    s.material("wood", r.matt(r.rgb(0.13, 0.085, 0.05)))
    for file, material in {
        "yard_wall": "wall",
        "yard_floor": "floor",
        "yard_frames": "paint",
        "yard_dark": "dark",
        "yard_goods": "wood",
    }.items():
        s.mesh(file, material)
    sun = np.array([-0.55, -0.48, 0.68]) * 6000
    s.add(
        "sun",
        {
            "type": "directional",
            "direction": [float(-v) for v in sun],
            "irradiance": r.rgb(7.2, 6.7, 5.9),
        },
    )
    s.add("sky", {"type": "constant", "radiance": r.rgb(0.75, 0.92, 1.2)})
    x0, x1, z0, z1 = at.DOOR
    # Seen from the camera through a window a little larger than the opening at the wall's outer face.
    s.camera = at.CAMERA
    scene = s.load(3000, 2000)
    picture = np.array(r.mi.render(scene, spp=24))
    corners = np.array(
        [[x0 - 6, at.BACK + at.REVEAL, z1 + 6], [x1 + 6, at.BACK + at.REVEAL, z0 - 6]]
    )
    (left, top), (right, bottom) = at.CAMERA.project(corners, 3000, 2000)
    seen = picture[int(top) : int(bottom), int(left) : int(right)][::-1]
    np.save(folder / "door_light.npy", np.minimum(seen, 6).astype(np.float16))
    write_ply(folder / "door_light.ply", quad([[x0 - 6, at.BACK + at.REVEAL, z0 - 6], [x1 + 6, at.BACK + at.REVEAL, z0 - 6], [x1 + 6, at.BACK + at.REVEAL, z1 + 6], [x0 - 6, at.BACK + at.REVEAL, z1 + 6]]))  # fmt: skip
