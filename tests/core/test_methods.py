"""Built-in methods against the libraries they come from, against closed forms, and cut
into bands in different ways.
"""

from __future__ import annotations

import unittest
from collections.abc import Callable
from typing import Any

import cv2
import numpy as np
import pywt
import scipy.ndimage
import scipy.special
from skimage import data, restoration
from skimage.metrics import peak_signal_noise_ratio

from glenhail.core.colour import srgb
from glenhail.core.colour.lumachroma import join, noise_level, split
from glenhail.core.errors import BadRequest
from glenhail.core.filters import kernels as blur
from glenhail.core.methods.catalogue import METHODS
from glenhail.core.methods.method import Domain, take_apart
from glenhail.core.methods.sharpen import unsharp
from glenhail.core.methods.treat import Part, treat
from glenhail.core.picture import Floats

HALF_A_CODE = 0.5 / 65535


def photo(height: int = 300, width: int = 220, noise: float = 0.02) -> Floats:
    """A part of scikit-image's own photograph of a cat, with noise, as linear light."""
    encoded = data.chelsea()[:height, 100 : 100 + width].astype(np.float32) / 255
    noisy = np.clip(encoded + np.random.default_rng(4).normal(0, noise, encoded.shape), 0.02, 1)
    return srgb.decode(noisy.astype(np.float32))


def psnr(made: Floats, clean: Floats) -> float:
    return float(peak_signal_noise_ratio(clean, made, data_range=1))


def by_plane(linear: Floats, domain: Domain, work: Callable[[Floats, int], Any]) -> Floats:
    """A library's function on each plane of a domain."""
    planes = [np.asarray(work(p, i), np.float32) for i, p in enumerate(take_apart(linear, domain))]
    if domain is Domain.LUMA_AND_COLOUR:
        return join(planes[0], planes[1:])
    return np.asarray(
        srgb.decode(np.stack(planes, -1)) if domain is Domain.ENCODED else np.stack(planes, -1)
    )


def mirrored(work: Callable[[Floats], Any], margin: int) -> Callable[[Floats, int], Any]:
    """A library's function on a plane with mirrored borders."""
    return lambda p, i: work(np.pad(p, margin, mode="symmetric"))[
        margin : margin + p.shape[0], margin : margin + p.shape[1]
    ]


class Libraries(unittest.TestCase):
    """The same settings give what scipy, OpenCV, PyWavelets and scikit-image give by
    themselves.
    """

    def setUp(self) -> None:
        self.linear = photo()
        luma, colour = split(self.linear)
        self.sigma = [noise_level(p) for p in (luma, *colour)]

    def test_each_method_gives_what_its_library_gives(self) -> None:
        sigma, kernel = self.sigma, blur.disc_kernel(2).astype(np.float32)
        yuv, linear = Domain.LUMA_AND_COLOUR, Domain.LINEAR

        def wavelet(p: Floats, i: int) -> Any:
            return restoration.denoise_wavelet(
                p, sigma=sigma[i], wavelet="db2", mode="soft", method="VisuShrink", wavelet_levels=4
            )

        universal = float(
            np.sqrt(2 * np.log(self.linear[..., 0].size))
        )  # VisuShrink's threshold, in noise
        cases: list[tuple[str, dict[str, Any], Domain, Callable[[Floats, int], Any]]] = [
            (
                "gaussian",
                {"luma": 1.2, "colour": 3},
                yuv,
                lambda p, i: scipy.ndimage.gaussian_filter(p, (1.2, 3, 3)[i]),
            ),
            (
                "median",
                {"luma": "3 px", "colour": "5 px"},
                yuv,
                lambda p, i: scipy.ndimage.median_filter(p, (3, 5, 5)[i], mode="nearest"),
            ),
            (
                "bilateral",
                {"luma": 3, "colour": 6, "space": 2},
                yuv,
                lambda p, i: cv2.bilateralFilter(p, 7, (3, 6, 6)[i] * sigma[i], 2),
            ),
            (
                "means",
                {"luma": 0.8, "colour": 1.5},
                yuv,
                lambda p, i: restoration.denoise_nl_means(
                    p.astype(float), patch_size=5, patch_distance=6, h=(0.8, 1.5, 1.5)[i] * sigma[i]
                ),
            ),
            (
                "variation",
                {"luma": 2, "colour": 4},
                yuv,
                lambda p, i: restoration.denoise_tv_chambolle(
                    p, (2, 4, 4)[i] * sigma[i], eps=0, max_num_iter=60
                ),
            ),
            ("wavelet", {"luma": universal, "colour": universal}, yuv, wavelet),
            (
                "laplacian",
                {"gain": 1, "reach": 1, "on": "each channel"},
                Domain.ENCODED,
                lambda p, i: p - scipy.ndimage.gaussian_laplace(p, 1, mode="nearest"),
            ),
            (
                "wiener",
                {"kernel": "disc", "size": 2, "balance": 0.1},
                linear,
                mirrored(lambda p: restoration.wiener(p, kernel, 0.1, clip=False), 250),
            ),
            (
                "lucy",
                {"kernel": "disc", "size": 2, "rounds": 8},
                linear,
                mirrored(
                    lambda p: restoration.richardson_lucy(p, kernel, num_iter=8, clip=False), 60
                ),
            ),
        ]
        for name, values, domain, library in cases:
            with self.subTest(name):
                ours, theirs = (
                    treat(self.linear, name, values),
                    by_plane(self.linear, domain, library),
                )
                self.assertLess(
                    np.abs(srgb.encode(ours) - srgb.encode(theirs)).max(),
                    2e-5 if name == "lucy" else HALF_A_CODE,
                )

    def test_unsupervised_wiener_comes_as_near_as_the_library_does(self) -> None:
        clean = photo(noise=0)
        kernel = blur.gaussian_kernel(1.5)
        blurred = blur.blur(clean, kernel) + np.random.default_rng(1).normal(
            0, 0.004, clean.shape
        ).astype(np.float32)
        ours = treat(
            blurred.astype(np.float32), "unsupervised", {"kernel": "gaussian", "size": 1.5}
        )
        theirs = by_plane(
            blurred,
            Domain.LINEAR,
            lambda p, i: restoration.unsupervised_wiener(p, kernel, clip=False, rng=0)[0],
        )
        inner = np.s_[20:-20, 20:-20]
        ours_db, theirs_db, before = (psnr(p[inner], clean[inner]) for p in (ours, theirs, blurred))
        self.assertGreater(ours_db, before + 1)
        self.assertLess(abs(ours_db - theirs_db), 0.5)


class Bands(unittest.TestCase):
    def test_no_method_depends_on_how_the_picture_is_cut(self) -> None:
        linear = photo(500, 96)
        for name, method in METHODS.items():
            with self.subTest(name):
                values = (
                    {"factor": 1.7}
                    if method.work is None
                    else {"colour": "3 px"}
                    if name == "median"
                    else {}
                )
                whole, cut = (treat(linear, name, values, rows=rows) for rows in (500, 64))
                self.assertEqual(whole.shape, cut.shape)
                self.assertLess(np.abs(srgb.encode(whole) - srgb.encode(cut)).max(), HALF_A_CODE)

    def test_strength_blends_and_a_part_leaves_the_rest_alone(self) -> None:
        linear = photo(200, 200)
        full, half = (
            take_apart(treat(linear, "gaussian", {"luma": 3}, strength=s), Domain.LUMA_AND_COLOUR)
            for s in (100, 50)
        )
        given = take_apart(linear, Domain.LUMA_AND_COLOUR)
        np.testing.assert_allclose(half[0], (full[0] + given[0]) / 2, atol=1e-6)
        part = treat(linear, "unsharp", {}, part=Part(25, 50, 50, 25), rows=64)
        np.testing.assert_array_equal(part[:100], linear[:100])
        np.testing.assert_array_equal(part[100:150, :50], linear[100:150, :50])
        np.testing.assert_allclose(
            part[100:150, 50:150], treat(linear, "unsharp", {})[100:150, 50:150], atol=1e-6
        )

    def test_what_is_asked_for_wrongly_is_told(self) -> None:
        for name, values, words in (
            ("nothing", {}, "There are nearest"),
            ("unsharp", {"gain": 9}, "from 0.05 to 6 x"),
            ("laplacian", {"gain": 0}, "from 0.05 to 6 x"),
            ("high_pass", {"gain": 6.1}, "from 0.05 to 6 x"),
            ("bicubic", {"factor": 9}, "from 0.1 to 8 x"),
            ("median", {"luma": "7 px"}, "none, 3 px, 5 px"),
            ("gaussian", {"size": 2}, "it has luma, colour"),
        ):
            with self.subTest(name), self.assertRaisesRegex(BadRequest, words):
                treat(photo(64, 64), name, values)
        for how in ({"strength": 50}, {"part": Part(0, 0, 50, 50)}):
            with self.assertRaisesRegex(BadRequest, "it changes the size"):
                treat(photo(64, 64), "bicubic", {}, **how)


class ClosedForms(unittest.TestCase):
    def test_unsharp_of_an_ideal_edge_overshoots_as_worked_out_by_hand(self) -> None:
        # A step of s between pixels, sampled at their centres: s (1 + a) Q(x) - a s G(x / sigma),
        # with Q the step and G the normal distribution. Nearest the edge (x = 0.5): overshoot a s
        # G(-0.5 / sigma); sigma 2, amount 150 %: 0.602 s.
        sigma, amount, step = 2.0, 1.5, 0.4
        row = np.where(np.arange(64) < 32, 0.3, 0.3 + step).astype(np.float32)
        made = unsharp(np.tile(row, (40, 1)), amount, sigma)[20]
        x = np.arange(64) - 31.5
        expected = row + amount * (row - 0.3 - step * scipy.special.ndtr(x / sigma))
        # A sampled Gaussian is not quite the integral over pixels.
        np.testing.assert_allclose(made, expected, atol=0.004)
        self.assertAlmostEqual(
            (made.max() - 0.7) / step, amount * scipy.special.ndtr(-0.5 / sigma), delta=0.005
        )

    def test_wiener_on_a_5_x_5_blur_and_noise_raises_psnr(self) -> None:
        # Common practice, no source: PRACTICE's check value. scikit-image's gallery shows the same
        # on the same kind of blur.
        clean = photo(noise=0)
        degraded = blur.blur(clean, blur.uniform_kernel(5))
        degraded = (degraded + np.random.default_rng(2).normal(0, 0.005, clean.shape)).astype(
            np.float32
        )
        restored = treat(degraded, "wiener", {"kernel": "square", "size": 2, "balance": 0.005})
        self.assertGreater(psnr(restored, clean), psnr(degraded, clean) + 2)

    def test_resampling_a_wave_gives_the_kernel_s_own_answer(self) -> None:
        # cos(2 pi f x) resampled by 2 by an interpolating kernel k: at distance d from the nearest
        # sample the value is sum_n k(n - d) cos(2 pi f n). Keys 1981 (a = -0.5); Duchon 1979 with 3
        # lobes; each normalised to 1.
        def keys(t: Any) -> Any:
            t = np.abs(t)
            return np.where(
                t < 1,
                1.5 * t**3 - 2.5 * t**2 + 1,
                np.where(t < 2, -0.5 * t**3 + 2.5 * t**2 - 4 * t + 2, 0),
            )

        kernels: dict[str, Callable[[Any], Any]] = {
            "bilinear": lambda t: np.clip(1 - np.abs(t), 0, None),
            "bicubic": keys,
            "lanczos": lambda t: np.where(np.abs(t) < 3, np.sinc(t) * np.sinc(t / 3), 0),
        }
        n = np.arange(96)
        wave = (0.5 + 0.3 * np.cos(2 * np.pi * 0.11 * (n + 0.5))).astype(np.float32)
        for name, kernel in kernels.items():
            made = treat(np.repeat(np.tile(wave, (16, 1))[..., None], 3, -1), name, {"factor": 2})[
                16, :, 0
            ]
            at = (np.arange(192) + 0.5) / 2 - 0.5
            weights = kernel(at[:, None] - n[None, :])
            expected = weights @ wave / weights.sum(1)
            with self.subTest(name):
                np.testing.assert_allclose(made[12:-12], expected[12:-12], atol=2e-6)
                if name == "lanczos":  # and a band-limited wave comes back as itself
                    np.testing.assert_allclose(
                        made[12:-12],
                        0.5 + 0.3 * np.cos(2 * np.pi * 0.11 * (at[12:-12] + 0.5)),
                        atol=0.004,
                    )

    def test_area_averages_keep_the_mean(self) -> None:
        linear = photo(150, 210)
        small = treat(linear, "area", {"factor": 0.4})
        self.assertEqual(small.shape, (60, 84, 3))
        np.testing.assert_allclose(small.mean((0, 1)), linear.mean((0, 1)), rtol=1e-5)


class Wavelets(unittest.TestCase):
    def test_the_reach_is_as_far_as_a_wavelet_sees(self) -> None:
        from glenhail.core.methods.denoise import LEVELS, WAVELET, wavelet_reach

        self.assertGreaterEqual(
            wavelet_reach({}, {}), (pywt.Wavelet(WAVELET).dec_len - 1) * (2**LEVELS - 1) * 2
        )
