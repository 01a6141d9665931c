"""Shift between two planes: phase correlation, then an upsampled correlation peak."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy.fft
import scipy.ndimage

from glenhail.core.picture import Doubles, Floats


def detail(plane: Floats, fine: float = 0.7, coarse: float = 4.0) -> Floats:
    """A plane's structure between two Gaussian scales (px), without tone or falloff.

    Parameters
    ----------
    plane : ndarray, shape (h, w), float32
        One plane of a picture.
    fine : float
        Gaussian below which structure is left out, px.
    coarse : float
        Gaussian above which it is left out, px.
    """
    smooth = scipy.ndimage.gaussian_filter(plane, fine, mode="nearest", truncate=3)
    return np.asarray(
        smooth - scipy.ndimage.gaussian_filter(plane, coarse, mode="nearest", truncate=2.5)
    )


def window(shape: tuple[int, int]) -> Floats:
    """A Tukey window: flat in the middle, so that most of the picture counts.

    Parameters
    ----------
    shape : tuple of int
        Rows and columns.
    """
    return np.asarray(np.outer(*(_tukey(n) for n in shape)), dtype=np.float32)


def _tukey(n: int, tapered: float = 0.25) -> Doubles:
    """The tapered cosine window (Harris 1978); scipy.signal has it too, at a second of
    import time in every process.
    """
    from_end = np.minimum(np.arange(n), np.arange(n)[::-1]) / max(1, n - 1)
    return np.asarray(0.5 - 0.5 * np.cos(2 * np.pi * np.minimum(from_end / tapered, 0.5)))


def likeness(one: Floats, two: Floats) -> float:
    """Pearson's correlation of two planes; 0 where one of them is plain.

    Parameters
    ----------
    one : ndarray, float32
        The first picture or plane.
    two : ndarray, float32
        The second, of the same shape.
    """
    a, b = one - one.mean(), two - two.mean()
    scale = float(np.sqrt((a * a).sum(dtype=np.float64) * (b * b).sum(dtype=np.float64)))
    return float((a * b).sum(dtype=np.float64)) / scale if scale > 0 else 0.0


def coarse_shift(one: Floats, two: Floats) -> tuple[int, int]:
    """Whole-pixel (dx, dy) by which the structure of `two` lies right of and below that
    of `one`.

    Phase correlation (Kuglin and Hines 1975), spectrum weighted by its own strength to
    the half, so that frequencies holding only noise do not outvote the picture.

    Parameters
    ----------
    one : ndarray, float32
        The first picture or plane.
    two : ndarray, float32
        The second, of the same shape.
    """
    cross = scipy.fft.rfft2(two) * np.conj(scipy.fft.rfft2(one))
    surface = scipy.fft.irfft2(cross / np.sqrt(np.abs(cross) + 1e-12), one.shape)
    row, column = np.unravel_index(int(surface.argmax()), one.shape)
    height, width = one.shape
    return (
        int(column) - width if column > width // 2 else int(column),
        int(row) - height if row > height // 2 else int(row),
    )


@dataclass(frozen=True)
class Peak:
    """A correlation peak: where (px), how high (as correlation), how sharply bent in x
    and in y.

    The bends weigh one cell against another: a texture pins a shift down far better
    than one soft edge.
    """

    dx: float
    dy: float
    height: float
    bend_x: float
    bend_y: float


def fine_shift(one: Floats, two: Floats, reach: float = 2.0) -> Peak:
    """Sub-pixel place of `two` against `one`.

    The cross-correlation is evaluated by matrix Fourier transform on a fine grid around
    zero (Guizar-Sicairos, Thurman and Fienup 2008) within `reach` px, first coarsely,
    then to 0.01 px, and its peak is interpolated by a parabola.

    Parameters
    ----------
    one : ndarray, float32
        The first picture or plane.
    two : ndarray, float32
        The second, of the same shape.
    reach : float
        How far from no shift it is looked, px.
    """
    spectrum = scipy.fft.fft2(two) * np.conj(scipy.fft.fft2(one))
    energy = (
        float(np.sqrt((one * one).sum(dtype=np.float64) * (two * two).sum(dtype=np.float64))) or 1.0
    )
    x = y = 0.0
    height = 0.0
    for span, step in ((reach, 0.25), (0.3, 0.05), (0.06, 0.01)):
        offsets = np.arange(-span, span + step / 2, step)
        surface = _correlation_at(spectrum, x + offsets, y + offsets) / energy
        row, column = np.unravel_index(int(surface.argmax()), surface.shape)
        height = float(surface[row, column])
        x += float(offsets[column]) + step * _vertex(surface[row], int(column))
        y += float(offsets[row]) + step * _vertex(surface[:, column], int(row))
    bend_x, bend_y = _bends(np.abs(spectrum))
    return Peak(x, y, height, bend_x, bend_y)


def _bends(strength: Doubles) -> tuple[float, float]:
    """Mean squared frequency in x and y: the curvature of the normalised peak, up to a
    constant.
    """
    total = float(strength.sum()) or 1.0
    across, down = strength.sum(axis=0), strength.sum(axis=1)
    fx, fy = np.fft.fftfreq(across.size), np.fft.fftfreq(down.size)
    return float((across * fx**2).sum()) / total, float((down * fy**2).sum()) / total


def _correlation_at(spectrum: np.ndarray, xs: Doubles, ys: Doubles) -> Doubles:
    height, width = spectrum.shape
    fx = np.fft.fftfreq(width)[:, None]
    fy = np.fft.fftfreq(height)[None, :]
    right = np.exp(2j * np.pi * fx * xs[None, :])
    left = np.exp(2j * np.pi * ys[:, None] * fy)
    return np.asarray((left @ spectrum @ right).real / spectrum.size)


def _vertex(line: Doubles, at: int) -> float:
    """Where a parabola through three samples peaks, in samples from `at`, at most half
    a sample.
    """
    if at == 0 or at == len(line) - 1:
        return 0.0
    before, here, after = line[at - 1], line[at], line[at + 1]
    bend = before - 2 * here + after
    return float(np.clip(0.5 * (before - after) / bend, -0.5, 0.5)) if bend < 0 else 0.0
