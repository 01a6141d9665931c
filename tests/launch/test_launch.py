"""The private cluster and the processes beside it, for real."""

from __future__ import annotations

import os
import signal
import socket
import sys
import tempfile
import threading
import time
import unittest
from pathlib import Path

import psycopg

from glenhail.launch.postgres import Cluster
from glenhail.launch.processes import Crew


class PrivateCluster(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory(dir="/var/tmp", ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.var = Path(folder.name)
        self.var.chmod(0o755)

    def connect(self, cluster: Cluster) -> psycopg.Connection:
        return psycopg.connect(host="127.0.0.1", port=cluster.port, user="app", dbname="glenhail")

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
            crew.add("sleeper", [sys.executable, "-c", "import time; print('up', flush=True); time.sleep(600)"])
            threading.Thread(target=crew.watch, daemon=True).start()
            first = crew.members[0].process
            self.until(lambda: (Path(folder) / "logs/sleeper.log").read_text() == "up\n")
            os.killpg(first.pid, signal.SIGKILL)
            self.until(lambda: crew.members[0].process is not first)
            self.until(lambda: (Path(folder) / "logs/sleeper.log").read_text() == "up\nup\n")
            # Stopping comes after watching has ended; the watching thread here is left with nothing to watch.
            ending = Crew(Path(folder), {})
            ending.members, crew.members = crew.members, []
            ending.stop()
            self.assertIsNotNone(ending.members[0].process.poll())

    def until(self, holds: object, seconds: float = 20) -> None:
        end = time.monotonic() + seconds
        while not holds():  # type: ignore[operator]
            self.assertLess(time.monotonic(), end, "it did not come true")
            time.sleep(0.05)
