"""Contenders by uses: how easily each one's difference from another is seen, over all
frames, and in words.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from glenhail.core.seeing.visible import Seen
from glenhail.core.uses.table import Use
from glenhail.core.words import listed

EASE = (Seen.ONCE, Seen.POINTED, Seen.NOBODY)
EVERY = {Seen.ONCE: "at once", Seen.POINTED: "when pointed at", Seen.NOBODY: "by nobody"}


@dataclass(frozen=True)
class SeenAt:
    """How easily a contender's difference is seen in a use, on one frame; ``share`` is
    how much of the picture differs by what is seen when pointed at.
    """

    letter: str
    frame: int
    use: str
    seen: Seen
    share: float


@dataclass(frozen=True)
class MatrixCell:
    """A contender in a use, by the frame on which most is seen: how easily, on how many
    of its frames so, and of which share of the picture.
    """

    letter: str
    use: str
    seen: Seen
    frames: int
    of: int
    frame: int
    share: float


def matrix(found: Sequence[SeenAt]) -> list[MatrixCell]:
    """One cell for each contender and use, in the order in which they come.

    Parameters
    ----------
    found : sequence of SeenAt
        At most one for each contender, use and frame.
    """
    cells: dict[tuple[str, str], list[SeenAt]] = {}
    for one in found:
        cells.setdefault((one.letter, one.use), []).append(one)
    return [_cell(letter, use, of) for (letter, use), of in cells.items()]


def _cell(letter: str, use: str, of: Sequence[SeenAt]) -> MatrixCell:
    most = min(of, key=lambda one: (EASE.index(one.seen), -one.share))
    alike = sum(one.seen is most.seen for one in of)
    return MatrixCell(letter, use, most.seen, alike, len(of), most.frame, most.share)


def short_names(uses: Sequence[Use]) -> dict[str, str]:
    """Names of uses for a sentence and a table's head: without what follows the first
    comma, where that leaves each its own.

    Parameters
    ----------
    uses : sequence of Use
        Those that stand beside each other.
    """
    short = {use.id: use.name.partition(",")[0] for use in uses}
    doubled = {name for name in short.values() if list(short.values()).count(name) > 1}
    return {use.id: use.name if short[use.id] in doubled else short[use.id] for use in uses}


def matrix_said(cells: Sequence[MatrixCell], names: Mapping[str, str], against: str) -> list[str]:
    """A sentence for all contenders of whom the same is to be said.

    Parameters
    ----------
    cells : sequence of MatrixCell
        Of all contenders that were held against one.
    names : Mapping of str to str
        Of the uses, by their ids.
    against : str
        The letter of that one.
    """
    by: dict[str, list[str]] = {}
    for letter in dict.fromkeys(cell.letter for cell in cells):
        of = [cell for cell in cells if cell.letter == letter]
        by.setdefault(_how(of, names), []).append(letter)
    told = [
        f"The difference of {listed(letters)} from {against} is seen {how}."
        for how, letters in by.items()
    ]
    several = any(cell.of > 1 for cell in cells)
    return [*told, "Each on the frame that shows it most."] if several else told


def _how(cells: Sequence[MatrixCell], names: Mapping[str, str]) -> str:
    seen = cells[0].seen
    if len(cells) > 1 and all(cell.seen is seen for cell in cells):
        return f"{EVERY[seen]} in {'any' if seen is Seen.NOBODY else 'every'} use"
    return "; ".join(_by_ease(cells, names))


def _by_ease(cells: Sequence[MatrixCell], names: Mapping[str, str]) -> Iterator[str]:
    for seen in EASE:
        uses = [names[cell.use] for cell in cells if cell.seen is seen]
        if uses:
            yield f"{EVERY[seen]} as {listed(uses)}"
