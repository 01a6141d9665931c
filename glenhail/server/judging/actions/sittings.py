"""Composing sittings, letting guests in, closing and removing."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from glenhail.core.judging.setup import ALONE, MOST_ORDERED, SittingKind
from glenhail.core.picture import Rect
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.common.locks import locked
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.judging.models import Sitting, SittingLink, SittingState
from glenhail.server.judging.outcome import SittingOutcome, told_results
from glenhail.server.measuring.queries import lineups, output_state
from glenhail.server.outputs.queries import outputs
from glenhail.server.studies.models import Study
from glenhail.server.studies.uses import find_use

JOB = "freeze sitting"
MOST_SITTINGS, MOST_PLACES, MOST_CROPS = 200, 400, 600
MOST_GUESTS, LONGEST = 500, timedelta(days=366)
ZOOMS = (1, 2, 3, 4, 6, 8)
WHOLE = "whole frame"


@dataclass(frozen=True)
class Composed:
    """What a sitting shall be: contenders by letter, patches and whole frames by id.

    ``use`` is the id of a use, or empty; ``beside`` the letter of who is always shown
    as well, or empty; ``obvious`` the better and the worse letter of a pair that
    everybody can tell, or nothing; ``adaptive`` whether pairs are chosen by what is
    least known (core.judging.adaptive).
    """

    question: str
    kind: SittingKind
    letters: Sequence[str]
    patches: Sequence[int]
    frames: Sequence[int]
    count: int
    zoom: int = 2
    use: str = ""
    beside: str = ""
    matched: bool = False
    obvious: Sequence[str] = ()
    simulated: bool = False
    adaptive: bool = False


@transaction.atomic
def compose_sitting(
    actor: Actor, study: Study, wanted: Composed, seed: int | None = None
) -> Sitting:
    """Begin a sitting; a job freezes what it shows, then it is open.

    Raises
    ------
    ActionError
        If there is nothing to choose between, or too much of it; the text says what.
    Conflict
        If an output that it shows is not lined up.
    """
    require(actor, study.bench, Role.EDITOR)
    locked(study)
    if study.sittings.count() >= MOST_SITTINGS:
        raise ActionError(f"A study holds {MOST_SITTINGS} sittings. Remove some first.")
    if not wanted.question.strip():
        raise ActionError("Write the question that is put to the judges.")
    letters, spots = _letters(study, wanted), _spots(study, wanted)
    _check_size(wanted, len(letters), len(spots))
    use = find_use(study.bench, wanted.use) if wanted.use else None
    if use and wanted.matched:
        raise ActionError("Brightness is matched of outputs as they were made, not of a use.")
    if wanted.zoom not in ZOOMS:
        raise ActionError(f"Crops are shown at {', '.join(map(str, ZOOMS))} times.")
    everybody = list(dict.fromkeys([*letters, *wanted.obvious, *filter(None, [wanted.beside])]))
    _check_outputs(study, everybody, {spot["frame"] for spot in spots})
    titles = {c.letter: c for c in study.contenders.all()}
    last = study.sittings.aggregate(last=Max("number"))["last"] or 0
    sitting = Sitting.objects.create(
        study=study,
        number=last + 1,
        question=wanted.question.strip()[:200],
        kind=wanted.kind,
        count=wanted.count,
        seed=secrets.randbits(48) if seed is None else seed,
        contenders=[{"letter": x, "title": titles[x].title, "id": titles[x].pk} for x in letters],
        spots=spots,
        showing={
            "zoom": wanted.zoom,
            "use": wanted.use,
            "use_name": use.name if use else "",
            "beside": wanted.beside,
            "matched": wanted.matched,
            "letters": everybody,
            "adaptive": wanted.adaptive and wanted.kind == SittingKind.PAIRS,
        },
        obvious=list(wanted.obvious),
        simulated=wanted.simulated,
        author_id=actor.pk,
    )
    label = f"Sitting {sitting.number}: freezing its crops"
    enqueue(study.bench, JOB, f"sitting:{sitting.pk}", label, {"sitting": sitting.pk}, study.pk)
    record(actor, study.bench, "compose sitting", sitting)
    return sitting


def _letters(study: Study, wanted: Composed) -> list[str]:
    known = set(study.contenders.values_list("letter", flat=True))
    letters = list(dict.fromkeys(wanted.letters))
    strangers = {*letters, *wanted.obvious, *filter(None, [wanted.beside])} - known
    if strangers:
        raise ActionError(f"There is no contender {', '.join(sorted(strangers))} in this study.")
    if len(letters) < (1 if wanted.kind == SittingKind.SINGLE else 2):
        raise ActionError("Choose at least two contenders.")
    if wanted.kind == SittingKind.ORDER and len(letters) > MOST_ORDERED:
        raise ActionError(f"At most {MOST_ORDERED} pictures can be put in order.")
    if wanted.obvious and len(set(wanted.obvious)) != 2:
        raise ActionError("An obvious pair is of two contenders, the better one first.")
    return letters


def _spots(study: Study, wanted: Composed) -> list[dict[str, Any]]:
    patches = {p.pk: p for p in study.patches.select_related("frame")}
    frames = {sf.frame_id: sf.frame for sf in study.study_frames.select_related("frame__picture")}
    if not set(wanted.patches) <= set(patches) or not set(wanted.frames) <= set(frames):
        raise ActionError("A patch or frame of this sitting is not of this study.")
    spots = [
        {
            "patch": p.pk,
            "frame": p.frame_id,
            "frame_name": p.frame.name,
            "name": p.name,
            "role": p.role,
            "rect": [p.x, p.y, p.w, p.h],
        }
        for p in (patches[pk] for pk in dict.fromkeys(wanted.patches))
        if p.frame_id in frames
    ]
    for pk in dict.fromkeys(wanted.frames):
        picture = frames[pk].picture
        whole = Rect(0, 0, picture.width, picture.height)
        spots.append(
            {
                "patch": None,
                "frame": pk,
                "frame_name": frames[pk].name,
                "name": WHOLE,
                "role": WHOLE,
                "rect": [whole.x, whole.y, whole.w, whole.h],
                "room": list(ALONE),
            }
        )
    if not spots:
        raise ActionError("Choose at least one patch or whole frame.")
    return spots


def _check_size(wanted: Composed, letters: int, spots: int) -> None:
    places = {
        SittingKind.PAIRS: wanted.count,
        SittingKind.SINGLE: letters * spots,
        SittingKind.ORDER: spots,
    }[wanted.kind]
    if not 1 <= places <= MOST_PLACES:
        raise ActionError(f"A judge is asked 1 to {MOST_PLACES} times, not {places}. Choose fewer.")
    if (letters + 3) * spots > MOST_CROPS:
        raise ActionError(f"That is more than {MOST_CROPS} crops. Choose fewer patches.")


def _check_outputs(study: Study, letters: Sequence[str], frames: set[int]) -> None:
    rows = {(o.contender.letter, o.frame_id): o for o in outputs(study)}
    lines = lineups(list(rows.values()))
    for letter in letters:
        for frame in frames:
            output = rows.get((letter, frame))
            state = output_state(output, lines.get(output.pk))[0] if output else "missing"
            if state != "ready":
                name = next(sf.frame.name for sf in study.study_frames.filter(frame=frame))
                raise Conflict(
                    f"{letter} has no output of “{name}” that is lined up. Bring it in, or choose"
                    " other patches or contenders."
                )


@transaction.atomic
def close_sitting(actor: Actor, sitting: Sitting) -> Sitting:
    """End it: no more answers are taken, and its results are shown."""
    require(actor, sitting.study.bench, Role.EDITOR)
    sitting = locked(sitting)
    if sitting.state != SittingState.CLOSED:
        sitting.state, sitting.closed = SittingState.CLOSED, timezone.now()
        outcome = SittingOutcome(sitting)
        sitting.results = told_results(outcome.results(screened=False))
        sitting.said = sitting.results["said"] if sitting.results else outcome.graded_words()
        sitting.save(update_fields=["state", "closed", "results", "said"])
        record(actor, sitting.study.bench, "close sitting", sitting)
    return sitting


@transaction.atomic
def remove_sitting(actor: Actor, sitting: Sitting) -> None:
    """Remove it with all its answers."""
    require(actor, sitting.study.bench, Role.EDITOR)
    record(actor, sitting.study.bench, "remove sitting", sitting)
    sitting.delete()


@transaction.atomic
def add_link(actor: Actor, sitting: Sitting, name: str, most: int, ends: datetime) -> SittingLink:
    """A link by which so many guests may sit until an end.

    Raises
    ------
    ActionError
        If it would end in the past, or much later than anybody means.
    """
    require(actor, sitting.study.bench, Role.EDITOR)
    if not timezone.now() < ends < timezone.now() + LONGEST:
        raise ActionError("A link ends some time within the next year.")
    if not 1 <= most <= MOST_GUESTS:
        raise ActionError(f"A link lets 1 to {MOST_GUESTS} guests sit.")
    link = SittingLink.objects.create(sitting=sitting, name=name.strip()[:80], most=most, ends=ends)
    record(actor, sitting.study.bench, "add link to sitting", sitting)
    return link


@transaction.atomic
def revoke_link(actor: Actor, link: SittingLink) -> None:
    """Let nobody sit by it any more, nor go on who sat by it."""
    require(actor, link.sitting.study.bench, Role.EDITOR)
    if link.revoked is None:
        link.revoked = timezone.now()
        link.save(update_fields=["revoked"])
        record(actor, link.sitting.study.bench, "revoke link to sitting", link.sitting)
