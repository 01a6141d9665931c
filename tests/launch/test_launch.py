"""The private cluster and the processes beside it, for real."""

from __future__ import annotations

import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import unittest
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from pathlib import Path
from unittest import mock

import psycopg

from glenhail.launch import roles
from glenhail.launch.postgres import Cluster, NoDatabase
from glenhail.launch.processes import Crew, RunsAlready, end_left_over


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class PrivateCluster(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory(dir="/var/tmp", ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.var = Path(folder.name)
        self.var.chmod(0o755)

    def connect(self, cluster: Cluster) -> psycopg.Connection:
        return self.as_role(cluster, "app")

    def as_role(
        self, cluster: Cluster, role: str, database: str = "glenhail", password: str | None = None
    ) -> psycopg.Connection:
        known = roles.passwords(cluster.passwords)
        return psycopg.connect(
            host="127.0.0.1",
            port=cluster.port,
            user=role,
            dbname=database,
            autocommit=True,
            password=password if password is not None else getattr(known, role),
        )

    def started(self) -> Cluster:
        cluster = Cluster(self.var)
        self.addCleanup(lambda: cluster.stop())
        cluster.start()
        return cluster

    def test_nobody_gets_in_without_a_password_and_the_application_owns_its_schema_and_no_more(
        self,
    ) -> None:
        cluster = self.started()
        self.assertEqual(cluster.passwords.stat().st_mode & 0o077, 0)
        for role in ("app", "keeper", "tests", "postgres"):
            for host in ("127.0.0.1", str(cluster.home)):
                with self.subTest(f"{role} at {host}"), self.assertRaises(psycopg.OperationalError):
                    psycopg.connect(
                        host=host, port=cluster.port, user=role, dbname="postgres", password="wrong"
                    ).close()
        with self.as_role(cluster, "app") as link:
            link.execute("CREATE TABLE mine (n int)")
            for refused in (
                "CREATE DATABASE other",
                "CREATE ROLE other",
                "ALTER ROLE app SUPERUSER",
                "CREATE SCHEMA other",
                "COPY mine FROM PROGRAM 'id'",
                "COPY mine TO '/tmp/mine'",
                "SELECT pg_read_file('/etc/passwd')",
                "SELECT rolpassword FROM pg_authid",
            ):
                with self.subTest(refused), self.assertRaises(psycopg.errors.InsufficientPrivilege):
                    link.execute(refused)
        # Tests make databases of their own, and see nothing of the bench's.
        with self.as_role(cluster, "tests", "postgres") as link:
            link.execute("CREATE DATABASE trial")
        with self.assertRaises(psycopg.OperationalError):
            self.as_role(cluster, "tests", "glenhail").close()

    def test_launchers_that_start_at_once_wait_for_one_another(self) -> None:
        cluster = self.started()
        known = roles.passwords(cluster.passwords)
        with ThreadPoolExecutor(8) as pool:
            done = [pool.submit(roles.set_up, cluster.port, known) for _ in range(8)]
        self.assertEqual([d.exception() for d in done], [None] * 8)
        with self.connect(cluster) as link:
            link.execute("CREATE TABLE mine (n int)")

    def test_one_from_before_there_were_passwords_keeps_its_data_and_gets_them(self) -> None:
        cluster = Cluster(self.var)
        self.addCleanup(lambda: cluster.stop())
        cluster.home.mkdir(parents=True)
        if cluster.account:
            shutil.chown(cluster.home, cluster.account)
        cluster._run(
            "initdb",
            "-D",
            str(cluster.data),
            "-U",
            "app",
            "--auth=trust",
            "-E",
            "UTF8",
            "--locale=C.UTF-8",
        )
        cluster.port = free_port()
        cluster._launch()
        with psycopg.connect(
            host="127.0.0.1", port=cluster.port, user="app", dbname="postgres", autocommit=True
        ) as link:
            link.execute("CREATE DATABASE glenhail")
        with psycopg.connect(
            host="127.0.0.1", port=cluster.port, user="app", dbname="glenhail", autocommit=True
        ) as link:
            link.execute("CREATE TYPE mood AS ENUM ('well')")
            link.execute("CREATE TABLE kept (id bigserial PRIMARY KEY, feels mood)")
            link.execute("CREATE VIEW shown AS SELECT * FROM kept")
            link.execute("CREATE FUNCTION two() RETURNS int LANGUAGE sql AS 'SELECT 2'")
            link.execute("INSERT INTO kept (feels) VALUES ('well')")
        cluster.started_here = True
        # Broken off half-way, it goes on.
        with (
            mock.patch.object(roles, "set_up", side_effect=psycopg.OperationalError("broken off")),
            self.assertRaises(NoDatabase),
        ):
            cluster.start()
        cluster.start()
        with self.as_role(cluster, "app") as link:
            self.assertEqual(
                link.execute("SELECT id, feels, two() FROM shown").fetchone(), (1, "well", 2)
            )
            link.execute("ALTER TABLE kept ADD COLUMN more int")
            link.execute("DROP VIEW shown")
            with self.assertRaises(psycopg.errors.InsufficientPrivilege):
                link.execute("CREATE ROLE other")
        with self.assertRaises(psycopg.OperationalError):
            psycopg.connect(
                host="127.0.0.1", port=cluster.port, user="app", dbname="glenhail"
            ).close()
        cluster.stop()
        cluster.start()
        with self.as_role(cluster, "app") as link:
            self.assertEqual(link.execute("SELECT count(*) FROM kept").fetchone(), (1,))

    def test_a_server_that_was_killed_is_started_again_with_all_it_had(self) -> None:
        cluster = self.started()
        with self.as_role(cluster, "app") as link:
            link.execute("CREATE TABLE kept AS SELECT 7 AS n")
        cluster.keep_up()
        for _ in range(2):
            os.kill(
                int((cluster.data / "postmaster.pid").read_text().splitlines()[0]), signal.SIGKILL
            )
            end = time.monotonic() + 30
            while time.monotonic() < end:
                cluster.keep_up()
                with suppress(psycopg.OperationalError), self.as_role(cluster, "app") as link:
                    self.assertEqual(link.execute("SELECT n FROM kept").fetchone(), (7,))
                    break
            else:
                self.fail("it did not come back")

    def test_it_keeps_its_data_and_moves_to_another_port_when_its_own_was_taken(self) -> None:
        cluster = Cluster(self.var)
        self.addCleanup(lambda: cluster.stop())
        cluster.start()
        with self.connect(cluster) as link:
            link.execute("CREATE TABLE kept (n int)")
            link.execute("INSERT INTO kept VALUES (7)")
        first = cluster.port
        cluster.stop()
        with socket.socket() as thief:
            thief.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            thief.bind(("127.0.0.1", first))
            thief.listen()
            cluster = Cluster(self.var)
            cluster.start()
            self.assertNotEqual(cluster.port, first)
            self.assertEqual(int((cluster.home / "port").read_text()), cluster.port)
            with self.connect(cluster) as link:
                self.assertEqual(link.execute("SELECT n FROM kept").fetchone(), (7,))


class Processes(unittest.TestCase):
    def test_one_that_dies_is_started_again_and_all_end_with_the_crew(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            crew = Crew(Path(folder), {})
            crew.add(
                "sleeper",
                [sys.executable, "-c", "import time; print('up', flush=True); time.sleep(600)"],
            )
            threading.Thread(target=crew.watch, daemon=True).start()
            first = crew.members[0].process
            self.until(lambda: (Path(folder) / "logs/sleeper.log").read_text() == "up\n")
            os.killpg(first.pid, signal.SIGKILL)
            self.until(lambda: crew.members[0].process is not first)
            self.until(lambda: (Path(folder) / "logs/sleeper.log").read_text() == "up\nup\n")
            # Stopping comes after watching has ended; the watching thread here is left with nothing
            # to watch.
            ending = Crew(Path(folder), {})
            ending.members, crew.members = crew.members, []
            ending.stop()
            self.assertIsNotNone(ending.members[0].process.poll())

    def test_what_a_killed_launcher_left_is_ended_by_the_next_start_a_living_one_is_left_alone(
        self,
    ) -> None:
        starting = (
            "import sys; from pathlib import Path; from glenhail.launch.processes import Crew; c ="
            " Crew(Path(sys.argv[1]), {}); c.add('sleeper', [sys.executable, '-c', 'import time;"
            " time.sleep(600)']); print(c.members[0].process.pid, flush=True); c.watch()"
        )
        with tempfile.TemporaryDirectory() as folder:
            self.assertEqual(end_left_over(Path(folder)), 0)
            launcher = subprocess.Popen(
                [sys.executable, "-c", starting, folder], stdout=subprocess.PIPE, text=True
            )
            assert launcher.stdout is not None
            sleeper = int(launcher.stdout.readline())
            with self.assertRaisesRegex(RunsAlready, str(launcher.pid)):
                end_left_over(Path(folder))
            launcher.kill()
            launcher.wait()
            launcher.stdout.close()
            os.kill(sleeper, 0)
            self.assertEqual(end_left_over(Path(folder)), 1)
            self.until(
                lambda: (
                    not Path(f"/proc/{sleeper}").exists()
                    or "Z" in Path(f"/proc/{sleeper}/stat").read_text().split()[2]
                )
            )
            self.assertEqual(end_left_over(Path(folder)), 0)

    def until(self, holds: object, seconds: float = 20) -> None:
        end = time.monotonic() + seconds
        while not holds():  # type: ignore[operator]
            self.assertLess(time.monotonic(), end, "it did not come true")
            time.sleep(0.05)
