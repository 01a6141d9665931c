"""Drawing, moving, naming and removing patches."""

from __future__ import annotations

import math

from django.db import transaction

from glenhail.core.measures.catalogue import NOISE as PLAIN
from glenhail.core.measures.catalogue import ROLES
from glenhail.core.picture import Rect
from glenhail.core.targets.detection import SheetPose
from glenhail.core.targets.layout import sheet_of
from glenhail.core.targets.patches import patches_of
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.material.models import Frame
from glenhail.server.studies.models import Patch, Study
from glenhail.server.studies.signals import patch_changed

LEAST_SIDE = 4


@transaction.atomic
def draw_patch(actor: Actor, study: Study, frame: Frame, name: str, role: str, rect: Rect) -> Patch:
    """Add a patch to a frame of the study; an empty name becomes the role and a number."""
    require(actor, study.bench, Role.EDITOR)
    if not study.study_frames.filter(frame=frame).exists():
        raise Conflict(f"{frame} is not part of this study. Take it in first.")
    _check(frame, role, rect)
    name = name.strip()[:60] or f"{role.capitalize()} {study.patches.filter(role=role).count() + 1}"
    order = study.patches.count()
    patch = Patch.objects.create(
        study=study,
        frame=frame,
        name=name,
        role=role,
        x=rect.x,
        y=rect.y,
        w=rect.w,
        h=rect.h,
        order=order,
    )
    record(actor, study.bench, "draw patch", patch)
    patch_changed.send(sender=Patch, study=study, frame=frame, patch=patch)
    return patch


@transaction.atomic
def draw_target_patches(actor: Actor, study: Study, frame: Frame) -> list[Patch]:
    """Draw a patch over each field of the target that was found in a frame; those drawn
    before stay as they are.

    Raises
    ------
    Conflict
        If no target was found in it.
    """
    require(actor, study.bench, Role.EDITOR)
    finding = getattr(frame, "finding", None)
    if finding is None:
        raise Conflict(
            f"No target was found in {frame}. Look again on its page, or draw patches by hand."
        )
    sheet = sheet_of(finding.target.sheet)
    there = set(study.patches.filter(frame=frame).values_list("name", flat=True))
    wanted = patches_of(sheet, SheetPose.of_corners(sheet, finding.corners))
    return [
        draw_patch(actor, study, frame, p.name, p.role, p.rect)
        for p in wanted
        if p.name not in there
    ]


@transaction.atomic
def spread_patch(actor: Actor, patch: Patch) -> list[Patch]:
    """Draw a patch again, at the same place, on the study's other frames of its scene;
    those that have one of its name stay.

    Raises
    ------
    Conflict
        If its frame belongs to no scene, or the study has no other frame of it that is
        large enough.
    """
    require(actor, patch.study.bench, Role.EDITOR)
    if patch.frame.scene_id is None:
        raise Conflict(
            f"{patch.frame} belongs to no scene. Put it under one on the Frames page, with the"
            " others of it."
        )
    rows = patch.study.study_frames.filter(frame__scene=patch.frame.scene_id).exclude(
        frame=patch.frame
    )
    others = [sf.frame for sf in rows.select_related("frame__picture")]
    named = set(patch.study.patches.filter(name=patch.name).values_list("frame", flat=True))
    fitting = [
        f
        for f in others
        if f.pk not in named and patch.rect.inside(f.picture.width, f.picture.height, slack=0.01)
    ]
    if not fitting:
        raise Conflict(
            f"No other frame of {patch.frame.scene} in this study lacks {patch.name} and is large"
            " enough for it."
        )
    return [
        draw_patch(actor, patch.study, frame, patch.name, patch.role, patch.rect)
        for frame in fitting
    ]


@transaction.atomic
def change_patch(actor: Actor, patch: Patch, name: str, role: str, rect: Rect) -> Patch:
    """Move, resize, rename, or give another role; only what that makes untrue is
    measured again.
    """
    require(actor, patch.study.bench, Role.EDITOR)
    patch = (
        Patch.objects.select_for_update()
        .select_related("study__bench", "frame__picture")
        .get(pk=patch.pk)
    )
    _check(patch.frame, role, rect)
    moved = patch.rect != rect or patch.role != role
    patch.name, patch.role = name.strip()[:60] or patch.name, role
    patch.x, patch.y, patch.w, patch.h = rect.x, rect.y, rect.w, rect.h
    patch.save()
    if moved:
        patch.doubt = ""
        patch.save(update_fields=["doubt"])
        patch_changed.send(sender=Patch, study=patch.study, frame=patch.frame, patch=patch)
    return patch


@transaction.atomic
def remove_patch(actor: Actor, patch: Patch) -> None:
    """Remove a patch and its readings."""
    require(actor, patch.study.bench, Role.EDITOR)
    record(actor, patch.study.bench, "remove patch", patch)
    frame, study, plain = patch.frame, patch.study, patch.role in PLAIN
    patch.delete()
    if plain:
        # Detail of the frame is read beside its flat patches.
        patch_changed.send(sender=Patch, study=study, frame=frame, patch=None)


def _check(frame: Frame, role: str, rect: Rect) -> None:
    if role not in ROLES:
        raise ActionError(f"A patch's role is one of {', '.join(ROLES)}.")
    if not all(math.isfinite(v) for v in (rect.x, rect.y, rect.w, rect.h)):
        raise ActionError("A patch needs four finite numbers.")
    if rect.w < LEAST_SIDE or rect.h < LEAST_SIDE:
        raise ActionError(
            f"{rect.w:.0f} × {rect.h:.0f} px is too small for a patch, {LEAST_SIDE} × {LEAST_SIDE}"
            " is the least."
        )
    width, height = frame.picture.width, frame.picture.height
    if width and not rect.inside(width, height, slack=0.01):
        raise ActionError(
            f"{frame.name}: the patch lies outside its {width} × {height} px. Move or shrink it."
        )
