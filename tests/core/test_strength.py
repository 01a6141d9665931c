"""Strength series: blends are even, patches are not, and a setting's course is told as it
was put in.
"""

from __future__ import annotations

import contextlib
import io
import json
import tempfile
import unittest
from functools import cache
from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from glenhail.core.__main__ import main
from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest, NotMeasurable
from glenhail.core.interval import Interval
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Floats, Mapping, Rect
from glenhail.core.seeing.visible import Seen
from glenhail.core.strength.course import StrengthStep, course_of, course_said, pooled
from glenhail.core.strength.evenness import BLOCK, evenness, full_change
from glenhail.core.strength.matching import (
    MatchedSetting,
    NoiseStep,
    crossing,
    matched_said,
    matched_settings,
)
from glenhail.core.strength.noise_seen import noise_seen
from glenhail.core.strength.recognised import series_among
from glenhail.core.strength.series import strength_series
from glenhail.core.strength.shown import CELL, UNTOLD, shares_drawn
from glenhail.core.strength.summary import Advice, advice_said, advised, noise_steps
from glenhail.core.treatments.family import swept
from glenhail.core.treatments.step import Setting, Step, Treatment
from glenhail.core.uses.table import USES, print_of
from tests.pictures import photograph, picture

SIZE = (320, 480)


def rounded(linear: np.ndarray) -> Floats:
    """As an 8-bit file has it."""
    return srgb.decode(srgb.to_display(np.asarray(linear, np.float32)) / np.float32(255))


@cache
def pair() -> tuple[Floats, Floats]:
    """A noisy photograph with a plain half, and what a tool makes of it at full strength."""
    clean = srgb.encode(photograph("china")[: SIZE[0], : SIZE[1]])
    clean[:, :240] = 0.5
    grain = np.random.default_rng(5).normal(0, 0.04, clean.shape)
    noisy = rounded(srgb.decode(np.clip(clean + grain, 0, 1).astype(np.float32)))
    return noisy, rounded(treat(noisy, "gaussian", {"luma": 2, "colour": 3}))


def blended(share: float | np.ndarray, light: bool = False) -> Floats:
    noisy, full = pair()
    if light:
        return rounded(noisy + share * (full - noisy))
    one, two = srgb.encode(noisy), srgb.encode(full)
    return rounded(srgb.decode(np.asarray(one + share * (two - one), dtype=np.float32)))


def by_region(shares: list[float], side: int = 64) -> np.ndarray:
    """A share for each region of so many px, in turn at random."""
    rng = np.random.default_rng(2)
    small = rng.choice(shares, (SIZE[0] // side + 1, SIZE[1] // side + 1)).astype(np.float32)
    whole = cv2.resize(small, None, fx=side, fy=side, interpolation=cv2.INTER_NEAREST)
    return whole[: SIZE[0], : SIZE[1], None]


def step(setting: float, share: float, even: bool = True, **more: float | None) -> StrengthStep:
    told = {"cleaned": None, "untouched": None, **more}
    spread = 0.0 if even else 0.3
    return StrengthStep(setting, Interval(share, share, share), spread, even, **told)


class Evenness(unittest.TestCase):
    def test_a_blend_is_even_and_goes_as_far_as_was_put_in(self) -> None:
        full = full_change(*pair())
        for share, light in ((0.0, False), (0.2, False), (0.5, True), (0.8, True), (1.0, False)):
            with self.subTest(share=share, light=light):
                found = evenness(full, blended(share, light))
                self.assertTrue(found.even, found.spread)
                # Blended in light, the share is a little another one in codes.
                self.assertAlmostEqual(found.share.value, share, delta=0.03 if light else 0.01)

    def test_in_strong_noise_a_blend_in_light_is_even_too(self) -> None:
        clean = photograph("china")[: SIZE[0], : SIZE[1]]
        grain = np.random.default_rng(6).normal(0, 0.2, clean.shape)
        strong = rounded(srgb.decode(np.clip(srgb.encode(clean) + grain, 0, 1).astype(np.float32)))
        done = rounded(cv2.blur(strong, (5, 5)))
        full = full_change(strong, done)
        for share in (0.3, 0.7):
            with self.subTest(share=share):
                found = evenness(full, rounded(strong + np.float32(share) * (done - strong)))
                self.assertTrue(found.even, found.spread)
                # Light is brighter than codes: as a blend of these, it goes further.
                self.assertGreater(found.share.value, share)

    def test_all_or_nothing_by_place_is_told_with_its_parts(self) -> None:
        found = evenness(full_change(*pair()), blended(by_region([0.0, 1.0, 1.0])))
        self.assertFalse(found.even)
        self.assertGreater(found.spread, 0.3)
        told = by_region([0.0, 1.0, 1.0])[::BLOCK, ::BLOCK, 0]
        plain = told[:, : 240 // BLOCK]
        assert found.cleaned is not None and found.untouched is not None
        self.assertAlmostEqual(found.cleaned, float((plain == 1).mean()), delta=0.08)
        self.assertAlmostEqual(found.cleaned + found.untouched, 1.0, delta=0.08)
        drawn = shares_drawn(found.shares)
        self.assertEqual(drawn.shape, (SIZE[0] // BLOCK * CELL, SIZE[1] // BLOCK * CELL, 3))

    def test_spread_is_what_was_put_in(self) -> None:
        found = evenness(full_change(*pair()), blended(by_region([0.4, 0.6])))
        self.assertAlmostEqual(found.spread, 0.1, delta=0.015)

    def test_places_that_full_strength_leaves_alone_are_not_told(self) -> None:
        noisy, full = pair()
        part = full.copy()
        part[:, 240:] = noisy[:, 240:]
        found = evenness(full_change(noisy, part), part)
        self.assertTrue(np.isnan(found.shares[:, -1]).all())
        self.assertAlmostEqual(found.share.value, 1.0)
        self.assertTrue((shares_drawn(found.shares)[:, -1] == UNTOLD).any())

    def test_a_setting_that_leaves_luma_is_told_by_its_colours(self) -> None:
        noisy, _ = pair()
        tinted = noisy.copy()
        # As much light is taken from red as green gets, by their parts in luma.
        encoded = srgb.encode(noisy)
        encoded[..., 0] += 0.06
        encoded[..., 1] -= 0.06 * 0.2126 / 0.7152
        tinted = srgb.decode(encoded)
        full = full_change(noisy, tinted)
        self.assertFalse(full.luma)
        self.assertTrue(full_change(*pair()).luma)
        found = evenness(
            full, srgb.decode(srgb.encode(noisy) + np.float32(0.5) * (encoded - srgb.encode(noisy)))
        )
        self.assertAlmostEqual(found.share.value, 0.5, delta=0.02)

    def test_what_can_not_be_told_is_refused(self) -> None:
        noisy, full = pair()
        for given, error in (
            ((noisy, noisy), NotMeasurable),
            ((noisy, full[:-32]), BadRequest),
            ((noisy[:20], full[:20]), BadRequest),
        ):
            with self.subTest(error=error), self.assertRaises(error):
                full_change(*given)
        with self.assertRaises(BadRequest):
            evenness(full_change(noisy, full), full[:-32])


class Course(unittest.TestCase):
    def test_what_was_put_in_is_told(self) -> None:
        for name, steps, words in (
            (
                "dead range",
                [step(0, 0), step(20, 0.0), step(40, 0.01), step(60, 0.5), step(100, 1)],
                "Up to 40 %, strength does nothing",
            ),
            (
                "saturation",
                [step(0, 0), step(30, 0.5), step(60, 0.99), step(80, 1), step(100, 1)],
                "From 60 % on nothing more comes.",
            ),
            (
                "jump",
                [step(v, s) for v, s in ((0, 0), (25, 0.1), (30, 0.8), (60, 0.9), (100, 1))],
                "Between 25 and 30 %, strength jumps: 70 % of all it does comes there.",
            ),
            (
                "turn",
                [step(0, 0), step(50, 0.9), step(70, 0.7), step(100, 1)],
                "It turns: at 70 % it does less than at 50 %.",
            ),
            ("even", [step(0, 0), step(50, 0.5), step(100, 1)], "Every step is an even blend"),
            (
                "patches",
                [
                    step(0, 0),
                    step(40, 0.4, even=False, cleaned=0.33, untouched=0.67),
                    step(100, 1),
                ],
                "at 40 %: a third of the plain areas are treated as far as at full strength and two"
                " thirds left untouched.",
            ),
            (
                "uneven without plain areas",
                [step(0, 0), step(40, 0.4, even=False), step(100, 1)],
                "most so at 40 %, which goes 40 % of the way on the whole",
            ),
        ):
            with self.subTest(name):
                self.assertIn(words, " ".join(course_said("strength", "%", steps)))

    def test_a_plain_course_has_no_such_place(self) -> None:
        found = course_of([step(v, v / 100) for v in (0, 25, 50, 75, 100)])
        self.assertEqual(
            (found.dead, found.saturated, found.turns, found.jumps), (None, None, (), ())
        )

    def test_frames_are_pooled_by_their_medians_and_the_least_even(self) -> None:
        frames = [
            [step(0, 0), step(50, 0.4), step(100, 1)],
            [step(0, 0), step(50, 0.5, even=False, cleaned=0.4, untouched=0.5), step(100, 1)],
            [step(50, 0.6), step(100, 1)],
        ]
        made = pooled(frames)
        self.assertEqual([s.setting for s in made], [50, 100])
        self.assertEqual((made[0].share.value, made[0].even, made[0].cleaned), (0.5, False, 0.4))
        self.assertEqual(pooled([]), [])


class Matching(unittest.TestCase):
    ONE = [
        NoiseStep(v, Interval(n, n - 0.02, n + 0.02)) for v, n in ((0, 1), (50, 0.6), (100, 0.2))
    ]
    OTHER = [NoiseStep(v, Interval(n, n, n)) for v, n in ((0, 1), (40, 0.6), (80, 0.4))]

    def test_the_other_setting_lies_between_its_neighbours(self) -> None:
        found = matched_settings(self.ONE, self.OTHER)
        self.assertEqual(found[1], MatchedSetting(50, 40, found[1].low, found[1].high))
        assert found[1].low is not None and found[1].high is not None
        self.assertAlmostEqual(found[1].low, 38)
        self.assertAlmostEqual(found[1].high, 44)
        # So little noise the other never leaves.
        self.assertEqual(found[2], MatchedSetting(100, None, None, None))
        self.assertEqual(
            matched_said(found, ("Wash", "Fold"), ("%", "%")),
            "Wash at 50 % leaves as much noise as Fold at 40 (38 to 44) %.",
        )

    def test_no_like_is_said(self) -> None:
        self.assertIn("at no setting", matched_said([], ("Wash", "Fold"), ("%", "%")))
        self.assertIsNone(crossing(self.OTHER, 0.1))
        self.assertEqual(crossing(self.OTHER, 1.0), 0)

    def test_noise_is_the_median_of_what_is_left_on_patches(self) -> None:
        frame = {"a": 10.0, "b": 20.0, "c": 4.0}
        steps = [
            (50.0, {"a": (5.0, 4.0, 6.0), "b": (4.0, 4.0, 4.0), "c": (2.0, 2.0, 2.0)}),
            (60.0, {}),
        ]
        (made,) = noise_steps(frame, steps)
        self.assertEqual((made.setting, made.noise.value), (50, 0.5))


class Recognised(unittest.TestCase):
    def test_series_are_found_among_others(self) -> None:
        wash = swept(
            Treatment((Step("Sedgewash", "3.0", "standard", strength=10),)),
            0,
            "strength",
            [100, 20, 60],
        )
        lift = Step("Tarnlift", "1.8", settings=(Setting("scale", 2.0, "x"), Setting("on", True)))
        lifted = swept(Treatment((wash[0].steps[0], lift)), 1, "scale", [2.0, 3.0, 4.0])
        alone = Treatment((Step("Keenfold", "5.1", strength=60),))
        treatments = dict(zip("ABCDEFG", [*wash, *lifted, alone], strict=True))
        found = {s.title: s for s in series_among(treatments)}
        self.assertEqual(set(found), {"Sedgewash 3.0", "Tarnlift 1.8"})
        self.assertEqual(found["Sedgewash 3.0"].members, ((20, "B"), (60, "C"), (100, "A")))
        self.assertEqual(
            (found["Sedgewash 3.0"].name, found["Sedgewash 3.0"].unit), ("strength", "%")
        )
        self.assertEqual((found["Tarnlift 1.8"].name, found["Tarnlift 1.8"].unit), ("scale", "x"))

    def test_two_modes_of_one_release_are_told_apart(self) -> None:
        told = {
            f"{mode}{v}": Treatment((Step("Wash", "1", mode, strength=v),))
            for mode in ("soft", "hard")
            for v in (20, 60, 100)
        }
        titles = {s.title for s in series_among(told)}
        self.assertEqual(titles, {"Wash 1, soft", "Wash 1, hard"})

    def test_two_values_or_other_modes_are_none(self) -> None:
        two = [Step("Wash", strength=v) for v in (20, 60)]
        modes = [Step("Fold", mode=m, strength=v) for m, v in (("a", 1), ("b", 2), ("c", 3))]
        told = {i: Treatment((s,)) for i, s in enumerate((*two, *modes))}
        self.assertEqual(series_among(told), [])


class NoiseSeen(unittest.TestCase):
    def test_noise_is_seen_the_more_there_is_and_the_nearer(self) -> None:
        rng = np.random.default_rng(1)
        patch = Rect(10, 10, 128, 128)
        near, far = print_of(30, 20, 100, 30), print_of(30, 20, 100, 3000)
        ramp = np.linspace(0.4, 0.6, 160, dtype=np.float32)[None, :, None]
        for noise, use, want in (
            (0.0, near, Seen.NOBODY),
            (0.05, near, Seen.ONCE),
            (0.05, far, Seen.NOBODY),
        ):
            with self.subTest(noise=noise, use=use.name):
                codes = ramp + rng.normal(0, noise, (160, 160, 3)).astype(np.float32)
                pixels = srgb.decode(np.clip(codes, 0, 1).astype(np.float32))
                self.assertIs(noise_seen(pixels, patch, use), want)

    def test_advice_is_the_lowest_setting_that_shows_none(self) -> None:
        steps = [
            Advice(20, (Seen.ONCE, Seen.NOBODY), 95.0),
            Advice(40, (Seen.NOBODY, Seen.NOBODY), 90.0),
            Advice(60, (Seen.NOBODY, Seen.NOBODY), 70.0),
        ]
        self.assertEqual(advised(steps), steps[1])
        web = USES["web"]
        self.assertEqual(
            advice_said("Wash", "%", web, steps),
            "Wash: as web picture, noise is seen by nobody from 40 % on, with 90 % of the detail"
            " kept.",
        )
        self.assertIn("at every setting", advice_said("Wash", "%", web, steps[:1]))


class Series(unittest.TestCase):
    def test_outputs_that_lie_elsewhere_are_brought_to_the_frame(self) -> None:
        noisy, _ = pair()

        def moved(share: float) -> AlignedPicture:
            """Two px further right and down, as some tools leave it."""
            made = picture(np.pad(blended(share), ((2, 0), (2, 0), (0, 0))))
            return AlignedPicture(made, Mapping(1, 1, 2, 2), Rect(2, 2, SIZE[1], SIZE[0]))

        done: list[int] = []
        steps = [(v, lambda v=v: moved(v / 100)) for v in (100, 30, 60)]
        found = strength_series(picture(noisy), steps, done.append)
        self.assertEqual([m.step.setting for m in found], [30, 60, 100])
        self.assertEqual(done, [1, 2, 3])
        for mapped in found:
            self.assertAlmostEqual(mapped.step.share.value, mapped.step.setting / 100, delta=0.01)
            self.assertTrue(mapped.step.even)

    def test_two_settings_are_no_series(self) -> None:
        noisy, _ = pair()
        laid = AlignedPicture(picture(noisy), Mapping(), Rect(0, 0, SIZE[1], SIZE[0]))
        with self.assertRaisesRegex(BadRequest, "3 settings or more"):
            strength_series(
                picture(noisy), [(1, lambda: laid), (1, lambda: laid), (2, lambda: laid)]
            )


class Command(unittest.TestCase):
    def run_series(self, *arguments: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with tempfile.TemporaryDirectory() as folder:
            home = Path(folder)
            noisy, _ = pair()
            made = {"frame": noisy, "a30": blended(0.3), "a60": blended(0.6), "a100": blended(1.0),
                    "b50": blended(by_region([0.0, 1.0])), "b80": blended(0.8)}  # fmt: skip
            for name, pixels in made.items():
                shown = srgb.to_display(pixels)[:224, 32:320]
                Image.fromarray(shown).save(home / f"{name}.png", compress_level=1)
            told = [a.replace("@", f"{folder}/") for a in arguments]
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
                code = main(["series", f"{folder}/frame.png", *told])
        return code, out.getvalue(), err.getvalue()

    def test_two_series_matched_by_what_they_leave(self) -> None:
        code, out, err = self.run_series(
            *("30=@a30.png", "60=@a60.png", "100=@a100.png"),
            *("--other", "50=@b50.png", "--other", "80=@b80.png", "--other", "100=@a100.png"),
            *("--names", "Wash,Fold", "--patch", "plain:flat:20,20,140,140"),
            *("--use", "web", "--json"),
        )
        self.assertEqual(code, 0, err)
        told = json.loads(out)
        wash, fold = told["series"]
        self.assertEqual([s["even"] for s in wash["steps"]], [True] * 3)
        self.assertEqual([s["even"] for s in fold["steps"]], [False, True, True])
        said = " ".join(told["said"])
        self.assertIn("Fold: It works unevenly, most so at 50 %", said)
        self.assertIn("as web picture, noise is", said)
        last = told["matched"][-1]
        self.assertEqual((last["setting"], round(last["other"])), (100, 100))

    def test_lines_and_refusals(self) -> None:
        steps = ("30=@a30.png", "60=@a60.png", "100=@a100.png")
        code, out, _ = self.run_series(*steps)
        self.assertEqual(code, 0)
        self.assertIn("Every step is an even blend", out)
        self.assertIn("A 30 %: 30 % of the way", out)
        for given, words in (
            (("30=@a30.png", "60=@a60.png"), "3 settings or more"),
            (("a30.png",), "SETTING=FILE"),
            (("nan=@a30.png",), "SETTING=FILE"),
            (("30=@frame.png", "60=@frame.png", "90=@frame.png"), "changes next to nothing"),
            ((*steps, "--use", "moon"), "moon"),
        ):
            with self.subTest(words):
                more = ("--patch", "plain:flat:20,20,140,140") if "--use" in given else ()
                code, _, err = self.run_series(*given, *more)
                self.assertEqual(code, 2, err)
                self.assertIn(words, err)
