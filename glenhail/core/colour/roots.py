"""Powers and exponentials in single precision that a compiler can do eight at a time;
for use inside compiled kernels.

The kernels that call these are compiled with ``error_model="numpy"``: a division that
might raise keeps a loop from being done so.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar, cast

import numba
import numpy as np

F = np.float32
Function = TypeVar("Function", bound=Callable[..., Any])


def kernel(function: Function) -> Function:
    """Compile a kernel over whole pictures.

    Parameters
    ----------
    function : callable
        What is compiled.
    """
    return cast(
        "Function", numba.njit(cache=True, nogil=True, fastmath=True, error_model="numpy")(function)
    )


def inlined(function: Function) -> Function:
    """Compile what kernels call for each pixel, to be laid open within them.

    Parameters
    ----------
    function : callable
        What is compiled.
    """
    return cast(
        "Function",
        numba.njit(cache=True, nogil=True, fastmath=True, error_model="numpy", inline="always")(
            function
        ),
    )


_HALF_ROOT = np.int32(0x3F3504F3)  # bits of sqrt(1/2): mantissas are taken from there to sqrt(2)
# log2(m) = 2 / ln 2 (t + t^3 / 3 + ...) with t = (m - 1) / (m + 1), Abramowitz and Stegun 4.1.27;
# the last one economised.
_L1, _L3, _L5, _L7, _L9 = (
    F(2.885390082),
    F(0.961796694),
    F(0.577078016),
    F(0.412198583),
    F(0.32059889),
)
# 2^f about 0, Abramowitz and Stegun 4.2.1.
_E1, _E2, _E3, _E4, _E5, _E6 = (
    F(v)
    for v in (0.693147181, 0.240226507, 0.0555041087, 0.00961812911, 0.00133335581, 0.000154035304)
)
_ONE, _BIAS, _UP = F(1), np.int32(127), F(127.5)
_BITS = np.int32(23)


@inlined
def log2(x: Any) -> Any:
    """Binary logarithm of a positive number, off by at most 3e-7; anything for others.

    Parameters
    ----------
    x : float
        A positive number.
    """
    bits = np.float32(x).view(np.int32)
    e = np.int32(np.int32(bits - _HALF_ROOT) >> _BITS)
    m = np.int32(bits - np.int32(e << _BITS)).view(np.float32)
    t = (m - _ONE) / (m + _ONE)
    s = t * t
    return F(e) + t * (_L1 + s * (_L3 + s * (_L5 + s * (_L7 + s * _L9))))


@inlined
def exp2(y: Any) -> Any:
    """Two to the power of y, -126 < y < 127; off by at most 3e-7 of itself.

    Parameters
    ----------
    y : float
        The exponent, -126 < y < 127.
    """
    n = np.int32(y + _UP)
    f = y - F(np.int32(n - _BIAS))
    p = _ONE + f * (_E1 + f * (_E2 + f * (_E3 + f * (_E4 + f * (_E5 + f * _E6)))))
    return np.int32(np.int32(n) << _BITS).view(np.float32) * p


@inlined
def power(x: Any, exponent: Any) -> Any:
    """A positive number to a power; off by at most 6e-7 of itself for small powers.

    Parameters
    ----------
    x : float
        A positive number.
    exponent : float
        The exponent.
    """
    return exp2(log2(x) * exponent)
