"""The front, for real: slow and idle connections, and requests that are too large, hold
nobody up.
"""

from __future__ import annotations

import http.client
import os
import socket
import subprocess
import sys
import tempfile
import time
from contextlib import closing, suppress
from pathlib import Path

from django.db import connection
from django.test import TransactionTestCase

from glenhail.launch.front import MOST_BODY, MOST_HEADER, THREADS
from tests.emptying import Emptied
from tests.launch.test_launch import free_port

ROOT = Path(__file__).resolve().parents[2]


class Front(Emptied, TransactionTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.port = free_port()
        told = {
            "GLENHAIL_VAR": folder.name,
            "GLENHAIL_DB_NAME": str(connection.settings_dict["NAME"]),
        }
        command = [sys.executable, "-m", "glenhail.launch.front", "127.0.0.1", str(self.port)]
        environment = {**os.environ, **told, "DJANGO_SETTINGS_MODULE": "glenhail.server.settings"}
        server = subprocess.Popen(command, cwd=ROOT, env=environment, stderr=subprocess.DEVNULL)
        self.addCleanup(server.wait)
        self.addCleanup(server.terminate)
        end = time.monotonic() + 60
        while time.monotonic() < end:
            with suppress(OSError):
                if self.get("/api/session") == 200:
                    return
            time.sleep(0.2)
        self.fail("the front does not answer")

    def get(self, path: str, headers: dict[str, str] | None = None) -> int:
        with closing(http.client.HTTPConnection("127.0.0.1", self.port, timeout=20)) as link:
            link.request("GET", path, headers=headers or {})
            return link.getresponse().status

    def half(self, sent: bytes) -> socket.socket:
        link = socket.create_connection(("127.0.0.1", self.port), timeout=20)
        self.addCleanup(link.close)
        link.sendall(sent)
        return link

    def test_hundreds_of_half_sent_requests_and_idle_connections_hold_no_thread(self) -> None:
        for i in range(25 * THREADS):
            whole = (
                b"POST /api/session HTTP/1.1\r\nHost: localhost\r\nContent-Type:"
                b" application/json\r\nContent-Length: 500\r\n\r\n{"
            )
            self.half((b"", b"GET /api/session HT", whole)[i % 3])
        for _ in range(3 * THREADS):
            self.assertEqual(self.get("/api/session"), 200)

    def test_what_is_too_large_is_refused_before_it_is_taken_in(self) -> None:
        self.assertEqual(self.get("/api/session", {"X-Long": "x" * (MOST_HEADER + 1)}), 431)
        link = self.half(
            b"PUT /api/x HTTP/1.1\r\nHost: localhost\r\n"
            + f"Content-Length: {MOST_BODY + 1}\r\n\r\n".encode()
            + b"x" * 1000
        )
        self.assertIn(b"413", link.recv(200))
        self.assertEqual(self.get("/api/session"), 200)
