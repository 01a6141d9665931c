"""The gauge wall at noon: a brass boiler gauge, an enamel sign, a stencil on lime-washed brick, in high sun."""

import json

import numpy as np

from scenes.gauge_wall import boards, gauge, layout, wall

WIDTH, SAMPLES = 2304, 80
PARTS = {"wall": wall.build, "gauge": gauge.build, "boards": boards.build}


def stage(folder):
    from scenes.kit import renderer as r

    s = r.Stage(folder, layout.CAMERA)
    t = s.texture
    brass = r.rgb(0.80, 0.56, 0.25)
    s.material("wall", r.bumped(t("wall_height"), r.matt(r.bitmap(t("wall_colour")))))
    s.material("dial", r.coated(r.bitmap(t("dial_colour")), 0.32))
    s.material("brass", r.metal(brass, 0.15))
    s.material("copper", r.metal(r.rgb(0.78, 0.40, 0.26), 0.34))
    s.material("steel", r.metal(r.rgb(0.55, 0.54, 0.52), 0.28))
    s.material("pointer", r.coated(r.rgb(0.012, 0.012, 0.014), 0.3, 0.5))
    s.material("iron", r.coated(r.rgb(0.022, 0.025, 0.026), 0.42, 0.5))
    s.material("black", r.coated(r.rgb(0.016, 0.016, 0.017), 0.55, 0.3))
    s.material("red", r.coated(r.rgb(0.30, 0.045, 0.022), 0.38, 0.45))
    s.material("slate", r.coated(r.bitmap(t("slate_colour")), 0.62, 0.3))
    enamel = r.coated(r.bitmap(t("enamel_colour")), r.bitmap(t("enamel_roughness")), 0.5)
    s.material("enamel", r.bumped(t("enamel_height"), enamel))
    engraved = {
        "type": "blendbsdf",
        "weight": r.bitmap(t("plate_ink")),
        "a": r.metal(brass, 0.27),
        "b": r.matt(r.rgb(0.02, 0.018, 0.015)),
    }
    s.material("plate", r.bumped(t("plate_height"), engraved))
    for file, material in {
        "wall": "wall", "dial": "dial", "pointer": "pointer", "brass": "brass", "screws": "steel", "copper": "copper", "iron": "iron",
        "enamel": "enamel", "enamel_back": "iron", "enamel_screws": "steel", "slate": "slate", "slate_frame": "black", "arm": "black",
        "arm_brass": "brass", "arm_stub": "iron", "plate": "plate", "plate_body": "brass", "wheel": "red", "valve": "iron",
    }.items():  # fmt: skip
        s.mesh(file, material)
    _light(s, r)
    return s


def _light(s, r):
    away = np.array(layout.SUN) / np.linalg.norm(layout.SUN) * 6000
    target = np.array([0, 0, 50])
    sun = (
        r.Transform()
        .look_at(origin=list(target + away), target=list(target), up=[0, 0, 1])
        .scale([28, 28, 1])
    )
    s.add(
        "sun",
        {
            "type": "disk",
            "to_world": sun,
            "emitter": {
                "type": "area",
                "radiance": r.rgb(80_000, 75_000, 67_000),
                "sampling_weight": 2.0,
            },
        },
    )
    s.add(
        "sky",
        {
            "type": "envmap",
            "bitmap": r.mi.Bitmap(_surroundings()),
            "to_world": r.Transform().rotate([1, 0, 0], 90),
        },
    )
    ground = [[-900, -1500, -40], [900, -1500, -40], [900, 20, -40], [-900, 20, -40]]
    from scenes.kit.mesh import quad, write_ply

    write_ply(s.folder / "yard.ply", quad(ground))
    s.material("yard", r.matt(r.rgb(0.16, 0.145, 0.125)))
    s.mesh("yard", "yard")


def _surroundings():
    """Sky, the sheds opposite and the yard, as polished brass sees them."""
    rows, columns = 512, 1024
    up = np.linspace(90, -90, rows)[:, None]
    round_ = np.linspace(-180, 180, columns)[None, :]
    t = np.exp(-np.maximum(up, 0) / 22)
    sky = (
        np.stack([0.36 + 0.62 * t, 0.56 + 0.52 * t, 0.98 + 0.22 * t], -1) * 0.62
        + 0 * round_[..., None]
    )
    roof = 9 + 5 * np.abs(((round_ / 14) % 1) - 0.5) + 4 * (np.abs(round_ - 40) < 26)
    shed = (up < roof) & (up >= -2)
    windows = shed & (up < roof - 4) & (((round_ / 4.2) % 1) < 0.55) & (((up / 3.4) % 1) < 0.7)
    sky[shed] = (0.11, 0.085, 0.07)
    sky[windows] = (0.03, 0.035, 0.04)
    sky[np.broadcast_to(up < -2, shed.shape)] = (0.16, 0.14, 0.12)
    return np.ascontiguousarray(sky, np.float32)


def finish(folder, rendering):
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
    picture = glow(denoised(without_sparks((halves[0] + halves[1]) / 2, halves), z), share=0.004)
    write_scene(folder / "gauge_wall.tif", picture)
    write_preview(folder / "gauge_wall.png", picture)
    height, width = picture.shape[:2]
    known = {"width": width, "height": height, "lights": [], "edges": layout.edges(width, height)}
    (folder / "gauge_wall_known.json").write_text(json.dumps(known, indent=1) + "\n")
    print("noise left, gamma units:", round(remaining_noise(halves, z), 5))
