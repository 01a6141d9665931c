"""The yard at night: lamps near and far, wet cobbles, painted lettering, bales and rope, stars at known places."""

import json

import numpy as np

from scenes.kit.mesh import moved
from scenes.night_yard import distance, goods, ground, layout, mill, stars

WIDTH, SAMPLES = 2160, 400
PARTS = {
    "wall": mill.wall,
    "ground": ground.build,
    "mill": mill.details,
    "goods": goods.build,
    "distance": distance.build,
}


def stage(folder):
    from scenes.kit import renderer as r

    s = r.Stage(folder, layout.CAMERA, depth=5)
    t = s.texture
    _materials(s, r, t)
    for file, material in {
        "brick": "brick", "ground": "ground", "far_ground": "far_ground", "near_ground": "far_ground", "mill_stone": "stone", "lintel": "lintel",
        "mill_frame": "frame", "mill_glass": "glass", "mill_iron": "iron", "mill_gate_iron": "iron", "mill_slate": "slate", "mill_reveal": "reveal",
        "gate": "gate", "sign": "sign", "goods_iron": "iron", "goods_wood": "wood", "goods_sack": "sack", "goods_crate": "wood",
        "goods_boards": "boards", "far_brick": "far_brick", "far_sheds": "far_brick", "far_stone": "stone", "far_dark": "dark",
    }.items():  # fmt: skip
        s.mesh(file, material)
    for file in ("rope", "rope_hair"):
        s.curves(file, r.coated(r.rgb(0.40, 0.31, 0.19), 0.75, 0.2))
    _lamps(s, r, t)
    return s


def _materials(s, r, t):
    def bumped(name, bsdf, wrap="clamp"):
        return r.bumped(t(f"{name}_height"), bsdf, wrap=wrap)

    s.material("brick", bumped("brick", r.coated(r.bitmap(t("brick_colour")), 0.62, 0.35)))
    s.material("reveal", r.both_sides(r.matt(r.bitmap(t("brick_colour"), "repeat"))))
    s.material(
        "far_brick",
        r.both_sides(
            bumped("far_brick", r.matt(r.bitmap(t("far_brick_colour"), "repeat")), "repeat")
        ),
    )
    s.material(
        "ground",
        bumped(
            "ground", r.coated(r.bitmap(t("ground_colour")), r.bitmap(t("ground_roughness")), 0.5)
        ),
    )
    s.material(
        "far_ground", r.both_sides(r.coated(r.bitmap(t("ground_colour"), "repeat"), 0.45, 0.35))
    )
    s.material("stone", bumped("stone", r.matt(r.bitmap(t("stone_colour"), "repeat")), "repeat"))
    s.material("lintel", bumped("lintel", r.matt(r.bitmap(t("lintel_colour")))))
    s.material("frame", r.coated(r.rgb(0.16, 0.165, 0.15), 0.5))
    s.material("glass", r.both_sides(r.coated(r.rgb(0.010, 0.011, 0.012), 0.07, 0.5)))
    s.material("iron", r.both_sides(r.coated(r.rgb(0.018, 0.020, 0.021), 0.38, 0.5)))
    s.material("slate", r.both_sides(r.coated(r.rgb(0.06, 0.063, 0.072), 0.42)))
    s.material("gate", bumped("gate", r.coated(r.bitmap(t("gate_colour")), 0.5, 0.35)))
    s.material("sign", r.coated(r.bitmap(t("sign_colour")), 0.22, 0.5))
    s.material(
        "wood",
        r.both_sides(
            bumped(
                "cart_wood",
                r.coated(r.bitmap(t("cart_wood_colour"), "repeat"), 0.5, 0.35),
                "repeat",
            )
        ),
    )
    s.material(
        "boards", r.both_sides(bumped("boards", r.coated(r.bitmap(t("boards_colour")), 0.55, 0.35)))
    )
    s.material("sack", bumped("sack", r.matt(r.bitmap(t("sack_colour"), "repeat")), "repeat"))
    s.material("dark", r.both_sides(r.matt(r.rgb(0.045, 0.045, 0.05))))


def _lamps(s, r, t):
    def globe(name, centre, radius, intensity, hue, weight):
        """A frosted globe of that radiant intensity, W/sr."""
        radiance = r.rgb(*(intensity / (np.pi * radius * radius) * np.array(hue)))
        lamp = {"type": "area", "sampling_weight": float(weight), "radiance": radiance}
        s.add(
            f"lamp_{name}",
            {
                "type": "sphere",
                "center": [float(c) for c in centre],
                "radius": radius,
                "emitter": lamp,
            },
        )

    globe("pole", (*layout.POLE, 3.62), 0.085, 46.0, (1, 0.76, 0.48), 4.0)
    x, z, off = layout.WALL_LAMP
    globe("wall", mill.on_wall(x, -off, z + 0.15), 0.062, 9.5, (1, 0.57, 0.24), 2.2)
    hand = moved(layout.CRATE, np.array(layout.HAND_LAMP) + [0, 0, 0.165])
    globe("hand", hand, 0.034, 1.5, (1, 0.50, 0.17), 0.9)
    for i, (fx, fy, fz, radius, intensity, hue, weight) in enumerate(layout.FAR_LAMPS):
        globe(f"far{i}", (fx, fy, fz), radius, intensity, hue, weight)
    for i in layout.LIT:
        s.mesh(
            f"lit{i}",
            "glass",
            emitter={"type": "area", "sampling_weight": 0.6, "radiance": r.bitmap(t(f"lit{i}"))},
        )
    behind = (
        r.Transform()
        .look_at(origin=[2.5, -3, 5.2], target=[1.2, 9, 0], up=[0, 0, 1])
        .scale([1.2, 0.9, 1])
    )
    s.add(
        "behind",
        {
            "type": "rectangle",
            "to_world": behind,
            "emitter": {
                "type": "area",
                "sampling_weight": 0.35,
                "radiance": r.rgb(0.42, 0.36, 0.26),
            },
        },
    )
    sky = {
        "type": "envmap",
        "bitmap": r.mi.Bitmap(_sky()),
        "sampling_weight": 1.2,
        "to_world": r.Transform().rotate([1, 0, 0], 90),
    }
    s.add("sky", sky)


def _sky(rows=1024):
    """Deep blue, paler towards the horizon."""
    up = np.linspace(np.pi / 2, -np.pi / 2, rows)
    fall = np.exp(-np.maximum(np.degrees(up), 0) / 9.0)
    hues = ((0.030, 0.0045), (0.047, 0.0085), (0.086, 0.024))
    sky = (
        np.stack([zenith + (horizon - zenith) * fall for horizon, zenith in hues], -1)
        * np.where(up < 0, 0.35, 1)[:, None]
    )
    return np.repeat(sky[:, None], 64, 1).astype(np.float32)


def finish(folder, rendering):
    import cv2

    from scenes.kit.finish import (
        denoised,
        glow,
        remaining_noise,
        without_sparks,
        write_preview,
        write_scene,
    )

    z = np.load(rendering)
    halves = z["first"], z["second"]
    picture = without_sparks((halves[0] + halves[1]) / 2, halves)
    sky = cv2.erode((z["depth"] <= 0).astype(np.uint8), np.ones((5, 5))) > 0
    picture = glow(
        np.where(sky[..., None], picture, denoised(picture, z))
    )  # the sky has no noise to clean
    picture, lights = stars.paint_stars(picture, z["depth"])
    write_scene(folder / "night_yard.tif", picture)
    write_preview(folder / "night_yard.png", picture)
    height, width = picture.shape[:2]
    known = {
        "width": width,
        "height": height,
        "lights": [{k: s[k] for k in ("x", "y", "peak")} for s in lights],
        "edges": [],
    }
    (folder / "night_yard_known.json").write_text(json.dumps(known, indent=1) + "\n")
    print("noise left, gamma units:", round(remaining_noise(halves, z), 5))
