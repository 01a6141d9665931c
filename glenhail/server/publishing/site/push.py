"""Bringing the exported site to where readers get it: an S3-compatible store, or
whatever rsync reaches.

What is new goes first, what leads to it last, and what is gone is removed at the end,
so that no reader meets a page whose pictures are not there yet.
"""

from __future__ import annotations

import fcntl
import json
import re
import shutil
import subprocess
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

import boto3
from boto3.exceptions import S3UploadFailedError
from botocore.config import Config
from botocore.exceptions import BotoCoreError, ClientError
from django.conf import settings

from glenhail.server.common.errors import ActionError
from glenhail.server.publishing.serving import ASKED_AGAIN, SAVED, caching, media_type
from glenhail.server.publishing.site.export import MARK, export_site
from glenhail.server.storage.durable import sha256_of

Tell = Callable[[float, str], None]
# What was brought there, by name and hash: it goes along, and is asked for the next time.
LIST = ".glenhail-site.json"
BROUGHT = "site-brought.json"  # what rsync brought to which target
EDITION = re.compile(r"[-\w]+/\d+/")  # what the name of an edition's file begins with
PATIENCE = Config(connect_timeout=20, read_timeout=120, retries={"max_attempts": 4})
RSYNC_SECONDS = 6 * 3600


class NotPushed(ActionError):
    """The site did not get to where it belongs; what is there already stays, and the
    next push goes on.
    """

    title = "The site was not brought out"


@dataclass(frozen=True)
class Pushed:
    """What a push did: files sent, left alone and removed; rsync counts the last."""

    sent: int
    kept: int
    removed: int


def push_site(target: str, tell: Tell) -> Pushed:
    """Export the site anew where it changed, and bring it to a target.

    Parameters
    ----------
    target
        ``s3://BUCKET[/BEGINNING]``, or a place as rsync has them.

    Raises
    ------
    NotPushed
        If the target can not be reached, or refuses.
    """
    folder = settings.VAR / "site"
    with _alone():
        export_site(folder, lambda share, what: tell(0.5 * share, what))
        send = _to_store if target.startswith("s3://") else _by_rsync
        return send(folder, target, lambda share, what: tell(0.5 + 0.5 * share, what))


@contextmanager
def _alone() -> Iterator[None]:
    """One push after the other; a process that dies lets go."""
    with (settings.VAR / "site.lock").open("w") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        yield


def _by_rsync(folder: Path, target: str, tell: Tell) -> Pushed:
    """What is gone is removed by its name: all else that lies there stays."""
    program = shutil.which("rsync")
    if program is None:
        raise NotPushed(f"{target} needs the program rsync, which is not on this machine.")
    names = {str(p.relative_to(folder)) for p in folder.rglob("*") if p.is_file()} - {MARK}
    brought = settings.VAR / BROUGHT
    before = json.loads(brought.read_text("utf-8")) if brought.exists() else {}
    gone = sorted(set(before.get(target, ())) - names)
    tell(0.1, f"to {target}")
    _rsync([program, "-rt", "--delay-updates", f"--exclude=/{MARK}"], folder, target)
    if gone:
        tell(0.9, f"removing {len(gone)}")
        # Of all that the folder lacks only these names may go.
        only = ["--from0", "--include-from=-", "--include=*/", "--exclude=*"]
        line = [program, "-r", "--delete", "--existing", "--ignore-existing", *only]
        _rsync(line, folder, target, "\0".join(_pattern(name) for name in gone))
    new = brought.with_suffix(".new")
    new.write_text(json.dumps({**before, target: sorted(names)}), "utf-8")
    new.replace(brought)
    return Pushed(0, 0, len(gone))


def _pattern(name: str) -> str:
    """What means this name and no other to rsync."""
    if not set(name) & set("*?["):
        return f"/{name}"
    return "/" + re.sub(r"([*?\[\\])", r"\\\1", name)


def _rsync(line: list[str], folder: Path, target: str, told: str = "") -> None:
    try:
        done = subprocess.run(
            [*line, "--", f"{folder}/", target],
            capture_output=True,
            text=True,
            input=told,
            timeout=RSYNC_SECONDS,
            check=False,
        )
    except subprocess.TimeoutExpired as error:
        raise NotPushed(f"{target} took more than {RSYNC_SECONDS // 3600} hours.") from error
    if done.returncode:
        said = done.stderr.strip().splitlines()
        raise NotPushed(f"{target}: {said[0] if said else f'status {done.returncode}'}")


def _to_store(folder: Path, target: str, tell: Tell) -> Pushed:
    place = urlsplit(target)
    start = f"{place.path.strip('/')}/" if place.path.strip("/") else ""
    if not place.netloc:
        raise NotPushed(f"{target!r} names no bucket: s3://BUCKET or s3://BUCKET/BEGINNING.")
    try:
        client = boto3.client("s3", endpoint_url=settings.PUSH_S3 or None, config=PATIENCE)
        return _Store(client, place.netloc, start).bring(folder, tell)
    except ClientError as error:
        told = error.response.get("Error", {})
        why = told.get("Message") or told.get("Code") or str(error)
        raise NotPushed(f"{target}: {why}") from error
    except (BotoCoreError, S3UploadFailedError, ValueError) as error:
        raise NotPushed(f"{target}: {error}") from error


@dataclass(frozen=True)
class _Store:
    """A bucket, and what the names of the site's files begin with in it."""

    client: Any
    bucket: str
    start: str

    def bring(self, folder: Path, tell: Tell) -> Pushed:
        names = sorted(
            (str(p.relative_to(folder)) for p in folder.rglob("*") if p.is_file()),
            # Pages that lead to others come after these.
            key=lambda name: (-name.count("/"), name.endswith(".html"), name),
        )
        sums = {name: sha256_of(folder / name) for name in names if name != MARK}
        there, known = self._there(), self._known()
        sent = 0
        try:
            for at, (name, sha) in enumerate(sums.items()):
                tell(0.95 * at / len(sums), name)
                size = (folder / name).stat().st_size
                if known.get(name) == sha and there.get(name) == size:
                    continue
                self._put(folder / name, name)
                known[name] = sha
                sent += 1
            gone = [name for name in known if name not in sums]
            for name in gone:
                self.client.delete_object(Bucket=self.bucket, Key=self.start + name)
                del known[name]
        finally:
            # What got there is not sent again, whatever became of the rest.
            self._tell(known)
        return Pushed(sent, len(sums) - sent, len(gone))

    def _there(self) -> dict[str, int]:
        pages = self.client.get_paginator("list_objects_v2").paginate(
            Bucket=self.bucket, Prefix=self.start
        )
        found = (entry for page in pages for entry in page.get("Contents", []))
        return {entry["Key"].removeprefix(self.start): entry["Size"] for entry in found}

    def _known(self) -> dict[str, str]:
        """What was brought here before: only that is ever removed."""
        try:
            answer = self.client.get_object(Bucket=self.bucket, Key=self.start + LIST)
        except self.client.exceptions.NoSuchKey:
            return {}
        told = json.loads(answer["Body"].read())
        return {str(name): str(sha) for name, sha in told.items()}

    def _tell(self, known: dict[str, str]) -> None:
        self.client.put_object(
            Bucket=self.bucket,
            Key=self.start + LIST,
            Body=json.dumps(known, sort_keys=True).encode(),
            ContentType="application/json",
            CacheControl="no-cache",
        )

    def _put(self, path: Path, name: str) -> None:
        told = {"ContentType": media_type(name), "CacheControl": _caching(name)}
        if "/originals/" in name:
            told |= {"ContentType": SAVED, "ContentDisposition": "attachment"}
        self.client.upload_file(str(path), self.bucket, self.start + name, ExtraArgs=told)


def _caching(name: str) -> str:
    """As this bench itself has it: only what lies within an edition is ever kept."""
    edition = EDITION.match(name)
    return caching(name[edition.end() :]) if edition else ASKED_AGAIN
