"""Tables and charts of readings that an author chose for the report."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from glenhail.core.articles.spots import Spot, row_at
from glenhail.core.articles.tables import words_of_choice
from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.common.errors import ActionError
from glenhail.server.publishing.blocks import CHART, TABLE
from glenhail.server.studies.models import Study

Document = dict[str, Any]
MOST_ROWS = 120


def checked_table(study: Study, told: Document) -> Document:
    """What a table or chart block is kept as: measures, places (a frame and a patch, or
    none for the whole frame) and letters.

    Raises
    ------
    ActionError
        If there is no such measure, place or contender, or there are too many rows.
    """
    measures = list(dict.fromkeys(told.get("measures", ())))
    places = [{"frame": p["frame"], "patch": p.get("patch")} for p in told.get("places", ())]
    letters = list(dict.fromkeys(told.get("letters", ())))
    if unknown := [m for m in measures if m not in MEASURES]:
        raise ActionError(f"There is no measure {unknown[0]!r}.")
    if len(measures) * len(places) > MOST_ROWS:
        raise ActionError(f"A table has at most {MOST_ROWS} rows: choose fewer measures or places.")
    frames = set(study.study_frames.values_list("frame_id", flat=True))
    patches = set(study.patches.values_list("frame_id", "pk"))
    for place in places:
        frame, patch = place["frame"], place["patch"]
        if frame not in frames or (patch is not None and (frame, patch) not in patches):
            raise ActionError("A place of the table is not in this study any more. Choose again.")
    known = set(study.contenders.values_list("letter", flat=True))
    if gone := sorted(set(letters) - known):
        raise ActionError(f"There is no contender {', '.join(gone)} in this study.")
    if told.get("matched") and not study.matched:
        raise ActionError("This study has no matched readings. Choose those as made.")
    basis = {"matched": True} if told.get("matched") else {}
    return {"measures": measures, "places": places, "letters": letters, **basis}


def placed_tables(
    document: Document,
    blocks: Sequence[Document],
    frames: dict[int, int],
    patches: dict[int, int],
) -> list[Document]:
    """Blocks, where tables and charts have their rows by the places of frames and
    patches in the document, and numbers; one that has no number to show is left out.
    """
    made: list[Document] = []
    counts = {TABLE: 0, CHART: 0}
    letters = [c["letter"] for c in document["contenders"]]
    for block in blocks:
        if block["kind"] not in counts:
            made.append(block)
            continue
        rows = _rows(document, block["table"], frames, patches)
        chosen = [v for v in block["table"]["letters"] if v in letters]
        matched = bool(block["table"].get("matched"))
        if not _any_number(document, rows, [letters.index(v) for v in chosen], matched):
            continue
        counts[block["kind"]] += 1
        told = {"kind": block["kind"], "rows": rows, "letters": chosen, "matched": matched}
        caption = block.get("text", "").strip() or ", ".join(words_of_choice(told))
        made.append({**told, "text": caption, "table_number": counts[block["kind"]]})
    return made


def _rows(
    document: Document, table: Document, frames: dict[int, int], patches: dict[int, int]
) -> list[Document]:
    places = [
        (frames[p["frame"]], None if p["patch"] is None else patches[p["patch"]])
        for p in table["places"]
        if p["frame"] in frames and (p["patch"] is None or p["patch"] in patches)
    ]
    return [
        {"patch": patch, "frame_at": frame, "measure": measure}
        for frame, patch in places
        for measure in table["measures"]
        if measure in MEASURES
        and row_at(document, Spot(frame, patch), measure, bool(table.get("matched")))
    ]


def _any_number(
    document: Document, rows: Sequence[Document], columns: Sequence[int], matched: bool
) -> bool:
    for row in rows:
        told = row_at(document, Spot(row["frame_at"], row["patch"]), row["measure"], matched)
        if told is not None and any("value" in told["cells"][at] for at in columns):
            return True
    return False
