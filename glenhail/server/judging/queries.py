"""Reading verdicts, remarks and sittings."""

from __future__ import annotations

from django.db.models import Count, Q, QuerySet

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import Missing
from glenhail.server.judging.keys import LINK, SEAT, number_in
from glenhail.server.judging.models import Judge, NamedCall, Remark, Sitting, SittingLink
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


def named_calls_of(study: Study) -> QuerySet[NamedCall]:
    """Calls by those who saw the names, with what they are of."""
    rows = NamedCall.objects.filter(study=study, patch__study=study)
    return rows.select_related("patch", "contender", "against", "author")


def sittings_of(study: Study) -> QuerySet[Sitting]:
    """A study's sittings, the newest first, with how many sit and have answered."""
    counts = {
        "judged": Count("judges", distinct=True),
        "done": Count("judges", filter=Q(judges__finished__isnull=False), distinct=True),
        "answers": Count("judges__calls", distinct=True),
    }
    return Sitting.objects.filter(study=study).annotate(**counts).order_by("-number")


def find_sitting(actor: Actor, sitting_id: int) -> Sitting:
    """A sitting of a study the actor may see."""
    row = Sitting.objects.select_related("study__bench").filter(pk=sitting_id).first()
    if row is None:
        raise Missing("There is no such sitting, or it was removed.")
    require(actor, row.study.bench, Role.VIEWER)
    return row


def find_sitting_link(actor: Actor, link_id: int) -> SittingLink:
    """A link to a sitting the actor may see."""
    row = SittingLink.objects.select_related("sitting__study__bench").filter(pk=link_id).first()
    if row is None:
        raise Missing("There is no such link, or it was removed.")
    require(actor, row.sitting.study.bench, Role.VIEWER)
    return row


def find_seat(key: str) -> Judge:
    """The judge whose seat a key is of."""
    number = number_in(SEAT, key)
    row = Judge.objects.select_related("sitting", "link").filter(pk=number or 0).first()
    if row is None:
        raise Missing("There is no such seat, or its sitting was removed.")
    return row


def find_link(key: str) -> SittingLink:
    """The link that a key is of."""
    number = number_in(LINK, key)
    row = SittingLink.objects.select_related("sitting").filter(pk=number or 0).first()
    if row is None:
        raise Missing("There is no such link. Check that all of it was copied.")
    return row
