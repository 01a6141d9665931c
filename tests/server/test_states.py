"""Benches of earlier states: what they held is there after they were brought to today's tables.

Each state is a dump of a small bench by the release of that time, with the number of rows in each
of its tables (``states/``).
"""

from __future__ import annotations

import gzip
import json
import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

import psycopg
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import connection
from django.test import TransactionTestCase

from glenhail.server.operations.bring_over import MOVED
from glenhail.server.operations.database import program
from tests.emptying import Emptied

STATES = Path(__file__).parent / "states"
ROOT = Path(__file__).parents[2]
NAME = "glenhail_of_an_earlier_state"
# Whatever the order of columns, which no statement rests on.
COLUMNS = """
SELECT table_name, column_name, data_type, is_nullable, character_maximum_length, column_default
FROM information_schema.columns WHERE table_schema = 'public'
"""
CONSTRAINTS = """
SELECT conrelid::regclass::text, pg_get_constraintdef(oid) FROM pg_constraint
WHERE connamespace = 'public'::regnamespace
"""


def told() -> dict[str, str]:
    """Where the database of the tests is."""
    s = connection.settings_dict
    return {"host": s["HOST"], "port": str(s["PORT"]), "user": s["USER"], "password": s["PASSWORD"]}


class EarlierState(Emptied, TransactionTestCase):
    def setUp(self) -> None:
        self._admin(f"DROP DATABASE IF EXISTS {NAME} WITH (FORCE)")
        self._admin(f"CREATE DATABASE {NAME} TEMPLATE template0")
        self.addCleanup(self._admin, f"DROP DATABASE IF EXISTS {NAME} WITH (FORCE)")
        self.var = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def _admin(self, statement: str) -> None:
        """The server's own vacuum may be at work in a database: it ends by itself, and
        only a superuser could end it.
        """
        for left in range(60, -1, -1):
            try:
                with psycopg.connect(**told(), dbname="postgres", autocommit=True) as database:
                    database.execute(statement)
                return
            except (psycopg.errors.InsufficientPrivilege, psycopg.errors.ObjectInUse):
                if not left:
                    raise
                time.sleep(0.5)

    def load(self, state: str) -> None:
        where = told()
        with psycopg.connect(**where, dbname=NAME) as database:
            database.execute("DROP SCHEMA public")  # the dump has its own
        subprocess.run(
            [program("psql"), "-q", "-v", "ON_ERROR_STOP=1", "-h", where["host"], "-p",
             where["port"], "-U", where["user"], NAME],
            input=gzip.decompress((STATES / f"{state}.sql.gz").read_bytes()),
            env={**os.environ, "PGPASSWORD": where["password"]},
            stdout=subprocess.DEVNULL,
            check=True,
        )  # fmt: skip

    def manage(self, *arguments: str) -> str:
        done = subprocess.run(
            [sys.executable, "manage.py", *arguments],
            cwd=ROOT,
            env={**os.environ, "GLENHAIL_DB_NAME": NAME, "GLENHAIL_VAR": str(self.var)},
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])
        return done.stdout

    def rows(self, statement: str, name: str = NAME) -> list[Any]:
        with psycopg.connect(**told(), dbname=name) as database:
            return database.execute(statement).fetchall()

    def test_every_state_that_was_ever_out_comes_to_todays_tables_with_all_its_rows(self) -> None:
        for path in sorted(STATES.glob("*.sql.gz")):
            state = path.name.removesuffix(".sql.gz")
            with self.subTest(state):
                self.setUp()
                self.load(state)
                before = json.loads((STATES / f"{state}.json").read_text())
                self.manage("prepare")
                moved = {f"studies_{m}": f"{app}_{m}" for app, ms in MOVED.items() for m in ms}
                for table, count in before.items():
                    if table.startswith(("procrastinate_", "django_", "jobs_", "auth_perm")):
                        continue
                    now = moved.get(table, table) if state == "0.1" else table
                    self.assertEqual(self.rows(f"SELECT count(*) FROM {now}")[0][0], count, now)
                self.assertEqual(
                    set(self.rows(COLUMNS)),
                    set(self.rows(COLUMNS, connection.settings_dict["NAME"])),
                )
                self.assertEqual(
                    set(self.rows(CONSTRAINTS)),
                    set(self.rows(CONSTRAINTS, connection.settings_dict["NAME"])),
                )

    def test_a_bench_that_was_brought_over_goes_on(self) -> None:
        self.load("0.1")
        self.assertIn("brought over", self.manage("bring_over"))
        self.assertEqual(self.manage("bring_over"), "")
        self.manage("migrate", "-v0")
        # Readings still belong to their outputs, and new rows get numbers of their own.
        question, reads = self.rows(
            "SELECT s.question, count(r.id) FROM measuring_reading r JOIN outputs_output o ON"
            " o.id = r.output_id JOIN studies_contender c ON c.id = o.contender_id JOIN"
            " studies_study s ON s.id = c.study_id GROUP BY 1"
        )[0]
        self.assertEqual((question, reads), ("Which is better?", 145))
        script = (
            "from glenhail.server.studies.models import *\n"
            "from glenhail.server.audit.models import Decision\n"
            "d = Decision.objects.create(study=Study.objects.get(), finding='x', about='y')\n"
            "print(d.pk, Decision.objects.count())"
        )
        self.assertIn("2 2", self.manage("shell", "-v0", "-c", script))
        kinds = self.rows("SELECT app_label, model FROM django_content_type WHERE model = 'output'")
        self.assertEqual(kinds, [("outputs", "output")])

    def test_an_older_state_is_refused_with_the_remedy_and_left_as_it_is(self) -> None:
        self.load("0.1")
        with psycopg.connect(**told(), dbname=NAME) as database:
            database.execute("DELETE FROM django_migrations WHERE name = '0007_letters'")
        with self.assertRaisesRegex(AssertionError, "Start it once"):
            self.manage("bring_over")
        self.assertEqual(self.rows("SELECT count(*) FROM studies_output")[0][0], 3)

    def test_a_bench_of_today_is_left_alone(self) -> None:
        call_command("bring_over")
        self.assertIn("outputs_output", connection.introspection.table_names())
        with self.assertRaises(CommandError):
            from glenhail.server.operations.bring_over import bring_over

            bring_over()
