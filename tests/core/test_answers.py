"""Questions about the whole of a study: paired comparisons, medians and tallies,
trade-offs, sentences, suggested patches.
"""

from __future__ import annotations

import unittest

import numpy as np
import scipy.ndimage
import scipy.stats

from glenhail.core.answers.board import Board, Cell, Column, Place
from glenhail.core.answers.comparison import Answer, TakenReading, compare
from glenhail.core.answers.sentences import BAD, GOOD, PLAIN, findings
from glenhail.core.answers.tally import tally
from glenhail.core.answers.tradeoff import Point, blend, front
from glenhail.core.colour import srgb
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.best import HIGHEST, LOWEST
from glenhail.core.measures.catalogue import MEASURES, Patch, take
from glenhail.core.measures.error import psnr
from glenhail.core.measures.noise import residual
from glenhail.core.measures.subject import Subject
from glenhail.core.measures.suggested_patches import suggest
from glenhail.core.measures.thresholds import THRESHOLDS, Threshold
from glenhail.core.picture import Mapping
from glenhail.core.statistics.medians import median
from tests.pictures import gaussian_edge, noisy, photograph, picture


class Paired(unittest.TestCase):
    def test_the_interval_is_that_of_the_paired_t_test(self) -> None:
        rng = np.random.default_rng(1)
        shared = rng.normal(20, 5, 16)
        one, other = shared + rng.normal(1, 0.5, 16), shared + rng.normal(0, 0.5, 16)
        found = compare(
            TakenReading(one.mean(), 0, 99, tuple(one)),
            TakenReading(other.mean(), 0, 99, tuple(other)),
            HIGHEST,
            Threshold(0.5),
        )
        want = scipy.stats.ttest_rel(one, other).confidence_interval(0.95)
        np.testing.assert_allclose((found.low, found.high), (want.low, want.high), rtol=1e-9)
        self.assertEqual(found.answer, Answer.BETTER)

    def test_what_both_share_cancels(self) -> None:
        truth = photograph("china")[:256, :256]
        frame = noisy(truth, 400)
        read = []
        for sigma in (0.55, 0.6):
            made = picture(scipy.ndimage.gaussian_filter(frame, (sigma, sigma, 0)))
            s = Subject(
                picture(frame),
                AlignedPicture(made, Mapping(), made.bounds),
                AlignedPicture(picture(truth), Mapping(), made.bounds),
            )
            m = psnr(s, s.whole)
            read.append(TakenReading(m.value, m.low, m.high, m.parts))
        # Their intervals overlap widely, yet they differ by as much in nearly every part of the
        # patch.
        self.assertLess(max(t.low for t in read), min(t.high for t in read))
        tiny = Threshold(0.01)
        self.assertIn(
            compare(read[1], read[0], HIGHEST, tiny).answer, (Answer.BETTER, Answer.WORSE)
        )
        alone = [TakenReading(t.value, t.low, t.high) for t in read]
        self.assertEqual(compare(alone[1], alone[0], HIGHEST, tiny).answer, Answer.NONE)

    def test_answers(self) -> None:
        for one, other, best, size, want in (
            ((5, 4.9, 5.1), (3, 2.9, 3.1), LOWEST, 0.5, Answer.WORSE),
            ((3, 2.9, 3.1), (5, 4.9, 5.1), LOWEST, 0.5, Answer.BETTER),
            ((5, 4.9, 5.1), (3, 2.9, 3.1), None, 0.5, Answer.HIGHER),
            ((5, 4.9, 5.1), (4.7, 4.6, 4.8), LOWEST, 0.5, Answer.UNSEEN),
            ((5, 4, 6), (4.7, 3.9, 5.9), LOWEST, 0.1, Answer.NONE),
            ((5, 5, 5), (5, 5, 5), LOWEST, 0.1, Answer.NONE),
            # More than the truth is not better: 154 % of its detail lies farther from 100 than 93 %
            # does, and than 100 itself.
            ((154, 153, 155), (100, 99, 101), 100.0, 3, Answer.WORSE),
            ((93, 92, 94), (154, 153, 155), 100.0, 3, Answer.BETTER),
            ((94, 92, 96), (106, 104, 108), 100.0, 3, Answer.OPPOSITE),
        ):
            found = compare(TakenReading(*one), TakenReading(*other), best, Threshold(size))
            self.assertEqual(found.answer, want)
            turned = compare(TakenReading(*other), TakenReading(*one), best, Threshold(size))
            self.assertEqual(found.turned(), turned)

    def test_every_measure_has_a_threshold_with_its_source(self) -> None:
        self.assertEqual(set(THRESHOLDS), set(MEASURES))
        self.assertTrue(all(t.source and t.size > 0 for t in THRESHOLDS.values()))


class Across(unittest.TestCase):
    def test_the_medians_interval_is_the_tables_one(self) -> None:
        # Conover, Practical Nonparametric Statistics (1999), table A3: of 6 values the whole range
        # (96.9 %), of 20 the 6th to the 15th (95.9 %); from memory, and worked out from the
        # binomial.
        for count, low, high, level in (
            (6, 1, 6, 0.96875),
            (20, 6, 15, 0.9586),
            (5, 1, 5, 0.9375),
            (1, 1, 1, 0),
        ):
            found = median(np.arange(1, count + 1))
            self.assertEqual((found.low, found.high), (low, high))
            self.assertAlmostEqual(found.level, level, places=4)

    def test_a_tally_says_how_consistent_it_is(self) -> None:
        better, worse = TakenReading(2, 1.9, 2.1), TakenReading(1, 0.9, 1.1)
        won, lost = (
            compare(a, b, HIGHEST, Threshold(0.1)) for a, b in ((better, worse), (worse, better))
        )
        found = tally([won] * 20 + [lost] * 2)
        self.assertEqual(
            (found.answer, found.same, found.places, found.counts),
            ("better", 20, 22, {"better": 20, "worse": 2}),
        )
        self.assertEqual(tally([won, lost]).answer, "it depends")


class TradeOff(unittest.TestCase):
    def test_the_front_are_those_that_nobody_beats_at_both(self) -> None:
        points = [
            Point("A", 1, 50),
            Point("B", 2, 80),
            Point("C", 2.5, 70),
            Point("D", 4, 90),
            Point("E", 1, 40),
        ]
        self.assertEqual(front(points), ["A", "B", "D"])

    def test_a_blend_has_the_noise_that_was_foretold(self) -> None:
        rng = np.random.default_rng(3)
        frame = rng.normal(0, 10, (200, 200))
        output = scipy.ndimage.gaussian_filter(frame, 1.0)
        sizes = [float(residual(p).std()) for p in (frame, output)]
        along = float(np.corrcoef(frame.ravel(), output.ravel())[0, 1])
        for s, noise, detail in blend(*sizes, along, 100, 60):
            self.assertAlmostEqual(
                noise, float(residual((1 - s) * frame + s * output).std()), delta=0.02
            )
            self.assertAlmostEqual(detail, 100 - 40 * s)


class Sentences(unittest.TestCase):
    def board(self) -> Board:
        places = {
            f"p{i}": Place(f"p{i}", role, name, "Loom")
            for i, (role, name) in enumerate(
                [("flat", "Wall"), ("shadow", "Vat"), ("texture", "Cloth"), ("edge", "Sign")]
            )
        }
        board = Board([Column("U", unprocessed=True), Column("A"), Column("B")], places)
        ids = iter(range(1, 99))

        def put(measure: str, place: str, **values: float) -> None:
            for letter, value in values.items():
                board.put(
                    measure,
                    place,
                    letter,
                    Cell(next(ids), TakenReading(value, 0.98 * value, 1.02 * value)),
                )

        for place in ("p0", "p1"):
            put("noise_luma", place, U=10, A=2, B=4)
            put("blotch", place, U=1.0, A=1.0, B=2.3)
            put("noise_chroma", place, U=12, A=3, B=5)
        put("detail_kept", "p2", U=100, A=62, B=82)
        put("contrast_change", "p2", U=1.0, A=1.0, B=1.10)
        put("overshoot", "p3", U=1, A=1.2, B=9)
        return board

    def test_each_says_what_where_and_how_it_stands(self) -> None:
        told = {s.measure: s for s in findings(self.board(), "B")}
        self.assertEqual(
            told["detail_kept"].text, "keeps 82 % of the truth's texture; the others 62 %"
        )
        self.assertEqual(told["detail_kept"].tone, GOOD)
        self.assertEqual(told["noise_luma"].tone, BAD)
        self.assertIn("40 % of the frame's brightness noise", told["noise_luma"].text)
        self.assertEqual(
            told["blotch"].text,
            "the colour noise it leaves lies in blotches, 2.3 times white noise's (Wall, Vat; 2 of"
            " 2 patches)",
        )
        self.assertIn("raises coarse contrast by 10 %", told["contrast_change"].text)
        self.assertEqual(told["contrast_change"].tone, PLAIN)
        self.assertEqual(len(told["blotch"].readings), 2)

    def test_who_does_nothing_wrong_is_told_nothing_of_the_kind(self) -> None:
        told = {s.measure for s in findings(self.board(), "A")}
        self.assertEqual(told, {"noise_luma", "noise_chroma", "detail_kept"})


class Suggested(unittest.TestCase):
    def test_each_role_is_found_where_it_was_put(self) -> None:
        rng = np.random.default_rng(5)
        codes = np.full((640, 960), 150.0)
        codes[:320, 480:] = 20
        codes[320:, :480] += rng.normal(0, 1, (320, 480)).repeat(1, axis=0) * 40
        codes[320:, 480:] = 255 * srgb.encode(gaussian_edge(8, 1.0, 480)[:320, :480])
        codes += rng.normal(0, 2, codes.shape)
        found = suggest(picture(srgb.decode(np.clip(codes, 0, 255).astype(np.float32) / 255)))
        quarters = {"flat": (0, 0), "shadow": (480, 0), "texture": (0, 320), "edge": (480, 320)}
        for role, (x, y) in quarters.items():
            first = next(s for s in found if s.role == role)
            self.assertTrue(
                x - 40 <= first.rect.x <= x + 480 and y - 40 <= first.rect.y <= y + 320,
                (role, first),
            )
            self.assertTrue(first.reason)

    def test_a_suggested_edge_can_be_measured(self) -> None:
        frame = picture(photograph("china"))
        for s in suggest(frame):
            self.assertTrue(s.rect.inside(frame.width, frame.height))
            if s.role == "edge":
                reading = take(
                    Subject(frame, AlignedPicture(frame, Mapping(), frame.bounds)),
                    MEASURES["mtf50"],
                    Patch("p", "edge", s.rect),
                )
                self.assertIsNotNone(reading.value, reading.reason)

    def test_a_tiny_frame_suggests_nothing(self) -> None:
        self.assertEqual(suggest(picture(np.full((20, 30), 0.2, np.float32))), [])
