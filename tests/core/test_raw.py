"""Raw files: the mosaic as it was written, the neutral rendering, and damage."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

import numpy as np

from glenhail.core.errors import BadFile
from glenhail.core.files.decoding import read_facts, read_picture
from glenhail.core.files.raw import read_mosaic
from glenhail.standins.camera import BODIES, Body, expose, write_dng
from tests.pictures import photograph

SHOT = {"iso": 800, "shutter_s": 1 / 125, "aperture": 2.8, "focal_mm": 35}


class Raw(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def shoot(
        self, scene: np.ndarray, body: Body, iso: float = 100, seed: int = 1, name: str = "shot.dng"
    ) -> Path:
        path = self.folder / name
        write_dng(
            path, expose(scene, body, iso, seed), body, SHOT | {"iso": iso}, "2026:03:14 11:20:05"
        )
        return path

    def test_a_mosaic_written_as_dng_is_read_back_through_libraw_as_it_was(self) -> None:
        for body in BODIES.values():
            codes = expose(photograph("china"), body, 800, 3)
            path = self.folder / "shot.dng"
            write_dng(path, codes, body, SHOT)
            mosaic = read_mosaic(path)
            np.testing.assert_array_equal(mosaic.values, codes)
            self.assertEqual(
                (mosaic.pattern, mosaic.black, mosaic.white),
                (body.pattern, body.black, body.white),
            )

    def test_facts_of_the_exposure_are_found_and_the_rendering_is_told(self) -> None:
        facts = read_facts(self.shoot(photograph("china"), BODIES["quill24"], 800), "DSC_1.dng")
        self.assertEqual(
            (facts.format, facts.camera, facts.iso, facts.bits),
            ("DNG", "Corvane Quill 24", 800, 14),
        )
        self.assertAlmostEqual(facts.shutter_s or 0, 1 / 125, delta=1e-6)
        self.assertEqual(
            (facts.aperture, facts.focal_mm, facts.taken), (2.8, 35, "2026:03:14 11:20:05")
        )
        self.assertEqual((facts.profile, facts.profile_assumed), ("camera matrix", False))
        self.assertIn("homogeneity-directed demosaic", facts.developed or "")

    def test_the_neutral_rendering_gives_back_the_scenes_light(self) -> None:
        # Fields of known linear colour through the body's colours, its matrix and LibRaw; no lens,
        # hardly any noise.
        plain = {"lens_sigma": 1e-6, "corner_stops": 0.0, "hot": 0.0, "full_well": 5e6}
        body = Body(**(BODIES["quill24"].__dict__ | plain))
        colours = np.array([[0.5, 0.5, 0.5], [0.4, 0.2, 0.1], [0.1, 0.3, 0.2], [0.1, 0.15, 0.5]])
        scene = np.repeat(np.repeat(colours[None], 120, 1).reshape(1, -1, 3), 120, 0).astype(
            np.float32
        )
        made = read_picture(self.shoot(scene, body)).pixels
        self.assertEqual(made.shape, scene.shape)
        means = np.array(
            [made[20:100, 120 * i + 20 : 120 * i + 100].mean((0, 1)) for i in range(4)]
        )
        white = means[0].mean() / 0.5  # full scale of the file is the first channel to saturate
        np.testing.assert_allclose(means[0] / means[0].mean(), 1, atol=0.003)
        np.testing.assert_allclose(means / white, colours, atol=0.006)

    def test_variance_against_mean_of_the_mosaic_gives_back_gain_and_read_noise(self) -> None:
        # Janesick, Photon Transfer (2007), from pairs of exposures so that fixed pattern falls out.
        for key, iso, read_noise in (
            ("quill24", 100, 4.4),
            ("quill24", 6400, 2.1),
            ("quill33", 6400, 1.5),
        ):
            body = Body(**(BODIES[key].__dict__ | {"corner_stops": 0.0, "hot": 0.0}))
            means, variances = [], []
            for level in (0.0, 0.02, 0.05, 0.1, 0.2, 0.4):
                field = np.full((260, 260, 3), level, np.float32)
                one, two = (
                    read_mosaic(self.shoot(field, body, iso, seed)).plane(0, 1).astype(float) - 512
                    for seed in (1, 2)
                )
                means.append((one.mean() + two.mean()) / 2)
                variances.append((one - two).var() / 2)
            slope, _ = np.polyfit(means, variances, 1)
            electrons_per_code = body.full_well * 100 / iso / (body.white - body.black)
            self.assertAlmostEqual(1 / slope / electrons_per_code, 1, delta=0.03)
            dark = np.sqrt(max(0.0, variances[0] - 1 / 12)) * electrons_per_code
            self.assertAlmostEqual(dark / read_noise, 1, delta=0.05)

    def test_damaged_and_misnamed_raw_files_are_refused_with_a_reason(self) -> None:
        whole = self.shoot(photograph("china"), BODIES["quill24"]).read_bytes()
        rng = np.random.default_rng(4)
        cases = {
            "cut.dng": whole[: len(whole) // 3],
            "header.dng": whole[:200],
            "noise.nef": rng.bytes(5000),
            "text.cr2": b"hello" * 50,
            "empty.arw": b"",
        }
        for name, raw in cases.items():
            (self.folder / name).write_bytes(raw)
            with self.subTest(name), self.assertRaisesRegex(BadFile, name):
                read_picture(self.folder / name)
        for i in range(25):  # bytes flipped at random: a picture or a message, never anything else
            damaged = bytearray(whole)
            for at in rng.integers(0, min(len(whole), 4000), 12):
                damaged[at] = rng.integers(256)
            (self.folder / "fuzz.dng").write_bytes(damaged)
            try:
                self.assertTrue(np.isfinite(read_picture(self.folder / "fuzz.dng").pixels).all(), i)
            except BadFile as error:
                self.assertIn("fuzz.dng", str(error))
