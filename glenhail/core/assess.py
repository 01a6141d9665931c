"""One output against its frame, from files to readings: what the command line and the
server both do.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from glenhail.core.lineup.aligned import AlignedPicture, aligned, lined_up
from glenhail.core.lineup.register import LineUp, identical
from glenhail.core.measures.catalogue import NOISE, Patch, take_all
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Picture


@dataclass(frozen=True)
class Assessment:
    """How an output lies on its frame, and what was read from it."""

    lineup: LineUp
    readings: list[Reading]


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

    Parameters
    ----------
    source : Picture
        The frame.
    output : Picture or None
        The output; None measures the source alone.
    truth : Picture, optional
        The known-good original.
    patches : iterable of Patch
        Patches in frame px, each with its role.
    measures : iterable of str, optional
        Measures by id; all that belong to the patches else.
    second : Picture, optional
        Another exposure of the same scene.

    Raises
    ------
    NoLineUp
        If output or truth do not lie on the source.
    BadRequest
        For a measure or role that does not exist.
    """
    lineup = lined_up(source, output) if output is not None else identical(source)
    laid = aligned(output if output is not None else source, lineup)
    known, beside = (
        aligned(p, lined_up(source, p)) if p is not None else None for p in (truth, second)
    )
    return Assessment(lineup, readings_of(source, laid, known, patches, measures, beside))


def readings_of(
    source: Picture,
    output: AlignedPicture,
    truth: AlignedPicture | None = None,
    patches: Iterable[Patch] = (),
    measures: Iterable[str] | None = None,
    second: AlignedPicture | None = None,
) -> list[Reading]:
    """Measure what is lined up already; parameters and errors as of `assess`.

    Parameters
    ----------
    source : Picture
        The frame.
    output : AlignedPicture
        The output.
    truth : AlignedPicture, optional
        The known-good original.
    patches : iterable of Patch
        Patches in frame px, each with its role.
    measures : iterable of str, optional
        Measures by id; all that belong to the patches else.
    second : AlignedPicture, optional
        Another exposure of the same scene.
    """
    patches = list(patches)
    subject = Subject(source, output, truth, second=second)
    subject.plain = [p.rect for p in patches if p.role in NOISE]
    return take_all(subject, patches, measures)
