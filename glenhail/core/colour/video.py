"""Codes of pictures as video has them: brightness of every pixel, colour of two by two.

References
----------
ITU-R BT.709-6, items 3.2 to 3.5: the derivation of luma and colour differences, and
their 8 bit codes of the narrow range; 4:2:0 has colour of two by two pixels, taken here
as their mean, in the middle between them.
"""

from __future__ import annotations

import numpy as np

RED, GREEN, BLUE = 0.2126, 0.7152, 0.0722
CB, CR = 1.8556, 1.5748


def as_video(codes: np.ndarray) -> bytes:
    """The planes of luma and both colour differences, one after the other.

    Parameters
    ----------
    codes : ndarray, shape (height, width, 3), uint8
        R'G'B' of the full range; height and width are even.

    Raises
    ------
    ValueError
        If height or width is odd.
    """
    height, width = codes.shape[:2]
    if height % 2 or width % 2:
        raise ValueError("video has an even number of pixels across and down")
    rgb = codes.astype(np.float32) / 255
    luma = rgb @ np.array([RED, GREEN, BLUE], np.float32)
    pairs = [
        ((rgb[..., at] - luma) / by).reshape(height // 2, 2, width // 2, 2).mean(axis=(1, 3))
        for at, by in ((2, CB), (0, CR))
    ]
    planes = [16 + 219 * luma, *(128 + 224 * plane for plane in pairs)]
    return b"".join(np.rint(plane).astype(np.uint8).tobytes() for plane in planes)
