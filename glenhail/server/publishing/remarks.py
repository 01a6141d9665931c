"""Remarks in an edition: what was seen at a spot, with the spot as each has it."""

from __future__ import annotations

from collections.abc import Callable
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


def cut_remark(told: Document, folder: Path) -> None:
    """Save the spot as the frame and each contender has it that the remark is of."""
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
    lineups = measuring_queries.lineups(rows)
    for output in rows:
        lineup = lineups.get(output.pk)
        if lineup is not None and not lineup.refused:
            told["crops"].append(_crop(told, output, lineup.mapping.rect, folder))


def _crop(told: Document, output: Output, place: Callable[[Rect], Rect], folder: Path) -> Document:
    assert output.picture is not None
    display.ensure(output.picture)
    around = Rect(told["x"] - SIDE / 2, told["y"] - SIDE / 2, SIDE, SIDE)
    target = place(around)
    part = target.clipped(Rect(0, 0, output.picture.width, output.picture.height)).whole()
    letter = output.contender.letter
    name = f"crops/remark-{told['number']}-{letter}.png"
    (folder / name).write_bytes(png_bytes(crop_codes(output.picture.pyramid, part), level=2))
    share = around.w / target.w * MAGNIFICATION
    return {
        "letter": letter,
        "file": name,
        # In the output's whole pixels.
        "place": [round(v) for v in (part.x, part.y, part.w, part.h)],
        "width": f"{part.w * share:.2f}px",
        "ratio": f"{part.w:g} / {part.h:g}",
    }
