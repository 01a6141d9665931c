"""What is made, missing, running, failed, impossible: every cell's true state."""

from __future__ import annotations

import os
from collections import defaultdict
from dataclasses import dataclass, replace
from typing import Any

from glenhail.core.execution.timing import middle, time_left
from glenhail.server.jobs.models import ACTIVE, Job, State
from glenhail.server.material.models import Frame, PictureState
from glenhail.server.outputs.actions.runs import (
    KIND,
    failed_cells,
    run_key,
    treated,
    why_by_hand,
    why_impossible,
    why_out_of_date,
)
from glenhail.server.outputs.models import Outcome, Output, Run
from glenhail.server.studies.models import Contender, Study

STATES = ("made", "missing", "waiting", "running", "failed", "impossible")


@dataclass(frozen=True)
class Covered:
    """One cell: its state, and the words that go with it.

    ``why`` says why it failed or is impossible; ``by_hand`` why it can not be run here;
    ``out_of_date`` how an output made here differs from what its contender says now.
    ``progress`` is 0..1.
    """

    contender: int
    frame: int
    state: str
    why: str = ""
    by_hand: str = ""
    out_of_date: str = ""
    progress: float = 0.0
    doing: str = ""
    run: int | None = None
    expected_s: float | None = None
    job: int | None = None


def coverage(study: Study) -> list[Covered]:
    """Every cell of a study's treatments and frames."""
    outputs = {
        (o.contender_id, o.frame_id): o
        for o in Output.objects.filter(contender__study=study).select_related("picture")
    }
    latest = (
        Job.objects.filter(study_id=study.pk, kind=KIND)
        .order_by("key", "-created", "-pk")
        .distinct("key")
    )
    jobs = {j.key: j for j in latest}
    failed, paces = failed_cells(study), _paces(study)
    frames = [sf.frame for sf in study.study_frames.select_related("frame__picture")]
    found = []
    for contender in treated(study):
        by_hand = why_by_hand(contender)
        for frame in frames:
            cell, job = (contender.pk, frame.pk), jobs.get(run_key(contender.pk, frame.pk))
            seen = _seen(
                Covered(*cell, "missing", by_hand=by_hand),
                contender,
                frame,
                outputs.get(cell),
                failed.get(cell),
            )
            found.append(_with_job(seen, job, _expected(contender, frame, paces)))
    return found


def _seen(
    cell: Covered, contender: Contender, frame: Frame, output: Output | None, failed: Run | None
) -> Covered:
    """A cell by what is in it, and by its last run."""
    if (
        output is not None
        and output.picture is not None
        and output.picture.state == PictureState.REFUSED
    ):
        return replace(cell, state="failed", why=output.picture.problem_as(output.file_name))
    if output is not None and output.made_from:
        cell = replace(cell, by_hand="")
    if output is not None and output.picture_id:
        why = f"Run again, it failed: {failed.problem}" if failed else ""
        return replace(
            cell,
            state="made",
            why=why,
            out_of_date=why_out_of_date(contender, output),
            run=failed.pk if failed else None,
        )
    if output is not None:
        return replace(cell, state="impossible", why=output.absence)
    if failed is not None:
        return replace(cell, state="failed", why=failed.problem, run=failed.pk)
    why = why_impossible(contender, frame)
    return replace(cell, state="impossible", why=why) if why else cell


def _with_job(cell: Covered, job: Job | None, expected_s: float | None) -> Covered:
    """The same with what its latest job is doing, or how it ended where it left no run
    behind.
    """
    if job is None:
        return cell
    if job.state in ACTIVE:
        state = "running" if job.state == State.RUNNING else "waiting"
        whole = None if expected_s is None else expected_s * int(job.arguments["repeats"])
        return replace(
            cell,
            state=state,
            progress=job.progress,
            doing=job.message,
            job=job.pk,
            expected_s=whole,
        )
    if job.state == State.FAILED and cell.state == "missing":
        return replace(cell, state="failed", why=job.problem)
    return cell


def _paces(study: Study) -> dict[Any, float]:
    """Seconds a megapixel: of each contender by its runs, and of each first release by
    all runs of the bench.
    """
    found: dict[Any, list[float]] = defaultdict(list)
    runs = Run.objects.filter(
        contender__study__bench=study.bench,
        outcome=Outcome.MADE,
        wall_s__isnull=False,
        megapixels__gt=0,
    )
    rows = runs.order_by("-pk").values_list(
        "contender_id", "made_with__words", "wall_s", "megapixels"
    )[:400]
    for contender, words, wall, size in rows:
        found[contender].append((wall or 0) / size)
        found[words].append((wall or 0) / size)
    return {key: m.value for key, paces in found.items() if (m := middle(paces))}


def _expected(contender: Contender, frame: Frame, paces: dict[Any, float]) -> float | None:
    assert contender.treatment is not None
    pace = paces.get(contender.pk, paces.get(contender.treatment.told.words))
    return None if pace is None else pace * frame.picture.width * frame.picture.height / 1e6


def seconds_left(cells: list[Covered]) -> float | None:
    """Until everything that runs or waits is made; None while nothing is known of it."""
    waiting = [
        None if c.expected_s is None else c.expected_s * (1 - c.progress)
        for c in cells
        if c.job is not None
    ]
    return time_left(waiting, os.cpu_count() or 1) if waiting else None
