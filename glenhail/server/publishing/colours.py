"""Colours of contenders, second to their letters:

Okabe and Ito 2008, told apart by colour-blind eyes too.
"""

from glenhail.server.studies.models import LETTERS

COLOURS = ("#0072b2", "#d55e00", "#009e73", "#cc79a7", "#e69f00", "#56b4e9", "#000000", "#7a6a00")


def colour_of(letter: str) -> str:
    """A letter's colour; none for truth and unprocessed, which are outlined."""
    return COLOURS[LETTERS.index(letter) % len(COLOURS)] if letter in LETTERS else ""
