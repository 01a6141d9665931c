"""Known degradations against closed forms and other libraries; recipes read, refused,
repeated.
"""

from __future__ import annotations

import json
import tempfile
import unittest
from pathlib import Path

import numpy as np
import scipy.ndimage
import skimage.metrics
import skimage.restoration
import skimage.transform

from glenhail.core.colour import srgb
from glenhail.core.degrade.recipe import Recipe, degrade, recipe_of, series
from glenhail.core.degrade.steps import STEPS
from glenhail.core.errors import BadRequest
from glenhail.core.files.encoding import write_tiff
from glenhail.core.filters import kernels as blur
from tests.pictures import photograph


def recipe(*steps: dict[str, object], seed: int = 1) -> Recipe:
    return recipe_of({"seed": seed, "steps": list(steps)})


class Blurs(unittest.TestCase):
    def test_uniform_and_gaussian_are_those_of_scipy(self) -> None:
        picture = photograph("china")
        inner = np.s_[20:-20, 20:-20]
        for made, theirs in (
            (
                blur.blur(picture, blur.uniform_kernel(5)),
                scipy.ndimage.uniform_filter(picture, (5, 5, 0), mode="reflect"),
            ),
            (
                blur.blur(picture, blur.gaussian_kernel(1.3)),
                scipy.ndimage.gaussian_filter(picture, (1.3, 1.3, 0)),
            ),
        ):
            np.testing.assert_allclose(made[inner], theirs[inner], atol=2e-5)

    def test_a_disc_and_a_line_are_dark_where_their_transforms_say(self) -> None:
        # Goodman, Introduction to Fourier Optics: a disc's transform 2 J1(z)/z first falls to zero
        # at z = 3.8317;
        # a line's sinc at 1 / length. 1.2 px of the pixel grid's own width are allowed for.
        for kernel, zero in (
            (blur.disc_kernel(6), 3.8317 / (2 * np.pi * 6)),
            (blur.motion_kernel(15, 0), 1 / 15),
        ):
            profile = kernel.sum(axis=0)
            f = np.linspace(0.01, 0.2, 400)
            at = np.arange(len(profile)) - len(profile) // 2
            mtf = np.abs((profile[None] * np.exp(-2j * np.pi * f[:, None] * at)).sum(1))
            self.assertAlmostEqual(
                f[int(np.argmax(np.diff(np.sign(np.diff(mtf))) > 0)) + 1], zero, delta=0.003
            )

    def test_every_kernel_keeps_the_light_and_moves_nothing(self) -> None:
        for kernel in (
            blur.uniform_kernel(7),
            blur.gaussian_kernel(2.2),
            blur.disc_kernel(3.4),
            blur.motion_kernel(9, 33),
        ):
            at = np.arange(kernel.shape[0]) - kernel.shape[0] // 2
            self.assertAlmostEqual(kernel.sum(), 1)
            self.assertAlmostEqual(
                abs((kernel.sum(0) * at).sum()) + abs((kernel.sum(1) * at).sum()), 0, delta=1e-9
            )


class Steps(unittest.TestCase):
    def test_a_wiener_filter_with_the_right_kernel_gains_on_uniform_blur_and_noise(self) -> None:
        # Common practice, no source. skimage.restoration.wiener after Hunt 1971.
        grey = np.repeat(srgb.encode(photograph("china")).mean(-1, keepdims=True), 3, -1)
        steps = (
            {"kind": "uniform_blur", "side": 5, "light": "encoded"},
            {"kind": "plain_noise", "sigma": 3, "colour": "grey"},
        )
        made = srgb.encode(degrade(srgb.decode(grey), recipe(*steps)))[..., 0]
        restored = skimage.restoration.wiener(made, np.full((5, 5), 1 / 25), 0.08)
        inner = np.s_[16:-16, 16:-16]
        before, after = (
            skimage.metrics.peak_signal_noise_ratio(grey[..., 0][inner], p[inner], data_range=1)
            for p in (made, restored)
        )
        self.assertGreater(after, before + 1)

    def test_noise_and_banding_have_the_size_that_was_asked_for(self) -> None:
        field = np.full((300, 300, 3), 0.2, np.float32)
        noisy = 255 * srgb.encode(degrade(field, recipe({"kind": "plain_noise", "sigma": 8})))
        self.assertAlmostEqual(float(noisy.std()), 8, delta=0.1)
        for along, axis in (("rows", 1), ("columns", 0)):
            banded = 255 * srgb.encode(
                degrade(field, recipe({"kind": "banding", "sigma": 4, "along": along}))
            )
            self.assertAlmostEqual(float(banded.mean(axis=(axis, 2)).std()), 4, delta=0.6)
            self.assertAlmostEqual(float(banded.std(axis=axis).max()), 0, delta=1e-3)

    def test_halving_by_area_is_a_local_mean_and_a_veil_is_worked_out_by_hand(self) -> None:
        picture = photograph("china")[:400, :600]
        half = degrade(picture, recipe({"kind": "shrink", "factor": 2, "filter": "area"}))
        np.testing.assert_allclose(
            half, skimage.transform.downscale_local_mean(picture, (2, 2, 1)), atol=1e-6
        )
        self.assertAlmostEqual(
            float(
                degrade(np.full((4, 4, 3), 0.5, np.float32), recipe({"kind": "haze", "veil": 10}))[
                    0, 0, 0
                ]
            ),
            0.55,
            delta=1e-6,
        )

    def test_a_lower_jpeg_quality_is_further_from_the_picture(self) -> None:
        picture = photograph("flower")
        errors = [
            float(
                np.square(degrade(picture, recipe({"kind": "jpeg", "quality": q})) - picture).mean()
            )
            for q in (95, 75, 40, 10)
        ]
        self.assertEqual(errors, sorted(errors))


class Recipes(unittest.TestCase):
    def test_the_same_recipe_gives_the_same_bytes_and_another_seed_other_ones(self) -> None:
        steps = ({"kind": "defocus"}, {"kind": "sensor_noise", "iso": 3200}, {"kind": "jpeg"})
        with tempfile.TemporaryDirectory() as folder:
            paths = [Path(folder) / f"{i}.tif" for i in range(3)]
            for path, seed in zip(paths, (7, 7, 8), strict=True):
                write_tiff(
                    path,
                    degrade(
                        photograph("china"),
                        recipe_of(json.loads(json.dumps(recipe(*steps, seed=seed).as_json()))),
                    ),
                )
            one, two, other = (p.read_bytes() for p in paths)
        self.assertTrue(one == two and one != other)

    def test_every_kind_works_with_its_usual_values_and_says_what_it_did(self) -> None:
        picture = photograph("china")[:120, :160]
        for kind in STEPS.values():
            with self.subTest(kind.id):
                made = recipe({"kind": kind.id})
                changed = degrade(picture, made)
                self.assertTrue(np.isfinite(changed).all())
                self.assertTrue(
                    changed.shape != picture.shape or np.abs(changed - picture).max() > 1e-4
                )
                self.assertIn(kind.title, made.words())

    def test_a_series_changes_one_number_only(self) -> None:
        made = series(
            recipe({"kind": "gaussian_blur"}, {"kind": "sensor_noise"}), 1, "iso", [100, 51200]
        )
        self.assertEqual([r.steps[1].named["iso"] for r in made], [100, 51200])
        self.assertEqual({r.steps[0] for r in made}, {made[0].steps[0]})
        self.assertNotEqual(made[0].key, made[1].key)

    def test_what_is_no_recipe_is_refused_with_what_would_be(self) -> None:
        for values, words in (
            ([], "1 to 12 steps"),
            ({"steps": []}, "1 to 12 steps"),
            ({"steps": [{"kind": "magic"}]}, "Choose among uniform_blur"),
            (
                {"steps": [{"kind": "jpeg", "quality": 0}]},
                "quality is a whole number from 1 to 100",
            ),
            ({"steps": [{"kind": "jpeg", "quality": True}]}, "quality is a whole number"),
            ({"steps": [{"kind": "jpeg", "colour": 1}]}, "it has quality, chroma"),
            ({"steps": [{"kind": "uniform_blur", "side": 4}]}, "the side is odd"),
            ({"steps": [{"kind": "gaussian_blur", "sigma": float("nan")}]}, "sigma is a number"),
            ({"steps": [{"kind": "shrink", "filter": "magic"}]}, "filter is one of"),
            ({"steps": [{"kind": "jpeg"}], "seed": -1}, "The seed is a whole number"),
            ({"steps": [{"kind": "jpeg"}], "version": 9}, "version 1 is known"),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadRequest, words):
                recipe_of(values)
        with self.assertRaisesRegex(BadRequest, "needs a picture larger"):
            degrade(np.zeros((20, 20, 3), np.float32), recipe({"kind": "defocus", "radius": 30}))
