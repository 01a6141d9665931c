"""What the crops of a figure are cut from: outputs as made, in lifted light, or what
differs between two of them.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.looking.differences import Kind
from glenhail.core.looking.shown import Showing, difference_codes, lifted, showing_of
from glenhail.core.picture import Rect
from glenhail.server.common.errors import Missing
from glenhail.server.material import display
from glenhail.server.material.decoded import decoded
from glenhail.server.measuring.lining import laid_of
from glenhail.server.measuring.models import LineUp
from glenhail.server.measuring.queries import lineups
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.document import Document
from glenhail.server.viewing.crops import crop_codes

Codes = NDArray[np.uint8]


@dataclass(frozen=True)
class Shot:
    """One contender's picture of a figure: ``place`` takes the frame's px to its own,
    ``codes`` gives whole pixels of it as the eye is shown them, shape (h, w, 3).
    """

    output: int
    letter: str
    bounds: Rect
    place: Callable[[Rect], Rect]
    codes: Callable[[Rect], Codes]


def shots_of(figure: Document) -> list[Shot]:
    """The shots of a figure in the order of its outputs, whose ids it loses."""
    wanted = figure.pop("outputs")
    against = figure.pop("against", None)
    rows = _outputs([*wanted, against])
    chosen = [rows[pk] for pk in wanted if pk in rows]
    return _shots(chosen, rows.get(against), showing_of(figure.get("showing", {})))


def shot_of(output: Output, showing: Showing) -> Shot:
    """One output's shot by itself.

    Raises
    ------
    Missing
        If it, or what it shall differ from, is not lined up.
    """
    frame = Output.objects.filter(frame_id=output.frame_id)
    study = frame.filter(contender__study_id=output.contender.study_id)
    against = study.filter(contender__letter=showing.against).first() if showing.kind else None
    rows = _outputs([output.pk, against.pk if against else None])
    chosen = [rows[output.pk]] if output.pk in rows else []
    made = _shots(chosen, rows.get(against.pk) if against else None, showing)
    if not made:
        raise Missing("It is not lined up with its frame yet.")
    return made[0]


def _outputs(pks: Sequence[int | None]) -> dict[int, Output]:
    rows = Output.objects.filter(pk__in=[pk for pk in pks if pk], picture__isnull=False)
    related = rows.select_related("contender", "picture__file", "frame__picture__file")
    return {o.pk: o for o in related}


def _shots(chosen: Sequence[Output], against: Output | None, showing: Showing) -> list[Shot]:
    lines = lineups([*chosen, *([against] if against else [])])
    lined = [(o, lines[o.pk]) for o in chosen if o.pk in lines and not lines[o.pk].refused]
    if not showing.kind:
        return [_shot(o, row, showing.lift) for o, row in lined]
    row = lines.get(against.pk) if against else None
    if against is None or row is None or row.refused:
        return []
    two = _laid(against, row)
    return [_differing(o, line, two, Kind(showing.kind), showing.gain) for o, line in lined]


def _shot(output: Output, row: LineUp, lift: int) -> Shot:
    assert output.picture is not None
    picture = output.picture

    def light(part: Rect) -> Codes:
        return lifted(decoded(picture).crop(part), lift)

    def as_made(part: Rect) -> Codes:
        display.ensure(picture)
        return crop_codes(picture.pyramid, part)

    bounds = Rect(0, 0, picture.width, picture.height)
    return Shot(
        output.pk, output.contender.letter, bounds, row.mapping.rect, light if lift else as_made
    )


def _differing(output: Output, row: LineUp, two: AlignedPicture, kind: Kind, gain: int) -> Shot:
    one, frame = _laid(output, row), output.frame.picture
    return Shot(
        output.pk,
        output.contender.letter,
        Rect(0, 0, frame.width, frame.height),
        lambda rect: rect,
        lambda part: difference_codes(one, two, part, kind, gain),
    )


def _laid(output: Output, row: LineUp) -> AlignedPicture:
    assert output.picture is not None
    return laid_of(decoded(output.picture), row)
