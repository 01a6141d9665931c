"""What server tests share: a clean queue, members, files, and doing the queued work."""

from __future__ import annotations

import io
import tempfile
from collections.abc import Callable
from functools import cache
from pathlib import Path
from unittest import mock

import numpy as np
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, TransactionTestCase

from glenhail.core.files.encoding import write_tiff
from glenhail.core.picture import Floats
from glenhail.server.accounts.actions.members import add_member
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.jobs.models import Job, State
from glenhail.server.jobs.tasks import run_job
from glenhail.server.publishing import press
from glenhail.server.studies.models import Study
from tests.emptying import Emptied
from tests.pictures import noisy, photograph

TERMS = {"licence": "CC0-1.0", "source": "Made here", "credit": "the bench"}


@cache
def tiff(kind: str) -> bytes:
    """A small study's files: frame, truth, two outputs of it, and a picture of
    something else.
    """
    truth = photograph("china")
    frame = noisy(truth, 900)

    def smoothed() -> Floats:
        from glenhail.core.methods.denoise import guided

        return np.stack([guided(frame[..., i], 2, 0.002) for i in range(3)], axis=-1)

    def doubled() -> Floats:
        from glenhail.core.filters.resample import resample
        from glenhail.core.picture import Rect

        return resample(frame, Rect(0, 0, 640, 427), 1280, 854)

    made: dict[str, Callable[[], Floats]] = {
        "truth": lambda: truth,
        "frame": lambda: frame,
        "smooth": smoothed,
        "double": doubled,
        "other": lambda: photograph("flower"),
    }
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "made.tif"
        write_tiff(path, made[kind]())
        return path.read_bytes()


def upload(kind: str, name: str | None = None) -> dict[str, SimpleUploadedFile]:
    """A multipart form with one of those files."""
    return {"file": SimpleUploadedFile(name or f"{kind}.tif", tiff(kind))}


def blank_paper(document: object, folder: Path, sha256: str) -> None:
    """A PDF without a page."""
    (folder / "edition.pdf").write_bytes(b"%PDF-1.7\n%%EOF\n")


def work(most: int = 200) -> None:
    """Do what is queued, and what that queues, as a worker would."""
    for _ in range(most):
        job = Job.objects.filter(state=State.QUEUED).order_by("pk").first()
        if job is None:
            return
        run_job(job.pk)
    raise AssertionError("the queue does not run empty")


class ServerTest(Emptied, TransactionTestCase):
    """A bench with an owner, an editor, a viewer, and somebody of another bench.

    Editions have a PDF only where a test reads it (``paper``): it takes as long as all
    else that is printed.
    """

    paper = False

    def setUp(self) -> None:
        if not self.paper:
            self.enterContext(mock.patch.object(press, "print_paper", blank_paper))
        self.bench = Bench.objects.create(name="Bench")
        self.users = {r.value: add_member(self.bench, r.value, "secret-words", r) for r in Role}
        self.users["stranger"] = add_member(
            Bench.objects.create(name="Other"), "stranger", "secret-words", Role.OWNER
        )
        self.owner = self.client_of("owner")

    def client_of(self, name: str) -> Client:
        client = Client()
        client.force_login(User.objects.get(username=name))
        return client

    def make_study(self, client: Client | None = None) -> Study:
        """A study with one frame, its truth, one contender with an output, and a patch;
        nothing measured yet.
        """
        client = client or self.owner
        study = client.post(
            "/api/studies", {"question": "Which is better?", "factor": "tool"}, "application/json"
        ).json()
        frame = client.post("/api/frames", upload("frame")).json()
        client.post(f"/api/frames/{frame['id']}/truth", upload("truth"))
        client.post("/api/frames/terms", {"frames": [frame["id"]], **TERMS}, "application/json")
        client.post(
            f"/api/studies/{study['id']}/frames", {"frame": frame["id"]}, "application/json"
        )
        steps = [
            {"tool": "Sedgewash", "release": "3.0", "mode": "", "strength": 60, "settings": []}
        ]
        contender = client.post(
            f"/api/studies/{study['id']}/contenders", {"steps": steps}, "application/json"
        ).json()
        client.post(
            f"/api/contenders/{contender['id']}/outputs/{frame['id']}",
            upload("smooth", "out_A.tif"),
        )
        patch = {
            "frame": frame["id"],
            "name": "Sky",
            "role": "flat",
            "x": 20,
            "y": 20,
            "w": 90,
            "h": 60,
        }
        client.post(f"/api/studies/{study['id']}/patches", patch, "application/json")
        return Study.objects.get(pk=study["id"])


def stream_of(response: object) -> io.BytesIO:
    """A streamed answer's bytes."""
    return io.BytesIO(b"".join(response.streaming_content))  # type: ignore[attr-defined]
