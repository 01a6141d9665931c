"""Pictures that show what changed: where, and both sides of the place where most did."""

from __future__ import annotations

from dataclasses import dataclass

from glenhail.core.files.pyramid import Codes
from glenhail.core.releases.changes import ChangeMaps
from glenhail.core.seeing.evidence import about_place, drawn_over, small

FULL = 16.0  # 8-bit levels that are drawn in full colour


@dataclass(frozen=True)
class ChangeShown:
    """8-bit sRGB codes, shape (h, w, 3): the change over the paled earlier picture, and
    the place where most changed in both.
    """

    map: Codes
    earlier: Codes
    later: Codes


def change_shown(maps: ChangeMaps) -> ChangeShown:
    """What shows a change.

    Parameters
    ----------
    maps : ChangeMaps
        Of both pictures.
    """
    place = maps.told.place
    return ChangeShown(
        drawn_over(small(maps.earlier), small(maps.apart) / FULL),
        about_place(maps.earlier, place),
        about_place(maps.later, place),
    )
