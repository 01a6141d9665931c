"""One output against its frame, from files to readings: what the command line and the
server both do.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from glenhail.core.errors import NoLineUp
from glenhail.core.lineup.points import PointPair
from glenhail.core.lineup.register import LineUp, identical, line_up
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.subject import Laid, Subject
from glenhail.core.measures.table import NOISE, Patch, take_all
from glenhail.core.picture import Picture


@dataclass(frozen=True)
class Assessment:
    """How an output lies on its frame, and what was read from it."""

    lineup: LineUp
    readings: list[Reading]


def laid(picture: Picture, lineup: LineUp) -> Laid:
    """A picture with its line-up."""
    return Laid(picture, lineup.mapping, lineup.usable(picture))


def lined_up(source: Picture, output: Picture, points: Sequence[PointPair] = ()) -> LineUp:
    """`line_up`, whose refusal names the file.

    Raises
    ------
    NoLineUp
        If the two do not show the same picture.
    """
    try:
        return line_up(source, output, points)
    except NoLineUp as why:
        raise NoLineUp(f"{output.facts.name}: {why}.") from why


def assess(
    source: Picture,
    output: Picture | None = None,
    truth: Picture | None = None,
    patches: Iterable[Patch] = (),
    measures: Iterable[str] | None = None,
    second: Picture | None = None,
) -> Assessment:
    """Line up and measure; without an output, the source alone.

    `second` is another exposure of the source's scene.

    Raises
    ------
    NoLineUp
        If output or truth do not lie on the source.
    BadRequest
        For a measure or role that does not exist.
    """
    lineup = lined_up(source, output) if output is not None else identical(source)
    truth_laid = laid(truth, lined_up(source, truth)) if truth is not None else None
    patches = list(patches)
    subject = Subject(source, laid(output if output is not None else source, lineup), truth_laid)
    subject.plain = [p.rect for p in patches if p.role in NOISE]
    subject.second = laid(second, lined_up(source, second)) if second is not None else None
    return Assessment(lineup, take_all(subject, patches, measures))
