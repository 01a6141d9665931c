"""Tone that anybody can change: contrast."""

from __future__ import annotations

import numpy as np

from glenhail.core.methods.method import Measured
from glenhail.core.parameters import Values
from glenhail.core.picture import Floats

CODES = 255


def contrast_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """Encoded values drawn apart about one that stays.

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        One plane of a picture.
    index : int
        Which plane: red, green or blue.
    values : Mapping
        Parameters by name, checked.
    measured : Mapping
        Nothing.
    """
    pivot = np.float32(float(values["pivot"]) / CODES)
    return np.asarray(pivot + np.float32(float(values["gain"])) * (plane - pivot), dtype=np.float32)
