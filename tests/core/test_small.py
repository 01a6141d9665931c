"""Pictures of any size give numbers or reasons, and what can not be lined up is named."""

from __future__ import annotations

import unittest
import warnings

import numpy as np

from glenhail.core.assess import assess
from glenhail.core.audit.examine import examine
from glenhail.core.errors import NoLineUp
from glenhail.core.lineup.aligned import aligned
from glenhail.core.lineup.register import line_up
from glenhail.core.measures.catalogue import ROLES, Patch
from glenhail.core.picture import Mapping, Rect
from tests.pictures import noisy, photograph, picture
from tests.seeds import drawn

SIZES = [
    (1, 1),
    (2, 1),
    (1, 9),
    (4, 4),
    (12, 12),
    (20, 20),
    (512, 5),
    (5, 380),
    (400, 4),
    (33, 33),
    (64, 20),
    (7, 200),
]


class Small(unittest.TestCase):
    def test_any_size_gives_numbers_or_reasons(self) -> None:
        sizes = SIZES + [
            (int(w), int(h)) for _, rng in drawn(12) for w, h in [rng.integers(1, 70, 2)]
        ]
        for width, height in sizes:
            clean = photograph("coffee")[20 : 20 + height, 20 : 20 + width]
            for scale in (1, 2):
                with (
                    self.subTest(width=width, height=height, scale=scale),
                    warnings.catch_warnings(),
                ):
                    warnings.simplefilter("error")
                    frame, truth = picture(clean), picture(np.clip(noisy(clean, 9000), 0, 1))
                    output = picture(
                        np.clip(noisy(clean.repeat(scale, 0).repeat(scale, 1), 2000), 0, 1)
                    )
                    for patches in (
                        [],
                        [Patch("p", role, Rect(0, 0, width, height)) for role in ROLES],
                    ):
                        try:
                            readings = assess(frame, output, truth, patches).readings
                        except NoLineUp as why:
                            self.assertIn(output.facts.name, str(why))
                            continue
                        for r in readings:
                            numbers = [v for v in (r.value, r.low, r.high) if v is not None]
                            self.assertTrue(len(numbers) == 3 or r.reason, r)
                            self.assertTrue(np.isfinite(numbers).all(), r)
                        examine(frame, aligned(output, line_up(frame, output)))

    def test_a_tiny_picture_lies_as_its_size_says_and_that_is_doubted(self) -> None:
        small = photograph("coffee")[:12, :12]
        found = line_up(picture(small), picture(small.repeat(3, 0).repeat(3, 1)))
        self.assertEqual(found.mapping, Mapping(3, 3))
        self.assertIn("too small", found.doubts[0])
        with self.assertRaisesRegex(
            NoLineUp, "test.tif: at 30 × 24 px it is too small.*no multiple of the frame's 12 × 12"
        ):
            assess(picture(small), picture(photograph("coffee")[:24, :30]))


class WeakEvidence(unittest.TestCase):
    def test_denoising_a_jpeg_on_its_own_grid_leaves_it_there(self) -> None:
        import io

        import scipy.ndimage
        from PIL import Image

        from glenhail.core.colour import srgb

        for case, rng in drawn(6):
            with self.subTest(case):
                name = ("coffee", "astronaut", "china", "chelsea")[rng.integers(4)]
                shot = np.clip(
                    noisy(photograph(name), rng.uniform(150, 900), int(rng.integers(1000))), 0, 1
                )
                packed = io.BytesIO()
                Image.fromarray(np.round(255 * srgb.encode(shot)).astype(np.uint8)).save(
                    packed, "JPEG", quality=int(rng.integers(40, 80))
                )
                frame = srgb.decode(np.asarray(Image.open(packed), dtype=np.float32) / 255)
                codes = srgb.encode(frame)
                made = srgb.decode(scipy.ndimage.median_filter(codes, (5, 5, 1)))
                found = line_up(picture(frame), picture(made))
                self.assertEqual(found.mapping, Mapping())

    def test_what_was_truly_moved_is_still_found(self) -> None:
        import scipy.ndimage

        for case, rng in drawn(4):
            with self.subTest(case):
                frame = photograph(("coffee", "astronaut")[rng.integers(2)])
                dx = float(rng.uniform(0.15, 0.45) * rng.choice([-1, 1]))
                made = np.stack(
                    [
                        scipy.ndimage.shift(frame[..., c], (0, dx), order=5, mode="nearest")
                        for c in range(3)
                    ],
                    -1,
                )
                found = line_up(picture(frame), picture(np.clip(noisy(made, 4000), 0, 1)))
                self.assertAlmostEqual(found.mapping.dx, dx, delta=0.05)
