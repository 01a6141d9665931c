"""Outputs made on the bench: every state true, every failure told, nothing lost."""

from __future__ import annotations

import os
import threading
import time
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from typing import Any
from unittest import mock

import psutil
from django.conf import settings
from django.db import connection
from django.utils import timezone

from glenhail.server.jobs.alone import LOCK, machine
from glenhail.server.jobs.models import Job, State
from glenhail.server.jobs.tasks import run_job
from glenhail.server.outputs.actions.hot_folders import home_of
from glenhail.server.outputs.jobs import running
from glenhail.server.outputs.jobs.hot_folders import look_into_all
from glenhail.server.outputs.models import Output, Run
from glenhail.server.studies.models import Contender, Study
from tests.server.base import ServerTest, tiff, upload, work
from tests.server.test_tools import COMMAND, allow

JSON = "application/json"
COPY = (
    '#!/bin/sh\necho \'{"load_s": 0.5, "process_s": 0.25, "export_s": 0.125}\'\necho working'
    ' >&2\ncp "$1" "$2"\n'
)


def waiting_locks() -> int:
    """How many wait for the machine."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT count(*) FROM pg_locks WHERE locktype = 'advisory' AND objid = %s AND NOT"
            " granted",
            [LOCK],
        )
        return int(cursor.fetchone()[0])


class RunsTest(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study: Study = self.make_study()
        self.frame = self.study.study_frames.get().frame
        work()
        self.base = f"/api/studies/{self.study.pk}"

    def enter(self, *steps: dict[str, object], script: str | None = None) -> int:
        """A contender; its first step's tool is run by a script, where one is given."""
        made: int = self.owner.post(f"{self.base}/contenders", {"steps": list(steps)}, JSON).json()[
            "id"
        ]
        if script is not None:
            allow("lift", script)
            release = Contender.objects.get(pk=made).treatment.steps.first().release  # type: ignore[union-attr]
            self.assertEqual(
                self.owner.put(f"/api/releases/{release.pk}/command", COMMAND, JSON).status_code,
                200,
            )
        return made

    def ask(self, which: str = "missing", **more: object) -> dict[str, object]:
        return dict(self.owner.post(f"{self.base}/runs", {"which": which, **more}, JSON).json())

    def until(self, holds: Callable[[], bool], seconds: float = 20) -> None:
        end = time.monotonic() + seconds
        while not holds():
            self.assertLess(time.monotonic(), end, "it never came to that")
            time.sleep(0.05)

    def cell(self, contender: int) -> dict[str, object]:
        cells = self.owner.get(f"{self.base}/coverage").json()["cells"]
        return dict(next(c for c in cells if c["contender"] == contender))


class Runs(RunsTest):
    def test_steps_are_run_one_after_the_other_timed_and_kept(self) -> None:
        made = self.enter(
            {"tool": "Tarnlift", "release": "1"},
            {"tool": "Unsharp mask", "method": "unsharp"},
            script=COPY,
        )
        self.assertEqual(self.cell(made)["state"], "missing")
        self.assertEqual(self.ask()["queued"], 1)
        self.assertEqual(self.cell(made)["state"], "waiting")
        work()
        self.assertEqual(
            [self.cell(made)[k] for k in ("state", "why", "out_of_date")], ["made", "", ""]
        )
        (run,) = self.owner.get(f"/api/contenders/{made}/outputs/{self.frame.pk}/runs").json()
        self.assertEqual((run["outcome"], run["problem"], len(run["steps"])), ("made", "", 2))
        self.assertGreater(run["load_s"], 0.5)
        self.assertIn("working", run["said"])
        self.assertGreater(run["wall_s"], 0.2)
        output = Output.objects.get(contender_id=made)
        self.assertEqual(output.file_name, "frame_B.tif")
        self.assertTrue(output.readings.exists())
        (cost,) = self.owner.get(f"{self.base}/costs").json()
        self.assertAlmostEqual(
            cost["speed"]["per_megapixel"]["value"], run["wall_s"] / run["megapixels"], places=3
        )
        self.assertIn(
            "Tarnlift 1, then Unsharp mask",
            self.owner.get(f"{self.base}/costs.csv").content.decode(),
        )

    def test_each_way_of_failing_is_told_and_can_be_tried_again(self) -> None:
        cases = {
            "#!/bin/sh\nexit 3\n": "exit code 3",
            "#!/bin/sh\n": "wrote nothing to frame.tif",
            "#!/bin/sh\necho hello > result.txt\n": "It wrote result.txt instead",
            '#!/bin/sh\necho junk > "$2"\n': "can not be taken in",
            "#!/bin/sh\nsleep 60\n": "did not end within 0.4 s",
            "#!/bin/sh\nread answer || exit 9\n": "exit code 9",
            f'#!/bin/sh\ncp {settings.TOOLS_DIR}/wide.tif "$2"\n': "not the same picture",
        }
        from glenhail.core.files.encoding import write_tiff
        from tests.pictures import photograph

        write_tiff(settings.TOOLS_DIR / "wide.tif", photograph("china")[:200])
        made = self.enter({"tool": "Tarnlift", "release": "1"}, script=COPY)
        for script, words in cases.items():
            with (
                self.subTest(words),
                mock.patch.dict(COMMAND, {"seconds": 0.4 if "sleep" in script else 20}),
            ):
                allow("lift", script)
                release = Contender.objects.get(pk=made).treatment.steps.get().release  # type: ignore[union-attr]
                self.owner.put(f"/api/releases/{release.pk}/command", COMMAND, JSON)
                self.ask("cells", cells=[{"contender": made, "frame": self.frame.pk}])
                work()
                self.assertEqual(self.cell(made)["state"], "failed")
                self.assertIn(words, str(self.cell(made)["why"]))
        allow("lift", COPY)
        self.assertEqual(self.ask("failed")["queued"], 1)
        work()
        self.assertEqual(self.cell(made)["state"], "made")

    def test_what_a_tool_can_not_do_is_told_before_anything_runs(self) -> None:
        self.enter(
            {"tool": "Tarnlift", "release": "1", "settings": [{"name": "scale", "value": 8}]},
            script=COPY,
        )
        self.enter({"tool": "Rawonly", "release": "1"})
        self.enter({"tool": "Byhand", "release": "1"})
        tools = {t.name: t for t in self.bench.tools.all()}
        tools["Tarnlift"].largest, tools["Rawonly"].takes = 5, "raw only"
        for tool in tools.values():
            tool.save()
        asked = self.ask()
        self.assertEqual(asked["queued"], 0)
        self.assertEqual(
            asked["impossible"],
            [
                "B: Tarnlift enlarges 5 times at most, not 8 times.",
                "C: Rawonly takes raw files only; frame is a TIFF.",
            ],
        )
        self.assertEqual(
            asked["by_hand"],
            ["D: Byhand 1 can not be run here: bring its output in, or use a hot folder."],
        )
        cells = self.owner.get(f"{self.base}/coverage").json()
        self.assertEqual(cells["counts"], {"made": 1, "impossible": 2, "missing": 1})

    def test_an_output_keeps_what_it_was_made_with_when_its_treatment_or_release_changes(
        self,
    ) -> None:
        made = self.enter({"tool": "Tarnlift", "release": "1", "strength": 60}, script=COPY)
        self.ask()
        work()
        steps = [{"tool": "Tarnlift", "release": "1", "strength": 80}]
        self.owner.put(f"/api/contenders/{made}", {"steps": steps}, JSON)
        self.assertIn("strength 60 %", str(self.cell(made)["out_of_date"]))
        self.assertEqual(self.owner.get(f"{self.base}/costs").json(), [])
        self.ask()
        work()
        self.assertEqual(self.cell(made)["out_of_date"], "")
        self.assertEqual(
            [
                r.made_with["steps"][0]["strength"]
                for r in Run.objects.order_by("pk")
                if r.made_with
            ],
            [60, 80],
        )
        release = Contender.objects.get(pk=made).treatment.steps.get().release  # type: ignore[union-attr]
        self.owner.put(
            f"/api/releases/{release.pk}/command",
            COMMAND | {"arguments": ["{input}", "{output}", "-x"]},
            JSON,
        )
        self.assertIn("another command", str(self.cell(made)["out_of_date"]))

    def test_the_same_cell_is_queued_once_and_the_one_looked_at_goes_first(self) -> None:
        first = self.enter({"tool": "Tarnlift", "release": "1"}, script=COPY)
        second = self.enter({"tool": "Median", "method": "median"})
        self.ask()
        self.ask()
        self.assertEqual(Job.objects.filter(kind="run", state=State.QUEUED).count(), 2)
        ahead = self.owner.post(
            f"{self.base}/runs/front",
            {"cells": [{"contender": second, "frame": self.frame.pk}]},
            JSON,
        )
        self.assertEqual(ahead.json(), {"count": 1})
        job = Job.objects.get(key=f"run:{second}:{self.frame.pk}")
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT args->>'job_id' FROM procrastinate_jobs WHERE status = 'todo' ORDER BY"
                " priority DESC, id LIMIT 1"
            )
            self.assertEqual(cursor.fetchone(), (str(job.pk),))
        self.assertEqual(self.owner.delete(f"{self.base}/runs").json(), {"count": 2})
        self.assertEqual({self.cell(c)["state"] for c in (first, second)}, {"missing"})

    def test_calling_off_ends_the_tool_and_all_it_started(self) -> None:
        length = f"77.{os.getpid()}"

        def children() -> list[psutil.Process]:
            """What the tool started and is not ended; a process that has ended may not
            be taken note of by its parent yet.
            """
            found = [
                p
                for p in psutil.process_iter(["cmdline", "status"])
                if p.info["cmdline"] == ["sleep", length]
            ]
            return [p for p in found if p.info["status"] != psutil.STATUS_ZOMBIE]

        made = self.enter(
            {"tool": "Tarnlift", "release": "1"}, script=f"#!/bin/sh\nsleep {length} &\nwait\n"
        )
        self.ask()
        job = Job.objects.get(key=f"run:{made}:{self.frame.pk}")
        worker = threading.Thread(target=lambda: (run_job(job.pk), connection.close()))
        worker.start()
        self.until(lambda: bool(children()))
        self.assertEqual(self.cell(made)["state"], "running")
        self.owner.post(f"/api/jobs/{job.pk}/cancel")
        worker.join(10)
        self.assertFalse(worker.is_alive())
        self.assertEqual(children(), [])
        self.assertEqual(self.cell(made)["state"], "missing")

    def test_a_cell_filled_by_hand_while_its_tool_ran_keeps_that_file(self) -> None:
        made = self.enter({"tool": "Tarnlift", "release": "1"}, script=COPY)
        self.ask()
        real = running.run_treatment

        def meanwhile(*arguments: object) -> object:
            self.owner.post(
                f"/api/contenders/{made}/outputs/{self.frame.pk}", upload("smooth", "by-hand.tif")
            )
            return real(*arguments)  # type: ignore[arg-type]

        with mock.patch.object(running, "run_treatment", meanwhile):
            work()
        self.assertEqual(Output.objects.get(contender_id=made).file_name, "by-hand.tif")
        self.assertIn("filled by hand", Run.objects.get(contender_id=made).problem)

    def test_two_benches_on_one_machine_do_not_end_each_other_s_programs(self) -> None:
        mine = running.mark_of(7)
        with self.settings(VAR=Path("/somewhere/else")):
            self.assertNotEqual(running.mark_of(7), mine)
        self.assertEqual(running.mark_of(7), mine)

    def test_repeats_are_timed_each_and_a_tool_that_is_not_steady_is_found_out(self) -> None:
        made = self.enter(
            {"tool": "Tarnlift", "release": "1"},
            script='#!/bin/sh\ncp "$1" "$2"\ndate +%N >> "$2"\n',
        )
        self.ask("all", repeats=3)
        work()
        self.assertEqual(
            list(Run.objects.filter(contender_id=made).values_list("number", "same")),
            [(1, None), (2, False), (3, False)],
        )
        cost = next(
            c for c in self.owner.get(f"{self.base}/costs").json() if c["contender"] == made
        )
        self.assertEqual((cost["speed"]["runs"], cost["unsteady"], cost["alone"]), (3, True, True))

    def test_a_timed_run_waits_for_other_work_and_keeps_it_waiting(self) -> None:
        told: dict[str, datetime] = {}
        let_go = threading.Event()

        def hold(name: str) -> None:
            with machine(alone=False):
                told[f"{name} begins"] = timezone.now()
                let_go.wait(20)
                told[f"{name} ends"] = timezone.now()
            connection.close()

        def run() -> None:
            run_job(job.pk)
            connection.close()

        self.enter({"tool": "Tarnlift", "release": "1"}, script=COPY)
        self.ask("all", repeats=2)
        job = Job.objects.get(kind="run", state=State.QUEUED)
        before, timed, after = (
            threading.Thread(target=hold, args=("before",)),
            threading.Thread(target=run),
            threading.Thread(target=hold, args=("after",)),
        )
        before.start()
        self.until(lambda: "before begins" in told)
        timed.start()
        self.until(
            lambda: Job.objects.get(pk=job.pk).message == "waiting to have the machine to itself"
        )
        self.until(lambda: waiting_locks() == 1)
        after.start()
        self.until(lambda: waiting_locks() == 2)
        let_go.set()
        for thread in (before, timed, after):
            thread.join(30)
        made = list(
            Run.objects.filter(made_with__isnull=False)
            .order_by("pk")
            .values_list("created", flat=True)
        )
        self.assertEqual(len(made), 2)
        self.assertTrue(told["before ends"] < made[0] < made[1] < told["after begins"])
        self.assertEqual(Job.objects.get(pk=job.pk).state, State.DONE)
        self.assertTrue(
            all(Run.objects.filter(made_with__isnull=False).values_list("alone", flat=True))
        )

    def test_times_of_an_output_made_elsewhere_are_told_by_hand(self) -> None:
        contender = self.study.contenders.get(letter="A")
        address = f"/api/contenders/{contender.pk}/outputs/{self.frame.pk}/runs"
        self.assertEqual(
            self.owner.put(address, {"machine": "an old laptop"}, JSON).status_code, 400
        )
        self.owner.put(address, {"load_s": 4, "export_s": 2, "machine": "an old laptop"}, JSON)
        (cost,) = self.owner.get(f"{self.base}/costs").json()
        self.assertEqual(
            (cost["speed"]["total"]["value"], cost["told_by_hand"], cost["machines"]),
            (6, True, ["an old laptop"]),
        )

    def test_times_by_hand_are_repeated_or_told_anew(self) -> None:
        contender = self.study.contenders.get(letter="A")
        address = f"/api/contenders/{contender.pk}/outputs/{self.frame.pk}/runs"

        def tell(seconds: float, **more: Any) -> int:
            return int(self.owner.put(address, {"process_s": seconds, **more}, JSON).status_code)

        def total() -> tuple[float, float, float, int]:
            (cost,) = self.owner.get(f"{self.base}/costs").json()
            of = cost["speed"]["total"]
            return of["value"], of["low"], of["high"], cost["speed"]["runs"]

        self.assertEqual(tell(5, what="from click to file"), 201)
        for seconds in (7, 6):
            self.assertEqual(tell(seconds, again=True), 201)
        self.assertEqual(total(), (6, 5, 7, 3))
        runs = self.owner.get(address).json()
        self.assertEqual([r["number"] for r in runs], [3, 2, 1])
        self.assertEqual(runs[-1]["said"], "from click to file")
        for _ in range(6):
            tell(6, again=True)
        self.assertEqual(tell(6, again=True), 400)
        self.assertEqual(total()[3], 9)
        # Told in place of them, it is the only one.
        self.assertEqual(tell(4), 201)
        self.assertEqual(total(), (4, 4, 4, 1))


class HotFolders(RunsTest):
    def test_inputs_are_written_and_outputs_picked_up_by_their_numbers(self) -> None:
        made = self.enter({"tool": "Byhand", "release": "7"})
        self.owner.post(f"/api/contenders/{made}/hot-folder")
        work()
        home = home_of(Contender.objects.get(pk=made))
        (told,) = self.owner.get(f"{self.base}/hot-folders").json()
        self.assertEqual(
            (told["home"], told["inputs"]), (str(home), [f"{self.frame.pk:05d}-frame.tif"])
        )
        out = home / "out" / f"{self.frame.pk:05d}-frame-BYHAND.tif"
        out.write_bytes(tiff("smooth"))
        self.assertEqual(look_into_all(), 0)  # it may still be being written
        (home / "out" / "stray.tif").write_bytes(tiff("smooth"))
        for path in (home / "out").iterdir():
            os.utime(path, (time.time() - 60, time.time() - 60))
        self.assertEqual(look_into_all(), 1)
        self.assertEqual(Output.objects.get(contender_id=made).file_name, out.name)
        self.assertIn("stray.tif", self.owner.get(f"{self.base}/hot-folders").json()[0]["note"])
        self.assertEqual(self.owner.delete(f"/api/contenders/{made}/hot-folder").status_code, 204)
        self.assertEqual(look_into_all(), 0)
