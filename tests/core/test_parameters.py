"""Settings with their types: what each takes, and that what is kept reads the same
again.
"""

from __future__ import annotations

import unittest
from typing import Any

from glenhail.core.errors import BadRequest
from glenhail.core.parameters import (
    Choice,
    Number,
    Switch,
    Text,
    as_json,
    checked,
    in_words,
    parameter_of,
    value_of,
)

SCALE = Number("scale", "scale", "x", 1, 6, 2)
SIDE = Number("side", "side", "px", 3, 9, 5, whole=True, odd=True)
MODE = Choice("mode", "mode", ("fine", "coarse"), "fine")
FACES = Switch("faces", "faces")
NOTE = Text("note", "note")


class Values(unittest.TestCase):
    def test_each_type_takes_its_own_and_says_what_that_is(self) -> None:
        for parameter, good, bad in (
            (SCALE, [(1, 1.0), (2.5, 2.5), (6, 6.0)], [0.9, 6.1, True, "2", None, float("nan")]),
            (SIDE, [(3, 3), (9.0, 9)], [4, 3.5, 11]),
            (MODE, [("coarse", "coarse")], ["Fine", "", 1, None]),
            (FACES, [(True, True), (False, False)], [0, "on", None]),
            (NOTE, [("  words ", "words"), ("", "")], [3, None, True]),
        ):
            for given, kept in good:
                self.assertEqual(value_of("Here", parameter, given), kept)
            for given in bad:
                with (
                    self.subTest(parameter=parameter.name, given=given),
                    self.assertRaisesRegex(BadRequest, "^Here: "),
                ):
                    value_of("Here", parameter, given)

    def test_what_is_not_told_takes_its_usual_value_and_what_is_unknown_is_named(self) -> None:
        told = checked("Tool", (SCALE, MODE, FACES), {"scale": 4})
        self.assertEqual(told, {"scale": 4.0, "mode": "fine", "faces": False})
        self.assertEqual(in_words((SCALE, MODE, FACES), told), "scale 4 x, mode fine, faces off")
        with self.assertRaisesRegex(BadRequest, "it has no size; it has scale"):
            checked("Tool", (SCALE,), {"size": 1})


class Kept(unittest.TestCase):
    def test_every_type_reads_the_same_again(self) -> None:
        for parameter in (SCALE, MODE, FACES, NOTE):
            self.assertEqual(parameter_of(as_json(parameter)), parameter)

    def test_what_a_reviewer_leaves_out_is_filled_in(self) -> None:
        self.assertEqual(
            parameter_of({"kind": "number", "name": "n", "low": 1, "high": 3}),
            Number("n", "n", "", 1, 3, 1),
        )
        self.assertEqual(
            parameter_of({"kind": "choice", "name": "c", "among": [" a ", "", "b"]}),
            Choice("c", "c", ("a", "b"), "a"),
        )

    def test_what_makes_no_sense_is_told(self) -> None:
        cases: dict[str, dict[str, Any]] = {
            "number, choice, switch, text": {"kind": "slider", "name": "n"},
            "needs a name": {"kind": "switch", "name": "  "},
            "below its highest": {"kind": "number", "name": "n", "low": 3, "high": 3},
            "a lowest, a highest": {"kind": "number", "name": "n", "low": "few"},
            "from 1 to 3": {"kind": "number", "name": "n", "low": 1, "high": 3, "usual": 9},
            "words to choose from": {"kind": "choice", "name": "c", "among": ["", " "]},
            "is one of a, b": {"kind": "choice", "name": "c", "among": ["a", "b"], "usual": "z"},
        }
        for words, told in cases.items():
            with self.subTest(words), self.assertRaisesRegex(BadRequest, words):
                parameter_of(told)
