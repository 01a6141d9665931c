"""A base-ISO frame as truth."""

from __future__ import annotations

import unittest

import numpy as np
import scipy.ndimage
import skimage.transform

from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.errors import BadRequest
from glenhail.core.filters.resample import resample
from glenhail.core.picture import Floats, Picture, Rect
from glenhail.core.truth.twin import Twin, twin_of
from tests.pictures import photograph as reference
from tests.pictures import picture

SENSOR = Sensor(42_000, 3.6)


def zoomed(scene: Floats) -> Floats:
    """As shot from 0.8 % nearer: the middle, enlarged to the frame's size."""
    height, width = scene.shape[:2]
    return resample(
        scene,
        Rect(width * 0.004, height * 0.004, width * 0.992, height * 0.992),
        width,
        height,
        "bicubic",
    )


class Twins(unittest.TestCase):
    def setUp(self) -> None:
        self.scene = reference("china") * np.float32(0.8)

    def shot(self, scene: Floats, iso: float, seed: int = 1) -> Picture:
        return picture(photograph(scene, SENSOR, iso, seed))

    def twin(self, base_scene: Floats, iso: float = 12_800) -> Twin:
        return twin_of(self.shot(self.scene, iso), self.shot(base_scene, 100, 2))

    def test_it_is_brought_to_the_frames_exposure_and_is_truth_to_a_tenth_of_the_noise(
        self,
    ) -> None:
        made = self.twin(self.scene * np.float32(2**-0.3))
        self.assertAlmostEqual(made.exposure, -0.3, delta=0.01)
        self.assertEqual((made.mapping.dx, made.mapping.dy, made.moved), (0, 0, 0))
        noise = float((self.shot(self.scene, 12_800).pixels - self.scene).std())
        self.assertLess(float((made.truth - self.scene).std()), noise / 10)

    def test_a_tripod_that_gave_by_a_pixel_and_a_half_is_found_out_and_allowed_for(self) -> None:
        moved = np.stack(
            [
                scipy.ndimage.shift(self.scene[..., c], (0.4, 1.5), order=3, mode="nearest")
                for c in range(3)
            ],
            axis=-1,
        )
        made = self.twin(moved.astype(np.float32))
        self.assertAlmostEqual(made.mapping.dx, 1.5, delta=0.06)
        self.assertAlmostEqual(made.mapping.dy, 0.4, delta=0.06)
        self.assertLess(made.residual, 0.3)

    def test_what_is_no_twin_is_refused_with_how_much_and_where(self) -> None:
        walked_in = self.scene.copy()
        walked_in[200:280, 400:470] *= np.float32(0.6)
        dim = self.scene * np.float32(2**-4)
        far = np.roll(self.scene, 40, axis=1)
        for base, words in (
            (walked_in, r"the scene moved .* around 4[34]\d, 2[34]\d px"),
            (dim, "-4.0 EV from the frame"),
            (far, "shifted by 40.0, 0.0 px"),
            (
                skimage.transform.rotate(self.scene, 0.5, order=3, mode="edge"),
                "turned or bent by up to 3",
            ),
            (zoomed(self.scene), r"1\.00\d\d x the frame's size"),
            (reference("flower"), "does not show the same picture"),
            (reference("astronaut"), "differs|the same picture"),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadRequest, words):
                self.twin(base)

    def test_noise_alone_moves_nothing_at_any_iso(self) -> None:
        for iso in (400, 6400, 51_200):
            self.assertLess(self.twin(self.scene, iso).moved, 0.001, iso)
            as_kept_in_a_file = picture(np.clip(self.shot(self.scene, iso).pixels, 0, 1))
            made = twin_of(as_kept_in_a_file, self.shot(self.scene, 100, 2))
            self.assertLess(made.moved, 0.001, iso)
            # Noise cut off at black lifts dark means; it must not be taken for exposure.
            self.assertAlmostEqual(made.exposure, 0, delta=0.01)
