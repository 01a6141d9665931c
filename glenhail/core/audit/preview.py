"""How a preview that was captured from a screen differs from the file that was
exported.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.difference import ciede2000
from glenhail.core.colour.lab import lab
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.register import line_up
from glenhail.core.picture import Floats, Picture, Rect

# Side of the squares over which colour is compared, preview px: noise and sharpness do not count
# there.
SQUARE = 8


@dataclass(frozen=True)
class PreviewDifference:
    """What differs.

    ``scale`` is the preview's size over the export's; ``de00`` the mean CIEDE2000
    difference of areas, ``exposure_ev`` by how much the preview is brighter;
    ``sharpness`` the preview's fine contrast over the export's, at the preview's size
    (1 is the same).
    """

    scale: float
    shift: tuple[float, float]
    width: int
    height: int
    de00: float
    exposure_ev: float
    sharpness: float


def compare_preview(export: Picture, preview: Picture) -> PreviewDifference:
    """Line a preview up with an export and compare them at the preview's size.

    Parameters
    ----------
    export : Picture
        The output as it was exported.
    preview : Picture
        The tool's preview of it.

    Raises
    ------
    NoLineUp
        If they do not show the same thing.
    """
    found = line_up(export, preview)
    m = found.mapping
    inner = found.border.inner(preview.width, preview.height).whole()
    seen = preview.crop(inner)
    box = m.back(inner).clipped(export.bounds)
    given = resample(
        export.pixels, box, int(inner.w), int(inner.h), "area" if m.sx < 1 else "bicubic"
    )
    one, other = _areas(given), _areas(seen)
    mean = [float(srgb.luminance(p).mean()) for p in (one, other)]
    return PreviewDifference(
        scale=(m.sx + m.sy) / 2,
        shift=(m.dx, m.dy),
        width=preview.width,
        height=preview.height,
        de00=float(ciede2000(lab(one), lab(other)).mean()),
        exposure_ev=float(np.log2(max(mean[1], 1e-6) / max(mean[0], 1e-6))),
        sharpness=_fine(seen) / max(_fine(given), 1e-9),
    )


def _areas(pixels: Floats) -> Floats:
    height, width = (max(1, n // SQUARE) for n in pixels.shape[:2])
    return resample(
        np.clip(pixels, 0, 1), Rect(0, 0, pixels.shape[1], pixels.shape[0]), width, height, "area"
    )


def _fine(pixels: Floats) -> float:
    """Root mean square of what lies between neighbours."""
    luma = srgb.luma(pixels)
    across, down = np.diff(luma, axis=1), np.diff(luma, axis=0)
    return float(np.sqrt((np.mean(across**2) + np.mean(down**2)) / 2))
