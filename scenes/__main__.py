"""``python -m scenes build|look|render|finish SCENE``: make a sample scene again. See the README beside this file."""

import argparse
import importlib
import subprocess
import sys
from pathlib import Path

import numpy as np

SCENES = ("gauge_wall", "dye_shed", "loom_table", "night_yard")


def main():
    parser = argparse.ArgumentParser(prog="python -m scenes", description=__doc__)
    parser.add_argument("step", choices=("build", "look", "render", "finish", "_trace"))
    parser.add_argument("scene", choices=SCENES)
    parser.add_argument("--only", nargs="*", help="build these parts only")
    parser.add_argument(
        "--width", type=int, help="pixels across; the scene's own width when absent"
    )
    parser.add_argument("--samples", type=int)
    parser.add_argument("--crop", help="x,y,w,h in pixels of the whole")
    parser.add_argument("--work", type=Path, default=Path("var/scenes"))
    parser.add_argument("--out", default="final", help="name of the rendering")
    a = parser.parse_args()
    folder = a.work / a.scene
    folder.mkdir(parents=True, exist_ok=True)
    scene = importlib.import_module(f"scenes.{a.scene}")
    width = a.width or scene.WIDTH
    if a.step == "build":
        for name, part in scene.PARTS.items():
            if not a.only or name in a.only:
                part(folder)
                print("built", name, flush=True)
    elif a.step == "_trace":
        trace(scene, folder, a, width)
    elif a.step in ("look", "render"):
        trace_until_done([*sys.argv[2:]])
        if a.step == "look":
            preview(folder / f"{a.out}.npz")
    else:
        scene.finish(folder, folder / f"{a.out}.npz")


def trace(scene, folder, a, width):
    from scenes.kit.renderer import render

    crop = tuple(map(int, a.crop.split(","))) if a.crop else None
    samples = a.samples or scene.SAMPLES
    per_pass = 4 if samples < 64 else 16
    height = width * 2 // 3
    render(
        scene.stage(folder),
        folder / f"{a.out}.npz",
        width,
        height,
        samples,
        per_pass,
        min(64, samples),
        crop,
    )


def trace_until_done(arguments, tries=40):
    """In a process of its own: curve shapes crash the renderer now and then, and what was traced is on disk."""
    for _ in range(tries):
        if (
            subprocess.run(
                [sys.executable, "-m", "scenes", "_trace", *arguments], check=False
            ).returncode
            == 0
        ):
            return
    raise SystemExit("gave up")


def preview(rendering):
    from scenes.kit.finish import denoised, write_preview

    z = np.load(rendering)
    write_preview(rendering.with_suffix(".png"), denoised((z["first"] + z["second"]) / 2, z))


if __name__ == "__main__":
    main()
