"""The loom table by the window: check cloth, bobbins, a brass gauge, a crate in its own shade."""

import numpy as np

from scenes.loom_table import bobbins, cloth, gauge, layout, surroundings, things

WIDTH, SAMPLES = 2400, 128
PARTS = {"wall": surroundings.wall, "table": surroundings.table, "timber": surroundings.timber, "cloth": cloth.build,
         "bobbins": bobbins.build, "gauge": gauge.build, "things": things.build}  # fmt: skip


def stage(folder):
    from scenes.kit import renderer as r

    s = r.Stage(folder, layout.CAMERA)
    t = s.texture
    brass = r.rgb(0.83, 0.58, 0.24)
    s.material("brick", r.bumped(t("brick_height"), r.matt(r.bitmap(t("brick_colour")))))
    s.material(
        "table",
        r.bumped(
            t("table_height"),
            r.coated(r.bitmap(t("table_colour")), r.bitmap(t("table_roughness")), 0.35),
        ),
    )
    for name, rough in (("beech", 0.33), ("pine", 0.55), ("dark", 0.45)):
        s.material(
            name, r.bumped(t(f"{name}_height"), r.coated(r.bitmap(t(f"{name}_colour")), rough))
        )
    s.material("brass", r.metal(brass, 0.24))
    s.material("steel", r.metal(r.rgb(0.58, 0.57, 0.55), 0.2))
    s.material("dial", r.coated(r.bitmap(t("dial_colour")), 0.35))
    s.material("black", r.coated(r.rgb(0.012, 0.012, 0.014), 0.25, 0.5))
    s.material("iron", r.coated(r.rgb(0.02, 0.026, 0.024), 0.38, 0.5))
    engraved = {"type": "blendbsdf", "weight": r.bitmap(t("plate_ink")), "a": r.metal(brass, 0.27), "b": r.coated(r.rgb(0.02, 0.018, 0.015), 0.7)}  # fmt: skip
    s.material("plate", r.bumped(t("plate_height"), engraved))
    s.material("paint", r.coated(r.rgb(0.05, 0.10, 0.085), 0.35))
    s.material("bars", r.matt(r.rgb(0.35, 0.35, 0.33)))
    s.material("card", r.coated(r.rgb(0.36, 0.25, 0.15), 0.8, 0.1))
    s.material("under", r.both_sides(r.matt(r.rgb(0.03, 0.027, 0.022))))
    for file, material in {
        "brick": "brick", "table": "table", "underlay": "under", "roll_core": "under", "tube": "card", "tube_end": "under", "dial": "dial",
        "needle": "black", "gauge_brass": "brass", "gauge_screws": "steel", "block": "dark", "plate": "plate", "plate_body": "brass",
        "crate": "pine", "pirns": "card", "nails": "iron", "shuttle": "dark", "tips": "steel", "post": "paint", "bars": "bars",
        **{f"{b[0]}_{part}": m for b in layout.BOBBINS for part, m in (("wood", "beech"), ("core", "under"))},
    }.items():  # fmt: skip
        s.mesh(file, material)
    _yarn(s, r)
    _light(s, r)
    return s


def _yarn(s, r):
    def of(dye, shade):
        return r.coated(
            r.rgb(*np.minimum(np.array(layout.DYES[dye]) * shade, 0.9)),
            0.75,
            0.18,
            sheen=0.6,
            sheen_tint=0.5,
        )

    for file in sorted(s.folder.glob("cloth_*.txt")):
        dye, tone = file.stem[-2], int(file.stem[-1])
        s.curves(file.stem, of(dye, ((1.0, 1, 1), (0.80, 0.80, 0.80), (1.18, 1.16, 1.07))[tone]))
    for name, *_, dye in layout.BOBBINS:
        for k, shade in enumerate((1.0, 0.88, 1.1)):
            s.curves(f"{name}_yarn{k}", of(dye, shade))


def _light(s, r):
    """A window to the left, and a weak warm lamp high on the right for sparkle on brass."""
    window = (
        r.Transform()
        .look_at(origin=[-72, -19, 43], target=[0, -19, 30], up=[0, 0, 1])
        .scale([41, 35, 1])
    )
    s.add(
        "window",
        {
            "type": "rectangle",
            "to_world": window,
            "emitter": {"type": "area", "radiance": r.rgb(8.2, 9.0, 9.9), "sampling_weight": 1.0},
        },
    )
    s.add(
        "fill",
        {"type": "constant", "radiance": r.rgb(0.030, 0.029, 0.028), "sampling_weight": 0.22},
    )
    s.add(
        "lamp",
        {
            "type": "sphere",
            "center": [43, 0, 52],
            "radius": 3.0,
            "emitter": {"type": "area", "radiance": r.rgb(34, 20, 9), "sampling_weight": 0.22},
        },
    )


def finish(folder, rendering):
    from scenes.kit.finish import denoised, remaining_noise, write_preview, write_scene

    z = np.load(rendering)
    halves = z["first"], z["second"]
    picture = denoised((halves[0] + halves[1]) / 2, z)
    write_scene(folder / "loom_table.tif", picture)
    write_preview(folder / "loom_table.png", picture)
    print("noise left, gamma units:", round(remaining_noise(halves, z), 5))
