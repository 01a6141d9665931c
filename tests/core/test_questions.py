"""What readers would ask is found before they can."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta

from glenhail.core.articles.questions import PRICE_HOLDS, Draft, questions

TODAY = date(2026, 11, 27)
SOUND = Draft(
    today=TODAY,
    open_findings=0,
    summary="B keeps more.",
    method="Alike.",
    disclosure="Nobody paid.",
    verdicts=(("Print", "A plain filter, D, beats B."),),
    letters=frozenset("UABD"),
    prices=(("Keenfold", TODAY - timedelta(days=PRICE_HOLDS)),),
)


class Questions(unittest.TestCase):
    def test_of_a_sound_report_nothing_is_asked(self) -> None:
        self.assertEqual(questions(SOUND), [])

    def test_each_gap_is_asked_about_and_leads_where_it_is_closed(self) -> None:
        old = TODAY - timedelta(days=PRICE_HOLDS + 1)
        cases = {
            "findings": (replace(SOUND, open_findings=2), "2 findings are open", "audit"),
            "one finding": (replace(SOUND, open_findings=1), "1 finding is open", "audit"),
            "no verdict": (replace(SOUND, verdicts=()), "no verdict", "judge"),
            "a verdict on nobody": (
                replace(SOUND, verdicts=(("Web", "F beats A and G, and F again."),)),
                "“Web” names F and G",
                "judge",
            ),
            "no summary": (replace(SOUND, summary=" "), "no summary", "publish"),
            "no method": (replace(SOUND, method=""), "no method", "publish"),
            "no disclosure": (replace(SOUND, disclosure="\n"), "no disclosure", "publish"),
            "an old price": (
                replace(SOUND, prices=(("Keenfold", old), ("Mossgate", TODAY))),
                "price of Keenfold was checked 91 days ago, on 2026-08-28",
                "tools",
            ),
        }
        for name, (draft, words, page) in cases.items():
            with self.subTest(name):
                asked = questions(draft)
                self.assertEqual([q.page for q in asked], [page])
                self.assertIn(words, asked[0].text)

    def test_words_are_no_contenders(self) -> None:
        for text in ("A word", "I saw it", "USA", "ISO 100", "Both are alike"):
            with self.subTest(text):
                draft = replace(SOUND, verdicts=(("Web", text),), letters=frozenset("B"))
                self.assertEqual(questions(draft), [])
