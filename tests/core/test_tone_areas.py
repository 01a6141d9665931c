"""Areas of whole pixels in one pass, held against resampling; tone beside exposure."""

from __future__ import annotations

import unittest

import numpy as np

from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, take
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Mapping, Rect
from glenhail.core.tone import matched as areas
from tests.pictures import noisy, photograph, picture
from tests.seeds import drawn


class OnePass(unittest.TestCase):
    def test_one_pass_over_whole_pixels_gives_what_resampling_gives(self) -> None:
        for case, rng in drawn(6):
            with self.subTest(case):
                scale, name = (
                    int(rng.integers(1, 3)),
                    ("coffee", "astronaut", "china")[rng.integers(3)],
                )
                frame = picture(np.clip(noisy(photograph(name), 800, int(rng.integers(99))), 0, 1))
                shift = rng.integers(0, 3, 2)
                large = frame.pixels.repeat(scale, 0).repeat(scale, 1) * np.float32(
                    rng.uniform(0.8, 1.1)
                )
                output = picture(np.pad(large, ((int(shift[1]), 0), (int(shift[0]), 0), (0, 0))))
                laid = AlignedPicture(
                    output, Mapping(scale, scale, *map(float, shift)), output.bounds
                )
                # Areas of a grid that both paths can lay on whole pixels.
                across, down = 12, 8
                part = Rect(8, 8, 16 * across, 16 * down)
                cuts = 8 + 16 * np.arange(down + 1), 8 + 16 * np.arange(across + 1)
                one, two = (
                    areas._in_one_pass(frame, laid, *cuts),
                    areas._resampled(frame, laid, part, across, down),
                )
                assert one is not None
                for a, b in zip(
                    (*one.light, *one.ends, one.smoothed, one.spread),
                    (*two.light, *two.ends, two.smoothed, two.spread),
                    strict=True,
                ):
                    np.testing.assert_allclose(a, b, atol=2e-4)

    def test_exposure_alone_moves_no_tones(self) -> None:
        for case, rng in drawn(6):
            with self.subTest(case):
                frame = photograph(
                    ("coffee", "astronaut", "china", "chelsea")[rng.integers(4)]
                ) * np.float32(0.7)
                stops = float(rng.uniform(-0.5, 0.4))
                moved = picture(frame * np.float32(2**stops))
                found = take(
                    Subject(picture(frame), AlignedPicture(moved, Mapping(), moved.bounds)),
                    MEASURES["tone"],
                    None,
                )
                assert found.value is not None, found.reason
                self.assertLess(abs(found.value), 0.5)
