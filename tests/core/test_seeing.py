"""Whether anybody would see it: the eye's blur against closed forms and a slow version of
its own, FLIP against its authors' own program, and what is told of it.
"""

from __future__ import annotations

import contextlib
import io
import json
import math
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

import cv2
import flip_evaluator
import numpy as np
from PIL import Image

from glenhail.core.__main__ import main
from glenhail.core.cli.visible import STILL
from glenhail.core.colour import srgb
from glenhail.core.colour.difference import ciede2000
from glenhail.core.colour.lab import lab
from glenhail.core.colour.spaces import BT709_TO_XYZ
from glenhail.core.errors import BadRequest
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.register import identical
from glenhail.core.picture import Floats, Rect
from glenhail.core.seeing import scielab, sums
from glenhail.core.seeing.flip import flip
from glenhail.core.seeing.visible import Seen, Visible, seen_of, told, visible
from glenhail.core.uses.table import USES, print_of
from tests.pictures import photograph, picture

PPD = (30.0, 67.0, 95.0)


def codes(name: str = "china") -> np.ndarray:
    return srgb.to_display(photograph(name)[:256, :320])


def noisy(of: np.ndarray, sigma: float, seed: int = 1) -> np.ndarray:
    noise = np.random.default_rng(seed).normal(0, sigma, of.shape)
    return np.clip(np.rint(of + noise), 0, 255).astype(np.uint8)


class Blurs(unittest.TestCase):
    def test_a_point_becomes_the_closed_form_of_its_filter(self) -> None:
        # Zhang and Wandell 1997: w exp(-r2 / spread2) of unit volume, added up. The volume of
        # exp(-r2 / s2) is pi s2.
        side, ppd = 401, 60.0
        at = (np.arange(side) - side // 2) / ppd
        r2 = at[:, None] ** 2 + at[None, :] ** 2
        for plane in (1, 2):
            parts = scielab.FILTERS[plane]
            whole = sum(w for w, _ in parts)
            want = sum(w / whole * np.exp(-r2 / s**2) / (math.pi * s**2) for w, s in parts) / ppd**2
            point = np.zeros((side, side), dtype=np.float32)
            point[side // 2, side // 2] = 1
            found = sums.sum_of_gaussians(point, scielab.widths(plane, ppd))
            with self.subTest(plane=plane):
                self.assertAlmostEqual(float(found.sum()), 1, delta=0.01)
                self.assertLess(float(np.abs(found - want).max() / want.max()), 0.03)

    def test_an_even_plane_stays_as_it_is(self) -> None:
        plane = np.full((90, 130), 0.37, dtype=np.float32)
        for number in range(3):
            for ppd in (20.0, *PPD):
                found = sums.sum_of_gaussians(plane, scielab.widths(number, ppd))
                self.assertLess(float(np.abs(found - 0.37).max()), 1e-5)

    def test_a_wide_one_has_the_width_that_is_asked_for(self) -> None:
        for sigma in (6.5, 9.0, 17.3, 40.0, 83.0):
            plane = np.zeros((1201, 1201), dtype=np.float32)
            plane[600, 600] = 1
            found = sums.blurred(plane, sigma).astype(np.float64)
            at = np.arange(1201) - 600.0
            line = found.sum(axis=0)
            middle = (line * at).sum() / line.sum()
            width = math.sqrt((line * (at - middle) ** 2).sum() / line.sum())
            with self.subTest(sigma=sigma):
                self.assertAlmostEqual(width / sigma, 1, delta=0.02)
                self.assertAlmostEqual(float(line.sum()), 1, places=3)


class Scielab(unittest.TestCase):
    def slowly(self, one: np.ndarray, two: np.ndarray, ppd: float) -> np.ndarray:
        """The same, with kernels as large as they are and by Fourier's way."""

        def line(length: int, spread: float) -> np.ndarray:
            """Fourier's transform of exp(-x2 / spread2), sampled, of unit sum, and repeated."""
            reach = math.ceil(6 * spread)
            at = np.arange(-reach, reach + 1)
            bell = np.exp(-((at / spread) ** 2))
            round_ = np.zeros(length)
            np.add.at(round_, at % length, bell / bell.sum())
            return np.fft.fft(round_).real

        def seen(picture: np.ndarray) -> np.ndarray:
            linear = srgb.decode(picture.astype(np.float32) / 255).astype(np.float64)
            opponent = linear @ BT709_TO_XYZ.T @ scielab.OPPONENT.T
            # Mirrored about its edges, as light is taken to go on.
            whole = np.concatenate([opponent, opponent[::-1]])
            whole = np.concatenate([whole, whole[:, ::-1]], axis=1)
            down, across = whole.shape[:2]
            for i, parts in enumerate(scielab.FILTERS):
                total = sum(w for w, _ in parts)
                gain = sum(
                    w / total * line(down, s * ppd)[:, None] * line(across, s * ppd)[None, :]
                    for w, s in parts
                )
                whole[..., i] = np.fft.ifft2(np.fft.fft2(whole[..., i]) * gain).real
            near = whole[: picture.shape[0], : picture.shape[1]]
            return near @ np.linalg.inv(scielab.OPPONENT).T @ np.linalg.inv(BT709_TO_XYZ).T

        return ciede2000(*(lab(seen(p)) for p in (one, two)))

    def test_it_is_as_by_the_slow_way(self) -> None:
        one = codes()
        two = noisy(one, 8)
        two[60:120, 80:160] = np.clip(two[60:120, 80:160].astype(int) + (12, 0, -8), 0, 255)
        for ppd in PPD:
            fast, slow = scielab.scielab(one, two, ppd), self.slowly(one, two, ppd)
            with self.subTest(ppd=ppd):
                self.assertLess(float(np.abs(fast - slow).mean()), 0.02)
                self.assertLess(float(np.percentile(np.abs(fast - slow), 99.9)), 0.15)

    def test_what_is_the_same_differs_nowhere_and_even_fields_by_ciede2000_itself(self) -> None:
        one = codes()
        self.assertLess(float(scielab.scielab(one, one, 60).max()), 1e-4)
        fields = [np.full((64, 64, 3), c, dtype=np.uint8) for c in ((120, 90, 60), (124, 90, 62))]
        want = ciede2000(*(lab(srgb.decode(f[:1, 0] / np.float32(255))) for f in fields))[0]
        found = scielab.scielab(fields[0], fields[1], 60)
        self.assertLess(float(np.abs(found - want).max()), 0.01)

    def test_from_farther_off_less_of_fine_noise_is_seen_and_a_blotch_stays(self) -> None:
        one = np.full((256, 256, 3), 118, dtype=np.uint8)
        fine = noisy(one, 10)
        soft = cv2.GaussianBlur(np.random.default_rng(2).normal(0, 1, one.shape), (0, 0), 12)
        blotchy = np.clip(np.rint(one + soft * 10 / soft.std()), 0, 255).astype(np.uint8)
        near, far = (scielab.scielab(one, fine, ppd).mean() for ppd in (20.0, 120.0))
        self.assertLess(far, 0.6 * near)
        near, far = (scielab.scielab(one, blotchy, ppd).mean() for ppd in (20.0, 120.0))
        self.assertGreater(far, 0.7 * near)

    def test_pictures_of_two_sizes_are_refused(self) -> None:
        for model in (scielab.scielab, flip):
            with self.assertRaises(ValueError):
                model(codes(), codes()[:-1], 60)


class Flip(unittest.TestCase):
    def test_it_is_as_its_authors_program_has_it(self) -> None:
        # flip-evaluator, by the paper's own authors.
        one = codes()
        cases = {
            "noise": noisy(one, 12),
            "blur": cv2.GaussianBlur(one, (0, 0), 1.5),
            "colours": np.ascontiguousarray(one[..., ::-1]),
            "same": one,
        }
        for name, two in cases.items():
            for ppd in PPD:
                want, mean, _ = flip_evaluator.evaluate(
                    *(p.astype(np.float32) / 255 for p in (one, two)),
                    "LDR",
                    applyMagma=False,
                    parameters={"ppd": ppd},
                )
                found = flip(one, two, ppd)
                with self.subTest(name, ppd=ppd):
                    self.assertLess(float(np.abs(found - want[..., 0]).max()), 5e-4)
                    self.assertAlmostEqual(float(found.mean()), mean, places=4)


def lined(pixels: Floats) -> AlignedPicture:
    whole = picture(pixels)
    return AlignedPicture(whole, identical(whole).mapping, whole.bounds)


class Uses(unittest.TestCase):
    def setUp(self) -> None:
        self.frame = photograph("china")

    def seen(self, other: Floats, use: str = "screen") -> Visible:
        return visible(lined(self.frame), lined(other), USES[use]).told

    def test_the_same_is_told_so_and_a_change_by_where_it_lies(self) -> None:
        same = self.seen(self.frame)
        self.assertEqual((same.same, same.seen, same.share), (True, Seen.NOBODY, 0))
        other = self.frame.copy()
        height, width = other.shape[:2]
        other[height // 2 : height // 2 + 40, width // 4 : width // 4 + 40, 0] *= 0.6
        found = self.seen(other)
        self.assertIn(found.seen, (Seen.POINTED, Seen.ONCE))
        self.assertFalse(found.same)
        middle = found.place.x + found.place.w / 2, found.place.y + found.place.h / 2
        self.assertAlmostEqual(middle[0], (width // 4 + 20) / width, delta=0.04)
        self.assertAlmostEqual(middle[1], (height // 2 + 20) / height, delta=0.06)
        self.assertTrue(1 <= found.share / (1600 / (height * width)) < 3)

    def test_noise_that_is_seen_on_a_screen_goes_under_in_a_post(self) -> None:
        rng = np.random.default_rng(4)
        noise = rng.normal(0, 0.02, self.frame.shape).astype(np.float32)
        tall = np.tile(self.frame, (4, 4, 1))
        other = np.clip(tall + np.tile(noise, (4, 4, 1)), 0, 1)
        fifth, post = (
            visible(lined(tall), lined(other), USES[use]).told for use in ("fifth", "post")
        )
        self.assertGreater(fifth.share, post.share)
        self.assertGreater(fifth.flip, 0)

    def test_of_two_sizes_the_smaller_is_made_as_large_as_the_larger(self) -> None:
        self.frame = cv2.GaussianBlur(self.frame, (0, 0), 2)
        double = cv2.resize(self.frame, None, fx=2, fy=2, interpolation=cv2.INTER_CUBIC)
        whole = picture(double)
        mapping = replace(identical(whole).mapping, sx=2.0, sy=2.0)
        larger = AlignedPicture(whole, mapping, whole.bounds)
        maps = visible(lined(self.frame), larger, USES["screen"])
        height, width = double.shape[:2]
        self.assertEqual(maps.de00.shape, (height, width))
        self.assertEqual(maps.told.seen, Seen.NOBODY)
        with self.assertRaises(BadRequest):
            visible(lined(self.frame), larger, USES["video-8"])

    def test_a_border_is_no_part_of_it(self) -> None:
        framed = np.zeros((self.frame.shape[0] + 40, self.frame.shape[1] + 60, 3), np.float32)
        framed[20:-20, 30:-30] = self.frame
        whole = picture(framed)
        mapping = replace(identical(whole).mapping, dx=30.0, dy=20.0)
        part = Rect(30, 20, self.frame.shape[1], self.frame.shape[0])
        maps = visible(lined(self.frame), AlignedPicture(whole, mapping, part), USES["screen"])
        self.assertTrue(maps.told.same)

    def test_steps_go_by_size_and_share(self) -> None:
        for seen, size, share in (
            (Seen.NOBODY, 0.9, 1.0),
            (Seen.NOBODY, 5.0, 0.0005),
            (Seen.POINTED, 1.2, 0.5),
            (Seen.POINTED, 5.0, 0.005),
            (Seen.ONCE, 3.5, 0.02),
        ):
            with self.subTest(size=size, share=share):
                apart = np.zeros(10_000)
                apart[: round(share * apart.size)] = size
                self.assertEqual(seen_of(apart), seen)

    def test_words(self) -> None:
        use = print_of(30, 20, 300, 40)
        of = Visible("x", Seen.NOBODY, 0.0, 0.0, 0.2, 0.3, Rect(0, 0, 0.1, 0.1), 0.01)
        for want, found in (
            ("the difference of A and B is seen by nobody.", of),
            ("same to the last code", replace(of, same=True)),
            ("is seen at once, in 12.5 % of the picture", replace(of, seen=Seen.ONCE, share=0.125)),
        ):
            with self.subTest(want):
                self.assertIn(want, told(found, ("A", "B"), use))


class Command(unittest.TestCase):
    def test_no_video_is_among_the_uses_that_are_asked_for_unsaid(self) -> None:
        self.assertEqual(STILL, [u.id for u in USES.values() if u.video_mbit is None])

    def test_two_files_are_held_against_each_other_in_uses(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        one, two = folder / "one.png", folder / "two.png"
        Image.fromarray(codes()).save(one)
        Image.fromarray(noisy(codes(), 20)).save(two)

        def run_it(*arguments: str) -> tuple[int, str]:
            out = io.StringIO()
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(out):
                return main(["visible", *arguments]), out.getvalue()

        asked = "--use", "post", "--use", "screen"
        code, text = run_it(str(one), str(two), *asked, "--json", "--maps", str(folder / "maps"))
        self.assertEqual(code, 0, text)
        rows = json.loads(text)["uses"]
        self.assertEqual([r["use"] for r in rows], ["post", "screen"])
        names = {path.name for path in (folder / "maps").iterdir()}
        self.assertEqual(names, {f"{u}-{m}.png" for u in asked[1::2] for m in ("de00", "flip")})
        code, text = run_it(str(one), str(one), "--use", "web")
        self.assertIn("the same to the last code", text)
        code, text = run_it(str(one), str(two), "--use", "wall")
        self.assertEqual((code, "There is no use 'wall'" in text), (2, True))
