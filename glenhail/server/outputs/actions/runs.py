"""Asking for outputs to be made, calling that off, and telling the times of outputs
made elsewhere.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from glenhail.core.treatments import release as core
from glenhail.core.treatments.release import FrameFacts
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.jobs.actions import queue
from glenhail.server.material.models import Frame
from glenhail.server.outputs.actions.cells import tell_absence
from glenhail.server.outputs.actions.treated import (
    MadeFrom,
    ask_to_treat,
    made_from,
    why_of_another,
)
from glenhail.server.outputs.models import Outcome, Output, Run
from glenhail.server.studies.models import Contender, Kind, Study
from glenhail.server.tools.models import Release

KIND = "run"


MOST_REPEATS, MOST_WORDS = 9, 300  # letters of what was timed by hand


WHICH = ("all", "missing", "failed", "cells")


Cell = tuple[int, int]  # contender, frame


@dataclass(frozen=True)
class Asked:
    """What became of an asking: outputs queued, and those that can not be, with the
    reasons.
    """

    queued: int
    impossible: list[str]
    by_hand: list[str]


def releases_of(contender: Contender) -> list[Release]:
    """The releases of a contender's steps, in order."""
    return [s.release for s in contender.treatment.steps.all()] if contender.treatment else []


def why_by_hand(contender: Contender) -> str:
    """Why a contender can not be run here; empty where it can."""
    missing = [str(r) for r in releases_of(contender) if not r.runs]
    return (
        f"{', '.join(missing)} can not be run here: bring its output in, or use a hot folder"
        if missing
        else ""
    )


def why_impossible(contender: Contender, frame: Frame) -> str:
    """Why a contender can make nothing of a frame, as its tools' facts tell; empty
    where it can.
    """
    if contender.treatment is None:
        return ""
    facts = frame.picture.facts
    told = FrameFacts(frame.name, facts.get("developed") is not None, facts.get("format", ""))
    releases = [release.facts for release in releases_of(contender)]
    return core.why_impossible(contender.treatment.told, releases, told)


@transaction.atomic
def ask_for_runs(
    actor: Actor, study: Study, which: str, cells: Sequence[Cell] = (), repeats: int = 1
) -> Asked:
    """Queue the making of outputs: all of them, those missing (or made with other
    settings), those that failed, or some.

    Where a tool can make nothing of a frame, that is told as the reason for the empty
    cell.
    """
    require(actor, study.bench, Role.EDITOR)
    if which not in WHICH:
        raise ActionError(f"What is to be made is one of {', '.join(WHICH)}.")
    if not 1 <= repeats <= MOST_REPEATS:
        raise ActionError(f"A run is repeated from 1 to {MOST_REPEATS} times.")
    wanted: list[queue.Work] = []
    impossible, by_hand = dict[str, None](), dict[str, None]()
    treated_from: dict[Contender, list[MadeFrom]] = {}
    for contender, frame, output in _chosen(study, which, set(cells)):
        if told := made_from(output):
            # Whatever it was made of by whomever: that is treated again, as it is now.
            treated_from.setdefault(contender, []).append(told)
        elif why := why_impossible(contender, frame):
            impossible[f"{contender.letter}: {why}"] = None
            if output is None:
                tell_absence(actor, contender, frame, why)
        elif why := why_by_hand(contender):
            by_hand[f"{contender.letter}: {why}."] = None
        else:
            wanted.append(_run(actor, contender, frame, repeats))
    queue.enqueue_all(study.bench, KIND, wanted, study.pk)
    count = len(wanted)
    for contender, cells_of in treated_from.items():
        one = study.contenders.filter(pk=cells_of[0].contender).first()
        if one is not None:
            ask_to_treat(actor, contender, one, cells_of[0].word)
            count += len(cells_of)
    record(actor, study.bench, "ask for runs", f"{count} of {study}")
    return Asked(count, list(impossible), list(by_hand))


def _run(actor: Actor, contender: Contender, frame: Frame, repeats: int) -> queue.Work:
    label = f"Running {contender.letter} on {frame.name}" + (
        f", {repeats} times" if repeats > 1 else ""
    )
    arguments = {
        "contender": contender.pk,
        "frame": frame.pk,
        "repeats": repeats,
        "actor": actor.pk,
    }
    return queue.Work(run_key(contender.pk, frame.pk), label, arguments)


def run_key(contender_id: int, frame_id: int) -> str:
    """One run of a cell at a time."""
    return f"{KIND}:{contender_id}:{frame_id}"


def treated(study: Study) -> list[Contender]:
    """A study's contenders that are treatments, with their steps at hand."""
    rows = study.contenders.filter(kind=Kind.TREATMENT).select_related("treatment", "study__bench")
    return list(rows.prefetch_related("treatment__steps__release__tool"))


def _chosen(
    study: Study, which: str, cells: set[Cell]
) -> Iterable[tuple[Contender, Frame, Output | None]]:
    outputs = {
        (o.contender_id, o.frame_id): o for o in Output.objects.filter(contender__study=study)
    }
    failed = failed_cells(study)
    frames = [sf.frame for sf in study.study_frames.select_related("frame__picture")]
    for contender in treated(study):
        for frame in frames:
            cell = (contender.pk, frame.pk)
            output = outputs.get(cell)
            wanted = {
                "all": True,
                "missing": output is None or bool(why_out_of_date(contender, output)),
                "failed": cell in failed,
                "cells": cell in cells,
            }[which]
            if wanted:
                yield contender, frame, output


def why_out_of_date(contender: Contender, output: Output) -> str:
    """How an output made here differs from what its contender says now; empty where it
    does not, or was made elsewhere; and that what it was made of is another by now.
    """
    if why := why_of_another(output):
        return why
    if output.made_with is None or contender.treatment is None:
        return ""
    if output.made_with["words"] != contender.treatment.told.words:
        return f"made with {output.made_with['words']}"
    if output.made_with["commands"] != [r.command for r in releases_of(contender)]:
        return "made by another command than its release has now"
    return ""


def failed_cells(study: Study) -> dict[Cell, Run]:
    """Cells whose latest run failed, with that run."""
    runs = (
        Run.objects.filter(contender__study=study)
        .exclude(outcome=Outcome.TOLD)
        .defer("said", "steps")
    )
    latest = runs.order_by("contender_id", "frame_id", "-pk").distinct("contender_id", "frame_id")
    return {
        (run.contender_id, run.frame_id): run for run in latest if run.outcome == Outcome.FAILED
    }


def cancel_runs(actor: Actor, study: Study) -> int:
    """Call off everything of a study that runs or waits to be run; returns how many
    that were.
    """
    return queue.cancel_all(actor, study.bench, study_id=study.pk, kind=KIND)


def bring_forward(actor: Actor, study: Study, cells: Iterable[Cell]) -> int:
    """Have the cells that somebody is looking at made first; returns how many of them
    wait.
    """
    require(actor, study.bench, Role.EDITOR)
    return queue.bring_forward([run_key(*cell) for cell in cells])


@transaction.atomic
def tell_times(actor: Actor, contender: Contender, frame: Frame, told: dict[str, Any]) -> Run:
    """Write down how long an output took that was made elsewhere, as a person read it
    off a clock: in place of what was told before, or ``again``, as one repeat more.

    Raises
    ------
    ActionError
        If no time is told, or there are as many repeats as are kept.
    Conflict
        If there is no output.
    """
    require(actor, contender.study.bench, Role.EDITOR)
    times = {k: told.get(k) for k in ("load_s", "process_s", "export_s")}
    if all(t is None for t in times.values()):
        raise ActionError("Tell at least one time: loading, processing or export.")
    output = (
        Output.objects.filter(contender=contender, frame=frame).select_related("picture").first()
    )
    if output is None or output.picture is None:
        raise Conflict("There is no output to tell the times of. Bring it in first.")
    before = Run.objects.filter(contender=contender, frame=frame, outcome=Outcome.TOLD)
    if not told.get("again"):
        before.delete()
    repeats = before.count()
    if repeats >= MOST_REPEATS:
        raise ActionError(f"{MOST_REPEATS} repeats are kept; tell these times in place of them.")
    run = Run.objects.create(
        number=repeats + 1,
        said=str(told.get("what", "")).strip()[:MOST_WORDS],
        contender=contender,
        frame=frame,
        outcome=Outcome.TOLD,
        machine=str(told.get("machine", "")).strip()[:200],
        megapixels=frame.picture.width * frame.picture.height / 1e6,
        out_bytes=output.picture.file.size,
        **times,
    )
    record(actor, contender.study.bench, "tell times", run)
    return run
