"""Edges of known softness and halo, continuous and sampled at any size: worked out by
hand from Gaussian integrals.
"""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
from scipy.special import erf

from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, Patch, take
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Doubles, Mapping, Picture, Rect
from tests.pictures import picture
from tests.seeds import drawn

Unsharp = tuple[float, float]  # gain, reach in px
PLAIN: Unsharp = (0.0, 1.0)


def step(x: Doubles, sigma: float, unsharp: Unsharp = PLAIN) -> Doubles:
    """A step under a Gaussian of sigma, then an unsharp mask:

    (1 + a) Q(sigma) - a Q(hypot(sigma, r)).
    """

    def q(s: float) -> Doubles:
        return np.asarray(0.5 * (1 + erf(x / s / np.sqrt(2))))

    gain, reach = unsharp
    return (1 + gain) * q(sigma) - gain * q(float(np.hypot(sigma, reach)))


def edge(
    angle: float,
    sigma: float,
    side: int,
    scale: float = 1,
    unsharp: Unsharp = PLAIN,
    light: tuple[float, float] = (0.2, 0.6),
    noise: float = 0,
    seed: int = 0,
) -> Picture:
    """One continuous edge sampled at `scale` px for each of its own; noise as a share
    of its step.
    """
    n = round(side * scale)
    y, x = (np.mgrid[0:n, 0:n] + 0.5) / scale
    turn = np.radians(angle)
    distance = (x - side / 2) * np.cos(turn) - (y - side / 2) * np.sin(turn)
    low, high = light
    plane = low + (high - low) * step(distance, sigma, unsharp)
    return picture(
        plane + noise * (high - low) * np.random.default_rng(seed).normal(size=plane.shape)
    )


def read(measure: str, side: int, output: Picture, frame: Picture, scale: float = 1) -> Reading:
    subject = Subject(frame, AlignedPicture(output, Mapping(scale, scale), output.bounds))
    return take(subject, MEASURES[measure], Patch("e", "edge", Rect(0, 0, side, side)))


def of(
    measure: str, angle: float, sigma: float, side: int = 128, scale: float = 1, **more: Any
) -> Reading:
    """A measure of an edge whose frame is the same edge without halo or noise."""
    frame = edge(angle, sigma, side, light=more.get("light", (0.2, 0.6)))
    return read(measure, side, edge(angle, sigma, side, scale, **more), frame, scale)


def halo_of(sigma: float, unsharp: Unsharp) -> float:
    return float(step(np.linspace(0, 200, 200001), sigma, unsharp).max() * 100 - 100)


def mtf50_of(sigma: float, unsharp: Unsharp) -> float:
    f = np.linspace(0, 1, 100001)
    gain, reach = unsharp
    transfer = np.exp(-2 * (np.pi * sigma * f) ** 2) * (
        1 + gain - gain * np.exp(-2 * (np.pi * reach * f) ** 2)
    )
    return float(f[np.flatnonzero(transfer < 0.5)[0]])


class Softness(unittest.TestCase):
    def hold(self, found: Reading, true: float, share: float) -> None:
        assert found.value is not None, found.reason
        assert found.low is not None and found.high is not None
        self.assertLess(abs(found.value / true - 1), share)
        self.assertTrue(found.low <= true <= found.high, (found.low, true, found.high))

    def test_gaussian_edges_of_any_softness_and_angle_are_right_and_lie_within_their_intervals(
        self,
    ) -> None:
        # 0.18739 / sigma and 2.5631 sigma; slopes of small whole numbers leave gaps between the
        # pixels' distances.
        for sigma in (0.4, 0.7, 2.4, 5.0, 6.0):
            for angle in (3, 14.036, 18.435, 26.565, 42.5, 200):
                with self.subTest(sigma=sigma, angle=angle):
                    self.hold(of("mtf50", angle, sigma), 0.18739 / sigma, 0.01)
                    self.hold(of("rise", angle, sigma), 2.5631 * sigma, 0.02)
        for case, rng in drawn(30):
            with self.subTest(case):
                sigma, angle, side = (
                    rng.uniform(0.4, 6),
                    rng.uniform(2.5, 42.5) + 90 * rng.integers(4),
                    int(rng.integers(112, 200)),
                )
                self.hold(of("mtf50", angle, sigma, side), 0.18739 / sigma, 0.01)
                self.hold(of("rise", angle, sigma, side), 2.5631 * sigma, 0.02)

    def test_the_diagonal_is_refused(self) -> None:
        for angle in (
            44.2,
            45,
            46,
            135,
            *(rng.uniform(44, 46) + 90 * rng.integers(4) for _, rng in drawn(4)),
        ):
            with self.subTest(angle=angle):
                self.assertRegex(of("mtf50", angle, 1.0).reason or "", "needs 2 to 43")

    def test_sharpness_and_halo_do_not_depend_on_the_enlargement(self) -> None:
        cases: list[tuple[float, Unsharp]] = [(0.8, (0.5, 4)), (1.0, (1, 2))]
        cases += [
            (rng.uniform(0.6, 1.5), (rng.uniform(0.3, 2), rng.uniform(1, 8))) for _, rng in drawn(3)
        ]
        for sigma, unsharp in cases:
            for scale in (1, 2, 4, 8):
                with self.subTest(sigma=sigma, unsharp=unsharp, scale=scale):
                    self.hold(
                        of("mtf50", 7, sigma, scale=scale, unsharp=unsharp),
                        mtf50_of(sigma, unsharp),
                        0.01,
                    )
                    for halo in ("overshoot", "undershoot"):
                        self.hold(
                            of(halo, 7, sigma, scale=scale, unsharp=unsharp),
                            halo_of(sigma, unsharp),
                            0.03,
                        )


class Halos(unittest.TestCase):
    def test_wide_halos_are_right_or_said_not_to_be_seen_whole(self) -> None:
        # An unsharp mask's halo ends about three of its reaches from the edge.
        for reach, side, seen in (
            (10, 128, True),
            (20, 96, False),
            (30, 128, False),
            (20, 256, True),
            (30, 256, True),
        ):
            with self.subTest(reach=reach, side=side):
                found = of("overshoot", 6, 0.9, side, unsharp=(1, reach))
                if seen:
                    assert found.value is not None and found.high is not None, found.reason
                    self.assertLess(abs(found.value / halo_of(0.9, (1, reach)) - 1), 0.03)
                    self.assertLess(halo_of(0.9, (1, reach)), found.high)
                else:
                    self.assertIn("not seen whole", found.reason or "")
        for case, rng in drawn(12):
            with self.subTest(case):
                reach, side, gain = (
                    rng.uniform(1, 30),
                    int(rng.integers(90, 280)),
                    rng.uniform(0.3, 2),
                )
                found = of("overshoot", 6, 0.9, side, unsharp=(gain, reach), light=(0.4, 0.55))
                if found.value is None:
                    self.assertIn("not seen whole", found.reason or "")
                    self.assertGreater(reach * 6, side / 2)
                else:
                    self.assertLess(abs(found.value / halo_of(0.9, (gain, reach)) - 1), 0.05)

    def test_noise_is_no_halo(self) -> None:
        # 120 edges without a halo: the mean is nothing, and 0 lies within nearly all intervals; 4
        # deviations of 0.95 are 0.08.
        frame = edge(7, 0.8, 96)
        found = [
            read("overshoot", 96, edge(7, 0.8, 96, noise=0.025, seed=s), frame) for s in range(120)
        ]
        values = np.array([f.value for f in found])
        self.assertLess(abs(values.mean()), 4 * values.std() / np.sqrt(values.size))
        self.assertTrue((values < 0).any())
        held = sum((f.low or 0) <= 0 <= (f.high or 0) for f in found) / len(found)
        self.assertGreater(held, 0.87)

    def test_sides_that_are_cut_off_have_a_reason_and_no_number(self) -> None:
        for measure in ("mtf50", "rise", "overshoot", "undershoot"):
            for light, words in (
                ((0.1, 1.2), "at white"),
                ((0.1, 2.5), "at white"),
                ((-0.2, 0.6), "at black"),
            ):
                with self.subTest(measure, light=light):
                    cut = picture(np.clip(edge(8, 1.2, 96, light=light).pixels, 0, 1))
                    self.assertIn(f"cut off {words}", read(measure, 96, cut, cut).reason or "")
                    # A tool that smooths and darkens it does not bring it back.
                    self.assertIn(
                        words, read(measure, 96, picture(0.9 * cut.pixels + 0.01), cut).reason or ""
                    )
        for case, rng in drawn(6):
            with self.subTest(case):
                white = rng.uniform(1.1, 3)
                cut = picture(
                    np.clip(
                        edge(
                            rng.uniform(3, 40), rng.uniform(0.6, 3), 96, light=(0.1, white)
                        ).pixels,
                        0,
                        1,
                    )
                )
                self.assertIn("cut off at white", read("mtf50", 96, cut, cut).reason or "")
                # What lies beyond white in a file of floats is not cut off.
                whole = edge(9, 1.0, 96, light=(0.1, white))
                self.assertAlmostEqual(
                    read("mtf50", 96, whole, whole).value or 0, 0.18739, delta=0.002
                )
