"""Taking a seat, and answering."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from glenhail.core.judging.adaptive import chosen_anew
from glenhail.core.judging.setup import ShownPlace, SittingKind, checked_answer, drawn_places
from glenhail.core.looking.remark_kinds import RemarkKind
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.common.locks import locked
from glenhail.server.judging.models import Call, Judge, Sitting, SittingLink, SittingState
from glenhail.server.judging.outcome import SittingOutcome

BLOCK = 8  # answers after which an adaptive sitting chooses anew
AHEAD = 1  # places beyond the next one that may be fetched
LONGEST_MS = 24 * 3600 * 1000
#: Faults that a judge may see in the picture that was not chosen, or in a single one.
NO_FAULTS = (RemarkKind.OWN_WORDS, RemarkKind.BETTER, RemarkKind.WORSE)
KINDS = [k.value for k in RemarkKind if k not in NO_FAULTS]
#: What a check of screen and room tells, and the most of each.
SCREEN = {
    "dark_steps": 8,
    "light_steps": 8,
    "ppi": 2000,
    "distance_cm": 1000,
    "width": 20000,
    "height": 20000,
    "ratio": 10,
}


@transaction.atomic
def sit_as_member(actor: Actor, sitting: Sitting) -> Judge:
    """A member's own seat; the same one each time."""
    require(actor, sitting.study.bench, Role.VIEWER)
    sitting = locked(sitting)
    own = sitting.judges.filter(user_id=actor.pk or 0).first()
    return own or _seated(sitting, user_id=actor.pk)


@transaction.atomic
def sit_by_link(link: SittingLink, nickname: str) -> Judge:
    """A seat for a guest.

    Raises
    ------
    Conflict
        If the link has ended, was revoked, or as many sit by it as may.
    """
    sitting = locked(link.sitting)
    problem = why_no_seat(link)
    if problem:
        raise Conflict(problem)
    return _seated(sitting, link=link, nickname=nickname.strip()[:40])


def why_no_seat(link: SittingLink) -> str:
    """Why nobody can sit by a link any more; empty if one can."""
    if link.revoked is not None or link.ends <= timezone.now():
        return "This link has ended. Ask whoever sent it for another."
    if link.sitting.state != SittingState.OPEN:
        return why_closed(link.sitting)
    if link.judges.count() >= link.most:
        return "As many as this link is for have sat. Ask whoever sent it for another."
    return ""


def why_closed(sitting: Sitting) -> str:
    """Why a sitting takes no answers; empty if it does."""
    return {
        SittingState.PREPARING: "This sitting is being prepared. Come back in a few minutes.",
        SittingState.FAILED: "This sitting could not be prepared.",
        SittingState.CLOSED: "This sitting is over. Thank you.",
    }.get(SittingState(sitting.state), "")


def _seated(sitting: Sitting, **of: Any) -> Judge:
    problem = why_closed(sitting)
    if problem:
        raise Conflict(problem)
    number = (sitting.judges.aggregate(last=Max("number"))["last"] or 0) + 1
    drawn = drawn_places(
        SittingKind(sitting.kind),
        [c["letter"] for c in sitting.contenders],
        len(sitting.spots),
        sitting.count,
        sitting.seed + number,
        tuple(sitting.obvious) if sitting.obvious else None,
    )
    places = [place.as_json() for place in drawn]
    judge = Judge.objects.create(sitting=sitting, number=number, places=places, **of)
    if sitting.showing.get("adaptive"):
        _choose_anew(judge, 0)
    return judge


def _choose_anew(judge: Judge, start: int) -> None:
    """The judge's pairs from a place on, by what all answers so far leave unknown."""
    sitting = judge.sitting
    letters = [c["letter"] for c in sitting.contenders]
    everybody = SittingOutcome(sitting).judges(screened=False).values()
    calls = [call for own in everybody for call in own]
    places = [ShownPlace.of_json(place) for place in judge.places]
    made = chosen_anew(places, start, calls, letters, sitting.seed + judge.number + len(calls))
    judge.places = [place.as_json() for place in made]
    judge.save(update_fields=["places"])


@transaction.atomic
def give_call(judge: Judge, place: int, answer: object, kinds: list[str], took_ms: int) -> Call:
    """Keep an answer; the same one sent twice is kept once, another one replaces it.

    Raises
    ------
    Conflict
        If the sitting is over, or earlier places have no answer yet.
    BadRequest
        If it is no answer to what was asked.
    """
    # It may be closed at this moment: an answer comes before that, or not at all.
    sitting = locked(judge.sitting)
    judge = locked(judge)
    problem = why_stopped(judge)
    if problem:
        raise Conflict(problem)
    if not 0 <= place < len(judge.places):
        raise ActionError(f"This sitting has places 1 to {len(judge.places)}.")
    given = judge.calls.count()
    if place > given:
        raise Conflict("Earlier places have no answer yet. Reload the page.")
    shown = ShownPlace.of_json(judge.places[place])
    kept = {
        "answer": checked_answer(SittingKind(sitting.kind), shown, answer),
        "kinds": [k for k in KINDS if k in kinds],
        "took_ms": min(LONGEST_MS, max(0, took_ms)),
    }
    call, new = Call.objects.update_or_create(judge=judge, place=place, defaults=kept)
    if new and sitting.showing.get("adaptive") and (given + 1) % BLOCK == 0:
        # What may be on its way to the judge stays.
        _choose_anew(judge, given + 1 + AHEAD + 1)
    if judge.finished is None and judge.calls.count() == len(judge.places):
        judge.finished = timezone.now()
        judge.save(update_fields=["finished"])
    return call


def why_stopped(judge: Judge) -> str:
    """Why a judge can not go on; empty if they can."""
    if judge.link is not None and (judge.link.revoked or judge.link.ends <= timezone.now()):
        return "This link has ended. What was answered is kept."
    return why_closed(judge.sitting)


@transaction.atomic
def check_screen(judge: Judge, told: dict[str, float]) -> Judge:
    """Keep what a judge's check of screen and room told."""
    kept = {}
    for name, value in told.items():
        if name not in SCREEN or not 0 <= value <= SCREEN[name]:
            raise ActionError(f"“{name}” is no part of a check of the screen, or not possible.")
        kept[name] = value
    judge = locked(judge)
    judge.screen = judge.screen | kept
    judge.save(update_fields=["screen"])
    return judge
