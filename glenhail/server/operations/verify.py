"""Reading every original and every edition against what is written down of them."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial

from django.core.files.storage import Storage, storages

from glenhail.server.material.models import Frame, Picture
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.models import Edition
from glenhail.server.storage.durable import sha256_of
from glenhail.server.storage.files import local_copy, root_of, size_in
from glenhail.server.storage.models import StoredFile


@dataclass(frozen=True)
class Fault:
    """A file that is not as it should be: which, what is wrong, and what to do."""

    name: str
    wrong: str
    remedy: str

    def __str__(self) -> str:
        return f"{self.name}: {self.wrong}. {self.remedy}"


@dataclass(frozen=True)
class Expected:
    """A file as it is written down; ``remedy`` is asked for where it is not so."""

    store: str
    name: str
    sha256: str
    size: int
    remedy: Callable[[], str]


def wrong_with(expected: Expected, quick: bool) -> str:
    """What is wrong with a file, as half a sentence; "" where nothing is.

    `quick` looks at its size alone.
    """
    store: Storage = storages[expected.store]
    size = size_in(store, expected.name)
    if size is None:
        return "it is gone"
    if size != expected.size:
        return f"it has {size:,} bytes instead of {expected.size:,}"
    if quick:
        return ""
    with local_copy(store, expected.name) as path:
        return "" if sha256_of(path) == expected.sha256 else "its bytes are not what they were"


def expected_files() -> Iterator[Expected]:
    """Every original, then every file of every edition."""
    for file in StoredFile.objects.order_by("pk").iterator():
        yield Expected("originals", file.path, file.sha256, file.size, partial(_remedy, file))
    for edition in Edition.objects.select_related("report").order_by("pk"):
        for part in edition.files:
            name = f"{edition.folder}/{part['name']}"
            yield Expected(
                "editions", name, part["sha256"], part["size"], partial(_from_backup, edition)
            )


def _from_backup(edition: Edition) -> str:
    return (
        f"Edition {edition.number} of “{edition.report.slug}” has to come from a backup (manage.py"
        " restore)."
    )


def _remedy(file: StoredFile) -> str:
    """Who can send it again, by the names it is known by."""
    picture = Picture.objects.filter(file=file).first()
    frames = (
        [f"frame “{f.name}” ({f.file_name})" for f in Frame.objects.filter(picture=picture)]
        if picture
        else []
    )
    truths = (
        [f"the truth of “{f.name}” ({f.truth_name})" for f in Frame.objects.filter(truth=picture)]
        if picture
        else []
    )
    cells = (
        Output.objects.select_related("contender__study", "frame").filter(picture=picture)
        if picture
        else []
    )
    outputs = [
        f"{o.contender.letter} of “{o.frame.name}” in “{o.contender.study.question}”"
        f" ({o.file_name})"
        for o in cells
    ]
    known = [*frames, *truths, *outputs]
    if not known:
        return "Nothing shown uses it; take it from a backup if you have one."
    return (
        f"It is {'; '.join(known[:5])}. Send the same file again, or take it from a backup: either"
        " mends it."
    )


def verify(quick: bool = False) -> Iterator[tuple[Expected, Fault | None]]:
    """Every file that is written down, with its fault where it has one."""
    for expected in expected_files():
        wrong = wrong_with(expected, quick)
        yield (
            expected,
            Fault(f"{expected.store}/{expected.name}", wrong, expected.remedy()) if wrong else None,
        )


def set_aside(expected: Expected) -> None:
    """Take a damaged original out of its place, so that the same bytes sent again are
    kept anew; what is left of it stays beside.

    An edition's file stays where it is: only a backup mends it.
    """
    root = root_of(storages[expected.store])
    if expected.store != "originals" or root is None:
        return
    with contextlib.suppress(FileNotFoundError):
        (root / expected.name).replace(root / f"{expected.name}.damaged")
