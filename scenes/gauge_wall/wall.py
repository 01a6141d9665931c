"""The wall: lime-washed brick with a stencil on the left, a plain plastered pier on the right, a tarred foot."""

import numpy as np
from scipy.ndimage import gaussian_filter

from scenes.gauge_wall import layout
from scenes.kit.lettering import STENCIL, Sheet
from scenes.kit.mesh import grid, write_ply
from scenes.kit.noise import colour, field, mix, ramp
from scenes.kit.surfaces import Bond, brickwork, worn

PX = 26
BOND = Bond(length=23.0, height=7.6, joint=0.5, arris=0.55)


def build(folder):
    x0, x1, z0, z1 = layout.WALL
    brick = brickwork(x1 - x0, z1 - z0, PX, BOND, seed=2)
    x, z = brick.x + x0, brick.z + z0
    albedo, height = _lime_wash(brick, z)
    albedo, height = _stencil(brick, albedo, height, z)
    albedo, height = _plaster(brick, albedo, height, x, z)
    albedo = _weather(albedo, x, z)
    np.save(folder / "wall_colour.npy", np.clip(albedo, 0.008, 0.9).astype(np.float16))
    # The coarse shape is true geometry, for shadows; what is finer than the grid goes into the bump map.
    coarse = gaussian_filter(height, 1.1)[::2, ::2]
    np.save(folder / "wall_height.npy", (height - gaussian_filter(height, 2.2)).astype(np.float16))
    gx, gz = np.meshgrid(
        (np.arange(coarse.shape[1]) * 2 + 0.5) / PX, (np.arange(coarse.shape[0]) * 2 + 0.5) / PX
    )
    points = np.stack([gx + x0, -coarse, gz + z0], -1)
    write_ply(
        folder / "wall.ply",
        grid(points, np.stack([gx / (x1 - x0), gz / (z1 - z0)], -1), facing=(0, -1, 0)),
    )


def _lime_wash(brick, z):
    """Many coats, brushed across; thin on the arrises, flaked off where damp has got behind it."""
    h, w = brick.height.shape
    brush = field(h, w, 1.2, along_x=14, low=0.01, seed=71)
    lumps = field(h, w, 1.6, low=0.01, high=0.15, seed=72)
    damp = ramp(42, 8, z + 9 * field(h, w, 2.8, seed=73))
    flake = field(h, w, 2.3, low=0.004, seed=74) + 0.10 * field(h, w, 1.0, low=0.03, seed=75)
    coat = 1 - ramp(1.93, 1.98, flake + 0.62 * damp)
    old = 1 - ramp(1.74, 1.79, flake + 0.60 * damp)  # an older coat shows around the bare places
    filled = gaussian_filter(brick.height + 0.05 * brick.pits, 0.16 * PX)
    white = (
        colour(0.80, 0.775, 0.70)
        * (1 + 0.018 * brush + 0.02 * lumps + 0.01 * brick.fine)[..., None]
    )
    cream = colour(0.62, 0.55, 0.42) * (1 + 0.05 * lumps + 0.04 * brick.fine)[..., None]
    thin = 0.09 * ramp(0.6, 2.2, brush) * brick.inside
    coated = mix(mix(cream, white, old[..., None]), brick.albedo, (thin * old)[..., None])
    albedo = mix(brick.albedo, coated, coat[..., None])
    height = mix(
        brick.height,
        filled + 0.05 + 0.02 * old + 0.007 * brush + 0.014 * lumps + 0.0012 * brick.fine,
        coat,
    )
    return albedo, height


def _stencil(brick, albedo, height, z):
    h, w = height.shape
    x0, x1, z0, z1 = layout.WALL
    sheet = Sheet(x1 - x0, z1 - z0, PX)
    for words, cx, cz, size, track in (
        ("BOILER HOUSE", -47.5, 85.5, 13.0, 0.8),
        ("NO 2", -66.5, 68.0, 8.0, 0.5),
    ):
        sheet.text(cx - x0, cz - z0, words, STENCIL, size, track)
    mask = sheet.map()
    for bridge in (85.5, 68.0):  # a stencil's letters are held together by bridges
        mask[np.abs(z - bridge) < 0.34] = 0
    soft = gaussian_filter(mask, 0.05 * PX)
    mist = (
        gaussian_filter(mask, 0.6 * PX) * 0.08 * ramp(-0.5, 2, field(h, w, 0.6, low=0.05, seed=81))
    )
    paint = worn(soft, 82, amount=-0.65 - 0.25 * brick.coarse) * 0.94 + mist
    black = colour(0.030, 0.029, 0.031) * (1 + 0.10 * brick.fine + 0.08 * brick.coarse)[..., None]
    return mix(albedo, black, np.clip(paint, 0, 1)[..., None]), height + 0.01 * paint


def _plaster(brick, albedo, height, x, z):
    h, w = height.shape
    border = (
        x + 0.35 * field(h, w, 2.4, low=0.004, seed=91) + 0.10 * field(h, w, 1.2, low=0.02, seed=92)
    )
    on = ramp(layout.PLASTER_FROM - 0.12, layout.PLASTER_FROM + 0.12, border)
    trowel = field(h, w, 2.8, along_x=2, seed=93)
    grain = field(h, w, 0.9, low=0.04, seed=94)
    wash = colour(0.66, 0.59, 0.44) * (1 + 0.010 * trowel + 0.004 * grain)[..., None]
    # Smoothed by hand in the middle of the pier, so that there is a plain patch to measure noise on.
    rubbed = 1 - 0.88 * ramp(25, 33, x)
    shape = 1.15 + rubbed * (0.025 * trowel + 0.0012 * grain)
    cracks = (
        np.abs(field(h, w, 2.3, low=0.002, seed=95)) < 0.010
    )  # fine map cracking, only near the border
    cracks = gaussian_filter(cracks.astype(np.float32), 0.6) * ramp(11, 1, x - layout.PLASTER_FROM)
    wash, shape = wash * (1 - 0.6 * cracks)[..., None], shape - 0.05 * cracks
    albedo, height = mix(albedo, wash, on[..., None]), mix(height, shape, on)
    line = z + 0.12 * field(h, w, 2.4, low=0.004, along_x=3, seed=96)
    tar = ramp(layout.TAR_BELOW + 0.1, layout.TAR_BELOW - 0.1, line)
    return mix(
        albedo, colour(0.028, 0.026, 0.025) * (1 + 0.15 * brick.coarse)[..., None], tar[..., None]
    ), height + 0.03 * tar


def _weather(albedo, x, z):
    """Rust below iron, soot towards the top, splashes above the tarred foot."""
    h, w = x.shape
    streaks = ramp(-0.4, 1.6, field(h, w, 1.7, along_x=0.22, along_y=7, seed=101))
    for sx, top, length, width in (
        (-71.5, 27.5, 17, 1.6),
        (-34.6, 25.5, 14, 1.3),
        (-6, 38, 10, 2.5),
    ):
        run = (
            np.exp(-(((x - sx) / width) ** 2))
            * ramp(top - length, top - 1, z)
            * ramp(top + 0.2, top - 0.4, z)
        )
        albedo = mix(albedo, albedo * colour(0.62, 0.40, 0.24), (0.75 * run * streaks)[..., None])
    soot = ramp(78, 112, z + 9 * field(h, w, 2.8, along_x=2, seed=102)) * 0.10
    splash = ramp(24, 8, z + 4 * field(h, w, 2.0, low=0.004, seed=103)) * ramp(
        0.2, 1.6, field(h, w, 1.2, low=0.01, seed=104)
    )
    return albedo * (1 - soot - 0.28 * splash)[..., None]
