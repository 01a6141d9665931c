"""What an edition says of a release against the one before it."""

from __future__ import annotations

from typing import Any

from glenhail.core.answers.succession import MeasureSuccession, succession, succession_words
from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.measuring.answers import board_of
from glenhail.server.studies.models import Contender, Study

Document = dict[str, Any]


def succession_table(study: Study, contenders: list[Contender]) -> list[Document]:
    """One entry for each contender that follows another of the study."""
    letters = {c.pk: c.letter for c in contenders}
    pairs = [(c, letters[c.follows_id]) for c in contenders if c.follows_id in letters]
    if not pairs:
        return []
    board = board_of(study)
    return [_entry(c.letter, earlier, succession(board, c.letter, earlier)) for c, earlier in pairs]


def _entry(later: str, earlier: str, found: list[MeasureSuccession]) -> Document:
    return {
        "later": later,
        "earlier": earlier,
        "text": succession_words(found),
        "rows": [
            {
                "measure": MEASURES[f.measure].name,
                "places": f.places,
                "better": list(f.better),
                "worse": list(f.worse),
                "other": list(f.other),
                "unseen": f.unseen,
                "none": f.none,
            }
            for f in found
        ],
    }
