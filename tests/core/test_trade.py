"""What working reviewers state of pictures, prints and noise.

All of it: common practice, no source.
"""

from __future__ import annotations

import unittest

import numpy as np
import scipy.ndimage

from glenhail.core.answers.board import Board, Cell, Column, Place
from glenhail.core.answers.comparison import Answer, TakenReading, compare
from glenhail.core.answers.sentences import findings
from glenhail.core.colour import srgb
from glenhail.core.filters import kernels as blur
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, Patch, take
from glenhail.core.measures.subject import Subject
from glenhail.core.measures.thresholds import THRESHOLDS
from glenhail.core.methods.sharpen import unsharp_mask
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Floats, Mapping, Picture, Rect
from glenhail.core.prints import print_size, print_sizes
from glenhail.core.tone.matching import at_exposure, at_scale, patch_stops
from glenhail.standins.camera import Body, expose
from tests.core.test_edges import edge, read
from tests.core.test_enlargements import enlarged, shrunk, square
from tests.core.test_enlargements import read as read_enlarged
from tests.pictures import noisy, photograph, picture
from tests.seeds import drawn


def laid(p: Picture) -> AlignedPicture:
    return AlignedPicture(p, Mapping(), p.bounds)


def taken(
    measure: str,
    role: str,
    output: Floats,
    frame: Floats,
    truth: Floats | None = None,
    rect: Rect | None = None,
) -> TakenReading:
    one, two = picture(output), picture(frame)
    subject = Subject(two, laid(one), laid(picture(truth)) if truth is not None else None)
    found = take(subject, MEASURES[measure], Patch("p", role, rect or two.bounds))
    assert found.value is not None and found.low is not None and found.high is not None, (
        found.reason
    )
    return TakenReading(found.value, found.low, found.high, found.parts)


class Sizes(unittest.TestCase):
    def test_twice_as_wide_is_four_times_the_pixels_and_six_times_is_thirty_six(self) -> None:
        small = np.zeros((48, 64, 3), np.float32)
        for times, pixels in ((2, 4), (4, 16), (6, 36)):
            made = treat(small, "bicubic", {"factor": times})
            self.assertEqual(made.shape[0] * made.shape[1], pixels * 48 * 64)
        # 640 x 480 becomes 3840 x 2880, and 18 MP 72 MP.
        self.assertEqual(
            treat(np.zeros((480, 640, 3), np.float32), "nearest", {"factor": 6}).shape[:2],
            (2880, 3840),
        )
        self.assertEqual(18 * 2**2, 72)

    def test_a_print_is_as_large_as_its_pixels_over_ppi(self) -> None:
        for label, rng in drawn(20):
            with self.subTest(label):
                width, height, ppi = (
                    int(v) for v in rng.integers((200, 200, 60), (20_000, 20_000, 1200))
                )
                made = print_size(width, height, ppi)
                # A printed line of 2.54 cm holds as many pixels as its ppi say.
                self.assertAlmostEqual(made.width_cm / 2.54 * ppi, width, places=6)
                # Without resampling, half the ppi is twice the print, each way.
                half = print_size(width, height, ppi / 2)
                self.assertAlmostEqual(half.width_cm / made.width_cm, 2, places=9)
                self.assertAlmostEqual(
                    half.height_cm * half.width_cm, 4 * made.height_cm * made.width_cm, places=4
                )

    def test_a_24_mp_picture_prints_half_a_metre_wide_at_300_ppi_and_wider_at_240(self) -> None:
        told = {
            p.ppi: (round(p.width_cm, 1), round(p.height_cm, 1))
            for p in print_sizes(6000, 4000, 72)
        }
        self.assertEqual(told, {72: (211.7, 141.1), 300: (50.8, 33.9), 240: (63.5, 42.3)})
        self.assertEqual([p.ppi for p in print_sizes(6000, 4000, 300)], [300, 240])
        self.assertEqual([p.ppi for p in print_sizes(6000, 4000)], [300, 240])

    def test_enlarging_by_400_per_cent_adds_nothing_that_was_not_there(self) -> None:
        truth = square("coffee", 384)
        frame = shrunk(truth, 4, averaged=False)
        made = enlarged(frame, 4, "sinc")
        for measure in ("detail_restored", "detail_invented"):
            self.assertAlmostEqual(
                read_enlarged(measure, made, frame, truth, 8).value or 0, 0, delta=1
            )

    def test_33_mp_brought_to_24_mp_are_quieter_by_the_root_of_their_ratio(self) -> None:
        rng = np.random.default_rng(1)
        ratio = (33 / 24) ** 0.5
        for side in (700, 702):
            light = (0.2 + 0.01 * rng.normal(size=(side, side, 3))).astype(np.float32)
            whole = picture(light)
            large = AlignedPicture(whole, Mapping(ratio, ratio), whole.bounds)
            small = at_scale(large, 1.0)
            noises = [
                float(srgb.luminance(p.picture.pixels[20:-20, 20:-20]).std())
                for p in (large, small)
            ]
            # Averaging alone gives the root; a real filter softens a little near its limit, and so
            # takes a little more.
            self.assertTrue(ratio <= noises[0] / noises[1] < 1.15 * ratio, noises)
            # The light that reaches an area is the same: heavily averaged, neither is quieter.
            blurred = [
                scipy.ndimage.gaussian_filter(srgb.luminance(p.picture.pixels), 8 * p.mapping.sx)[
                    60:-60, 60:-60
                ].std()
                for p in (large, small)
            ]
            self.assertAlmostEqual(float(blurred[0] / blurred[1]), 1, delta=0.03)


class Restoring(unittest.TestCase):
    def test_a_wiener_filter_with_the_right_kernel_gains_and_two_like_it_look_the_same(
        self,
    ) -> None:
        clean = photograph("astronaut")[:256, :256]
        for case, rng in drawn(3):
            with self.subTest(case):
                soft = blur.blur(clean, blur.uniform_kernel(5)) + rng.normal(
                    0, 0.004, clean.shape
                ).astype(np.float32)
                soft = np.clip(soft, 0, None).astype(np.float32)
                made = [
                    treat(soft, "wiener", {"kernel": "square", "size": 2.5, "balance": b})
                    for b in (0.02, 0.022)
                ]
                inner = Rect(16, 16, 224, 224)
                before, *after = (
                    taken("psnr", "texture", p, soft, clean, inner) for p in (soft, *made)
                )
                for one in after:
                    self.assertEqual(
                        compare(one, before, MEASURES["psnr"].best, THRESHOLDS["psnr"]).answer,
                        Answer.BETTER,
                    )
                same = compare(*after, MEASURES["psnr"].best, THRESHOLDS["psnr"])
                self.assertIn(same.answer, (Answer.UNSEEN, Answer.NONE))

    def test_four_times_at_five_pixels_is_about_the_most_a_soft_edge_stands(self) -> None:
        soft = edge(7, 2.0, 160, light=(0.42, 0.5))
        visible = THRESHOLDS["overshoot"].size
        for gain, falls_apart in ((0.2, False), (4.0, True)):
            sharp = picture(unsharp_mask(soft.pixels, gain, 5.0))
            halo = read("overshoot", 160, sharp, soft).value or 0
            self.assertEqual(halo > 10 * visible, falls_apart, halo)


class Noise(unittest.TestCase):
    def test_exposure_is_matched_by_heavy_averages_before_noise_is_judged(self) -> None:
        for case, rng in drawn(5):
            with self.subTest(case):
                stops = float(rng.uniform(-0.5, 0.5))
                scene = np.full((200, 200, 3), 0.2, np.float32)
                dark, other = (
                    noisy(scene, 800, int(rng.integers(100))),
                    noisy(scene * np.float32(2**stops), 800, int(rng.integers(100))),
                )
                found = patch_stops(picture(dark), laid(picture(other)), Rect(10, 10, 180, 180))
                self.assertAlmostEqual(found, stops, delta=0.01)
                self.assertAlmostEqual(float(at_exposure(other, found).mean()), 0.2, delta=0.002)

    def test_two_bodies_are_told_apart_from_iso_6400_on_and_not_below_400(self) -> None:
        plain = {
            "mosaic_of_rgb": np.eye(3),
            "second_gain_iso": 1e9,
            "hot": 0.0,
            "lens_sigma": 0.01,
            "corner_stops": 0.0,
        }
        bodies = [
            Body(name, 42_000, (read, read), **plain)
            for name, read in (("older", 8.0), ("newer", 2.0))
        ]  # type: ignore[arg-type]
        scene = np.full((240, 240, 3), 0.1, np.float32)
        for iso, apart in ((100, False), (200, False), (6400, True), (25_600, True)):
            with self.subTest(iso=iso):
                shots = []
                for seed, body in enumerate(bodies):
                    codes = expose(scene, body, iso, seed + iso).astype(np.float32)
                    green = (codes[0::2, 1::2] - body.black) / (body.white - body.black)
                    shots.append(np.repeat(green[..., None], 3, axis=2))
                older, newer = (taken("snr", "flat", s, s) for s in shots)
                answer = compare(newer, older, MEASURES["snr"].best, THRESHOLDS["snr"]).answer
                self.assertEqual(answer == Answer.BETTER, apart, answer)

    def test_colour_noise_disturbs_before_brightness_noise_of_its_size_and_fine_grain_does_not(
        self,
    ) -> None:
        rng = np.random.default_rng(4)

        def coarse(channels: int) -> Floats:
            noise = (
                scipy.ndimage.gaussian_filter(rng.normal(size=(192, 192, channels)), (6, 6, 0))
                * 2
                * np.sqrt(np.pi)
                * 6
            )
            return np.asarray(
                np.broadcast_to(noise, (192, 192, 3)) if channels == 1 else noise, dtype=np.float32
            )

        fine = rng.normal(size=(192, 192, 1)).astype(np.float32) * np.ones(3, np.float32)
        frame = srgb.decode(
            np.asarray(0.45 + 0.02 * rng.normal(size=(192, 192, 3)), dtype=np.float32)
        )
        for name, noise, told in (
            ("colour", coarse(3), True),
            ("brightness", coarse(1), False),
            ("grain", fine, False),
        ):
            with self.subTest(name):
                made = srgb.decode((0.45 + 0.012 * noise).astype(np.float32))
                board = Board(
                    [Column("U", unprocessed=True), Column("A")],
                    {"p": Place("p", "flat", "Wall", "Frame")},
                )
                for i, (measure, letter) in enumerate(
                    (m, c) for m in ("blotch", "noise_chroma", "noise_luma") for c in "UA"
                ):
                    board.put(
                        measure,
                        "p",
                        letter,
                        Cell(i, taken(measure, "flat", frame if letter == "U" else made, frame)),
                    )
                sentences = [s.text for s in findings(board, "A") if s.tone == "bad"]
                self.assertEqual(any("colour noise" in s for s in sentences), told, sentences)
