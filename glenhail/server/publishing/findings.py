"""What an edition says of each contender in words, with the readings that each sentence
was made from.
"""

from __future__ import annotations

from typing import Any

from glenhail.core.answers.sentences import findings
from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.measuring.answers import board_of
from glenhail.server.publishing.colours import colour_of
from glenhail.server.studies.models import Contender, Study

Document = dict[str, Any]
MARKS = {"good": "+", "bad": "\N{MINUS SIGN}", "plain": ""}


def findings_table(study: Study, contenders: list[Contender]) -> list[Document]:
    """One entry a contender that there is something to say of."""
    board = board_of(study)
    behind = {
        cell.id: (board.places[place], measure, cell.taken)
        for (measure, place), row in board.cells.items()
        for cell in row.values()
    }
    made = []
    for contender in contenders:
        if contender.letter not in board.contenders:
            continue
        sentences = []
        for s in findings(board, contender.letter):
            m = MEASURES[s.measure]
            readings = [
                f"{place.name}, {place.frame}: {taken.value:.{m.digits}f} {m.unit}".strip()
                for place, _, taken in (behind[pk] for pk in s.readings)
            ]
            sentences.append(
                {
                    "text": s.text[0].upper() + s.text[1:],
                    "tone": s.tone,
                    "mark": MARKS[s.tone],
                    "measure": m.name,
                    "readings": readings,
                }
            )
        if sentences:
            title = ", ".join(p for p in (contender.title, contender.manner) if p)
            colour = colour_of(contender.letter)
            made.append(
                {
                    "letter": contender.letter,
                    "colour": colour,
                    "title": title,
                    "sentences": sentences,
                }
            )
    return made
