"""A map of shares as a picture."""

from __future__ import annotations

import numpy as np

from glenhail.core.files.pyramid import Codes
from glenhail.core.picture import Floats

CELL = 8  # px of the picture for each block
PAPER = np.array((244, 244, 242), dtype=np.float32)
INK = np.array((24, 84, 66), dtype=np.float32)
UNTOLD = 150  # grey, chequered


def shares_drawn(shares: Floats) -> Codes:
    """8-bit sRGB codes, shape (8 h, 8 w, 3): paper where nothing was done, ink where as
    much as at full strength, chequered grey where full strength does next to nothing.

    Parameters
    ----------
    shares : ndarray, shape (h, w)
        As `Evenness` has them.
    """
    told = np.clip(np.nan_to_num(shares), 0, 1)[..., None]
    cells = np.rint(PAPER + told * (INK - PAPER)).astype(np.uint8)
    made = np.repeat(np.repeat(cells, CELL, axis=0), CELL, axis=1)
    untold = np.repeat(np.repeat(np.isnan(shares), CELL, axis=0), CELL, axis=1)
    y, x = np.indices(untold.shape)
    made[untold & ((x // 2 + y // 2) % 2 == 0)] = UNTOLD
    return made
