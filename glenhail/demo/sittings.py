"""Two sittings of the sample study: one to sit in, and a finished one, whose judges are
simulated, and told as such: each weighs two pictures by what they are worth to it and a
random part of its own.
"""

from __future__ import annotations

import math
import random
from datetime import timedelta

from django.contrib.auth.models import User
from django.utils import timezone

from glenhail.core.judging.setup import ShownPlace, SittingKind
from glenhail.demo import texts
from glenhail.server.judging.actions import judges, sittings
from glenhail.server.judging.models import Judge, Sitting, SittingState
from glenhail.server.studies.models import Study

JUDGES, PAIRS, SEED = 8, 60, 2718
TIE = -0.6
# How much each of the letters is worth to most of them, as logarithms.
WORTHS = {"A": 0.2, "B": 1.6, "C": -0.9, "D": 0.1, "U": -1.6, "T": 2.4}
SLOPPY = 8  # the judge who hardly looks
ROLES = ("texture", "edge", "print", "flat", "shadow")
MOST_SPOTS = 8


def compose(actor: User, study: Study) -> Sitting:
    """The sitting, once; its crops are frozen by a job."""
    there = study.sittings.filter(question=texts.SITTING).first()
    if there is not None:
        return there
    entered = study.contenders.filter(treatment__isnull=False)
    letters = [c.letter for c in entered if c.letter in WORTHS][:4]
    spots = [p.pk for p in study.patches.order_by("pk") if p.role in ROLES][:MOST_SPOTS]
    wanted = sittings.Composed(
        texts.SITTING,
        SittingKind.PAIRS,
        letters,
        spots,
        [],
        PAIRS,
        obvious=("T", "U"),
        simulated=True,
    )
    return sittings.compose_sitting(actor, study, wanted, seed=SEED)


def compose_open(actor: User, study: Study) -> None:
    """Another one that waits for whoever tries it."""
    if study.sittings.filter(question=texts.OPEN_SITTING).exists():
        return
    spots = [p.pk for p in study.patches.order_by("pk") if p.role == "texture"]
    wanted = sittings.Composed(
        texts.OPEN_SITTING, SittingKind.PAIRS, ["A", "B", "U"], spots, [], 12, zoom=3, beside="T"
    )
    sittings.compose_sitting(actor, study, wanted, seed=SEED + 1)


def judge(actor: User, sitting: Sitting) -> None:
    """Seats for all of them, all answers, and the end."""
    sitting.refresh_from_db()
    if sitting.state != SittingState.OPEN:
        return
    link = sitting.links.first() or sittings.add_link(
        actor, sitting, "Simulated judges", JUDGES, timezone.now() + timedelta(days=1)
    )
    for number in range(sitting.judges.count() + 1, JUDGES + 1):
        judges.sit_by_link(link, f"simulated {number}")
    for seat in sitting.judges.all():
        _answer(seat)
    sittings.close_sitting(actor, sitting)


def _answer(seat: Judge) -> None:
    rng = random.Random(SEED + seat.number)  # noqa: S311
    own = {letter: worth + rng.gauss(0, 0.35) for letter, worth in WORTHS.items()}
    said: list[str] = []
    for at, told in enumerate(seat.places):
        place = ShownPlace.of_json(told)
        said.append(_says(place, own, rng, seat.number == SLOPPY))
        kinds = [rng.choice(judges.KINDS)] if rng.random() < 0.15 else []
        took = round(1000 * rng.lognormvariate(math.log(5), 0.4))
        judges.give_call(seat, at, {"said": said[-1]}, kinds, took)


def _says(place: ShownPlace, own: dict[str, float], rng: random.Random, sloppy: bool) -> str:
    if sloppy:
        return "left" if rng.random() < 0.95 else "right"
    left, right = (own[letter] for letter in place.letters)
    felt = {
        "left": left + _gumbel(rng),
        "right": right + _gumbel(rng),
        "no difference": TIE + (left + right) / 2 + _gumbel(rng),
    }
    if left == right:
        felt["no difference"] += 2
    return max(felt, key=lambda said: felt[said])


def _gumbel(rng: random.Random) -> float:
    return -math.log(-math.log(rng.random()))
