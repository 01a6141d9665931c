"""The dye shed in shadow: skeins, fleece, a frayed rope and a wet floor, all lit by one bright doorway."""

import numpy as np

from scenes.dye_shed import fibres, layout, room, things

WIDTH, SAMPLES = 2160, 64
PARTS = {"room": room.build, "outside": room.outside, "things": things.build, "skeins": fibres.skeins, "fleece": fibres.fleece, "rope": fibres.frayed_rope}  # fmt: skip


def stage(folder):
    from scenes.kit import renderer as r

    s = r.Stage(folder, layout.CAMERA, depth=6)
    t = s.texture
    for name in ("back", "left", "right"):
        s.material(
            name, r.bumped(t(f"{name}_height"), r.coated(r.bitmap(t(f"{name}_colour")), 0.7, 0.2))
        )
        s.mesh(name, name)
    floor = r.coated(r.bitmap(t("floor_colour")), r.bitmap(t("floor_roughness")), 0.5)
    s.material("floor", r.bumped(t("floor_height"), floor))
    s.material(
        "stone",
        r.bumped(t("stone_height"), r.matt(r.bitmap(t("stone_colour"), "repeat")), wrap="repeat"),
    )
    for name, rough in (("oak", 0.6), ("grey", 0.5)):
        timber = r.coated(r.bitmap(t(f"{name}_colour"), "repeat"), rough, 0.35)
        s.material(name, r.both_sides(r.bumped(t(f"{name}_height"), timber, wrap="repeat")))
    s.material("iron", r.coated(r.rgb(0.020, 0.020, 0.022), 0.42, 0.5))
    s.material("pole", r.coated(r.rgb(0.30, 0.22, 0.14), 0.5))
    s.material("jar", r.coated(r.rgb(0.10, 0.062, 0.036), 0.18, 0.5))
    s.material("cloth", r.matt(r.rgb(0.20, 0.17, 0.13)))
    s.material("wool", r.matt(r.rgb(0.40, 0.35, 0.27)))
    s.material("dark", r.both_sides(r.matt(r.rgb(0.05, 0.048, 0.045))))
    for file, material in {
        "floor": "floor", "door_stone": "stone", "beams": "oak", "staves": "grey", "bench": "grey", "shelves": "oak", "iron": "iron",
        "poles": "pole", "jars": "jar", "cloth": "cloth", "fleece_core": "wool", "behind": "dark",
    }.items():  # fmt: skip
        s.mesh(file, material)
    for i, (*_, colour) in enumerate(layout.TUBS):
        s.material(f"liquor{i}", r.both_sides(r.coated(r.rgb(*colour), 0.05, 0.5)))
        s.mesh(f"liquor{i}", f"liquor{i}")
    _yarn(s, r)
    gain = 1.7
    s.mesh(
        "door_light",
        "dark",
        emitter={
            "type": "area",
            "radiance": r.bitmap(t("door_light") * gain),
            "sampling_weight": 4.0,
        },
    )
    _window(
        s,
        r,
        "skylight",
        (-60, 170, layout.CEILING - 13),
        (-60, 171, 0),
        (70, 45),
        (9.0, 10.2, 11.6),
    )
    _window(s, r, "window_behind", (-150, -55, 190), (-60, 300, 110), (75, 60), (6.5, 7.2, 8.0))
    return s


def _window(s, r, name, origin, target, half, radiance):
    """A dirty pane out of the picture; it keeps the shadows from going quite black."""
    to_world = (
        r.Transform()
        .look_at(origin=list(origin), target=list(target), up=[0, 0.2, 1])
        .scale([*half, 1])
    )
    s.add(
        name,
        {
            "type": "rectangle",
            "to_world": to_world,
            "emitter": {"type": "area", "radiance": r.rgb(*radiance), "sampling_weight": 2.0},
        },
    )


def _yarn(s, r):
    tones = ((1.0, 1.0, 1.0), (0.80, 0.82, 0.86), (1.16, 1.12, 1.06))
    for file in sorted(s.folder.glob("skein_*_*.txt")):
        _, shade, tone = file.stem.split("_")
        dyed = np.clip(np.array(layout.SHADES[shade]) * tones[int(tone)], 0, 0.9)
        s.curves(file.stem, r.coated(r.rgb(*dyed), 0.75, 0.18, sheen=0.6, sheen_tint=0.5))
    s.curves("fleece", r.matt(r.rgb(*layout.SHADES["fleece"])))
    s.curves("rope", r.coated(r.rgb(*layout.SHADES["hemp"]), 0.7, 0.25))
    s.curves("whipping", r.matt(r.rgb(0.06, 0.05, 0.04)))


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
    picture = glow(denoised(without_sparks((halves[0] + halves[1]) / 2, halves), z), share=0.008)
    write_scene(folder / "dye_shed.tif", picture)
    write_preview(folder / "dye_shed.png", picture)
    print("noise left, gamma units:", round(remaining_noise(halves, z), 5))
