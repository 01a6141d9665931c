"""Taking a plan over from another bench: its study, before anything is made."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import suppress

from django.db import transaction
from django.utils import timezone

from glenhail.core.errors import BadFile
from glenhail.core.files.pixels import pixels_hash
from glenhail.core.plans.plan import PlannedFrame, own_versions, plan_of
from glenhail.core.uses.table import Use
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.jobs.models import Job
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame, PictureState
from glenhail.server.outputs.models import StudyPlan
from glenhail.server.studies.actions.contenders import enter_contender
from glenhail.server.studies.actions.patches import draw_patch
from glenhail.server.studies.actions.study import create_study, take_frame
from glenhail.server.studies.actions.uses import add_use
from glenhail.server.studies.uses import uses_of

Tell = Callable[[str], None]
JOB = "find planned frames"
MOST_BYTES = 4_000_000  # more than any plan has


@transaction.atomic
def begin_plan(actor: Actor, bench: Bench, data: bytes, name: str) -> StudyPlan:
    """Make a study from a plan's file: its question, and its treatments under letters
    of the bench's own. Its frames are looked for by a job.

    Raises
    ------
    BadFile
        If it is no plan.
    ActionError
        If it is no text, or a treatment has settings that a release of this bench does
        not take.
    """
    row = _begun(actor, bench, data, name)
    look_for_frames(actor, row)
    return row


def take_plan(actor: Actor, bench: Bench, data: bytes, name: str, tell: Tell) -> StudyPlan:
    """Do as `begin_plan` does, but look for the frames at once."""
    row = _begun(actor, bench, data, name)
    take_planned_frames(actor, row, tell)
    return row


@transaction.atomic
def _begun(actor: Actor, bench: Bench, data: bytes, name: str) -> StudyPlan:
    require(actor, bench, Role.EDITOR)
    text = _text(data, name)
    plan = plan_of(text, name)
    study = create_study(actor, bench, plan.question, plan.factor)
    for contender in plan.contenders:
        enter_contender(actor, study, contender.treatment)
    _take_uses(actor, bench, plan.uses)
    record(actor, bench, "take plan", study)
    return StudyPlan.objects.create(study=study, text=text, name=name[:200])


def _take_uses(actor: Actor, bench: Bench, uses: Sequence[Use]) -> None:
    """What a plan's outputs are seen in becomes the bench's own, where it has none of
    that name.
    """
    here = {use.name for use in uses_of(bench)}
    for use in uses:
        if use.name not in here and use.video_mbit is None:
            # A bench may have as many as it can hold: its study stands without.
            with suppress(ActionError):
                add_use(actor, bench, vars(use))


def look_for_frames(actor: Actor, row: StudyPlan) -> Job | None:
    """Queue that the bench's frames are held against the plan's; None where it has
    none.
    """
    study = row.study
    require(actor, study.bench, Role.EDITOR)
    if not plan_of(row.text, row.name).frames:
        row.looked = timezone.now()
        row.save(update_fields=["looked"])
        return None
    label = f"Looking for the frames of {row.name}"
    arguments = {"study": study.pk, "actor": actor.pk}
    return enqueue(study.bench, JOB, row.key, label, arguments, study.pk)


def take_planned_frames(actor: Actor, row: StudyPlan, tell: Tell) -> None:
    """Take those of a plan's frames into its study that the bench has by now, with
    their patches, and keep which it has not, and which have another truth.

    A frame that was found before stays as somebody left it, patches and all; one that
    came meanwhile gets its patches, though it is in the study already.
    """
    study, plan = row.study, plan_of(row.text, row.name)
    found = frames_by_pixels(study.bench, plan.frames, tell)
    here = [f for f in plan.frames if f.pixels in found]
    others = [f for f in here if not _same_truth(found[f.pixels], f.truth)]
    with transaction.atomic():
        for planned in here:
            if row.looked and _named(planned) not in row.missing:
                continue
            frame = found[planned.pixels]
            take_frame(actor, study, frame)
            for patch in planned.patches:
                draw_patch(actor, study, frame, patch.name, patch.role, patch.rect)
        row.missing = [_named(f) for f in plan.frames if f.pixels not in found]
        row.other_truth = [_named(f) for f in others]
        row.looked = timezone.now()
        row.save(update_fields=["missing", "other_truth", "looked"])


def other_measures(row: StudyPlan) -> list[str]:
    """Measures that the plan has in another version than this bench, by id."""
    own = own_versions()
    told = plan_of(row.text, row.name).measures
    return sorted(m for m, version in told.items() if own.get(m) != version)


def frames_by_pixels(
    bench: Bench, wanted: tuple[PlannedFrame, ...], tell: Tell
) -> dict[str, Frame]:
    """A bench's frames by the hash of their pixels, as far as they are wanted.

    Each is decoded, those first whose files have the names that are looked for: this
    takes seconds a frame, and is nothing for a request.
    """
    hashes, names = {f.pixels for f in wanted}, {f.file for f in wanted}
    found: dict[str, Frame] = {}
    rows = Frame.objects.filter(bench=bench, picture__state=PictureState.READY)
    frames = rows.select_related("picture__file", "truth__file").order_by("pk")
    for frame in sorted(frames, key=lambda f: f.file_name not in names):
        if len(found) == len(hashes):
            break
        tell(f"reading {frame.name}")
        try:
            pixels = pixels_hash(decoded(frame.picture).pixels)
        except BadFile:
            continue
        if pixels in hashes:
            found.setdefault(pixels, frame)
    return found


def _named(frame: PlannedFrame) -> str:
    return f"{frame.name} ({frame.file})" if frame.file else frame.name


def _same_truth(frame: Frame, wanted: str) -> bool:
    if not wanted:
        return True
    if frame.truth is None or frame.truth.state != PictureState.READY:
        return False
    return pixels_hash(decoded(frame.truth).pixels) == wanted


def _text(data: bytes, name: str) -> str:
    if len(data) > MOST_BYTES:
        raise ActionError(f"{name} is larger than a plan may be, {MOST_BYTES // 1_000_000} MB.")
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError as error:
        raise ActionError(f"{name} is no text in UTF-8. Take the plan as it was saved.") from error
