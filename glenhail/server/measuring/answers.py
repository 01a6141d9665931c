"""A study's readings laid out as the questions about the whole of it need them."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from glenhail.core.answers.board import Board, Cell, Column, Place
from glenhail.core.answers.comparison import TakenReading
from glenhail.core.lineup.border import Border
from glenhail.core.measures.catalogue import MEASURES
from glenhail.core.picture import Rect
from glenhail.server.material.models import Frame
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring.models import AS_MADE, LineUp, Reading
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.outputs.models import Output
from glenhail.server.studies import queries
from glenhail.server.studies.models import Contender, Kind, Study

FIELDS = (
    "id",
    "measure",
    "version",
    "patch_id",
    "output__frame_id",
    "output__contender__letter",
    "value",
    "low",
    "high",
    "parts",
)


def column_of(contender: Contender) -> Column:
    """A contender as a board has it."""
    return Column(
        contender.letter, contender.kind == Kind.UNPROCESSED, contender.kind == Kind.TRUTH
    )


def board_of(study: Study, basis: str = AS_MADE) -> Board:
    """All of a study's current readings that have a value."""
    columns = [column_of(c) for c in queries.contenders().filter(study=study)]
    board = Board(columns, _places(study))
    rows = Reading.objects.filter(
        output__contender__study=study, measure__in=MEASURES, basis=basis, value__isnull=False
    )
    for pk, measure, version, patch, frame, letter, value, low, high, parts in rows.values_list(
        *FIELDS
    ):
        if version == MEASURES[measure].version:
            taken = TakenReading(
                value, value if low is None else low, value if high is None else high, tuple(parts)
            )
            board.put(measure, f"p{patch}" if patch else f"f{frame}", letter, Cell(pk, taken))
    return board


def _places(study: Study) -> dict[str, Place]:
    frames = {sf.frame_id: sf.frame for sf in queries.study_frames(study)}
    kinds = {pk: tuple(f.scene.kinds) if f.scene else () for pk, f in frames.items()}
    found = {
        f"f{pk}": Place(f"f{pk}", "", "Whole frame", f.name, kinds[pk]) for pk, f in frames.items()
    }
    for patch in study.patches.all():
        if patch.frame_id in frames:
            frame = frames[patch.frame_id]
            found[f"p{patch.pk}"] = Place(
                f"p{patch.pk}", patch.role, patch.name, frame.name, kinds[frame.pk]
            )
    return found


def correlations(study: Study) -> dict[str, list[float]]:
    """How far each contender's brightness noise goes with the frame's, where their
    pixels coincide.
    """
    rows = Reading.objects.filter(
        output__contender__study=study, measure="noise_luma", basis=AS_MADE, value__isnull=False
    )
    found: dict[str, list[float]] = defaultdict(list)
    for letter, details in rows.values_list("output__contender__letter", "details"):
        if "correlation_with_frame" in details:
            found[letter].append(details["correlation_with_frame"])
    return found


# Curves among the details of readings: of which measure, under which name, what lies across and up.
CURVES: dict[str, tuple[str, str, str, str, str, str]] = {
    "mtf": ("mtf50", "mtf", "cycles_per_frame_px", "transfer", "cycles/px", "contrast kept"),
    "profile": (
        "mtf50",
        "profile",
        "frame_px",
        "light",
        "px across the edge",
        "light, 0 and 1 on either side",
    ),
    "spectrum": (
        "nps",
        "spectrum",
        "cycles_per_frame_px",
        "power",
        "cycles/px",
        "8-bit levels squared",
    ),
    "texture": (
        "detail_kept",
        "transfer",
        "cycles_per_frame_px",
        "kept",
        "cycles/px",
        "share of texture kept",
    ),
}


def curves(study: Study, patch_id: int, basis: str = AS_MADE) -> list[dict[str, Any]]:
    """Every curve behind the readings of one patch, by contender;

    ``error`` is half of its 95 % interval where there is one.
    """
    measures = {c[0] for c in CURVES.values()}
    rows = Reading.objects.filter(
        patch__study=study, patch=patch_id, measure__in=measures, basis=basis, value__isnull=False
    )
    made = []
    for reading in rows.select_related("output__contender").order_by("output__contender__order"):
        if reading.version != MEASURES[reading.measure].version:
            continue
        for name, (measure, place, x, y, x_unit, y_unit) in CURVES.items():
            told = reading.details.get(place)
            if measure == reading.measure and told:
                made.append(
                    {
                        "curve": name,
                        "letter": reading.output.contender.letter,
                        "reading": reading.pk,
                        "x": told[x],
                        "y": told[y],
                        "error": told.get("error", []),
                        "x_unit": x_unit,
                        "y_unit": y_unit,
                    }
                )
    return made


def shown_in(study: Study, frame: Frame, made: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Suggestions with the letters of the study's contenders whose outputs do not show
    all of the place.
    """
    rows = [
        o
        for o in outputs_queries.outputs(study)
        if o.frame_id == frame.pk and o.picture is not None
    ]
    found = measuring_queries.lineups(rows)
    lacking = []
    for one in made:
        rect = Rect(one["x"], one["y"], one["w"], one["h"])
        letters = [
            o.contender.letter for o in rows if o.pk in found and not _shows(o, found[o.pk], rect)
        ]
        lacking.append({**one, "not_in": letters})
    return lacking


def _shows(output: Output, row: LineUp, rect: Rect) -> bool:
    if row.refused or output.picture is None:
        return False
    usable = Border(row.left, row.top, row.right, row.bottom).inner(
        output.picture.width, output.picture.height
    )
    target = row.mapping.rect(rect).whole()
    return target.clipped(usable) == target
