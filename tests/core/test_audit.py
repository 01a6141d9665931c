"""The audit's rules: faults put in by independent libraries are named, honest outputs
are left alone, contenders are held together.
"""

from __future__ import annotations

import json
import unittest
from collections.abc import Callable
from dataclasses import replace
from datetime import date
from functools import cache

import numpy as np
import scipy.ndimage
import skimage.exposure
import skimage.filters
import skimage.restoration
import skimage.transform
from skimage import data

from glenhail.core.audit.between import audit
from glenhail.core.audit.entrants import AuditedFile, Entrant
from glenhail.core.audit.examine import FRAME, Examination, examination_of, examine
from glenhail.core.audit.finding import RuleBreach, Weight
from glenhail.core.audit.output_rule import AuditedOutput, beyond, outward
from glenhail.core.audit.rules import OUTPUT_RULES, check_output
from glenhail.core.colour import srgb
from glenhail.core.interval import Interval
from glenhail.core.lineup.aligned import AlignedPicture, aligned
from glenhail.core.lineup.register import line_up
from glenhail.core.picture import Floats, Mapping
from glenhail.core.treatments.step import Setting, Step, Treatment
from tests.pictures import noisy, picture
from tests.seeds import drawn

SPOILS, COLOURS, HARMLESS = Weight.SPOILS, Weight.COLOURS, Weight.HARMLESS


@cache
def frame() -> Floats:
    """scikit-image's coffee cup, encoded values kept off both ends, with the noise of a
    small sensor; linear light.
    """
    codes = 0.08 + 0.84 * data.coffee().astype(np.float32) / 255
    large = skimage.transform.resize(codes, (600, 900), order=3).astype(np.float32)
    return sixteen_bit(noisy(srgb.decode(large), 1500))


def sixteen_bit(light: Floats) -> Floats:
    codes = (
        np.round(np.clip(srgb.encode(np.asarray(light, dtype=np.float32)), 0, 1) * 65535) / 65535
    )
    return np.asarray(srgb.decode(codes.astype(np.float32)), dtype=np.float32)


@cache
def denoised() -> Floats:
    """scikit-image's total variation, gently: an honest output."""
    codes = skimage.restoration.denoise_tv_chambolle(
        srgb.encode(frame()), weight=0.04, channel_axis=-1
    )
    return sixteen_bit(srgb.decode(codes.astype(np.float32)))


def encoded(change: Callable[[Floats], np.ndarray]) -> Floats:
    """Something done to the encoded values of the honest output."""
    return sixteen_bit(
        srgb.decode(np.clip(change(srgb.encode(denoised())), 0, 1).astype(np.float32))
    )


def sharp() -> Floats:
    """An unsharp mask of 150 % with scikit-image's Gaussian of 1.2 px."""
    return encoded(lambda c: c + 1.5 * (c - skimage.filters.gaussian(c, 1.2, channel_axis=-1)))


def seen(made: Floats, works: frozenset[str] = frozenset()) -> AuditedOutput:
    one, two = picture(frame()), picture(made)
    found = line_up(one, two)
    examination = examine(one, aligned(two, found))
    kept = examination_of(examination.as_json())
    return AuditedOutput(
        two.width,
        two.height,
        found.mapping,
        found.border,
        found.residual,
        "",
        found.doubts,
        kept,
        1.0,
        works,
    )


def marks(made: Floats, works: frozenset[str] = frozenset()) -> dict[str, RuleBreach]:
    return {m.rule.id: m for m in check_output(seen(made, works))}


def patched(light: Floats) -> Floats:
    clouds = scipy.ndimage.gaussian_filter(
        np.random.default_rng(3).standard_normal(light.shape[:2]), 20
    )
    return np.where((clouds > 0)[..., None], frame(), light).astype(np.float32)


class Pictures(unittest.TestCase):
    def test_honest_outputs_need_no_decision(self) -> None:
        cases = {
            "as it is": frame(),
            "total variation": denoised(),
            "Gaussian": skimage.filters.gaussian(frame(), 0.8, channel_axis=-1),
            "twice as large": skimage.transform.resize(frame(), (1200, 1800), order=3),
        }
        for name, made in cases.items():
            with self.subTest(name):
                found = [
                    m
                    for m in marks(made).values()
                    if m.weight != HARMLESS and m.rule.id != "enlargement"
                ]
                self.assertEqual(found, [])

    def test_what_an_independent_library_puts_in_is_named_and_sized(self) -> None:
        saturated = encoded(
            lambda c: (c @ srgb.LUMA)[..., None] + 1.3 * (c - (c @ srgb.LUMA)[..., None])
        )
        corner = (
            np.hypot(*np.meshgrid(np.linspace(-1, 1, 900), np.linspace(-1, 1, 600)))[..., None] ** 2
            / 2
        )
        cases: dict[str, tuple[Floats, str, float, float]] = {
            # name: output, the rule, the amount put in, how exact
            "exposure": (denoised() * np.float32(2**0.3), "exposure", 0.3, 0.05),
            "gamma": (encoded(lambda c: skimage.exposure.adjust_gamma(c, 0.8)), "shadows", 20, 20),
            "white balance": (denoised() * np.array([1.15, 1, 1], np.float32), "greys", 3, 3),
            "saturation": (saturated, "saturation", 0.3, 0.05),
            "corners": (
                (denoised() * 2 ** (-0.4 * corner)).astype(np.float32),
                "corners",
                0.4,
                0.05,
            ),
            "sharpened": (sharp(), "sharpened", 0.5, 0.45),
            "turned": (
                skimage.transform.rotate(denoised(), -0.5, order=3, mode="edge"),
                "turned",
                0.5,
                0.02,
            ),
        }
        for name, (made, rule, amount, exact) in cases.items():
            with self.subTest(name):
                found = marks(sixteen_bit(made))
                self.assertIn(rule, found)
                self.assertAlmostEqual(found[rule].amount, amount, delta=exact)

    def test_texture_of_its_own_and_repeated_pixels_are_finer_than_the_frame(self) -> None:
        doubled = frame().repeat(2, 0).repeat(2, 1)
        self.assertIn("finer", marks(doubled))
        plain = skimage.transform.resize(frame(), (1200, 1800), order=3).astype(np.float32)
        self.assertNotIn("finer", marks(plain))

    def test_what_a_tool_is_for_is_not_held_against_it(self) -> None:
        self.assertEqual(marks(sharp())["sharpened"].weight, COLOURS)
        self.assertEqual(marks(sharp(), frozenset({"sharpen"}))["sharpened"].weight, HARMLESS)

    def test_another_bodys_noise_is_what_is_compared(self) -> None:
        grainy = sixteen_bit(noisy(frame(), 300, seed=5))
        alone = check_output(replace(seen(grainy), another_shot=True))
        self.assertIn("noise-raised", marks(grainy))
        self.assertNotIn("noise-raised", {m.rule.id for m in alone})


class OddPictures(unittest.TestCase):
    """What is too small, too plain or beyond white is examined as far as it goes, and
    says what can not be told.
    """

    def test_nothing_breaks(self) -> None:
        rng = np.random.default_rng(0)
        frames = {
            "tiny": rng.random((24, 30, 3)),
            "small": rng.random((70, 90, 3)),
            "a strip": rng.random((40, 900, 3)),
            "black": np.zeros((200, 300, 3)),
            "white": np.ones((200, 300, 3)),
            "plain": np.full((200, 300, 3), 0.3),
            "beyond both ends": 4 * rng.random((200, 300, 3)) - 1,
        }
        for name, pixels in frames.items():
            one = pixels.astype(np.float32)
            for times, made in (
                (1, one),
                (1, one * np.float32(0.5)),
                (1, np.zeros_like(one)),
                (2, one.repeat(2, 0).repeat(2, 1)),
            ):
                with self.subTest(name, times=times):
                    output = picture(made)
                    found = examine(
                        picture(one), AlignedPicture(output, Mapping(times, times), output.bounds)
                    )
                    kept = json.loads(json.dumps(found.as_json(), allow_nan=False))
                    check_output(
                        AuditedOutput(
                            output.width,
                            output.height,
                            Mapping(times, times),
                            examination=examination_of(kept),
                        )
                    )


class Tolerances(unittest.TestCase):
    def test_a_value_must_lie_beyond_with_its_interval(self) -> None:
        cases = [
            (Interval(0.06, 0.05, 0.07), None, False),  # within
            (Interval(0.10, 0.09, 0.11), None, True),
            (Interval(0.10, 0.01, 0.19), None, False),  # too unsure
            (
                Interval(-0.12, -0.13, -0.11),
                Interval(-0.08, -0.08, -0.08),
                False,
            ),  # noise taken off does that
            (Interval(-0.20, -0.21, -0.19), Interval(-0.08, -0.08, -0.08), True),
            (Interval(0.10, 0.09, 0.11), Interval(-0.08, -0.08, -0.08), True),
        ]
        for value, usual, expected in cases:
            with self.subTest(value=value, usual=usual):
                self.assertIs(beyond(value, 0.07, usual=usual), expected)

    def test_every_rule_says_its_tolerance_and_source(self) -> None:
        for rule in (r.rule for r in OUTPUT_RULES):
            self.assertTrue(rule.title and rule.tolerance and rule.source, rule.id)


def step(tool: str = "Sedgewash", **told: object) -> Treatment:
    return Treatment((Step(tool, "1", **told),))  # type: ignore[arg-type]


def made(scale: float = 1.0, **told: object) -> AuditedFile:
    plain = {"bits": 16, "profile": "sRGB", "format": "TIFF", "compression": "none"}
    return AuditedFile(
        1,
        AuditedOutput(int(900 * scale), int(600 * scale), Mapping(scale, scale)),
        **{**plain, **told},
    )  # type: ignore[arg-type]


def entrant(
    id: int, output: AuditedFile, treatment: Treatment | None = None, **told: object
) -> Entrant:
    return Entrant(id, [output], treatment or step(), **told)  # type: ignore[arg-type]


class BetweenContenders(unittest.TestCase):
    def test_the_odd_one_out_is_named(self) -> None:
        usual = [entrant(i, made()) for i in (1, 2)]
        frame_itself = Entrant(0, [made()], baseline=True)
        cases: dict[str, tuple[Entrant, Weight]] = {
            "feed": (entrant(3, made(), Treatment(step().steps, "original file")), COLOURS),
            "size": (entrant(3, made(2.0)), COLOURS),
            "bits": (entrant(3, made(bits=8)), COLOURS),
            "profile": (entrant(3, made(profile="Wide")), HARMLESS),
            "compression": (entrant(3, made(format="JPEG")), COLOURS),
            "automatic": (
                entrant(3, made(), step(settings=(Setting("radius", 2.0, automatic=True),))),
                COLOURS,
            ),
            "works": (entrant(3, made(), works=("denoise", "sharpen")), COLOURS),
            "machine": (entrant(3, made(), machines=("another",)), COLOURS),
            "preview": (entrant(3, made(preview_de00=4.0, preview_ev=0.2)), HARMLESS),
        }
        timed = [replace(e, machines=("this",), works=("denoise",)) for e in usual]
        for rule, (odd, weight) in cases.items():
            with self.subTest(rule):
                filled = odd if odd.works else replace(odd, works=("denoise",))
                found = audit([frame_itself, *timed, filled], "tool")
                self.assertEqual(
                    [(f.rule.id, f.contender, f.weight) for f in found if f.rule.id == rule],
                    [(rule, 3, weight)],
                )
                # Nothing else is said of anybody but of the odd one.
                self.assertEqual({f.contender for f in found}, {3})

    def test_what_varies_on_purpose_is_left_out(self) -> None:
        pair = [entrant(1, made(), step(strength=40.0)), entrant(2, made(), step(strength=80.0))]
        self.assertEqual({f.rule.id for f in audit(pair, "tool")}, {"strength"})
        self.assertEqual(audit(pair, "setting"), [])

    def test_a_strength_that_is_not_told_is_not_full_strength(self) -> None:
        half, untold, full = (
            entrant(1, made(), step(strength=40.0)),
            entrant(2, made(), step()),
            entrant(3, made(), step(strength=100.0)),
        )
        self.assertEqual(audit([half, untold], "tool"), [])
        told = {
            f.contender: f.worst.words
            for f in audit([half, untold, full], "tool")
            if f.rule.id == "strength"
        }
        self.assertEqual(told, {1: "strength 40 %", 3: "strength 100 %"})

    def test_lossless_files_are_never_at_fault_and_lossy_ones_are_beside_them(self) -> None:
        for kind, compression, fault in (
            ("JPEG", "", True),
            ("TIFF", "JPEG", True),
            ("WebP", "lossy", True),
            ("WebP", "lossless", False),
            ("JPEG XL", "lossless", False),
            ("TIFF", "LZW", False),
            ("PNG", "deflate", False),
        ):
            with self.subTest(kind, compression=compression):
                rivals = [entrant(n, made()) for n in (1, 2)] + [
                    entrant(3, made(format=kind, compression=compression))
                ]
                self.assertEqual(
                    [f.contender for f in audit(rivals, "tool") if f.rule.id == "compression"],
                    [3] if fault else [],
                )
        mostly_lossy = [entrant(n, made(format="JPEG")) for n in (1, 2)] + [entrant(3, made())]
        self.assertEqual(
            [f.contender for f in audit(mostly_lossy, "tool") if f.rule.id == "compression"], [1, 2]
        )

    def test_equal_files_and_equal_pictures_have_no_effect(self) -> None:
        def seen(pixels: str) -> AuditedOutput:
            return AuditedOutput(100, 100, examination=Examination(pixels=pixels))

        frame = Entrant(1, [replace(made(digest="x"), seen=seen("a"))], baseline=True)
        rivals = [frame] + [
            Entrant(n, [replace(made(digest=digest), seen=seen(pixels))], step())
            for n, pixels, digest in ((2, FRAME, "y"), (3, "b", "z"), (4, "b", "z"), (5, "c", "w"))
        ]
        told = {
            f.contender: f.worst.words for f in audit(rivals, "tool") if f.rule.id == "no-effect"
        }
        self.assertEqual(set(told), {2, 3, 4})
        self.assertIn("pixel for pixel the frame's", told[2])
        self.assertIn("byte for byte another contender's", told[3])

    def test_a_strength_is_held_against_an_even_blend(self) -> None:
        def at(number: int, strength: float, patchy: float) -> Entrant:
            seen = AuditedOutput(
                100,
                100,
                examination=Examination({"patchy": Interval(patchy, patchy - 0.01, patchy + 0.01)}),
            )
            return entrant(number, replace(made(), seen=seen), step(strength=strength))

        for half, full, fault in (
            (0.20, 0.08, True),
            (0.05, 0.08, False),
            (0.08, None, False),
            (0.16, None, True),
            (0.2, 0.4, False),
        ):
            with self.subTest(half=half, full=full):
                rivals = [at(1, 50, half)] + ([at(2, 100, full)] if full is not None else [])
                found = [f for f in audit(rivals, "setting") if f.rule.id == "uneven-strength"]
                self.assertEqual([f.contender for f in found], [1] if fault else [])
                self.assertTrue(all(f.weight == COLOURS for f in found))

    def test_what_is_told_never_reads_as_if_it_lay_within_the_tolerance(self) -> None:
        for case, rng in drawn(20):
            with self.subTest(case):
                digits = int(rng.integers(0, 3))
                tolerance = float(np.round(rng.uniform(0.1, 9), digits))
                value = (tolerance + rng.uniform(1e-5, 0.3)) * rng.choice([-1, 1])
                shown = float(f"{outward(value, digits, tolerance):.{digits}f}")
                self.assertGreater(abs(shown), tolerance)
                self.assertEqual(np.sign(shown), np.sign(value))

    def test_a_profile_that_was_left_out_had_to_be_guessed(self) -> None:
        found = audit(
            [entrant(1, made()), entrant(2, made()), entrant(3, made(profile_assumed=True))], "tool"
        )
        self.assertEqual([(f.rule.id, f.weight) for f in found], [("profile", COLOURS)])

    def test_old_releases_and_slow_openers_are_told(self) -> None:
        old = entrant(1, made(), released=(date(2022, 1, 1),), load_share=0.8)
        new = entrant(2, made(), released=(date(2026, 1, 1),), load_share=0.1)
        self.assertEqual({f.rule.id for f in audit([old, new], "tool")}, {"dates", "opening"})

    def test_findings_on_several_frames_are_one_with_the_heaviest_weight(self) -> None:
        refused = AuditedFile(2, AuditedOutput(900, 600, refused="it shows something else"))
        moved = AuditedFile(1, AuditedOutput(900, 600, Mapping(1, 1, 2, 0)))
        found = audit([Entrant(1, [moved, refused], step())], "tool")
        self.assertEqual(
            [(f.rule.id, f.weight) for f in found], [("refused", SPOILS), ("moved", HARMLESS)]
        )
