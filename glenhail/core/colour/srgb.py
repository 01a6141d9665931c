"""The sRGB transfer curve (IEC 61966-2-1:1999) and BT.709 luma and luminance.

Constants as the standard writes them. Both directions keep the sign beyond 0..1, so
that wide-gamut data survive.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import Any

import numba
import numpy as np

from glenhail.core.colour.roots import inlined, kernel, power
from glenhail.core.parallel import in_strips
from glenhail.core.picture import Floats

# IEC 61966-2-1:1999, section 5.2.
SLOPE = 12.92
OFFSET = 0.055
GAMMA = 2.4
ENCODED_KNEE = 0.04045
LINEAR_KNEE = 0.0031308

# The same in single precision, for kernels over whole pictures: off by at most 1e-6 of itself, in a
# tenth of the time.
_SLOPE, _OFFSET, _SPAN = np.float32(SLOPE), np.float32(OFFSET), np.float32(1 + OFFSET)
_GAMMA, _ROOT = np.float32(GAMMA), np.float32(1 / GAMMA)
_ENCODED_KNEE, _LINEAR_KNEE = np.float32(ENCODED_KNEE), np.float32(LINEAR_KNEE)

# ITU-R BT.709-6, item 3.2.
LUMA = np.array([0.2126, 0.7152, 0.0722], dtype=np.float32)


@inlined
def encoded(v: Any) -> Any:
    """One value, for use inside other compiled kernels.

    Parameters
    ----------
    v : float
        A linear value, 0..1.
    """
    a = abs(v)
    e = _SLOPE * a if a <= _LINEAR_KNEE else _SPAN * power(a, _ROOT) - _OFFSET
    return e if v >= 0 else -e


@kernel
def _encode(flat: Floats, out: Floats) -> None:
    for i in range(flat.size):
        out[i] = encoded(flat[i])


def encode(linear: Floats) -> Floats:
    """Linear light to sRGB-encoded values, any shape, float32.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    return _through(_encode, np.atleast_1d(linear))


@kernel
def _decode(flat: Floats, out: Floats) -> None:
    for i in range(flat.size):
        v = flat[i]
        a = abs(v)
        d = a / _SLOPE if a <= _ENCODED_KNEE else power((a + _OFFSET) / _SPAN, _GAMMA)
        out[i] = d if v >= 0 else -d


def decode(encoded: np.ndarray) -> np.ndarray:
    """sRGB-encoded values to linear light, any shape, in the precision given.

    Parameters
    ----------
    encoded : ndarray
        sRGB-encoded values, 0..1.
    """
    if encoded.dtype == np.float32 and encoded.ndim > 1:
        return _through(_decode, encoded)
    a = np.abs(encoded)
    linear = np.where(a <= ENCODED_KNEE, a / SLOPE, ((a + OFFSET) / (1 + OFFSET)) ** GAMMA)
    return np.asarray(np.copysign(linear, encoded))


def _through(kernel: Callable[[Floats, Floats], None], values: Floats) -> Floats:
    """A kernel over flat arrays, applied to strips of rows."""
    source = np.ascontiguousarray(values, dtype=np.float32)
    out = np.empty_like(source)
    if source.size == 0:
        return out
    rows_in, rows_out = source.reshape(source.shape[0], -1), out.reshape(source.shape[0], -1)
    in_strips(
        rows_in.shape[0], lambda a, b: kernel(rows_in[a:b].reshape(-1), rows_out[a:b].reshape(-1))
    )
    return out


@cache
def eight_bit_table() -> np.ndarray:
    """Display codes for linear light in 65,536 steps of 0..1, uint8.

    The finest code step (1/255 / 12.92) spans 20 of these steps, so a rounding boundary
    moves by at most 1/40 of a code: enough for eyes, never used for measuring.
    """
    steps = np.arange(65536, dtype=np.float64) / 65535
    knee = steps <= LINEAR_KNEE
    codes = np.where(knee, SLOPE * steps, (1 + OFFSET) * steps ** (1 / GAMMA) - OFFSET)
    return np.round(codes * 255).astype(np.uint8)


@numba.njit(cache=True, nogil=True)
def _display(flat: Floats, table: np.ndarray, out: np.ndarray) -> None:
    for i in range(flat.size):
        v = flat[i]
        if v <= 0.0:
            out[i] = table[0]
        elif v >= 1.0:
            out[i] = table[65535]
        else:
            out[i] = table[int(v * 65535.0 + 0.5)]


def to_display(linear: Floats) -> np.ndarray:
    """Linear light to 8-bit sRGB codes for the eye, clipped at both ends; uint8, same
    shape.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    source = np.ascontiguousarray(linear, dtype=np.float32)
    out = np.empty(source.shape, dtype=np.uint8)
    table = eight_bit_table()
    rows_in, rows_out = source.reshape(source.shape[0], -1), out.reshape(source.shape[0], -1)
    in_strips(
        rows_in.shape[0],
        lambda a, b: _display(rows_in[a:b].reshape(-1), table, rows_out[a:b].reshape(-1)),
    )
    return out


def luminance(linear: Floats) -> Floats:
    """Linear luminance Y of linear RGB, shape (h, w).

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    return np.asarray(linear @ LUMA, dtype=np.float32)


def luma(linear: Floats) -> Floats:
    """Luma Y' of linear RGB: the weights applied to encoded values, shape (h, w).

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    return np.asarray(encode(linear) @ LUMA, dtype=np.float32)
