"""A bench of its own, started by the launcher in a temporary folder, and how a page
would talk to it.
"""

from __future__ import annotations

import http.client
import json
import os
import signal
import subprocess
import sys
import time
import uuid
from collections import Counter
from collections.abc import Callable
from contextlib import suppress
from functools import cached_property
from pathlib import Path
from typing import Any

import psycopg

ROOT = Path(__file__).resolve().parents[1]
PORT = 8491
STUCK = 60.0  # seconds


class Bench:
    """A bench started by the launcher, and one owner's session."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.environment = {**os.environ, "GLENHAIL_VAR": str(folder), "GLENHAIL_PORT": str(PORT)}
        for name in [n for n in self.environment if n.startswith("GLENHAIL_DB")]:
            del self.environment[name]
        self.launcher = subprocess.Popen(
            [sys.executable, "-m", "glenhail.launch", "serve"],
            cwd=ROOT,
            env=self.environment,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )
        self.cookie, self.token = "", ""
        self.statuses = Counter[int]()
        until(self.answers, 120)
        self.sign_in()

    def answers(self) -> bool:
        with suppress(OSError, http.client.HTTPException):
            return self.call("GET", "/api/session")[0] == 200
        return False

    def call(
        self, method: str, path: str, body: bytes | None = None, kind: str = "application/json"
    ) -> tuple[int, Any]:
        link = http.client.HTTPConnection("127.0.0.1", PORT, timeout=30)
        headers = {
            "Cookie": self.cookie,
            "X-CSRFToken": self.token,
            "Content-Type": kind,
            "Referer": f"http://localhost:{PORT}/",
        }
        link.request(method, path, body, headers)
        answer = link.getresponse()
        raw = answer.read()
        cookies = [c.split(";")[0] for c in answer.headers.get_all("Set-Cookie") or []]
        if cookies:
            kept = dict(c.split("=", 1) for c in [*filter(None, self.cookie.split("; ")), *cookies])
            self.cookie = "; ".join(f"{k}={v}" for k, v in kept.items())
            self.token = kept.get("csrftoken", self.token)
        link.close()
        self.statuses[answer.status] += 1
        return answer.status, json.loads(raw) if raw[:1] in (b"{", b"[") else raw

    def sign_in(self) -> None:
        self.call("GET", "/api/session")
        password = (self.folder / "first-password").read_text().strip()
        status, told = self.call(
            "POST", "/api/session", json.dumps({"username": "owner", "password": password}).encode()
        )
        assert status == 200, told

    @cached_property
    def settings(self) -> dict[str, str]:
        """What the launcher tells its processes."""
        said = subprocess.run(
            [sys.executable, "-m", "glenhail.launch", "environment"],
            cwd=ROOT,
            env=self.environment,
            capture_output=True,
            text=True,
            check=True,
        )
        told = dict(line.removeprefix("export ").split("=", 1) for line in said.stdout.splitlines())
        return {k: v.strip("'") for k, v in told.items()}

    def manage(self, *arguments: str) -> str:
        done = subprocess.run(
            [sys.executable, "manage.py", *arguments],
            cwd=ROOT,
            env={**self.environment, **self.settings},
            capture_output=True,
            text=True,
            check=False,
        )
        return done.stdout + done.stderr

    def rows(self, query: str, *values: Any) -> list[tuple[Any, ...]]:
        """What the database says now; nothing while it is away."""
        told = self.settings
        with suppress(psycopg.Error):
            link = psycopg.connect(
                host=told["GLENHAIL_DB_HOST"],
                port=told["GLENHAIL_DB_PORT"],
                user=told["GLENHAIL_DB_USER"],
                password=told["GLENHAIL_DB_PASSWORD"],
                dbname=told.get("GLENHAIL_DB_NAME", "glenhail"),
                autocommit=True,
                connect_timeout=5,
            )
            with link, link.cursor() as cursor:
                return cursor.execute(query, values).fetchall()
        return []

    def post(self, path: str, body: dict[str, Any] | None = None, method: str = "POST") -> Any:
        """Ask until it is answered."""
        return patiently(lambda: self.call(method, path, json.dumps(body or {}).encode()))

    def workers(self) -> list[int]:
        told = json.loads((self.folder / "processes.json").read_text())
        return [m["pid"] for m in told["members"][2:]]

    def jobs(self) -> list[dict[str, Any]]:
        return list(self.call("GET", "/api/queue")[1]["jobs"])

    def stop(self) -> None:
        self.launcher.send_signal(signal.SIGTERM)
        self.launcher.wait(60)


def until(holds: Callable[[], bool], seconds: float) -> bool:
    """Wait until something holds; whether it did in time."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if holds():
            return True
        time.sleep(0.2)
    return False


def patiently(call: Callable[[], tuple[int, Any]], seconds: float = STUCK) -> Any:
    """Ask again while the bench is away, as its pages do."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        with suppress(OSError, http.client.HTTPException):
            status, told = call()
            if status < 400:
                return told
            if status not in (409, 429, 503, 507):
                raise RuntimeError(f"{status}: {told}")
        time.sleep(0.5)
    raise TimeoutError("stuck")


def send(bench: Bench, raw: bytes, delivery: dict[str, Any], name: str) -> dict[str, Any]:
    """A file in pieces, as the browser sends it."""
    address = f"/api/uploads/{uuid.uuid4()}"
    body = json.dumps({"name": name, "size": len(raw), "delivery": delivery}).encode()
    end = time.monotonic() + 2 * STUCK
    while time.monotonic() < end:
        told = patiently(lambda: bench.call("PUT", address, body))
        if told["state"] in ("done", "refused"):
            return dict(told)
        if told["state"] == "open" and told["received"] < len(raw):
            piece = raw[told["received"] : told["received"] + 2_000_000]
            with suppress(OSError, http.client.HTTPException):
                bench.call(
                    "PUT", f"{address}/from/{told['received']}", piece, "application/octet-stream"
                )
            continue
        with suppress(OSError, http.client.HTTPException):
            bench.call("POST", f"{address}/finish")
        time.sleep(0.3)
    raise TimeoutError(name)
