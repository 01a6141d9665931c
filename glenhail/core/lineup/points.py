"""A start for a line-up that failed: two or three places that a person found in both
pictures.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from glenhail.core.errors import BadRequest
from glenhail.core.lineup.fit import folded
from glenhail.core.picture import Bend, Mapping

FEWEST, MOST = 2, 3
LEAST_APART = 0.15  # of the frame's width


@dataclass(frozen=True)
class PointPair:
    """The same thing in the frame (x, y) and in the output (u, v), each in its own
    pixels.
    """

    x: float
    y: float
    u: float
    v: float


def from_points(pairs: Sequence[PointPair], width: int) -> Mapping:
    """Scale, shift and turn through hand-placed pairs: a similarity (Umeyama 1991,
    without reflection).

    Parameters
    ----------
    pairs : sequence of PointPair
        Two or three places in frame and output.
    width : int
        Pixels across, at least 1.

    Raises
    ------
    BadRequest
        If there are not two or three pairs, or they lie too close together.
    """
    if not FEWEST <= len(pairs) <= MOST:
        raise BadRequest(f"{len(pairs)} pairs of points were placed; two or three are needed")
    frame = np.array([complex(p.x, p.y) for p in pairs])
    output = np.array([complex(p.u, p.v) for p in pairs])
    if np.ptp(frame.real) + np.ptp(frame.imag) < LEAST_APART * width:
        raise BadRequest("the points lie too close together; place them near opposite corners")
    one, other = frame - frame.mean(), output - output.mean()
    factor = complex((other * one.conj()).sum() / (one * one.conj()).sum())
    scale, turn = abs(factor), np.angle(factor)
    if not 0.1 < scale < 10 or abs(turn) > np.radians(15):
        raise BadRequest(
            f"the points say {scale:.2f}×, turned by {np.degrees(turn):.0f}°; check that each"
            " pair shows the same place"
        )
    shift = output.mean() - scale * frame.mean()
    sine, less = float(np.sin(turn)), float(np.cos(turn)) - 1
    middle = frame.mean()
    across, down = (0, less, -sine, *[0.0] * 7), (0, sine, less, *[0.0] * 7)
    bend = Bend(float(middle.real), float(middle.imag), 1.0, across, down)
    return folded(Mapping(scale, scale, float(shift.real), float(shift.imag)), bend)
