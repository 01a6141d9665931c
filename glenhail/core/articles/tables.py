"""Tables and charts of chosen readings: rows are measures at places, columns are
contenders.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from glenhail.core.articles.spots import Spot, row_anchor, row_at, spot_words
from glenhail.core.measures.catalogue import MEASURES
from glenhail.core.measures.thresholds import THRESHOLDS

Document = dict[str, Any]
TICKS = 5  # about so many on an axis
STEPS = (1.0, 2.0, 2.5, 5.0, 10.0)
# Those that compete with nobody.
APART = ("unprocessed", "truth")


@dataclass(frozen=True)
class ChosenRow:
    """A measure at a place, with the chosen contenders' cells in their order.

    ``anchor`` leads to the full table's row; ``unseen`` where the contenders differ by
    less than is seen.
    """

    place: str
    measure: str
    unit: str
    cells: tuple[Document, ...]
    anchor: str
    unseen: bool


def chosen_rows(document: Document, block: Document) -> list[ChosenRow]:
    """The rows of a table block, each place's together.

    Parameters
    ----------
    document : dict
        The edition.
    block : dict
        With ``rows`` (patch, frame_at, measure), ``letters``, and whether they are
        ``matched``; the full table of these has no rows that could be led to.
    """
    matched = block.get("matched", False)
    kinds = {b["kind"] for b in document["blocks"]}
    columns = {c["letter"]: (at, c["kind"]) for at, c in enumerate(document["contenders"])}
    chosen = [columns[letter] for letter in block["letters"]]
    rivals = [kind not in APART for _, kind in chosen]
    made = []
    for told in block["rows"]:
        spot = Spot(told["frame_at"], told["patch"])
        row = row_at(document, spot, told["measure"], matched)
        if row is None:
            continue
        cells = tuple(row["cells"][at] for at, _ in chosen)
        compared = [c for c, rival in zip(cells, rivals, strict=True) if rival]
        made.append(
            ChosenRow(
                spot_words(document, spot),
                row["measure"],
                row["unit"],
                cells,
                "" if matched else row_anchor(document, spot, told["measure"], kinds),
                unseen(told["measure"], compared),
            )
        )
    return made


def unseen(measure: str, cells: Sequence[Document]) -> bool:
    """Whether numbers differ by less than is seen.

    Parameters
    ----------
    measure : str
        Its id.
    cells : sequence of dict
        Readings; those without a number do not count.
    """
    values = [c["value"] for c in cells if "value" in c]
    if len(values) < 2 or measure not in THRESHOLDS:
        return False
    low, high = min(values), max(values)
    return bool(high - low < THRESHOLDS[measure].between(low, high))


@dataclass(frozen=True)
class Lane:
    """One contender's reading on a chart; places are shares of the axis."""

    letter: str
    cell: Document
    at: float
    left: float
    width: float


@dataclass(frozen=True)
class Strip:
    """A measure at a place, with a lane for each contender that has a reading."""

    row: ChosenRow
    lanes: tuple[Lane, ...]


@dataclass(frozen=True)
class Panel:
    """The places of one measure over one axis; a tick is its words and its place, a
    share of the axis.
    """

    measure: str
    unit: str
    ticks: tuple[tuple[str, float], ...]
    strips: tuple[Strip, ...]


def panels(document: Document, block: Document) -> list[Panel]:
    """A chart block: a panel for each measure, in the order of the rows.

    Parameters
    ----------
    document : dict
        The edition.
    block : dict
        With ``rows`` and ``letters``.
    """
    rows = chosen_rows(document, block)
    return [
        _panel([r for r in rows if r.measure == name], block["letters"])
        for name in dict.fromkeys(r.measure for r in rows)
    ]


def _panel(rows: Sequence[ChosenRow], letters: Sequence[str]) -> Panel:
    numbers = [c for r in rows for c in r.cells if "value" in c]
    ticks = axis_ticks(min(c["low"] for c in numbers), max(c["high"] for c in numbers))
    start, length = ticks[0], ticks[-1] - ticks[0]

    def share(value: float) -> float:
        return float(round((value - start) / length, 5))

    def lane(letter: str, cell: Document) -> Lane:
        left, right = share(cell["low"]), share(cell["high"])
        return Lane(letter, cell, share(cell["value"]), left, round(right - left, 5))

    strips = (
        Strip(
            r,
            tuple(
                lane(letter, cell)
                for letter, cell in zip(letters, r.cells, strict=True)
                if "value" in cell
            ),
        )
        for r in rows
    )
    return Panel(
        rows[0].measure,
        rows[0].unit,
        tuple((f"{t:,.10g}".replace("-", "\N{MINUS SIGN}"), share(t)) for t in ticks),
        tuple(strips),
    )


def axis_ticks(low: float, high: float) -> list[float]:
    """Round numbers at even steps, the first no higher than what is shown, the last no
    lower.

    Parameters
    ----------
    low, high : float
        What is shown, in one unit; `high` is no less than `low`.
    """
    span = high - low or abs(high) or 1.0
    rough = span / TICKS
    power = 10.0 ** math.floor(math.log10(rough))
    step = next(s * power for s in STEPS if s * power >= rough * (1 - 1e-9))
    first, last = math.floor(low / step + 1e-9), math.ceil(high / step - 1e-9)
    # A step of its own rounding: sums of 0.1 would not be.
    digits = max(0, 2 - math.floor(math.log10(step)))
    return [round(n * step, digits) for n in range(first, max(last, first + 1) + 1)]


def words_of_choice(block: Document) -> list[str]:
    """The names of the measures that a table block shows, each once.

    Parameters
    ----------
    block : dict
        With ``rows``.
    """
    return [MEASURES[m].name for m in dict.fromkeys(r["measure"] for r in block["rows"])]
