"""Known lights and edges: read, refused with the reason, scaled."""

from __future__ import annotations

import json
import unittest
from typing import Any

from glenhail.core.errors import BadFile
from glenhail.core.measures.landmarks import KnownEdge, Landmarks, Light, read_known

GOOD: dict[str, Any] = {
    "width": 200,
    "height": 100,
    "lights": [{"x": 10.5, "y": 20, "peak": 0.8}],
    "edges": [{"name": "sign", "x0": 100, "y0": 10, "x1": 93, "y1": 90}],
}


class Reading(unittest.TestCase):
    def test_what_was_written_is_read_back(self) -> None:
        known = read_known(json.dumps(GOOD).encode(), "marks.json")
        self.assertEqual(
            known,
            Landmarks(200, 100, (Light(10.5, 20, 0.8),), (KnownEdge("sign", 100, 10, 93, 90),)),
        )
        self.assertEqual(read_known(json.dumps(known.as_json()).encode(), "again.json"), known)

    def test_what_can_not_be_is_refused_with_the_files_name_and_the_reason(self) -> None:
        cases: dict[str, tuple[bytes, str]] = {
            "not JSON": (b"\x89PNG\r\n", "marks.json: no lights and edges"),
            "a list": (b"[]", "no lights and edges"),
            "no size": (json.dumps(GOOD | {"width": 0}).encode(), "at least 1 × 1 px"),
            "no width": (json.dumps({"height": 3}).encode(), "width is missing"),
            "outside": (
                json.dumps(GOOD | {"lights": [{"x": 201, "y": 1, "peak": 1}]}).encode(),
                "lies outside the picture",
            ),
            "not finite": (
                json.dumps(GOOD | {"lights": [{"x": float("nan"), "y": 1, "peak": 1}]}).encode(),
                "is no number",
            ),
            "no length": (
                json.dumps(
                    GOOD | {"edges": [{"name": "e", "x0": 1, "y0": 1, "x1": 1, "y1": 1}]}
                ).encode(),
                "has no length",
            ),
            "too deep": (b"[" * 100_000, "no lights and edges"),
            "too many": (
                json.dumps(GOOD | {"lights": [GOOD["lights"][0]] * 10_001}).encode(),
                "at most 10,000 marks",
            ),
        }
        for name, (raw, words) in cases.items():
            with self.subTest(name), self.assertRaisesRegex(BadFile, words):
                read_known(raw, "marks.json")

    def test_angles_are_told_from_the_nearer_axis(self) -> None:
        # By hand: tan 5 deg = 0.087489.
        for (x1, y1), angle in {
            (100, 8.7489): 5,
            (100, -8.7489): -5,
            (-8.7489, 100): 5,
            (8.7489, 100): -5,
            (0, 50): 0,
        }.items():
            self.assertAlmostEqual(KnownEdge("e", 0, 0, x1, y1).angle, angle, delta=1e-4)

    def test_marks_keep_their_places_in_a_picture_of_another_size(self) -> None:
        known = read_known(json.dumps(GOOD).encode(), "marks.json").sized(400, 200)
        self.assertEqual((known.lights[0].x, known.lights[0].y), (21, 40))
        self.assertAlmostEqual(known.edges[0].angle, KnownEdge("e", 100, 10, 93, 90).angle)
