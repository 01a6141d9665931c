"""Detail without a truth, held against the truth of the same pictures."""

from __future__ import annotations

import unittest

import numpy as np

from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, Patch, take
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.subject import Subject
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Floats, Mapping, Picture, Rect
from tests.pictures import photograph as open_photograph
from tests.pictures import picture
from tests.seeds import drawn

SIDE, FLAT = 200, 96
TEXTURE, PLAIN = (
    Patch("t", "texture", Rect(8, 8, SIDE - 16, SIDE - 16)),
    Rect(SIDE + 8, 8, FLAT - 16, SIDE - 16),
)
LINEAR = (
    ("gaussian", {"luma": 0.7, "colour": 0.7}),
    ("gaussian", {"luma": 1.2, "colour": 1.2}),
    ("unsharp", {"on": "each channel"}),
)
ADAPTIVE: tuple[tuple[str, dict[str, str]], ...] = (
    ("guided", {}),
    ("wavelet", {}),
    ("bilateral", {}),
)


def scene(rng: np.random.Generator) -> Floats:
    """A part of an open photograph beside an even surface as bright as it is."""
    photo = open_photograph(("china", "flower", "astronaut", "coffee", "chelsea")[rng.integers(5)])
    y, x = (int(rng.integers(n - SIDE)) for n in photo.shape[:2])
    part = photo[y : y + SIDE, x : x + SIDE]
    even = np.broadcast_to(part.mean(axis=(0, 1)), (SIDE, FLAT, 3))
    return np.concatenate([part, even], axis=1).astype(np.float32)


def laid(p: Picture) -> AlignedPicture:
    return AlignedPicture(p, Mapping(), p.bounds)


def both(
    truth: Floats,
    iso: int,
    method: str,
    values: dict[str, object],
    rng: np.random.Generator,
    second: bool,
) -> list[Reading]:
    """Detail kept of the truth, and detail of the frame."""
    frame, other = (
        picture(photograph(truth, Sensor(42_000, 3.0), iso, int(rng.integers(1 << 30))))
        for _ in range(2)
    )
    made, known = picture(treat(frame.pixels, method, values)), picture(truth)
    alone = Subject(frame, laid(made), plain=(PLAIN,), second=laid(other) if second else None)
    return [
        take(Subject(frame, laid(made), laid(known)), MEASURES["detail_kept"], TEXTURE),
        take(alone, MEASURES["detail_frame"], TEXTURE),
    ]


class AgainstTheTruth(unittest.TestCase):
    """Over ISO 800 to 25,600;

    MEASURES asks for nine in ten, of linear filters as of adaptive ones.
    """

    def held(
        self, methods: tuple[tuple[str, dict[str, object]], ...], second: bool
    ) -> tuple[int, int]:
        held = count = 0
        for _, rng in drawn(6):
            truth = scene(rng)
            for iso in (800, 3200, 12_800, 25_600):
                for method, values in methods:
                    known, found = both(truth, iso, method, values, rng, second)
                    if known.value is not None and found.low is not None and found.high is not None:
                        count += 1
                        held += found.low <= known.value <= found.high
        return held, count

    def test_it_lies_within_its_interval_of_what_the_truth_tells(self) -> None:
        for methods in (LINEAR, ADAPTIVE):
            for second in (False, True):
                with self.subTest(methods=methods, second=second):
                    held, count = self.held(methods, second)  # type: ignore[arg-type]
                    self.assertGreater(count, 40)
                    self.assertGreaterEqual(held / count, 0.88)


class Reasons(unittest.TestCase):
    def test_a_patch_that_ends_where_an_enlargement_does_is_measured(self) -> None:
        truth = scene(np.random.default_rng(7))
        frame = picture(photograph(truth, Sensor(42_000, 3.0), 800, 1))
        # A scale that is no plain number puts the patch's end a hair beyond the output's.
        made = picture(np.kron(frame.pixels, np.ones((2, 2, 1), np.float32)))
        output = AlignedPicture(made, Mapping(2 + 1e-7, 2 + 1e-7), made.bounds)
        whole = Patch("t", "texture", Rect(0, 0, SIDE, SIDE))
        self.assertIsNotNone(
            take(Subject(frame, output, plain=(PLAIN,)), MEASURES["detail_frame"], whole).value
        )

    def test_without_a_flat_patch_or_with_too_much_noise_there_is_a_reason(self) -> None:
        rng = np.random.default_rng(2)
        truth = scene(rng)
        frame = picture(photograph(truth, Sensor(42_000, 3.0), 800, 1))
        made = laid(picture(treat(frame.pixels, "gaussian", {})))
        self.assertIn(
            "no flat patch",
            take(Subject(frame, made), MEASURES["detail_frame"], TEXTURE).reason or "",
        )
        dark = Subject(picture(frame.pixels * np.float32(1)), made, plain=(Rect(0, 0, 12, 12),))
        self.assertIn("no flat patch", take(dark, MEASURES["detail_frame"], TEXTURE).reason or "")
        faint = np.full((SIDE, SIDE + FLAT, 3), 0.2, np.float32)
        faint[:, :SIDE] += 0.004 * rng.normal(size=(SIDE, SIDE, 1)).astype(np.float32)
        noisy_one = picture(photograph(faint, Sensor(42_000, 3.0), 25_600, 1))
        made = laid(picture(treat(noisy_one.pixels, "gaussian", {})))
        found = take(Subject(noisy_one, made, plain=(PLAIN,)), MEASURES["detail_frame"], TEXTURE)
        self.assertIn("noise drowns the texture", found.reason or "")

    def test_the_frame_has_all_of_its_own_and_invention_is_said_to_count(self) -> None:
        rng = np.random.default_rng(3)
        truth = scene(rng)
        frame = picture(photograph(truth, Sensor(42_000, 3.0), 800, 1))
        self.assertEqual(
            take(
                Subject(frame, laid(frame), plain=(PLAIN,)), MEASURES["detail_frame"], TEXTURE
            ).value,
            100,
        )
        made = laid(picture(treat(frame.pixels, "unsharp", {"gain": 1.0})))
        found = take(Subject(frame, made, plain=(PLAIN,)), MEASURES["detail_frame"], TEXTURE)
        self.assertGreater(found.value or 0, 110)
        self.assertTrue(found.details["invented_counts"])
