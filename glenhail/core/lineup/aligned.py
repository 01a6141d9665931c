"""A picture with the place it takes on its frame: what is compared is compared through
it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from glenhail.core.errors import NoLineUp
from glenhail.core.lineup.bend import straightened
from glenhail.core.lineup.grids import shared_part
from glenhail.core.lineup.points import PointPair
from glenhail.core.lineup.register import LineUp, line_up
from glenhail.core.picture import Mapping, Picture, Rect


@dataclass(frozen=True)
class AlignedPicture:
    """A picture with its mapping from the frame and the part of it that is picture."""

    picture: Picture
    mapping: Mapping
    usable: Rect
    white: float = 1.0  # linear light at which it is cut off

    @cached_property
    def straight(self) -> AlignedPicture:
        """The same without the mapping's bend: for averages over areas, not for noise,
        since pixels are interpolated.
        """
        if self.mapping.bend is None:
            return self
        pixels = straightened(self.picture.pixels, self.mapping, self.picture.bounds)
        part = self.mapping.straight.rect(
            shared_part(Rect(-1e6, -1e6, 2e6, 2e6), self.mapping, self.usable)
        )
        return AlignedPicture(Picture(pixels, self.picture.facts), self.mapping.straight, part)


def aligned(picture: Picture, lineup: LineUp) -> AlignedPicture:
    """A picture with its line-up.

    Parameters
    ----------
    picture : Picture
        A picture in linear light.
    lineup : LineUp
        The line-up.
    """
    return AlignedPicture(picture, lineup.mapping, lineup.usable(picture))


def lined_up(source: Picture, output: Picture, points: Sequence[PointPair] = ()) -> LineUp:
    """`line_up`, whose refusal names the file.

    Parameters
    ----------
    source : Picture
        The frame.
    output : Picture
        The output.
    points : sequence of PointPair
        Places set by hand; none where there are none.

    Raises
    ------
    NoLineUp
        If the two do not show the same picture.
    """
    try:
        return line_up(source, output, points)
    except NoLineUp as why:
        raise NoLineUp(f"{output.facts.name}: {why}.") from why
