"""Two outputs and what they are held against on one grid; how their structure differs
by frequency.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.level.unsharp_fit import RatioCurve
from glenhail.core.level.way import LevelPair
from glenhail.core.lineup.aligned import lined_up
from glenhail.core.lineup.grids import shared_part, to_truth_grid
from glenhail.core.measures.spectra import transfers
from glenhail.core.picture import Floats, Mapping, Picture, Rect

MOST_SIDE = 2048  # px about the middle that curves are taken of
GROUPS = 16
CODES = 255
LEAST_KEPT = 0.05  # where nothing is left there is nothing to raise


def on_one_grid(
    one: Picture, others: Sequence[Picture], side: int = MOST_SIDE
) -> tuple[list[Floats], Rect]:
    """Luma, 8-bit codes, of the part about the middle that all show, on the first one's
    grid; and where on it that part lies.

    Parameters
    ----------
    one : Picture
        Whose grid it is.
    others : sequence of Picture
        Of the same frame.
    side : int
        At most so many px either way.
    """
    shared = one.bounds
    mappings = [Mapping()]
    for other in others:
        found = lined_up(one, other)
        mappings.append(found.mapping)
        shared = shared_part(shared, found.mapping, found.usable(other))
    w, h = min(side, shared.w), min(side, shared.h)
    rect = Rect(shared.x + (shared.w - w) // 2, shared.y + (shared.h - h) // 2, w, h)
    planes = [
        srgb.luma(to_truth_grid(p.pixels, m, rect).pixels) * np.float32(CODES)
        for p, m in zip((one, *others), mappings, strict=True)
    ]
    return planes, rect


def ratio_of(pair: LevelPair) -> RatioCurve:
    """How much more structure the other has, by frequency, on the first one's grid.

    Both are held against the same picture: what is in it and in them in place and in
    phase counts, noise and invention do not.

    Parameters
    ----------
    pair : LevelPair
        Both outputs; their truth, else the frame itself, is what they are held against.

    Raises
    ------
    NotMeasurable
        If there is no structure, or too little in common.
    """
    # Outputs are lined up with each other: noise in their frame has no part in that.
    (own, theirs, instrument), _ = on_one_grid(pair.one.picture, (pair.other.picture, pair.known))
    curves = [transfers(instrument, plane, GROUPS) for plane in (own, theirs)]
    mine, its = (c.whole for c in curves)
    pairs = list(zip(curves[0].left_out, curves[1].left_out, strict=True))
    usable = mine.kept > LEAST_KEPT
    if not usable.any():
        raise NotMeasurable("the output has nothing of the frame's structure left to sharpen")
    left_out = np.array([b.kept[usable] / a.kept[usable] for a, b in pairs])
    return RatioCurve(
        mine.frequency[usable],
        its.kept[usable] / mine.kept[usable],
        left_out.reshape(len(pairs), int(usable.sum())),
    )
