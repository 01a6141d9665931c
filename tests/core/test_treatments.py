"""Treatments: families that differ in one thing, and what exactly that is."""

from __future__ import annotations

import unittest
from dataclasses import replace
from pathlib import Path
from typing import Any

from glenhail.core.errors import BadRequest
from glenhail.core.execution.command import Command, command_of
from glenhail.core.treatments.compare import Difference, differences
from glenhail.core.treatments.family import feeds, orders, releases, swept
from glenhail.core.treatments.step import Setting, Step, Treatment, treatment_of

WASH = Step(
    "Sedgewash",
    "3.0",
    "standard",
    (Setting("detail", 40, "%"), Setting("colour", None, "", True)),
    60,
)
LIFT = Step("Tarnlift", "1.8", "2x")
BOTH = Treatment((WASH, LIFT))


class Families(unittest.TestCase):
    def test_a_sweep_differs_in_the_setting_alone(self) -> None:
        made = swept(BOTH, 0, "detail", [20, 40, 80])
        self.assertEqual([t.steps[0].value("detail") for t in made], [20, 40, 80])
        self.assertEqual(
            differences(made[0], made[2]), [Difference("Sedgewash 3.0", "detail", "20 %", "80 %")]
        )
        self.assertEqual(
            [t.steps[0].strength for t in swept(BOTH, 0, "strength", [25, 50])], [25, 50]
        )
        self.assertFalse(swept(BOTH, 0, "colour", [3])[0].steps[0].settings[1].automatic)

    def test_every_order_once_and_the_order_is_all_that_differs(self) -> None:
        made = orders(BOTH)
        self.assertEqual(
            [t.title for t in made],
            ["Sedgewash 3.0, then Tarnlift 1.8", "Tarnlift 1.8, then Sedgewash 3.0"],
        )
        self.assertEqual([d.what for d in differences(*made)], ["order of steps"])

    def test_releases_and_what_a_tool_is_handed(self) -> None:
        self.assertEqual(
            differences(*releases(BOTH, 0, ["2.4", "3.0"])),
            [Difference("Sedgewash 2.4", "release", "2.4", "3.0")],
        )
        self.assertEqual([d.what for d in differences(*feeds(BOTH))], ["handed"])

    def test_a_step_more_stands_alone_and_the_same_treatment_does_not_differ(self) -> None:
        self.assertEqual(
            differences(Treatment((LIFT,)), BOTH),
            [Difference("Sedgewash 3.0", "step", "–", WASH.words)],
        )
        self.assertEqual(differences(BOTH, treatment_of(BOTH.as_json())), [])

    def test_what_makes_no_family_is_told(self) -> None:
        for wrong in (
            lambda: orders(Treatment((LIFT,))),
            lambda: swept(BOTH, 2, "detail", [1]),
            lambda: swept(BOTH, 0, "strength", [120]),
            lambda: swept(BOTH, 0, "detail", []),
            lambda: releases(BOTH, 0, ["3.0"]),
            lambda: swept(BOTH, 0, "detail", list(range(25))),
        ):
            with self.assertRaises(BadRequest):
                wrong()

    def test_words_say_automatic_and_by_hand(self) -> None:
        self.assertEqual(
            WASH.words, "Sedgewash 3.0, standard, strength 60 %, detail 40 %, colour automatic"
        )


class Commands(unittest.TestCase):
    def test_arguments_are_filled_in_and_those_not_told_left_out(self) -> None:
        command = command_of(
            {
                "program": "wash",
                "arguments": [
                    "{input}",
                    "{output}",
                    "--mode={mode}",
                    "--detail={detail}",
                    "--colour={colour}",
                ],
            }
        )
        line = command.line(Path("/allowed/wash"), WASH, Path("in put.tif"), Path("out.tif"))
        self.assertEqual(
            line, ["/allowed/wash", "in put.tif", "out.tif", "--mode=standard", "--detail=40"]
        )

    def test_a_word_that_looks_like_an_option_is_not_handed_over_as_one(self) -> None:
        command, sly = (
            Command("wash", ("{input}", "{output}", "{mode}")),
            replace(WASH, mode="--output=/etc/passwd"),
        )
        with self.assertRaisesRegex(BadRequest, "one of its options"):
            command.line(Path("/allowed/wash"), sly, Path("a.tif"), Path("b.tif"))

    def test_what_is_no_command_is_refused(self) -> None:
        good: dict[str, Any] = {"program": "wash", "arguments": ["{input}", "{output}"]}
        self.assertIsInstance(command_of(good), Command)
        for change in (
            {"program": "../../bin/sh"},
            {"program": ""},
            {"program": ".hidden"},
            {"arguments": ["{input}"]},
            {"ending": ".exe"},
            {"seconds": 0},
            {"memory_mb": "much"},
            {"arguments": ["{input}", "{output}", "a\0b"]},
        ):
            with self.subTest(change), self.assertRaises(BadRequest):
                command_of(good | change)
