"""Target sheets: what they show follows from mathematics, and they are found and
measured in a photograph.
"""

from __future__ import annotations

import json
import math
import tempfile
import unittest
from pathlib import Path

import numpy as np
import scipy.fft
import scipy.ndimage

from glenhail.core.__main__ import main
from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.errors import BadRequest, NotMeasurable
from glenhail.core.files.decoding import read_picture
from glenhail.core.filters import kernels as blur
from glenhail.core.measures.spectra import transfer
from glenhail.core.picture import Floats
from glenhail.core.targets.detection import SheetPose, find
from glenhail.core.targets.fields import KINDS
from glenhail.core.targets.layout import Sheet, number_of, paint, sheet_of, strip_bits
from glenhail.core.targets.measuring import FieldReading, SheetMeasurement, read_sheet
from glenhail.core.targets.shapes import leaf_sizes, leaves
from tests.pictures import photograph as reference
from tests.pictures import picture

ALL = {"width": 1500, "height": 1000, "blur": 0.6, "fields": [{"kind": kind} for kind in KINDS]}
SENSOR = Sensor(42_000, 3.6)


def laid(
    plane: Floats,
    scale: float,
    turn: float,
    tilt: float,
    size: tuple[int, int],
    at: tuple[float, float],
) -> tuple[Floats, np.ndarray]:
    """A sheet seen from somewhere, on a dark wall; and the mapping that did it."""
    c, s = scale * math.cos(math.radians(turn)), scale * math.sin(math.radians(turn))
    matrix = np.array([[c, -s, at[0]], [s, c, at[1]], [tilt, tilt / 2, 1]])
    y, x = np.mgrid[0 : size[1], 0 : size[0]] + 0.5
    sx, sy = SheetPose(matrix).to_sheet(x, y)
    seen = scipy.ndimage.map_coordinates(plane, [sy - 0.5, sx - 0.5], order=3, cval=0.1)
    return np.repeat(seen[..., None].astype(np.float32), 3, axis=2), matrix


class Painted(unittest.TestCase):
    sheet: Sheet
    pixels: Floats

    @classmethod
    def setUpClass(cls) -> None:
        cls.sheet = sheet_of(ALL)
        cls.pixels = paint(cls.sheet)

    def told(self, pixels: Floats, sheet: Sheet | None = None) -> SheetMeasurement:
        found = find(pixels[..., 1])
        assert found is not None
        return read_sheet(picture(pixels), sheet or self.sheet, found.lie(sheet or self.sheet))

    def value(self, told: SheetMeasurement, name: str) -> float:
        reading = self.row(told, name)
        assert reading.value is not None, reading
        return reading.value

    def row(self, told: SheetMeasurement, name: str) -> FieldReading:
        return next(r for r in told.readings if r.name == name)

    def test_under_a_gaussian_edges_and_star_give_its_analytic_mtf(self) -> None:
        # The MTF of a Gaussian is exp(-2 (pi sigma f)^2): 0.18739 / sigma at one half, 0.34155 /
        # sigma at a tenth.
        for more in (0.0, 1.2):
            pixels = blur.blur(self.pixels, blur.gaussian_kernel(more)) if more else self.pixels
            sigma, told = math.hypot(0.6, more), self.told(pixels)
            for side in ("right", "bottom", "left", "top"):
                self.assertAlmostEqual(
                    self.value(told, f"MTF50, {side} edge") * sigma, 0.18739, delta=0.002
                )
            self.assertAlmostEqual(self.value(told, "Star MTF50") * sigma, 0.18739, delta=0.003)
            if more:
                self.assertAlmostEqual(self.value(told, "Star MTF10") * sigma, 0.34155, delta=0.004)
                self.assertAlmostEqual(
                    self.value(told, "Texture MTF50") * more, 0.18739, delta=0.004
                )
                self.assertAlmostEqual(
                    self.value(told, "Lights, width") / 2.3548, sigma, delta=0.15
                )
            else:
                self.assertAlmostEqual(self.value(told, "Detail kept"), 100, delta=0.1)
                self.assertIn("up to 0.5", self.row(told, "Texture MTF50").reason or "")
            self.assertEqual(self.value(told, "Lights found again"), 100)
            self.assertAlmostEqual(self.value(told, "Lights, length over breadth"), 1, delta=0.05)

    def test_the_wedge_gives_exposure_tone_noise_and_range_of_a_body(self) -> None:
        iso, stops = 1600, 0.25
        shot = photograph(self.pixels * np.float32(2**-stops), SENSOR, iso, 3)
        told = self.told(shot)
        self.assertAlmostEqual(self.value(told, "Exposure"), -stops, delta=0.01)
        self.assertAlmostEqual(self.value(told, "Tone, slope in light"), 1, delta=0.01)
        # Photon transfer (Janesick 2007): signal n electrons, noise sqrt(n + read^2) a channel,
        # 0.77 of it in luminance.
        electrons = (
            SENSOR.electrons_at_white(iso) * 0.9 * 2**-stops * 2.0 ** np.arange(0, -14, -0.01)
        )
        snr = electrons / (
            np.sqrt(electrons + SENSOR.read_noise**2) * math.sqrt(0.2126**2 + 0.7152**2 + 0.0722**2)
        )
        reach = float(np.flatnonzero(snr < 1)[0]) * 0.01
        self.assertGreater(reach, 8)
        self.assertIn(
            "more than the wedge's 8 EV", self.row(told, "Range down to SNR 1").reason or ""
        )
        deep = sheet_of(ALL | {"fields": [{"kind": "wedge", "reach": -14, "steps": 15}]})
        told = self.told(photograph(paint(deep) * np.float32(2**-stops), SENSOR, iso, 3), deep)
        self.assertAlmostEqual(self.value(told, "Range down to SNR 1"), reach, delta=0.35)

    def test_fine_lines_are_seen_up_to_where_the_blur_leaves_a_tenth(self) -> None:
        told = self.told(blur.blur(self.pixels, blur.gaussian_kernel(1.2)))
        groups = np.geomspace(0.06, 0.4, 6)
        left = np.exp(-2 * (math.pi * math.hypot(0.6, 1.2) * groups) ** 2)
        for way in ("upright", "level"):
            self.assertAlmostEqual(
                self.value(told, f"Finest lines seen, {way}"), groups[left >= 0.1][-1], delta=0.002
            )
            curve = next(c for c in told.curves if c.name == f"Lines, {way}")
            np.testing.assert_allclose(curve.y, left, atol=0.02)

    def test_it_is_found_scaled_turned_tilted_and_in_noise_to_a_fraction_of_a_pixel(self) -> None:
        views = {
            "turned, smaller, on a wall": ((0.9, 3, 0, (1900, 1400), (160, 90)), 100, 0.05),
            "tilted": ((1.1, -4, 4e-5, (2200, 1600), (150, 260)), 100, 0.1),
            "half as large": ((0.5, 1, 0, (1000, 700), (60, 40)), 100, 0.1),
            "on its side": ((0.8, 90, 0, (1200, 1400), (1000, 60)), 100, 0.05),
            "in noise": ((1.0, 2, 0, (1700, 1200), (90, 40)), 25_600, 0.35),
        }
        for name, (view, iso, close) in views.items():
            with self.subTest(name):
                seen, matrix = laid(self.pixels[..., 0], *view)
                found = find(photograph(seen, SENSOR, iso, 1)[..., 1])
                assert found is not None
                self.assertEqual(found.number, self.sheet.number)
                for (x, y), mark in zip(self.sheet.marks, found.marks, strict=True):
                    px, py = SheetPose(matrix).to_picture(x, y)
                    self.assertLess(math.hypot(float(px) - mark.x, float(py) - mark.y), close)

    def test_a_turned_and_smaller_sheet_measures_as_it_should_and_one_on_its_side_says_so(
        self,
    ) -> None:
        seen, _ = laid(
            paint(sheet_of(ALL | {"blur": 1.5}))[..., 0], 0.7, 3, 0, (1300, 900), (90, 30)
        )
        told = self.told(seen, sheet_of(ALL | {"blur": 1.5}))
        for name in ("MTF50, right edge", "MTF50, top edge", "Star MTF50"):
            self.assertAlmostEqual(self.value(told, name) * 1.5 * 0.7, 0.18739, delta=0.008)
        # The field is averaged over the picture's pixels; this one was sampled at points, and keeps
        # a little more.
        self.assertAlmostEqual(self.value(told, "Detail kept"), 102, delta=3)
        self.assertGreater(self.value(told, "Lights found again"), 95)
        side, _ = laid(self.pixels[..., 0], 0.8, 90, 0, (1200, 1400), (1000, 60))
        with self.assertRaisesRegex(NotMeasurable, "turned by 90°"):
            self.told(side)

    def test_pictures_without_a_sheet_hold_none(self) -> None:
        for name in ("china", "flower", "astronaut", "coffee"):
            self.assertIsNone(find(reference(name)[..., 1]))
        self.assertIsNone(find(np.zeros((700, 900), np.float32)))
        self.assertIsNone(find(self.pixels[:, :1200, 1]), "a mark is cut off")

    def test_the_strip_tells_its_number_and_notices_one_wrong_cell(self) -> None:
        for number in (0, 1, 0xDEADBEEF, 2**32 - 1):
            bits = strip_bits(number)
            self.assertEqual(number_of(bits), number)
            for i in range(len(bits)):
                self.assertIsNone(number_of([b ^ (i == k) for k, b in enumerate(bits)]))

    def test_what_can_not_be_painted_is_refused_with_what_is_valid(self) -> None:
        for values, words in (
            ({}, "1 to 12 fields"),
            (ALL | {"width": 30}, "from 400 to 12,000"),
            (ALL | {"blur": 0}, "from 0.3 to 5"),
            (ALL | {"fields": [{"kind": "flower"}]}, "Choose among edges, leaves"),
            (ALL | {"fields": [{"kind": "edges", "angle": 60}]}, "from 2 to 20 °"),
            (ALL | {"fields": [{"kind": "edges", "size": 1}]}, "it has no size; it has angle"),
            (
                {"width": 400, "height": 400, "fields": [{"kind": "leaves"}] * 12},
                "needs 128 px a side",
            ),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadRequest, words):
                sheet_of(values)

    def test_a_sheet_is_the_same_every_time_and_knows_its_edges_and_lights(self) -> None:
        np.testing.assert_array_equal(
            paint(sheet_of(json.loads(json.dumps(self.sheet.as_json())))), self.pixels
        )
        known = self.sheet.known()
        self.assertEqual((len(known.edges), known.edges[0].name), (4, "Field 1, right edge"))
        self.assertAlmostEqual(abs(known.edges[0].angle), 5, delta=1e-9)
        for light in known.lights[:10]:
            around = self.pixels[
                int(light.y) - 2 : int(light.y) + 3, int(light.x) - 2 : int(light.x) + 3, 0
            ]
            self.assertGreater(around.max(), 0.6 * light.peak)

    def test_the_command_line_paints_a_sheet_and_measures_a_picture_of_it(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            (folder / "sheet.json").write_text(json.dumps(ALL))
            self.assertEqual(
                main(["target", str(folder / "sheet.json"), str(folder / "sheet.tif")]), 0
            )
            self.assertLess(
                np.abs(read_picture(folder / "sheet.tif").pixels - self.pixels.clip(0, 1)).max(),
                1e-3,
            )
            self.assertEqual(
                main(
                    ["read-target", str(folder / "sheet.json"), str(folder / "sheet.tif"), "--json"]
                ),
                0,
            )
            (folder / "sheet.json").write_text("[]")
            self.assertEqual(
                main(["target", str(folder / "sheet.json"), str(folder / "sheet.tif")]), 2
            )


class Leaves(unittest.TestCase):
    def test_sizes_follow_r_to_the_minus_three(self) -> None:
        radius = leaf_sizes(2, 50, 200_000, np.random.default_rng(1))
        # P(r < x) = (2^-2 - x^-2) / (2^-2 - 50^-2).
        for x in (2.5, 4.0, 10.0, 30.0):
            self.assertAlmostEqual(
                float((radius < x).mean()), (2**-2 - x**-2) / (2**-2 - 50**-2), delta=0.004
            )

    def test_the_power_spectrum_falls_with_the_slope_of_the_published_model(self) -> None:
        # Cao et al. 2009 and later work on the target fit its power by c / f^n with n near 1.93
        # (value from memory).
        plane = leaves(768, 768, 1.0, 190.0, 0.1, 0.7, 5, 0.3)
        power = (
            np.abs(
                scipy.fft.fft2((plane - plane.mean()) * np.outer(np.hanning(768), np.hanning(768)))
            )
            ** 2
        )
        f = np.hypot(*np.meshgrid(scipy.fft.fftfreq(768), scipy.fft.fftfreq(768)))
        bins = np.geomspace(0.01, 0.2, 16)
        middle = np.sqrt(bins[:-1] * bins[1:])
        radial = [
            power[(f >= a) & (f < b)].mean() for a, b in zip(bins[:-1], bins[1:], strict=True)
        ]
        slope = np.polyfit(np.log(middle), np.log(radial), 1)[0]
        self.assertAlmostEqual(-slope, 1.93, delta=0.2)


class Spectra(unittest.TestCase):
    def test_detail_kept_counts_only_what_is_there_and_added_what_is_not(self) -> None:
        truth = leaves(512, 512, 1.5, 60, 0.1, 0.7, 2, 0.5)
        rng = np.random.default_rng(3)
        noise = rng.normal(0, 0.05, truth.shape).astype(np.float32)
        same, noisy = transfer(truth, truth), transfer(truth, truth + noise)
        self.assertAlmostEqual(same.mean_kept(0.05, 0.4), 100, delta=1e-3)
        self.assertAlmostEqual(same.mean_added(0.05, 0.4), 0, delta=1e-3)
        self.assertAlmostEqual(noisy.mean_kept(0.05, 0.4), 100, delta=1)
        # White noise of known power: 0.05^2 a pixel at every frequency, seen through the same
        # window.
        window = np.outer(np.hanning(129)[:128], np.hanning(129)[:128])
        inside = (noisy.frequency >= 0.05) & (noisy.frequency <= 0.4)
        expected = 100 * 0.05**2 * (window**2).sum() * inside.sum() / noisy.power[inside].sum()
        self.assertAlmostEqual(noisy.mean_added(0.05, 0.4) / expected, 1, delta=0.05)
        soft = transfer(truth, scipy.ndimage.gaussian_filter(truth, 1.0))
        want = np.exp(-2 * (np.pi * soft.frequency) ** 2)
        low = soft.frequency < 0.3
        np.testing.assert_allclose(soft.kept[low], want[low], atol=0.02)
        shifted = transfer(truth, scipy.ndimage.shift(truth, (0.4, -0.3), order=5, mode="nearest"))
        self.assertAlmostEqual(shifted.mean_kept(0.05, 0.3), 100, delta=2)
        invented = transfer(truth, leaves(512, 512, 1.5, 60, 0.1, 0.7, 9, 0.5))
        self.assertLess(abs(invented.mean_kept(0.05, 0.4)), 10)
        self.assertGreater(invented.mean_added(0.05, 0.4), 80)
        with self.assertRaisesRegex(NotMeasurable, "48 × 48"):
            transfer(truth[:40, :40], truth[:40, :40])
