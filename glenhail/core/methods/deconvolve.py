"""Undoing a blur whose kernel is known, or supposed, on linear light; through
scikit-image. Borders are mirrored.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

import numpy as np
import scipy.fft

from glenhail.core.colour import srgb
from glenhail.core.filters import kernels as blur
from glenhail.core.methods.method import Measured
from glenhail.core.parameters import Choice, Number, Parameter, Values
from glenhail.core.picture import Doubles, Floats

SHAPES: dict[str, Callable[[float, float], Doubles]] = {
    "gaussian": lambda size, angle: blur.gaussian_kernel(size),
    "disc": lambda size, angle: blur.disc_kernel(size),
    "square": lambda size, angle: blur.uniform_kernel(2 * round(size) + 1),
    "motion": lambda size, angle: blur.motion_kernel(2 * size + 1, angle),
}
KERNEL: tuple[Parameter, ...] = (
    Choice("kernel", "kernel", tuple(SHAPES), "gaussian"),
    Number("size", "sigma or radius", "px", 0.5, 8, 1.5),
    Number("angle", "direction of motion", "°", -180, 180, 0),
)
# What of a filter's own answer to a point may be left out: well under half a 16-bit code.
TAIL = 4e-6
FARTHEST = 448
LUCY_FARTHEST = 192
# The part of a picture from which unsupervised Wiener learns, at its centre, and the draws that are
# left out.
LEARNED_ON, SETTLING = 512, 15


def kernel_of(values: Values) -> Doubles:
    """The kernel asked for; its sum is 1.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    """
    return SHAPES[str(values["kernel"])](float(values["size"]), float(values["angle"]))


def wiener_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """The Wiener filter with a Laplacian prior (Hunt 1971, in scikit-image's
    `restoration.wiener`).

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        One plane of a picture.
    index : int
        Which plane: 0 is luma, 1 and 2 are colour differences.
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    from skimage.restoration import wiener  # slow to import

    kernel, balance = kernel_of(values), measured["balance"]
    height, width = plane.shape
    margin = wiener_reach(values, measured)
    # Its Fourier transform takes the picture to go round: mirrored borders, wide enough, keep each
    # side from the other one.
    below, right = (
        _fast(height + 2 * margin) - height - margin,
        _fast(width + 2 * margin) - width - margin,
    )
    padded = np.pad(plane, ((margin, below), (margin, right)), mode="symmetric")
    made = wiener(padded, kernel.astype(np.float32), balance, clip=False)
    return np.asarray(made[margin : margin + height, margin : margin + width], dtype=np.float32)


def _fast(size: int) -> int:
    return int(scipy.fft.next_fast_len(size, real=True))


def told_balance(linear: Floats, values: Values) -> Measured:
    """The balance asked for.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    values : Mapping
        Parameters by name, checked.
    """
    return {"balance": float(values["balance"])}


def learned_balance(linear: Floats, values: Values) -> Measured:
    """The balance of noise and prior that the picture itself suggests (Orieux,
    Giovannelli and Rodet 2010, scikit-image).

    Learned on the luminance of the picture's centre, so that it does not depend on how
    the work is divided.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    values : Mapping
        Parameters by name, checked.
    """
    from skimage.restoration import unsupervised_wiener  # slow to import

    height, width = linear.shape[:2]
    top, left = max(0, (height - LEARNED_ON) // 2), max(0, (width - LEARNED_ON) // 2)
    centre = srgb.luminance(linear[top : top + LEARNED_ON, left : left + LEARNED_ON])
    chains = unsupervised_wiener(centre.astype(np.float64), kernel_of(values), clip=False, rng=0)[1]
    noise, prior = (
        float(np.mean(chains[name][SETTLING:] or chains[name])) for name in ("noise", "prior")
    )
    return {"balance": prior / noise}


def wiener_reach(values: Values, measured: Measured) -> int:
    """Where the filter's answer to a point has died down.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    return _died_down(
        str(values["kernel"]), float(values["size"]), float(values["angle"]), measured["balance"]
    )


@lru_cache(maxsize=32)
def _died_down(shape: str, size: float, angle: float, balance: float) -> int:
    side = 2 * FARTHEST
    kernel = SHAPES[shape](size, angle)
    seen = np.fft.rfft2(kernel, (side, side))
    # As scikit-image does it: the Laplacian of the four nearest.
    curve = np.fft.rfft2(np.array([[0, -1, 0], [-1, 4, -1], [0, -1, 0]], dtype=float), (side, side))
    undone = np.conj(seen) / (np.abs(seen) ** 2 + balance * np.abs(curve) ** 2)
    answer = np.abs(np.fft.fftshift(np.fft.irfft2(undone, (side, side))))
    # The answer's rows and columns, counted from its middle; the kernel's own middle is not at its
    # corner.
    far = np.maximum(*(np.abs(np.indices(answer.shape) - FARTHEST)))
    left_out = np.cumsum(np.bincount(far.ravel(), answer.ravel())[::-1])[::-1]
    within = np.flatnonzero(left_out < TAIL)
    return min(
        FARTHEST - 1, (int(within[0]) if within.size else FARTHEST) + int(kernel.shape[0]) // 2
    )


def lucy_plane(plane: Floats, index: int, values: Values, measured: Measured) -> Floats:
    """Richardson-Lucy (Richardson 1972, Lucy 1974; scikit-image), a fixed number of
    rounds.

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        One plane of a picture.
    index : int
        Which plane: 0 is luma, 1 and 2 are colour differences.
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    from skimage.restoration import richardson_lucy  # slow to import

    margin = lucy_reach(values, measured)
    height, width = plane.shape
    # Light is never negative, and nothing may be divided by none.
    padded = np.pad(np.maximum(plane, 1e-6), margin, mode="symmetric")
    made = richardson_lucy(
        padded, kernel_of(values).astype(np.float32), num_iter=int(values["rounds"]), clip=False
    )
    return np.asarray(made[margin : margin + height, margin : margin + width], dtype=np.float32)


def lucy_reach(values: Values, measured: Measured) -> int:
    """Twice through the kernel in each round; what comes from farther than
    `LUCY_FARTHEST` is nothing one could see.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    measured : Measured
        What was measured of the picture before.
    """
    return min(LUCY_FARTHEST, 2 * (int(kernel_of(values).shape[0]) // 2) * int(values["rounds"]))
