"""Previews: what a tool showed on screen, captured, beside what it exported."""

from __future__ import annotations

from django.db import transaction

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import Conflict
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.material.actions.pictures import clean_name, take_in
from glenhail.server.material.models import Frame, Picture, PictureState
from glenhail.server.outputs.models import Output
from glenhail.server.storage.files import Source
from glenhail.server.studies.models import Contender


def attach_file(
    actor: Actor, contender: Contender, frame: Frame, source: Source, name: str
) -> Output:
    """Take a captured preview in and set it beside a cell's output."""
    require(actor, contender.study.bench, Role.EDITOR)
    output = _output(contender, frame)
    return attach(
        actor,
        output,
        take_in(contender.study.bench, source, name, contender.study_id),
        clean_name(name),
    )


@transaction.atomic
def attach(actor: Actor, output: Output, picture: Picture, name: str) -> Output:
    """Set a picture beside an output as its preview; how they differ is found out."""
    study = output.contender.study
    require(actor, study.bench, Role.EDITOR)
    Output.objects.filter(pk=output.pk).update(
        preview=picture, preview_name=name, preview_told=None
    )
    output.refresh_from_db()
    record(actor, study.bench, "attach preview", output)
    queue_preview(output)
    return output


@transaction.atomic
def detach(actor: Actor, contender: Contender, frame: Frame) -> None:
    """Take a preview away again."""
    require(actor, contender.study.bench, Role.EDITOR)
    output = _output(contender, frame)
    Output.objects.filter(pk=output.pk).update(preview=None, preview_name="", preview_told=None)
    record(actor, contender.study.bench, "take preview away", output)


def _output(contender: Contender, frame: Frame) -> Output:
    rows = Output.objects.filter(contender=contender, frame=frame, picture__isnull=False)
    output = rows.select_related("contender__study__bench").first()
    if output is None:
        raise Conflict("There is no output to set a preview beside. Bring it in first.")
    return output


def queue_preview(output: Output) -> None:
    """Queue the comparing of preview and output."""
    study = output.contender.study
    label = f"Comparing preview and export of {output.contender.letter}"
    enqueue(
        study.bench,
        "compare preview",
        f"preview:{output.pk}",
        label,
        {"output": output.pk},
        study.pk,
    )


def on_picture_settled(sender: object, picture: Picture, **_: object) -> None:
    """A preview, or the output it belongs to, was decoded."""
    if picture.state == PictureState.READY:
        rows = Output.objects.filter(preview__isnull=False, preview_told=None).select_related(
            "contender__study__bench"
        )
        for output in rows.filter(preview=picture) | rows.filter(picture=picture):
            queue_preview(output)
