"""How far one shot of a still scene moved against another."""

from __future__ import annotations

from dataclasses import dataclass

from glenhail.core.lineup.bend import largest
from glenhail.core.lineup.refine import SNAP_SHIFT
from glenhail.core.picture import Mapping


@dataclass(frozen=True)
class Move:
    """Shift in the middle of the picture, by how much its ends come apart or together,
    and what a turn or bend moves at most, px.

    Two shots from one tripod have one scale. In noise a line-up finds it to some tenths
    of a pixel, end to end, so that little says nothing; more says that something else
    was changed.
    """

    dx: float
    dy: float
    stretch: float
    bent: float = 0.0

    @property
    def mapping(self) -> Mapping:
        """The shift alone; whole pixels where it is whole to within what can be told."""
        return Mapping(1.0, 1.0, _plain(self.dx), _plain(self.dy))


def move_of(mapping: Mapping, width: int, height: int) -> Move:
    """What a line-up says of a move, of pictures of that size.

    Parameters
    ----------
    mapping : Mapping
        From frame coordinates to output pixels.
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    """
    dx = mapping.dx + (mapping.sx - 1) * width / 2
    dy = mapping.dy + (mapping.sy - 1) * height / 2
    bent = largest(mapping.bend, width, height) if mapping.bend else 0.0
    return Move(dx, dy, max(abs(mapping.sx - 1) * width, abs(mapping.sy - 1) * height), bent)


def _plain(shift: float) -> float:
    return float(round(shift)) if abs(shift - round(shift)) < SNAP_SHIFT else shift
