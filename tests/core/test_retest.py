"""A treatment taken over to another release, and what a release changed."""

from __future__ import annotations

import unittest

from glenhail.core.answers.board import Board, Cell, Column, Place
from glenhail.core.answers.comparison import TakenReading
from glenhail.core.answers.succession import succession, succession_words
from glenhail.core.parameters import Choice, Number
from glenhail.core.treatments.release import ReleaseFacts
from glenhail.core.treatments.retest import taken_over
from glenhail.core.treatments.step import Setting, Step, Treatment

SCALE = Number("scale", "scale", "x", 1, 6, 2)
GRAIN = Number("grain", "grain", "%", 0, 50, 10)
STYLE = Choice("style", "style", ("soft", "hard"), "soft")


def step(*settings: tuple[str, object], mode: str = "", strength: float | None = None) -> Step:
    told = tuple(Setting(name, value) for name, value in settings)  # type: ignore[arg-type]
    return Step("Tarnlift", "1.8", mode, told, strength)


def over(one: Step, **facts: object) -> tuple[Step, tuple[str, ...]]:
    release = ReleaseFacts("Tarnlift 2.0", **facts)  # type: ignore[arg-type]
    made = taken_over(Treatment((one,)), "Tarnlift", "2.0", release)
    return made.treatment.steps[0], made.asked


class TakenOverTest(unittest.TestCase):
    def test_where_nothing_is_written_down_everything_stays(self) -> None:
        old = step(("scale", 4), mode="photo", strength=60)
        made, asked = over(old)
        self.assertEqual(asked, ())
        self.assertEqual((made.release, made.mode, made.strength), ("2.0", "photo", 60))
        self.assertEqual(made.settings, old.settings)

    def test_what_the_release_takes_stays_and_the_rest_is_asked_about(self) -> None:
        cases = {
            "as it was": ((("scale", 4),), (SCALE,), {"scale": 4.0}, ()),
            "out of bounds": (
                (("scale", 9),),
                (SCALE,),
                {"scale": 2.0},
                ("It was “scale 9”; 2 is proposed.",),
            ),
            "gone": (
                (("scale", 4), ("sheen", 3)),
                (SCALE,),
                {"scale": 4.0},
                ("“sheen 3” is left",),
            ),
            "new": (
                (("scale", 4),),
                (SCALE, GRAIN),
                {"scale": 4.0, "grain": 10.0},
                ("new setting, grain: 10",),
            ),
            "another kind": (
                (("style", "sharp"),),
                (STYLE,),
                {"style": "soft"},
                ("soft is proposed",),
            ),
            "automatic": ((("scale", None),), (SCALE,), {"scale": None}, ()),
        }
        for name, (settings, parameters, wanted, words) in cases.items():
            with self.subTest(name):
                made, asked = over(step(*settings), parameters=parameters)
                self.assertEqual({s.name: s.value for s in made.settings}, wanted)
                self.assertEqual(len(asked), len(words), asked)
                for told, word in zip(asked, words, strict=True):
                    self.assertIn(word, told)

    def test_a_mode_or_strength_that_is_gone_is_asked_about(self) -> None:
        made, asked = over(step(mode="raw", strength=60), modes=("photo", "art"), strength=False)
        self.assertEqual((made.mode, made.strength), ("", None))
        self.assertIn("no mode “raw”; it has photo, art", asked[0])
        self.assertIn("60 % is left out", asked[1])

    def test_other_steps_and_other_tools_stay_as_they_are(self) -> None:
        steps = (
            Step("Keenfold", "5.1"),
            step(),
            Step("Tarnlift", "2.0"),
            Step("", method="guided"),
        )
        made = taken_over(Treatment(steps), "Tarnlift", "2.0", ReleaseFacts("Tarnlift 2.0"))
        self.assertEqual([s.release for s in made.treatment.steps], ["5.1", "2.0", "2.0", ""])
        self.assertEqual(made.asked, ())


def board(**told: tuple[float, float]) -> Board:
    """Readings of A and B at each place, each ± 0.5."""
    columns = [Column("U", unprocessed=True), Column("A"), Column("B")]
    places = {key: Place(key, "texture", key.title(), "Loom") for key in told}
    made = Board(columns, places)
    for key, pair in told.items():
        for letter, value in zip("AB", pair, strict=True):
            taken = TakenReading(value, value - 0.5, value + 0.5)
            made.put("detail_kept", key, letter, Cell(1, taken))
    return made


class Succession(unittest.TestCase):
    def test_visible_measurable_and_neither_are_kept_apart(self) -> None:
        # Detail kept is best at 100 %, and seen from 3 % on.
        readings = board(cloth=(80, 90), rope=(80, 70), sign=(80, 81.5), yard=(80, 80.1))
        (found,) = succession(readings, "B", "A")
        self.assertEqual(found.measure, "detail_kept")
        self.assertEqual((found.better, found.worse), (("Cloth, Loom",), ("Rope, Loom",)))
        self.assertEqual((found.unseen, found.none, found.places), (1, 1, 4))
        (back,) = succession(readings, "A", "B")
        self.assertEqual((back.better, back.worse), (found.worse, found.better))

    def test_it_is_told_in_a_sentence(self) -> None:
        cases = [
            (
                board(a=(80, 90), b=(80, 70)),
                "Visibly better in detail kept (at 1 of 2 places)."
                " Visibly worse in detail kept (at 1 of 2 places).",
            ),
            (board(a=(80, 81.5)), "What changed can be measured, but not seen."),
            (board(a=(80, 80)), "Nothing changed that can be measured."),
            (board(), "The two were read nowhere alike."),
        ]
        for readings, words in cases:
            with self.subTest(words):
                self.assertEqual(succession_words(succession(readings, "B", "A")), words)
