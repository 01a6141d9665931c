"""Work that is cancelled, fails, or loses its worker."""

from __future__ import annotations

import errno
import os
import signal
import subprocess
import sys
import threading
import time
import uuid
from contextlib import suppress
from pathlib import Path
from unittest import mock

from django.conf import settings
from django.db import connection, transaction
from procrastinate.contrib.django import app

from glenhail.server.common.errors import Conflict
from glenhail.server.jobs.actions.queue import cancel, enqueue
from glenhail.server.jobs.models import Job, State
from glenhail.server.jobs.registry import KINDS, Progress
from glenhail.server.jobs.tasks import put_back_lost, run_job
from glenhail.server.material.models import Frame
from glenhail.server.storage import uploads
from glenhail.server.storage.models import Upload
from tests.seeds import drawn
from tests.server.base import ServerTest, tiff, upload, work

ROOT = Path(__file__).resolve().parents[2]


class Queue(ServerTest):
    def kind(self, work: object) -> None:
        patcher = mock.patch.dict(KINDS, {"trial": work})
        patcher.start()
        self.addCleanup(patcher.stop)

    def queue(self, key: str = "k") -> Job:
        return enqueue(self.bench, "trial", key, "A trial", {})

    def test_a_waiting_job_serves_for_all_who_ask_and_a_running_one_does_not(self) -> None:
        self.kind(lambda progress, arguments: None)
        first = self.queue()
        self.assertEqual(self.queue().pk, first.pk)
        Job.objects.filter(pk=first.pk).update(state=State.RUNNING)
        self.assertNotEqual(self.queue().pk, first.pk)

    def test_cancelling_stops_a_running_job_at_its_next_step(self) -> None:
        steps = []

        def slow(progress: Progress, arguments: object) -> None:
            steps.append(1)
            self.assertEqual(
                self.owner.post(f"/api/jobs/{progress.job.pk}/cancel").status_code, 200
            )
            progress.tell(0.5, "half")
            steps.append(2)

        self.kind(slow)
        job = self.queue()
        work()
        job.refresh_from_db()
        self.assertEqual((job.state, steps), (State.CANCELLED, [1]))

    def test_a_failure_is_told_without_its_innards_and_can_be_tried_again(self) -> None:
        outcomes = iter([RuntimeError("secret path /root"), None])

        def shaky(progress: Progress, arguments: object) -> None:
            if error := next(outcomes):
                raise error

        self.kind(shaky)
        job = self.queue()
        work()
        job.refresh_from_db()
        self.assertEqual(job.state, State.FAILED)
        self.assertNotIn("secret", job.problem)
        self.assertEqual(self.owner.post(f"/api/jobs/{job.pk}/retry").status_code, 200)
        work()
        self.assertEqual(Job.objects.order_by("-pk").first().state, State.DONE)  # type: ignore[union-attr]
        self.assertEqual(self.owner.post(f"/api/jobs/{job.pk + 1}/retry").status_code, 409)

    def test_a_job_that_killed_its_worker_three_times_is_given_up_with_a_reason(self) -> None:
        self.kind(lambda progress, arguments: self.fail("it must not run again"))
        job = self.queue()
        Job.objects.filter(pk=job.pk).update(state=State.RUNNING, attempts=3)
        run_job(job.pk)
        job.refresh_from_db()
        self.assertEqual(job.state, State.FAILED)
        self.assertIn("worker died", job.problem)


class Settled(ServerTest):
    """Whatever ends a job, what it was about does not wait for ever, says why, and can
    be tried again.
    """

    def dying(self) -> Job:
        """The waiting job, as it is after its worker died with it three times."""
        job = Job.objects.filter(state=State.QUEUED).earliest("pk")
        Job.objects.filter(pk=job.pk).update(state=State.RUNNING, attempts=3)
        run_job(job.pk)
        return job

    def retry(self, job: Job) -> None:
        self.assertEqual(self.owner.post(f"/api/jobs/{job.pk}/retry").status_code, 200)
        work()

    def test_a_frame_whose_decoding_killed_its_worker_is_refused_and_comes_by_a_retry(
        self,
    ) -> None:
        for again in ("retry", "the same file"):
            with self.subTest(again):
                frame = self.owner.post(
                    "/api/frames", upload("frame" if again == "retry" else "other")
                ).json()["id"]
                job = self.dying()
                picture = self.owner.get(f"/api/frames/{frame}").json()["picture"]
                self.assertEqual(picture["state"], "refused")
                self.assertIn("worker died", picture["problem"])
                if again == "retry":
                    self.retry(job)
                else:
                    self.owner.post("/api/frames", upload("other"))
                    work()
                self.assertEqual(
                    self.owner.get(f"/api/frames/{frame}").json()["picture"]["state"], "ready"
                )

    def test_an_output_that_could_not_be_measured_says_so_and_is_measured_by_a_retry(self) -> None:
        study = self.make_study()
        for _ in range(3):  # the frame, its truth and the output are decoded first
            run_job(Job.objects.filter(state=State.QUEUED, kind="decode").earliest("pk").pk)
        for end in ("died", "cancelled", "disk full", "no memory"):
            with self.subTest(end):
                job = Job.objects.filter(state=State.QUEUED, kind="measure").latest("pk")
                if end == "died":
                    Job.objects.filter(pk=job.pk).update(state=State.RUNNING, attempts=3)
                    run_job(job.pk)
                elif end == "cancelled":
                    self.owner.post(f"/api/jobs/{job.pk}/cancel")
                else:
                    error = OSError(errno.ENOSPC, "full") if end == "disk full" else MemoryError()
                    with mock.patch.dict(KINDS, {"measure": mock.Mock(side_effect=error)}):
                        run_job(job.pk)
                output = job.arguments["output"]
                told = next(
                    o
                    for o in self.owner.get(f"/api/studies/{study.pk}").json()["outputs"]
                    if o["id"] == output
                )
                self.assertEqual(told["state"], "refused")
                self.assertIn(
                    {
                        "died": "worker died",
                        "disk full": "disk of this bench is full",
                        "no memory": "memory",
                    }.get(end, end),
                    told["problem"],
                )
                self.assertEqual(self.owner.post(f"/api/jobs/{job.pk}/retry").status_code, 200)
        work()
        self.assertEqual(
            {o["state"] for o in self.owner.get(f"/api/studies/{study.pk}").json()["outputs"]},
            {"ready"},
        )

    def test_an_output_measured_before_stays_shown_and_what_failed_is_not_waited_for(
        self,
    ) -> None:
        study = self.make_study()
        work()
        home, patch = f"/api/studies/{study.pk}", study.patches.get()
        box = {
            "frame": patch.frame_id,
            "name": "More",
            "role": "texture",
            "x": 200,
            "y": 200,
            "w": 90,
            "h": 90,
        }
        self.owner.post(f"{home}/patches", box, "application/json")
        with mock.patch.dict(KINDS, {"measure": mock.Mock(side_effect=MemoryError())}):
            work()
        page = self.owner.get(home).json()
        self.assertEqual({o["state"] for o in page["outputs"]}, {"ready"})
        self.assertTrue(all("memory" in o["problem"] for o in page["outputs"]))
        readings = self.owner.get(f"{home}/readings").json()
        self.assertEqual(readings["wanted"], len(readings["readings"]))
        refused = self.owner.post(f"{home}/editions", {"note": ""}, "application/json")
        self.assertIn("Not everything was measured", refused.json()["detail"])
        for job in Job.objects.filter(state=State.FAILED):
            self.owner.post(f"/api/jobs/{job.pk}/retry")
        work()
        self.assertEqual({o["problem"] for o in self.owner.get(home).json()["outputs"]}, {""})
        self.assertEqual(
            self.owner.post(f"{home}/editions", {"note": ""}, "application/json").status_code, 202
        )

    def test_a_large_upload_whose_keeping_came_to_nothing_can_be_finished_again(self) -> None:
        raw = tiff("frame")
        address = f"/api/uploads/{uuid.uuid4()}"
        with mock.patch.object(uploads, "AT_ONCE", 1000):
            self.owner.put(
                address,
                {"name": "a.tif", "size": len(raw), "delivery": {"kind": "frame"}},
                "application/json",
            )
            told = {"Tus-Resumable": "1.0.0", "Upload-Offset": "0"}
            octets = "application/offset+octet-stream"
            self.owner.patch(f"{address}/bytes", raw, octets, headers=told)
            self.assertEqual(self.owner.post(f"{address}/finish").json()["state"], "taking")
            self.assertEqual(self.owner.post(f"{address}/finish").json()["state"], "taking")
            self.assertEqual(
                [u["state"] for u in self.owner.get("/api/uploads").json()], ["taking"]
            )
            self.dying()
            given_back = Upload.objects.get()
            self.assertEqual(
                (given_back.state, "worker died" in given_back.problem), ("open", True)
            )
            self.assertEqual(self.owner.post(f"{address}/finish").json()["state"], "taking")
            work()
            self.assertEqual(self.owner.post(f"{address}/finish").json()["state"], "done")
        self.assertEqual(Frame.objects.get().picture.state, "ready")


class Exclusive(ServerTest):
    """Taking a job and cancelling it exclude each other."""

    def test_of_many_races_between_a_worker_and_somebody_who_cancels_none_ends_as_both(
        self,
    ) -> None:
        done: list[int] = []

        def settle(progress: Progress, arguments: dict[str, int]) -> None:
            with progress.settling():
                done.append(arguments["n"])

        with mock.patch.dict(KINDS, {"trial": settle}):
            for label, rng in drawn(25):
                job = enqueue(
                    self.bench,
                    "trial",
                    label,
                    "A trial",
                    {"n": len(done) + 1000 * rng.integers(1 << 20).item()},
                )
                pauses = rng.random(2) * 0.004
                outcomes: list[str] = []

                def work_on(pk: int = job.pk, pause: float = pauses[0]) -> None:
                    time.sleep(pause)
                    run_job(pk)
                    connection.close()

                def stop(
                    pk: int = job.pk, pause: float = pauses[1], told: list[str] = outcomes
                ) -> None:
                    time.sleep(pause)
                    try:
                        cancel(self.users["owner"], pk)
                        told.append("cancelled")
                    except Conflict:
                        told.append("too late")
                    connection.close()

                threads = [threading.Thread(target=t) for t in (work_on, stop)]
                for thread in threads:
                    thread.start()
                for thread in threads:
                    thread.join()
                with self.subTest(label):
                    job.refresh_from_db()
                    self.assertEqual(
                        job.state, State.CANCELLED if outcomes == ["cancelled"] else State.DONE
                    )
                    self.assertEqual(job.arguments["n"] in done, outcomes == ["too late"])


class HandedOver(ServerTest):
    def handed(self) -> int:
        with connection.cursor() as cursor:
            cursor.execute("SELECT count(*) FROM procrastinate_jobs WHERE status = 'todo'")
            return int(cursor.fetchone()[0])

    def test_in_a_worker_too_a_job_reaches_the_queue_with_its_row_or_not_at_all(self) -> None:
        # A worker gives the queue a connection of its own, as manage.py procrastinate does.
        with (
            app.replace_connector(app.connector.get_worker_connector()),
            suppress(ZeroDivisionError),
            transaction.atomic(),
        ):
            enqueue(self.bench, "trial", "k", "A trial", {})
            raise ZeroDivisionError
        self.assertEqual((Job.objects.count(), self.handed()), (0, 0))

    def test_a_job_that_the_queue_lost_is_handed_over_again(self) -> None:
        enqueue(self.bench, "trial", "k", "A trial", {})
        self.assertEqual(put_back_lost(older_than=0), 0)
        with connection.cursor() as cursor:
            cursor.execute("TRUNCATE procrastinate_jobs CASCADE")
        self.assertEqual((put_back_lost(older_than=0), self.handed()), (1, 1))


class KilledWorker(ServerTest):
    """A real worker process, killed with signal 9 in the middle of a job."""

    def worker(self) -> subprocess.Popen[bytes]:
        environment = os.environ | {
            "DJANGO_SETTINGS_MODULE": "tests.server.worker_settings",
            "GLENHAIL_DB_NAME": connection.settings_dict["NAME"],
            "GLENHAIL_TEST_VAR": str(settings.VAR),
        }
        command = [
            sys.executable,
            "manage.py",
            "procrastinate",
            "worker",
            "--queues",
            "work",
            "--concurrency",
            "1",
        ]
        process = subprocess.Popen(
            command, cwd=ROOT, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
        self.addCleanup(process.wait)
        self.addCleanup(process.kill)
        return process

    def until(self, state: State, seconds: float) -> bool:
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            if Job.objects.filter(state=state).exists():
                return True
            time.sleep(0.05)
        return False

    def test_its_job_is_picked_up_by_the_next_worker_and_ends_well(self) -> None:
        first = self.worker()
        self.owner.post("/api/frames", upload("frame"))
        self.assertTrue(self.until(State.RUNNING, 40))
        first.send_signal(signal.SIGKILL)
        first.wait()
        if Job.objects.filter(state=State.DONE).exists():
            self.skipTest("the job was quicker than the signal")
        self.worker()
        self.assertTrue(self.until(State.DONE, 100), list(Job.objects.values()))
        self.assertEqual(self.owner.get("/api/frames").json()[0]["picture"]["state"], "ready")


class Shares(ServerTest):
    def test_a_part_of_a_part_tells_its_share_of_the_whole(self) -> None:
        job = Job.objects.create(
            bench=self.bench, kind="trial", key="trial", label="Trial", state=State.RUNNING
        )
        whole = Progress(job)
        for progress, share, wanted in (
            (whole, 0.5, 0.5),
            (whole.within(0.2, 0.6), 0.5, 0.4),
            (whole.within(0.5, 1.0).within(0.5, 1.0), 0.5, 0.875),
        ):
            progress.tell(share, "at work")
            job.refresh_from_db()
            self.assertAlmostEqual(job.progress, wanted)
