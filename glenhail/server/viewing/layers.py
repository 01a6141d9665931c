"""A frame's outputs as one file of named layers: put together once for what is there
now, and kept until that changes.
"""

from __future__ import annotations

import hashlib
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.storage import storages

from glenhail.core.errors import BadRequest
from glenhail.core.files.layers import Layer, write_openraster
from glenhail.core.lineup.overlay import overlay
from glenhail.core.picture import Rect
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.jobs.actions.derived import ask_for_derived
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring.lining import laid_of
from glenhail.server.measuring.models import LineUp
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.outputs.models import Output
from glenhail.server.storage.files import put_derived
from glenhail.server.studies.models import Study

GRIDS = ("frame", "largest")


VERSION = 1


def layers_path(study: Study, frame: Frame, grid: str) -> str:
    """Where the file lies for what the study holds now, within the derived storage.

    Raises
    ------
    ActionError
        If there is no such grid, or nothing of this frame is lined up yet.
    """
    if grid not in GRIDS:
        raise ActionError(f"The layers can have the size of one of {', '.join(GRIDS)}.")
    rows = lined_up(study, frame)
    if not rows:
        raise ActionError(f"Nothing of {frame} is lined up yet. Bring outputs in first.")
    parts = [
        (o.contender.letter, o.contender.title, o.contender.manner, o.picture_id, row.pk)
        for o, row in rows
    ]
    key = hashlib.sha256(repr((VERSION, grid, parts)).encode()).hexdigest()[:20]
    return f"layers/{study.pk}/{frame.pk}-{key}.ora"


def ask_for_layers(actor: Actor, study: Study, frame: Frame, grid: str) -> bool:
    """Whether the file is there; where it is not, its making is queued.

    Who may look may have one that was made.

    Raises
    ------
    Conflict
        If the making of just this file failed.
    """
    require(actor, study.bench, Role.VIEWER)
    if not study.study_frames.filter(frame=frame).exists():
        raise Missing(f"{frame} is not part of this study.")
    key, label = f"layers:{study.pk}:{frame.pk}:{grid}", f"Layers of {frame.name}"
    arguments = {"study": study.pk, "frame": frame.pk, "grid": grid}
    path = layers_path(study, frame, grid)
    return ask_for_derived(actor, study.bench, path, "layers", key, label, arguments, study.pk)


@does("layers")
def make_layers(progress: Progress, arguments: dict[str, Any]) -> None:
    """Write the file."""
    study = Study.objects.get(pk=arguments["study"])
    frame = Frame.objects.select_related("picture__file").get(pk=arguments["frame"])
    path = layers_path(study, frame, arguments["grid"])
    if storages["derived"].exists(path):
        return
    rows = lined_up(study, frame)
    scale = 1.0
    if arguments["grid"] == "largest":
        scale = max(1.0, *(max(row.mapping.sx, row.mapping.sy) for _, row in rows))
    with tempfile.TemporaryDirectory(dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        made = Path(folder) / "layers.ora"
        write_layers(frame, rows, scale, made, progress.tell)
        put_derived(path, made)


def write_layers(
    frame: Frame,
    rows: list[tuple[Output, LineUp]],
    scale: float,
    path: Path,
    tell: Callable[[float, str], None] = lambda share, words: None,
) -> None:
    """Write a frame's outputs as layers, `scale` times the frame's size.

    Raises
    ------
    BadRequest
        If that is too large.
    """
    width, height = round(frame.picture.width * scale), round(frame.picture.height * scale)
    if width * height > settings.MOST_LAYER_PIXELS:
        raise BadRequest(
            f"{frame}: layers of {width:,} × {height:,} px are too large. Take them at the frame's"
            " size."
        )
    write_openraster(path, width, height, _layers(tell, rows, scale))


def lined_up(study: Study, frame: Frame) -> list[tuple[Output, LineUp]]:
    """The frame's outputs that are lined up, from the bottom: unprocessed, contenders,
    truth.
    """
    outputs = [o for o in outputs_queries.outputs(study) if o.frame_id == frame.pk]
    lineups = measuring_queries.lineups(outputs)
    ready = [
        (o, row) for o in outputs if (row := lineups.get(o.pk)) is not None and not row.refused
    ]
    return sorted(
        ready, key=lambda pair: (pair[0].contender.kind == "truth", pair[0].contender.order)
    )


def _layers(
    tell: Callable[[float, str], None], rows: list[tuple[Output, LineUp]], scale: float
) -> Iterator[Layer]:
    for done, (output, row) in enumerate(rows):
        contender = output.contender
        tell(done / len(rows), f"{contender.letter}, {done + 1} of {len(rows)} layers")
        assert output.picture is not None
        laid = laid_of(decoded(output.picture), row)
        frame = output.frame.picture
        over = overlay(laid, Rect(0, 0, frame.width, frame.height), scale)
        name = f"{contender.letter} {contender.title}" + (
            f", {contender.manner}" if contender.manner else ""
        )
        yield Layer(name, over.pixels, over.x, over.y)
