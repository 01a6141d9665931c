"""What is told of the sample scenes holds in their pictures."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.files.decoding import read_picture
from glenhail.core.measures.edge_profile import find_edge
from glenhail.core.picture import Floats
from glenhail.demo.frames import M24, make_small_print, scene
from glenhail.demo.samples import GAUGE_WALL, NIGHT_YARD, SAMPLES, SCENES, known_of

HALF = 5


def centroid(light: Floats, x: float, y: float) -> tuple[float, float]:
    """Centre of light of a small window, above its surroundings."""
    x0, y0 = int(x) - HALF, int(y) - HALF
    window = light[y0 : y0 + 2 * HALF + 1, x0 : x0 + 2 * HALF + 1].astype(np.float64)
    window = np.clip(window - np.median(window), 0, None)
    at = np.arange(2 * HALF + 1) + 0.5
    return x0 + float((window.sum(0) * at).sum() / window.sum()), y0 + float(
        (window.sum(1) * at).sum() / window.sum()
    )


class Known(unittest.TestCase):
    def test_stars_lie_where_they_are_told_to_a_twentieth_of_a_pixel(self) -> None:
        known, light = known_of(NIGHT_YARD), srgb.luminance(scene(NIGHT_YARD))
        assert known is not None
        self.assertEqual((known.height, known.width), light.shape)
        bright = [p for p in known.lights if p.peak > 0.15]
        self.assertGreater(len(bright), 15)
        for star in bright:
            x, y = centroid(light, star.x, star.y)
            self.assertLess(np.hypot(x - star.x, y - star.y), 0.05, star)

    def test_edges_run_at_the_angles_they_are_told(self) -> None:
        known, light = known_of(GAUGE_WALL), srgb.luminance(scene(GAUGE_WALL))
        assert known is not None
        for edge in known.edges:
            x, y = (edge.x0 + edge.x1) / 2, (edge.y0 + edge.y1) / 2
            upright = abs(edge.y1 - edge.y0) > abs(edge.x1 - edge.x0)
            w, h = (22, 70) if upright else (70, 22)
            found = find_edge(light[int(y - h) : int(y + h), int(x - w) : int(x + w)])
            self.assertAlmostEqual(found.angle, abs(edge.angle), delta=0.25, msg=edge.name)


class Files(unittest.TestCase):
    def test_all_pictures_together_stay_under_80_mb(self) -> None:
        self.assertLess(sum(p.stat().st_size for p in SCENES.iterdir()), 80e6)

    def test_spots_lie_within_their_frames_and_plain_ones_on_plain_ground(self) -> None:
        for sample in SAMPLES:
            light = srgb.luminance(scene(sample))
            for name, role, x, y, w, h in sample.spots:
                self.assertTrue(
                    x >= 0 and y >= 0 and x + w <= light.shape[1] and y + h <= light.shape[0],
                    (sample.key, name),
                )
                if role in ("flat", "shadow"):
                    # The scene's own unevenness must not pass for noise: well below what the body
                    # adds there.
                    part = light[int(y) : int(y + h), int(x) : int(x + w)].astype(np.float64)
                    rough = np.median(np.abs(np.diff(part, axis=1))) / 0.6745 / np.sqrt(2)
                    white = M24.electrons_at_white(sample.iso)
                    added = (
                        np.sqrt(max(part.mean(), 0) * white + M24.read_noise**2) / white * 0.77
                    )  # luminance of three channels
                    self.assertLess(rough, added / 3, (sample.key, name))

    def test_the_archive_print_is_a_small_soft_jpeg_with_facts(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            make_small_print(Path(folder))
            made = read_picture(Path(folder) / "archive-print.jpg")
            self.assertEqual(
                (made.width, made.height, made.facts.format, made.facts.bits), (640, 427, "JPEG", 8)
            )
            self.assertEqual((made.facts.camera, made.facts.iso), ("Lull Two", 400))
            self.assertEqual(
                read_picture(Path(folder) / "archive-print-bicubic-4x.tif").width, 2560
            )
