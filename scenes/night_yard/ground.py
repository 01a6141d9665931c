"""The cobbled yard: domed stones in wandering rows, mud and moss between, wet, with a gutter and puddles."""

import numpy as np
from scipy.ndimage import gaussian_filter, map_coordinates

from scenes.kit.mesh import grid, write_ply
from scenes.kit.noise import colour, field, mix, ramp
from scenes.night_yard import layout as at

PX = 200
ROW, LENGTH, JOINT, ROUND = 0.128, 0.185, 0.005, 0.026
WATER = -0.0165


def build(folder):
    x0, x1, y0, y1 = at.COBBLES
    w, h = int((x1 - x0) * PX), int((y1 - y0) * PX)
    x, y = np.meshgrid(
        x0 + (np.arange(w, dtype=np.float32) + 0.5) / PX,
        y0 + (np.arange(h, dtype=np.float32) + 0.5) / PX,
    )
    tall, edge, each, across = _stones(x, y)
    rough, fine = field(h, w, 1.6, low=0.008, seed=5), field(h, w, 1.0, low=0.05, seed=6)
    broad, mud = field(h, w, 3.2, low=0.0006, seed=7), field(h, w, 1.4, low=0.01, seed=8)
    tall = np.where(edge > 0, tall + 0.00035 * rough + 0.00016 * fine, -0.010 + 0.002 * mud)
    gutter = -0.035 * np.exp(-(((across - at.GUTTER) / 0.35) ** 2))
    mirror = -0.030 * np.exp(
        -(((x - 2.45) / 1.25) ** 2) - ((y - 7.05) / 0.42) ** 2
    )  # the puddle that mirrors the lit window
    tall = tall + 0.018 * broad + gutter + mirror
    pool = ramp(0.0, 0.003, WATER - tall)
    tall = np.maximum(tall, WATER)
    albedo = mix(colour(0.052, 0.050, 0.050), colour(0.125, 0.118, 0.106), each[..., 5][..., None])
    albedo = mix(albedo, colour(0.095, 0.070, 0.052), (each[..., 6] > 0.8)[..., None] * 0.7)
    albedo = albedo * (1 + 0.13 * rough + 0.14 * fine + 0.08 * broad)[..., None]
    on_stone = ramp(-0.002, 0.006, edge)
    albedo = mix(
        colour(0.040, 0.035, 0.028) * (1 + 0.15 * mud)[..., None], albedo, on_stone[..., None]
    )
    moss = ramp(0.7, 1.9, field(h, w, 2.4, low=0.002, seed=9)) * ramp(0.006, -0.002, edge)
    albedo = mix(
        mix(albedo, colour(0.035, 0.048, 0.018), moss[..., None]),
        colour(0.018, 0.017, 0.016),
        pool[..., None] * 0.8,
    )
    wet = ramp(
        -0.8,
        1.3,
        field(h, w, 2.6, low=0.001, seed=10) + 0.35 * each[..., 7] + 0.5 * ramp(9.5, 7.0, y),
    )
    shine = np.clip(0.42 - 0.27 * wet + 0.05 * rough + 0.04 * fine, 0.10, 0.6)
    shine = mix(mix(0.55, shine, on_stone), 0.035, pool)
    np.save(folder / "ground_colour.npy", np.clip(albedo, 0.006, 0.5).astype(np.float16))
    np.save(folder / "ground_roughness.npy", shine.astype(np.float16))
    np.save(
        folder / "ground_height.npy",
        ((tall - gaussian_filter(tall, 1.8)) * (1 - pool)).astype(np.float16),
    )
    _mesh(folder, gaussian_filter(tall, 0.7))


def _stones(x, y):
    """Height, distance into the stone, each stone's own numbers, and the distance across the rows."""
    h, w = x.shape
    a = np.radians(-13)
    p = x * np.cos(a) + y * np.sin(a) + 0.006 * field(h, w, 2.6, low=0.002, seed=1)
    q = -x * np.sin(a) + y * np.cos(a) + 0.007 * field(h, w, 2.6, low=0.002, seed=2)
    row = np.floor(q / ROW).astype(int)
    of_row = np.random.default_rng(4).random((400, 4)).astype(np.float32)[row % 400]
    p = (
        p
        + 0.22 * of_row[..., 0]
        + 0.035 * np.sin(2 * np.pi * (p * 1.9 + of_row[..., 1]))
        + 0.02 * np.sin(2 * np.pi * (p * 3.1 + of_row[..., 2]))
    )
    column = np.floor(p / LENGTH).astype(int)
    u, v = p - column * LENGTH, q - row * ROW
    each = (
        np.random.default_rng(6)
        .random((2999, 8))
        .astype(np.float32)[(row * 173 + column * 61) % 2999]
    )
    du = np.minimum(u, LENGTH - u) - JOINT - 0.004 * each[..., 0]
    dv = np.minimum(v, ROW - v) - JOINT - 0.004 * each[..., 1]
    corner = (du < ROUND) & (dv < ROUND)
    edge = np.where(
        corner,
        ROUND - np.hypot(np.minimum(du - ROUND, 0), np.minimum(dv - ROUND, 0)),
        np.minimum(du, dv),
    )
    edge = edge + 0.0018 * field(h, w, 2.0, low=0.01, high=0.1, seed=3)
    dome = np.where(edge > 0, 1 - np.exp(-np.maximum(edge, 0) / 0.010), 0)
    lean = (
        (each[..., 2] - 0.5) * 0.07 * (u - LENGTH / 2)
        + (each[..., 3] - 0.5) * 0.10 * (v - ROW / 2)
        + 0.004 * np.cos(np.pi * (v / ROW - 0.5))
    )
    return -0.010 + 0.022 * dome + lean + 0.007 * (each[..., 4] - 0.5), edge, each, q


def _mesh(folder, tall):
    """Finer near the camera: rows a constant ratio of distance apart."""
    x0, x1, y0, y1 = at.COBBLES
    across = np.linspace(-0.62, 0.62, 2100)
    away = at.NEAREST * (20.0 / at.NEAREST) ** np.linspace(0, 1, 950)
    x, y = across[None, :] * away[:, None], np.repeat(away[:, None], 2100, 1)
    z = map_coordinates(tall, [(y - y0) * PX - 0.5, (x - x0) * PX - 0.5], order=1, mode="nearest")
    write_ply(
        folder / "ground.ply",
        grid(
            np.stack([x, y, z], -1),
            np.stack([(x - x0) / (x1 - x0), (y - y0) / (y1 - y0)], -1),
            (0, 0, 1),
        ),
    )
