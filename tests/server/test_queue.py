"""The queue as a page asks for it: what ended since it was asked for last, and how long
it takes.
"""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.utils import timezone

from glenhail.server.jobs.actions import queue
from glenhail.server.jobs.models import Job, State
from tests.server.base import ServerTest


class Queue(ServerTest):
    def job(
        self, kind: str = "measure", state: State = State.DONE, ago: float = 1, **more: Any
    ) -> Job:
        ended = timezone.now() - timedelta(seconds=ago)
        finished = None if state in (State.QUEUED, State.RUNNING) else ended
        told = {"key": f"{kind}-{Job.objects.count()}", "label": kind, "finished": finished}
        return Job.objects.create(bench=self.bench, kind=kind, state=state, **{**told, **more})

    def read(self, since: object = None) -> Any:
        query = {} if since is None else {"since": str(since)}
        answer = self.owner.get("/api/queue", query_params=query)
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def test_nothing_has_ended_for_who_asks_the_first_time(self) -> None:
        self.job()
        self.assertEqual(self.read()["ended"], [])

    def test_every_job_that_ended_since_is_told_with_its_study_however_many_run(self) -> None:
        now = self.read()["now"]
        done = self.job(study_id=5, ago=0)
        failed = self.job("run", State.FAILED, ago=0, study_id=6)
        for _ in range(90):
            self.job(state=State.QUEUED)
        told = self.read(now)
        self.assertEqual(told["active"], 90)
        found = {(e["id"], e["kind"], e["study"]) for e in told["ended"]}
        self.assertEqual(found, {(done.pk, "measure", 5), (failed.pk, "run", 6)})

    def test_what_ended_long_before_is_not_told_and_what_ended_just_before_is_told_twice(
        self,
    ) -> None:
        self.job(ago=60)
        just = self.job(ago=1)
        self.assertEqual(
            [e["id"] for e in self.read(timezone.now().isoformat())["ended"]], [just.pk]
        )

    def test_the_answers_own_moment_can_be_sent_back_as_it_came(self) -> None:
        now = self.read()["now"]
        done = self.job(ago=0)
        self.assertEqual([e["id"] for e in self.read(now)["ended"]], [done.pk])

    def test_no_moment_is_refused_and_breaks_nothing(self) -> None:
        for since in (
            "yesterday",
            "2026-13-45T00:00:00Z",
            "0001-01-01T00:00:00Z",
            "2026-11-28T10:00",
        ):
            with self.subTest(since):
                answer = self.owner.get("/api/queue", query_params={"since": since})
                self.assertEqual(answer.status_code, 400)
                self.assertIn("is no moment", answer.json()["detail"])

    def test_jobs_of_another_bench_are_nobodys_business(self) -> None:
        now = self.read()["now"]
        self.job(ago=0)
        answer = self.client_of("stranger").get("/api/queue", query_params={"since": now}).json()
        self.assertEqual((answer["ended"], answer["jobs"], answer["active"]), ([], [], 0))

    def test_time_left_follows_the_pace_of_the_last_minutes(self) -> None:
        for ago in range(9):
            self.job(ago=ago)
        self.assertIsNone(self.read()["seconds_left"])  # nothing waits
        for _ in range(3):
            self.job(state=State.QUEUED)
        # Nine in ninety seconds: ten seconds each.
        self.assertAlmostEqual(self.read()["seconds_left"], 30.0)

    def test_nothing_is_promised_of_a_pace_that_is_not_known(self) -> None:
        self.job(state=State.RUNNING)
        self.job(ago=queue.RATE_OVER.total_seconds() + 5)
        self.assertIsNone(self.read()["seconds_left"])
