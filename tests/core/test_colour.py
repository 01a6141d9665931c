"""Colour against published data and the colour-science library."""

from __future__ import annotations

import dataclasses
import io
import unittest
import warnings

import numpy as np
from PIL import ImageCms

from glenhail.core.colour import icc, srgb
from glenhail.core.colour.difference import ciede2000
from glenhail.core.colour.lab import lab
from glenhail.core.measures.pixels import differences, lab_planes
from glenhail.standins.profile import matrix_profile

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import colour

# Sharma, Wu and Dalal, "The CIEDE2000 Color-Difference Formula: Implementation Notes, Supplementary
# Test Data, and Mathematical Observations", Color Research and Application 30 (2005), table 1: L1
# a1 b1 L2 a2 b2 dE00.
SHARMA = np.array(
    [
        [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
        [50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615],
        [50, 2.8361, -74.0200, 50, 0, -82.7485, 3.4412],
        [50, -1.3802, -84.2814, 50, 0, -82.7485, 1.0000],
        [50, -1.1848, -84.8006, 50, 0, -82.7485, 1.0000],
        [50, -0.9009, -85.5211, 50, 0, -82.7485, 1.0000],
        [50, 0, 0, 50, -1, 2, 2.3669],
        [50, -1, 2, 50, 0, 0, 2.3669],
        [50, 2.4900, -0.0010, 50, -2.4900, 0.0009, 7.1792],
        [50, 2.4900, -0.0010, 50, -2.4900, 0.0010, 7.1792],
        [50, 2.4900, -0.0010, 50, -2.4900, 0.0011, 7.2195],
        [50, 2.4900, -0.0010, 50, -2.4900, 0.0012, 7.2195],
        [50, -0.0010, 2.4900, 50, 0.0009, -2.4900, 4.8045],
        [50, -0.0010, 2.4900, 50, 0.0010, -2.4900, 4.8045],
        [50, -0.0010, 2.4900, 50, 0.0011, -2.4900, 4.7461],
        [50, 2.5, 0, 50, 0, -2.5, 4.3065],
        [50, 2.5, 0, 73, 25, -18, 27.1492],
        [50, 2.5, 0, 61, -5, 29, 22.8977],
        [50, 2.5, 0, 56, -27, -3, 31.9030],
        [50, 2.5, 0, 58, 24, 15, 19.4535],
        [50, 2.5, 0, 50, 3.1736, 0.5854, 1.0000],
        [50, 2.5, 0, 50, 3.2972, 0, 1.0000],
        [50, 2.5, 0, 50, 1.8634, 0.5757, 1.0000],
        [50, 2.5, 0, 50, 3.2592, 0.3350, 1.0000],
        [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
        [63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.2630],
        [61.2901, 3.7196, -5.3901, 61.4292, 2.2480, -4.9620, 1.8731],
        [35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645],
        [22.7233, 20.0904, -46.6940, 23.0331, 14.9730, -42.5619, 2.0373],
        [36.4612, 47.8580, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146],
        [90.8027, -2.0831, 1.4410, 91.1528, -1.6435, 0.0447, 1.4441],
        [90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381],
        [6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377],
        [2.0776, 0.0795, -1.1350, 0.9033, -0.0636, -0.5514, 0.9082],
    ]
)


class Difference(unittest.TestCase):
    def test_ciede2000_gives_the_34_published_differences(self) -> None:
        self.assertEqual(len(SHARMA), 34)
        np.testing.assert_allclose(
            ciede2000(SHARMA[:, :3], SHARMA[:, 3:6]), SHARMA[:, 6], atol=1e-4
        )
        np.testing.assert_allclose(
            ciede2000(SHARMA[:, 3:6], SHARMA[:, :3]), SHARMA[:, 6], atol=1e-4
        )

    def test_the_map_over_a_picture_agrees_with_colour_science(self) -> None:
        rng = np.random.default_rng(2)
        one = (rng.random((40, 50, 3)) * 255).astype(np.float32)
        two = np.clip(one + rng.normal(0, 9, one.shape), -20, 280).astype(np.float32)
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            labs = [
                colour.XYZ_to_Lab(
                    colour.sRGB_to_XYZ(p.astype(float) / 255),
                    colour.CCS_ILLUMINANTS["cie_2_1931"]["D65"],
                )
                for p in (one, two)
            ]
            want = colour.delta_E(*labs, method="CIE 2000")
        linear = [srgb.decode(p / np.float32(255)) for p in (one, two)]
        inside = ((one >= 0) & (one <= 255) & (two >= 0) & (two <= 255)).all(axis=2)
        np.testing.assert_allclose(differences(*linear)[inside], want[inside], atol=5e-3)
        np.testing.assert_allclose(
            lab_planes(linear[0]), np.moveaxis(lab(linear[0]), 2, 0), atol=2e-3
        )


class Transfer(unittest.TestCase):
    def test_srgb_curve_is_the_standards_and_keeps_the_sign_beyond_0_and_1(self) -> None:
        linear = np.linspace(0, 1, 4001, dtype=np.float32).reshape(1, -1)
        want = colour.models.eotf_inverse_sRGB(linear.astype(float))
        np.testing.assert_allclose(srgb.encode(linear), want, atol=2e-6)
        beyond = np.array([[-0.3, -0.001, 0.5, 1.7]], dtype=np.float32)
        np.testing.assert_allclose(srgb.decode(srgb.encode(beyond)), beyond, atol=1e-6)
        np.testing.assert_allclose(
            srgb.decode(np.float64(0.5)), colour.models.eotf_sRGB(0.5), atol=1e-12
        )

    def test_display_codes_are_within_one_of_exact_rounding(self) -> None:
        linear = np.random.default_rng(3).random((60, 70, 3)).astype(np.float32) ** 3
        exact = np.round(srgb.encode(linear) * 255)
        shown = srgb.to_display(linear).astype(int)
        self.assertLessEqual(np.abs(shown - exact).max(), 1)
        self.assertLess((shown != exact).mean(), 0.02)

    def test_lab_of_white_grey_and_red(self) -> None:
        # CIE 15:2018; red of sRGB as widely tabled: 53.24, 80.09, 67.20 (from memory, checked to
        # 0.02).
        found = lab(np.array([[1, 1, 1], [0.18418652, 0.18418652, 0.18418652], [1, 0, 0]]))
        np.testing.assert_allclose(
            found, [[100, 0, 0], [50, 0, 0], [53.24, 80.09, 67.20]], atol=0.02
        )


class Profiles(unittest.TestCase):
    # Primaries, white and gamma (None: sRGB's curve); gammas as a profile can hold them, in steps
    # of 1/256. opRGB is IEC 61966-2-5; Display P3 is SMPTE EG 432-1's primaries with D65; the wide
    # space is ISO 22028-2's ROMM RGB.
    D65 = (0.3127, 0.3290)
    SPACES = {
        "opRGB": (((0.64, 0.33), (0.21, 0.71), (0.15, 0.06)), D65, 563 / 256),
        "Display P3": (((0.680, 0.320), (0.265, 0.690), (0.150, 0.060)), D65, None),
        # ICC.1:2022 rounds D50 to four digits; a D50 space is meant to have just that white.
        "wide": (
            ((0.7347, 0.2653), (0.1596, 0.8404), (0.0366, 0.0001)),
            (0.9642 / 2.7891, 1 / 2.7891),
            461 / 256,
        ),
        "linear": (((0.64, 0.33), (0.30, 0.60), (0.15, 0.06)), D65, 1.0),
    }

    def test_matrix_profiles_follow_the_published_mathematics_to_10_in_65535(self) -> None:
        rng = np.random.default_rng(4)
        codes = rng.integers(0, 65536, (30, 40, 3), dtype=np.uint16)
        for name, (chromaticities, white, gamma) in self.SPACES.items():
            with self.subTest(name), warnings.catch_warnings():
                warnings.simplefilter("ignore")
                space = np.array(chromaticities)
                raw = matrix_profile(space, white, gamma)
                values = codes / 65535
                linear = values**gamma if gamma else colour.models.eotf_sRGB(values)
                to_xyz = colour.normalised_primary_matrix(space, white)
                xyz = linear @ to_xyz.T
                adapted = colour.adaptation.chromatic_adaptation_VonKries(
                    xyz,
                    colour.xy_to_XYZ(white),
                    colour.xy_to_XYZ((0.3127, 0.3290)),
                    transform="Bradford",
                )
                primaries = np.array([[0.64, 0.33], [0.30, 0.60], [0.15, 0.06]])
                want = (
                    adapted
                    @ np.linalg.inv(colour.normalised_primary_matrix(primaries, (0.3127, 0.3290))).T
                )
                found = icc.to_linear(codes, icc.read_profile(raw))
                self.assertLess(np.abs(found - want).max() * 65535, 10)

    def test_values_outside_srgb_survive(self) -> None:
        raw = matrix_profile(
            np.array([[0.7347, 0.2653], [0.1596, 0.8404], [0.0366, 0.0001]]), (0.3457, 0.3585), 1.8
        )
        green = icc.to_linear(np.array([[[0, 65535, 0]]], dtype=np.uint16), icc.read_profile(raw))
        self.assertLess(green.min(), -0.05)

    def test_littlecms_own_srgb_is_taken_as_exactly_srgb(self) -> None:
        raw = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        self.assertTrue(icc.read_profile(raw).is_srgb)

    def test_the_way_through_tables_agrees_with_the_mathematics(self) -> None:
        # The same wide profile once by its matrix and once through the library that reads table
        # profiles.
        raw = matrix_profile(np.array([[0.68, 0.32], [0.265, 0.69], [0.15, 0.06]]), self.D65, None)
        inside = np.random.default_rng(6).integers(20000, 40000, (20, 30, 3), dtype=np.uint16)
        profile = icc.read_profile(raw)
        by_library = icc.to_linear(inside, dataclasses.replace(profile, curves=None, matrix=None))
        np.testing.assert_allclose(by_library, icc.to_linear(inside, profile), atol=2e-3)

    def test_damaged_profiles_are_refused_with_a_reason(self) -> None:
        good = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        for name, raw in {"text": b"not a profile" * 20, "short": good[:150], "empty": b""}.items():
            with self.subTest(name), self.assertRaises(icc.BadProfile):
                icc.read_profile(io.BytesIO(raw).getvalue())
