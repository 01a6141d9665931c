"""Readings asked for in a text, sentences that say otherwise, tables and charts."""

from __future__ import annotations

import unittest
from typing import Any

from glenhail.core.articles.claims import claims, contradiction
from glenhail.core.articles.tables import axis_ticks, chosen_rows, panels, unseen
from glenhail.core.articles.values import values_in, with_values


def cell(value: float, half: float, digits: int = 1) -> dict[str, Any]:
    text, wide = f"{value:.{digits}f}", f"{half:.{digits}f}"
    ends = {"low": value - half, "high": value + half}
    return {"text": text, "half": wide, "value": value, **ends, "rank": ""}


def row(measure: str, name: str, unit: str, *cells: dict[str, Any]) -> dict[str, Any]:
    return {"id": measure, "measure": name, "unit": unit, "cells": list(cells)}


NONE = {"text": "–", "reason": "no truth"}
KEPT = row("detail_kept", "Detail kept", "%", cell(100, 0.3), cell(82.75, 2.2), cell(84, 1.5))
DOCUMENT: dict[str, Any] = {
    "lead": None,
    "contenders": [
        {"letter": "U", "kind": "unprocessed"},
        {"letter": "A", "kind": "treatment"},
        {"letter": "B", "kind": "treatment"},
    ],
    "blocks": [{"kind": "figures"}],
    "frames": [
        {
            "name": "Loom & table",
            "table": [row("psnr", "PSNR", "dB", NONE, cell(31.2, 0.1, 2), cell(33, 0.1, 2))],
        },
        {"name": "Yard, night", "table": []},
    ],
    "patches": [
        {"name": "Check cloth", "frame_at": 0, "table": [KEPT]},
        {
            "name": "Bobbin",
            "frame_at": 0,
            "table": [
                row("mtf50", "MTF50", "cycles/px", cell(0.2, 0.01, 3), cell(0.3, 0.01, 3), NONE),
                row(
                    "de00_p95",
                    "Colour error, worst 5 %",
                    "CIEDE2000",
                    NONE,
                    cell(2.0, 0.1),
                    cell(4.0, 0.1),
                ),
            ],
        },
        {"name": "Bobbin", "frame_at": 1, "table": [KEPT]},
    ],
}


class Values(unittest.TestCase):
    def test_what_is_asked_for_is_found_by_its_names(self) -> None:
        cases = {
            "{A detail kept, check cloth}": "82.8 ±2.2 %",
            "{A  Detail kept ,  CHECK cloth}": "82.8 ±2.2 %",
            "{A detail_kept, cloth}": "82.8 ±2.2 %",
            "{B mtf, Bobbin, Loom & table}": "no reading of MTF50 there: no truth",
            "{A MTF50, Bobbin, Loom & table}": "0.300 ±0.010 cycles/px",
            "{A MTF50, Bobbin}": "“Bobbin” is more than one place",
            "{B detail kept, Bobbin, Yard, night}": "84.0 ±1.5 %",
            "{A colour error, worst 5 %, bobbin, loom & table}": "2.0 ±0.1 CIEDE2000",
            "{B PSNR, Loom & table}": "33.00 ±0.10 dB",
            "{B PSNR, whole frame, Loom & table}": "33.00 ±0.10 dB",
            "{A colour, cloth}": "“colour” is more than one measure",
            "{A warmth, cloth}": "no measure “warmth”",
            "{A detail kept, sea}": "no place “sea”",
            "{Z detail kept, cloth}": "no contender Z",
            "{A SSIM, cloth}": "no reading of SSIM there",
        }
        for asked, wanted in cases.items():
            with self.subTest(asked):
                (value,) = values_in(DOCUMENT, f"so {asked} it is")
                self.assertIn(wanted, value.problem or value.text)
                self.assertEqual(bool(value.problem), "±" not in wanted)

    def test_braces_that_ask_for_nothing_stay(self) -> None:
        for text in ("{}", "{a, b}", "{A}", "{Ab, c}", "{{A b}}", "{1 a, b}", "A detail, cloth"):
            with self.subTest(text):
                self.assertEqual(with_values(DOCUMENT, text, ["figures"]), (text, []))

    def test_in_rich_text_a_number_leads_to_its_row_where_the_page_has_it(self) -> None:
        html = "<p>{A MTF50, Bobbin, Loom &amp; table} &amp; more</p>"
        text, (value,) = with_values(DOCUMENT, html, ["figures"], rich=True)
        link = '<a href="#p1-mtf50">0.300 ±0.010 cycles/px</a>'
        self.assertEqual(text, f"<p>{link} &amp; more</p>")
        self.assertEqual(value.asked, "A MTF50, Bobbin, Loom & table")
        text, _ = with_values(DOCUMENT, html, ["text"], rich=True)
        self.assertEqual(text, "<p>0.300 ±0.010 cycles/px &amp; more</p>")
        _, (value,) = with_values(DOCUMENT, "{A <em>detail</em> kept, cloth}", [], rich=True)
        self.assertIn("without bold", value.problem)

    def test_what_stands_within_a_tag_is_no_text(self) -> None:
        asked = "{A detail kept, cloth}"
        link = f'<p>a &lt; {asked} <a href="https://x/{asked}">there</a></p>'
        text, values = with_values(DOCUMENT, link, [], rich=True)
        self.assertEqual(text, f'<p>a &lt; 82.8 ±2.2 % <a href="https://x/{asked}">there</a></p>')
        self.assertEqual(len(values), 1)
        text, values = with_values(DOCUMENT, f"a < {asked}", [])
        self.assertEqual((text, len(values)), ("a < 82.8 ±2.2 %", 1))

    def test_an_author_s_rounding_stands_and_is_held_against_the_reading(self) -> None:
        for number, agrees in (
            ("83", True),
            ("82.8", True),
            ("82.7", True),
            ("82.75", True),
            ("82", False),
            ("80", False),
            ("−83", False),
        ):
            with self.subTest(number):
                (value,) = values_in(DOCUMENT, f"{{A detail kept, cloth = {number}}}")
                self.assertEqual(value.text, f"{number} %")
                self.assertEqual(value.warning, "" if agrees else "it is 82.8 ±2.2 %")


class Claims(unittest.TestCase):
    def test_a_comparison_is_held_against_its_two_readings(self) -> None:
        kept, tied = "detail kept, cloth", "but their intervals overlap"
        cases = {
            f"U keeps more, {{U {kept}}} against {{A {kept}}}.": "",
            f"A keeps more, {{A {kept}}} against {{U {kept}}}.": "but the readings say otherwise",
            f"<p>At {{U {kept}}} it is <b>higher</b> than {{B {kept}}}</p>": "",
            f"A is better, {{A {kept}}}, than B, {{B {kept}}}.": tied,
            f"U and A are the same: {{U {kept}}}, {{A {kept}}}.": None,
            f"Both are the same, {{U {kept}}} and {{A {kept}}}.": "but their intervals lie apart",
            f"Both are tied, {{B {kept}}} and {{A {kept}}}.": "",
            "A is worse at {A PSNR, loom & table}, B has {B PSNR, loom & table}.": "",
            "A is lower, {A PSNR, loom & table}, than B, {B PSNR, loom & table}.": "",
            "A is better with {A PSNR, loom & table} than {B PSNR, loom & table}.": "otherwise",
            "A is better with {A colour error, worst 5 %, bobbin, loom & table}, and B has"
            " {B colour error, worst 5 %, bobbin, loom & table}.": "",
        }
        for text, wanted in cases.items():
            with self.subTest(text):
                found = [contradiction(c) for c in claims(DOCUMENT, text, "<p>" in text)]
                if wanted is None:  # the colon ends what is said
                    self.assertEqual(found, [])
                else:
                    self.assertEqual(len(found), 1)
                    self.assertIn(wanted, found[0])
                    self.assertEqual(bool(found[0]), bool(wanted))

    def test_what_compares_nothing_or_denies_is_left_to_its_reader(self) -> None:
        kept = "detail kept, cloth"
        for text in (
            f"A has {{A {kept}}}, U has {{U {kept}}}.",
            f"A is not better, {{A {kept}}} against {{U {kept}}}.",
            f"A doesn’t keep more: {{A {kept}}}, {{U {kept}}}.",
            f"A is better. It has {{A {kept}}}, U has {{U {kept}}}.",
            f"A has more detail at {{A {kept}}} and less blur than {{U {kept}}}.",
            f"More: {{A {kept}}} than {{A {kept}}}.",
            f"A has more, {{A {kept}}}, than {{A MTF50, Bobbin, Loom & table}}.",
            f"A has more, {{A {kept}}}, than {{Z {kept}}}.",
        ):
            with self.subTest(text):
                self.assertEqual(list(claims(DOCUMENT, text)), [])


BLOCK = {
    "rows": [
        {"patch": 0, "frame_at": 0, "measure": "detail_kept"},
        {"patch": 2, "frame_at": 1, "measure": "detail_kept"},
        {"patch": 1, "frame_at": 0, "measure": "mtf50"},
        {"patch": None, "frame_at": 0, "measure": "psnr"},
        {"patch": 0, "frame_at": 0, "measure": "psnr"},
    ],
    "letters": ["B", "A"],
}


class Tables(unittest.TestCase):
    def test_rows_have_the_chosen_contenders_in_their_order_and_lead_to_the_full_table(
        self,
    ) -> None:
        rows, kept = chosen_rows(DOCUMENT, BLOCK), "Detail kept"
        self.assertEqual(
            [(r.place, r.measure, r.unit, [c["text"] for c in r.cells], r.anchor) for r in rows],
            [
                ("Check cloth, Loom & table", kept, "%", ["84.0", "82.8"], "#p0-detail_kept"),
                ("Bobbin, Yard, night", kept, "%", ["84.0", "82.8"], "#p2-detail_kept"),
                ("Bobbin, Loom & table", "MTF50", "cycles/px", ["–", "0.300"], "#p1-mtf50"),
                ("Whole frame, Loom & table", "PSNR", "dB", ["33.00", "31.20"], ""),
            ],
        )  # fmt: skip

    def test_those_of_matched_outputs_come_from_their_own_table(self) -> None:
        matched = row("detail_kept", "Detail kept", "%", NONE, cell(80, 1), cell(81, 1))
        patch = {**DOCUMENT["patches"][0], "matched_table": [matched]}
        document = {**DOCUMENT, "patches": [patch]}
        block = {**BLOCK, "rows": BLOCK["rows"][:1]}
        for told, texts in (
            ({}, ["84.0", "82.8"]),
            ({"matched": True}, ["81.0", "80.0"]),
        ):
            (found,) = chosen_rows(document, block | told)
            self.assertEqual([c["text"] for c in found.cells], texts)
            # The table of the matched ones is no place that could be led to.
            self.assertEqual(bool(found.anchor), not told)

    def test_what_differs_by_less_than_is_seen_is_marked(self) -> None:
        cases = [
            ("detail_kept", (82.0, 84.9), True),  # 3 %
            ("detail_kept", (82.0, 85.1), False),
            ("noise_luma", (1.0, 1.09), True),  # a tenth of the larger
            ("noise_luma", (1.0, 1.2), False),
            ("detail_kept", (82.0,), False),
            ("unheard of", (1.0, 1.0), False),
        ]
        for measure, values, wanted in cases:
            with self.subTest(measure=measure, values=values):
                self.assertEqual(unseen(measure, [cell(v, 1) for v in values] + [NONE]), wanted)
        both = chosen_rows(DOCUMENT, BLOCK | {"letters": ["U", "A", "B"]})
        # The unprocessed frame competes with nobody.
        self.assertEqual([r.unseen for r in both], [True, True, False, False])


class Charts(unittest.TestCase):
    def test_places_of_a_measure_share_one_axis_that_holds_every_interval(self) -> None:
        kept, mtf, psnr = panels(DOCUMENT, BLOCK)
        self.assertEqual([len(p.strips) for p in (kept, mtf, psnr)], [2, 1, 1])
        self.assertEqual([words for words, _ in kept.ticks], [f"{n}" for n in range(80, 87)])
        self.assertEqual([at for _, at in kept.ticks], [round(n / 6, 5) for n in range(7)])
        lanes = kept.strips[0].lanes
        self.assertEqual([lane.letter for lane in lanes], ["B", "A"])
        for lane in lanes:
            low, high = (float(kept.ticks[i][0]) for i in (0, -1))
            self.assertAlmostEqual(low + lane.at * (high - low), lane.cell["value"], 3)
            self.assertAlmostEqual(low + lane.left * (high - low), lane.cell["low"], 3)
            self.assertTrue(0 <= lane.left <= lane.at <= lane.left + lane.width <= 1)
        self.assertEqual([lane.letter for lane in mtf.strips[0].lanes], ["A"])

    def test_ticks_are_round_and_hold_what_is_shown(self) -> None:
        cases = {
            (80.55, 85.5): [80, 81, 82, 83, 84, 85, 86],
            (0.0, 1.0): [0, 0.2, 0.4, 0.6, 0.8, 1.0],
            (-3.0, 4.0): [-4, -2, 0, 2, 4],
            (0.29, 0.31): [0.29, 0.295, 0.3, 0.305, 0.31],
            (7.0, 7.0): [6, 8],
            (0.0, 0.0): [0, 0.2],
            (1234.0, 5678.0): [1000, 2000, 3000, 4000, 5000, 6000],
        }
        for (low, high), wanted in cases.items():
            with self.subTest(low=low, high=high):
                ticks = axis_ticks(low, high)
                self.assertEqual(ticks, wanted)
                self.assertTrue(ticks[0] <= low <= high <= ticks[-1])
