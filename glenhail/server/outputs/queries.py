"""Reading outputs and folders of outputs."""

from __future__ import annotations

from django.db.models import QuerySet

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.jobs.models import ACTIVE, Job
from glenhail.server.jobs.queries import active_jobs
from glenhail.server.outputs.models import Folder, FolderFile, HotFolder, Output, Run, StudyPlan
from glenhail.server.studies.models import Contender, Study

MOST_RUNS = 40


def find_folder(actor: Actor, folder_id: int) -> Folder:
    """A folder of a study the actor may see."""
    folder = Folder.objects.select_related("study__bench").filter(pk=folder_id).first()
    if folder is None:
        raise Missing("There is no such folder, or it was removed.")
    require(actor, folder.study.bench, Role.VIEWER)
    return folder


def find_file(actor: Actor, file_id: int) -> FolderFile:
    """A file of such a folder."""
    file = (
        FolderFile.objects.select_related("folder__study__bench", "picture")
        .filter(pk=file_id)
        .first()
    )
    if file is None:
        raise Missing("There is no such file, or its folder was removed.")
    require(actor, file.folder.study.bench, Role.VIEWER)
    return file


def cells_of(study: Study) -> QuerySet[Output]:
    """A study's outputs by their cells, without what they are of."""
    return Output.objects.filter(contender__study=study)


def open_hot_folders(study: Study) -> QuerySet[HotFolder]:
    """A study's hot folders that are watched."""
    rows = HotFolder.objects.filter(contender__study=study, open=True)
    return rows.select_related("contender__treatment")


def runs_of(contender: Contender, frame_id: int) -> QuerySet[Run]:
    """The runs of a cell, the newest first."""
    return Run.objects.filter(contender=contender, frame_id=frame_id).order_by("-pk")[:MOST_RUNS]


def is_matched(folder: Folder) -> bool:
    """Whether no proposals are being made for a folder any more."""
    return not active_jobs(f"folder:{folder.pk}")


def outputs(study: Study) -> list[Output]:
    """A study's outputs with their pictures."""
    rows = Output.objects.filter(contender__study=study)
    rows = rows.select_related("picture", "preview", "frame__picture", "contender__study")
    # Hundreds of numbers for each picture that nobody asks for here.
    rows = rows.defer("picture__thumb", "preview__thumb", "frame__picture__thumb")
    return list(rows.order_by("frame_id", "contender__order"))


def find_pair(actor: Actor, one_id: int, two_id: int) -> list[Output]:
    """Two outputs of the same frame that the actor may see, in that order.

    Raises
    ------
    ActionError
        If they are of different frames.
    """
    pair = [find_output(actor, output_id) for output_id in (one_id, two_id)]
    if pair[0].frame_id != pair[1].frame_id:
        raise ActionError("Two outputs are compared on one frame; these are of different ones.")
    return pair


def find_output(actor: Actor, output_id: int) -> Output:
    row = (
        Output.objects.select_related("contender__study__bench", "frame__picture", "picture")
        .filter(pk=output_id)
        .first()
    )
    if row is None:
        raise Missing("There is no such output, or it was taken out.")
    require(actor, row.contender.study.bench, Role.VIEWER)
    return row


def plan_by(study: Study) -> StudyPlan | None:
    """The plan by which a study was begun; None where it was not."""
    return StudyPlan.objects.select_related("study__bench").filter(study=study).first()


def is_looking(plan: StudyPlan) -> bool:
    """Whether work that looks for a plan's frames waits or runs."""
    return Job.objects.filter(key=plan.key, state__in=ACTIVE).exists()


def find_plan(study: Study) -> StudyPlan:
    """The plan by which a study was begun.

    Raises
    ------
    Missing
        If it was not.
    """
    found = plan_by(study)
    if found is None:
        raise Missing("This study was not begun by a plan.")
    return found
