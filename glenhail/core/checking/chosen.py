"""Tables, charts and readings within texts, compared with the tables they come from."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

from glenhail.core.articles.corrections import cell_of, reading_words
from glenhail.core.articles.spots import Spot, table_at
from glenhail.core.articles.tables import chosen_rows, panels
from glenhail.core.checking.checks import Check, check

Document = dict[str, Any]
KIND = "page"


@dataclass
class PageFigure:
    """A figure's texts as the page has them."""

    caption: str = ""
    names: list[str] = field(default_factory=list)
    lines: list[str] = field(default_factory=list)
    cells: list[str] = field(default_factory=list)


def cell_words(cell: Document) -> str:
    """A cell as the page's tables have it.

    Parameters
    ----------
    cell : dict
        Of a table.
    """
    if not cell.get("half"):
        return "\N{EN DASH}"
    mark = " corrected" if cell.get("corrected") else ""
    return f"{reading_words(cell)}{cell['rank']}{mark}"


def chosen_again(document: Document, figures: Mapping[str, PageFigure]) -> Iterator[Check]:
    """The numbers and captions of the author's own tables and charts.

    Parameters
    ----------
    document : dict
        The edition.
    figures : mapping
        What the page has, by the figures' ids.
    """
    for block in document["blocks"]:
        if block["kind"] not in ("table", "chart"):
            continue
        what = f"{block['kind']} {block['table_number']}"
        page = figures.get(f"{block['kind']}-{block['table_number']}", PageFigure())
        cells = _table(document, block) if block["kind"] == "table" else _chart(document, block)
        yield check(KIND, f"numbers of {what}", page.cells == cells, f"the page has {page.cells}")
        head = f"{what.capitalize()}. {' '.join(block['text'].split())}"
        same = page.caption.startswith(head)
        yield check(KIND, f"caption of {what}", same, f"the page has {page.caption!r}")


def _table(document: Document, block: Document) -> list[str]:
    return [cell_words(cell) for row in chosen_rows(document, block) for cell in row.cells]


def _chart(document: Document, block: Document) -> list[str]:
    made = []
    for panel in panels(document, block):
        for strip in panel.strips:
            for lane in strip.lanes:
                made += ["", reading_words(lane.cell)]
        made += [" ".join(words for words, _ in panel.ticks), ""]
    return made


def values_again(document: Document) -> Iterator[Check]:
    """Readings that stand within texts.

    Parameters
    ----------
    document : dict
        The edition.
    """
    for value in document.get("values", ()):
        table = table_at(document, Spot(value["frame_at"], value["patch"]))
        cell = cell_of(document, table, value["measure"], value["letter"])
        told = reading_words(cell) if cell else "no reading"
        what = f"{value['asked']} in {value['where']}"
        yield check(KIND, what, told == value["reading"], f"its table has {told}")
