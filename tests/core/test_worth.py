"""What a picture costs and how long a batch waits, by hand."""

from __future__ import annotations

import unittest
from typing import Any

from glenhail.core.answers.worth import (
    ToldPrice,
    amount_said,
    batch_seconds,
    checked_numbers,
    picture_cost,
    waiting_said,
)
from glenhail.core.checking.checks import DIFFERS, EQUAL
from glenhail.core.checking.worth import worth_again
from glenhail.core.errors import BadRequest

ONCE = ToldPrice("licence", 60, "EUR")
MONTH, YEAR = ToldPrice("a month", 10, "EUR"), ToldPrice("a year", 80, "EUR")


class Costs(unittest.TestCase):
    def test_by_hand(self) -> None:
        for tools, pictures, want in (
            # 60 over three years are 20 a year.
            ([("Wash", [ONCE])], 1000, (0.02, "EUR")),
            ([("Fold", [MONTH])], 1000, (0.12, "EUR")),
            # The year is cheaper than twelve months.
            ([("Fold", [MONTH, YEAR])], 1000, (0.08, "EUR")),
            ([("Wash", [ONCE]), ("Fold", [YEAR])], 100, (1.0, "EUR")),
            ([("Moss", [ToldPrice("each picture", 0.05, "EUR")])], 7, (0.05, "EUR")),
            ([], 10, (0.0, "")),
        ):
            with self.subTest(tools=tools):
                found = picture_cost(tools, pictures)
                assert found.amount is not None
                self.assertAlmostEqual(found.amount, want[0])
                self.assertEqual(found.currency, want[1])

    def test_what_can_not_be_told_says_why(self) -> None:
        dollars = ToldPrice("licence", 60, "USD")
        for tools, words in (
            ([("Wash", [])], "no price of Wash"),
            ([("Wash", [ONCE, dollars])], "Wash is priced in several currencies"),
            ([("Wash", [ONCE]), ("Fold", [dollars])], "in different currencies"),
        ):
            with self.subTest(words):
                found = picture_cost(tools, 100)
                self.assertIsNone(found.amount)
                self.assertIn(words, found.said)

    def test_how_it_was_reckoned_is_said(self) -> None:
        self.assertEqual(
            picture_cost([("W", [ONCE])], 5).said, "60.00 EUR for licence, over 3 years"
        )
        self.assertIn("10.00 EUR for a month", picture_cost([("F", [MONTH])], 5).said)

    def test_a_batch_waits_one_picture_after_another(self) -> None:
        self.assertAlmostEqual(batch_seconds(0.5, 24, 100), 1200)
        for numbers in ({"pictures": 0}, {"batch": 1e12}, {"megapixels": float("nan")}):
            with self.subTest(numbers), self.assertRaises(BadRequest):
                checked_numbers(**numbers)


class Words(unittest.TestCase):
    def test_costs_and_waiting_in_digits_that_mean_something(self) -> None:
        for amount, currency, words in (
            (None, "", "–"),
            (0.0, "", "nothing"),
            (0.01633, "EUR", "0.016 EUR"),
            (12.34, "USD", "12 USD"),
        ):
            self.assertEqual(amount_said(amount, currency), words)
        for seconds, words in ((None, "–"), (42.1, "42 s"), (725, "12 min"), (12600, "3.5 h")):
            self.assertEqual(waiting_said(seconds), words)


class Again(unittest.TestCase):
    def document(self, **more: Any) -> dict[str, Any]:
        price = {"what": "a year", "amount": 90.0, "currency": "EUR"}
        row = {
            "letter": "A",
            "title": "Wash",
            "prices": [{"tool": "Wash", "prices": [price]}],
            "seconds": 7200.0,
            "costs": "0.09 EUR",
            "said": "90.00 EUR for a year",
            "waits": "2 h",
        }
        return {"worth": {"pictures": 1000.0, "years": 3.0, "rows": [row | more]}}

    def test_what_an_edition_prints_follows_from_its_prices(self) -> None:
        self.assertEqual(list(worth_again({})), [])
        (told,) = worth_again(self.document())
        self.assertEqual((told.state, told.what), (EQUAL, "A, Wash"))
        for wrong in (
            {"costs": "0.08 EUR"},
            {"waits": "1 h"},
            {"said": "nothing"},
            {"prices": []},
            {"seconds": "long"},
            {"prices": [{"tool": "Wash"}]},
        ):
            with self.subTest(wrong):
                (told,) = worth_again(self.document(**wrong))
                self.assertEqual(told.state, DIFFERS)
