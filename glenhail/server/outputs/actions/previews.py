"""Previews: what a tool showed on screen, captured, beside what it exported."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import Conflict
from glenhail.server.jobs.actions.queue import Work, enqueue_all
from glenhail.server.material.actions.pictures import clean_name, take_in
from glenhail.server.material.models import Frame, Picture, PictureState
from glenhail.server.outputs.models import Output
from glenhail.server.storage.files import Source
from glenhail.server.studies.models import Contender, Study

NEEDED = ("contender__study__bench",)


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


@dataclass(frozen=True)
class Preview:
    """A picture and the output that it was captured beside."""

    output: Output
    picture: Picture
    name: str


@transaction.atomic
def attach(actor: Actor, output: Output, picture: Picture, name: str) -> Output:
    """Set a picture beside an output as its preview; how they differ is found out."""
    attach_all(actor, output.contender.study, [Preview(output, picture, name)])
    output.refresh_from_db()
    record(actor, output.contender.study.bench, "attach preview", output)
    return output


@transaction.atomic
def attach_all(actor: Actor, study: Study, found: Sequence[Preview]) -> None:
    """Set many pictures beside outputs of one study, in a fixed number of statements."""
    require(actor, study.bench, Role.EDITOR)
    for preview in found:
        preview.output.preview, preview.output.preview_name = preview.picture, preview.name
        preview.output.preview_told = None
    outputs = [preview.output for preview in found]
    Output.objects.bulk_update(outputs, ["preview", "preview_name", "preview_told"])
    queue_previews(outputs)


@transaction.atomic
def detach(actor: Actor, contender: Contender, frame: Frame) -> None:
    """Take a preview away again."""
    require(actor, contender.study.bench, Role.EDITOR)
    output = _output(contender, frame)
    Output.objects.filter(pk=output.pk).update(preview=None, preview_name="", preview_told=None)
    record(actor, contender.study.bench, "take preview away", output)


def _output(contender: Contender, frame: Frame) -> Output:
    rows = Output.objects.filter(contender=contender, frame=frame, picture__isnull=False)
    output = rows.select_related(*NEEDED).first()
    if output is None:
        raise Conflict("There is no output to set a preview beside. Bring it in first.")
    return output


def queue_previews(outputs: Sequence[Output]) -> None:
    """Queue the comparing of previews and outputs of one study."""
    if outputs:
        study = outputs[0].contender.study
        enqueue_all(study.bench, "compare preview", [_comparing(o) for o in outputs], study.pk)


def _comparing(output: Output) -> Work:
    label = f"Comparing preview and export of {output.contender.letter}"
    return Work(f"preview:{output.pk}", label, {"output": output.pk})


def on_picture_settled(sender: object, picture: Picture, **_: object) -> None:
    """A preview, or the output it belongs to, was decoded."""
    if picture.state == PictureState.READY:
        rows = Output.objects.filter(preview__isnull=False, preview_told=None).select_related(
            "contender__study__bench"
        )
        for output in rows.filter(preview=picture) | rows.filter(picture=picture):
            queue_previews([output])
