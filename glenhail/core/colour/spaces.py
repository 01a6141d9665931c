"""RGB primaries and chromatic adaptation: matrices derived, not copied."""

from __future__ import annotations

import numpy as np

Matrix = np.ndarray

# ITU-R BT.709-6, item 1.3 and 1.4: chromaticities of the primaries and of white (D65).
BT709_PRIMARIES = ((0.640, 0.330), (0.300, 0.600), (0.150, 0.060))
D65 = (0.3127, 0.3290)
# ICC.1:2022, 6.3.4.3: the profile connection space's D50 illuminant, as XYZ.
D50_XYZ = np.array([0.9642, 1.0, 0.8249])
# Lam 1985, the Bradford cone response, as in ICC.1:2022 annex E.
BRADFORD = np.array(
    [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]]
)


def xyz_of(xy: tuple[float, float]) -> np.ndarray:
    """XYZ with Y = 1 of a chromaticity.

    Parameters
    ----------
    xy : tuple of float
        CIE 1931 chromaticity x, y.
    """
    x, y = xy
    return np.array([x / y, 1.0, (1 - x - y) / y])


def rgb_to_xyz(primaries: tuple[tuple[float, float], ...], white: tuple[float, float]) -> Matrix:
    """The 3 x 3 matrix from linear RGB to XYZ (SMPTE RP 177:1993).

    Parameters
    ----------
    primaries : tuple of tuple of float
        Chromaticities of red, green and blue.
    white : tuple of float
        The white point's chromaticity.
    """
    columns = np.stack([xyz_of(p) for p in primaries], axis=1)
    return columns * np.linalg.solve(columns, xyz_of(white))


def adaptation(from_xyz: np.ndarray, to_xyz: np.ndarray) -> Matrix:
    """Bradford chromatic adaptation between two white points given as XYZ.

    Parameters
    ----------
    from_xyz : ndarray, shape (3,)
        The white to come from, XYZ.
    to_xyz : ndarray, shape (3,)
        The white to go to, XYZ.
    """
    gain = (BRADFORD @ to_xyz) / (BRADFORD @ from_xyz)
    return np.linalg.solve(BRADFORD, gain[:, None] * BRADFORD)


BT709_TO_XYZ = rgb_to_xyz(BT709_PRIMARIES, D65)
# From the profile connection space (XYZ, D50) to linear BT.709 with D65 white.
PCS_TO_BT709 = np.linalg.solve(BT709_TO_XYZ, adaptation(D50_XYZ, xyz_of(D65)))
