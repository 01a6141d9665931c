"""Painted surfaces: albedo and height maps, row 0 at the bottom. Lengths are in the scene's unit, ``px`` pixels to a unit."""

from dataclasses import dataclass

import numpy as np

from scenes.kit.noise import colour, field, mix, ramp


@dataclass(frozen=True)
class Bond:
    """A stretcher bond: pitch of a brick along and up, half a joint, and the arris's rounding."""

    length: float
    height: float
    joint: float
    arris: float


@dataclass
class Brickwork:
    """The maps of a wall and the fields that paint and plaster follow: 1 inside a brick, pits, and its own noises."""

    albedo: np.ndarray
    height: np.ndarray
    x: np.ndarray
    z: np.ndarray
    inside: np.ndarray
    pits: np.ndarray
    coarse: np.ndarray
    fine: np.ndarray


def brickwork(width, height, px, bond, seed=0):
    """Stretcher-bond brick, each brick with its own shade, set, chips and pits."""
    w, h, s = round(width * px), round(height * px), 100 * seed
    x, z = np.meshgrid(
        (np.arange(w, dtype=np.float32) + 0.5) / px, (np.arange(h, dtype=np.float32) + 0.5) / px
    )
    a = bond.arris
    wobble = [
        field(h, w, 2.1, low=0.03 / (px * bond.joint), high=0.12, seed=s + k) * a * 0.12
        for k in (1, 2)
    ]
    row = np.floor(z / bond.height).astype(int)
    along = x + (row % 2) * bond.length / 2 + 0.07 * bond.length * np.sin(row * 2.1)
    column = np.floor(along / bond.length).astype(int)
    u, v = along - column * bond.length, z - row * bond.height
    rng = np.random.default_rng(5 + seed).random((1999, 6)).astype(np.float32)
    each = rng[(row * 131 + column * 57) % 1999]
    du = np.minimum(u, bond.length - u) - bond.joint + wobble[0] - 0.25 * a * each[..., 3]
    dv = np.minimum(v, bond.height - v) - bond.joint + wobble[1] - 0.12 * a * each[..., 4]
    corner = (du < a) & (dv < a)
    depth = np.where(
        corner, a - np.hypot(np.minimum(du - a, 0), np.minimum(dv - a, 0)), np.minimum(du, dv)
    )
    inside, rim = ramp(-0.08 * a, 0.3 * a, depth), ramp(0, a, depth)
    coarse = field(h, w, 2.0, low=0.003, seed=s + 4)
    middle, fine = field(h, w, 1.3, low=0.015, seed=s + 3), field(h, w, 0.7, low=0.05, seed=s + 5)
    pits = ramp(1.3, 2.2, field(h, w, 1.0, low=0.03, high=0.2, seed=s + 6))
    mortar = field(h, w, 1.1, low=0.025, seed=s + 7)
    relief = (
        0.55
        + 0.25 * rim**0.5
        + 0.25 * (each[..., 0] - 0.5)
        + 0.02 * middle
        + 0.03 * coarse
        + 0.008 * fine
        - 0.14 * pits
    )
    tall = a * (inside * relief + (1 - inside) * (0.03 * mortar + 0.03 * coarse))
    clay = mix(colour(0.27, 0.088, 0.050), colour(0.40, 0.165, 0.088), each[..., 1][..., None])
    clay = mix(clay, colour(0.15, 0.058, 0.043), (each[..., 2] > 0.78)[..., None] * 0.75)
    clay = clay * (1 + 0.09 * coarse + 0.10 * middle + 0.08 * fine)[..., None]
    sand = colour(0.38, 0.35, 0.30) * (1 + 0.12 * coarse + 0.11 * mortar + 0.07 * fine)[..., None]
    albedo = mix(sand, clay, inside[..., None]) * (1 - 0.5 * pits * inside)[..., None]
    return Brickwork(albedo, tall, x, z, inside, pits, coarse, fine)


def wood(height, width, px, seed, light, dark, ring=0.5, knots=()):
    """Sawn softwood or hardwood, grain along x; ``knots`` are (x, y, strength)."""
    y, x = ((np.arange(height) + 0.5) / px)[:, None], ((np.arange(width) + 0.5) / px)[None, :]
    rings = y / ring + field(height, width, 2.6, along_x=9, seed=seed) * 1.0
    fibre = field(height, width, 1.0, along_x=45, low=0.01, seed=seed + 1)
    finer = field(height, width, 0.7, along_x=18, low=0.04, seed=seed + 2)
    for kx, ky, strength in knots:
        rings = rings + strength * np.exp(-(((x - kx) / 4.5) ** 2 + ((y - ky) / 1.6) ** 2))
    part = rings - np.floor(rings)
    late = ramp(0.35, 0.93, part) * (1 - ramp(0.95, 1.0, part))
    pores = ramp(
        1.25, 2.0, field(height, width, 0.6, along_x=22, low=0.05, high=0.35, seed=seed + 3)
    )
    albedo = mix(
        colour(*light), colour(*dark), (late * 0.75 + 0.12 * fibre + 0.05)[..., None].clip(0, 1.3)
    )
    albedo = (
        albedo
        * (
            1
            + 0.10 * fibre
            + 0.07 * finer
            + 0.08 * field(height, width, 2.8, along_x=2, seed=seed + 4)
        )[..., None]
    )
    for kx, ky, _ in knots:
        eye = np.hypot((x - kx) / 1.1, (y - ky) / 0.7) + 0.12 * finer
        albedo = mix(albedo, colour(*dark) * 0.35, (1 - ramp(0.5, 1.1, eye))[..., None] * 0.85)
    albedo = albedo * (1 - 0.5 * pores)[..., None]
    return albedo.clip(0.005, 0.9), 0.008 * late + 0.004 * fibre - 0.02 * pores + 0.002 * finer


def worn(mask, seed, amount=0.0, scale=0.012):
    """A painted mask (0..1) with the flaking of years: ``amount`` shifts from whole (-1) to gone (1)."""
    flake = field(*mask.shape, 1.5, low=scale, seed=seed)
    return mask * ramp(amount - 1.3, amount - 0.7, flake)
