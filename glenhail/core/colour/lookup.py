"""Integer codes through a table of every code, on all processors."""

from __future__ import annotations

import numba
import numpy as np

from glenhail.core.parallel import FEW_ROWS, in_strips
from glenhail.core.picture import Floats


@numba.njit(cache=True, nogil=True)
def _look_up(codes: np.ndarray, table: Floats, out: Floats) -> None:
    for i in range(codes.size):
        out[i] = table[codes[i]]


def through_table(codes: np.ndarray, table: np.ndarray, out: Floats | None = None) -> Floats:
    """``table[codes]`` as float32, same shape, in `out` if that is given; numpy's own
    indexing takes several times as long.

    Parameters
    ----------
    codes : ndarray, unsigned integer
        Codes, any shape of one dimension or more.
    table : ndarray, shape (n,)
        A value for each code.
    out : ndarray, optional
        Where it is written, in the codes' shape.
    """
    source = np.ascontiguousarray(codes)
    narrow = np.ascontiguousarray(table, dtype=np.float32)
    if out is None or out.shape != source.shape or not out.flags.c_contiguous:
        out = np.empty(source.shape, dtype=np.float32)
    rows_in, rows_out = source.reshape(source.shape[0], -1), out.reshape(source.shape[0], -1)
    in_strips(
        rows_in.shape[0],
        lambda a, b: _look_up(rows_in[a:b].reshape(-1), narrow, rows_out[a:b].reshape(-1)),
        FEW_ROWS,
    )
    return out
