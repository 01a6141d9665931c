"""Reading studies, their frames, contenders and patches."""

from __future__ import annotations

from django.db.models import Prefetch, QuerySet

from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import Missing
from glenhail.server.studies.models import Contender, Kind, Patch, Study, StudyFrame


def find_contender(actor: Actor, contender_id: int) -> Contender:
    """A contender of a study the actor may see."""
    contender = _with_steps().filter(pk=contender_id).first()
    if contender is None:
        raise Missing("There is no such contender, or it was withdrawn.")
    require(actor, contender.study.bench, Role.VIEWER)
    return contender


def _with_steps() -> QuerySet[Contender]:
    rows = Contender.objects.select_related("study__bench", "treatment")
    return rows.prefetch_related("treatment__steps__release__tool")


def find_study(actor: Actor, study_id: int, least: Role = Role.VIEWER) -> Study:
    """A study the actor may see (or work on, where more is asked for)."""
    study = Study.objects.select_related("bench").filter(pk=study_id).first()
    if study is None:
        raise Missing("There is no such study, or it was removed.")
    require(actor, study.bench, least)
    return study


def studies_of(bench: Bench) -> QuerySet[Study]:
    """A bench's studies with what their list shows."""
    return Study.objects.filter(bench=bench).prefetch_related(
        Prefetch("contenders", contenders()), "study_frames__frame__picture"
    )


def contenders() -> QuerySet[Contender]:
    """Contenders with their treatments' steps at hand."""
    return Contender.objects.select_related("treatment").prefetch_related(
        "treatment__steps__release__tool"
    )


def entered(study: Study) -> QuerySet[Contender]:
    """A study's treatments and bodies in their order, without whom they are held
    against.
    """
    return contenders().filter(study=study, kind__in=(Kind.TREATMENT, Kind.BODY))


def study_frames(study: Study) -> QuerySet[StudyFrame]:
    """A study's frames in their order."""
    return study.study_frames.select_related(
        "frame__picture", "frame__truth", "frame__scene", "frame__finding__target"
    )


def find_patch(actor: Actor, patch_id: int) -> Patch:
    """A patch of a study the actor may see."""
    patch = (
        Patch.objects.select_related("study__bench", "frame__picture").filter(pk=patch_id).first()
    )
    if patch is None:
        raise Missing("There is no such patch, or it was removed.")
    require(actor, patch.study.bench, Role.VIEWER)
    return patch
