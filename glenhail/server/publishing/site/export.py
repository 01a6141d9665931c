"""The site as a folder of static files, brought up to date where something changed."""

from __future__ import annotations

import json
import shutil
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from pathlib import Path

from django.core.files.storage import Storage, storages

from glenhail.server.publishing.bundle import stream_bundle
from glenhail.server.publishing.models import Edition
from glenhail.server.publishing.queries import (
    later_than,
    newest_edition,
    public_editions,
    withdrawn_editions,
)
from glenhail.server.publishing.site.pages import (
    newest_page,
    site_pages,
    withdrawn_page,
)

CHUNK = 1 << 20
MARK = ".glenhail-site"


@dataclass
class Exported:
    """What an export did: files written, left alone and removed."""

    written: list[str] = field(default_factory=list)
    kept: int = 0
    removed: list[str] = field(default_factory=list)


def export_site(folder: Path, tell: Callable[[float, str], None]) -> Exported:
    """Bring a folder to the state of the site; what is there already is not written
    again, and what is no part of the site any more is removed.

    Every file is whole or not there: an export that died goes on where it ended.

    Raises
    ------
    ValueError
        If the folder holds something that no export made.
    """
    folder.mkdir(parents=True, exist_ok=True)
    if any(folder.iterdir()) and not (folder / MARK).exists():
        raise ValueError(
            f"{folder} holds files that are no site of this bench. Name an empty folder."
        )
    (folder / MARK).write_text("made by manage.py export_site\n")
    made, expected = Exported(), {MARK}
    editions = list(public_editions())
    for done, edition in enumerate(editions):
        tell(done / (len(editions) + 1), str(edition))
        expected |= _edition(edition, folder, made)
    for edition in withdrawn_editions():
        expected.add(_small(folder, f"{edition.folder}/index.html", withdrawn_page(edition), made))
    for slug in {e.report.slug for e in editions}:
        newest = newest_edition(slug)
        if newest is not None:
            expected.add(_small(folder, f"{slug}/index.html", newest_page(newest), made))
    for page in site_pages():
        expected.add(_small(folder, page.name, page.made(), made))
    _tidy(folder, expected, made)
    return made


def _edition(edition: Edition, folder: Path, made: Exported) -> set[str]:
    """An edition's files, its originals one by one, its bundle, what its page asks for."""
    names = set()
    for part in edition.files:
        name = f"{edition.folder}/{part['name']}"
        names.add(_copied(storages["editions"], name, folder, name, part["size"], made))
    for entry in (e for e in edition.manifest if "sha256" in e):
        name, sha = f"{edition.folder}/originals/{entry['name']}", entry["sha256"]
        kept = f"{sha[:2]}/{sha[2:4]}/{sha}"
        names.add(_copied(storages["originals"], kept, folder, name, entry["size"], made))
    whole = f"{edition.folder}/everything.zip"
    if (folder / whole).exists():
        made.kept += 1
    else:
        _write(folder / whole, stream_bundle(edition))
        made.written.append(whole)
    told = json.dumps(later_than(edition)).encode()
    return {*names, whole, _small(folder, f"{edition.folder}/editions.json", told, made)}


def _copied(store: Storage, kept: str, folder: Path, name: str, size: int, made: Exported) -> str:
    """Copy a file that never changes: one of the right size is right."""
    to = folder / name
    if to.exists() and to.stat().st_size == size:
        made.kept += 1
    else:
        with store.open(kept) as file:
            _write(to, iter(lambda: file.read(CHUNK), b""))
        made.written.append(name)
    return name


def _small(folder: Path, name: str, data: bytes, made: Exported) -> str:
    to = folder / name
    if to.is_file() and to.read_bytes() == data:
        made.kept += 1
    else:
        _write(to, [data])
        made.written.append(name)
    return name


def _write(to: Path, chunks: Iterable[bytes]) -> None:
    """Beside its place first, then in one step into it."""
    to.parent.mkdir(parents=True, exist_ok=True)
    beside = to.with_name(f".{to.name}.part")
    with beside.open("wb") as file:
        for chunk in chunks:
            file.write(chunk)
    beside.replace(to)


def _tidy(folder: Path, expected: set[str], made: Exported) -> None:
    for path in sorted(p for p in folder.rglob("*") if p.is_file() or p.is_symlink()):
        name = str(path.relative_to(folder))
        if name not in expected:
            path.unlink()
            made.removed.append(name)
    for path in sorted((p for p in folder.rglob("*") if p.is_dir()), reverse=True):
        if not any(path.iterdir()):
            shutil.rmtree(path)
