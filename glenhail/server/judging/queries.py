"""Reading verdicts and remarks."""

from __future__ import annotations

from django.db.models import QuerySet

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import Missing
from glenhail.server.judging.models import Remark
from glenhail.server.studies.models import Patch, Study


def remarks_of(study: Study) -> QuerySet[Remark]:
    """A study's remarks by their numbers, with what they are of."""
    rows = Remark.objects.filter(study=study, frame__study_frames__study=study)
    return rows.select_related("author", "frame").prefetch_related("contenders")


def find_remark(actor: Actor, remark_id: int) -> Remark:
    """A remark of a study the actor may see."""
    row = Remark.objects.select_related("study__bench", "frame").filter(pk=remark_id).first()
    if row is None:
        raise Missing("There is no such remark, or it was removed.")
    require(actor, row.study.bench, Role.VIEWER)
    return row


def patch_at(patches: list[Patch], remark: Remark) -> Patch | None:
    """The smallest patch that a remark lies on."""
    around = [
        p
        for p in patches
        if p.frame_id == remark.frame_id
        and p.x <= remark.x <= p.x + p.w
        and p.y <= remark.y <= p.y + p.h
    ]
    return min(around, key=lambda p: p.w * p.h, default=None)
