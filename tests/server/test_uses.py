"""Uses through the API: those there are, own ones, and outputs as they are seen."""

from __future__ import annotations

import io
import shutil
from unittest import mock

import numpy as np
from django.core.files.storage import storages
from django.test import override_settings
from PIL import Image

from glenhail.core.uses.seen import as_seen
from glenhail.core.uses.table import USES
from glenhail.server.accounts.models import Trail
from glenhail.server.jobs.models import Job, State
from glenhail.server.jobs.tasks import run_job
from glenhail.server.material.decoded import decoded
from glenhail.server.outputs.models import Output
from glenhail.server.viewing.seen import FOLDER
from tests.server.base import ServerTest
from tests.server.test_hostile_calls import JSON

POSTER = {
    "name": "Poster",
    "width": 900,
    "height": 600,
    "enlarge": True,
    "jpeg": None,
    "ppi": 100,
    "distance_cm": 120,
    "part": 1,
}


def do(kind: str) -> None:
    """The queued jobs of one kind."""
    for job in Job.objects.filter(kind=kind, state=State.QUEUED):
        run_job(job.pk)


class Uses(ServerTest):
    def test_those_that_ship_come_first_and_say_where_they_can_not_be_had(self) -> None:
        with mock.patch("glenhail.core.execution.video.shutil.which", return_value=None):
            told = self.owner.get("/api/uses").json()
        self.assertEqual([u["id"] for u in told], list(USES))
        for use in told:
            with self.subTest(use["id"]):
                self.assertEqual("not on this machine" in use["why_not"], use["id"][:5] == "video")
                self.assertIsNone(use["row"])

    def test_an_own_one_is_added_told_and_taken_away(self) -> None:
        made = self.owner.post("/api/uses", POSTER, JSON)
        self.assertEqual(made.status_code, 201, made.content)
        use = made.json()
        self.assertEqual(use["id"], f"own-{use['row']}")
        self.assertEqual(self.owner.get("/api/uses").json()[-1], use)
        self.assertTrue(Trail.objects.filter(action="add use", subject="Poster").exists())
        gone = self.owner.delete(f"/api/uses/{use['row']}")
        self.assertEqual(gone.status_code, 204)
        self.assertEqual(self.owner.delete(f"/api/uses/{use['row']}").status_code, 404)
        self.assertEqual(len(self.owner.get("/api/uses").json()), len(USES))

    def test_what_makes_no_sense_or_is_there_is_refused(self) -> None:
        self.owner.post("/api/uses", POSTER, JSON)
        for told, status, words in (
            ({}, 409, "already"),
            ({"name": USES["web"].name}, 409, "already"),
            ({"name": "Wall", "ppi": 0}, 400, "ppi is 20"),
            ({"name": "Wall", "width": 2**40}, 400, ""),
            ({"name": "Wall", "jpeg": "good"}, 400, ""),
        ):
            with self.subTest(told=told):
                answer = self.owner.post("/api/uses", POSTER | told, JSON)
                self.assertEqual(answer.status_code, status, answer.content)
                self.assertIn(words, answer.json()["detail"])


class Seen(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.make_study()
        # What is measured is of no concern here.
        do("decode")
        self.output = Output.objects.get(contender__kind="treatment")
        assert self.output.picture is not None
        self.picture = self.output.picture
        self.base = f"/api/outputs/{self.output.pk}/seen"

    def seen(self, query: str) -> dict[str, object]:
        """What is seen, made where it must be."""
        first = self.owner.get(f"{self.base}?{query}")
        self.assertEqual(first.status_code, 200, first.content)
        if first.json()["seen"] is None:
            do("seen")
        found = self.owner.get(f"{self.base}?{query}").json()["seen"]
        self.assertIsNotNone(found, Job.objects.first())
        return dict(found)

    def codes(self, key: object, tile: str = "0/0_0") -> np.ndarray:
        answer = self.owner.get(f"{self.base}/{key}/{tile}.png")
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertIn("immutable", answer.headers["Cache-Control"])
        return np.asarray(Image.open(io.BytesIO(answer.content)))

    def test_tiles_are_the_cores_codes_exactly(self) -> None:
        pixels = decoded(self.picture).pixels
        for query, use, centre in (
            ("use=post", USES["post"], (0.5, 0.5)),
            ("use=fifth&x=0.3&y=0.71", USES["fifth"], (0.3, 0.72)),
            ("use=print-30x20-300", USES["print-30x20-300"], (0.5, 0.5)),
        ):
            with self.subTest(query):
                found, want = self.seen(query), as_seen(pixels, use, centre)
                self.assertEqual((found["height"], found["width"]), want.codes.shape[:2])
                self.assertEqual(found["size_bytes"], want.size_bytes)
                part = want.part
                self.assertEqual(found["part"], [part.x, part.y, part.w, part.h])
                np.testing.assert_array_equal(self.codes(found["key"]), want.codes[:512, :512])

    def test_it_is_made_once_and_again_where_it_is_gone_or_damaged(self) -> None:
        key = self.seen("use=web")["key"]
        self.assertEqual(self.seen("use=web&x=0.1")["key"], key)
        self.assertEqual(Job.objects.filter(kind="seen").count(), 1)
        path = f"seen/v1/{self.picture.file_id[:2]}/{self.picture.file_id}-{key}.zip"
        with storages["derived"].open(path, "wb") as file:
            file.write(b"no pack of tiles")
        self.assertEqual(self.seen("use=web")["key"], key)
        storages["derived"].delete(path)
        self.seen("use=web")
        self.codes(key)
        self.assertEqual(Job.objects.filter(kind="seen").count(), 3)

    def test_those_longest_unused_make_room(self) -> None:
        # What other tests made of the same pictures would not be made again.
        shutil.rmtree(storages["derived"].path(FOLDER), ignore_errors=True)
        with override_settings(SEEN_BYTES=100):
            first, last = self.seen("use=web")["key"], self.seen("use=post")["key"]
        self.assertIsNone(self.owner.get(f"{self.base}?use=web").json()["seen"])
        self.assertNotEqual(first, last)
        self.codes(last)

    def test_an_own_use_of_the_bench_is_seen_and_nobody_elses(self) -> None:
        use = self.owner.post("/api/uses", POSTER, JSON).json()["id"]
        found = self.seen(f"use={use}")
        self.assertEqual((found["width"], found["height"]), (899, 600))
        stranger = self.client_of("stranger")
        self.assertEqual(stranger.get(f"{self.base}?use=web").status_code, 404)
        self.assertEqual(stranger.get(f"{self.base}/{found['key']}/0/0_0.png").status_code, 404)

    def test_why_it_can_not_be_had_is_said(self) -> None:
        for query, status in (
            ("", 404),
            ("use=cinema", 404),
            ("use=own-99", 404),
            ("use=own-x", 404),
            ("use=web&x=2", 400),
            ("use=web&y=nan", 400),
            ("use=web&y=left", 400),
        ):
            with self.subTest(query):
                self.assertEqual(self.owner.get(f"{self.base}?{query}").status_code, status)
        self.assertEqual(self.owner.get(f"{self.base}/{'0' * 20}/0/0_0.png").status_code, 503)

    def test_a_video_without_its_program_fails_with_words_and_can_be_tried_again(self) -> None:
        with mock.patch("glenhail.core.execution.video.shutil.which", return_value=None):
            self.owner.get(f"{self.base}?use=video-8")
            do("seen")
        answer = self.owner.get(f"{self.base}?use=video-8")
        self.assertEqual(answer.status_code, 409)
        self.assertIn("ffmpeg", answer.json()["detail"])
        job = Job.objects.get(kind="seen")
        self.assertEqual(job.state, State.FAILED)
        self.owner.post(f"/api/jobs/{job.pk}/retry")
        self.assertIsNone(self.owner.get(f"{self.base}?use=video-8").json()["seen"])
        self.assertTrue(Job.objects.filter(kind="seen", state=State.QUEUED).exists())
