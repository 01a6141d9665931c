"""What a site tells of editions, and gathers of tools and bodies."""

from __future__ import annotations

import json
import unittest
from typing import Any

from glenhail.core.articles.about import MOST_FOUND, about, addresses, bodies_of, tools_of, unknown
from glenhail.core.articles.dates import day, minute
from glenhail.core.articles.licences import Terms
from glenhail.core.articles.linked import linked


def contender(letter: str, *tools: tuple[str, str]) -> dict[str, Any]:
    return {
        "letter": letter,
        "title": " then ".join(f"{t} {r}" for t, r in tools) or "Unprocessed",
        "manner": "strength 60 %",
        "colour": "#123456",
        "tools": [{"tool": t, "release": r} for t, r in tools],
    }


def document(**changed: Any) -> dict[str, Any]:
    rows = [{"measure": "Detail kept", "cells": [{"value": 1}]}, {"measure": "PSNR", "cells": []}]
    told = {
        "question": "Which keeps threads?",
        "bench": "Mill",
        "factor": "tool",
        "number": 2,
        "published": "2026-11-27T12:00:00+00:00",
        "summary": "B does.",
        "note": "",
        "verdicts": [{"use": "print", "text": "B."}],
        "sections": [
            {"about": "Texture", "answer": {"text": "B, then A."}},
            {"about": "Edges", "answer": None},
        ],
        "lead": 0,
        "measures": [],
        "succession": [{"later": "B", "earlier": "A", "text": "Better.", "rows": []}],
        "patches": [
            {
                "name": "Cloth",
                "frame": "Loom table",
                "role": "texture",
                "table": rows,
                "crops": [
                    {"letter": c, "file": f"crops/{c}.png", "small": "small/B.png" * (c == "B")}
                    for c in "TABC"
                ],
            }
        ],
        "contenders": [
            contender("U"),
            contender("A", ("Sedgewash", "3.0")),
            contender("B", ("Sedgewash", "3.1"), ("Keenfold", "5")),
        ],
        "findings": [
            {
                "letter": "A",
                "sentences": [{"mark": "+", "text": f"Keeps {n}"} for n in range(MOST_FOUND + 3)],
            }
        ],
        "frames": [
            {"name": "Loom", "facts": {"camera": "Corvane Quill 24", "iso": 100}, "scene": "Hall"},
            {"name": "Sheet", "facts": {}, "scene": ""},
        ],
    }
    return {**told, **changed}


class About(unittest.TestCase):
    def test_an_edition_is_told_with_its_first_crops_answers_and_what_was_measured(self) -> None:
        told = about(document())
        self.assertEqual(told["answers"], [{"about": "Texture", "text": "B, then A."}])
        files = [c["file"] for c in told["crops"]]
        self.assertEqual(files, ["crops/T.png", "crops/A.png", "small/B.png"])
        self.assertEqual(told["measures"], ["Detail kept"])
        self.assertEqual([len(c["found"]) for c in told["contenders"]], [0, MOST_FOUND, 0])
        self.assertEqual(json.loads(json.dumps(told)), told)

    def test_without_a_lead_there_are_no_crops(self) -> None:
        self.assertEqual(about(document(lead=None))["crops"], [])

    def test_what_is_unknown_of_an_old_edition_is_there_and_empty(self) -> None:
        known = about(document())
        old = unknown("Which?", "Mill")
        self.assertEqual(set(known) - set(old), {"number", "published"})
        self.assertEqual(tools_of([old]) + bodies_of([old]), [])

    def test_a_tool_gathers_its_contenders_once_each_and_its_releases(self) -> None:
        newer, older = about(document()), about(document(number=1))
        found = tools_of([newer, older])
        self.assertEqual(
            [(s.name, s.address) for s in found],
            [("Keenfold", "keenfold"), ("Sedgewash", "sedgewash")],
        )
        washed = found[1]
        self.assertEqual(washed.releases, ("3.0", "3.1"))
        letters = [[c["letter"] for c in m.contenders] for m in washed.mentions]
        self.assertEqual(letters, [["A", "B"], ["A", "B"]])

    def test_a_body_gathers_its_frames_and_frames_without_one_are_none_s(self) -> None:
        (found,) = bodies_of([about(document())])
        self.assertEqual(found.name, "Corvane Quill 24")
        self.assertEqual([f["name"] for f in found.mentions[0].frames], ["Loom"])

    def test_addresses_are_plain_and_none_stands_twice(self) -> None:
        cases = {
            ("Sedgewash",): ["sedgewash"],
            ("Café/../Net", "cafe net"): ["cafe-net", "cafe-net-2"],
            ("織", "¿?"): ["other", "other-2"],
            ("a", "a-2", "A"): ["a", "a-2", "a-3"],
            ("x" * 99,): ["x" * 60],
        }
        for names, wanted in cases.items():
            with self.subTest(names=names):
                self.assertEqual(addresses(names), wanted)

    def test_dates_are_told_in_one_form(self) -> None:
        from datetime import datetime, timedelta, timezone

        self.assertEqual(day("2026-11-07T00:30:00+02:00"), "7 Nov 2026")
        there = datetime(2026, 12, 3, 1, 5, tzinfo=timezone(timedelta(hours=2)))
        self.assertEqual(minute(there), "2 Dec 2026, 23:05 UTC")


# Properties by type as schema.org has them (from memory; own ones and Thing's).
THING = {"@type", "name", "description", "url"}
WORK = THING | {
    "datePublished",
    "inLanguage",
    "version",
    "author",
    "creator",
    "license",
    "creditText",
}
TERMS = {
    "Review": WORK | {"reviewBody", "itemReviewed"},
    "Dataset": WORK | {"variableMeasured", "distribution"},
    "DataDownload": WORK | {"encodingFormat", "contentUrl"},
    "SoftwareApplication": WORK | {"softwareVersion"},
    "Organization": THING,
}


class Linked(unittest.TestCase):
    def nodes(self, value: Any) -> list[dict[str, Any]]:
        if isinstance(value, list):
            return [n for v in value for n in self.nodes(v)]
        if not isinstance(value, dict):
            return []
        own = [value] if "@type" in value else []
        return own + [n for v in value.values() for n in self.nodes(v)]

    def test_every_property_is_one_of_its_type(self) -> None:
        told = linked(document(), "https://bench.example/reports/a/2/")
        self.assertEqual(told["@context"], "https://schema.org")
        nodes = self.nodes(told)
        self.assertEqual({n["@type"] for n in nodes}, set(TERMS))
        for node in nodes:
            with self.subTest(node["@type"]):
                self.assertLessEqual(set(node), TERMS[node["@type"]])

    def test_each_release_is_reviewed_once_and_files_lie_beside_the_page(self) -> None:
        review, readings = linked(document(), "")["@graph"]
        tools = [(t["name"], t["softwareVersion"]) for t in review["itemReviewed"]]
        self.assertEqual(tools, [("Sedgewash", "3.0"), ("Sedgewash", "3.1"), ("Keenfold", "5")])
        files = [d["contentUrl"] for d in readings["distribution"]]
        self.assertEqual(files, ["readings.csv", "edition.json", "everything.zip"])
        self.assertNotIn("url", review)

    def test_a_licence_is_told_where_all_files_have_the_same(self) -> None:
        one, other = (
            Terms(x, "the mill", "its museum").as_json() for x in ("CC0-1.0", "CC-BY-4.0")
        )
        none = Terms().as_json()
        for terms, own, wanted in (
            ([one, one], None, one["address"]),
            ([one, other], None, None),
            ([one], other, None),
            ([none], None, None),
            ([], None, None),
        ):
            with self.subTest(terms=terms, own=own):
                told = document(
                    frames=[{"name": "x", "terms": t} for t in terms],
                    contenders=[{**contender("U"), "terms": own}],
                )
                readings = linked(told, "")["@graph"][1]
                self.assertEqual(readings.get("license"), wanted)
                self.assertEqual("creditText" in readings, wanted is not None)
