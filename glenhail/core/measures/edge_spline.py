"""The profile across an edge as a cubic spline through all its pixels, whole and
without one run of rows at a time.
"""

from __future__ import annotations

import numpy as np
import scipy.fft
import scipy.linalg

from glenhail.core.colour.roots import kernel
from glenhail.core.picture import Doubles

ORDER = 4  # basis functions that share an interval
# Share of an interval's pixels by which the spline's third difference is held down: enough to
# bridge the gaps that slopes of small whole numbers leave, and 0.02 % of an edge as sharp as 0.4
# px.
HELD = 1e-3
BINOMIAL = np.array([1.0, -3.0, 3.0, -1.0])


@kernel
def _gather(
    light: np.ndarray,
    at: float,
    slope: float,
    cosine: float,
    reach: float,
    step: float,
    runs: int,
    normal: np.ndarray,
    right: np.ndarray,
    total: np.ndarray,
    count: np.ndarray,
) -> None:
    height, width = light.shape
    intervals = total.shape[1]
    for y in range(height):
        run = y * runs // height
        first = max(0, int((-reach / cosine) + at + slope * y))
        last = min(width, int((reach / cosine) + at + slope * y) + 2)
        for x in range(first, last):
            place = ((x - at - slope * y) * cosine + reach) / step
            if place < 0 or place >= intervals:
                continue
            i = min(int(place), intervals - 1)
            u = place - i
            v = light[y, x]
            w0, w3 = (1 - u) ** 3 / 6, u**3 / 6
            w1 = (3 * u**3 - 6 * u**2 + 4) / 6
            w2 = 1 - w0 - w1 - w3
            total[run, i] += v
            count[run, i] += 1
            right[run, i] += w0 * v
            right[run, i + 1] += w1 * v
            right[run, i + 2] += w2 * v
            right[run, i + 3] += w3 * v
            normal[run, 0, i] += w0 * w0
            normal[run, 0, i + 1] += w1 * w1
            normal[run, 0, i + 2] += w2 * w2
            normal[run, 0, i + 3] += w3 * w3
            normal[run, 1, i] += w0 * w1
            normal[run, 1, i + 1] += w1 * w2
            normal[run, 1, i + 2] += w2 * w3
            normal[run, 2, i] += w0 * w2
            normal[run, 2, i + 1] += w1 * w3
            normal[run, 3, i] += w0 * w3


class EdgeSamples:
    """An edge's pixels by their distance from it, for each run of rows.

    Attributes
    ----------
    knots : ndarray, shape (n + 1,)
        Ends of the intervals, px from the edge.
    total, count : ndarray, shape (runs, n)
        Sums and numbers of the pixels in each interval.
    """

    def __init__(
        self, light: Doubles, at: float, slope: float, reach: float, step: float, runs: int
    ) -> None:
        intervals = max(8, round(2 * reach / step))
        self.step = 2 * reach / intervals
        self.knots = np.arange(intervals + 1) * self.step - reach
        self._normal = np.zeros((runs, ORDER, intervals + 3))
        self._right = np.zeros((runs, intervals + 3))
        self.total, self.count = np.zeros((runs, intervals)), np.zeros((runs, intervals))
        cosine = float(1 / np.sqrt(1 + slope * slope))
        _gather(
            light,
            at,
            slope,
            cosine,
            reach,
            self.step,
            runs,
            self._normal,
            self._right,
            self.total,
            self.count,
        )

    def splines(self) -> list[Doubles]:
        """Coefficients, shape (n + 3,), of the spline over all rows, and where there
        are runs of those without one run each.
        """
        normal, right = self._normal.sum(axis=0), self._right.sum(axis=0)
        pixels = float(self.count.sum()) / self.count.shape[1]
        penalty = _third_differences(right.size) * (HELD * max(pixels, 1e-9))
        made = [_solved(normal + penalty, right)]
        if self._right.shape[0] > 1:
            made += [
                _solved(normal - n + penalty, right - r)
                for n, r in zip(self._normal, self._right, strict=True)
            ]
        return made


def _solved(normal: Doubles, right: Doubles) -> Doubles:
    # A trace on the diagonal keeps ends that no pixel reaches from being undetermined.
    normal[0] += 1e-9 * normal[0].max() + 1e-300
    return np.asarray(scipy.linalg.solveh_banded(normal, right, lower=True, check_finite=False))


def _third_differences(size: int) -> Doubles:
    """The matrix of summed squares of third differences, lower banded storage, shape
    (4, size).
    """
    band = np.zeros((ORDER, size))
    for k in range(ORDER):
        products = BINOMIAL[: ORDER - k] * BINOMIAL[k:]
        for j, p in enumerate(products):
            band[k, j : size - ORDER + 1 + j] += p
    return band


def values(coefficients: Doubles) -> Doubles:
    """The spline at its knots.

    Parameters
    ----------
    coefficients : ndarray, shape (..., n)
        Coefficients of a cubic B-spline.
    """
    c = coefficients
    return np.asarray((c[:-2] + 4 * c[1:-1] + c[2:]) / 6)


def transfers(
    coefficients: Doubles, window: Doubles, step: float, size: int
) -> tuple[Doubles, Doubles]:
    """Magnitudes of the windowed derivatives' Fourier transforms, 1 at 0: frequencies
    in cycles/px up to 1, and shape (n, f).

    The derivative of a cubic B-spline is its coefficients' difference under quadratic
    B-splines, whose transform is sinc^3: no sampling stands between. ``window`` has a
    value for each difference, ``coefficients`` a row for each spline; ``size`` is that
    of the transform.

    Parameters
    ----------
    coefficients : ndarray, shape (..., n)
        Coefficients of a cubic B-spline.
    window : ndarray, shape (n,)
        What the derivative is weighted with.
    step : float
        Distance of the spline's knots, px.
    size : int
        Length of the Fourier transform.
    """
    slope = np.diff(coefficients, axis=1) * window
    frequency = np.fft.rfftfreq(size, step)
    kept = frequency <= 1.0
    found = np.abs(scipy.fft.rfft(slope, size, axis=1)[:, kept])
    shape = np.abs(np.sinc(step * frequency[kept])) ** 3
    return np.asarray(frequency[kept], dtype=np.float64), np.asarray(
        found * shape / np.abs(slope.sum(axis=1))[:, None]
    )
