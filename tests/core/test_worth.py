"""What a picture costs and how long a batch waits, by hand."""

from __future__ import annotations

import unittest

from glenhail.core.answers.worth import ToldPrice, batch_seconds, checked_numbers, picture_cost
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
