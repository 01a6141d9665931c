"""CIELAB as TIFF stores it, brought to linear BT.709 light."""

from __future__ import annotations

from typing import Any

import numpy as np

from glenhail.core.colour.spaces import BT709_TO_XYZ, D65, adaptation, xyz_of
from glenhail.core.picture import Doubles, Floats

# Where a file tells no white: D50, as TIFF 6.0's readers have it and ICC's connection space does.
D50 = (0.3457, 0.3585)
EPSILON = 6 / 29
ROWS = 256  # done at a time


def to_bt709(values: np.ndarray, signed: bool, white: Any = None) -> Floats:
    """Linear light from codes of L*, a* and b*, shape (h, w, 3).

    Parameters
    ----------
    values : ndarray of 8 or 16 bit, or float
        L* from 0 to the largest code for 0 to 100; a* and b* in units (8 bit), of 1/256
        (16 bit) or as they are (float).
    signed : bool
        Whether a* and b* are two's complement (TIFF's CIELab), or lie about the middle
        code (ICCLab).
    white : pair of rationals, optional
        The white point's x and y, as the file tells it.
    """
    here = xyz_of(_xy(white))
    matrix = np.linalg.solve(BT709_TO_XYZ, adaptation(here, xyz_of(D65))).T
    made = np.empty(values.shape, dtype=np.float32)
    for start in range(0, values.shape[0], ROWS):
        lab = _units(values[start : start + ROWS], signed)
        fy = (lab[..., 0] + 16) / 116
        f = np.stack([fy + lab[..., 1] / 500, fy, fy - lab[..., 2] / 200], axis=-1)
        xyz = np.where(f > EPSILON, f**3, 3 * EPSILON**2 * (f - 4 / 29)) * here
        made[start : start + ROWS] = xyz @ matrix
    return made


def _units(values: np.ndarray, signed: bool) -> Doubles:
    if values.dtype.kind == "f":
        return values.astype(np.float64)
    bits = values.dtype.itemsize * 8
    codes = values.astype(np.int64) & (2**bits - 1)
    top, middle = 2**bits - 1, 2 ** (bits - 1)
    colours = codes[..., 1:]
    colours = (
        np.where(colours >= middle, colours - 2**bits, colours) if signed else colours - middle
    )
    lightness = codes[..., :1] * (100 / top)
    return np.concatenate([lightness, colours / (1 if bits == 8 else 256)], axis=-1)


def _xy(white: Any) -> tuple[float, float]:
    """The white point told by four numbers (two rationals) or two;

    D50 where that is none.
    """
    try:
        numbers = [float(v) for v in np.ravel(np.asarray(white, dtype=np.float64))]
        x, y = (numbers[0] / numbers[1], numbers[2] / numbers[3]) if len(numbers) == 4 else numbers
    except (TypeError, ValueError, IndexError, ZeroDivisionError):
        return D50
    return (x, y) if 0.2 < x < 0.5 and 0.2 < y < 0.5 else D50
