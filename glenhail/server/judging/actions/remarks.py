"""Placing, changing and removing remarks."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction
from django.db.models import Max

from glenhail.core.looking.remark_kinds import RemarkKind
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError
from glenhail.server.common.locks import locked
from glenhail.server.judging.models import Remark
from glenhail.server.material.models import Frame
from glenhail.server.studies.models import Study

MOST = 2000  # of a study


@dataclass(frozen=True)
class Said:
    """What a remark says, and of which contenders, by their ids; none means all."""

    kind: RemarkKind
    text: str
    contenders: Sequence[int]


@transaction.atomic
def place_remark(
    actor: Actor, study: Study, frame: Frame, x: float, y: float, said: Said
) -> Remark:
    """Put a remark at a spot of a frame, px.

    Raises
    ------
    ActionError
        If the spot is not on the frame, a contender not of the study, or own words are
        missing.
    """
    require(actor, study.bench, Role.EDITOR)
    locked(study)
    if not study.study_frames.filter(frame=frame).exists():
        raise ActionError(f"{frame} is not part of this study. Take it in first.")
    size = frame.picture.width, frame.picture.height
    if not all(math.isfinite(v) and 0 <= v <= most for v, most in zip((x, y), size, strict=True)):
        raise ActionError(f"The spot is not on {frame}, which has {size[0]} × {size[1]} px.")
    if study.remarks.count() >= MOST:
        raise ActionError(f"A study holds {MOST} remarks. Remove some first.")
    chosen = _checked(study, said)
    last = study.remarks.aggregate(last=Max("number"))["last"] or 0
    remark = Remark.objects.create(
        study=study,
        frame=frame,
        number=last + 1,
        x=x,
        y=y,
        kind=said.kind,
        text=said.text.strip()[:400],
        of_all=not chosen,
        author_id=actor.pk,
    )
    remark.contenders.set(chosen)
    record(actor, study.bench, "place remark", remark)
    return remark


@transaction.atomic
def change_remark(actor: Actor, remark: Remark, said: Said) -> Remark:
    """Say something else at the same spot.

    Raises
    ------
    ActionError
        As `place_remark`.
    """
    require(actor, remark.study.bench, Role.EDITOR)
    chosen = _checked(remark.study, said)
    remark.kind, remark.text = said.kind, said.text.strip()[:400]
    remark.of_all = not chosen
    remark.save(update_fields=["kind", "text", "of_all"])
    remark.contenders.set(chosen)
    record(actor, remark.study.bench, "change remark", remark)
    return remark


@transaction.atomic
def remove_remark(actor: Actor, remark: Remark) -> None:
    """Take it away; its number is not given again while later ones stand."""
    require(actor, remark.study.bench, Role.EDITOR)
    record(actor, remark.study.bench, "remove remark", remark)
    remark.delete()


def _checked(study: Study, said: Said) -> list[int]:
    if said.kind == RemarkKind.OWN_WORDS and not said.text.strip():
        raise ActionError("Write what you see, or choose another kind.")
    known = set(study.contenders.values_list("pk", flat=True))
    if not known.issuperset(said.contenders):
        raise ActionError("A contender of this remark is not of this study.")
    return list(dict.fromkeys(said.contenders))
