"""Everything that is read of pairs of raw files, each file once: two mosaics are in
memory at a time.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from glenhail.core.errors import BadRequest
from glenhail.core.files.raw import Mosaic
from glenhail.core.picture import Doubles, Rect
from glenhail.core.sensor.averaging import spectrum_of
from glenhail.core.sensor.banding import banding
from glenhail.core.sensor.frames import FramePair
from glenhail.core.sensor.pairs import Moments, moments_of, side_for
from glenhail.core.sensor.raw_doubts import raw_doubts
from glenhail.core.sensor.spot_places import cut
from glenhail.core.sensor.uniformity import LEAST_FRAMES, Stack, Stacked

DARK = 0.005  # of the codes, below which a frame counts as dark

Exposure = tuple[float, float, float]


@dataclass(frozen=True)
class PairRead:
    """What two frames of one exposure say.

    ``moments`` are of the whole frame and ``spots`` of parts of it, by colour letter;
    ``lines`` the variances of rows and columns that go up and down together and
    ``blacks`` how far black of each frame lies from where its file tells it, codes,
    both of dark pairs alone; ``stack`` what all frames of the exposure have in common,
    with its last pair, where these are enough.
    """

    pair: FramePair
    pixels: int
    depth: float
    moments: dict[str, Moments]
    spots: tuple[dict[str, Moments], ...]
    spectrum: Doubles | None
    doubts: tuple[str, ...]
    lines: tuple[float, float] | None = None
    blacks: tuple[float, ...] = ()
    stack: tuple[Stack | None, ...] = field(default=())

    @property
    def files(self) -> tuple[str, str]:
        """Both by name."""
        return self.pair.one.path.name, self.pair.two.path.name


def read_pairs(pairs: Sequence[FramePair], spots: Sequence[Rect | None] = ()) -> list[PairRead]:
    """Read them, in their order.

    Parameters
    ----------
    pairs : sequence of FramePair
        Of one body.
    spots : sequence of Rect or None
        In shares of the frame's sides: 0 to 1; None where this body did not see one.

    Raises
    ------
    BadRequest
        If two frames of a pair are not of one size and pattern.
    """
    many = Counter(_exposure(pair) for pair in pairs)
    left, stacks = Counter(many), dict[Exposure, list[Stacked]]()
    made = []
    for pair in pairs:
        one, two = pair.one.mosaic(), pair.two.mosaic()
        read = _read(pair, one, two, spots)
        exposure = _exposure(pair)
        if 2 * many[exposure] >= LEAST_FRAMES:
            stack = stacks.setdefault(exposure, [Stacked() for _ in _places(one)])
            for mosaic in (one, two):
                for place, plane in zip(_places(mosaic), stack, strict=True):
                    plane.add(mosaic.plane(*place), mosaic.black)
        left[exposure] -= 1
        if exposure in stacks and not left[exposure]:
            read = replace(read, stack=tuple(s.result() for s in stacks.pop(exposure)))
        made.append(read)
    return made


def _exposure(pair: FramePair) -> Exposure:
    return (pair.iso, *pair.exposure)


def _places(mosaic: Mosaic) -> list[tuple[int, int]]:
    return [(r, c) for r in range(len(mosaic.pattern)) for c in range(len(mosaic.pattern[0]))]


def _read(pair: FramePair, one: Mosaic, two: Mosaic, spots: Sequence[Rect | None]) -> PairRead:
    if one.values.shape != two.values.shape or one.pattern != two.pattern:
        raise BadRequest(
            f"{pair.one.path.name} and {pair.two.path.name} differ in size or pattern. Give files"
            " of one body and mode."
        )
    depth = one.white - one.black
    read = PairRead(
        pair,
        one.values.size,
        depth,
        moments_of(one, two),
        tuple(_spot(one, two, spot) for spot in spots),
        spectrum_of(one, two),
        tuple(raw_doubts(one, two)),
    )
    means = [float(m.values.mean()) - m.black for m in (one, two)]
    if max(means) >= DARK * depth:
        return read
    return replace(read, lines=banding(one, two), blacks=tuple(means))


def _spot(one: Mosaic, two: Mosaic, spot: Rect | None) -> dict[str, Moments]:
    """Nothing of a spot that this body did not see, or that is too small."""
    first, second = (cut(m, spot) if spot else None for m in (one, two))
    if first is None or second is None:
        return {}
    return moments_of(first, second, side=side_for(first.plane(0, 0).shape))
