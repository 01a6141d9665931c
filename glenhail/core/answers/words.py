"""A paragraph of an answer as one sentence."""

from __future__ import annotations

from glenhail.core.answers.paragraphs import Clause, Paragraph


def in_words(paragraph: Paragraph) -> str:
    """Ranks, the best first, then what speaks against whom: “D, then A and B (no
    measurable difference); smears: C.”

    Parameters
    ----------
    paragraph : Paragraph
        What is answered for one type of patch.
    """
    order = ", then ".join(_ranked(clause) for clause in paragraph.order)
    against = [f"{clause.text}: {_listed(clause.letters)}" for clause in paragraph.faults]
    return "; ".join([order, *against]) + "."


def over_words(places: int) -> str:
    """How far it carries.

    Parameters
    ----------
    places : int
        Patches that an answer is told of.
    """
    return "on one patch" if places == 1 else f"over {places} patches"


def _ranked(clause: Clause) -> str:
    alike = f" ({clause.text})" if clause.text and len(clause.letters) > 1 else ""
    return _listed(clause.letters) + alike


def _listed(letters: tuple[str, ...]) -> str:
    return " and ".join(filter(None, [", ".join(letters[:-1]), letters[-1]]))
