"""A study's readings laid out as the questions about the whole of it need them."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from glenhail.core.inquiries.board import Board, Cell, Column, Place
from glenhail.core.inquiries.paired import Taken
from glenhail.core.inquiries.tradeoff import Point, blend, front
from glenhail.core.measures.table import MEASURES
from glenhail.server.studies import queries
from glenhail.server.studies.models import Kind, Reading, Study
from glenhail.server.studies.models.readings import AS_MADE

# What a place can be counted under.
ROLE, KIND, FRAME = GROUPED = ("role", "kind", "frame")
FIELDS = ("id", "measure", "version", "patch_id", "output__frame_id", "output__contender__letter", "value", "low", "high", "parts")


def board_of(study: Study, basis: str = AS_MADE) -> Board:
    """All of a study's current readings that have a value."""
    columns = [Column(c.letter, c.kind == Kind.UNPROCESSED, c.kind == Kind.TRUTH) for c in queries.contenders().filter(study=study)]
    board = Board(columns, _places(study))
    rows = Reading.objects.filter(output__contender__study=study, measure__in=MEASURES, basis=basis, value__isnull=False)
    for pk, measure, version, patch, frame, letter, value, low, high, parts in rows.values_list(*FIELDS):
        if version == MEASURES[measure].version:
            taken = Taken(value, value if low is None else low, value if high is None else high, tuple(parts))
            board.put(measure, f"p{patch}" if patch else f"f{frame}", letter, Cell(pk, taken))
    return board


def _places(study: Study) -> dict[str, Place]:
    frames = {sf.frame_id: sf.frame for sf in queries.study_frames(study)}
    kinds = {pk: tuple(f.scene.kinds) if f.scene else () for pk, f in frames.items()}
    found = {f"f{pk}": Place(f"f{pk}", "", "Whole frame", f.name, kinds[pk]) for pk, f in frames.items()}
    for patch in study.patches.all():
        if patch.frame_id in frames:
            frame = frames[patch.frame_id]
            found[f"p{patch.pk}"] = Place(f"p{patch.pk}", patch.role, patch.name, frame.name, kinds[frame.pk])
    return found


def groups(board: Board) -> list[dict[str, Any]]:
    """What places can be taken together by: all, a role, a kind of scene, a frame; each with its places."""
    found: dict[tuple[str, str], list[str]] = defaultdict(list)
    for place in board.places.values():
        if place.role:
            found[ROLE, place.role].append(place.key)
        for kind in place.kinds:
            found[KIND, kind].append(place.key)
        found[FRAME, place.frame].append(place.key)
    every = [{"by": "all", "name": "all", "places": list(board.places)}]
    order = {ROLE: 0, KIND: 1, FRAME: 2}
    ordered = sorted(found.items(), key=lambda g: order[g[0][0]])
    return every + [{"by": by, "name": name, "places": keys} for (by, name), keys in ordered]


def summary(board: Board, by: str) -> list[dict[str, Any]]:
    """Medians by measure and contender over the places of each group of one kind."""
    made = []
    measures = {measure for measure, _ in board.cells}
    for group in groups(board):
        if group["by"] != by:
            continue
        for measure in (m for m in MEASURES if m in measures):
            for column in board.columns:
                middle = board.median(measure, column.letter, group["places"])
                if middle is not None:
                    made.append({"group": group["name"], "measure": measure, "letter": column.letter, "middle": middle})
    return made


def pairs(board: Board, measure: str) -> list[dict[str, Any]]:
    """Every contender against every other (the unprocessed frame included) by group of places, for one measure."""
    letters = [c.letter for c in board.columns if not c.truth]
    made = []
    for group in groups(board):
        for one in letters:
            middle = board.median(measure, one, group["places"])
            if middle is None:
                continue
            against = [
                {"letter": other, "answer": t.answer, "counts": t.counts, "places": t.places, "same": t.same,
                 "difference": t.difference.value, "low": t.difference.low, "high": t.difference.high}
                for other in letters
                if other != one and (t := board.against(measure, one, other, group["places"])) is not None
            ]  # fmt: skip
            made.append({"by": group["by"], "group": group["name"], "letter": one, "middle": middle, "against": against})
    return made


def tradeoff(study: Study, board: Board, x: str, y: str) -> dict[str, Any]:
    """Two measures against each other by contender: medians over their places, the front, even blends where they can be told."""
    points, middles = [], []
    for column in board.columns:
        across, down = board.median(x, column.letter), board.median(y, column.letter)
        if column.truth or across is None or down is None:
            continue
        middles.append({"letter": column.letter, "x": across, "y": down})
        if not column.unprocessed:
            points.append(Point(column.letter, _less(x, across.value), -_less(y, down.value)))
    return {"x": x, "y": y, "points": middles, "front": front(points), "blends": _blends(study, board, x, y)}


def _less(measure: str, value: float) -> float:
    """A value turned so that less is better."""
    return -value if MEASURES[measure].better == "higher" else value


def _blends(study: Study, board: Board, x: str, y: str) -> list[dict[str, Any]]:
    """Even blends of the frame with each output, for brightness noise against detail kept, where pixels coincide."""
    if (x, y) != ("noise_luma", "detail_kept") or board.unprocessed is None:
        return []
    frame_noise, frame_detail = board.median(x, board.unprocessed), board.median(y, board.unprocessed)
    if frame_noise is None or frame_detail is None:
        return []
    rows = Reading.objects.filter(output__contender__study=study, measure=x, basis=AS_MADE, value__isnull=False)
    going: dict[str, list[float]] = defaultdict(list)
    for letter, details in rows.values_list("output__contender__letter", "details"):
        if "correlation_with_frame" in details:
            going[letter].append(details["correlation_with_frame"])
    made = []
    for letter in board.contenders:
        noise, detail, along = board.median(x, letter), board.median(y, letter), going.get(letter)
        if noise and detail and along:
            middle = sorted(along)[len(along) // 2]
            curve = blend(frame_noise.value, noise.value, middle, frame_detail.value, detail.value)
            made.append({"letter": letter, "x": [n for _, n, _ in curve], "y": [d for _, _, d in curve]})
    return made


# Curves among the details of readings: of which measure, under which name, what lies across and up.
CURVES: dict[str, tuple[str, str, str, str, str, str]] = {
    "mtf": ("mtf50", "mtf", "cycles_per_frame_px", "transfer", "cycles/px", "contrast kept"),
    "profile": ("mtf50", "profile", "frame_px", "light", "px across the edge", "light, 0 and 1 on either side"),
    "spectrum": ("nps", "spectrum", "cycles_per_frame_px", "power", "cycles/px", "codes squared"),
    "texture": ("detail_kept", "transfer", "cycles_per_frame_px", "kept", "cycles/px", "share of texture kept"),
}


def curves(study: Study, patch_id: int, basis: str = AS_MADE) -> list[dict[str, Any]]:
    """Every curve behind the readings of one patch, by contender; ``error`` is half of its 95 % interval where there is one."""
    measures = {c[0] for c in CURVES.values()}
    rows = Reading.objects.filter(patch__study=study, patch=patch_id, measure__in=measures, basis=basis, value__isnull=False)
    made = []
    for reading in rows.select_related("output__contender").order_by("output__contender__order"):
        if reading.version != MEASURES[reading.measure].version:
            continue
        for name, (measure, place, x, y, x_unit, y_unit) in CURVES.items():
            told = reading.details.get(place)
            if measure == reading.measure and told:
                made.append(
                    {"curve": name, "letter": reading.output.contender.letter, "reading": reading.pk, "x": told[x], "y": told[y],
                     "error": told.get("error", []), "x_unit": x_unit, "y_unit": y_unit}
                )  # fmt: skip
    return made
