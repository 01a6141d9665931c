"""A folder of outputs that finds its place: proposals, corrections, confirming,
undoing.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import transaction

from glenhail.core.naming.frames import FileSeen, FrameSeen
from glenhail.core.naming.match import ContenderSeen, propose
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict, Missing
from glenhail.server.jobs.actions.queue import bring_forward, enqueue
from glenhail.server.material.actions.pictures import clean_name, take_in
from glenhail.server.material.models import Picture, PictureState
from glenhail.server.outputs.actions import cells, previews
from glenhail.server.outputs.actions.runs import treated
from glenhail.server.outputs.models import (
    FileUse,
    Folder,
    FolderFile,
    FolderState,
    NamingPattern,
    Output,
)
from glenhail.server.storage.files import Source
from glenhail.server.studies.models import Contender, Study

MOST_FILES = 2_000


@transaction.atomic
def begin_folder(actor: Actor, study: Study, name: str) -> Folder:
    """Begin to bring a folder in; its files follow one by one."""
    require(actor, study.bench, Role.EDITOR)
    folder = Folder.objects.create(
        study=study, name=" ".join(name.split())[:120] or "dropped files", author_id=actor.pk
    )
    record(actor, study.bench, "begin folder", folder)
    return folder


def add_file(actor: Actor, folder: Folder, source: Source, path: str) -> FolderFile:
    """Take one of its files in, under its path within the folder; the same path again
    replaces the file.
    """
    require(actor, folder.study.bench, Role.EDITOR)
    _check_open(folder)
    if folder.files.count() >= MOST_FILES:
        raise Conflict(
            f"A folder holds {MOST_FILES:,} files at most. Bring the rest in as another one."
        )
    picture = take_in(folder.study.bench, source, clean_name(path), folder.study_id)
    row, _ = FolderFile.objects.update_or_create(
        folder=folder, path=path[-400:], defaults={"picture": picture, "by_hand": False}
    )
    look_again(folder)
    return row


def look_again(folder: Folder) -> None:
    """Have the proposals made anew: there are new files, or more is known of them."""
    label, key = f"Finding the places of “{folder}”", f"folder:{folder.pk}"
    enqueue(folder.study.bench, "match folder", key, label, {"folder": folder.pk}, folder.study_id)
    bring_forward(
        [key]
    )  # somebody is looking at it, and names can be read before anything is decoded


def make_proposals(folder: Folder) -> None:
    """Propose a cell for each file that the reviewer has not placed by hand; a file is
    not proposed for a cell taken by hand.
    """
    files = list(folder.files.select_related("picture"))
    frames, entered = frames_of(folder.study), treated(folder.study)
    seen = [FileSeen(f.path, f.picture.width, f.picture.height, f.picture.thumb) for f in files]
    proposals = propose(seen, frames, contenders_seen(entered), _known(folder.study, entered))
    with transaction.atomic():
        now = {f.pk: f for f in FolderFile.objects.select_for_update().filter(folder=folder)}
        taken = {_cell(f) for f in now.values() if f.by_hand}
        for file, p in zip(files, proposals, strict=True):
            row = now.get(file.pk)
            if row is None or row.by_hand:
                continue
            row.use = FileUse.PREVIEW if p.preview else FileUse.EXPORT
            row.frame_id, row.contender_id, row.rest, row.why = (
                p.frame,
                p.contender,
                p.rest[:400],
                p.why,
            )
            row.confidence = p.confidence
            if _cell(row) in taken:
                row.contender_id, row.confidence, row.why = (
                    None,
                    0,
                    [*p.why, "another file was put into that cell by hand"],
                )
            row.save()


def _cell(file: FolderFile) -> tuple[Any, ...]:
    return (file.frame_id, file.contender_id, file.use)


def frames_of(study: Study) -> list[FrameSeen]:
    """A study's frames as the matching sees them."""
    rows = [sf.frame for sf in study.study_frames.select_related("frame__picture")]
    ready = [f for f in rows if f.picture.state == PictureState.READY]
    return [
        FrameSeen(
            f.pk,
            (f.name, f.file_name.rsplit(".", 1)[0]),
            f.picture.width,
            f.picture.height,
            f.picture.thumb,
        )
        for f in ready
    ]


def contenders_seen(entered: Sequence[Contender]) -> list[ContenderSeen]:
    """A study's contenders as the matching sees them."""
    return [ContenderSeen(c.pk, c.letter, c.treatment.told) for c in entered if c.treatment]


def _known(study: Study, entered: Sequence[Contender]) -> dict[str, int]:
    """What names meant in earlier folders, for the contenders of this study: by all
    their words, else by their releases.
    """
    by_words = {c.treatment.told.words: c.pk for c in entered if c.treatment}
    by_title = {c.treatment.told.title: c.pk for c in entered if c.treatment}
    patterns = NamingPattern.objects.filter(bench=study.bench)
    found = {p.rest: by_words.get(p.words, by_title.get(p.title)) for p in patterns}
    return {rest: pk for rest, pk in found.items() if pk is not None}


@transaction.atomic
def place_file(
    actor: Actor, file: FolderFile, use: str, frame_id: int | None, contender_id: int | None
) -> FolderFile:
    """Say what a file is; another file in that cell gives way and is without a place
    until it gets one.
    """
    folder = file.folder
    require(actor, folder.study.bench, Role.EDITOR)
    _check_open(folder)
    if use not in FileUse.values:
        raise ActionError(f"A file is one of {', '.join(FileUse.values)}.")
    if frame_id is not None and not folder.study.study_frames.filter(frame_id=frame_id).exists():
        raise Missing("That frame is not part of the study.")
    if contender_id is not None and all(c.pk != contender_id for c in treated(folder.study)):
        raise Missing("That contender is not part of the study.")
    if use != FileUse.NONE and frame_id and contender_id:
        others = folder.files.filter(frame_id=frame_id, contender_id=contender_id, use=use).exclude(
            pk=file.pk
        )
        others.update(
            contender_id=None, confidence=0, why=["another file was put into its cell by hand"]
        )
    file.use, file.frame_id, file.contender_id = use, frame_id, contender_id
    file.by_hand, file.confidence, file.why = True, 1.0, ["by hand"]
    file.save()
    return file


@transaction.atomic
def confirm_folder(actor: Actor, folder: Folder, keep_pattern: bool) -> int:
    """Put every placed file into its cell; returns how many.

    What the cells held before can be put back.

    Raises
    ------
    Conflict
        If files are still being looked at, or two are in one cell.
    """
    require(actor, folder.study.bench, Role.EDITOR)
    folder = Folder.objects.select_for_update().get(pk=folder.pk)
    _check_open(folder)
    rows = folder.files.select_related(
        "picture", "frame", "contender__study__bench", "contender__treatment"
    )
    files = list(rows.defer("picture__thumb", "picture__facts"))
    if any(f.picture.state == PictureState.WAITING for f in files):
        raise Conflict("Some files are still being decoded. Confirm once all of them are there.")
    placed = [f for f in files if f.use != FileUse.NONE and f.frame and f.contender]
    if len({_cell(f) for f in placed}) < len(placed):
        raise Conflict("Two files are in one cell. Move one of them, or set it aside.")
    # Exports first: previews are attached to them.
    _put_exports(actor, folder, [f for f in placed if f.use == FileUse.EXPORT])
    _put_previews(actor, folder, [f for f in placed if f.use != FileUse.EXPORT])
    FolderFile.objects.bulk_update(placed, ["replaced", "why"])
    if keep_pattern:
        _keep_pattern(folder, placed)
    folder.state = FolderState.CONFIRMED
    folder.save(update_fields=["state"])
    record(actor, folder.study.bench, "confirm folder", f"{folder}, {len(placed)} files")
    return len(placed)


def _put_exports(actor: Actor, folder: Folder, files: Sequence[FolderFile]) -> None:
    fillings = [
        cells.Filling(f.contender, f.frame, f.picture, clean_name(f.path))
        for f in files
        if f.contender is not None and f.frame is not None
    ]
    kept = cells.fill_cells(actor, folder.study, fillings)
    for file, before in zip(files, kept, strict=True):
        file.replaced = before


def _put_previews(actor: Actor, folder: Folder, files: Sequence[FolderFile]) -> None:
    rows = Output.objects.filter(contender__study=folder.study, picture__isnull=False)
    there = {(o.contender_id, o.frame_id): o for o in rows.select_related(*previews.NEEDED)}
    pairs = []
    for file in files:
        output = there.get((file.contender_id or 0, file.frame_id or 0))
        if output is None:
            file.why = [*file.why, "there is no export to set this preview beside"]
        else:
            file.replaced = cells.kept_of(output)
            pairs.append(previews.Preview(output, file.picture, clean_name(file.path)))
    previews.attach_all(actor, folder.study, pairs)


def _keep_pattern(folder: Folder, placed: Sequence[FolderFile]) -> None:
    """Remember what each way of naming stood for, where that was one thing."""
    meant: dict[str, set[int]] = {}
    for file in placed:
        meant.setdefault(file.rest, set()).add(file.contender_id or 0)
    entered = {c.pk: c for c in treated(folder.study)}
    patterns = []
    for rest, pks in meant.items():
        treatment = entered[next(iter(pks))].treatment
        if rest and len(pks) == 1 and treatment:
            told = treatment.told
            patterns.append(
                NamingPattern(
                    bench=folder.study.bench, rest=rest, words=told.words, title=told.title
                )
            )
    NamingPattern.objects.bulk_create(
        patterns,
        update_conflicts=True,
        unique_fields=["bench", "rest"],
        update_fields=["words", "title"],
    )


@transaction.atomic
def undo_folder(actor: Actor, folder: Folder) -> int:
    """Take a confirmed folder's files out of the cells again, and put back what was
    there; cells changed since are left alone.
    """
    require(actor, folder.study.bench, Role.EDITOR)
    folder = Folder.objects.select_for_update().get(pk=folder.pk)
    if folder.state != FolderState.CONFIRMED:
        raise Conflict(f"“{folder}” is not confirmed; there is nothing to undo.")
    files = list(folder.files.exclude(replaced=None).select_related("contender", "frame"))
    rows = Output.objects.filter(contender__study=folder.study_id)
    there = {(o.contender_id, o.frame_id): o for o in rows}
    pairs = [(f, there.get((f.contender_id or 0, f.frame_id or 0))) for f in files]
    previewed = [(f, o) for f, o in pairs if o is not None and f.use == FileUse.PREVIEW]
    filled = [f for f, o in pairs if o is not None and f.use != FileUse.PREVIEW and _holds(o, f)]
    _take_previews_back([(f, o) for f, o in previewed if o.preview_id == f.picture_id])
    held = [
        cells.Held(f.contender, f.frame, f.replaced or {})
        for f in filled
        if f.contender and f.frame
    ]
    cells.put_back(actor, folder.study, held)
    folder.files.update(replaced=None)
    folder.state = FolderState.OPEN
    folder.save(update_fields=["state"])
    record(actor, folder.study.bench, "undo folder", folder)
    return len(previewed) + len(filled)


def _holds(output: Output, file: FolderFile) -> bool:
    """Whether a cell still holds what a folder put there."""
    return output.picture_id == file.picture_id


def _take_previews_back(pairs: Sequence[tuple[FolderFile, Output]]) -> None:
    names = ("preview_id", "preview_name", "preview_told")
    for file, output in pairs:
        for name in names:
            setattr(output, name, (file.replaced or {})[name])
    Output.objects.bulk_update(
        [output for _, output in pairs], ["preview", "preview_name", "preview_told"]
    )


@transaction.atomic
def remove_folder(actor: Actor, folder: Folder) -> None:
    """Let go of a folder; what was confirmed from it stays in its cells."""
    require(actor, folder.study.bench, Role.EDITOR)
    record(actor, folder.study.bench, "remove folder", folder)
    folder.delete()


def _check_open(folder: Folder) -> None:
    if folder.state == FolderState.CONFIRMED:
        raise Conflict(f"“{folder}” is confirmed. Undo it first.")


def on_picture_settled(sender: object, picture: Picture, **_: object) -> None:
    """More is known of a file now: what it shows, and how large it is."""
    waiting = (
        Folder.objects.filter(files__picture=picture)
        .exclude(state=FolderState.CONFIRMED)
        .select_related("study__bench")
    )
    for folder in waiting.distinct():
        look_again(folder)
