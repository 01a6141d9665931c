"""Strength series of a study: those that its contenders make, over their settings."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import asdict
from functools import partial
from itertools import combinations
from typing import Any

from glenhail.core.answers.board import Board
from glenhail.core.errors import CoreError
from glenhail.core.interval import Interval
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import NOISE
from glenhail.core.picture import Rect
from glenhail.core.strength.course import StrengthStep, course_said, pooled
from glenhail.core.strength.evenness import VERSION
from glenhail.core.strength.matching import NoiseStep, matched_said, matched_settings
from glenhail.core.strength.noise_seen import noise_seen
from glenhail.core.strength.recognised import StrengthSeries, series_among
from glenhail.core.strength.series import strength_series
from glenhail.core.strength.shown import shares_drawn
from glenhail.core.strength.summary import Advice, advice_said
from glenhail.core.uses.table import Use
from glenhail.server.common.errors import ActionError
from glenhail.server.inquiries import evidence
from glenhail.server.inquiries.answering.pictures import (
    aligned_output,
    cell_keys,
    cells_of_frames,
    hashed,
    output_key,
)
from glenhail.server.inquiries.answering.strength_readings import (
    SeriesReadings,
    readings_key,
    seconds,
)
from glenhail.server.inquiries.kinds import Found, InquiryKind
from glenhail.server.jobs.registry import Progress
from glenhail.server.material.decoded import decoded
from glenhail.server.measuring.answers import board_of
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Kind, Patch, Study
from glenhail.server.studies.uses import find_use

USE = "web"  # at which noise shall not be seen, where nobody asks for another
MAP = "map"


def series_of(study: Study) -> list[StrengthSeries[str]]:
    """The series that a study's contenders make, by their letters."""
    entered = study.contenders.filter(kind=Kind.TREATMENT).select_related("treatment")
    return series_among({c.letter: c.treatment.told for c in entered if c.treatment})


def check(study: Study, subject: str) -> None:
    """There is a series, and the use is one of the bench's."""
    find_use(study.bench, subject or USE)
    if not series_of(study):
        raise ActionError(
            "No three contenders differ in nothing but one number. Enter a treatment as a series"
            " over values of its strength or of another setting."
        )


def key(study: Study, subject: str) -> str:
    """By which one knows whether an answer is of now."""
    series = [(s.title, s.name, s.members) for s in series_of(study)]
    cells = cell_keys(cells_of_frames(study))
    plain = [(p.frame_id, *p.drawn) for p in _plain(study)]
    use = asdict(find_use(study.bench, subject or USE))
    return hashed((VERSION, series, cells, plain, use, readings_key(study)))


def _plain(study: Study) -> list[Patch]:
    return list(study.patches.filter(role__in=NOISE))


def answer(progress: Progress, study: Study, subject: str, before: Found | None) -> Found:
    """Every series over its settings: how far each goes and how evenly, what noise and
    detail it leaves, which setting of one belongs to another's, and which a use takes.
    """
    use, board = find_use(study.bench, subject or USE), board_of(study)
    cells = cells_of_frames(study)
    series = series_of(study)
    told, mapped = [], []
    for at, one in enumerate(series):
        part = progress.within(at / len(series), (at + 1) / len(series))
        bench = _Bench(study, one, cells, use, board, part)
        told.append(bench.told())
        mapped += bench.cells
    matched = [_matched(a, b) for a, b in combinations(told, 2) if a["noise"] and b["noise"]]
    evidence.bound_pictures()
    said = [f"{one['title']}: {words}" for one in told for words in one["said"]]
    said += [one["advice"] for one in told if one["advice"]] + [m["said"] for m in matched]
    return {
        "version": VERSION,
        "use": {"id": use.id, "name": use.name},
        "series": told,
        "cells": mapped,
        "matched": matched,
        "said": said,
    }


class _Bench:
    """One series with everything it is looked at by."""

    def __init__(
        self,
        study: Study,
        series: StrengthSeries[str],
        cells: Mapping[int, list[Output]],
        use: Use,
        board: Board,
        progress: Progress,
    ) -> None:
        self.study, self.series, self.use, self.board = study, series, use, board
        self.progress = progress
        self.by_frame = {frame: {o.contender.letter: o for o in of} for frame, of in cells.items()}
        self.cells: list[dict[str, Any]] = []
        self.problems: list[str] = []

    def told(self) -> dict[str, Any]:
        """As it is kept."""
        series = self.series
        steps = pooled([steps for steps in self._frames() if steps])
        if not steps and not self.problems:
            self.problems.append("no frame has an output at every setting yet.")
        readings = SeriesReadings(self.board, series)
        said = course_said(series.name, series.unit, steps)
        return {
            "title": series.title,
            "name": series.name,
            "unit": series.unit,
            "members": [{"setting": v, "letter": letter} for v, letter in series.members],
            "steps": [asdict(s) for s in steps],
            "noise": [asdict(n) for n in readings.noise()],
            "curves": readings.curves(),
            "seconds": seconds(self.study, series),
            "problems": self.problems,
            "advice": self._advice(readings),
            "said": said or self.problems[:1],
        }

    def _frames(self) -> Iterator[list[StrengthStep]]:
        for done, (frame, of) in enumerate(self.by_frame.items()):
            members = [(v, of[letter]) for v, letter in self.series.members if letter in of]
            if len(members) < len(self.series.members):
                continue
            source = members[0][1].frame
            now = f"{self.series.title}, {source.name}"
            self.progress.tell(0.9 * done / len(self.by_frame), now)
            laid: list[tuple[float, Callable[[], AlignedPicture]]] = [
                (v, partial(aligned_output, o)) for v, o in members
            ]
            try:
                found = strength_series(decoded(source.picture), laid)
            except CoreError as error:
                self.problems.append(f"{source.name}: {str(error).rstrip('.')}.")
                continue
            for mapped, (setting, output) in zip(found, members, strict=True):
                cell = hashed((VERSION, "shares", [output_key(o) for _, o in members], setting))
                evidence.keep_picture(cell, MAP, shares_drawn(mapped.shares))
                place = {"letter": output.contender.letter, "frame": frame, "name": source.name}
                self.cells.append({"key": cell, **place, **asdict(mapped.step)})
            yield [mapped.step for mapped in found]

    def _advice(self, readings: SeriesReadings) -> str:
        """From which setting on noise is not seen in the use."""
        plain = _plain(self.study)
        if not plain:
            return ""
        told = []
        detail = readings.medians("detail_kept")
        for setting, letter in self.series.members:
            seen = []
            for frame, of in self.by_frame.items():
                rects = [p.rect for p in plain if p.frame_id == frame]
                if letter in of and rects:
                    seen += self._noise_seen(of[letter], rects)
            if seen:
                told.append(Advice(setting, tuple(seen), detail.get(setting)))
        return advice_said(self.series.title, self.series.unit, self.use, told) if told else ""

    def _noise_seen(self, output: Output, rects: list[Rect]) -> list[Any]:
        self.progress.tell(0.95, f"{self.series.title}, noise as seen")
        try:
            laid = aligned_output(output)
        except CoreError:
            return []
        places = [laid.mapping.rect(rect) for rect in rects]
        inside = [p for p in places if p.clipped(laid.usable) == p]
        return [noise_seen(laid.picture.pixels, place, self.use) for place in inside]


def _noise_of(series: dict[str, Any]) -> list[NoiseStep]:
    return [NoiseStep(n["setting"], Interval(**n["noise"])) for n in series["noise"]]


def _matched(one: dict[str, Any], other: dict[str, Any]) -> dict[str, Any]:
    mine, theirs = (_noise_of(of) for of in (one, other))
    found = matched_settings(mine, theirs)
    titles, units = (one["title"], other["title"]), (one["unit"], other["unit"])
    return {
        "one": one["title"],
        "other": other["title"],
        "units": list(units),
        "rows": [asdict(m) for m in found],
        "said": matched_said(found, titles, units),
    }


KIND = InquiryKind("Strength series", VERSION, check, key, answer)
