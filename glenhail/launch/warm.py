"""Compile the measuring kernels once after an install, so that no worker has to while
somebody waits.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

import numpy as np

from glenhail.core.assess import assess
from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import write_png, write_tiff
from glenhail.core.files.pyramid import write_pyramid
from glenhail.core.measures.catalogue import Patch
from glenhail.core.picture import Rect


def warm() -> None:
    """Run every kernel on a small picture, 8 and 16 bit."""
    rng = np.random.default_rng(1)
    scene = np.kron(rng.random((12, 16, 3)), np.ones((24, 24, 1))).astype(np.float32)
    with tempfile.TemporaryDirectory() as folder:
        paths = [Path(folder) / n for n in ("truth.tif", "frame.png")]
        write_tiff(paths[0], scene)
        write_png(paths[1], photograph(scene, Sensor(20_000, 3), 400, 1), 8)
        truth, frame = (read_picture(p) for p in paths)
        assess(
            frame,
            truth,
            truth,
            [Patch("a", "flat", Rect(24, 24, 24, 24)), Patch("b", "edge", Rect(0, 0, 48, 48))],
        )
        assess(frame, truth, truth)
        write_pyramid(frame, Path(folder) / "pyramid.zip")


if __name__ == "__main__":
    warm()
