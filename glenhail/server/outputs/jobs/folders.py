"""Jobs about files from elsewhere: finding the places of a folder's files, and
comparing previews with exports.
"""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from glenhail.core.audit.preview import compare_preview
from glenhail.core.errors import NoLineUp
from glenhail.core.naming.thumb import thumb_of
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame, Picture, PictureState
from glenhail.server.outputs.actions.folders import make_proposals
from glenhail.server.outputs.models import Folder, FolderState, Output


@does("match folder")
def match_folder(progress: Progress, arguments: dict[str, Any]) -> None:
    """Propose a cell for every file."""
    folder = (
        Folder.objects.select_related("study")
        .filter(pk=arguments["folder"])
        .exclude(state=FolderState.CONFIRMED)
        .first()
    )
    if folder is None:
        return
    progress.tell(0.1, "looking at names and contents")
    for frame in Frame.objects.filter(
        study_frames__study=folder.study, picture__thumb=None
    ).select_related("picture__file"):
        _see(frame.picture)  # taken in before thumbs were kept
    make_proposals(folder)


def _see(picture: Picture) -> None:
    if picture.state == PictureState.READY:
        Picture.objects.filter(pk=picture.pk).update(thumb=thumb_of(decoded(picture).pixels))


@does("compare preview")
def compare(progress: Progress, arguments: dict[str, Any]) -> None:
    """Say how a captured preview differs from the export beside it."""
    output = (
        Output.objects.select_related("picture__file", "preview__file")
        .filter(pk=arguments["output"])
        .first()
    )
    if output is None or output.picture is None or output.preview is None:
        return
    if any(p.state != PictureState.READY for p in (output.picture, output.preview)):
        return
    progress.tell(0.2, "lining the preview up with the export")
    try:
        told: dict[str, Any] = asdict(
            compare_preview(decoded(output.picture), decoded(output.preview))
        )
    except NoLineUp as why:
        told = {"refused": f"The preview does not line up with the export: {why}."}
    Output.objects.filter(pk=output.pk, preview=output.preview, picture=output.picture).update(
        preview_told=told
    )
