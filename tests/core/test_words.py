"""Words that sentences of every kind share."""

from __future__ import annotations

import unittest

from glenhail.core.words import digits, listed


class Words(unittest.TestCase):
    def test_names_are_listed(self) -> None:
        for names, words in (
            ([], ""),
            (["A"], "A"),
            (["A", "B"], "A and B"),
            (["A", "B", "C"], "A, B and C"),
        ):
            self.assertEqual(listed(names), words)
        self.assertEqual(listed(["A", "B"], "or"), "A or B")

    def test_numbers_have_no_powers_of_ten(self) -> None:
        for value, words in ((8.39e-5, "0.000084"), (0.25, "0.25"), (3.0, "3"), (12.34, "12")):
            self.assertEqual(digits(value), words)
        self.assertEqual(digits(1.23456, 4), "1.235")
