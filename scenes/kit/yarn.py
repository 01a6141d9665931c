"""Threads, ropes and single fibres as curves: rows of x, y, z and radius."""

import numpy as np

from scenes.kit.noise import wander


def write_curves(path, curves):
    """A B-spline file: one line a control point, a blank line between curves; four points make the shortest curve."""
    with path.open("w") as file:
        for curve in curves:
            if len(curve) >= 4:
                np.savetxt(file, curve, fmt="%.4f")
                file.write("\n")


def frames(centres, up):
    """Side, normal and length run of centre lines (m, n, 3), with ``up`` (m, n, 3) roughly their normals."""
    along = np.gradient(centres, axis=1)
    along /= np.linalg.norm(along, axis=-1, keepdims=True) + 1e-12
    side = np.cross(along, up)
    side /= np.linalg.norm(side, axis=-1, keepdims=True) + 1e-12
    steps = np.linalg.norm(np.diff(centres, axis=1), axis=-1)
    run = np.concatenate([np.zeros((len(centres), 1)), np.cumsum(steps, 1)], 1)
    return side, np.cross(side, along), run


def twisted(centres, up, count, wide, high, radius, pitch, seed=0, slub=0.12):
    """``count`` strands twisted round each centre line: (m, count, n, 4).

    The bundle is an ellipse ``wide`` in the plane and ``high`` across it; ``slub`` is how much its thickness drifts.
    """
    rng = np.random.default_rng(seed)
    side, normal, run = frames(centres, up)
    m, n = run.shape
    thick = np.exp(slub * wander(n, m, 40, seed + 1))
    turn = rng.random((m, 1)) * 2 * np.pi + 2 * np.pi * run / pitch * (1 + 0.08 * (thick - 1))
    out = np.empty((m, count, n, 4), np.float32)
    for k in range(count):
        t = turn + 2 * np.pi * k / count + 0.25 * rng.standard_normal((m, 1))
        q = thick * (1 + 0.06 * rng.standard_normal((m, 1)))
        across = ((wide - radius * 0.6) * q * np.cos(t))[..., None] * side
        out[:, k, :, :3] = (
            centres + across + ((high - radius * 0.6) * q * np.sin(t))[..., None] * normal
        )
        out[:, k, :, 3] = radius * q * (1 + 0.10 * rng.standard_normal((m, n)))
    return out


def hairs(strands, count, length, radius, seed=0, lift=1.0):
    """``count`` fly-away fibres that leave strands (m, k, n, 4): short, curved, tapering."""
    rng = np.random.default_rng(seed)
    m, k, n, _ = strands.shape
    i, j, at = rng.integers(0, m, count), rng.integers(0, k, count), rng.integers(2, n - 3, count)
    root = strands[i, j, at, :3]
    along = _unit(strands[i, j, at + 1, :3] - strands[i, j, at - 1, :3])
    out = _unit(root - strands[i, :, at, :3].mean(1))
    reach = (length * np.exp(0.5 * rng.standard_normal(count)))[:, None]
    way = rng.choice([-1, 1], count)[:, None]
    direction = _unit(
        along * way * 0.8
        + out * lift * rng.random((count, 1))
        + 0.5 * rng.standard_normal((count, 3))
    )
    bend = rng.standard_normal((count, 3)) * 0.7
    start = root - out * 0.01
    points = [start - direction * reach * 0.05, start]
    points += [
        root + direction * reach * s + bend * reach * s * s * 0.5 for s in (0.33, 0.66, 1.0, 1.2)
    ]
    radii = np.array([1, 1, 1, 0.9, 0.6, 0.3]) * radius
    centre = np.stack(points, 1)
    return list(
        np.concatenate([centre, np.broadcast_to(radii[None, :, None], (*centre.shape[:2], 1))], -1)
    )


def rope(path, radius, pitch, step, seed=0, hair=0.0, hair_length=0.0, hair_radius=0.0):
    """A three-strand laid rope along a smooth line: its strands and, ``hair`` to the unit of length, loose fibres."""
    line = np.asarray(path, float)
    run = np.r_[0, np.cumsum(np.linalg.norm(np.diff(line, axis=0), axis=1))]
    even = np.linspace(0, run[-1], max(8, int(run[-1] / step)))
    centre = np.stack([np.interp(even, run, line[:, k]) for k in range(3)], 1)
    up = np.broadcast_to([0.11, 0.07, 0.99], centre.shape)
    strands = twisted(
        centre[None], up[None], 3, radius, radius, radius * 0.56, pitch, seed, slub=0.03
    )
    loose = hairs(strands, int(run[-1] * hair), hair_length, hair_radius, seed) if hair else []
    return [strands[0, k] for k in range(3)], loose


def smooth(points, n):
    """A smooth line of n points through the given ones."""
    from scipy.interpolate import CubicSpline

    knots = np.asarray(points, float)
    run = np.r_[0, np.cumsum(np.linalg.norm(np.diff(knots, axis=0), axis=1) ** 0.5)]
    return CubicSpline(run, knots)(np.linspace(0, run[-1], n))


def _unit(v):
    return v / (np.linalg.norm(v, axis=-1, keepdims=True) + 1e-9)
