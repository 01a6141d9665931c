"""A study of 8 contenders over 6 frames of 24 MP with 12 patches measured anew, against
decoding its files once.
"""

from __future__ import annotations

import tempfile
import time
from pathlib import Path

import numpy as np

from bench.setting import large_scene, noisy
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, Patch, measures_for, take
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Floats, Mapping, Picture, Rect

CONTENDERS, FRAMES = 8, 6
# Twelve patches as a reviewer draws them.
ROLES = (
    "flat",
    "flat",
    "shadow",
    "shadow",
    "edge",
    "edge",
    "texture",
    "texture",
    "texture",
    "print",
    "lights",
    "leave-alone",
)
SIDE = 256


def laid(picture: Picture) -> AlignedPicture:
    """A picture that lies on its frame as it is."""
    return AlignedPicture(picture, Mapping(), picture.bounds)


def written(folder: Path) -> list[Path]:
    """Frame, truth and an output, 16 bit."""
    scene = np.clip(large_scene(), 0, 1)
    pictures: dict[str, Floats] = {
        "frame": noisy(scene, 900, 3),
        "truth": scene,
        "output": noisy(scene, 4000, 5),
    }
    paths = []
    for name, pixels in pictures.items():
        paths.append(folder / f"{name}.tif")
        write_tiff(paths[-1], np.clip(pixels, 0, 1))
    return paths


def main() -> None:
    """Measure one cell of the study for real, and count it as often as there are cells."""
    patches = [
        Patch(f"{i}", role, Rect(400 + 400 * i, 600 + 200 * i, SIDE, SIDE))
        for i, role in enumerate(ROLES)
    ]
    with tempfile.TemporaryDirectory() as folder:
        paths = written(Path(folder))
        read_picture(paths[0])
        start = time.perf_counter()
        frame, truth, output = (read_picture(path) for path in paths)
        decoding = (time.perf_counter() - start) / 3
    subject = Subject(frame, laid(output), laid(truth))
    for place in (*patches, None):
        for m in measures_for(place):
            take(subject, m, place)
    subject = Subject(frame, laid(output), laid(truth))
    start = time.perf_counter()
    for patch in patches:
        for m in measures_for(patch):
            take(subject, m, patch)
    on_patches = time.perf_counter() - start
    whole = {}
    for m in measures_for(None):
        start = time.perf_counter()
        take(subject, m, None)
        whole[m.id] = time.perf_counter() - start
    cells, files = CONTENDERS * FRAMES, CONTENDERS * FRAMES + 2 * FRAMES
    print(
        f"decoding a file {decoding:.2f} s; 12 patches {on_patches:.2f} s; whole frame"
        f" {sum(whole.values()):.2f} s: "
        + ", ".join(f"{name} {seconds:.2f}" for name, seconds in whole.items())
    )
    decoded, patched = files * decoding, cells * on_patches
    everything = decoded + patched + cells * sum(whole.values())
    print(
        f"{CONTENDERS} contenders x {FRAMES} frames x {len(patches)} patches, {len(MEASURES)}"
        f" measures: decoding once {decoded:.0f} s;"
    )
    print(
        f"  patches anew with decoding {decoded + patched:.0f} s,"
        f" {(decoded + patched) / decoded:.2f} times;"
    )
    print(f"  whole frames too {everything:.0f} s, {everything / decoded:.2f} times")


if __name__ == "__main__":
    main()
