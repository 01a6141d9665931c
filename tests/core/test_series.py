"""A question over time, and the headings under which readers look for editions."""

from __future__ import annotations

import unittest
from statistics import fmean
from typing import Any

from glenhail.core.articles.listings import by_month, by_question, by_release
from glenhail.core.articles.series import reached, series

NOISE = {"id": "noise_luma", "measure": "Noise, brightness", "unit": "%"}


def patch(name: str, role: str, rows: list[tuple[dict[str, str], str]]) -> dict[str, Any]:
    """A patch whose readings are written as "1.20 0.80 -", contender by contender."""
    table = [
        {
            **row,
            "cells": [
                {} if v == "-" else {"value": float(v) + 0.001, "text": v} for v in values.split()
            ],
        }
        for row, values in rows
    ]
    return {"name": name, "frame": "Loom table", "role": role, "table": table}


def edition(number: int, letters: str, *patches: dict[str, Any], **more: Any) -> dict[str, Any]:
    document = {
        "measures": [{"id": "noise_luma", "best": "lowest"}],
        "contenders": [{"letter": x} for x in letters],
        "patches": list(patches),
    }
    contenders = [{"letter": x, "title": f"{x} of {number}"} for x in letters]
    return {"number": number, "contenders": contenders, "reached": reached(document), **more}


def sky(values: str) -> dict[str, Any]:
    return patch("Sky", "flat", [(NOISE, values)])


def wall(values: str) -> dict[str, Any]:
    return patch("Wall", "shadow", [(NOISE, values)])


class Series(unittest.TestCase):
    def test_what_a_patch_s_type_is_for_is_told_of_it(self) -> None:
        detail = {"id": "detail_frame", "measure": "Detail against the frame", "unit": "%"}
        other = {"id": "ssim", "measure": "Similarity", "unit": ""}
        cases = [
            ("flat", [(other, "1 1"), (NOISE, "1.2 0.8")], "noise_luma"),
            # Without a truth there is what stands in for detail kept.
            ("texture", [(NOISE, "1 1"), (detail, "80 90")], "detail_frame"),
            ("texture", [(NOISE, "1 1")], None),
            ("edge", [], None),
            # Of earlier releases: words alone.
            ("flat", [({"measure": "Noise", "unit": "%"}, "1 1")], None),
        ]
        for role, rows, want in cases:
            with self.subTest(role=role, want=want):
                made = edition(1, "UA", patch("P", role, rows))["reached"]
                self.assertEqual([r["measure"] for r in made], [want] if want else [])
        (told,) = edition(1, "UAB", sky("1.20 0.80 -"), wall("2.00 - 1.50"))["reached"]
        self.assertEqual((told["best"], [p["at"] for p in told["places"]]), ("lowest", [0, 1]))
        self.assertEqual(set(told["places"][0]["values"]), {"U", "A"})

    def test_means_are_over_what_all_editions_have(self) -> None:
        first = edition(1, "UA", sky("1.20 0.80"), wall("2.00 1.50"))
        second = edition(2, "UAB", wall("2.00 1.40 1.10"), sky("1.20 0.80 0.60"))
        third = edition(3, "UAB", sky("1.20 - 0.55"))
        (table,) = series([first, second])["tables"]
        self.assertEqual((table["shared"], table["name"]), (2, NOISE["measure"]))
        rows = {r["letter"]: r["cells"] for r in table["rows"]}
        self.assertEqual(rows["A"][0], f"{fmean([0.801, 1.501]):.2f}")
        self.assertEqual(rows["A"][1], f"{fmean([0.801, 1.401]):.2f}")
        self.assertEqual(rows["B"], ["", f"{fmean([0.601, 1.101]):.2f}"])
        (table,) = series([first, second, third])["tables"]
        self.assertEqual(table["shared"], 1)
        rows = {r["letter"]: r["cells"] for r in table["rows"]}
        # A's reading is missing in the third: no mean of what is left is told.
        self.assertEqual(rows["A"], ["0.80", "0.80", ""])
        self.assertEqual(rows["B"], ["", "0.60", "0.55"])

    def test_patches_of_one_name_on_frames_of_one_name_stay_two(self) -> None:
        first = edition(1, "A", sky("1.00"), sky("3.00"))
        second = edition(2, "A", sky("2.00"), sky("4.00"))
        (table,) = series([first, second])["tables"]
        self.assertEqual(table["shared"], 2)
        self.assertEqual(table["rows"][0]["cells"], ["2.00", "3.00"])
        cells = [p["rows"][0]["cells"] for p in table["places"]]
        self.assertEqual(
            [[c["text"] for c in row] for row in cells], [["1.00", "2.00"], ["3.00", "4.00"]]
        )

    def test_every_reading_leads_to_its_own_edition(self) -> None:
        first = edition(1, "UA", sky("1.20 0.80"), wall("2.00 1.50"))
        second = edition(2, "UA", wall("2.00 1.40"))
        (table,) = series([first, second])["tables"]
        places = {p["patch"]: {r["letter"]: r["cells"] for r in p["rows"]} for p in table["places"]}
        self.assertEqual(places["Sky"]["A"], [{"text": "0.80", "at": 0}, None])
        self.assertEqual(
            places["Wall"]["A"], [{"text": "1.50", "at": 1}, {"text": "1.40", "at": 0}]
        )

    def test_without_a_common_patch_there_is_no_mean(self) -> None:
        (table,) = series([edition(1, "A", sky("1.0")), edition(2, "A", wall("2.0"))])["tables"]
        self.assertEqual((table["shared"], table["rows"]), (0, []))
        self.assertEqual([p["patch"] for p in table["places"]], ["Sky", "Wall"])

    def test_an_edition_says_who_is_new_in_it_and_names_are_the_newest(self) -> None:
        told = series([edition(1, "UA"), edition(2, "UB"), edition(3, "UAB")])
        self.assertEqual([e["new"] for e in told["editions"]], [[], ["B"], []])
        self.assertEqual(told["contenders"]["A"]["title"], "A of 3")
        self.assertEqual(told["tables"], [])
        # Nothing is known of what an earlier release printed.
        old = {k: v for k, v in edition(1, "UA").items() if k != "reached"}
        (table,) = series([old, edition(2, "UA", sky("1.0 2.0"))])["tables"]
        self.assertEqual({r["letter"]: r["cells"] for r in table["rows"]}["A"], ["", "2.0"])


def entry(slug: str, number: int, published: str, *tools: tuple[str, str]) -> dict[str, Any]:
    contenders = [{"tools": [{"tool": t, "release": r}]} for t, r in tools]
    told = {"question": slug.title(), "published": published, "contenders": contenders}
    return {"at": f"{slug}/{number}", "about": told}


class Listings(unittest.TestCase):
    ENTRIES = (
        entry("threads", 2, "2026-12-01T10:00:00+00:00", ("Sedgewash", "3.1"), ("Keenfold", "5")),
        entry("lamps", 1, "2026-11-27T10:00:00+00:00", ("Sedgewash", "3.0"), ("Sedgewash", "3.0")),
        entry("threads", 1, "2026-11-02T10:00:00+00:00", ("Sedgewash", "3.0"), ("keel", "")),
    )

    def test_each_heading_has_its_editions_the_newest_first(self) -> None:
        cases = [
            (by_month, [("Dec 2026", ["threads/2"]), ("Nov 2026", ["lamps/1", "threads/1"])]),
            (by_question, [("Lamps", ["lamps/1"]), ("Threads", ["threads/2", "threads/1"])]),
            (
                by_release,
                [
                    ("keel", ["threads/1"]),
                    ("Keenfold 5", ["threads/2"]),
                    ("Sedgewash 3.0", ["lamps/1", "threads/1"]),
                    ("Sedgewash 3.1", ["threads/2"]),
                ],
            ),
        ]
        for listed, want in cases:
            with self.subTest(listed=listed.__name__):
                groups = listed(self.ENTRIES)
                self.assertEqual(
                    [(g["name"], [e["at"] for e in g["entries"]]) for g in groups], want
                )
                self.assertEqual(listed(()), [])
        self.assertEqual(by_question(self.ENTRIES)[1]["at"], "threads/series.html")
