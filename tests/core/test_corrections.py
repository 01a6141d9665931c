"""What was wrong is marked where it stood."""

from __future__ import annotations

import copy
import unittest
from typing import Any

from glenhail.core.articles.corrections import Wrong, cell_of, corrections_table, place_words

CELL = {"text": "82.8", "half": "2.2", "rank": "1st", "value": 82.8}
DOCUMENT: dict[str, Any] = {
    "lead": 0,
    "contenders": [{"letter": "U"}, {"letter": "A"}],
    "blocks": [{"kind": "answer"}, {"kind": "figures"}],
    "patches": [
        {"figure": 1, "table": []},
        {"figure": 4, "table": [{"id": "psnr", "cells": [{"text": "–"}, CELL]}]},
    ],
}


def told(*wrongs: Wrong, **changed: Any) -> tuple[list[dict[str, Any]], dict[str, Any]]:
    document = copy.deepcopy(DOCUMENT) | changed
    return corrections_table(document, wrongs), document


class Corrections(unittest.TestCase):
    def test_a_figure_a_block_and_what_stands_no_more(self) -> None:
        cases = [
            (Wrong(1, 2, "Sky", "x", patch=1), "figure-4"),
            (Wrong(1, 2, "Answer", "x", block="answer"), "answer"),
            (Wrong(1, 2, "Method", "x", block="method"), ""),
            (Wrong(1, 2, "Sky", "x"), ""),
        ]
        rows, _ = told(*(wrong for wrong, _ in cases))
        self.assertEqual([r["anchor"] for r in rows], [anchor for _, anchor in cases])
        self.assertEqual([r["number"] for r in rows], [1, 2, 3, 4])

    def test_a_figure_that_its_author_left_out_has_no_place_but_the_lead_may(self) -> None:
        for kind, wanted in (("lead", ["figure-1", ""]), ("answer", ["", ""])):
            with self.subTest(kind=kind):
                places = (Wrong(1, 2, "x", "x", patch=p) for p in (0, 1))
                rows, _ = told(*places, blocks=[{"kind": kind}])
                self.assertEqual([r["anchor"] for r in rows], wanted)

    def test_a_reading_is_marked_in_its_table_with_what_it_was(self) -> None:
        wrong = Wrong(
            1, 3, "psnr of A", "x", patch=1, measure="psnr", letter="A", before="80.0 ±1.0"
        )
        rows, document = told(wrong)
        self.assertEqual((rows[0]["before"], rows[0]["after"]), ("80.0 ±1.0", "82.8 ±2.2"))
        cells = document["patches"][1]["table"][0]["cells"]
        self.assertEqual([c.get("corrected") for c in cells], [None, 1])

    def test_a_reading_that_stayed_the_same_is_not_told_as_changed(self) -> None:
        same = Wrong(1, 3, "x", "x", patch=1, measure="psnr", letter="A", before="82.8 ±2.2")
        self.assertEqual(told(same)[0][0]["before"], "")

    def test_a_number_that_is_none_is_no_reading(self) -> None:
        table = DOCUMENT["patches"][1]["table"]
        for measure, letter in (("psnr", "U"), ("psnr", "B"), ("ssim", "A"), ("", "")):
            with self.subTest(measure=measure, letter=letter):
                self.assertIsNone(cell_of(DOCUMENT, table, measure, letter))
        self.assertEqual(cell_of(DOCUMENT, table, "psnr", "A"), CELL)

    def test_places_in_words(self) -> None:
        self.assertEqual(place_words("Sky", "Yard"), "Sky, Yard")
        self.assertEqual(
            place_words("Sky", "Yard", "Detail kept", "A"), "detail kept of A, Sky, Yard"
        )
        self.assertEqual(place_words("Sky", "Yard", "PSNR", "A"), "PSNR of A, Sky, Yard")
