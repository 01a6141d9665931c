"""An edition's download: a ZIP streamed from the immutable originals and the printed
files.
"""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Iterator
from typing import IO

from django.core.files.storage import storages

from glenhail.server.publishing.frozen import names_in
from glenhail.server.publishing.models import Edition

CHUNK = 1 << 20
FIXED_DATE = (2000, 1, 1, 0, 0, 0)  # the same edition gives the same bytes


class _Outlet(io.RawIOBase):
    """Takes what the ZIP writer writes and hands it on; it can not seek."""

    def __init__(self) -> None:
        self.waiting = bytearray()

    def writable(self) -> bool:
        return True

    def write(self, data: object) -> int:
        view = memoryview(data)  # type: ignore[arg-type]
        self.waiting += view
        return len(view)

    def taken(self) -> bytes:
        data, self.waiting = bytes(self.waiting), bytearray()
        return data


def stream_bundle(edition: Edition) -> Iterator[bytes]:
    """The ZIP's bytes: originals/ with their three hashes, report/ and SHA256SUMS in
    the format of sha256sum.
    """
    outlet = _Outlet()
    sums: list[str] = []
    with zipfile.ZipFile(outlet, "w", zipfile.ZIP_STORED, allowZip64=True) as pack:
        kept_back = "".join(
            f"{e['name']}: {e['withheld']}.\n" for e in edition.manifest if "withheld" in e
        )
        if kept_back:
            yield from _member(
                pack, outlet, "originals/NOT-HERE.txt", io.BytesIO(kept_back.encode()), sums
            )
        for entry in edition.manifest:
            if "withheld" in entry:
                continue
            sha = entry["sha256"]
            with storages["originals"].open(f"{sha[:2]}/{sha[2:4]}/{sha}") as file:
                yield from _member(pack, outlet, f"originals/{entry['name']}", file, sums)
        told = json.dumps(edition.manifest, indent=1, ensure_ascii=False).encode()
        yield from _member(pack, outlet, "originals.json", io.BytesIO(told), sums)
        for name in _printed(edition):
            with storages["editions"].open(f"{edition.folder}/{name}") as file:
                yield from _member(pack, outlet, f"report/{name}", file, sums)
        pack.writestr(zipfile.ZipInfo("SHA256SUMS", FIXED_DATE), "".join(sums))
    yield outlet.taken()


def _member(
    pack: zipfile.ZipFile, outlet: _Outlet, name: str, file: IO[bytes], sums: list[str]
) -> Iterator[bytes]:
    digest = hashlib.sha256()
    with pack.open(zipfile.ZipInfo(name, FIXED_DATE), "w", force_zip64=True) as target:
        while chunk := file.read(CHUNK):
            digest.update(chunk)
            target.write(chunk)
            yield outlet.taken()
    sums.append(f"{digest.hexdigest()}  {name}\n")


def _printed(edition: Edition) -> list[str]:
    """Its own files: what a printing that died has left beside them is none of it."""
    return [told["name"] for told in edition.files] or list(names_in(edition.folder))
