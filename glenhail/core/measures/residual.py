"""What is left of a patch once illumination's falloff is taken off."""

from __future__ import annotations

from functools import cache

import numpy as np

from glenhail.core.picture import Doubles

# A full quadratic in x and y has six coefficients.
FITTED = 6


def residual(plane: np.ndarray) -> Doubles:
    """A plane less its least-squares 2-D quadratic: illumination falloff is not noise.

    Parameters
    ----------
    plane : ndarray, shape (h, w)
        One plane of a picture.
    """
    down, across = (_polynomials(side) for side in plane.shape)
    values = plane.astype(np.float64)
    fit = down @ (values @ across.T)
    # Of the products of both ways' polynomials, those of second order at most.
    fit[np.add.outer(np.arange(3), np.arange(3)) > 2] = 0
    rest = values - down.T @ (fit @ across)
    # What rounding leaves of an even plane is nothing.
    return (
        np.zeros_like(rest)
        if np.abs(rest).max() <= 1e-12 * np.abs(values).max()
        else np.asarray(rest)
    )


@cache
def _polynomials(side: int) -> Doubles:
    """Orthonormal polynomials of order 0, 1 and 2 over `side` places, shape (3, side)."""
    x = np.linspace(-1, 1, side)
    return np.asarray(np.linalg.qr(np.stack([np.ones(side), x, x * x], axis=1))[0].T)
