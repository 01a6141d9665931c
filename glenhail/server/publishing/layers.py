"""Each frame of an edition with all that was made of it, as one file of layers."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from glenhail.core.articles.licences import Terms, why_kept_back
from glenhail.core.articles.names import file_parts
from glenhail.core.errors import BadRequest
from glenhail.server.material.models import Frame
from glenhail.server.publishing.document import Document
from glenhail.server.publishing.terms import terms_by_output
from glenhail.server.studies import queries
from glenhail.server.studies.models import Study
from glenhail.server.viewing.layers import lined_up, write_layers


def write_frames(study: Study, folder: Path, tell: Callable[[str], None]) -> list[Document]:
    """A file for each frame, without what its licence keeps back; what there is no file
    of comes with the reason.
    """
    (folder / "layers").mkdir()
    frames = [sf.frame for sf in queries.study_frames(study)]
    stems = file_parts(f.name for f in frames)
    made = []
    for frame, stem in zip(frames, stems, strict=True):
        tell(f"layers of {frame.name}")
        made.append({"frame": frame.name, **_written(study, frame, f"layers/{stem}.ora", folder)})
    return made


def _written(study: Study, frame: Frame, name: str, folder: Path) -> Document:
    rows = lined_up(study, frame)
    if not rows:
        return {"withheld": "nothing of it is lined up"}
    terms = terms_by_output([output for output, _ in rows])
    whys = {output.pk: why_kept_back(*terms[output.pk]) for output, _ in rows}
    offered = [row for row in rows if not whys[row[0].pk]]
    # All of one frame are one picture: what may not be changed is no layer either.
    if why := why_kept_back(frame.terms, Terms()) or (not offered and next(iter(whys.values()))):
        return {"withheld": why}
    try:
        write_layers(frame, offered, 1.0, folder / name)
    except BadRequest:
        return {"withheld": "its layers would be too large for one file"}
    left_out = sorted(output.contender.letter for output, _ in rows if whys[output.pk])
    told = {"file": name, "size": (folder / name).stat().st_size}
    return {**told, "layers": [o.contender.letter for o, _ in offered], "left_out": left_out}
