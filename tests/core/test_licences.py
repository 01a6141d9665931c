"""What may be passed on, and what must be kept back."""

from __future__ import annotations

import unittest
from typing import Any

from glenhail.core.articles.licences import (
    LICENCES,
    NO_TERMS,
    NOT_CHANGED,
    NOT_PASSED_ON,
    OWN_TERMS,
    Terms,
    licences_table,
    why_kept_back,
)

CC0 = Terms("CC0-1.0", "the mill", "its museum")
# What the deeds of the licences say; SPDX licence list for the identifiers.
CASES = [
    ("everything told", CC0, None, ""),
    ("an output of it", CC0, Terms(), ""),
    ("no licence", Terms("", "the mill", "its museum"), None, NO_TERMS),
    ("no source", Terms("CC0-1.0", " ", "its museum"), None, NO_TERMS),
    ("no credit", Terms("CC-BY-4.0", "the mill", ""), Terms(), NO_TERMS),
    ("a licence that nobody knows", Terms("MIT-ish", "a", "b"), None, NO_TERMS),
    ("only shown", Terms("LicenseRef-shown", "a", "b"), None, NOT_PASSED_ON),
    ("made from what is only shown", Terms("LicenseRef-shown", "a", "b"), Terms(), NOT_PASSED_ON),
    ("unchanged", Terms("CC-BY-ND-4.0", "a", "b"), None, ""),
    ("changed, where it may not be", Terms("CC-BY-ND-4.0", "a", "b"), Terms(), NOT_CHANGED),
    ("an output that is only shown", CC0, Terms("LicenseRef-shown"), NOT_PASSED_ON),
    ("alike", Terms("CC-BY-SA-4.0", "a", "b"), Terms("CC-BY-SA-4.0", "c", "d"), ""),
    ("an output told in part", CC0, Terms("CC-BY-4.0", "its maker", ""), OWN_TERMS),
    ("an output without a licence", CC0, Terms("", "its maker", "its maker"), OWN_TERMS),
]


class KeptBack(unittest.TestCase):
    def test_what_may_not_be_passed_on_is_kept_back(self) -> None:
        for name, frame, own, wanted in CASES:
            with self.subTest(name):
                self.assertEqual(why_kept_back(frame, own), wanted)

    def test_each_set_of_terms_is_told_once_with_what_it_is_of(self) -> None:
        other = Terms("CC-BY-4.0", "a friend", "a friend").as_json()
        frames = [
            {"name": n, "terms": t} for n, t in (("Loom", CC0.as_json()), ("Shed", CC0.as_json()))
        ]
        none = [{"letter": "A", "terms": None}]

        def told(
            frames: list[dict[str, Any]], contenders: list[dict[str, Any]] = none
        ) -> list[str]:
            return [
                f"{row['of']}: {row['licence']}"
                for row in licences_table({"frames": frames, "contenders": contenders})
            ]

        self.assertEqual(told(frames), ["All frames, and what was made from them: CC0-1.0"])
        self.assertEqual(told(frames[:1]), ["Loom, and what was made from it: CC0-1.0"])
        self.assertEqual(
            told([*frames, {"name": "Yard", "terms": other}], [{"letter": "B", "terms": other}]),
            [
                "Loom, Shed, and what was made from them: CC0-1.0",
                "Yard, and what was made from it: CC-BY-4.0",
                "Outputs of B as well: CC-BY-4.0",
            ],
        )
        self.assertEqual(told([{"name": "Loom"}], [{"letter": "A"}]), [])

    def test_no_licence_without_derivatives_lets_outputs_out(self) -> None:
        for licence in LICENCES.values():
            with self.subTest(licence.id):
                self.assertEqual(licence.changed, "ND" not in licence.id.split("-"))
                told = Terms(licence.id, "a", "b").as_json()
                self.assertEqual(told["title"], licence.title)
                if licence.id.startswith("CC"):
                    self.assertTrue(told["address"].endswith("/"))
