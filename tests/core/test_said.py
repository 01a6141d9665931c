"""What a program and a file say of themselves: read whatever bytes they are made of."""

from __future__ import annotations

import json
import tempfile
import unittest
from fractions import Fraction
from pathlib import Path
from typing import Any

from PIL.TiffImagePlugin import IFDRational

from glenhail.core.execution.stdout import MOST_CHARACTERS, StdoutReport, ends_of, told_by
from glenhail.core.files import exif


class Programs(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "stdout"

    def told(self, *lines: str | bytes) -> StdoutReport:
        made = [line if isinstance(line, bytes) else line.encode() for line in lines]
        self.path.write_bytes(b"\n".join(made))
        return told_by(self.path)

    def test_times_add_up_and_the_last_progress_counts(self) -> None:
        found = self.told(
            '{"load_s": 0.5, "progress": 0.1}',
            "loading the model",
            '{"process_s": 2, "progress": 0.6}',
            '{"process_s": 1.5, "export_s": 0.25}',
        )
        self.assertEqual(found, StdoutReport(0.5, 3.5, 0.25, 0.6))
        self.assertEqual(self.told('{"progress": 7}').progress, 1.0)

    def test_what_makes_no_sense_is_passed_over(self) -> None:
        strange: tuple[str | bytes, ...] = (
            "",
            "{",
            "[" * 100_000,
            '{"a":' * 50_000,
            '{"load_s": "fast"}',
            '{"load_s": true}',
            '{"load_s": -1}',
            '{"load_s": NaN}',
            '{"load_s": Infinity}',
            '{"load_s": 1e300}',
            '{"load_s": null, "progress": []}',
            '["load_s", 1]',
            ' {"load_s": 1}',
            b"\xff\xfe{\x00",
            b'{"load_s": 1\xff}',
        )
        for line in strange:
            with self.subTest(line=line[:30]):
                self.assertEqual(self.told(line), StdoutReport())
        self.assertEqual(self.told(*strange, '{"load_s": 3}'), StdoutReport(load_s=3.0))

    def test_of_endless_output_the_end_is_read(self) -> None:
        report = json.dumps({"export_s": 4})
        found = self.told(*["x" * 100] * 20_000, report)
        self.assertEqual(found, StdoutReport(export_s=4.0))

    def test_one_that_said_nothing_said_nothing(self) -> None:
        self.assertEqual(told_by(self.path), StdoutReport())
        self.assertEqual(ends_of(self.path, 5), "")

    def test_last_words_are_the_last_lines_and_text_alone(self) -> None:
        self.path.write_bytes(
            b"one\n\n\x1b[31mtwo\x1b[0m\r\nthree \x00\x07\n\xff four\n" + "fi\u202eve".encode()
        )
        self.assertEqual(ends_of(self.path, 2), "· four\nfive")
        self.assertEqual(ends_of(self.path, 3), "three\n· four\nfive")
        self.assertEqual(ends_of(self.path, 9).splitlines()[:2], ["one", "[31mtwo[0m"])
        self.path.write_text("x" * 3 * MOST_CHARACTERS)
        self.assertEqual(len(ends_of(self.path, 5)), MOST_CHARACTERS)


class Tags(unittest.TestCase):
    def test_numbers_come_in_all_the_shapes_that_readers_give(self) -> None:
        cases: tuple[tuple[Any, float | None], ...] = (
            (3, 3.0),
            (2.5, 2.5),
            ((1, 125), 0.008),
            ([(1, 4), (1, 2)], 0.25),
            (IFDRational(1, 3), 1 / 3),
            (Fraction(7, 2), 3.5),
            ((100, 200), 0.5),
            ([800], 800.0),
            (None, None),
            ("f/4", None),
            ((1, 0), None),
            (IFDRational(1, 0), None),
            (float("nan"), None),
            (float("inf"), None),
            ([], None),
            ([[[]]], None),
            (10**400, None),
            (b"\x01", None),
        )
        for value, wanted in cases:
            with self.subTest(value=value):
                found = exif.number(value)
                if wanted is None:
                    self.assertIsNone(found)
                else:
                    assert found is not None
                    self.assertAlmostEqual(found, wanted)

    def test_texts_are_printable_and_short_or_none(self) -> None:
        cases: tuple[tuple[Any, str | None], ...] = (
            ("Corvane", "Corvane"),
            ("  Quill 24 \x00\x00", "Quill 24"),
            (b"Lull Two\x00", "Lull Two"),
            ("", None),
            ("\x00\x00", None),
            (None, None),
            (7, None),
        )
        for value, wanted in cases:
            with self.subTest(value=value):
                self.assertEqual(exif.text(value), wanted)
        long = exif.text("x" * 10_000)
        assert long is not None
        self.assertLess(len(long), 300)

    def test_a_body_is_named_without_saying_its_maker_twice(self) -> None:
        cases = (
            ("Corvane", "Quill 24", "Corvane Quill 24"),
            ("CORVANE", "Corvane Quill 24", "Corvane Quill 24"),
            ("", "Lull Two", "Lull Two"),
            ("Corvane", "", "Corvane"),
        )
        for make, model, wanted in cases:
            with self.subTest(wanted):
                tags = {exif.MAKE: make, exif.MODEL: model}
                self.assertEqual(exif.camera(tags), wanted)
        self.assertIsNone(exif.camera({}))

    def test_an_orientation_that_does_not_exist_is_upright(self) -> None:
        cases = ((1, 1), (8, 8), (0, 1), (9, 1), (6.0, 6), (2.5, 1), ("left", 1), (None, 1))
        for value, wanted in cases:
            with self.subTest(value=value):
                self.assertEqual(exif.orientation({exif.ORIENTATION: value}), wanted)

    def test_a_resolution_counts_where_it_is_one(self) -> None:
        inch, cm = {exif.X_RESOLUTION: (300, 1)}, {exif.X_RESOLUTION: 118.11}
        self.assertEqual(exif.ppi(inch), 300)
        told = exif.ppi({**cm, exif.RESOLUTION_UNIT: exif.PER_CM})
        assert told is not None
        self.assertAlmostEqual(told, 300, places=0)
        for value in (0, 1, None, (1, 0)):
            self.assertIsNone(exif.ppi({exif.X_RESOLUTION: value}))

    def test_shooting_facts_that_make_no_sense_are_left_out(self) -> None:
        told = exif.shooting({exif.ISO: 0, exif.F_NUMBER: (0, 0), exif.DATE: "2026:03:14 11:20:05"})
        self.assertEqual((told["iso"], told["aperture"]), (None, None))
        self.assertEqual(told["taken"], "2026:03:14 11:20:05")
        # A file may give several ratings; two of them are no fraction.
        for ratings in ([12800, 0], (12800, 100), [12800], (12800,), 12800, "12800"):
            with self.subTest(ratings=ratings):
                self.assertEqual(exif.shooting({exif.ISO: ratings})["iso"], 12800)
        self.assertIsNone(exif.shooting({exif.ISO: []})["iso"])
