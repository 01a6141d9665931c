"""Writes the fixture of a state that went out: ``GLENHAIL_STATE=0.2 ./run test
tests.server.make_state``. `test_states` holds every later one to it.
"""

from __future__ import annotations

import gzip
import json
import os
import unittest

from django.db import connection

from glenhail.server.operations.database import run
from glenhail.server.outputs.models import HotFolder, NamingPattern
from tests.server.base import work
from tests.server.test_all_roles import EveryCall
from tests.server.test_hostile_calls import JSON
from tests.server.test_states import STATES

NAME = os.environ.get("GLENHAIL_STATE", "")


@unittest.skipUnless(NAME, "only where a state is named")
class MakeState(EveryCall):
    def test_a_small_bench_with_rows_in_every_table_that_matters(self) -> None:
        self.fill()
        work()
        counts = {t: self.count(t) for t in connection.introspection.table_names()}
        (STATES / f"{NAME}.json").write_text(json.dumps(counts, indent=1) + "\n")
        text = run("pg_dump", "--no-owner", "--no-privileges", "--schema=public").encode()
        with gzip.GzipFile(STATES / f"{NAME}.sql.gz", "wb", 9, mtime=0) as file:
            file.write(text)

    def count(self, table: str) -> int:
        with connection.cursor() as cursor:
            cursor.execute(f"SELECT count(*) FROM {connection.ops.quote_name(table)}")
            return int(cursor.fetchone()[0])

    def fill(self) -> None:
        study, known = self.study.pk, self.known
        cell = f"/api/contenders/{known['contender_id']}/outputs/{known['frame_id']}"
        pairs = [{"x": x, "y": x / 2, "u": x, "v": x / 2} for x in (60, 500)]
        self.put(f"/api/studies/{study}/matching", {"match": "exposure", "size": "native"})
        self.put(f"/api/outputs/{known['output_id']}/points", {"pairs": pairs})
        self.put(f"{cell}/runs", {"load_s": 1, "process_s": 2, "export_s": 1, "machine": "one"})
        self.owner.post(f"/api/frames/{known['frame_id']}/suggestions")
        work()
        for finding in self.owner.get(f"/api/studies/{study}/audit").json()["findings"][:1]:
            decision = {"finding": finding["key"], "kind": "accepted", "reason": "Its own work."}
            self.owner.post(f"/api/studies/{study}/audit/decisions", decision, JSON)
        owner = self.users["owner"]
        HotFolder.objects.create(contender_id=known["contender_id"], actor=owner)
        NamingPattern.objects.create(bench=self.bench, rest="_dn", words="w", title="t")

    def put(self, address: str, body: dict[str, object]) -> None:
        answer = self.owner.put(address, json.dumps(body), JSON)
        self.assertEqual(answer.status_code // 100, 2, answer.content)
