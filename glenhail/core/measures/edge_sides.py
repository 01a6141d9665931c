"""Either side of an edge by run of rows, and whether its light has come to rest within
the patch.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.measures.edge_profile import PLATEAU, EdgeProfiles
from glenhail.core.picture import Doubles

SEEN_WHOLE = 3.0  # % of the step from which on a halo has to have ended within the patch
LEAST_FALL = 0.4  # % of the step by which a plateau may still fall
UNSEEN = 3.0  # times what its plateau still falls an edge's step may be off


@dataclass(frozen=True)
class Side:
    """One side of an edge by run of rows, shape (runs, distances): sums and numbers of
    pixels in steps beyond 0, upwards for a halo; their distances outwards, px.
    """

    distance: Doubles
    total: Doubles
    count: Doubles
    reach: float

    def of(self, runs: slice) -> Side:
        """Some of the runs."""
        return Side(self.distance, self.total[runs], self.count[runs], self.reach)

    def mean(self, inside: np.ndarray) -> float:
        """Light at some distances."""
        return float(self.total[:, inside].sum()) / max(1.0, float(self.count[:, inside].sum()))

    def fall(self) -> tuple[float, float]:
        """By how much the light falls along the plateau, outwards, % of the step, and
        the standard error of that.
        """
        middle = (1 + PLATEAU) / 2 * self.reach
        inner, outer = (
            (self.distance > PLATEAU * self.reach) & (self.distance < middle),
            self.distance >= middle,
        )
        runs = [self.of(slice(i, i + 1)) for i in range(self.total.shape[0])]
        falls = np.array([r.mean(inner) - r.mean(outer) for r in runs])
        return 100 * (self.mean(inner) - self.mean(outer)), 100 * float(
            falls.std(ddof=1)
        ) / np.sqrt(falls.size)


def side_of(found: EdgeProfiles, sign: float) -> Side:
    """The bright side of an edge (1), or its dark side turned upwards (-1).

    Parameters
    ----------
    found : EdgeProfiles
        The edge's profiles, over all rows and without some.
    sign : float
        1 for the bright side, -1 for the dark one.
    """
    gathered, whole = found.gathered, found.whole
    places = sign * (gathered.knots[:-1] + gathered.knots[1:]) / 2
    order = np.argsort(places)
    kept = order[places[order] > 0]
    count = gathered.count[:, kept]
    return Side(places[kept], sign * gathered.total[:, kept] / whole.step, count, found.reach)


def unseen_share(edge: EdgeProfiles) -> float:
    """Share of an edge's step that its plateaus may be off by, where halos have not
    ended within the patch.

    Parameters
    ----------
    edge : EdgeProfiles
        The edge's profiles, over all rows and without some.
    """
    falls = []
    for sign in (1.0, -1.0):
        side = side_of(edge, sign)
        near = side.distance < PLATEAU * side.reach
        light = side.total.sum(axis=0) / np.maximum(side.count.sum(axis=0), 1)
        level = side.mean(~near)
        fall, error = side.fall()
        if 100 * (float(light[near].max()) - level) > SEEN_WHOLE and fall > max(
            LEAST_FALL / 4, 4 * error
        ):
            falls.append(fall / 100)
    return UNSEEN * max(falls, default=0.0)
