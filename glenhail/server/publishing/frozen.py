"""What an edition's folder holds, written down: nothing in it may ever be another."""

from __future__ import annotations

import json
from collections.abc import Iterator

from django.core.files.storage import storages

from glenhail.core.articles.about import about, unknown
from glenhail.server.publishing.models import Edition
from glenhail.server.storage.durable import sha256_of
from glenhail.server.storage.files import local_copy


def record_missing() -> int:
    """Write down the files of editions that were printed before this was kept; returns
    how many those are.
    """
    # Of earlier releases is told less.
    untold = Edition.objects.exclude(about__has_key="reached").filter(erased=None)
    for edition in untold.select_related("report__study__bench"):
        _tell_about(edition)
    editions = Edition.objects.select_related("report__study").filter(files=[], erased=None)
    for edition in editions:
        _keep_letters(edition)
        edition.files = [_told(edition, name) for name in names_in(edition.folder)]
        edition.save(update_fields=["files"])
    return len(editions)


def _tell_about(edition: Edition) -> None:
    """What the site tells of an edition that was printed before there was one."""
    try:
        with storages["editions"].open(f"{edition.folder}/edition.json") as file:
            edition.about = about(json.load(file))
    except (FileNotFoundError, ValueError, KeyError, TypeError):
        edition.about = unknown(edition.report.study.question, str(edition.report.study.bench))
        edition.about |= {"number": edition.number, "note": edition.note}
        edition.about["published"] = edition.published.isoformat(timespec="seconds")
    edition.save(update_fields=["about"])


def _keep_letters(edition: Edition) -> None:
    """Letters that readers know are not given again."""
    try:
        with storages["editions"].open(f"{edition.folder}/edition.json") as file:
            letters = {c["letter"] for c in json.load(file)["contenders"]}
    except (FileNotFoundError, ValueError, KeyError):
        return
    study = edition.report.study
    study.letters_published = sorted({*study.letters_published, *letters})
    study.save(update_fields=["letters_published"])


def names_in(folder: str, below: str = "") -> Iterator[str]:
    """Every file below a folder of the editions' storage."""
    store = storages["editions"]
    try:
        folders, files = store.listdir(f"{folder}/{below}")
    except FileNotFoundError:
        return
    for name in sorted(files):
        yield f"{below}{name}"
    for name in sorted(folders):
        yield from names_in(folder, f"{below}{name}/")


def _told(edition: Edition, name: str) -> dict[str, object]:
    with local_copy(storages["editions"], f"{edition.folder}/{name}") as path:
        return {"name": name, "sha256": sha256_of(path), "size": path.stat().st_size}
