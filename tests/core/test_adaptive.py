"""Pairs chosen by what is least known."""

from __future__ import annotations

import random
import unittest
from collections import Counter

import numpy as np

from glenhail.core.judging.adaptive import chosen_anew, least_known
from glenhail.core.judging.calls import Call, Said
from glenhail.core.judging.drawing import Purpose, ShownPair, longest_run
from glenhail.core.judging.results import results_of
from glenhail.core.judging.setup import ShownPlace, SittingKind, drawn_places
from tests.core.simulated_judges import Simulated, sitting_of

LETTERS = list("ABCD")


def said(one: str, other: str, times: int) -> list[Call]:
    """Each of two chosen as often."""
    return [Call(one, other, (Said.LEFT, Said.RIGHT)[i % 2], "0") for i in range(times)]


class LeastKnown(unittest.TestCase):
    def test_what_was_never_asked_comes_first_and_what_was_asked_often_last(self) -> None:
        calls = [*said("A", "B", 40), *said("A", "C", 40), *said("B", "C", 40)]
        found = least_known(calls, LETTERS, 6, random.Random(1))
        self.assertTrue(all("D" in pair for pair in found), found)

    def test_with_nothing_known_every_pair_comes_as_often_within_one(self) -> None:
        found = least_known([], LETTERS, 24, random.Random(1))
        times = Counter(map(frozenset, found))
        self.assertEqual(len(times), 6)
        self.assertLessEqual(max(times.values()) - min(times.values()), 2)

    def test_one_who_always_loses_is_asked_about_less(self) -> None:
        calls = [Call(x, "D", Said.LEFT, "0") for x in "ABC" for _ in range(12)]
        calls += [*said("A", "B", 12), *said("A", "C", 12), *said("B", "C", 12)]
        found = least_known(calls, LETTERS, 12, random.Random(1))
        self.assertLess(sum("D" in pair for pair in found), 6)


class Plans(unittest.TestCase):
    def test_only_pairs_that_are_still_to_come_change_and_repeats_follow(self) -> None:
        for seed in range(8):
            with self.subTest(seed):
                plan = drawn_places(SittingKind.PAIRS, LETTERS, 5, 60, seed, ("T", "U"))
                made = chosen_anew(plan, 20, said("A", "B", 30), LETTERS, seed)
                self.assertEqual(made[:20], plan[:20])
                self.assertEqual([p.spot for p in made], [p.spot for p in plan])
                self.assertEqual([p.purpose for p in made], [p.purpose for p in plan])
                for at, place in enumerate(made):
                    if place.purpose == Purpose.REPEAT:
                        self.assertEqual(place.letters, made[place.of or 0].letters[::-1], at)
                    elif place.purpose != Purpose.ASKED:
                        self.assertEqual(place, plan[at])
                asked = [p for p in made[20:] if p.purpose == Purpose.ASKED]
                self.assertTrue(all(len(set(p.letters)) == 2 for p in asked))
                left = Counter(p.letters[0] for p in asked)
                right = Counter(p.letters[1] for p in asked)
                self.assertTrue(all(abs(left[x] - right[x]) <= 6 for x in LETTERS), (left, right))

    def test_the_same_seed_chooses_the_same(self) -> None:
        plan = drawn_places(SittingKind.PAIRS, LETTERS, 5, 40, 3)
        calls = said("A", "C", 9)
        self.assertEqual(
            chosen_anew(plan, 0, calls, LETTERS, 7), chosen_anew(plan, 0, calls, LETTERS, 7)
        )
        shown = [ShownPair(*p.letters, str(p.spot)) for p in chosen_anew(plan, 0, [], LETTERS, 7)]
        self.assertLessEqual(longest_run(shown), 6)

    def test_intervals_hold_the_truth_as_often_as_they_say(self) -> None:
        # 2,000 of each kind are in bench/sittings; here as many as a test has time for.
        simulated = Simulated(judges=3, scenes=8, pairs=30, adaptive=True)
        rng = np.random.default_rng(5)
        within = shown = 0
        for _ in range(40):
            results = results_of(sitting_of(simulated, rng), simulated.letters)
            assert results is not None
            for s in results.standings:
                truth = simulated.worths[simulated.letters.index(s.contender)]
                within += s.worth.low <= truth <= s.worth.high
                shown += 1
        self.assertGreater(within / shown, 0.88)


class Places(unittest.TestCase):
    def test_a_place_without_free_pairs_stays(self) -> None:
        plan = [
            ShownPlace(0, ("A", "A"), Purpose.EQUAL),
            ShownPlace(0, ("T", "U"), Purpose.OBVIOUS),
        ]
        self.assertEqual(chosen_anew(plan, 0, [], LETTERS, 1), plan)
