"""Sizes of files as people read them."""

from __future__ import annotations

import unittest

from glenhail.core.articles.sizes import size_words


class Sizes(unittest.TestCase):
    def test_powers_of_ten_with_three_digits_at_most(self) -> None:
        cases = {
            0: "0 B",
            999: "999 B",
            1000: "1.00 kB",
            9_996: "10.0 kB",
            99_960: "100 kB",
            999_600: "1.00 MB",
            9_437_184: "9.44 MB",
            330_000_000: "330 MB",
            30e12: "30.0 TB",
            5e15: "5000 TB",
        }
        for count, words in cases.items():
            with self.subTest(count):
                self.assertEqual(size_words(count), words)
