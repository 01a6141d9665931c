"""The mill: its brick, the gate with its carved lintel, windows dark and lit, gutters and slates."""

import numpy as np
from scipy.ndimage import distance_transform_edt, gaussian_filter

from scenes.kit.lettering import ENGRAVED, SIGN, STENCIL, Sheet
from scenes.kit.mesh import (
    Mesh,
    Part,
    box,
    grid,
    grid_faces,
    lathe,
    moved,
    place,
    quad,
    rounded,
    tube,
    write_ply,
)
from scenes.kit.noise import colour, field, mix, ramp
from scenes.kit.surfaces import Bond, brickwork, worn
from scenes.night_yard import layout as at

BRICK = Bond(length=0.235, height=0.078, joint=0.0055, arris=0.012)
OUT = (0, -1, 0)  # of the wall, in its own frame


def sooty(brick, seed):
    """A century of smoke above, rising damp at the foot."""
    h, w = brick.height.shape
    soot = ramp(-0.2, 2.4, field(h, w, 3.0, along_y=0.35, seed=seed))
    damp = 0.45 * ramp(0.9, 0.05, brick.z + 0.18 * field(h, w, 2.6, along_x=2, seed=seed + 1))
    return brick.albedo * (1 - 0.45 * soot)[..., None] * (1 - damp)[..., None]


def wall(folder):
    px = 300
    brick = brickwork(*at.MILL_SIZE, px, BRICK)
    albedo, (h, w) = sooty(brick, 8), brick.height.shape
    for x0, x1, z0, _ in at.OPENINGS[1:]:
        below = (
            np.exp(-(((brick.x - (x0 + x1) / 2) / ((x1 - x0) * 0.55)) ** 8))
            * ramp(z0, z0 - 0.05, brick.z)
            * ramp(z0 - 1.3, z0 - 0.1, brick.z)
        )
        albedo *= (
            1 - 0.35 * below * ramp(-0.3, 1.5, field(h, w, 1.6, along_x=0.25, along_y=6, seed=77))
        )[..., None]
    np.save(folder / "brick_colour.npy", np.clip(albedo, 0.01, 0.95).astype(np.float16))
    np.save(
        folder / "brick_height.npy",
        (brick.height - gaussian_filter(brick.height, 1.6)).astype(np.float16),
    )
    coarse = gaussian_filter(brick.height, 0.8)[::2, ::2]
    x, z = np.meshgrid(np.arange(coarse.shape[1]) * 2 / px, np.arange(coarse.shape[0]) * 2 / px)
    part = grid(
        np.stack([x, -coarse, z], -1), np.stack([x / at.MILL_SIZE[0], z / at.MILL_SIZE[1]], -1), OUT
    )
    corners = np.stack([x, z], -1).reshape(-1, 2)[part.faces]
    for x0, x1, z0, z1 in at.OPENINGS:
        hole = ((corners > (x0, z0)) & (corners < (x1, z1))).all((1, 2))
        part.faces, corners = part.faces[~hole], corners[~hole]
    write_ply(folder / "brick.ply", part.moved(at.MILL))
    far = brickwork(6.0, 2.1, 220, BRICK, seed=3)
    np.save(folder / "far_brick_colour.npy", (0.8 * sooty(far, 308)).astype(np.float16))
    np.save(folder / "far_brick_height.npy", far.height.astype(np.float16))


def details(folder):
    parts = {
        name: Mesh() for name in ("stone", "frame", "glass", "reveal", "iron", "slate", "gate_iron")
    }
    rng = np.random.default_rng(2)
    for i, opening in enumerate(at.OPENINGS):
        _reveal(parts["reveal"], opening, 0.36 if i == 0 else 0.13, rng)
        if i:
            _window(folder, parts, i, opening, rng)
    for i, (warm, gain, seen) in at.LIT.items():
        np.save(folder / f"lit{i}.npy", _interior(i, warm, gain, seen).astype(np.float16))
    _stonework(folder, parts["stone"], rng)
    _gate(folder, parts["gate_iron"])
    _sign(folder, parts["iron"])
    _roof(parts, rng)
    for name, mesh in parts.items():
        mesh.parts = [p.moved(at.MILL) for p in mesh.parts]
        mesh.write(folder / f"mill_{name}.ply")


def _block(x0, x1, z0, z1, y0, y1, bevel=0.006):
    return box((x0, y0, z0), (x1, y1, z1), bevel, grain=2.0)


def _reveal(mesh, opening, depth, rng):
    """The sides of an opening, in the wall's own brick."""
    x0, x1, z0, z1 = opening
    for (ax, az), (bx, bz) in (
        ((x0, z0), (x0, z1)),
        ((x1, z1), (x1, z0)),
        ((x0, z1), (x1, z1)),
        ((x1, z0), (x0, z0)),
    ):
        part = quad([[ax, -0.006, az], [bx, -0.006, bz], [bx, depth, bz], [ax, depth, az]])
        offset = rng.random() * 0.5
        part.uv = np.stack(
            [
                part.uv[:, 1] * depth / at.MILL_SIZE[0] + offset,
                part.uv[:, 0] * np.hypot(bx - ax, bz - az) / at.MILL_SIZE[1],
            ],
            -1,
        )
        mesh.add(part)


def _window(folder, parts, index, opening, rng):
    x0, x1, z0, z1 = opening
    parts["stone"].add(_block(x0 - 0.09, x1 + 0.09, z0 - 0.13, z0, -0.075, 0.12, 0.01))
    parts["stone"].add(_block(x0 - 0.16, x1 + 0.16, z1, z1 + 0.23, -0.018, 0.12, 0.008))
    wide, y0, y1, bar = 0.055, 0.055, 0.115, 0.011
    for side in (
        (x0, x0 + wide, z0, z1),
        (x1 - wide, x1, z0, z1),
        (x0, x1, z0, z0 + wide),
        (x0, x1, z1 - wide, z1),
    ):
        parts["frame"].add(_block(*side, y0, y1, 0.005))
    nx, nz = at.PANES
    pane_x, pane_z = (x1 - x0 - 2 * wide) / nx, (z1 - z0 - 2 * wide) / nz
    for j in range(1, nx):
        c = x0 + wide + j * pane_x
        parts["frame"].add(_block(c - bar, c + bar, z0, z1, y0 + 0.012, y1 - 0.012, 0.003))
    for j in range(1, nz):
        c, half = z0 + wide + j * pane_z, bar * (1.7 if j == nz // 2 else 1)
        parts["frame"].add(_block(x0, x1, c - half, c + half, y0 + 0.010, y1 - 0.010, 0.003))
    if index in at.LIT:
        write_ply(
            folder / f"lit{index}.ply",
            quad([[x0, 0.098, z0], [x1, 0.098, z0], [x1, 0.098, z1], [x0, 0.098, z1]]).moved(
                at.MILL
            ),
        )
        return
    for jx in range(nx):
        for jz in range(nz):  # no two panes lie in quite the same plane
            x, z, t = (
                x0 + wide + jx * pane_x,
                z0 + wide + jz * pane_z,
                rng.normal(0, 0.0022, 3) + 0.095,
            )
            corners = [
                [x, t[0], z],
                [x + pane_x, t[1], z],
                [x + pane_x, t[2] + t[1] - t[0], z + pane_z],
                [x, t[2], z + pane_z],
            ]
            parts["glass"].add(quad(corners))


def _interior(index, warm, gain, seen):
    """What a lit window shows, as painted light: a lamp, and dark shapes before it."""
    x0, x1, z0, z1 = at.OPENINGS[index]
    px = 420
    sheet = Sheet(x1 - x0, z1 - z0, px)
    sx, sz = x1 - x0, z1 - z0
    h, w = sheet.map().shape

    def shape(left, low, right, high, ink):
        sheet.rectangle(left * sx, low * sz, right * sx, high * sz, ink)

    lamp = {"loom": (0.46, 0.76), "shelf": (0.68, 0.70), "blind": (0.3, 0.35)}[seen]
    if seen == "loom":
        for bar in ((0.08, 0, 0.14, 0.58, 210), (0.70, 0, 0.77, 0.60, 210), (0.05, 0.42, 0.82, 0.47, 190), (0.1, 0.27, 0.75, 0.31, 170), (0, 0.90, 1, 0.93, 120), (0.42, 0.5, 0.44, 1, 90)):  # fmt: skip
            shape(*bar)
        for k in range(26):
            shape(0.16 + 0.021 * k, 0.12, 0.163 + 0.021 * k, 0.42, 110)
        sheet.circle(0.89 * sx, 0.66 * sz, 0.09 * sx, 200, line=0.02)
    elif seen == "shelf":
        rng = np.random.default_rng(7)
        for k in range(3):
            shape(0, 0.18 + 0.2 * k, 0.62, 0.20 + 0.2 * k, 180)
            x = 0.02
            while x < 0.58:
                wide = 0.03 + 0.05 * rng.random()
                shape(
                    x,
                    0.20 + 0.2 * k,
                    x + wide,
                    0.26 + 0.2 * k + 0.09 * rng.random(),
                    int(90 + 110 * rng.random()),
                )
                x += wide + 0.01
        shape(0.72, 0, 0.97, 0.5, 150)
    else:
        shape(0, 0.62, 1, 1, 150)
        shape(0.49, 0.4, 0.51, 0.62, 60)
    x, z = np.meshgrid(np.linspace(0, 1, w), np.linspace(0, 1, h))
    dark = gaussian_filter(sheet.map(), 2.5)
    far = ((x - lamp[0]) * sx) ** 2 + ((z - lamp[1]) * sz) ** 2
    light = (0.22 + 0.40 * ramp(0.05, 0.95, z) + 0.03 * field(h, w, 2.8, seed=90 + index)) * (
        1 - 0.93 * dark
    )
    light += 1.1 * np.exp(-far / 0.07) * (1 - 0.75 * dark) + (
        9 * np.exp(-far / 0.0016) if seen != "blind" else 0
    )
    nx, nz = at.PANES
    panes = np.random.default_rng(index).uniform(0.78, 1.08, (nz, nx))
    light *= panes[(z * nz).clip(0, nz - 1).astype(int), (x * nx).clip(0, nx - 1).astype(int)]
    grime = 1 - 0.12 * ramp(0.2, 1.8, field(h, w, 2.2, seed=60 + index))
    return (light * gain * grime)[..., None] * colour(*warm)


def _sandstone(width, height, px, seed, words=None):
    """Weathered stone; with words, V-cut lettering in which old pale paint is left."""
    w, h = round(width * px), round(height * px)
    rough, fine = field(h, w, 1.8, low=0.004, seed=seed), field(h, w, 0.7, seed=seed + 1)
    tooling = field(h, w, 1.0, along_x=0.35, along_y=5, low=0.02, seed=seed + 2)
    albedo = colour(0.40, 0.35, 0.27) * (1 + 0.10 * rough + 0.07 * fine)[..., None]
    albedo = albedo * (1 - 0.35 * ramp(-0.6, 2.2, field(h, w, 2.8, seed=seed + 3)))[..., None]
    tall = 0.0010 * tooling + 0.0007 * rough
    if words:
        sheet = Sheet(width, height, px)
        sheet.text(width / 2, height / 2, words, ENGRAVED, 0.335, 0.03)
        cut = sheet.map()
        tall = tall - np.minimum(distance_transform_edt(cut > 0.5) / px * 0.9, 0.016) * (cut > 0.02)
        paint = worn(gaussian_filter(cut, 0.8), seed + 4, amount=-0.6) * 0.92
        albedo = mix(
            albedo * 0.55,
            colour(0.70, 0.64, 0.50) * (1 + 0.08 * rough + 0.05 * fine)[..., None],
            paint[..., None],
        )
    return albedo, tall


def _stonework(folder, stone, rng):
    x0, x1, z0, z1 = at.GATE
    width, height, px = x1 - x0 + 0.62, 0.50, 420
    albedo, tall = _sandstone(width, height, px, 11, "HARROWBECK")
    np.save(folder / "lintel_colour.npy", albedo.astype(np.float16))
    np.save(folder / "lintel_height.npy", (tall - gaussian_filter(tall, 2)).astype(np.float16))
    coarse = gaussian_filter(tall, 0.8)[::2, ::2]
    gx, gz = np.meshgrid(np.arange(coarse.shape[1]) * 2 / px, np.arange(coarse.shape[0]) * 2 / px)
    lintel = grid(
        np.stack([gx + x0 - 0.31, -0.055 - coarse, gz + z1], -1),
        np.stack([gx / width, gz / height], -1),
        OUT,
    )
    write_ply(folder / "lintel.ply", lintel.moved(at.MILL))
    stone.add(_block(x0 - 0.31, x1 + 0.31, z1 - 0.002, z1 + height + 0.002, -0.0535, 0.36, 0.012))
    albedo, tall = _sandstone(2.0, 0.8, 256, 31)
    np.save(folder / "stone_colour.npy", albedo.astype(np.float16))
    np.save(folder / "stone_height.npy", tall.astype(np.float16))
    step = (z1 - z0) / 7
    for side, sign in ((x0, -1), (x1, 1)):
        for k in range(7):
            end = side + sign * (0.30 if k % 2 else 0.20)
            stone.add(
                _block(
                    min(side, end),
                    max(side, end),
                    z0 + k * step + 0.004,
                    z0 + (k + 1) * step - 0.004,
                    -0.022,
                    0.36,
                    0.008,
                )
            )
    x = -0.05
    while x < at.MILL_SIZE[0]:
        end = min(x + 1.1 + 0.3 * rng.random(), at.MILL_SIZE[0])
        stone.add(
            _block(
                x + 0.003,
                end - 0.003,
                at.STRING_COURSE,
                at.STRING_COURSE + 0.15,
                -0.05,
                0.05,
                0.008,
            )
        )
        x = end
    stone.add(
        _block(-0.02, at.MILL_SIZE[0], -0.2, 0.03, -0.012, 0.4)
    )  # a footing, over the uneven ground
    for k in range(11):
        stone.add(
            _block(
                -0.02, 0.42 if k % 2 else 0.26, 0.02 + k * 0.56, 0.572 + k * 0.56, -0.02, 0.3, 0.012
            )
        )


def _gate(folder, iron):
    """Two leaves of planks, green paint peeling, a stencil across both."""
    x0, x1, z0, z1 = at.GATE
    width, px, plank = x1 - x0, 420, 0.145
    sheet = Sheet(width, z1 - z0, px)
    sheet.text(width / 2, 1.62, "YARD GATE 3", STENCIL, 0.27, 0.035)
    letters = sheet.map()
    h, w = letters.shape
    grain, patchy = field(h, w, 1.3, along_y=22, low=0.01, seed=70), field(h, w, 2.2, seed=71)
    fine = field(h, w, 0.8, along_y=6, seed=72)
    x, z = (np.arange(w) + 0.5) / px, ((np.arange(h) + 0.5) / px)[:, None]
    board = np.floor(x / plank).astype(int)
    to_edge = np.minimum(x - board * plank, plank - (x - board * plank))
    gap = np.maximum(ramp(0.005, 0.0015, to_edge), np.abs(x - width / 2) < 0.006)[None]
    each = np.random.default_rng(8).random((60, 3))[board]
    tall = -0.010 * gap + 0.0006 * grain + (0.004 * (each[:, 0] - 0.5))[None]
    green = (
        colour(0.052, 0.085, 0.066)
        * (1 + 0.10 * grain + 0.08 * fine + 0.15 * (each[:, 1] - 0.5)[None])[..., None]
    )
    bare = colour(0.16, 0.125, 0.09) * (1 + 0.15 * grain + 0.12 * fine)[..., None]
    albedo = mix(
        green, bare, ramp(0.7, 1.3, 0.6 * grain + 0.8 * patchy + 0.7 * ramp(0.5, 0.0, z))[..., None]
    )
    letters[np.abs(z[:, 0] - 1.62) < 0.010] = 0
    paint = (
        gaussian_filter(letters, 0.9)
        * ramp(-1.6, -0.6, patchy + 0.5 * grain)
        * (1 - 0.8 * gap)
        * 0.88
    )
    albedo = (
        mix(albedo, colour(0.62, 0.60, 0.52) * (1 + 0.08 * grain)[..., None], paint[..., None])
        * (1 - 0.75 * gap)[..., None]
    )
    np.save(folder / "gate_colour.npy", np.clip(albedo, 0.005, 0.9).astype(np.float16))
    np.save(folder / "gate_height.npy", tall.astype(np.float16))
    write_ply(
        folder / "gate.ply",
        quad([[x0, 0.26, z0], [x1, 0.26, z0], [x1, 0.26, z1], [x0, 0.26, z1]]).moved(at.MILL),
    )
    stud = lathe([(0.001, 0.012), (0.010, 0.010), (0.014, 0)], 12)
    for strap in (0.42, 1.25, 2.28):
        for a, b in ((x0 + 0.03, x0 + 1.12), (x1 - 1.12, x1 - 0.03)):
            iron.add(_block(a, b, strap - 0.028, strap + 0.028, 0.245, 0.262, 0.004))
            for t in np.linspace(a + 0.08, b - 0.06, 5):
                iron.add(stud, place((t, 0.245, strap), rx=90))
    ring = rounded([(0.038, 0), (0.05, 0), (0.05, 0.012), (0.038, 0.012)], 0.004)
    iron.add(lathe(ring, 24, ring=True), place((x0 + width / 2 + 0.1, 0.235, 1.18), rx=90))


def _sign(folder, iron):
    x, z, width = at.SIGN
    height, px = width * 0.72, 520 / width
    sheet = Sheet(width, height, px)
    sheet.rectangle(0.009, 0.009, width - 0.009, height - 0.009, line=0.0055)
    for words, y, size in (
        ("WEFT & WARP STORES", 0.76, 0.032),
        ("RING BELL TWICE", 0.50, 0.029),
        ("CARTS WALK HORSES", 0.25, 0.027),
    ):
        sheet.text(width / 2, height * y, words, SIGN, size, 0.0015)
    white = sheet.map()
    albedo = mix(colour(0.003, 0.009, 0.041), colour(0.80, 0.75, 0.61), white[..., None])
    rust = ramp(1.5, 2.2, field(*white.shape, 2.0, seed=80))
    np.save(
        folder / "sign_colour.npy",
        mix(albedo, colour(0.16, 0.06, 0.025), rust[..., None]).astype(np.float16),
    )
    corners = [
        [x, -0.028, z],
        [x + width, -0.028, z],
        [x + width, -0.028, z + height],
        [x, -0.028, z + height],
    ]
    write_ply(folder / "sign.ply", quad(corners).moved(at.MILL))
    iron.add(
        _block(x - 0.004, x + width + 0.004, z - 0.004, z + height + 0.004, -0.0275, -0.005, 0.003)
    )


def _roof(parts, rng):
    iron, (width, height) = parts["iron"], at.MILL_SIZE
    t = np.linspace(np.pi, 2 * np.pi, 14)
    ends = np.array([-0.15, width])
    gutter = np.stack(
        np.broadcast_arrays(
            ends[:, None], 0.075 * np.cos(t)[None] - 0.09, 0.075 * np.sin(t)[None] + height + 0.02
        ),
        -1,
    )
    iron.add(Part(gutter.reshape(-1, 3), grid_faces(2, 14)))
    for x in np.arange(0.3, width, 0.9):
        iron.add(_block(x, x + 0.03, height - 0.12, height + 0.03, -0.17, 0, 0.004))
    for x in at.PIPES:
        down = (
            (-0.09, height - 0.05),
            (-0.085, height - 0.2),
            (-0.075, height - 0.4),
            (-0.075, 2),
            (-0.075, 0.25),
            (-0.11, 0.12),
            (-0.2, 0.06),
        )
        iron.add(tube([[x, y, z] for y, z in down], 0.045, 18))
        collar = lathe(
            rounded([(0.045, 0), (0.058, 0), (0.058, 0.07), (0.045, 0.07)], 0.006), 24, ring=True
        )
        for z in np.arange(0.6, height - 0.3, 1.25):
            iron.add(collar, place((x, -0.075, z)))
            iron.add(_block(x - 0.09, x + 0.09, z + 0.015, z + 0.055, -0.04, 0, 0.004))
    pitch = np.radians(36)
    up, off = (
        np.array([0, np.cos(pitch), np.sin(pitch)]),
        np.array([0, -np.sin(pitch), np.cos(pitch)]),
    )
    for course in range(28):  # each a little proud of the next
        for j in range(int(width / 0.31) + 2):
            left = -0.2 + 0.31 * j - (course % 2) * 0.155
            right, left = min(left + 0.305, width), max(left, -0.2)
            if right - left < 0.03:
                continue
            low = (
                np.array([0, -0.10, height + 0.06])
                + up * course * 0.23
                + off * (0.012 + 0.006 * rng.random())
            )
            slate = np.array(
                [low, low, low + up * 0.25 - off * 0.012, low + up * 0.25 - off * 0.012]
            )
            slate[:, 0] = [left, right, right, left]
            parts["slate"].add(quad(slate))


def on_wall(x, y, z):
    """A place in the mill's frame, in the scene."""
    return moved(at.MILL, np.array([x, y, z], float))
