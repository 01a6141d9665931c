"""Enlargements against a truth of their own size: on its grid, and what lies beyond the
frame told apart.
"""

from __future__ import annotations

import unittest

import numpy as np
import skimage.metrics

from glenhail.core.colour import srgb
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, Patch, take
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Doubles, Floats, Mapping, Rect
from tests.pictures import photograph, picture
from tests.seeds import drawn


def fourier(codes: Floats, size: int) -> Doubles:
    """A square plane of codes brought to another size by cutting or filling its
    spectrum: the ideal filter, by numpy alone.
    """
    side = codes.shape[0]
    spectrum = np.fft.fftshift(np.fft.fft2(codes, axes=(0, 1)), axes=(0, 1))
    if size < side:
        cut = (side - size) // 2
        spectrum = spectrum[cut : cut + size, cut : cut + size]
    else:
        spectrum = np.pad(spectrum, [((size - side) // 2,) * 2] * 2 + [(0, 0)])
    return np.asarray(
        np.fft.ifft2(np.fft.ifftshift(spectrum, axes=(0, 1)), axes=(0, 1)).real * (size / side) ** 2
    )


def linear(codes: np.ndarray) -> Floats:
    return np.asarray(srgb.decode(codes), dtype=np.float32)


def square(name: str, side: int, x: int = 0, y: int = 0) -> Floats:
    return np.asarray(photograph(name)[y : y + side, x : x + side])


def shrunk(truth: Floats, times: int, averaged: bool) -> Floats:
    side = truth.shape[0]
    if averaged:
        return resample(truth, Rect(0, 0, side, side), side // times, side // times, "area")
    return linear(fourier(srgb.encode(truth), side // times))


def enlarged(frame: Floats, times: float, method: str) -> Floats:
    side = frame.shape[0]
    if method == "sinc":
        return linear(fourier(srgb.encode(frame), round(side * times)))
    return resample(frame, Rect(0, 0, side, side), round(side * times), round(side * times), method)


def read(measure: str, output: Floats, frame: Floats, truth: Floats, rim: int = 12) -> Reading:
    one, two, three = (picture(p) for p in (output, frame, truth))
    scales = [p.width / two.width for p in (one, three)]
    laid = [
        AlignedPicture(p, Mapping(s, s), p.bounds)
        for p, s in zip((one, three), scales, strict=True)
    ]
    patch = Patch("all", "texture", Rect(rim, rim, two.width - 2 * rim, two.height - 2 * rim))
    return take(Subject(two, *laid), MEASURES[measure], patch)


def value(reading: Reading) -> float:
    assert reading.value is not None, reading.reason
    return reading.value


class OnTheTruthsGrid(unittest.TestCase):
    def test_errors_are_those_of_the_pixels_of_the_truth(self) -> None:
        for name in ("astronaut", "coffee"):
            truth = square(name, 384)
            frame = shrunk(truth, 2, averaged=True)
            for method in ("nearest", "bicubic", "lanczos"):
                with self.subTest(name, method=method):
                    made = enlarged(frame, 2, method)
                    found = read("psnr", made, frame, truth)
                    codes = [
                        255 * srgb.encode(p)[24:-24, 24:-24].astype(np.float64)
                        for p in (truth, made)
                    ]
                    want = skimage.metrics.peak_signal_noise_ratio(*codes, data_range=255)
                    self.assertAlmostEqual(value(found), want, places=3)
                    self.assertIn("truth's grid, pixels untouched", found.grid or "")

    def test_pixel_doubling_wins_nothing(self) -> None:
        # On the frame's own grid it was perfect: 107 dB, and 100 % of the detail.
        for case, rng in drawn(6):
            with self.subTest(case):
                name = ("astronaut", "coffee", "chelsea", "china")[rng.integers(4)]
                side = 288
                height, width = photograph(name).shape[:2]
                truth = square(
                    name, side, int(rng.integers(width - side)), int(rng.integers(height - side))
                )
                frame = shrunk(truth, int(rng.integers(2, 4)), averaged=True)
                times = side // frame.shape[0]
                doubled, near = (
                    enlarged(frame, times, "nearest"),
                    0.25 * enlarged(frame, times, "lanczos") + 0.75 * truth,
                )
                read_of = {
                    m: [value(read(m, made, frame, truth)) for made in (doubled, near)]
                    for m in ("psnr", "ssim", "detail_kept")
                }
                self.assertGreater(read_of["psnr"][1], read_of["psnr"][0] + 6)
                self.assertGreater(read_of["ssim"][1], read_of["ssim"][0])
                self.assertLess(
                    abs(read_of["detail_kept"][1] - 100), abs(read_of["detail_kept"][0] - 100)
                )

    def test_an_output_of_another_size_is_brought_to_the_truths(self) -> None:
        truth = square("astronaut", 384)
        frame = shrunk(truth, 2, averaged=True)
        for made, words in ((enlarged(frame, 4, "bicubic"), "Lanczos"), (frame, "Lanczos")):
            found = read("psnr", made, frame, truth)
            self.assertIn(f"truth's grid, {words}", found.grid or "")
            self.assertTrue(20 < value(found) < 45)

    def test_a_truth_that_lies_aside_of_its_frame_is_met(self) -> None:
        # Truth at twice the size, cut 6 px further left and 2 px further up than the frame.
        whole = square("chelsea", 300)
        frame = shrunk(whole[2:, 6:][:280, :280], 2, averaged=True)
        made = enlarged(frame, 2, "lanczos")
        one, two, three = picture(made), picture(frame), picture(whole)
        truth = AlignedPicture(three, Mapping(2, 2, 6, 2), three.bounds)
        found = take(
            Subject(two, AlignedPicture(one, Mapping(2, 2), one.bounds), truth),
            MEASURES["psnr"],
            Patch("p", "texture", Rect(20, 20, 90, 90)),
        )
        codes = [
            255 * srgb.encode(p).astype(np.float64)
            for p in (whole[42:222, 46:226], made[40:220, 40:220])
        ]
        self.assertAlmostEqual(
            value(found), skimage.metrics.peak_signal_noise_ratio(*codes, data_range=255), places=3
        )


class TwoBands(unittest.TestCase):
    def test_an_ideal_enlargement_keeps_all_and_wins_and_invents_nothing(self) -> None:
        for case, rng in drawn(6):
            with self.subTest(case):
                name, times = (
                    ("astronaut", "coffee", "chelsea")[rng.integers(3)],
                    int(rng.choice([2, 4])),
                )
                truth = square(name, 288, int(rng.integers(60)), int(rng.integers(10)))
                frame = shrunk(truth, times, averaged=False)
                made = enlarged(frame, times, "sinc")
                rim = 24 // times
                self.assertAlmostEqual(
                    value(read("detail_kept", made, frame, truth, rim)), 100, delta=1
                )
                for measure in ("detail_restored", "detail_invented"):
                    self.assertAlmostEqual(
                        value(read(measure, made, frame, truth, rim)), 0, delta=1
                    )

    def test_the_truth_has_all_of_it_and_independent_texture_none(self) -> None:
        truth = square("coffee", 384)
        frame = shrunk(truth, 2, averaged=True)
        self.assertAlmostEqual(
            value(read("detail_restored", truth.copy(), frame, truth)), 100, delta=0.01
        )
        self.assertAlmostEqual(
            value(read("detail_invented", truth.copy(), frame, truth)), 0, delta=0.01
        )
        # Texture of as much power beyond the frame's limit that has nothing to do with the truth.
        codes = srgb.encode(truth).astype(np.float64)
        fine = codes - fourier(fourier(codes.astype(np.float32), 192).astype(np.float32), 384)
        rng = np.random.default_rng(5)
        phases = np.fft.fft2(rng.normal(size=fine.shape[:2]))[..., None]
        other = np.fft.ifft2(
            np.abs(np.fft.fft2(fine, axes=(0, 1))) * phases / np.abs(phases), axes=(0, 1)
        ).real
        base = fourier(fourier(codes.astype(np.float32), 192).astype(np.float32), 384)
        made = linear((base + other).astype(np.float32))
        self.assertAlmostEqual(value(read("detail_restored", made, frame, truth)), 0, delta=6)
        self.assertGreater(value(read("detail_invented", made, frame, truth)), 60)

    def test_what_averaging_took_is_told_as_the_frames_own_droop(self) -> None:
        # A mean over two pixels has sinc(f) of the contrast: what an ideal enlargement of it keeps
        # is that, no more.
        truth = square("coffee", 384)
        frame = shrunk(truth, 2, averaged=True)
        found = read("detail_kept", enlarged(frame, 2, "sinc"), frame, truth)
        self.assertTrue(90 < value(found) < 99, found.value)
        self.assertTrue(90 < found.details["frame_holds"] < 105)

    def test_where_nothing_lies_beyond_there_is_a_reason(self) -> None:
        truth = square("astronaut", 300)
        for side, words in ((300, "no larger than the frame"), (240, "needs over 1.25")):
            frame = resample(truth, Rect(0, 0, 300, 300), side, side, "lanczos")
            made = read("detail_restored", truth.copy(), frame, truth)
            self.assertIn(words, made.reason or "")
