"""Whether noise is seen in a use: a plain patch against what it would be without any."""

from __future__ import annotations

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.measures.residual import residual
from glenhail.core.picture import Floats, Rect
from glenhail.core.seeing.scielab import scielab
from glenhail.core.seeing.visible import Seen, seen_of
from glenhail.core.uses.seen import part_as_seen, seen_layout
from glenhail.core.uses.table import Use


def noise_seen(pixels: Floats, patch: Rect, use: Use) -> Seen:
    """How easily a plain patch's noise is seen in a use.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        The whole output, linear light.
    patch : Rect
        The plain patch, px of the output.
    use : Use
        Where it is seen; no video.

    Returns
    -------
    Seen
        Of the patch against its own falloff, both as large as in the use and compressed
        as there.
    """
    height, width = pixels.shape[:2]
    lies = seen_layout(width, height, use, (0.5, 0.5))
    across, down = lies.width / lies.part.w, lies.height / lies.part.h
    size = max(1, round(patch.w * across)), max(1, round(patch.h * down))
    inside = patch.whole()
    x, y, w, h = (int(v) for v in (inside.x, inside.y, inside.w, inside.h))
    noisy = np.ascontiguousarray(pixels[y : y + h, x : x + w])
    smooth = _smooth(noisy)
    whole = Rect(0, 0, w, h)
    one, two = (part_as_seen(p, use, whole, *size).codes for p in (noisy, smooth))
    return seen_of(scielab(one, two, use.pixels_per_degree))


def _smooth(linear: Floats) -> Floats:
    """The falloff alone, fitted where noise is alike in dark and light: in codes."""
    codes = srgb.encode(np.clip(linear, 0, 1))
    fit = [codes[..., i] - residual(codes[..., i]) for i in range(3)]
    return np.asarray(srgb.decode(np.clip(np.stack(fit, axis=-1), 0, 1)), dtype=np.float32)
