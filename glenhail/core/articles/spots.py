"""Places of an edition that readings were taken at: a patch, or a whole frame."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from typing import Any

Document = dict[str, Any]


@dataclass(frozen=True)
class Spot:
    """A place among an edition's frames, and a patch's among its patches; without one
    the whole frame.
    """

    frame: int
    patch: int | None = None


def spots(document: Document) -> Iterator[Spot]:
    """All places of an edition, patches first.

    Parameters
    ----------
    document : dict
        The edition.
    """
    for at, patch in enumerate(document["patches"]):
        yield Spot(patch["frame_at"], at)
    yield from (Spot(at) for at in range(len(document["frames"])))


def spot_names(document: Document, spot: Spot) -> tuple[str, str]:
    """What a place is called, and its frame; the first is "" for a whole frame.

    Parameters
    ----------
    document : dict
        The edition.
    spot : Spot
        The place.
    """
    name = "" if spot.patch is None else document["patches"][spot.patch]["name"]
    return name, document["frames"][spot.frame]["name"]


def spot_words(document: Document, spot: Spot) -> str:
    """A place in words.

    Parameters
    ----------
    document : dict
        The edition.
    spot : Spot
        The place.
    """
    name, frame = spot_names(document, spot)
    return f"{name or 'Whole frame'}, {frame}"


def table_at(document: Document, spot: Spot, matched: bool = False) -> list[Document]:
    """The readings of a place, a row for each measure.

    Parameters
    ----------
    document : dict
        The edition.
    spot : Spot
        The place.
    matched : bool
        Those of the matched outputs instead of those as made.
    """
    patch, frames, patches = spot.patch, document["frames"], document["patches"]
    holder: Document = frames[spot.frame] if patch is None else patches[patch]
    return list(holder["matched_table" if matched else "table"])


def row_at(document: Document, spot: Spot, measure: str, matched: bool = False) -> Document | None:
    """The row of a measure in the table of a place; None where no number was read.

    Parameters
    ----------
    document : dict
        The edition.
    spot : Spot
        The place.
    measure : str
        Its id.
    matched : bool
        As `table_at`.
    """
    table = table_at(document, spot, matched)
    return next((r for r in table if r["id"] == measure and r["cells"]), None)


def row_anchor(document: Document, spot: Spot, measure: str, kinds: Collection[str]) -> str:
    """Where a page has that row; "" where its author left the table off the page.

    Parameters
    ----------
    document : dict
        The edition, with its lead.
    spot : Spot
        The place.
    measure : str
        Its id.
    kinds : collection of str
        Kinds of the blocks that the page has.
    """
    if spot.patch is None:
        return f"#f{spot.frame}-{measure}" if "numbers" in kinds else ""
    there = "figures" in kinds or ("lead" in kinds and document["lead"] == spot.patch)
    return f"#p{spot.patch}-{measure}" if there else ""
