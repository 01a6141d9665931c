"""What changed between two editions is worked out from what both say."""

from __future__ import annotations

import copy
import unittest
from typing import Any

from glenhail.core.articles.changes import ChangedReading, changes

Document = dict[str, Any]


def cell(value: float, half: float = 1.0) -> Document:
    low, high = value - half, value + half
    return {"value": value, "low": low, "high": high, "text": f"{value:.1f}", "half": f"{half:.1f}"}


def edition() -> Document:
    row = {"id": "psnr", "measure": "PSNR", "cells": [{"text": "–"}, cell(30), cell(32)]}
    return {
        "question": "Which?",
        "summary": "B.",
        "method": "Alike.",
        "disclosure": "None.",
        "verdicts": [{"use": "Print", "text": "B."}],
        "contenders": [
            {"letter": "U", "title": "Unprocessed", "manner": ""},
            {"letter": "A", "title": "Sedgewash 3.0", "manner": "strength 60 %"},
            {"letter": "B", "title": "Keenfold 5.1", "manner": ""},
        ],
        "frames": [{"name": "Looms", "table": [copy.deepcopy(row)]}],
        "patches": [{"name": "Cloth", "frame": "Looms", "table": [copy.deepcopy(row)]}],
    }


class Editions(unittest.TestCase):
    def setUp(self) -> None:
        self.before, self.after = edition(), edition()

    def test_of_the_same_nothing_changed(self) -> None:
        found = changes(self.before, self.after)
        told = (found.contenders, found.material, found.texts, found.readings, found.within)
        self.assertEqual((told, found.same), (((), (), (), (), 0), 4))

    def test_a_reading_changed_only_beyond_both_intervals(self) -> None:
        patch, frame = self.after["patches"][0]["table"][0], self.after["frames"][0]["table"][0]
        patch["cells"][1] = cell(33)
        patch["cells"][2] = cell(32.5)
        frame["cells"][2] = cell(28, 0.5)
        found = changes(self.before, self.after)
        self.assertEqual(
            found.readings,
            (
                ChangedReading("PSNR, whole frame, Looms", "B", "32.0 ±1.0", "28.0 ±0.5"),
                ChangedReading("PSNR, Cloth, Looms", "A", "30.0 ±1.0", "33.0 ±1.0"),
            ),
        )
        self.assertEqual((found.within, found.same), (1, 1))

    def test_contenders_come_go_and_change(self) -> None:
        new = self.after["contenders"]
        new[1]["title"] = "Sedgewash 3.1"
        new[2]["letter"] = "C"
        self.assertEqual(
            changes(self.before, self.after).contenders,
            (
                "A: Sedgewash 3.1, strength 60 %, before Sedgewash 3.0, strength 60 %",
                "C, Keenfold 5.1: new",
                "B, Keenfold 5.1: gone",
            ),
        )

    def test_a_letter_that_moved_to_another_column_is_the_same_contender(self) -> None:
        self.after["contenders"].reverse()
        for thing in (*self.after["frames"], *self.after["patches"]):
            thing["table"][0]["cells"].reverse()
        found = changes(self.before, self.after)
        self.assertEqual((found.readings, found.same), ((), 4))

    def test_frames_patches_and_texts(self) -> None:
        self.after["frames"].append({"name": "Yard", "table": []})
        self.after["patches"] = [{"name": "Lamp", "frame": "Yard", "table": []}]
        self.after["summary"] = "A."
        self.after["verdicts"] = [
            {"use": "Print", "text": "A."},
            {"use": "Web", "text": "Either."},
        ]
        found = changes(self.before, self.after)
        self.assertEqual(
            found.material,
            ("frame Yard: new", "patch Lamp (Yard): new", "patch Cloth (Looms): gone"),
        )
        self.assertEqual(
            found.texts,
            ("the summary was changed", "verdict for Print: before “B.”", "verdict for Web: new"),
        )
        self.assertEqual(changes(self.after, self.before).texts[-1], "verdict for Web: gone")
