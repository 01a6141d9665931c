"""Ranks: never against the values, shared where a test tells no difference, the
doubtful marked.
"""

from __future__ import annotations

import unittest

import numpy as np
import scipy.stats

from glenhail.core.answers.comparison import TakenReading, TestedDifference, difference, from_best
from glenhail.core.answers.ranking import holm, places
from glenhail.core.measures.best import HIGHEST, LOWEST, distance, in_words
from tests.seeds import drawn

PARTS = 16


def taken(value: float, half: float) -> TakenReading:
    return TakenReading(value, value - half, value + half)


class Ranks(unittest.TestCase):
    def ranks(
        self, readings: list[TakenReading | None], best: float
    ) -> list[tuple[int, bool, bool] | None]:
        return [None if p is None else (p.rank, p.tied, p.unsure) for p in places(readings, best)]

    def test_groups_begin_at_the_first_that_is_told_from_their_first(self) -> None:
        for readings, best, want in (
            # Of two that overlap neither is ahead; a third far below is, and an empty cell has no
            # rank.
            (
                [taken(10, 1), None, taken(10.5, 1), taken(5, 1)],
                HIGHEST,
                [(1, True, False), None, (1, True, False), (3, False, False)],
            ),
            # A wide interval in second place does not push the third, better known, before it.
            (
                [taken(23.40, 0.18), taken(23.11, 2.78), taken(20, 0.1)],
                HIGHEST,
                [(1, True, False), (1, True, False), (3, False, False)],
            ),
            # Told from the first: a group of its own; the unsure one behind it can not be told from
            # the first and is marked.
            (
                [taken(10, 0.1), taken(9, 0.1), taken(8.9, 4)],
                HIGHEST,
                [(1, False, False), (2, True, False), (2, True, True)],
            ),
            # Both sides of a target count against it.
            (
                [taken(154, 1), taken(100, 1), taken(94, 1)],
                100.0,
                [(3, False, False), (1, False, False), (2, False, False)],
            ),
            ([taken(3, 0.1), taken(2, 0.1)], LOWEST, [(2, False, False), (1, False, False)]),
            ([], HIGHEST, []),
        ):
            with self.subTest(readings=readings):
                self.assertEqual(self.ranks(readings, best), want)

    def test_ranks_never_contradict_values(self) -> None:
        for case, rng in drawn(60):
            with self.subTest(case):
                best = [HIGHEST, LOWEST, 50.0][rng.integers(3)]
                readings: list[TakenReading | None] = []
                for _ in range(rng.integers(2, 9)):
                    value, half = float(rng.normal(50, 5)), float(rng.exponential(2))
                    parts = tuple(rng.normal(value, 2 * half, PARTS)) if rng.random() < 0.5 else ()
                    readings.append(TakenReading(value, value - half, value + half, parts))
                found = places(readings, best)
                order = sorted(
                    range(len(readings)), key=lambda i: distance(readings[i].value, best)
                )  # type: ignore[union-attr]
                ranks = [found[i].rank for i in order]  # type: ignore[union-attr]
                self.assertEqual(ranks, sorted(ranks))
                self.assertEqual(ranks[0], 1)

    def test_chances_are_those_of_the_paired_t_test(self) -> None:
        for case, rng in drawn(8):
            with self.subTest(case):
                one, other = rng.normal(5, 1, PARTS), rng.normal(5.5, 1, PARTS)
                found, paired = difference(
                    *(TakenReading(float(p.mean()), 0, 0, tuple(p)) for p in (one, other))
                )
                self.assertTrue(paired)
                self.assertAlmostEqual(
                    found.chance, float(scipy.stats.ttest_rel(one, other).pvalue), places=9
                )
                # From a target both ways off: the same test on distances from it.
                low, high = from_best(
                    TakenReading(1.0, 0.9, 1.1), TakenReading(9.0, 8.9, 9.1), 5.0
                ).interval
                self.assertTrue(low < 0 < high)

    def test_holms_procedure_is_the_published_one(self) -> None:
        # Worked by hand after Holm 1979: .01 < .05/4, .013 < .05/3, .02 < .05/2, .04 < .05/1; the
        # second row stops at .02 > .05/3.
        for chances, want in (
            ((0.01, 0.04, 0.02, 0.013), [True] * 4),
            ((0.01, 0.04, 0.03, 0.02), [True, False, False, False]),
        ):
            rows = [
                TestedDifference(float(-scipy.stats.norm.ppf(p / 2)), 1, 1, np.inf) for p in chances
            ]
            for row, chance in zip(rows, chances, strict=True):
                self.assertAlmostEqual(row.chance, chance, places=9)
            self.assertEqual(holm(rows), want)

    def test_a_best_is_told_in_words(self) -> None:
        for best, words in (
            (HIGHEST, "highest"),
            (LOWEST, "lowest"),
            (100.0, "nearest 100 %"),
            (None, None),
        ):
            self.assertEqual(in_words(best, "%"), words)
