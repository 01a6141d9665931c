"""Kills, a dying database, a full disk and slow clients on a running bench: nothing may be lost, corrupt or stuck.

Starts a bench of its own in a temporary folder. `KILLS=50` by default; each kill falls on a worker that is at work, and what it was at is
told. At the end every original is read against its hash, every upload that was answered has to be there, and nothing may wait for
more than a minute.
"""

from __future__ import annotations

import http.client
import json
import os
import random
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import urllib.request
import uuid
from collections import Counter
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
KILLS, SEED, PORT = int(os.environ.get("KILLS", "50")), 20261127, 8491
STUCK = 60.0  # seconds


class Bench:
    """A bench started by the launcher, and one owner's session."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.environment = {**os.environ, "GLENHAIL_VAR": str(folder), "GLENHAIL_PORT": str(PORT)}
        for name in [n for n in self.environment if n.startswith("GLENHAIL_DB")]:
            del self.environment[name]
        self.launcher = subprocess.Popen(
            [sys.executable, "-m", "glenhail.launch", "serve"], cwd=ROOT, env=self.environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )  # fmt: skip
        self.cookie, self.token = "", ""
        until(self.answers, 120)
        self.sign_in()

    def answers(self) -> bool:
        with suppress(OSError, http.client.HTTPException):
            return self.call("GET", "/api/session")[0] == 200
        return False

    def call(self, method: str, path: str, body: bytes | None = None, kind: str = "application/json") -> tuple[int, Any]:
        link = http.client.HTTPConnection("127.0.0.1", PORT, timeout=30)
        headers = {"Cookie": self.cookie, "X-CSRFToken": self.token, "Content-Type": kind, "Referer": f"http://localhost:{PORT}/"}
        link.request(method, path, body, headers)
        answer = link.getresponse()
        raw = answer.read()
        cookies = [c.split(";")[0] for c in answer.headers.get_all("Set-Cookie") or []]
        if cookies:
            kept = dict(c.split("=", 1) for c in [*filter(None, self.cookie.split("; ")), *cookies])
            self.cookie = "; ".join(f"{k}={v}" for k, v in kept.items())
            self.token = kept.get("csrftoken", self.token)
        link.close()
        return answer.status, json.loads(raw) if raw[:1] in (b"{", b"[") else raw

    def sign_in(self) -> None:
        self.call("GET", "/api/session")
        password = (self.folder / "first-password").read_text().strip()
        status, told = self.call("POST", "/api/session", json.dumps({"username": "owner", "password": password}).encode())
        assert status == 200, told

    def manage(self, *arguments: str) -> str:
        said = subprocess.run(
            [sys.executable, "-m", "glenhail.launch", "environment"],
            cwd=ROOT,
            env=self.environment,
            capture_output=True,
            text=True,
            check=True,
        )
        told = dict(line.removeprefix("export ").split("=", 1) for line in said.stdout.splitlines())
        found = {k: v.strip("'") for k, v in told.items()}
        done = subprocess.run(
            [sys.executable, "manage.py", *arguments], cwd=ROOT, env={**self.environment, **found}, capture_output=True, text=True, check=False
        )  # fmt: skip
        return done.stdout + done.stderr

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
                bench.call("PUT", f"{address}/from/{told['received']}", piece, "application/octet-stream")
            continue
        with suppress(OSError, http.client.HTTPException):
            bench.call("POST", f"{address}/finish")
        time.sleep(0.3)
    raise TimeoutError(name)


def pictures(folder: Path, count: int) -> list[bytes]:
    """Files of 8 to 24 MB that differ."""
    from glenhail.core.files.writing import write_tiff

    rng = np.random.default_rng(SEED)
    base = rng.random((1400, 2100, 3), dtype=np.float32) * np.float32(0.4) + np.float32(0.2)
    made = []
    for i in range(count):
        write_tiff(folder / "made.tif", np.roll(base, 7 * i, axis=1))
        made.append((folder / "made.tif").read_bytes())
    return made


def kills(bench: Bench, raws: list[bytes]) -> tuple[Counter[str], list[int]]:
    """Kill workers, now and then the database and the server, while files come in and are measured."""
    random.seed(SEED)
    study = bench.call("POST", "/api/studies", json.dumps({"question": "Held?", "factor": "tool"}).encode())[1]["id"]
    fell, frames, failures = Counter[str](), list[int](), list[str]()
    over = threading.Event()

    def feed() -> None:
        try:
            for i, raw in enumerate(raws):
                told = send(bench, raw, {"kind": "study frame", "study": study}, f"frame-{i}.tif")
                assert told["state"] == "done", told
                frames.append(told["result"]["frame"])
        except Exception as error:  # told at the end
            failures.append(repr(error))
        over.set()

    feeding = threading.Thread(target=feed)
    feeding.start()
    done = 0
    while done < KILLS and not (over.is_set() and not active(bench)):
        time.sleep(random.uniform(0.05, 0.8))
        running = []
        with suppress(Exception):
            running = [j for j in bench.jobs() if j["state"] == "running"]
        if not running:
            continue
        what = f"{running[0]['kind']}: {running[0]['message'] or 'begun'}".split(",")[0]
        with suppress(ProcessLookupError, OSError, ValueError):
            os.kill(random.choice(bench.workers()), signal.SIGKILL)
            fell[what] += 1
            done += 1
        if done % 12 == 6:
            pid = next(bench.folder.glob("postgres/data/postmaster.pid"), None)
            if pid is not None:
                with suppress(ProcessLookupError, ValueError):
                    os.kill(int(pid.read_text().split()[0]), signal.SIGKILL)
                    fell["database"] += 1
    feeding.join()
    assert not failures, failures
    return fell, frames


def active(bench: Bench) -> int:
    with suppress(Exception):
        return int(bench.call("GET", "/api/queue")[1]["active"])
    return 1


def settled(bench: Bench) -> list[dict[str, Any]]:
    """All frames once nothing is under way; failed work is retried as a person would."""
    for _ in range(10):
        until(lambda: active(bench) == 0, 10 * STUCK)
        failed = [j for j in bench.jobs() if j["state"] == "failed"]
        waiting = [f for f in patiently(lambda: bench.call("GET", "/api/frames")) if f["picture"]["state"] != "ready"]
        if not waiting:
            break
        for job in failed:
            with suppress(Exception):
                bench.call("POST", f"/api/jobs/{job['id']}/retry")
    return list(patiently(lambda: bench.call("GET", "/api/frames")))


def slow_clients() -> float:
    """Two hundred half-sent requests; the 95th percentile of plain ones beside them, ms."""
    held = []
    for i in range(200):
        link = socket.create_connection(("127.0.0.1", PORT), timeout=10)
        link.sendall((b"GET /api/ses", b"POST /api/session HTTP/1.1\r\nHost: localhost\r\nContent-Length: 99\r\n\r\n{")[i % 2])
        held.append(link)
    times = []
    for _ in range(60):
        start = time.perf_counter()
        urllib.request.urlopen(f"http://localhost:{PORT}/api/session", timeout=20).read()
        times.append(time.perf_counter() - start)
    for link in held:
        link.close()
    return 1000 * float(np.quantile(times, 0.95))


def main() -> None:
    """Print what fell where, and what came of it."""
    folder = Path(tempfile.mkdtemp(prefix="glenhail-faults-", dir="/var/tmp"))
    folder.chmod(0o755)
    bench = Bench(folder)
    try:
        raws = pictures(folder, max(6, KILLS // 3))
        fell, frames = kills(bench, raws)
        print(f"{sum(fell.values())} kills: " + "; ".join(f"{n} x {what}" for what, n in fell.most_common()))
        found = settled(bench)
        lost = len(set(frames) - {f["id"] for f in found})
        stuck = sum(f["picture"]["state"] != "ready" for f in found)
        verified = bench.manage("verify")
        corrupt = verified.count("bytes instead of") + verified.count("not what they were") + verified.count("is gone")
        print(f"{len(raws)} files sent, {len(found)} frames; lost {lost}, corrupt {corrupt}, stuck {stuck}")
        print(f"200 half-sent requests held open: 95th percentile of others {slow_clients():.0f} ms")
        print(bench.manage("purge", "--dry-run").strip().splitlines()[-1])
    finally:
        bench.stop()
        shutil.rmtree(folder, ignore_errors=True)


if __name__ == "__main__":
    main()
