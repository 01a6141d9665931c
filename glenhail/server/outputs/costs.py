"""What outputs cost: seconds, memory, bytes."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

from glenhail.core.execution.timing import Speed, Spread, Timing, middle, speed
from glenhail.server.common.csvs import csv_text
from glenhail.server.outputs.actions.runs import (
    releases_of,
    treated,
)
from glenhail.server.outputs.models import Outcome, Run
from glenhail.server.studies.models import Contender, Study


@dataclass(frozen=True)
class Cost:
    """What one contender's outputs took, over all frames and repeats."""

    contender: Contender
    speed: Speed
    cpu: Spread | None
    peak: Spread | None
    size: Spread | None
    machines: list[str]
    told_by_hand: bool
    alone: bool
    unsteady: bool


def costs(study: Study) -> list[Cost]:
    """Every treatment of a study that was run or timed, in the study's order."""
    runs: dict[int, list[Run]] = defaultdict(list)
    told = (
        Run.objects.filter(contender__study=study)
        .exclude(outcome=Outcome.FAILED)
        .defer("said", "steps")
    )
    for run in told.order_by("pk"):
        runs[run.contender_id].append(run)
    current = [(c, _current(c, runs[c.pk])) for c in treated(study)]
    return [_cost(c, mine) for c, mine in current if mine]


def _current(contender: Contender, runs: list[Run]) -> list[Run]:
    """Runs of the treatment as it is now: those alone on the machine, if any were; else
    all; else those told by hand.
    """
    assert contender.treatment is not None
    words, commands = contender.treatment.told.words, [r.command for r in releases_of(contender)]
    ran = [
        r
        for r in runs
        if r.made_with and r.made_with["words"] == words and r.made_with["commands"] == commands
    ]
    return [r for r in ran if r.alone] or ran or [r for r in runs if r.outcome == Outcome.TOLD]


def _cost(contender: Contender, runs: list[Run]) -> Cost:
    timings = [Timing(r.megapixels, r.load_s, r.process_s, r.export_s, r.wall_s) for r in runs]
    return Cost(
        contender,
        speed(timings),
        middle([r.cpu_s for r in runs]),
        middle([r.peak_mb for r in runs]),
        middle([r.out_bytes for r in runs]),
        sorted({r.machine for r in runs if r.machine}),
        any(r.outcome == Outcome.TOLD for r in runs),
        all(r.alone for r in runs),
        any(r.same is False for r in runs),
    )


COLUMNS = (
    "letter",
    "contender",
    "runs",
    "load s",
    "process s",
    "export s",
    "total s",
    "total s least",
    "total s greatest",
    "s per source MP",
    "processor s",
    "peak memory MB",
    "output MB",
    "machine",
    "told by hand",
    "alone on the machine",
)


def costs_csv(study: Study) -> str:
    """The same as CSV."""
    return csv_text(COLUMNS, map(_row, costs(study)))


def _row(cost: Cost) -> list[object]:
    s, total = cost.speed, cost.speed.total
    words = ", ".join(w for w in (cost.contender.title, cost.contender.manner) if w)
    middles = [_number(m) for m in (s.load, s.process, s.export, total)]
    spread = [f"{total.low:.3f}", f"{total.high:.3f}"] if total else ["", ""]
    size = f"{cost.size.value / 1e6:.2f}" if cost.size else ""
    rest = [
        _number(s.per_megapixel),
        _number(cost.cpu),
        _number(cost.peak),
        size,
        "; ".join(cost.machines),
    ]
    return [
        cost.contender.letter,
        words,
        s.runs,
        *middles,
        *spread,
        *rest,
        _yes(cost.told_by_hand),
        _yes(cost.alone),
    ]


def _yes(fact: bool) -> str:
    return "yes" if fact else "no"


def _number(value: Spread | None) -> str:
    return "" if value is None else f"{value.value:.3f}"
