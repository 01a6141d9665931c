"""Lines that go up and down together from frame to frame: what lifted shadows show as
bands.
"""

from __future__ import annotations

import numpy as np

from glenhail.core.files.raw import Mosaic


def banding(one: Mosaic, two: Mosaic) -> tuple[float, float]:
    """Variance of rows' and of columns' means beyond that which their pixels explain,
    codes squared of one frame; out of the difference of two dark ones, in which no
    fixed pattern is left. Below nothing where there is none.

    EMVA 1288 release 4 parts spatial noise so, of the mean of many frames; here it is
    temporal.

    Parameters
    ----------
    one, two : Mosaic
        Of no light, of the same size and pattern.
    """
    found = np.zeros(2)
    places = [(r, c) for r in range(len(one.pattern)) for c in range(len(one.pattern[0]))]
    for row, column in places:
        apart = one.plane(row, column).astype(np.int32) - two.plane(row, column)
        whole = float(apart.var())
        for i, axis in enumerate((1, 0)):
            means = apart.mean(axis=axis)
            found[i] += (float(means.var(ddof=1)) - whole / apart.shape[axis]) / 2
    rows, columns = found / len(places)
    return float(rows), float(columns)
