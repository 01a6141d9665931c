"""Skeins on their poles, raw fleece in a tub, and a rope whose end has come apart."""

import numpy as np

from scenes.dye_shed import layout as at
from scenes.kit.mesh import Mesh, lathe, moved, place, write_ply
from scenes.kit.noise import wander
from scenes.kit.yarn import hairs, rope, smooth, twisted, write_curves

SHADES = 3  # of a dye in one skein


def skeins(folder):
    by_colour = {}
    poles = Mesh()
    for y, z, xa, xb in at.POLES:
        poles.add(
            lathe([(0.01, -0.1), (2.6, 0), (2.6, xb - xa), (0.01, xb - xa + 0.1)], 40, sub=4),
            place((xa, y, z), ry=90),
        )
    poles.write(folder / "poles.ply")
    for i, (pole, x, width, length, shade) in enumerate(at.SKEINS):
        y, z, _, _ = at.POLES[pole]
        strands = _skein(x, y, z, width, length, seed=300 + 10 * i)
        rng = np.random.default_rng(i)
        for yarn in strands:
            tone = by_colour.setdefault(f"{shade}_{rng.choice(SHADES, p=(0.55, 0.27, 0.18))}", [])
            tone.extend(yarn)
        by_colour[f"{shade}_0"].extend(hairs(strands, 2600, 1.1, 0.022, seed=i, lift=1.2))
    for name, curves in by_colour.items():
        write_curves(folder / f"skein_{name}.txt", curves)


def _skein(x, y, z, width, length, seed, yarns=185):
    """One hank laid over a pole: every yarn a closed loop, two-ply, tied loosely at a third of its height."""
    rng = np.random.default_rng(seed)
    u = np.sort(rng.uniform(-1, 1, yarns)) * (1 - 0.1 * rng.random(yarns) ** 4)
    layer = rng.random(yarns) ** 0.8 * 3.2
    drop = length * (1 + 0.035 * rng.standard_normal(yarns))
    n = 520
    t = np.linspace(0, 1, n)[None, :]
    top, bottom = 2.75 + layer[:, None], 1.6 + 0.8 * layer[:, None]
    # A stadium: over the pole, down the front, round the bottom, up the back.
    turn = np.where(t < 0.08, np.pi / 2 - t / 0.08 * np.pi / 2, 0)
    down = np.clip((t - 0.08) / 0.38, 0, 1)
    under = np.clip((t - 0.46) / 0.08, 0, 1)
    back = np.clip((t - 0.54) / 0.38, 0, 1)
    last = np.clip((t - 0.92) / 0.08, 0, 1)
    low = -drop[:, None]
    dy = np.where(t < 0.08, -top * np.cos(turn), np.where(t < 0.46, -top + (top - bottom) * down, np.where(t < 0.54, -bottom * np.cos(np.pi * under), np.where(t < 0.92, bottom + (top - bottom) * back, top * np.cos(last * np.pi / 2)))))  # fmt: skip
    dz = np.where(t < 0.08, top * np.sin(turn), np.where(t < 0.46, low * down, np.where(t < 0.54, low - bottom * np.sin(np.pi * under), np.where(t < 0.92, low * (1 - back), top * np.sin(last * np.pi / 2)))))  # fmt: skip
    height = np.clip(-dz / length, 0, 1)
    tied = 1 - 0.42 * np.exp(-(((height - 0.30) / 0.085) ** 2)) + 0.10 * np.sin(np.pi * height)
    dx = (
        u[:, None] * width / 2 * tied
        + 0.62 * wander(n, yarns, 38, seed + 1)
        + 0.16 * wander(n, yarns, 9, seed + 2)
    )
    dy = dy * (1 + 0.35 * np.exp(-(((height - 0.30) / 0.085) ** 2))) - 0.5 * np.abs(
        wander(n, yarns, 34, seed + 3)
    )
    centre = np.stack([x + dx, y + dy, z + dz], -1)
    up = np.broadcast_to([0.15, -1.0, 0.1], centre.shape)
    return twisted(centre, up, 2, 0.18, 0.18, 0.12, 1.4, seed + 4, slub=0.10)


def fleece(folder):
    """Locks of raw wool heaped in a shallow tub: a lock is a bundle of crimped fibres that share their wave."""
    rng = np.random.default_rng(41)
    locks, per_lock, n = 2600, 13, 34
    a = rng.random(locks) * 2 * np.pi
    r = 25.0 * np.sqrt(rng.random(locks))
    heap = 13.5 * (1 - (r / 30) ** 2) + 1.6 * rng.standard_normal(locks)
    root = np.stack([r * np.cos(a), 0.85 * r * np.sin(a), 5 + heap], 1)
    out = np.stack(
        [r * np.cos(a) / 26, r * np.sin(a) / 26, 0.30 + 0 * r], 1
    ) + 0.85 * rng.standard_normal((locks, 3))
    out /= np.linalg.norm(out, axis=1, keepdims=True)
    side = np.cross(out, rng.standard_normal((locks, 3)))
    side /= np.linalg.norm(side, axis=1, keepdims=True)
    other = np.cross(out, side)
    length = 5.5 * np.exp(0.3 * rng.standard_normal(locks))
    bend = 0.5 * rng.standard_normal((locks, 2))
    waves, phase = rng.uniform(3.5, 6.5, locks), rng.random(locks) * 6.28
    s = np.linspace(0, 1, n)
    curves = []
    for i in range(locks):
        fan = 0.20 * rng.standard_normal((per_lock, 2))
        own = 0.5 * rng.standard_normal((per_lock, 1))
        wave = (0.16 + 0.34 * s) * np.sin(2 * np.pi * waves[i] * s + phase[i] + own)
        across = fan[:, :1] * (0.4 + 1.1 * s) + wave + bend[i, 0] * length[i] * s**2 * 0.5
        beside = (
            fan[:, 1:] * (0.4 + 1.1 * s)
            + (0.14 + 0.30 * s) * np.cos(2 * np.pi * waves[i] * s + phase[i] + own)
            + bend[i, 1] * length[i] * s**2 * 0.5
        )
        run = length[i] * (1 + 0.12 * rng.standard_normal((per_lock, 1))) * (s - 0.15)
        points = (
            root[i]
            + run[..., None] * out[i]
            + across[..., None] * side[i]
            + beside[..., None] * other[i]
        )
        radius = 0.040 * (1 - 0.65 * s)
        curves.extend(
            np.concatenate(
                [moved(at.FLEECE, points), np.broadcast_to(radius[:, None], (per_lock, n, 1))], -1
            )
        )
    write_curves(folder / "fleece.txt", curves)
    heap_shape = [(0.01, 16.0), (8, 15.2), (16, 12.0), (22, 7.6), (26, 3.0)]
    write_ply(folder / "fleece_core.ply", lathe(heap_shape, 64, sub=6).moved(at.FLEECE))


def frayed_rope(folder):
    """A three-strand hemp rope hung over an iron hook; below its last turn the strands part into yarns and those into fibres."""
    hx, hy, hz = at.HOOK
    rng = np.random.default_rng(51)
    path = [[hx - 11, hy - 5, hz - 46], [hx - 12, hy - 5.5, hz - 30], [hx - 9, hy - 5, hz - 12], [hx - 3, hy - 6, hz + 1.0],
            [hx + 3, hy - 5.6, hz - 9], [hx + 5, hy - 5, hz - 34], [hx + 2, hy - 6, hz - 62], [hx - 8, hy - 7, hz - 72], [hx - 17, hy - 7, hz - 60],
            [hx - 17, hy - 6, hz - 36], [hx - 8, hy - 7, hz - 10], [hx + 0, hy - 8, hz + 2.8], [hx + 8, hy - 6.5, hz - 12], [hx + 10, hy - 6, hz - 50], [hx + 9, hy - 6, hz - 110]]  # fmt: skip
    line = smooth(path, 1600)
    whole, loose = rope(line, 1.35, 7.2, 0.35, seed=7, hair=34, hair_length=1.6, hair_radius=0.016)
    curves = [*whole, *loose]
    end, along = line[0], line[0] - line[30]
    along = along / np.linalg.norm(along)
    n = 22
    s = np.linspace(0, 1, n)
    for strand in range(3):
        angle = 2 * np.pi * strand / 3 + 0.5
        lean = np.array([np.cos(angle), 0.5 * np.sin(angle), 0])
        for _ in range(9):
            yarn_lean = lean * 0.42 + 0.22 * rng.standard_normal(3)
            reach = rng.uniform(9, 15)
            for _ in range(34):
                way = along + (yarn_lean + 0.16 * rng.standard_normal(3)) * s[:, None] ** 0.8
                curl = (
                    0.35
                    * rng.standard_normal(3)
                    * np.sin(2 * np.pi * rng.uniform(0.6, 1.8) * s + rng.random() * 6.28)[:, None]
                )
                start = end + 0.65 * lean + 0.25 * rng.standard_normal(3) - along * 2.5
                sag = np.array([0, 0, -1.0]) * (s**2)[:, None] * rng.uniform(0, 3)
                points = (
                    start
                    + way * (reach * np.exp(0.25 * rng.standard_normal())) * s[:, None]
                    + curl * s[:, None]
                    + sag
                )
                curves.append(np.c_[points, 0.026 * (1 - 0.55 * s)])
    write_curves(folder / "rope.txt", curves)
    # A whipping of dark twine keeps the rope from parting further.
    turns = np.linspace(0, 9 * 2 * np.pi, 400)
    back = line[10]
    side = np.cross(along, [0, 1, 0.2])
    side /= np.linalg.norm(side)
    other = np.cross(along, side)
    ring = (
        back
        + (turns / turns[-1] - 0.5)[:, None] * 2.6 * -along
        + 1.42 * (np.cos(turns)[:, None] * side + np.sin(turns)[:, None] * other)
    )
    write_curves(folder / "whipping.txt", [np.c_[ring, np.full(len(ring), 0.15)]])
