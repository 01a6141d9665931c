"""What the crops of a figure are cut from: outputs as made, in lifted light, or what
differs between two of them.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.looking.differences import Kind
from glenhail.core.looking.shown import difference_codes, lifted, showing_of
from glenhail.core.picture import Rect
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

    letter: str
    bounds: Rect
    place: Callable[[Rect], Rect]
    codes: Callable[[Rect], Codes]


def shots_of(figure: Document) -> list[Shot]:
    """The shots of a figure in the order of its outputs, whose ids it loses."""
    wanted = figure.pop("outputs")
    against_pk = figure.pop("against", None)
    rows = {
        o.pk: o
        for o in Output.objects.filter(pk__in=[*wanted, against_pk]).select_related(
            "contender", "picture__file", "frame__picture__file"
        )
    }
    lines = lineups(list(rows.values()))
    showing = showing_of(figure.get("showing", {}))
    chosen = [rows[pk] for pk in wanted if pk in rows]
    if showing.kind:
        against = rows[against_pk]
        two = _laid(against, lines[against.pk])
        return [_differing(o, lines[o.pk], two, Kind(showing.kind), showing.gain) for o in chosen]
    return [_shot(o, lines[o.pk], showing.lift) for o in chosen]


def _shot(output: Output, row: LineUp, lift: int) -> Shot:
    assert output.picture is not None
    picture = output.picture

    def light(part: Rect) -> Codes:
        return lifted(decoded(picture).crop(part), lift)

    def as_made(part: Rect) -> Codes:
        display.ensure(picture)
        return crop_codes(picture.pyramid, part)

    bounds = Rect(0, 0, picture.width, picture.height)
    return Shot(output.contender.letter, bounds, row.mapping.rect, light if lift else as_made)


def _differing(output: Output, row: LineUp, two: AlignedPicture, kind: Kind, gain: int) -> Shot:
    one, frame = _laid(output, row), output.frame.picture
    return Shot(
        output.contender.letter,
        Rect(0, 0, frame.width, frame.height),
        lambda rect: rect,
        lambda part: difference_codes(one, two, part, kind, gain),
    )


def _laid(output: Output, row: LineUp) -> AlignedPicture:
    assert output.picture is not None
    return laid_of(decoded(output.picture), row)
