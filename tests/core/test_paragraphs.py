"""The answer in paragraphs: who comes before whom, who can not be told apart, what speaks
against whom.
"""

from __future__ import annotations

import itertools
import unittest
from collections.abc import Mapping, Sequence

from glenhail.core.answers.board import Board, Cell, Column, Place
from glenhail.core.answers.comparison import TakenReading
from glenhail.core.answers.paragraphs import ABOUT, Paragraph, paragraphs, ranked
from glenhail.core.answers.sentences import FAULTS
from glenhail.core.answers.words import in_words, over_words
from glenhail.core.measures.catalogue import OWN, ROLES

Told = Mapping[str, Sequence[float]]


def board(told: Mapping[str, Told], role: str = "texture", half: float = 1.0) -> Board:
    """Readings by measure, then by contender, one a place; each with its interval."""
    count = max(len(v) for rows in told.values() for v in rows.values())
    places = {f"p{i}": Place(f"p{i}", role, f"P{i}", "frame") for i in range(count)}
    letters = sorted({letter for rows in told.values() for letter in rows})
    made = Board([Column(x, x == "U", x == "T") for x in letters], places)
    ids = itertools.count(1)
    for measure, rows in told.items():
        for letter, values in rows.items():
            for i, v in enumerate(values):
                taken = TakenReading(v, v - half, v + half)
                made.put(measure, f"p{i}", letter, Cell(next(ids), taken))
    return made


class Ranks(unittest.TestCase):
    CASES: Mapping[str, tuple[Told, list[tuple[str, ...]]]] = {
        "one after the other": ({"A": [60], "B": [80], "C": [40]}, [("B",), ("A",), ("C",)]),
        "two alike": ({"A": [60], "B": [60.5], "C": [40]}, [("A", "B"), ("C",)]),
        "all alike": ({"A": [60], "B": [60.5]}, [("A", "B")]),
        "most places count": (
            {"A": [60, 60, 40], "B": [40, 40, 60]},
            [("A",), ("B",)],
        ),
        "as many each way is no order": ({"A": [60, 40], "B": [40, 60]}, [("A", "B")]),
        "a circle is no order": (
            {"A": [90, 60, 30], "B": [60, 30, 90], "C": [30, 90, 60]},
            [("A", "B", "C")],
        ),
        "who was not measured is not ranked": ({"A": [60], "B": [], "C": [40]}, [("A",), ("C",)]),
    }

    def test_ranks(self) -> None:
        for name, (told, wanted) in self.CASES.items():
            with self.subTest(name):
                self.assertEqual(ranked(board({"detail_kept": told}), "detail_kept"), wanted)

    def test_the_frame_and_the_truth_compete_with_nobody(self) -> None:
        told = {"T": [100.0], "U": [90.0], "A": [60.0], "B": [40.0]}
        self.assertEqual(ranked(board({"detail_kept": told}), "detail_kept"), [("A",), ("B",)])


class Paragraphs(unittest.TestCase):
    def only(self, made: Board) -> Paragraph:
        [found] = paragraphs(made)
        return found

    def test_one_stands_for_each_type_of_patch_that_was_measured(self) -> None:
        self.assertEqual(set(ABOUT), set(ROLES))
        for role in ROLES:
            with self.subTest(role):
                found = self.only(board({OWN[role]: {"A": [0.5], "B": [0.9]}}, role, half=0.001))
                self.assertEqual((found.role, found.measure, found.places), (role, OWN[role], 1))
                self.assertEqual([c.letters for c in found.order][0][0] in "AB", True)

    def test_without_a_truth_the_frames_texture_stands_in(self) -> None:
        found = self.only(board({"detail_frame": {"A": [80], "B": [60]}}))
        self.assertEqual(found.measure, "detail_frame")

    def test_those_in_one_rank_are_said_to_be_so_and_why(self) -> None:
        for told, words in (
            ({"A": [60], "B": [60.4]}, "no measurable difference"),
            ({"A": [60, 40], "B": [40, 60]}, "in no order that the readings carry"),
        ):
            with self.subTest(words):
                self.assertEqual(self.only(board({"detail_kept": told})).order[0].text, words)

    def test_what_speaks_against_one_is_said_where_it_was_measured_without_numbers(self) -> None:
        made = board(
            {
                "detail_kept": {"A": [80], "B": [60]},
                "overshoot": {"A": [0], "B": [12], "U": [0]},
                "detail_added": {"A": [30], "B": [2]},
            }
        )
        found = self.only(made)
        self.assertEqual(
            [(c.letters, c.text) for c in found.faults],
            [
                (("A",), "adds noise or detail that the truth has not"),
                (("B",), "draws bright halos"),
            ],
        )
        # Each leads to its readings.
        by_id = {c.id: (m, x) for (m, _), row in made.cells.items() for x, c in row.items()}
        self.assertEqual(
            [by_id[i] for c in found.faults for i in c.readings],
            [("detail_added", "A"), ("overshoot", "B")],
        )
        self.assertEqual(
            [by_id[i] for c in found.order for i in c.readings],
            [("detail_kept", "A"), ("detail_kept", "B")],
        )

    def test_what_is_said_of_several_is_said_once(self) -> None:
        made = board(
            {"detail_kept": {"A": [80], "B": [60]}, "overshoot": {"A": [9], "B": [12], "U": [0]}}
        )
        [one] = self.only(made).faults
        self.assertEqual((one.letters, len(one.readings)), (("A", "B"), 2))

    def test_what_was_seen_at_another_type_of_patch_is_not_said_here(self) -> None:
        made = board({"detail_kept": {"A": [80], "B": [60]}})
        made.places["e"] = Place("e", "edge", "Edge", "frame")
        made.put("overshoot", "e", "A", Cell(99, TakenReading(12, 11, 13)))
        self.assertEqual(self.only(made).faults, ())

    def test_no_fault_says_a_number_in_short(self) -> None:
        for rule in FAULTS:
            with self.subTest(rule.measure):
                self.assertNotRegex(rule.short, r"[{}\d]")
                self.assertGreater(len(rule.short), 5)


class Words(unittest.TestCase):
    def test_a_paragraph_is_one_sentence_with_its_doubt(self) -> None:
        cases: Mapping[str, tuple[Told, str]] = {
            "one after the other": ({"A": [60], "B": [80], "C": [40]}, "B, then A, then C"),
            "three alike": ({"A": [60], "B": [60.1], "C": [60.2]}, "A, B and C ("),
        }
        for name, (told, words) in cases.items():
            with self.subTest(name):
                (paragraph,) = paragraphs(board({"detail_kept": told}))
                sentence = in_words(paragraph)
                self.assertTrue(sentence.startswith(words), sentence)
                self.assertTrue(sentence.endswith("."))
                for clause in paragraph.faults:
                    self.assertIn(f"; {clause.text}: ", sentence)

    def test_how_far_it_carries(self) -> None:
        self.assertEqual([over_words(n) for n in (1, 6)], ["on one patch", "over 6 patches"])
