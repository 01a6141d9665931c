"""A build held against its last release: rules as they are written, what was made worse on
purpose is found, and what can not be told is no pass.
"""

from __future__ import annotations

import contextlib
import io
import json
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory
from xml.etree import ElementTree

from glenhail.core.__main__ import main
from glenhail.core.errors import BadRequest
from glenhail.core.files.encoding import write_tiff
from glenhail.core.gate.held import BoundHeld, Outcome, untold
from glenhail.core.gate.junit import junit
from glenhail.core.gate.rules import Bound, parse_bound
from tests.core.test_levels import ROOF, SKY, done, noisy, scene

PATCHES = [
    f"{p.name}:{p.role}:{p.rect.x:g},{p.rect.y:g},{p.rect.w:g},{p.rect.h:g}" for p in (SKY, ROOF)
]


class Bounds(unittest.TestCase):
    def test_each_is_read_as_it_is_written(self) -> None:
        for text, bound in (
            ("noise_luma <= 1.5", Bound("noise_luma", False, 1.5)),
            (" detail_kept>=0.9 of last ", Bound("detail_kept", True, 0.9, True)),
            (
                "detail_kept >= .9 of last at equal noise",
                Bound("detail_kept", True, 0.9, True, True),
            ),
            ("overshoot @ Left edge <= 4e0", Bound("overshoot", False, 4.0, patch="Left edge")),
            ("psnr >= 30", Bound("psnr", True, 30.0)),
        ):
            with self.subTest(text):
                self.assertEqual(parse_bound(text), bound)
                self.assertEqual(parse_bound(str(bound)), bound)

    def test_what_can_not_be_meant_says_why(self) -> None:
        for text, words in (
            ("", "write it as"),
            ("detail_kept > 0.9", "write it as"),
            ("detail_kept >= 0.9 of first", "write it as"),
            ("detail_kept >= 1e999", "too large"),
            ("taste >= 1", "no measure 'taste'"),
            ("psnr >= 0.9 of last", "dB"),
            ("detail_kept >= 0 of last", "above 0"),
            ("psnr >= 30 at equal noise", "at equal noise these are told"),
        ):
            with self.subTest(text), self.assertRaisesRegex(BadRequest, words):
                parse_bound(text)

    def test_limits_are_of_the_last_one_or_stand_alone(self) -> None:
        relative, alone = (parse_bound(f"overshoot <= 1.1{of}") for of in (" of last", ""))
        for bound, last, limit in (
            (relative, 10.0, 11.0),
            (relative, -2.0, 0.0),  # where the last one had none, so has to have the new one
            (relative, None, None),
            (alone, None, 1.1),
        ):
            with self.subTest(bound=bound, last=last):
                found = bound.limit(last)
                self.assertEqual(found if found is None else round(found, 9), limit)


class Told(unittest.TestCase):
    def test_build_servers_are_told_each_case_whatever_its_name(self) -> None:
        bound = parse_bound("noise_luma <= 1")
        found = [
            BoundHeld(bound, "a<b.tif", "Sky", Outcome.HELD, 0.5, 0.6, 1.0),
            BoundHeld(bound, "nul\0\x1b.tif", "Sky", Outcome.BROKEN, why='2 & "more"'),
            *untold([bound, parse_bound("mtf50 >= 0.2")], [BoundHeld(bound, "", "", Outcome.HELD)]),
        ]
        suite = ElementTree.fromstring(junit(found, 1.25))
        self.assertEqual([suite.get(k) for k in ("tests", "failures", "errors")], ["3", "1", "1"])
        cases = suite.findall("testcase")
        self.assertEqual([c.get("classname") for c in cases[:2]], ["a<b.tif", "nul��.tif"])
        failure = cases[1].find("failure")
        assert failure is not None
        self.assertEqual(failure.get("message"), '2 & "more"')
        error = cases[2].find("error")
        assert error is not None
        self.assertIn("no frame has a place", str(error.get("message")))


class CommandLine(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(TemporaryDirectory()))
        for name, pixels in (
            ("frame", noisy()),
            ("truth", scene()),
            ("last", done(noisy(), "guided", radius=4, variance=0.0005)),
            ("as-good", done(noisy(), "guided", radius=4, variance=0.0006)),
            ("blurred", done(noisy(), "gaussian", luma=2.5, colour=2.5)),
        ):
            write_tiff(self.folder / f"{name}.tif", pixels)

    def gate(self, new: str, *rules: str, more: str = "") -> tuple[int, str]:
        file = self.folder / "gate.toml"
        file.write_text(
            f"rules = {json.dumps(rules)}\n[[frame]]\nsource = 'frame.tif'\ntruth = 'truth.tif'\n"
            f"new = '{new}.tif'\nlast = 'last.tif'\npatches = {json.dumps(PATCHES)}\n{more}"
        )
        said = io.StringIO()
        with contextlib.redirect_stdout(said), contextlib.redirect_stderr(said):
            code = main(["gate", str(file), "--junit", str(self.folder / "out.xml")])
        return code, said.getvalue()

    def test_a_build_as_good_passes_and_one_made_worse_is_told_where_and_by_how_much(self) -> None:
        rules = "detail_kept >= 0.9 of last at equal noise", "noise_luma @ Sky <= 3"
        code, said = self.gate("as-good", *rules)
        self.assertEqual((code, said), (0, "2 held, 0 broken, 0 not told\n"))
        code, said = self.gate("blurred", *rules)
        self.assertEqual(code, 1, said)
        self.assertRegex(
            said,
            r"broken: detail_kept >= 0\.9 of last at equal noise, frame\.tif, Roof: [0-9.]+, at"
            r" least [0-9.]+ is wanted \(the last one has [0-9.]+\)\n1 held, 1 broken",
        )
        suite = ElementTree.parse(self.folder / "out.xml").getroot()
        self.assertEqual(suite.get("failures"), "1")

    def test_what_can_not_be_told_is_no_pass(self) -> None:
        for new, rule, words in (
            ("as-good", "mtf50 >= 0.1", "no frame has a place that tells it"),
            ("as-good", "noise_luma @ Moon <= 9", "no frame has a place that tells it"),
            ("gone", "noise_luma <= 9", "No such file"),
            ("turned", "noise_luma <= 9", "not told"),
        ):
            write_tiff(self.folder / "turned.tif", 1 - scene()[::-1, ::-1])
            with self.subTest(new=new, rule=rule):
                code, said = self.gate(new, rule)
                self.assertEqual(code, 1, said)
                self.assertIn(words, said)

    def test_a_file_that_is_not_right_ends_with_2_and_says_what_is_wrong(self) -> None:
        for rules, more, words in (
            ((), "", "rules is a list"),
            (("noise_luma < 1",), "", "write it as"),
            (("noise_luma <= 1",), "colour = 1", "not colour"),
            (("noise_luma <= 1",), "[[frame]]\nsource = 'a.tif'", "a path as its new"),
            (("noise_luma <= 1",), "[[frame", "no TOML"),
        ):
            with self.subTest(more=more, rules=rules):
                code, said = self.gate("as-good", *rules, more=more)
                self.assertEqual((code, said.count("\n")), (2, 1), said)
                self.assertIn("gate.toml", said)
                self.assertIn(words, said)
