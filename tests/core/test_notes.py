"""Footnotes: numbered in their places, and what is none left alone."""

from __future__ import annotations

import re
import unittest

from hypothesis import given
from hypothesis import strategies as st

from glenhail.core.articles.notes import Note, with_notes

LINK = '<a href="x[^y]" rel="noopener">there</a>'
# A text, and what its notes say.
TEXTS: list[tuple[str, list[str]]] = [
    ("<p>Softer[^ at 60 %] here.</p>", ["at 60 %"]),
    ("<p>A[^one] and B[^ two ]</p><ul><li>C[^three]</li></ul>", ["one", "two", "three"]),
    (f"<p>A[^ <strong>all</strong> {LINK}<br>b].</p>", [f"<strong>all</strong> {LINK}<br>b"]),
    # Nothing said, nothing closed, over the end of a paragraph, of a mark that began before.
    ("<p>A[^ ] b</p>", []),
    ("<p>A[^ b</p>", []),
    ("<p>A[^ b</p><p>c]</p>", []),
    ("<p><em>A[^ b</em> c]</p>", []),
    ("<p>A[^ <em>b] c</em></p>", []),
    # Within a tag it is none; the next one still is.
    (f"<p>{LINK}</p>", []),
    ("<p>A[^ <em>b] c</em> d[^ e]</p>", ["e"]),
    ("<p>[1] and a[0]^2</p>", []),
]


class Notes(unittest.TestCase):
    def test_a_note_s_number_stands_in_its_place_and_what_is_none_stays(self) -> None:
        for html, want in TEXTS:
            with self.subTest(html=html):
                made, notes = with_notes(html, 4)
                self.assertEqual(
                    notes, [Note(number, text) for number, text in enumerate(want, start=4)]
                )
                for note in notes:
                    reference = f'<sup id="ref-{note.number}"><a href="#note-{note.number}">'
                    self.assertIn(f"{reference}{note.number}</a></sup>", made)
                if not want:
                    self.assertEqual(made, html)

    @given(st.text(alphabet="[^] a<p>/emstrong1", max_size=80))
    def test_nothing_else_of_a_text_is_lost(self, html: str) -> None:
        made, notes = with_notes(html)
        # With every note put back the text is what it was, but for spaces around what is said.
        for note in notes:
            reference = (
                f'<sup id="ref-{note.number}"><a href="#note-{note.number}">{note.number}</a></sup>'
            )
            self.assertEqual(made.count(reference), 1)
            made = made.replace(reference, f"[^{note.text}]")
        self.assertEqual(re.sub(r"\s", "", made), re.sub(r"\s", "", html))
