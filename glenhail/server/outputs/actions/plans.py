"""Taking a plan over from another bench: its study, before anything is made."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from django.db import transaction

from glenhail.core.errors import BadFile
from glenhail.core.files.pixels import pixels_hash
from glenhail.core.plans.plan import Plan
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame, PictureState
from glenhail.server.studies.actions.contenders import enter_contender
from glenhail.server.studies.actions.patches import draw_patch
from glenhail.server.studies.actions.study import create_study, take_frame
from glenhail.server.studies.models import Study

Tell = Callable[[str], None]


@dataclass(frozen=True)
class TakenPlan:
    """A study made from a plan; which of its frames the bench has not, and which of its
    frames have another truth than the plan's, or none.
    """

    study: Study
    missing: tuple[str, ...]
    other_truth: tuple[str, ...]


def frames_by_pixels(bench: Bench, wanted: set[str], tell: Tell) -> dict[str, Frame]:
    """A bench's frames by the hash of their pixels, as far as they are wanted.

    Each is decoded: this takes seconds a frame, and is nothing for a request.
    """
    found: dict[str, Frame] = {}
    rows = Frame.objects.filter(bench=bench, picture__state=PictureState.READY)
    for frame in rows.select_related("picture__file", "truth__file").order_by("pk"):
        if len(found) == len(wanted):
            break
        tell(f"reading {frame.name}")
        try:
            pixels = pixels_hash(decoded(frame.picture).pixels)
        except BadFile:
            continue
        if pixels in wanted:
            found.setdefault(pixels, frame)
    return found


def take_plan(actor: Actor, bench: Bench, plan: Plan, tell: Tell) -> TakenPlan:
    """Make a study from a plan: its question, the frames that the bench has, patches
    and treatments, under letters of the bench's own.

    Raises
    ------
    ActionError
        If a treatment has settings that a release of this bench does not take.
    """
    require(actor, bench, Role.EDITOR)
    found = frames_by_pixels(bench, {f.pixels for f in plan.frames}, tell)
    with transaction.atomic():
        study = create_study(actor, bench, plan.question, plan.factor)
        for planned in plan.frames:
            frame = found.get(planned.pixels)
            if frame is None:
                continue
            take_frame(actor, study, frame)
            for patch in planned.patches:
                draw_patch(actor, study, frame, patch.name, patch.role, patch.rect)
        for contender in plan.contenders:
            enter_contender(actor, study, contender.treatment)
        record(actor, bench, "take plan", study)
    missing = tuple(f"{f.name} ({f.file})" for f in plan.frames if f.pixels not in found)
    other = tuple(
        f.name
        for f in plan.frames
        if f.pixels in found and not _same_truth(found[f.pixels], f.truth)
    )
    return TakenPlan(study, missing, other)


def _same_truth(frame: Frame, wanted: str) -> bool:
    if not wanted:
        return True
    if frame.truth is None or frame.truth.state != PictureState.READY:
        return False
    return pixels_hash(decoded(frame.truth).pixels) == wanted
