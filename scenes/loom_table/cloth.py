"""Herringbone check cloth on its roll, thread by thread: 2/2 twill whose direction turns every 16 warps."""

import numpy as np
from scipy.interpolate import CubicSpline
from scipy.ndimage import gaussian_filter1d, map_coordinates

from scenes.kit.mesh import grid, lathe, moved, place, rounded, write_ply
from scenes.kit.noise import field, ramp, wander
from scenes.kit.yarn import hairs, twisted, write_curves
from scenes.loom_table import layout as at

STRANDS, WIDE, HIGH, STRAND, TWIST = 5, 0.068, 0.046, 0.0235, 0.34
CRIMP = 0.048  # how far a thread rises over the ones it crosses
PER_CROSSING = 4  # samples
SHADES = (0.5, 0.3, 0.2)  # heathered: three shades of each dye, in these shares
HAIR = {"length": 0.16, "radius": 0.0022}
UNROLLED = np.radians(55)  # where the cloth leaves the roll


class Surface:
    """The cloth's middle plane: ``u`` along its length, ``v`` across, ``h`` above it."""

    def __init__(self):
        self.run, self.line = _profile()
        self.length = self.run[-1]
        along = np.gradient(self.line, axis=0)
        along /= np.linalg.norm(along, axis=1, keepdims=True)
        self.normal = np.stack([-along[:, 1], along[:, 0]], 1)
        if self.normal[1000, 1] < 0:
            self.normal = -self.normal
        self.buckles = field(256, 256, 3.2, along_y=2.6, seed=5)

    def at(self, u, v, h):
        """Places and normals in the scene."""
        y, z, ny, nz = (np.interp(u, self.run, a) for a in (*self.line.T, *self.normal.T))
        share = u / self.length
        soft = 0.16 * ramp(0.02, 0.12, share) * (1 - 0.75 * ramp(0.5, 0.62, share))
        where = [np.clip(share, 0, 1) * 200, np.clip(v / at.CLOTH_WIDTH, 0, 1) * 120]
        lift = h + np.maximum(
            map_coordinates(self.buckles, where, order=1, mode="nearest") * soft, -0.2
        )
        places = np.stack([v - at.CLOTH_WIDTH / 2, y + lift * ny, z + lift * nz], -1)
        return moved(at.CLOTH, places), np.stack([0 * u, ny, nz], -1) @ at.CLOTH[:3, :3].T


def _profile():
    """From the fringe: flat on the table, up the slope, over the roll. Returns the length run and (y, z)."""
    r, yc, zc = at.ROLL_RADIUS, at.ROLL_Y, at.ROLL_Z
    leaves = np.array([yc - r * np.cos(UNROLLED), zc + r * np.sin(UNROLLED)])
    down = np.array([-np.sin(UNROLLED), -np.cos(UNROLLED)])
    sags = ((5, (0, -0.15)), (10, (0, -0.25)), (15.2, (0, 0.1)), (18.8, (-0.3, 0.55)))
    knots = [leaves, *(leaves + down * s + sag for s, sag in sags)]
    knots[-1][1] = max(knots[-1][1], 0.6)
    knots += [[knots[-1][0] - 2.2, 0.32], [knots[-1][0] - 4.8, 0.27]]
    arc = [
        [yc - r * np.cos(a), zc + r * np.sin(a)] for a in np.linspace(UNROLLED, np.radians(205), 60)
    ]
    points = np.concatenate([np.array(knots[::-1])[:-1], arc])
    run = np.r_[0, np.cumsum(np.hypot(*np.diff(points, axis=0).T))]
    line = CubicSpline(run, points)(np.linspace(0, run[-1], 4000))
    line[:, 1] = np.where(line[:, 1] < 3, np.maximum(line[:, 1], 0.24), line[:, 1])
    line[:1800, 1] = gaussian_filter1d(line[:, 1], 60)[:1800]
    return np.r_[0, np.cumsum(np.hypot(*np.diff(line, axis=0).T))], line


def _between(values, x):
    """Cosine interpolation along rows: flat floats over the crossings, steep dives between them."""
    i = np.clip(np.floor(x).astype(int), 0, values.shape[1] - 2)
    t = 0.5 - 0.5 * np.cos(np.pi * np.clip(x - i, 0, 1))
    return values[:, i] * (1 - t) + values[:, i + 1] * t


def build(folder):
    surface = Surface()
    d, rng = at.THREAD, np.random.default_rng(3)
    warps, wefts = int(at.CLOTH_WIDTH / d), int(surface.length / d)
    i, j = np.meshgrid(np.arange(warps), np.arange(wefts), indexing="ij")
    up = ((np.where((i // 16) % 2 == 0, 1, -1) * i + j) % 4) < 2
    selvedge = (i < 4) | (i >= warps - 4)
    above = np.where(np.where(selvedge, (i + j) % 2 == 0, up), 1.0, -1.0)
    warp, cut = _warps(surface, above, rng)
    weft = _wefts(surface, above)
    shades = np.array(list(at.CHECK))
    groups = {}
    dyes = (
        shades[(np.arange(warps) + 20) % len(shades)],
        shades[(np.arange(wefts) + 8) % len(shades)],
    )
    choose = np.random.default_rng(11)
    for threads, colours, trim in ((warp, dyes[0], cut), (weft, dyes[1], np.zeros(wefts, int))):
        for n in range(len(threads)):
            for strand in threads[n]:
                groups.setdefault(f"{colours[n]}{choose.choice(3, p=SHADES)}", []).append(
                    strand[trim[n] :]
                )
        for dye in "cnrg":
            some = threads[colours == dye]
            if len(some):
                groups.setdefault(f"{dye}0", []).extend(
                    hairs(some, int(some.shape[0] * some.shape[2] * 0.12), **HAIR, seed=ord(dye))
                )
    _roll_end(groups, rng)
    for name, curves in groups.items():
        write_curves(folder / f"cloth_{name}.txt", curves)
    _beneath(folder, surface)


def _warps(surface, above, rng):
    """Along the cloth; they run on past the first weft as a fringe, each cut where it happens to be cut."""
    warps, wefts = above.shape
    d = at.THREAD
    x = np.arange(0, wefts - 1, 1 / PER_CROSSING)
    h = _between(above * CRIMP, x) + _between(0.006 * wander(wefts, warps, 1, 21), x)
    aside = 0.10 * d * wander(len(x), warps, 30, 22) + _between(
        0.05 * d * wander(wefts, warps, 1, 23), x
    )
    v = (np.arange(warps)[:, None] + 0.5) * d + aside
    fringe = np.arange(-1.0, 0, d / PER_CROSSING)
    n = len(fringe)
    u = np.broadcast_to(np.r_[fringe, (x + 0.5) * d], (warps, n + len(x)))
    spread = fringe[None, :] * rng.normal(0, 0.28, (warps, 1)) + fringe[None, :] ** 2 * rng.normal(
        0, 0.2, (warps, 1)
    )
    v = np.concatenate([v[:, :1] + spread, v], 1)
    h = np.concatenate(
        [np.linspace(0.0, 1, n)[None, :] ** 0.5 * h[:, :1] - 0.02 + 0 * spread, h], 1
    )
    places, normals = surface.at(np.maximum(u, 0), v, h)
    places = places + (u - np.maximum(u, 0))[..., None] * (at.CLOTH[:3, :3] @ np.array([0, 1, 0]))
    return twisted(places, normals, STRANDS, WIDE, HIGH, STRAND, TWIST, 1), rng.integers(
        0, n // 2, warps
    )


def _wefts(surface, above):
    warps, wefts = above.shape
    d = at.THREAD
    x = np.arange(0, warps - 1, 1 / PER_CROSSING)
    h = _between((-above * CRIMP).T, x) + _between(0.006 * wander(warps, wefts, 1, 31), x)
    aside = 0.12 * d * wander(len(x), wefts, 30, 32) + _between(
        0.05 * d * wander(warps, wefts, 1, 33), x
    )
    u = (np.arange(wefts)[:, None] + 0.5) * d + aside
    places, normals = surface.at(u, np.broadcast_to((x + 0.5) * d, u.shape) + 0, h)
    return twisted(places, normals, STRANDS, WIDE, HIGH, STRAND, TWIST, 2)


def _roll_end(groups, rng):
    """The wound layers as they show on the roll's right-hand end: the outer warps, and the wefts turning at the selvedge."""
    layer, d = 0.245, at.THREAD
    turn = [0.0]
    while at.ROLL_RADIUS - 0.2 - layer * turn[-1] / (2 * np.pi) >= 2.15:
        turn.append(turn[-1] + 0.05 / (at.ROLL_RADIUS - 0.2 - layer * turn[-1] / (2 * np.pi)))
    turn = np.array(turn)
    n = len(turn)
    radius = at.ROLL_RADIUS - 0.2 - layer * turn / (2 * np.pi) + 0.035 * wander(n, 1, 8, 41)[0]
    angle = turn + 1.2
    for m in range(4):
        v = at.CLOTH_WIDTH / 2 - d * (m + 0.5) + 0.05 * wander(n, 1, 10, 42 + m)[0]
        lift = CRIMP * 0.9 * np.where((np.arange(n) // 3 + m) % 2 == 0, 1, -1)
        out = np.stack([0 * angle, -np.cos(angle), np.sin(angle)], -1)
        places = np.stack(
            [
                v,
                at.ROLL_Y - (radius + lift) * np.cos(angle),
                at.ROLL_Z + (radius + lift) * np.sin(angle),
            ],
            -1,
        )
        threads = twisted(
            moved(at.CLOTH, places)[None],
            (out @ at.CLOTH[:3, :3].T)[None],
            STRANDS,
            WIDE,
            HIGH,
            STRAND,
            TWIST,
            30 + m,
        )
        for k in range(STRANDS):
            groups.setdefault(("c" if m else "g") + str(k % 3), []).append(threads[0, k])
        groups["c0"].extend(hairs(threads, 5000, 0.15, 0.0022, seed=90 + m))
    length = np.r_[0, np.cumsum(radius[:-1] * np.diff(turn))]
    bend = np.linspace(-1, 1, 6)
    for j in range(0, n, 3):
        a, r = angle[j] + bend * 0.055 / radius[j], radius[j] + 0.06 * bend
        v = at.CLOTH_WIDTH / 2 + rng.normal(0, 0.02) - 0.09 + 0.10 * (1 - bend**2)
        loop = moved(
            at.CLOTH, np.stack([v, at.ROLL_Y - r * np.cos(a), at.ROLL_Z + r * np.sin(a)], -1)
        )
        dye = at.CHECK[int(length[j] / d / 2) % len(at.CHECK)]
        groups.setdefault(f"{dye}{rng.integers(3)}", []).append(np.c_[loop, np.full(6, 0.036)])


def _beneath(folder, surface):
    """A dark sheet just below the cloth, so that no light leaks through, and what the cloth is rolled on."""
    u, v = np.meshgrid(
        np.linspace(0.3, surface.length, 300), np.linspace(0.15, at.CLOTH_WIDTH - 0.15, 80)
    )
    write_ply(
        folder / "underlay.ply", grid(surface.at(u, v, 0 * u - 0.085)[0], np.stack([u, v], -1))
    )
    half, axis = at.CLOTH_WIDTH / 2, at.CLOTH @ place((0, at.ROLL_Y, at.ROLL_Z), ry=90)
    core = [
        (0.01, -half + 0.5),
        (at.ROLL_RADIUS - 0.35, -half + 0.5),
        (at.ROLL_RADIUS - 0.35, half - 0.42),
        (2.0, half - 0.42),
    ]
    write_ply(folder / "roll_core.ply", lathe(core, 128).moved(axis))
    tube = rounded(
        [
            (1.55, half - 3),
            (1.55, half + 1.6),
            (1.98, half + 1.6),
            (1.98, half - 1),
            (1.98, half - 2),
        ],
        0.06,
    )
    write_ply(folder / "tube.ply", lathe(tube, 96, sub=3, ring=True).moved(axis))
    write_ply(
        folder / "tube_end.ply", lathe([(0.01, half - 2.9), (1.55, half - 2.9)], 64).moved(axis)
    )
