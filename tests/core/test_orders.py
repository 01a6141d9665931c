"""The same steps in every order: groups are found, and where the order matters is told."""

from __future__ import annotations

import contextlib
import io
import json
import tempfile
import unittest
from pathlib import Path

from PIL import Image

from glenhail.core.__main__ import main
from glenhail.core.answers.board import Board, Cell, Column, Place
from glenhail.core.answers.comparison import TakenReading
from glenhail.core.answers.orders import order_groups, order_pair, prefixes
from glenhail.core.colour import srgb
from glenhail.core.treatments.family import orders
from glenhail.core.treatments.step import ORIGINAL, Step, Treatment
from tests.pictures import noisy, photograph

WASH, LIFT, FOLD = (Step(tool, "1") for tool in ("Wash", "Lift", "Fold"))
FIRST, SECOND = ("A", "Wash, then Lift"), ("B", "Lift, then Wash")


def board(*readings: tuple[str, str, float, float]) -> Board:
    """Measure, place, and the values of A and B, each known to a hundredth."""
    places = {p: Place(p, role, p.title(), "Loom") for p, role in (
        ("cloth", "texture"), ("print", "texture"), ("wall", "flat"), ("", ""))}  # fmt: skip
    made = Board([Column("A"), Column("B")], places)
    for at, (measure, place, *values) in enumerate(readings):
        for letter, value in zip("AB", values, strict=True):
            taken = TakenReading(value, value * 0.99, value * 1.01)
            made.put(measure, place, letter, Cell(at, taken))
    return made


class Groups(unittest.TestCase):
    def test_orders_of_the_same_steps_are_found_among_others(self) -> None:
        three = orders(Treatment((WASH, LIFT, FOLD)))
        two = orders(Treatment((WASH, LIFT)))
        alone = [Treatment((WASH,)), Treatment((LIFT, FOLD))]
        told = dict(enumerate([*three, *two, *alone, Treatment((WASH, LIFT), ORIGINAL)]))
        found = order_groups(told)
        self.assertEqual([len(g.members) for g in found], [6, 2])
        self.assertEqual(
            dict(found[1].members), {6: "Wash 1, then Lift 1", 7: "Lift 1, then Wash 1"}
        )

    def test_what_lies_between_is_each_beginning_once(self) -> None:
        between = prefixes(orders(Treatment((WASH, LIFT, FOLD))))
        self.assertEqual(len(between), 3 + 6)
        self.assertEqual(len(set(between)), len(between))
        self.assertEqual(prefixes([Treatment((WASH,))]), [])


class Pairs(unittest.TestCase):
    def test_where_it_matters_and_where_not(self) -> None:
        found = order_pair(
            board(
                ("detail_kept", "cloth", 90, 60),
                ("detail_kept", "print", 91, 60),
                ("noise_luma", "wall", 2.0, 2.0),
                ("detail_kept", "", 10, 90),
            ),
            FIRST,
            SECOND,
        )
        self.assertEqual(
            found.said,
            "Wash, then Lift (A) against Lift, then Wash (B): better in all 2 patches by detail"
            " kept. No difference that would be seen by brightness noise.",
        )
        self.assertEqual({p.place for p in found.places}, {"Cloth", "Print", "Wall"})

    def test_both_ways_nowhere_and_nothing(self) -> None:
        for readings, words in (
            (
                [("detail_kept", "cloth", 90, 60), ("detail_kept", "print", 60, 90)],
                "better in 1 of 2 patches and worse in 1 of 2 patches by detail kept.",
            ),
            ([("noise_luma", "wall", 2.0, 9.0)], "better in its one patch by brightness noise"),
            ([("noise_luma", "wall", 2.0, 2.0)], "the order does not matter."),
            ([], "nothing is measured on a patch of both yet."),
        ):
            with self.subTest(words):
                self.assertIn(words, order_pair(board(*readings), FIRST, SECOND).said)


class Command(unittest.TestCase):
    def run_orders(self, *arguments: str) -> tuple[int, str, str, list[str]]:
        out, err = io.StringIO(), io.StringIO()
        with tempfile.TemporaryDirectory() as folder:
            codes = srgb.to_display(noisy(photograph("china")[:160, :200], 120))
            Image.fromarray(codes).save(f"{folder}/frame.png")
            told = [f"{folder}/frame.png", *arguments, "--out", f"{folder}/made"]
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
                code = main(["orders", *told])
            kept = sorted(p.name for p in Path(folder).glob("made/*.tif"))
        return code, out.getvalue(), err.getvalue(), kept

    def test_sharpening_before_or_after_a_median_matters_for_noise(self) -> None:
        # What a median leaves is coarse; a mask of a small radius raises that but little.
        code, out, err, kept = self.run_orders(
            *("--step", "median", "--step", 'unsharp:{"gain": 6}'),
            *("--patch", "sky:flat:10,10,100,60", "--json"),
        )
        self.assertEqual(code, 0, err)
        told = json.loads(out)
        self.assertEqual(
            told["orders"], {"A": "Median, then Unsharp mask", "B": "Unsharp mask, then Median"}
        )
        noise = next(p for p in told["pairs"][0]["places"] if p["measure"] == "noise_luma")
        self.assertEqual(noise["answer"], "better")
        self.assertLess(noise["one"], noise["other"])
        self.assertEqual(
            kept, ["A-1-median.tif", "A-2-unsharp.tif", "B-1-unsharp.tif", "B-2-median.tif"]
        )

    def test_lines_and_refusals(self) -> None:
        patch = ("--patch", "sky:flat:10,10,100,60")
        code, out, _, _ = self.run_orders("--step", "median", "--step", "gaussian", *patch)
        self.assertEqual(code, 0)
        self.assertIn("Median, then Gaussian (A) against Gaussian, then Median (B)", out)
        for steps, words in (
            (["median"], "at least two steps"),
            (["median", "median"], "all alike"),
            (["median", "moon"], "no method"),
            (["median", "gaussian:[1]"], "[1]"),
        ):
            with self.subTest(words):
                given = [word for step in steps for word in ("--step", step)]
                code, _, err, _ = self.run_orders(*given, *patch)
                self.assertEqual(code, 2)
                self.assertIn(words, err)
