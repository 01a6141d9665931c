"""Verdicts: what speaks for whom, by hand-made boards and answers."""

from __future__ import annotations

import unittest

import scipy.stats

from glenhail.core.answers.board import Board, Cell, Column, Place
from glenhail.core.answers.comparison import TakenReading
from glenhail.core.judging import verdicts
from glenhail.core.judging.calls import Call, Said
from glenhail.core.judging.verdicts import Evidence, Judged, Source
from glenhail.core.seeing.matrix import SeenAt
from glenhail.core.seeing.visible import Seen
from glenhail.core.uses.table import USES

DAY, NIGHT = "plain areas", "lights at night"


def board(**noise: tuple[float, float]) -> Board:
    """Two plain patches, one by day and one at night, and the noise of each contender
    in them.
    """
    places = {
        "p1": Place("p1", "flat", "Wall", "Hall", (DAY,)),
        "p2": Place("p2", "flat", "Sky", "Yard", (NIGHT,)),
    }
    made = Board([Column("U", unprocessed=True), *(Column(c) for c in noise if c != "U")], places)
    number = iter(range(1, 99))
    for letter, values in noise.items():
        for place, value in zip(places, values, strict=True):
            taken = TakenReading(value, value * 0.99, value * 1.01)
            made.put("noise_luma", place, letter, Cell(next(number), taken))
    return made


def calls(one: str, other: str, *, one_chosen: int, other_chosen: int, same: int) -> list[Call]:
    said = [Said.LEFT] * one_chosen + [Said.RIGHT] * other_chosen + [Said.NEITHER] * same
    return [Call(one, other, s, "0") for s in said]


class SeenInUse(unittest.TestCase):
    def test_nobody_sees_it_is_no_difference_and_seen_is_no_answer(self) -> None:
        web = USES["web"]
        at = [
            SeenAt("A", 1, "web", Seen.NOBODY, 0.0001),
            SeenAt("B", 1, "web", Seen.NOBODY, 0.0),
            SeenAt("B", 2, "web", Seen.ONCE, 0.3),
            SeenAt("A", 1, "post", Seen.ONCE, 0.5),
        ]
        found = verdicts.from_seen(at, web, "U")
        self.assertEqual({e.letter: e.says for e in found}, {"A": Judged.SAME, "B": None})
        self.assertEqual([e.key for e in found], ["seen:web:A", "seen:web:B"])
        self.assertIn("seen at once, in 30.0 % of the picture", found[1].text)
        self.assertEqual(
            verdicts.proposal(found, "U"),
            "The difference from U: that of A seen by nobody; that of B seen at once.",
        )
        # Better where nobody sees a difference is asked about.
        asked = verdicts.contradictions({"A": Judged.BETTER, "B": Judged.BETTER}, found, "U")
        self.assertEqual(len(asked), 1)
        self.assertIn("A is marked better than U, but", asked[0])


class Readings(unittest.TestCase):
    def test_each_contender_is_held_against_the_reference_by_the_types_main_measure(self) -> None:
        found = verdicts.from_readings(board(U=(9, 9), A=(3, 3), B=(15, 15), C=(9, 9)), "U")
        self.assertEqual(
            {e.letter: e.says for e in found},
            {"A": Judged.BETTER, "B": Judged.WORSE, "C": Judged.SAME},
        )
        (a,) = (e for e in found if e.letter == "A")
        self.assertEqual((a.measure, a.readings), ("noise_luma", (3, 4)))
        self.assertEqual(a.key, "readings:flat:A")
        self.assertIn("A against U, plain areas, Brightness noise: better at 2 of 2", a.text)

    def test_where_places_disagree_nothing_is_said_and_a_kind_of_scene_says_its_own(self) -> None:
        whole = board(U=(9, 9), A=(3, 15))
        self.assertEqual([e.says for e in verdicts.from_readings(whole, "U")], [None])
        for kind, says in ((DAY, Judged.BETTER), (NIGHT, Judged.WORSE)):
            with self.subTest(kind):
                self.assertEqual(
                    [e.says for e in verdicts.from_readings(whole.of_kind(kind), "U")], [says]
                )

    def test_two_types_of_patch_that_one_measure_answers_for_are_two_pieces(self) -> None:
        made = board(U=(9, 9), A=(3, 15))
        made.places["p2"] = Place("p2", "shadow", "Sky", "Yard", (NIGHT,))
        found = {e.key: e.says for e in verdicts.from_readings(made, "U")}
        self.assertEqual(
            found, {"readings:flat:A": Judged.BETTER, "readings:shadow:A": Judged.WORSE}
        )

    def test_without_an_unprocessed_frame_the_first_that_competes_is_the_reference(self) -> None:
        made = board(A=(3, 3), B=(9, 9))
        self.assertEqual(verdicts.reference_of(made.columns), "U")
        made.columns = [Column("T", truth=True), Column("B"), Column("A")]
        self.assertEqual(verdicts.reference_of(made.columns), "B")
        self.assertIsNone(verdicts.reference_of([]))


class Choices(unittest.TestCase):
    def test_they_say_what_wilsons_interval_carries(self) -> None:
        for chosen, other, same in ((14, 4, 3), (4, 14, 0), (9, 9, 2), (3, 1, 0), (2, 1, 8)):
            with self.subTest((chosen, other, same)):
                low, high = scipy.stats.binomtest(chosen, chosen + other).proportion_ci(
                    0.95, "wilson"
                )
                want = Judged.BETTER if low > 0.5 else Judged.WORSE if high < 0.5 else None
                if same > chosen + other:
                    want = Judged.SAME
                shown = calls("A", "U", one_chosen=chosen, other_chosen=other, same=same)
                (found,) = verdicts.from_choices(shown, "U", 2)
                self.assertEqual(found.says, want)
                self.assertIn(
                    f"A chosen {chosen} times, U {other}, no difference seen {same}", found.text
                )
                self.assertEqual((found.key, found.sitting), ("blind:2:A", 2))

    def test_among_others_alone_nothing_is_said_of_the_reference(self) -> None:
        shown = calls("A", "B", one_chosen=18, other_chosen=4, same=2)
        found = {e.letter: e for e in verdicts.from_choices(shown, "U", 1)}
        self.assertEqual({e.says for e in found.values()}, {None})
        self.assertEqual((found["A"].leads, found["B"].leads), (True, False))
        told = verdicts.proposal(list(found.values()), "U")
        self.assertEqual(told, "Judges who see no names choose A over the others they saw.")

    def test_pairs_of_others_and_of_equals_do_not_count_where_the_reference_was_shown(self) -> None:
        shown = [
            *calls("A", "U", one_chosen=9, other_chosen=1, same=0),
            *calls("A", "B", one_chosen=0, other_chosen=30, same=0),
            *calls("A", "A", one_chosen=5, other_chosen=0, same=0),
        ]
        (found,) = verdicts.from_choices(shown, "U", 1)
        self.assertEqual((found.letter, found.says), ("A", Judged.BETTER))

    def test_calls_with_names_say_nothing_where_people_disagree(self) -> None:
        b, w, s = Judged.BETTER, Judged.WORSE, Judged.SAME
        for said, want in (([b, b, s], b), ([w], w), ([s, s, b], s), ([b, w, b, b], None)):
            with self.subTest(said):
                (found,) = verdicts.from_named([("A", mark) for mark in said], "U")
                self.assertEqual((found.source, found.says), (Source.NAMED, want))


def speaks(
    letter: str, says: Judged | None, source: Source = Source.READINGS, about: str = "Edges"
) -> Evidence:
    return Evidence(letter, source, says, about, f"{about} of {letter}")


class Proposals(unittest.TestCase):
    CASES: tuple[tuple[str, list[Evidence]], ...] = (
        ("", []),
        ("", [speaks("A", None)]),
        ("Measured better than U: A in edges.", [speaks("A", Judged.BETTER)]),
        (
            "Measured better than U: A and C in edges; with no difference from U that is seen: B in"
            " edges.",
            [speaks("C", Judged.BETTER), speaks("A", Judged.BETTER), speaks("B", Judged.SAME)],
        ),
        (
            "Measured better than U: all in edges and faces; worse than U: A in plain areas.",
            [
                *(speaks(c, Judged.BETTER, about=x) for c in "AB" for x in ("Edges", "Faces")),
                speaks("A", Judged.WORSE, about="Plain areas"),
            ],
        ),
        (
            "Measured better than U: A in edges. Judges who see no names choose U over A and see no"
            " difference of B from U.",
            [
                speaks("A", Judged.BETTER),
                speaks("A", Judged.WORSE, Source.BLIND),
                speaks("B", Judged.SAME, Source.BLIND),
            ],
        ),
    )

    def test_sentences(self) -> None:
        for want, evidence in self.CASES:
            with self.subTest(want):
                self.assertEqual(verdicts.proposal(evidence, "U"), want)


class Asked(unittest.TestCase):
    def test_marks_against_all_there_is_or_against_blind_judges_are_asked_about(self) -> None:
        better, worse, same = Judged.BETTER, Judged.WORSE, Judged.SAME
        blind = Source.BLIND
        for mark, evidence, asked in (
            (better, [speaks("A", better)], False),
            (better, [speaks("A", worse)], True),
            (better, [speaks("A", same)], True),
            (worse, [speaks("A", better)], True),
            (same, [speaks("A", better)], True),
            (same, [speaks("A", same)], False),
            (better, [speaks("A", worse), speaks("A", better, about="Faces")], False),
            (better, [speaks("A", worse, blind), speaks("A", better)], True),
            (better, [speaks("A", None), speaks("B", worse)], False),
            (better, [], False),
        ):
            with self.subTest(mark=mark, evidence=[(e.source, e.says) for e in evidence]):
                found = verdicts.contradictions({"A": mark}, evidence, "U")
                self.assertEqual(bool(found), asked)
                if asked:
                    self.assertRegex(found[0], "^A is marked (better|worse|not different)")
