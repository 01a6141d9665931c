"""Sharpness at one level: an unsharp mask put in is found again, and what it costs told."""

from __future__ import annotations

import contextlib
import io
import json
import math
import tempfile
import unittest
from collections.abc import Sequence
from functools import cache
from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from glenhail.core.__main__ import main
from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.level.grid import ratio_of
from glenhail.core.level.unsharp_fit import RatioCurve, UnsharpFit, fit_unsharp, transfer
from glenhail.core.level.way import LevelPair, Way, level_pair
from glenhail.core.level.ways import brought
from glenhail.core.measures.catalogue import Patch
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Floats, Rect
from tests.core.lying import laid_as_they_are
from tests.pictures import photograph, picture


@cache
def scene() -> Floats:
    """A photograph with a plain place, of little contrast: sharpened threefold, little of it
    is cut off.
    """
    encoded = srgb.encode(photograph("china")[:384, :400])
    encoded[10:130, 10:190] = 0.6
    return srgb.decode(np.float32(0.5) + np.float32(0.35) * (encoded - np.float32(0.5)))


def soft(noise: float = 0.0) -> Floats:
    """The scene out of focus, encoded noise of so much of white upon it."""
    blurred = cv2.GaussianBlur(srgb.encode(scene()), (0, 0), 1.0)
    grain = np.random.default_rng(3).normal(0, noise, blurred.shape).astype(np.float32)
    return srgb.decode(np.clip(blurred + grain, 0, 1))


def sharpened(of: Floats, reach: float, gain: float) -> Floats:
    values = {"gain": gain, "reach": reach, "floor": 0, "on": "luma"}
    return np.clip(treat(of, "unsharp", values), 0, 1).astype(np.float32)


def pair_of(
    one: Floats,
    other: Floats,
    patches: Sequence[Patch] = (),
    source: Floats | None = None,
    truth: Floats | None = None,
) -> LevelPair:
    """Both with the scene as their frame and as its truth, unless others are told."""
    frame, known = (picture(scene() if p is None else p) for p in (source, truth))
    return level_pair(frame, picture(one), picture(other), known, patches)


class Fits(unittest.TestCase):
    def setUp(self) -> None:
        laid_as_they_are(self)

    def found(self, reach: float, gain: float, noise: float) -> UnsharpFit:
        one = soft(noise)
        other = sharpened(one, reach, gain)
        return fit_unsharp(ratio_of(pair_of(one, other)))

    def test_what_was_put_in_is_found_again(self) -> None:
        # Without noise and with noise of 40 dB: radius within a tenth, amount within a twentieth.
        ends = [(r, g, n) for r in (0.7, 5.0) for g in (0.3, 3.0) for n in (0.0, 0.01)]
        for reach, gain, noise in (*ends, (1.5, 1.0, 0.01)):
            with self.subTest(reach=reach, gain=gain, noise=noise):
                found = self.found(reach, gain, noise)
                self.assertAlmostEqual(found.best.reach / reach, 1, delta=0.1)
                self.assertAlmostEqual(found.best.gain / gain, 1, delta=0.05)
                self.assertTrue(found.reached)

    def curve(self, reach: float, gain: float, error: float = 0.0) -> RatioCurve:
        f = np.linspace(0.02, 0.45, 40)
        ratio = transfer(reach, gain, f)
        rng = np.random.default_rng(1)
        parts = ratio + error * rng.normal(size=(16, f.size))
        return RatioCurve(f, ratio, parts)

    def test_the_transfer_is_one_at_rest_and_the_closed_form_of_a_gaussian(self) -> None:
        f = np.array([0.0, 0.05, 0.1, 0.2])
        want = 1 + 1.5 * (1 - np.exp(-2 * (math.pi * 2.0 * f) ** 2))
        self.assertLess(float(np.abs(transfer(2.0, 1.5, f) - want).max()), 0.005)

    def test_a_curve_is_fitted_and_pairs_that_do_as_well_lie_about_it(self) -> None:
        exact = fit_unsharp(self.curve(1.3, 0.8))
        self.assertAlmostEqual(exact.best.reach, 1.3, delta=0.01)
        self.assertAlmostEqual(exact.best.gain, 0.8, delta=0.01)
        vague = fit_unsharp(self.curve(0.8, 0.2, 0.02))
        self.assertGreater(len(vague.valley), len(exact.valley))
        # Smaller radii take larger amounts: a valley, not a spot.
        gains = [p.gain for p in vague.valley]
        self.assertEqual(gains, sorted(gains, reverse=True))
        self.assertTrue(vague.reach.low <= vague.best.reach <= vague.reach.high)

    def test_no_more_is_asked_of_a_mask_than_the_bench_has(self) -> None:
        found = fit_unsharp(self.curve(1.3, 9.0))
        self.assertLessEqual(found.best.gain, 6.0)
        self.assertFalse(found.reached)

    def test_a_curve_of_next_to_nothing_is_refused(self) -> None:
        f = np.array([0.01, 0.03, 0.06])
        with self.assertRaises(NotMeasurable):
            fit_unsharp(RatioCurve(f, f + 1, np.tile(f + 1, (16, 1))))

    def test_what_no_mask_reaches_is_told(self) -> None:
        f = np.linspace(0.02, 0.45, 40)
        bump = 1 + np.exp(-(((f - 0.2) / 0.03) ** 2)) * 2
        found = fit_unsharp(RatioCurve(f, bump, np.repeat(bump[None], 16, axis=0)))
        self.assertFalse(found.reached)


class Matches(unittest.TestCase):
    def setUp(self) -> None:
        laid_as_they_are(self)

    def test_a_slider_does_it_where_a_slider_made_it(self) -> None:
        one = soft(0.01)
        height, width = one.shape[:2]
        plain = Patch("Sky", "flat", Rect(40, 30, 120, 80))
        inner = Patch("Roof", "texture", Rect(width // 3, height // 3, 160, 120))
        other = sharpened(one, 1.2, 1.0)
        found = brought(Way.SHARPNESS, pair_of(one, other, [plain, inner]))
        self.assertRegex(found.said, r"radius 1\.[123] px and amount (9|10)\d %.*a slider does it")
        noise = next(r for r in found.readings if (r.measure, r.patch) == ("noise_luma", "Sky"))
        assert noise.before is not None
        assert noise.made is not None
        assert noise.other is not None
        self.assertGreater(noise.made, 1.3 * noise.before)
        self.assertAlmostEqual(noise.made / noise.other, 1, delta=0.05)

    def test_a_cleaner_one_of_the_same_sharpness_is_worth_its_method(self) -> None:
        one, other = soft(0.01), sharpened(soft(0.002), 1.2, 1.0)
        plain = Patch("Sky", "flat", Rect(40, 30, 120, 80))
        found = brought(Way.SHARPNESS, pair_of(one, other, [plain], source=one))
        self.assertIn("% noisier: B's method is worth it.", found.said)

    def test_what_is_as_sharp_is_left_alone(self) -> None:
        one = soft()
        found = brought(Way.SHARPNESS, pair_of(one, one))
        self.assertEqual(found.sought.method, "")
        self.assertIn("as sharp as B, or sharper", found.said)
        back = brought(Way.SHARPNESS, pair_of(sharpened(one, 1.2, 1.0), one))
        self.assertEqual(back.sought.method, "")

    def test_without_structure_there_is_nothing_to_tell_by(self) -> None:
        even = np.full((300, 300, 3), 0.3, dtype=np.float32)
        with self.assertRaises(Exception) as raised:
            ratio_of(pair_of(even, even, source=even, truth=even))
        self.assertNotIsInstance(raised.exception, ZeroDivisionError)

    def test_too_small_a_picture_says_so(self) -> None:
        small = scene()[100:140, 100:140]
        with self.assertRaises(NotMeasurable):
            ratio_of(pair_of(small, small, source=small, truth=small))


class Command(unittest.TestCase):
    def test_files_are_matched_and_the_sharpened_one_kept(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        one = soft(0.005)
        pictures = {"source": soft(), "one": one, "other": sharpened(one, 1.2, 1.0)}
        for name, pixels in pictures.items():
            Image.fromarray(srgb.to_display(pixels)).save(folder / f"{name}.png")
        files = [str(folder / f"{n}.png") for n in ("one", "other")]
        asked = [*files, "--source", str(folder / "source.png"), "--patch", "Sky:flat:40,30,120,80"]

        def run_it(*more: str) -> tuple[int, str]:
            out = io.StringIO()
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(out):
                return main(["match", *asked, *more]), out.getvalue()

        code, text = run_it("--json", "--made", str(folder / "made.png"))
        self.assertEqual(code, 0, text)
        whole = json.loads(text)
        self.assertAlmostEqual(whole["numbers"]["fit"]["best"]["reach"], 1.2, delta=0.15)
        self.assertTrue((folder / "made.png").stat().st_size)
        code, text = run_it()
        self.assertIn("one.png is as sharp as other.png", text)
        self.assertRegex(text, r"Sky, noise_luma .*: .*, made .*; other.png")
        code, text = run_it("--patch", "Far:flat:20000,20,120,80")
        self.assertEqual(code, 2, text)
