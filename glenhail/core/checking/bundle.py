"""An edition's download: what lies in it, and whether it is what it was."""

from __future__ import annotations

import hashlib
import json
import tempfile
import zipfile
from collections.abc import Iterator
from pathlib import Path
from types import TracebackType
from typing import Any

from glenhail.core.errors import BadFile

SUMS, DOCUMENT, ORIGINALS = "SHA256SUMS", "report/edition.json", "originals.json"
FORMAT = "glenhail edition 2"
FETCH_AGAIN = "Fetch the bundle again."
CHUNK = 1 << 20
LARGEST_TEXT = 256 << 20


class Bundle:
    """A ZIP as an edition offers it; nothing of it is written where it says.

    Parameters
    ----------
    path : Path
        The ZIP.

    Raises
    ------
    BadFile
        If it is no bundle, or one of a form that is not known here.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        self._folder = tempfile.TemporaryDirectory(prefix="glenhail-verify-")
        try:
            self._pack = zipfile.ZipFile(path)
            self.names = [i.filename for i in self._pack.infolist() if not i.is_dir()]
            self.document: dict[str, Any] = json.loads(self.read(DOCUMENT))
            self.originals = {e["name"]: e for e in json.loads(self.read(ORIGINALS))}
            self.sums = dict(_sum_of(line) for line in self.read(SUMS).decode().splitlines())
        except (zipfile.BadZipFile, KeyError, ValueError, TypeError) as error:
            self._folder.cleanup()
            raise BadFile(
                path.name,
                f"this is no bundle of an edition ({error})",
                "Take the file that the edition's page offers as one.",
            ) from error
        if self.document.get("format") != FORMAT:
            self._folder.cleanup()
            raise BadFile(
                path.name,
                f"its edition is of the form {self.document.get('format')!r}",
                f"Only {FORMAT!r} can be checked here; take the version that printed it.",
            )

    def __enter__(self) -> Bundle:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self._pack.close()
        self._folder.cleanup()

    def read(self, name: str) -> bytes:
        """A small file's bytes.

        Raises
        ------
        KeyError
            If it is not there.
        BadFile
            If it is far too large for what it is.
        """
        if self._pack.getinfo(name).file_size > LARGEST_TEXT:
            raise BadFile(self.path.name, f"{name} is too large for what it is", FETCH_AGAIN)
        return self._pack.read(name)

    def sha256(self, name: str) -> str:
        """A file's hash, in hexadecimal digits."""
        digest = hashlib.sha256()
        for chunk in self._chunks(name):
            digest.update(chunk)
        return digest.hexdigest()

    def kept(self, name: str) -> Path:
        """A file, unpacked under a name of our own with its ending."""
        ending = Path(name).suffix[:12]
        path = Path(self._folder.name) / (hashlib.sha256(name.encode()).hexdigest() + ending)
        if not path.exists():
            with path.open("wb") as file:
                for chunk in self._chunks(name):
                    file.write(chunk)
        return path

    def _chunks(self, name: str) -> Iterator[bytes]:
        try:
            with self._pack.open(name) as file:
                while chunk := file.read(CHUNK):
                    yield chunk
        except (zipfile.BadZipFile, RuntimeError) as error:
            raise BadFile(self.path.name, f"{name} is damaged ({error})", FETCH_AGAIN) from error


def _sum_of(line: str) -> tuple[str, str]:
    """A line of sha256sum's: name and hash."""
    digest, gap, name = line.partition("  ")
    if not gap:
        raise ValueError(f"{SUMS} has a line that is none: {line[:80]!r}")
    return name, digest
