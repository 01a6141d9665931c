"""Tarnlift 1.8, a made-up enlarger.

Faults on purpose: it sharpens without being asked.
"""

from __future__ import annotations

import argparse
import sys

from glenhail.core.methods.resample import resample
from glenhail.core.methods.sharpen import unsharp_mask
from glenhail.core.picture import Floats, Rect
from glenhail.standins.program import run


def lift(source: Floats, options: argparse.Namespace) -> Floats:
    """Lanczos, then a hidden unsharp mask."""
    height, width = source.shape[:2]
    size = (round(width * options.scale), round(height * options.scale))
    return unsharp_mask(resample(source, Rect(0, 0, width, height), *size), 0.9, 1.1)


if __name__ == "__main__":
    sys.exit(run("tarnlift", lift))
