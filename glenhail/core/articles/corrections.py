"""What was wrong in earlier editions, marked where it stood."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from glenhail.core.articles.names import inline

Document = dict[str, Any]


@dataclass(frozen=True)
class Wrong:
    """What was wrong in an edition and is put right in ``corrected_in``.

    ``patch`` is the place of its patch in the later edition's list, if it has one;
    ``before`` is the reading as the earlier one had it.
    """

    edition: int
    corrected_in: int
    where: str
    text: str
    block: str = ""
    patch: int | None = None
    measure: str = ""
    letter: str = ""
    before: str = ""


def corrections_table(document: Document, wrongs: Sequence[Wrong]) -> list[Document]:
    """The corrections of an edition, numbered, each with where it stands on the page;
    cells of readings that were wrong gain the number of theirs.

    Parameters
    ----------
    document : dict
        The edition, with its patches, sections and the order of its blocks.
    wrongs : sequence of Wrong
        In the order in which they were found.
    """
    made = []
    kinds = {b["kind"] for b in document["blocks"]}
    for number, wrong in enumerate(wrongs, 1):
        anchor, after = "", ""
        if wrong.patch is not None:
            patch = document["patches"][wrong.patch]
            if "figures" in kinds or ("lead" in kinds and document["lead"] == wrong.patch):
                anchor = f"figure-{patch['figure']}"
            cell = cell_of(document, patch["table"], wrong.measure, wrong.letter)
            if cell is not None:
                cell["corrected"] = number
                after = reading_words(cell)
        elif wrong.block in kinds:
            anchor = wrong.block
        made.append(
            {
                "number": number,
                "edition": wrong.edition,
                "corrected_in": wrong.corrected_in,
                "where": wrong.where,
                "text": wrong.text,
                "anchor": anchor,
                "block": wrong.block,
                "patch": wrong.patch,
                "before": wrong.before if after and wrong.before != after else "",
                "after": after,
            }
        )
    return made


def cell_of(
    document: Document, table: Sequence[Document], measure: str, letter: str
) -> Document | None:
    """A table's cell with a number; None where there is none.

    Parameters
    ----------
    document : dict
        The edition.
    table : sequence of dict
        The readings of one of its patches or frames.
    measure : str
        Its id.
    letter : str
        The contender's.
    """
    letters = [c["letter"] for c in document["contenders"]]
    row = next((r for r in table if r["id"] == measure and r["cells"]), None)
    if row is None or letter not in letters:
        return None
    cell: Document = row["cells"][letters.index(letter)]
    return cell if "value" in cell else None


def reading_words(cell: Document) -> str:
    """A reading with its interval, as tables have it.

    Parameters
    ----------
    cell : dict
        With a number.
    """
    return f"{cell['text']} ±{cell['half']}"


def place_words(patch: str, frame: str, measure: str = "", letter: str = "") -> str:
    """Where something was wrong, in words.

    Parameters
    ----------
    patch, frame : str
        Names.
    measure : str
        Name of the measure of the one reading that was wrong; "" for all of the figure.
    letter : str
        The contender's.
    """
    figure = f"{patch}, {frame}"
    return f"{inline(measure)} of {letter}, {figure}" if measure else figure
