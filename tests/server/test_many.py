"""Many rows at once: a fixed number of statements whatever their count, and the same end as
one by one.
"""

from __future__ import annotations

import io
from collections.abc import Callable
from copy import copy
from typing import Any
from unittest import mock

from django.conf import settings
from django.contrib.auth.models import User
from django.db import connection
from django.test.utils import CaptureQueriesContext

from glenhail.server.accounts.models import Trail
from glenhail.server.jobs.actions.queue import Work, enqueue, enqueue_all
from glenhail.server.jobs.models import Job, State
from glenhail.server.material import queries as material
from glenhail.server.outputs.actions import folders
from glenhail.server.outputs.models import Folder, Output
from glenhail.server.studies.models import Study
from tests.server.base import ServerTest, tiff, work

JSON = "application/json"
TOOLS = ("Sedgewash", "Keenfold", "Tarnlift", "Mossgate")


def statements(act: Callable[[], Any]) -> int:
    with CaptureQueriesContext(connection) as seen:
        act()
    return len(seen)


class Many(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study: Study = self.make_study()
        self.base = f"/api/studies/{self.study.pk}"
        self.user = User.objects.get(username="owner")

    def enter(self, tools: tuple[str, ...]) -> None:
        for tool in tools:
            steps = {"steps": [{"tool": tool, "release": "5"}]}
            self.owner.post(f"{self.base}/contenders", steps, JSON)

    def folder(self, name: str, count: int) -> Folder:
        """A folder with an export for each of the first contenders."""
        made = self.owner.post(f"{self.base}/folders", {"name": name}, JSON).json()
        folder = Folder.objects.get(pk=made["id"])
        frame = self.study.study_frames.get().frame
        contenders = self.study.contenders.filter(kind="treatment").order_by("order")[:count]
        for i, contender in enumerate(contenders):
            content = io.BytesIO(tiff("smooth") + b"\0" * (i + 1))
            file = folders.add_file(self.user, folder, content, f"{name}/{i}.tif")
            folders.place_file(self.user, file, "export", frame.pk, contender.pk)
        work()
        return folder

    def cells(self) -> dict[str, str]:
        rows = Output.objects.filter(contender__study=self.study, contender__kind="treatment")
        return {o.contender.letter: o.file_name for o in rows.select_related("contender")}

    def test_a_folder_is_confirmed_and_undone_at_the_same_cost_whatever_its_size(self) -> None:
        self.enter(TOOLS)
        before, costs = self.cells(), []
        for name, count in (("first", 1), ("one", 1), ("four", 4)):
            folder = self.folder(name, count)
            path = f"/api/folders/{folder.pk}/confirm"
            confirmed = statements(lambda p=path: self.owner.post(p, {}, JSON))  # type: ignore[misc]
            placed = {n for n in self.cells().values() if n[0].isdecimal()}
            self.assertEqual(placed, {f"{i}.tif" for i in range(count)})
            undone = statements(lambda p=path: self.owner.delete(p))  # type: ignore[misc]
            self.assertEqual(self.cells(), before)
            costs.append((confirmed, undone))
        # The first looks up what is remembered afterwards; filled and empty cells differ by few.
        for one, four in zip(costs[1], costs[2], strict=True):
            self.assertLessEqual(four, one + 3)

    def test_asking_for_all_outputs_costs_the_same_for_few_and_for_many(self) -> None:
        self.enter(TOOLS[:1])
        ask = lambda: self.owner.post(f"{self.base}/runs", {"which": "all"}, JSON)  # noqa: E731
        ask()
        Job.objects.all().delete()
        few = statements(ask)
        self.enter(TOOLS[1:])
        Job.objects.all().delete()
        self.assertLessEqual(statements(ask), few)

    def test_work_that_waits_already_serves_and_the_rest_is_queued(self) -> None:
        bench = self.study.bench
        first = enqueue(bench, "measure", "b", "B", {"output": 0})
        works = [Work(key, key.upper(), {"output": 0}) for key in "abca"]
        jobs = enqueue_all(bench, "measure", works, self.study.pk)
        self.assertEqual([job.key for job in jobs], ["a", "b", "c", "a"])
        self.assertEqual(jobs[1].pk, first.pk)
        self.assertEqual(jobs[0].pk, jobs[3].pk)
        self.assertEqual(Job.objects.filter(key__in="abc", state=State.QUEUED).count(), 3)
        with connection.cursor() as cursor:
            cursor.execute("SELECT lock FROM procrastinate_jobs WHERE lock IN ('a', 'b', 'c')")
            self.assertEqual(sorted(row[0] for row in cursor.fetchall()), ["a", "b", "c"])
        self.assertEqual(enqueue_all(bench, "measure", []), [])

    def test_frames_come_a_page_at_a_time_the_newest_first(self) -> None:
        for i in range(4):
            file = io.BytesIO(tiff("other") + b"\0" * i)
            file.name = f"{i}.tif"
            self.owner.post("/api/frames", {"file": file})
        everything = [f["id"] for f in self.owner.get("/api/frames").json()]
        self.assertEqual(everything, sorted(everything, reverse=True))
        self.assertEqual(len(everything), 5)
        with mock.patch.object(material, "PAGE", 2):
            seen: list[int] = []
            while page := self.owner.get(
                "/api/frames", {"before": seen[-1]} if seen else {}
            ).json():
                self.assertLessEqual(len(page), 2)
                seen += [f["id"] for f in page]
            self.assertEqual(seen, everything)
            for odd in ("x", "-1", "1.5", "²", "9" * 30):
                page = self.owner.get("/api/frames", {"before": odd}).json()
                self.assertEqual([f["id"] for f in page], everything[:2], odd)

    def test_what_a_measure_has_nothing_to_say_of_is_no_gap(self) -> None:
        work()
        told = self.owner.get(f"{self.base}/readings").json()["readings"]
        silent = {r["measure"]: r for r in told if not r["concerns"]}
        self.assertIn("back_projection", silent)
        for reading in silent.values():
            self.assertIsNone(reading["value"])
            self.assertTrue(reading["reason"])
        gaps = [r for r in told if r["value"] is None and r["concerns"]]
        self.assertFalse({r["measure"] for r in gaps} & set(silent))

    def test_the_trail_is_told_in_pages_that_the_page_goes_on_after(self) -> None:
        bench = self.study.bench
        Trail.objects.all().delete()
        rows = [Trail(bench=bench, actor_id=self.user.pk, action="a", subject="s")] * 450
        Trail.objects.bulk_create([copy(row) for row in rows])
        counts, before = [], {}
        while page := self.owner.get("/api/trail", before).json():
            counts.append(len(page))
            before = {"before": page[-1]["id"]}
        self.assertEqual(counts, [200, 200, 50])
        web = (settings.ROOT / "web/src/accounts/queries.ts").read_text()
        self.assertIn("const OLDER = 200;", web)
