"""Detail, contrast, edges within natural patches, artefacts and what else was changed:
all put in by other hands, and found.
"""

from __future__ import annotations

import math
import unittest

import numpy as np
import scipy.ndimage
from PIL import Image
from sewar.full_ref import msssim

from glenhail.core.colour import srgb
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.best import distance
from glenhail.core.measures.catalogue import MEASURES, Patch, measures_for, take, take_all
from glenhail.core.measures.lights import find_lights
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.segments import best_segment
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Floats, Mapping, Rect
from glenhail.core.targets.shapes import leaves
from tests.pictures import gaussian_edge, noisy, photograph, picture


def subject(
    made: Floats, frame: Floats, truth: Floats | None = None, mapping: Mapping | None = None
) -> Subject:
    output = picture(made)
    laid = (
        AlignedPicture(picture(truth), Mapping(), picture(truth).bounds)
        if truth is not None
        else None
    )
    return Subject(
        picture(frame), AlignedPicture(output, mapping or Mapping(), output.bounds), laid
    )


def read(s: Subject, measure: str, role: str, rect: Rect | None = None) -> Reading:
    return take(s, MEASURES[measure], Patch("p", role, rect or s.whole))


def value(reading: Reading) -> float:
    assert reading.value is not None, reading.reason
    return reading.value


LEAVES = leaves(384, 384, 1.5, 60, 0.1, 0.5, 9, 0.5)


def coded(linear: Floats, change: object) -> Floats:
    """A change of encoded values."""
    assert callable(change)
    return np.asarray(srgb.decode(np.asarray(change(srgb.encode(linear)), dtype=np.float32)))


class Detail(unittest.TestCase):
    def test_the_truth_keeps_all_a_blur_its_mtf_and_noise_changes_nothing(self) -> None:
        same = subject(LEAVES.copy(), LEAVES, LEAVES)
        self.assertAlmostEqual(value(read(same, "detail_kept", "texture")), 100, delta=0.01)
        self.assertAlmostEqual(value(read(same, "detail_added", "texture")), 0, delta=0.01)
        codes = srgb.encode(LEAVES)
        soft = srgb.decode(scipy.ndimage.gaussian_filter(codes, 0.8))
        found = read(subject(soft, LEAVES, LEAVES), "detail_kept", "texture")
        curve = found.details["transfer"]
        f = np.array(curve["cycles_per_frame_px"])
        inside = (f > 0.06) & (f < 0.33)
        # A Gaussian's own MTF, exp(-2 pi^2 s^2 f^2).
        np.testing.assert_allclose(
            np.array(curve["kept"])[inside],
            np.exp(-2 * (math.pi * 0.8 * f[inside]) ** 2),
            atol=0.03,
        )
        rough = soft + np.random.default_rng(1).normal(0, 0.01, soft.shape).astype(np.float32)
        noisier = read(subject(rough, LEAVES, LEAVES), "detail_kept", "texture")
        self.assertAlmostEqual(value(noisier), value(found), delta=1.5)
        assert noisier.low is not None and noisier.high is not None
        self.assertTrue(noisier.low < value(found) < noisier.high)

    def test_added_power_is_that_of_independent_noise(self) -> None:
        codes = srgb.encode(LEAVES)
        found = []
        for sigma in (0.01, 0.02):
            grain = np.random.default_rng(2).normal(0, sigma, codes.shape).astype(np.float32)
            found.append(
                value(
                    read(
                        subject(srgb.decode(codes + grain), LEAVES, LEAVES),
                        "detail_added",
                        "texture",
                    )
                )
            )
        self.assertAlmostEqual(found[1] / found[0], 4, delta=0.3)

    def test_contrast_is_told_apart_from_detail(self) -> None:
        photo = photograph("china")[:384, :384]
        for gain in (0.8, 1.0, 1.25):
            raised = coded(photo, lambda v, gain=gain: 0.4 + gain * (v - 0.4))
            self.assertAlmostEqual(
                value(read(subject(raised, photo), "contrast_change", "texture")), gain, delta=0.003
            )
        # An enlargement averages a noisy frame in linear light: that is no contrast.
        dark = np.clip(noisy(0.15 * photo, 500, 2), 0, 1)
        large = resample(dark, Rect(0, 0, 384, 384), 768, 768, "bicubic")
        self.assertAlmostEqual(
            value(read(subject(large, dark, None, Mapping(2, 2)), "contrast_change", "texture")),
            1,
            delta=0.015,
        )
        sharp = coded(
            photo, lambda v: v + 1.0 * (v - scipy.ndimage.gaussian_filter(v, (0.8, 0.8, 0)))
        )
        self.assertAlmostEqual(
            value(read(subject(sharp, photo), "contrast_change", "texture")), 1, delta=0.02
        )

    def test_ms_ssim_agrees_with_an_independent_library(self) -> None:
        for name in ("china", "astronaut"):
            truth = photograph(name)
            for made in (noisy(truth, 300), scipy.ndimage.gaussian_filter(truth, (2, 2, 0))):
                s = subject(made, truth, truth)
                one, two = s.pair(s.whole).lumas
                self.assertAlmostEqual(
                    value(take(s, MEASURES["ms_ssim"], None)),
                    float(msssim(two.astype(float), one.astype(float), MAX=255)),
                    delta=1e-3,
                )


class Edges(unittest.TestCase):
    def test_the_best_edge_of_a_patch_is_found_whichever_way_it_runs(self) -> None:
        rng = np.random.default_rng(4)
        for angle in (8, 30, 100, 250, 340):
            scene = 0.3 + 0.1 * scipy.ndimage.gaussian_filter(
                rng.normal(size=(200, 200)), 2
            ).astype(np.float32)
            scene[100:180, 20:100] = gaussian_edge(angle, 1.0, 80)
            found = best_segment(scene)
            assert found is not None, angle
            self.assertTrue(found.rect.inside(200, 200))
            r = found.rect
            self.assertTrue(
                r.x < 100 and r.x + r.w > 20 and r.y < 180 and r.y + r.h > 100, (angle, r)
            )
            s = subject(scene, scene)
            self.assertAlmostEqual(
                value(read(s, "mtf50", "edge")), 0.18739, delta=0.012, msg=str(angle)
            )

    def test_all_outputs_are_measured_at_the_place_the_truth_shows_best(self) -> None:
        truth = np.full((160, 160), 0.3, np.float32)
        truth[40:120, 40:120] = gaussian_edge(10, 0.8, 80)
        rough = truth + np.random.default_rng(1).normal(0, 0.05, truth.shape).astype(np.float32)
        soft = scipy.ndimage.gaussian_filter(rough, 1.5)
        segments = [
            read(subject(m, rough, truth), "mtf50", "edge").details["segment"]
            for m in (soft, truth * 1.01)
        ]
        self.assertEqual(segments[0], segments[1])

    def test_a_patch_of_texture_has_no_edge(self) -> None:
        self.assertTrue(read(subject(LEAVES[:64, :64], LEAVES[:64, :64]), "mtf50", "edge").reason)

    def test_red_moved_by_half_a_pixel_is_found_as_that_and_makes_a_fringe(self) -> None:
        rgb = np.repeat(gaussian_edge(6, 1.2)[..., None], 3, axis=2)
        moved = rgb.copy()
        moved[..., 0] = scipy.ndimage.shift(rgb[..., 0], (0, 0.5), order=5, mode="nearest")
        lateral, fringe = (
            read(subject(moved, rgb), m, "edge", Rect(10, 10, 108, 108))
            for m in ("lateral", "fringe")
        )
        self.assertAlmostEqual(
            lateral.details["red_px"], 0.5 * math.cos(math.radians(6)), delta=0.02
        )
        self.assertAlmostEqual(lateral.details["blue_px"], 0, delta=0.005)
        self.assertGreater(value(fringe), 3)
        self.assertAlmostEqual(
            value(read(subject(rgb.copy(), rgb), "fringe", "edge", Rect(10, 10, 108, 108))),
            0,
            delta=0.01,
        )


class Lights(unittest.TestCase):
    def setUp(self) -> None:
        rng = np.random.default_rng(7)
        grid = np.stack(
            np.meshgrid(np.arange(20, 240, 24), np.arange(20, 240, 24)), axis=-1
        ).reshape(-1, 2)
        self.places = grid + rng.uniform(-4, 4, grid.shape)
        self.field = self.drawn(self.places, 1.0, 1.0)

    def drawn(self, places: np.ndarray, wide: float, tall: float) -> Floats:
        y, x = np.mgrid[0:256, 0:256] + 0.5
        field = np.full((256, 256), 0.01)
        for px, py in places:
            field += 0.3 * np.exp(-(((x - px) / wide) ** 2 + ((y - py) / tall) ** 2) / 2)
        return field.astype(np.float32)

    def test_every_light_of_a_star_field_is_found_where_it_is(self) -> None:
        found = find_lights(
            srgb.luma(np.repeat(self.field[..., None], 3, axis=2)) * np.float32(255)
        ).surely()
        self.assertEqual(found.strength.size, len(self.places))
        gaps = np.hypot(*(found.places[:, None] - self.places[None]).transpose(2, 0, 1)).min(axis=1)
        self.assertLess(gaps.max(), 0.1)

    def test_lights_taken_away_moved_and_drawn_out_are_told(self) -> None:
        fewer = self.places.copy()
        fewer[:20] += 3  # beyond the pixel within which a light is the same
        kept = read(subject(self.drawn(fewer, 1, 1), self.field), "lights_kept", "lights")
        self.assertAlmostEqual(value(kept), 100 * (1 - 20 / len(self.places)), delta=0.1)
        self.assertEqual(kept.details["new"], 20)
        same = read(subject(self.field.copy(), self.field), "lights_long", "lights")
        self.assertAlmostEqual(value(same), 1, delta=1e-6)
        # Drawn out to 1.6 times their width; encoding and a cut at a tenth widen both alike.
        streaks = read(
            subject(self.drawn(self.places, 1.6, 1), self.field), "lights_long", "lights"
        )
        self.assertAlmostEqual(value(streaks), 1.5, delta=0.15)


class Changes(unittest.TestCase):
    PHOTO = photograph("china")[:256, :320]

    def test_an_enlargement_by_doubled_pixels_gives_the_frame_back(self) -> None:
        frame = np.clip(noisy(self.PHOTO, 2000), 0, 1)
        doubled = np.kron(frame, np.ones((2, 2, 1), np.float32))
        self.assertIn(
            "exactly",
            read(subject(doubled, frame, None, Mapping(2, 2)), "back_projection", "texture").reason
            or "",
        )
        smooth = resample(frame, Rect(0, 0, 320, 256), 640, 512)
        # A second opinion from Pillow's box filter on the same enlargement.
        back = np.stack(
            [
                np.asarray(Image.fromarray(smooth[..., c]).resize((320, 256), Image.Resampling.BOX))
                for c in range(3)
            ],
            axis=2,
        )
        error = 255 * (srgb.encode(back) - srgb.encode(frame))
        want = 20 * math.log10(255 / math.sqrt(float((error.astype(np.float64) ** 2).mean())))
        self.assertAlmostEqual(
            value(read(subject(smooth, frame, None, Mapping(2, 2)), "back_projection", "texture")),
            want,
            delta=0.02,
        )
        self.assertIn(
            "not enlarged", read(subject(frame, frame), "back_projection", "texture").reason or ""
        )

    def test_clipped_pixels_are_counted(self) -> None:
        codes = np.full((40, 50, 3), 120, np.float32)
        codes[:4, :, 0], codes[10:12] = 255, 0
        found = read(
            subject(srgb.decode(codes / 255), srgb.decode(codes / 255)), "clipped", "shadow"
        )
        self.assertAlmostEqual(value(found), 15)
        self.assertAlmostEqual(found.details["white"], 10)
        self.assertEqual((found.low, found.high), (found.value, found.value))

    def test_a_swapped_profile_moves_colour_and_brightness_alone_does_not(self) -> None:
        rect = Rect(40, 160, 80, 60)
        brighter = self.PHOTO * np.float32(1.1)
        self.assertLess(
            value(read(subject(brighter, self.PHOTO), "colour_shift", "texture", rect)), 0.02
        )
        # Codes of a wider space (Display P3) taken for sRGB: colours lose saturation. Matrices:
        # SMPTE EG 432-1, from memory.
        to_p3 = np.array(
            [[0.8225, 0.1774, 0.0], [0.0332, 0.9669, 0.0], [0.0171, 0.0724, 0.9108]], np.float32
        )
        flower = photograph("flower")[150:250, 250:350]
        found = read(subject(flower @ to_p3.T, flower), "colour_shift", "texture")
        self.assertGreater(value(found), 2)
        self.assertIn(found.details["colour"], ("red", "orange", "purple"))

    def test_opened_shadows_are_told_in_codes(self) -> None:
        opened = coded(self.PHOTO, lambda v: v + 0.04 * np.exp(-((v / 0.2) ** 2)))
        found = take(subject(opened, self.PHOTO), MEASURES["tone"], None)
        self.assertEqual(found.details["where"], "shadows")
        self.assertGreater(value(found), 3)
        self.assertLess(
            abs(value(take(subject(self.PHOTO.copy(), self.PHOTO), MEASURES["tone"], None))), 0.3
        )


class Properties(unittest.TestCase):
    """What must hold of every measure, whatever its number."""

    PHOTO = photograph("china")[60:316, 100:356]

    def test_more_of_a_fault_never_measures_better(self) -> None:
        rng = np.random.default_rng(1)
        grain = rng.normal(0, 1, self.PHOTO.shape).astype(np.float32)
        added = [coded(self.PHOTO, lambda v, a=a: v + a * grain) for a in (0.01, 0.02, 0.04)]
        blurred = [
            coded(self.PHOTO, lambda v, s=s: scipy.ndimage.gaussian_filter(v, (s, s, 0)))
            for s in (0.6, 1.2, 2.4)
        ]
        for series, names in (
            (
                added,
                ("psnr", "ssim", "ms_ssim", "de00_mean", "de00_p95", "mae", "rmse", "detail_added"),
            ),
            (blurred, ("psnr", "ssim", "ms_ssim", "detail_kept")),
        ):
            for name in names:
                found = [
                    value(read(subject(m, self.PHOTO, self.PHOTO), name, "texture")) for m in series
                ]
                ordered = sorted(found, key=lambda v: distance(v, MEASURES[name].best or 0.0))
                self.assertEqual(found, ordered, name)

    def test_errors_are_the_same_either_way_round(self) -> None:
        made = coded(self.PHOTO, lambda v: np.clip(v * 0.9 + 0.03, 0, 1))
        for name in ("psnr", "ssim", "ms_ssim", "de00_mean", "mae", "rmse"):
            one = value(read(subject(made, self.PHOTO, self.PHOTO), name, "texture"))
            other = value(read(subject(self.PHOTO, made, made), name, "texture"))
            self.assertAlmostEqual(one, other, places=4, msg=name)

    def test_readings_move_with_the_patch(self) -> None:
        made = coded(self.PHOTO, lambda v: scipy.ndimage.gaussian_filter(v, (0.7, 0.7, 0)))
        moved = [np.roll(p, (8, 16), axis=(0, 1)) for p in (made, self.PHOTO)]
        for role in ("flat", "texture"):
            here = take_all(
                subject(made, self.PHOTO, self.PHOTO), [Patch("p", role, Rect(40, 50, 96, 80))]
            )
            there = take_all(
                subject(moved[0], moved[1], moved[1]), [Patch("p", role, Rect(56, 58, 96, 80))]
            )
            for one, other in zip(here, there, strict=True):
                np.testing.assert_allclose(
                    [one.value or 0], [other.value or 0], rtol=1e-5, atol=1e-6, err_msg=one.measure
                )

    def test_every_reading_has_an_interval_about_it_or_a_reason(self) -> None:
        made = coded(
            noisy(self.PHOTO, 1500), lambda v: scipy.ndimage.gaussian_filter(v, (0.7, 0.7, 0))
        )
        s = subject(made, noisy(self.PHOTO, 1500), self.PHOTO)
        for role in {r for m in MEASURES.values() for r in m.roles}:
            for rect in (Rect(20, 20, 200, 200), Rect(30, 30, 24, 24), Rect(30, 30, 3, 3)):
                for m in measures_for(Patch("p", role, rect)):
                    r = read(s, m.id, role, rect)
                    if r.value is None:
                        self.assertTrue(r.reason, m.id)
                        continue
                    assert r.low is not None and r.high is not None and r.grid
                    self.assertTrue(
                        math.isfinite(r.value)
                        and r.low <= r.value + 1e-9
                        and r.value <= r.high + 1e-9,
                        (m.id, r),
                    )
                    self.assertTrue(all(math.isfinite(p) for p in r.parts))
