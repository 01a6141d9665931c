"""What came of a sitting: answers read back, weighed, and laid beside the numbers."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from functools import cached_property
from statistics import median
from typing import Any

from glenhail.core.interval import Interval
from glenhail.core.judging.agreement import alpha, answered_units
from glenhail.core.judging.beside import agreement_with, partings, visibility
from glenhail.core.judging.calls import Call, Said
from glenhail.core.judging.drawing import Purpose, ShownPair
from glenhail.core.judging.grades import mean_grade, screened_out
from glenhail.core.judging.results import Results, results_of
from glenhail.core.judging.screening import Answered, Steadiness, steadiness
from glenhail.core.judging.setup import ShownPlace, SittingKind, calls_in
from glenhail.core.judging.words import said_of, speaks_for
from glenhail.core.measures.best import distance
from glenhail.core.measures.catalogue import MEASURES
from glenhail.core.measures.thresholds import THRESHOLDS
from glenhail.server.judging.models import Judge, Sitting
from glenhail.server.material.models import Frame
from glenhail.server.measuring.answers import board_of

MOST_PARTINGS = 12
Told = dict[str, Any]


@dataclass(frozen=True)
class Given:
    """One answer: what was shown, what was said, why, and how long it took."""

    place: ShownPlace
    answer: Told
    kinds: list[str]
    took_ms: int


@dataclass(frozen=True)
class Record:
    """A judge with all answers."""

    judge: Judge
    given: list[Given]

    @property
    def key(self) -> str:
        """The judge's number."""
        return str(self.judge.number)

    def calls(self, kind: SittingKind) -> list[Call]:
        """Choices between two, first times alone."""
        asked = [g for g in self.given if g.place.purpose == Purpose.ASKED]
        return [call for g in asked for call in calls_in(kind, g.place, g.answer)]

    def answered(self) -> list[Answered]:
        """Pairs as screening takes them."""
        made = []
        for g in self.given:
            # Answers come in the order of places, none passed over.
            of = g.place.of
            first = None if of is None else Said(self.given[of].answer["said"])
            shown = ShownPair(
                g.place.letters[0], g.place.letters[1], str(g.place.spot), g.place.purpose
            )
            made.append(Answered(shown, Said(g.answer["said"]), first))
        return made


class SittingOutcome:
    """A sitting's answers, all of them or without the judges whom it is proposed to
    leave out.
    """

    def __init__(self, sitting: Sitting) -> None:
        self.sitting = sitting
        self.kind = SittingKind(sitting.kind)
        self.letters = [c["letter"] for c in sitting.contenders]
        rows = sitting.judges.select_related("user").prefetch_related("calls")
        self.records = [Record(judge, _given(judge)) for judge in rows]

    @cached_property
    def steady(self) -> dict[str, Steadiness]:
        """Judges held against themselves."""
        if self.kind != SittingKind.PAIRS:
            return {}
        better = self.sitting.obvious[0] if self.sitting.obvious else None
        return {r.key: steadiness(r.answered(), self.letters, better) for r in self.records}

    @cached_property
    def proposed_out(self) -> set[str]:
        """Numbers of judges whom it is proposed to leave out."""
        if self.kind == SittingKind.SINGLE:
            return set(screened_out({r.key: self._graded(r) for r in self.records}))
        return {key for key, s in self.steady.items() if s.proposed_out}

    def kept(self, screened: bool) -> list[Record]:
        """Judges who are counted."""
        return [r for r in self.records if not (screened and r.key in self.proposed_out)]

    def judges(
        self,
        screened: bool,
        role: str | None = None,
        spot: int | None = None,
        scene: str | None = None,
    ) -> dict[str, list[Call]]:
        """Choices by judge, on spots of one role or kind of scene, or on one spot, if
        asked for.
        """
        places = {
            str(at)
            for at, s in enumerate(self.sitting.spots)
            if (role is None or s["role"] == role)
            and (spot is None or at == spot)
            and (scene is None or scene in self.kinds.get(s["frame"], ()))
        }
        return {
            r.key: [c for c in r.calls(self.kind) if c.spot in places] for r in self.kept(screened)
        }

    def results(
        self,
        screened: bool,
        role: str | None = None,
        spot: int | None = None,
        scene: str | None = None,
    ) -> Results | None:
        """What the choices carry."""
        return results_of(self.judges(screened, role, spot, scene), self.letters)

    @cached_property
    def kinds(self) -> dict[int, tuple[str, ...]]:
        """The kinds of scene of each frame, by its id, as they are today."""
        frames = Frame.objects.filter(pk__in={s["frame"] for s in self.sitting.spots})
        rows = frames.select_related("scene")
        return {f.pk: tuple(f.scene.kinds) if f.scene else () for f in rows}

    def _scenes(self) -> list[str]:
        """Kinds of scene that are not of every spot alike."""
        of = [self.kinds.get(s["frame"], ()) for s in self.sitting.spots]
        found = dict.fromkeys(kind for kinds in of for kind in kinds)
        return [kind for kind in found if any(kind not in kinds for kinds in of)]

    def told(self, screened: bool) -> Told:
        """All of it, as the API shows it."""
        roles = list(dict.fromkeys(s["role"] for s in self.sitting.spots))
        choices = self.judges(screened)
        return {
            "overall": told_results(self.results(screened)),
            "by_role": [
                {"role": role, "results": told_results(self.results(screened, role))}
                for role in roles
                if len(roles) > 1 and self.kind != SittingKind.SINGLE
            ],
            "by_scene": [
                {"scene": kind, "results": told_results(self.results(screened, scene=kind))}
                for kind in (self._scenes() if self.kind != SittingKind.SINGLE else ())
            ],
            "grades": self.grades(screened),
            "judges": [self._told_judge(r) for r in self.records],
            "left_out": len(self.proposed_out) if screened else 0,
            "alpha": alpha(answered_units(choices.values())),
            "beside": self.beside([c for calls in choices.values() for c in calls]),
            "reasons": self.reasons(screened),
        }

    def grades(self, screened: bool) -> list[Told]:
        """Mean grades over judges, each judge's own mean over spots first."""
        if self.kind != SittingKind.SINGLE:
            return []
        by: dict[str, list[float]] = defaultdict(list)
        for record in self.kept(screened):
            own: dict[str, list[int]] = defaultdict(list)
            for g in record.given:
                if g.place.purpose == Purpose.ASKED:
                    own[g.place.letters[0]].append(g.answer["grade"])
            for letter, grades in own.items():
                by[letter].append(sum(grades) / len(grades))
        told = [
            {"letter": letter, "grade": asdict(mean_grade(grades)), "judges": len(grades)}
            for letter, grades in by.items()
        ]
        return sorted(told, key=lambda row: (-row["grade"]["value"], row["letter"]))

    def graded_words(self) -> str:
        """What grades say, in a sentence; that there are no answers, where none are."""
        rows = self.grades(screened=False)
        if not rows:
            return "Nobody has answered."
        told = [
            f"{row['letter']} {row['grade']['value']:.1f} ({row['grade']['low']:.1f} to"
            f" {row['grade']['high']:.1f})"
            for row in rows
        ]
        return f"Mean grades of 5: {', '.join(told)}."

    def reasons(self, screened: bool) -> list[Told]:
        """How often each fault was seen in whom: the one that was not chosen, or a
        single picture.
        """
        counts: dict[tuple[str, str], int] = defaultdict(int)
        for record in self.kept(screened):
            for g in record.given:
                who = self._faulted(g)
                for kind in g.kinds if who in self.letters else ():
                    counts[who or "", kind] += 1
        ordered = sorted(counts.items(), key=lambda item: (-item[1], item[0]))
        return [{"letter": x, "kind": kind, "times": n} for (x, kind), n in ordered]

    def _faulted(self, given: Given) -> str | None:
        if self.kind == SittingKind.SINGLE:
            return given.place.letters[0]
        (call, *more) = calls_in(self.kind, given.place, given.answer)
        if more or call.chosen is None or len(call.pair) < 2:
            return None
        return next(iter(call.pair - {call.chosen}))

    def beside(self, calls: Sequence[Call]) -> list[Told]:
        """Each measure beside the choices, the best agreement first."""
        if self.kind == SittingKind.SINGLE:
            return []
        told = []
        for measure, goodness in self._goodness().items():
            agreed = agreement_with(calls, goodness)
            if agreed is None:
                continue
            threshold = THRESHOLDS.get(measure)
            size = threshold.size if threshold and not threshold.share else None
            seen = visibility(calls, goodness, size) if size else None
            told.append(
                {
                    "measure": measure,
                    "name": MEASURES[measure].name,
                    "gamma": agreed.gamma,
                    "interval": _told(agreed.interval),
                    "choices": agreed.choices,
                    "threshold": size,
                    "unit": MEASURES[measure].unit,
                    "same_below": _told(seen.below) if seen else None,
                    "same_above": _told(seen.above) if seen else None,
                    "partings": [
                        {**asdict(p), "spot": int(p.spot)}
                        for p in partings(calls, goodness, size or 0.0)[:MOST_PARTINGS]
                    ],
                }
            )
        return sorted(told, key=lambda row: (-row["gamma"], row["measure"]))

    def _goodness(self) -> dict[str, dict[tuple[str, str], float]]:
        """Readings as they are today, a higher number being better, by measure."""
        spots = {
            (f"p{s['patch']}" if s["patch"] else f"f{s['frame']}"): str(at)
            for at, s in enumerate(self.sitting.spots)
        }
        found: dict[str, dict[tuple[str, str], float]] = defaultdict(dict)
        for (measure, place), row in board_of(self.sitting.study).cells.items():
            best = MEASURES[measure].best
            if place not in spots or best is None:
                continue
            for letter, cell in row.items():
                if letter in self.letters:
                    found[measure][spots[place], letter] = -distance(cell.taken.value, best)
        return found

    def _graded(self, record: Record) -> dict[str, float]:
        return {
            f"{g.place.spot} {g.place.letters[0]}": g.answer["grade"]
            for g in record.given
            if g.place.purpose == Purpose.ASKED
        }

    def _told_judge(self, record: Record) -> Told:
        judge, steady = record.judge, self.steady.get(record.key)
        shares = {
            name: _told(getattr(steady, name)) if steady else None
            for name in ("repeats", "equal", "obvious", "left")
        }
        times = [g.took_ms / 1000 for g in record.given]
        far = self.kind == SittingKind.SINGLE and record.key in self.proposed_out
        reasons = ["grades far from the others’, both ways"] if far else []
        return {
            "number": judge.number,
            "name": judge.user.get_username() if judge.user else judge.nickname,
            "guest": judge.user_id is None,
            "answers": len(record.given),
            "places": len(judge.places),
            "median_s": median(times) if times else None,
            "screen": judge.screen,
            **shares,
            "consistence": steady.consistence if steady else None,
            "reasons": list(steady.reasons) if steady else reasons,
        }


def _given(judge: Judge) -> list[Given]:
    places = [ShownPlace.of_json(p) for p in judge.places]
    return [Given(places[c.place], c.answer, c.kinds, c.took_ms) for c in judge.calls.all()]


def _told(interval: Interval | None) -> Told | None:
    return asdict(interval) if interval else None


def told_results(results: Results | None) -> Told | None:
    """Results as data, with what they say in words."""
    if results is None:
        return None
    return asdict(results) | {
        "spread": results.spread.value,
        "said": said_of(results),
        "speaks": speaks_for(results),
    }


def raw_rows(outcome: SittingOutcome) -> list[list[object]]:
    """Every answer: no names, no nicknames."""
    rows: list[list[object]] = []
    for record in outcome.records:
        for at, g in enumerate(record.given):
            spot = outcome.sitting.spots[g.place.spot]
            told = g.answer.get("said") or g.answer.get("grade")
            if "order" in g.answer:
                told = " > ".join(g.place.letters[i] for i in g.answer["order"])
            rows.append(
                [
                    record.judge.number,
                    at + 1,
                    g.place.purpose.value,
                    g.place.spot + 1,
                    spot["frame_name"],
                    spot["name"],
                    spot["role"],
                    " ".join(g.place.letters),
                    told,
                    ", ".join(g.kinds),
                    g.took_ms / 1000,
                ]
            )
    return rows


RAW_HEAD = (
    "judge",
    "place",
    "purpose",
    "spot",
    "frame",
    "name",
    "type",
    "shown",
    "answer",
    "because",
    "seconds",
)
