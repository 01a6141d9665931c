"""What was measured and timed of a strength series, by its settings."""

from __future__ import annotations

from typing import Any

import numpy as np

from glenhail.core.answers.board import Board
from glenhail.core.measures.catalogue import NOISE
from glenhail.core.strength.matching import NoiseStep
from glenhail.core.strength.recognised import StrengthSeries
from glenhail.core.strength.summary import Bounds, noise_steps
from glenhail.server.measuring.answers import board_of
from glenhail.server.outputs.costs import costs
from glenhail.server.studies.models import Study

# Measures that a chart has, each with its curve.
CURVES = ("noise_luma", "detail_kept", "overshoot", "mtf50")


class SeriesReadings:
    """Readings of the contenders of a series."""

    def __init__(self, board: Board, series: StrengthSeries[str]) -> None:
        self.board, self.series = board, series

    def noise(self) -> list[NoiseStep]:
        """What noise each setting leaves on plain patches, as a share of the frame's."""
        frame = self._plain(self.board.unprocessed or "")
        steps = [(v, self._plain(letter)) for v, letter in self.series.members]
        return noise_steps({place: told[0] for place, told in frame.items()}, steps)

    def _plain(self, letter: str) -> dict[str, Bounds]:
        taken = self.board.at("noise_luma", letter).items()
        return {
            place: (cell.taken.value, cell.taken.low, cell.taken.high)
            for place, cell in taken
            if self.board.places[place].role in NOISE
        }

    def curves(self) -> list[dict[str, Any]]:
        """Medians of each measure over all its patches, with those of their bounds."""
        made = []
        for measure in CURVES:
            points = [
                {"setting": setting, "value": ends}
                for setting, letter in self.series.members
                if (ends := self._ends(measure, letter))
            ]
            if len(points) > 1:
                made.append({"measure": measure, "points": points})
        return made

    def medians(self, measure: str) -> dict[float, float]:
        """A measure's medians by setting."""
        told = ((v, self._ends(measure, letter)) for v, letter in self.series.members)
        return {setting: ends[0] for setting, ends in told if ends}

    def _ends(self, measure: str, letter: str) -> list[float]:
        cells = self.board.at(measure, letter)
        taken = [c.taken for p, c in cells.items() if self.board.places[p].role]
        values = [(t.value, t.low, t.high) for t in taken]
        return [float(v) for v in np.median(values, axis=0)] if values else []


def seconds(study: Study, series: StrengthSeries[str]) -> list[dict[str, float]]:
    """Seconds for each megapixel by setting, where they were timed."""
    by = {c.contender.letter: c.speed.per_megapixel for c in costs(study)}
    told = ((setting, by.get(letter)) for setting, letter in series.members)
    return [{"setting": setting, "seconds": s.value} for setting, s in told if s is not None]


def readings_key(study: Study) -> list[Any]:
    """The readings that noise and curves are made of."""
    cells = sorted(board_of(study).cells.items())
    return [
        (name, place, sorted((letter, cell.taken.value) for letter, cell in row.items()))
        for (name, place), row in cells
        if name in CURVES
    ]
