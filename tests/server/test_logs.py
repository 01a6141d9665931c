"""What is written down for whoever runs the bench: what about, by whom, and nothing
that was sent.
"""

from __future__ import annotations

import json
import logging
import re
from unittest import mock

from django.test import Client, override_settings

from glenhail.core.errors import CoreError
from glenhail.server.common.logs import HEADER, JsonLines, about
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.jobs.registry import KINDS
from tests.server.base import ServerTest, work

JSON = "application/json"


class Kept(logging.Handler):
    def __init__(self) -> None:
        super().__init__()
        self.setFormatter(JsonLines())
        self.lines: list[dict[str, object]] = []

    def emit(self, record: logging.LogRecord) -> None:
        line = self.format(record)
        assert "\n" not in line
        self.lines.append(json.loads(line))


class Logs(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.kept = Kept()
        root, requests = logging.getLogger(), logging.getLogger("glenhail.requests")
        root.addHandler(self.kept)
        self.addCleanup(root.removeHandler, self.kept)
        self.addCleanup(requests.setLevel, requests.level)
        requests.setLevel(logging.INFO)

    def test_a_request_is_one_line_with_its_id_and_who_asked(self) -> None:
        answer = self.owner.get("/api/studies?secret=words")
        (line,) = self.kept.lines
        self.assertEqual(answer.headers[HEADER], line["request"])
        told = {k: line[k] for k in ("method", "path", "status", "user", "level", "where")}
        owner = self.users["owner"].pk
        wanted = {
            "method": "GET",
            "path": "/api/studies",
            "status": 200,
            "user": owner,
            "level": "INFO",
            "where": "glenhail.requests",
        }
        self.assertEqual(told, wanted)
        self.assertGreaterEqual(line["ms"], 0)  # type: ignore[operator]
        Client().get("/api/studies")
        self.assertEqual((self.kept.lines[-1]["status"], self.kept.lines[-1]["user"]), (401, None))

    def test_a_proxys_id_is_kept_if_it_is_one(self) -> None:
        for given, kept in (
            ("a-1.B_2", True),
            ("x" * 64, True),
            ("x" * 65, False),
            ("a b", False),
            ("ä", False),
            ('"}', False),
        ):
            with self.subTest(given):
                answer = self.owner.get("/api/studies", headers={HEADER: given})
                self.assertEqual(answer.headers[HEADER] == given, kept)
                self.assertRegex(answer.headers[HEADER], r"^[\w.-]{1,64}$")

    def test_nothing_that_was_sent_is_written_down(self) -> None:
        secrets = ("loom-and-shuttle", "hidden-token", "query-words")
        headers = {"Authorization": "Bearer hidden-token"}
        Client().post(
            "/api/session?x=query-words",
            {"username": "owner", "password": "loom-and-shuttle"},
            JSON,
        )
        Client().get("/api/studies?x=query-words", headers=headers)
        self.assertEqual(
            len([line for line in self.kept.lines if line["where"] == "glenhail.requests"]), 2
        )
        for secret in secrets:
            self.assertNotIn(secret, json.dumps(self.kept.lines))

    def test_what_a_job_logs_tells_which_job(self) -> None:
        def fails(progress: object, arguments: object) -> None:
            logging.getLogger("glenhail.x").warning("half-way")
            raise RuntimeError("broken")

        with mock.patch.dict(KINDS, {"trial": fails}):
            job = enqueue(self.bench, "trial", "trial:1", "Trial", {})
            work()
        lines = [line for line in self.kept.lines if line.get("job") == job.pk]
        self.assertEqual([line["words"] for line in lines][:1], ["half-way"])
        self.assertEqual({line["kind"] for line in lines}, {"trial"})
        self.assertTrue(any("RuntimeError: broken" in str(line.get("error")) for line in lines))

    def test_what_a_line_is_about_ends_with_it(self) -> None:
        log = logging.getLogger("glenhail.y")
        with about(request="one"):
            with about(job=2):
                log.warning("inner")
            log.warning("outer")
        log.warning("after\nlines \x00 “quoted”")
        inner, outer, after = self.kept.lines
        self.assertEqual((inner["request"], inner["job"]), ("one", 2))
        self.assertEqual((outer["request"], "job" in outer), ("one", False))
        self.assertEqual(
            ("request" in after, after["words"]), (False, "after\nlines \x00 “quoted”")
        )


class Metrics(ServerTest):
    def test_figures_are_told_where_they_are_set_and_to_whom(self) -> None:
        def fails(progress: object, arguments: object) -> None:
            raise CoreError("no")

        with mock.patch.dict(KINDS, {"trial": fails}):
            enqueue(self.bench, "trial", "trial:1", "Trial", {})
            with override_settings(METRICS=True):
                answer = Client().get("/metrics")
        self.assertEqual(answer.status_code, 200)
        text = answer.content.decode()
        self.assertIn('glenhail_jobs{kind="trial",state="queued"} 1.0', text)
        self.assertIn('glenhail_well{check="database"} 1.0', text)
        self.assertIn('glenhail_well{check="workers"} 0.0', text)
        self.assertRegex(text, re.compile(r"^glenhail_disk_free_bytes \d", re.M))

    def test_to_others_there_is_no_such_page(self) -> None:
        self.assertEqual(Client().get("/metrics").status_code, 404)
        with override_settings(METRICS=True):
            self.assertEqual(Client(REMOTE_ADDR="203.0.113.9").get("/metrics").status_code, 404)
