"""What the crops of a figure are cut from: outputs as made, in lifted light, a plane of
them, as seen in a use, or what differs between two of them.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.looking.differences import Kind
from glenhail.core.looking.light import lit_codes
from glenhail.core.looking.shown import Showing, difference_codes, showing_of
from glenhail.core.picture import Rect
from glenhail.core.uses.seen import seen_layout
from glenhail.core.uses.table import Use
from glenhail.server.common.errors import Missing
from glenhail.server.material import display
from glenhail.server.material.decoded import decoded
from glenhail.server.measuring.lining import laid_of
from glenhail.server.measuring.models import LineUp
from glenhail.server.measuring.queries import lineups
from glenhail.server.outputs.models import Output
from glenhail.server.viewing.crops import crop_codes
from glenhail.server.viewing.seen import ask_for, ensure_seen, key_of, rounded

Codes = NDArray[np.uint8]
Figure = dict[str, Any]  # as a report has it


@dataclass(frozen=True)
class Shot:
    """One contender's picture of a figure: ``place`` takes the frame's px to its own,
    ``codes`` gives whole pixels of it as the eye is shown them, shape (h, w, 3);
    ``made_of`` names all that these depend on. Nothing is decoded before pixels are
    asked for. What is seen in a use has the key of that, and `ask` has it made by a
    job.
    """

    output: int
    letter: str
    made_of: str
    bounds: Rect
    place: Callable[[Rect], Rect]
    codes: Callable[[Rect], Codes]
    seen: str = ""
    ask: Callable[[], object] = lambda: None


def shots_of(figure: Figure) -> list[Shot]:
    """The shots of a figure in the order of its outputs, whose ids it loses."""
    return shots_of_all([figure])[0]


def shots_of_all(figures: Sequence[Figure]) -> list[list[Shot]]:
    """The shots of each of a study's figures, as `shots_of` has them, looked up in one
    go.
    """
    told = [(f.pop("outputs"), f.pop("against", None)) for f in figures]
    rows = _outputs([pk for wanted, against in told for pk in (*wanted, against)])
    lines = lineups(list(rows.values()))
    return [
        _shots(
            [rows[pk] for pk in wanted if pk in rows],
            rows.get(against),
            showing_of(figure.get("showing", {})),
            lines,
        )
        for figure, (wanted, against) in zip(figures, told, strict=True)
    ]


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
    two = rows.get(against.pk) if against else None
    made = _shots(chosen, two, showing, lineups(list(rows.values())))
    if not made:
        raise Missing("It is not lined up with its frame yet.")
    return made[0]


def _outputs(pks: Sequence[int | None]) -> dict[int, Output]:
    rows = Output.objects.filter(pk__in=[pk for pk in pks if pk], picture__isnull=False)
    related = rows.select_related("contender__study", "picture__file", "frame__picture__file")
    return {o.pk: o for o in related}


def _shots(
    chosen: Sequence[Output], against: Output | None, showing: Showing, lines: dict[int, LineUp]
) -> list[Shot]:
    lined = [(o, lines[o.pk]) for o in chosen if o.pk in lines and not lines[o.pk].refused]
    if not showing.kind:
        return [_shot(o, row, showing) for o, row in lined]
    row = lines.get(against.pk) if against else None
    if against is None or row is None or row.refused:
        return []
    two = _Laid(against, row)
    kind, gain = Kind(showing.kind), showing.gain
    return [_differing(_Laid(o, line), two, kind, gain) for o, line in lined]


def _shot(output: Output, row: LineUp, showing: Showing) -> Shot:
    assert output.picture is not None
    picture = output.picture
    if showing.use:
        return _seen(output, row, showing.use, showing.centre)

    def light(part: Rect) -> Codes:
        whole = decoded(picture)
        return lit_codes(whole.crop, whole.bounds, part, showing.plane, showing.lift, showing.gain)

    def as_made(part: Rect) -> Codes:
        display.ensure(picture)
        return crop_codes(picture.pyramid, part)

    bounds = Rect(0, 0, picture.width, picture.height)
    codes = as_made if showing.plain else light
    made_of = f"{row.pk} {showing.as_json()}"
    return Shot(output.pk, output.contender.letter, made_of, bounds, row.mapping.rect, codes)


def _seen(output: Output, row: LineUp, use: Use, centre: tuple[float, float]) -> Shot:
    assert output.picture is not None
    picture = output.picture
    lies = seen_layout(picture.width, picture.height, use, rounded(centre))
    key = key_of(use, centre)
    return Shot(
        output.pk,
        output.contender.letter,
        f"{row.pk} {key}",
        Rect(0, 0, lies.width, lies.height),
        lambda rect: lies.place(row.mapping.rect(rect)),
        lambda part: crop_codes(ensure_seen(picture, use, centre), part),
        key,
        lambda: ask_for(output, use, centre),
    )


@dataclass(frozen=True)
class _Laid:
    """An output with the line-up that it is laid by; decoded once it is needed."""

    output: Output
    row: LineUp

    @cached_property
    def picture(self) -> AlignedPicture:
        assert self.output.picture is not None
        return laid_of(decoded(self.output.picture), self.row)


def _differing(one: _Laid, two: _Laid, kind: Kind, gain: int) -> Shot:
    frame = one.output.frame.picture
    return Shot(
        one.output.pk,
        one.output.contender.letter,
        f"{one.row.pk} {two.row.pk} {kind} {gain}",
        Rect(0, 0, frame.width, frame.height),
        lambda rect: rect,
        lambda part: difference_codes(one.picture, two.picture, part, kind, gain),
    )
