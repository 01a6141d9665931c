"""Three wooden bobbins, their yarn wound in crossing helices, one with a loose tail over the table."""

import numpy as np

from scenes.kit.mesh import lathe, moved, rounded, write_ply
from scenes.kit.yarn import hairs, smooth, twisted, write_curves
from scenes.loom_table.layout import BOBBINS

WIND = 0.125  # pitch of the close layers
YARN = {"count": 3, "wide": 0.058, "high": 0.055, "radius": 0.033, "pitch": 0.30, "slub": 0.07}
TAIL = [[2.0, -10.0, 4.0], [0.6, -12.6, 1.0], [-1.0, -15.2, 0.08], [-2.6, -18.4, 0.07], [-0.4, -20.0, 0.07], [1.0, -18.0, 0.07],
        [-0.8, -16.9, 0.2], [-3.2, -19.2, 0.07], [-4.6, -21.6, 0.07]]  # fmt: skip


def build(folder):
    rng = np.random.default_rng(21)
    for name, where, height, flange, core, wound, _ in BOBBINS:
        write_ply(
            folder / f"{name}_wood.ply",
            lathe(_spool(height, flange, core), 192, sub=4).moved(where),
        )
        inner = [
            (core, 1.2),
            (wound - 0.22, 1.45),
            (wound - 0.22, height - 1.45),
            (core, height - 1.2),
        ]
        write_ply(folder / f"{name}_core.ply", lathe(inner, 96, sub=3).moved(where))
        strands, loose, layers = [[], [], []], [], _layers(height, wound, rng)
        for i, line in enumerate(layers):
            out = line * [1, 1, 0]
            out /= np.linalg.norm(out, axis=1, keepdims=True)
            yarn = twisted(
                moved(where, line)[None], (out @ where[:3, :3].T)[None], **YARN, seed=40 + i
            )
            loose += hairs(yarn, int(len(line) * 0.22), 0.2, 0.0020, seed=i)
            for k in range(3):
                strands[k].append(yarn[0, k])
        if name == "b3":
            loose += _tail(strands, moved(where, layers[-1][-1]))
        for k in range(3):
            write_curves(folder / f"{name}_yarn{k}.txt", strands[k] + (loose if k == 0 else []))


def _spool(height, flange, core):
    h = height
    return rounded([(0.45, h - 0.9), (0.45, h), (flange * 0.82, h), (flange, h - 0.35), (flange, h - 0.75), (flange * 0.8, h - 1.05),
                    (core + 0.05, h - 1.2), (core, h - 1.35), (core, 1.35), (core + 0.05, 1.2), (flange * 0.8, 1.05), (flange, 0.75),
                    (flange, 0.15), (flange * 0.9, 0), (0.01, 0)], 0.16)  # fmt: skip


def _layers(height, wound, rng):
    """Two close traverses, then an open one that crosses them; slightly barrel-shaped, never quite even."""
    z0, z1 = 1.35, height - 1.35
    lines = []
    for i, pitch in enumerate((WIND * 1.02, -WIND * 1.05, 0.95)):
        turns = (z1 - z0) / abs(pitch) * (1 if i < 2 else 2.0)
        a = np.linspace(0, turns * 2 * np.pi, int(turns * 64))
        if i < 2:
            z = (z0 if pitch > 0 else z1) + pitch * a / (2 * np.pi)
        else:
            there_and_back = (a / (2 * np.pi) * pitch) % (2 * (z1 - z0))
            z = z0 + np.where(
                there_and_back < z1 - z0, there_and_back, 2 * (z1 - z0) - there_and_back
            )
        knots = np.linspace(0, a[-1], int(turns) * 2 + 8)
        wobble = [np.interp(a, knots, rng.standard_normal(len(knots))) for _ in range(2)]
        r = (
            wound
            - 0.16
            + i * WIND * 0.72
            + 0.10 * np.sin(np.pi * (z - z0) / (z1 - z0))
            + 0.012 * wobble[0]
        )
        lines.append(
            np.stack([r * np.cos(a), r * np.sin(a), np.clip(z + 0.016 * wobble[1], z0, z1)], -1)
        )
    return lines


def _tail(strands, start):
    line = smooth(np.array([start, *TAIL]), 900)
    line[:, 2] = np.maximum(line[:, 2], 0.065)
    yarn = twisted(line[None], np.broadcast_to([0, 0, 1.0], line.shape)[None], **YARN, seed=77)
    for k in range(3):
        strands[k].append(yarn[0, k])
    return hairs(yarn, 260, 0.2, 0.002, seed=9)
