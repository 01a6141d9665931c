"""Remarks in an edition: what was seen at a spot, with the spot as each has it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from glenhail.core.files.encoding import png_bytes
from glenhail.core.picture import Rect
from glenhail.server.judging.models import Remark
from glenhail.server.judging.queries import patch_at, remarks_of
from glenhail.server.material import display
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Kind, Study
from glenhail.server.viewing.crops import crop_codes

Document = dict[str, Any]
SIDE = 80  # frame px around a spot
MAGNIFICATION = 2


def remarks_table(study: Study, frames: dict[int, int]) -> list[Document]:
    """What was remarked, by number; the crops are cut later.

    `frames` tells each frame's place among the document's.
    """
    patches = list(study.patches.all())
    return [
        _told(remark, patches) | {"frame_at": frames[remark.frame_id]}
        for remark in remarks_of(study)
        if remark.frame_id in frames
    ]


def _told(remark: Remark, patches: list[Any]) -> Document:
    patch = patch_at(patches, remark)
    return {
        "id": remark.pk,
        "number": remark.number,
        "frame": remark.frame.name,
        "patch": patch.name if patch else "",
        "x": remark.x,
        "y": remark.y,
        "kind": remark.kind,
        "text": remark.text,
        "of_all": remark.of_all,
        "letters": [c.letter for c in remark.contenders.all()],
        "author": remark.author.get_username() if remark.author else "",
        "created": remark.created.isoformat(timespec="seconds"),
        "crops": [],
    }


@dataclass(frozen=True)
class LaidSpot:
    """The spot of a remark in one output, and what a page is told of it."""

    output: Output
    part: Rect
    entry: Document


def lay_remark(told: Document) -> list[LaidSpot]:
    """The spot as the frame and each contender has it that the remark is of; the
    remark's id is lost.
    """
    remark = Remark.objects.select_related("study").get(pk=told.pop("id"))
    outputs = Output.objects.filter(contender__study=remark.study, frame=remark.frame_id)
    if not remark.of_all:
        named = outputs.filter(contender__remarks=remark)
        outputs = named | outputs.filter(contender__kind=Kind.UNPROCESSED)
    rows = list(
        outputs.select_related("contender", "picture__file", "frame__picture")
        .order_by("contender__order", "pk")
        .distinct()
    )
    lines = measuring_queries.lineups(rows)
    lined = [(o, lines[o.pk]) for o in rows if o.pk in lines and not lines[o.pk].refused]
    return [_laid(told, output, row.mapping.rect) for output, row in lined]


def cut_remark(told: Document, folder: Path) -> None:
    """Save a remark's spot as each has it."""
    for spot in lay_remark(told):
        assert spot.output.picture is not None
        display.ensure(spot.output.picture)
        codes = crop_codes(spot.output.picture.pyramid, spot.part)
        (folder / spot.entry["file"]).write_bytes(png_bytes(codes, level=2))
        told["crops"].append(spot.entry)


def _laid(told: Document, output: Output, place: Callable[[Rect], Rect]) -> LaidSpot:
    assert output.picture is not None
    around = Rect(told["x"] - SIDE / 2, told["y"] - SIDE / 2, SIDE, SIDE)
    target = place(around)
    part = target.clipped(Rect(0, 0, output.picture.width, output.picture.height)).whole()
    letter = output.contender.letter
    share = around.w / target.w * MAGNIFICATION
    entry = {
        "letter": letter,
        "file": f"crops/remark-{told['number']}-{letter}.png",
        # In the output's whole pixels.
        "place": [round(v) for v in (part.x, part.y, part.w, part.h)],
        "width": f"{part.w * share:.2f}px",
        "ratio": f"{part.w:g} / {part.h:g}",
    }
    return LaidSpot(output, part, entry)
