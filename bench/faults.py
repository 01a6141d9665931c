"""Kills, a dying database, a full disk and slow clients on a running bench: nothing may
be lost, corrupt or stuck; and its load.

Starts a bench of its own in a temporary folder. `KILLS=50` by default: each is aimed at
a worker within one step of one kind of job, and counts only if that job was still
running when its worker was gone. At the end every original and edition is read against
its hash, every file that was answered has to be there, and nothing may wait for more
than a minute. `PARTS=kills,disk,slow,load`.
"""

from __future__ import annotations

import json
import os
import random
import shutil
import signal
import socket
import subprocess
import tempfile
import threading
import time
import urllib.request
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass, field
from itertools import count, cycle
from pathlib import Path

import numpy as np

from bench.running import PORT, STUCK, Bench, patiently, send, until

KILLS, SEED = int(os.environ.get("KILLS", "50")), 20261127
PARTS = os.environ.get("PARTS", "kills,disk,slow,load").split(",")
ROOM = 420_000_000  # bytes of the small disk
LOAD_FOR, READERS, REVIEWERS = 60.0, 50, 5
STEPS = [
    {
        "tool": "Sharpen",
        "release": "",
        "method": "unsharp",
        "mode": "",
        "strength": 60,
        "settings": [],
    }
]
RECIPE = {"steps": [{"kind": "gaussian_blur", "sigma": 1.2, "light": "linear"}], "seed": 1}


class Pictures:
    """Files of 17 MB that all differ."""

    def __init__(self, folder: Path) -> None:
        rng = np.random.default_rng(SEED)
        self.base = rng.random((1400, 2100, 3), dtype=np.float32) * np.float32(0.4) + np.float32(
            0.2
        )
        self.path, self.numbers = folder / "made.tif", count(1)

    def next(self, of: int = 0) -> bytes:
        """One that was not made before; of one number, the same but for noise."""
        from glenhail.core.files.encoding import write_tiff

        number = next(self.numbers)
        noise = np.random.default_rng(number).normal(0, 0.004, self.base.shape).astype(np.float32)
        write_tiff(self.path, np.roll(self.base, 7 * (of or number), axis=1) + noise)
        return self.path.read_bytes()


@dataclass
class Work:
    """A study under way: what was sent and answered, and how to ask for each kind of
    job.
    """

    bench: Bench
    pictures: Pictures
    study: int = 0
    frame: int = 0
    picture: int = 0
    contender: int = 0
    frames: list[int] = field(default_factory=list)
    outputs: int = 0
    editions: int = 0

    def begin(self) -> None:
        """A study with a frame, patches and two contenders."""
        self.study = self.bench.post("/api/studies", {"question": "Held?", "factor": "tool"})["id"]
        self.frame = self.upload()
        self.contender = self.enter("Sedgewash")
        for i, role in enumerate(("flat", "texture", "edge")):
            patch = {
                "frame": self.frame,
                "name": role,
                "role": role,
                "x": 200 + 400 * i,
                "y": 300,
                "w": 256,
                "h": 256,
            }
            self.bench.post(f"/api/studies/{self.study}/patches", patch)
        until(lambda: not active(self.bench), 2 * STUCK)
        self.output()
        until(lambda: not active(self.bench), 2 * STUCK)
        rows = self.bench.rows("SELECT picture_id FROM material_frame WHERE id = %s", self.frame)
        self.picture = int(rows[0][0])

    def enter(self, tool: str) -> int:
        step = {
            "tool": tool,
            "release": str(next(self.pictures.numbers)),
            "mode": "",
            "strength": 60,
            "settings": [],
        }
        return int(
            self.bench.post(f"/api/studies/{self.study}/contenders", {"steps": [step]})["id"]
        )

    def upload(self) -> int:
        told = send(
            self.bench,
            self.pictures.next(),
            {"kind": "study frame", "study": self.study},
            "frame.tif",
        )
        assert told["state"] == "done", told
        self.frames.append(int(told["result"]["frame"]))
        return self.frames[-1]

    def output(self) -> None:
        told = {"kind": "output", "contender": self.enter("Keenfold"), "frame": self.frame}
        done = send(self.bench, self.pictures.next(of=1), told, "output.tif")
        assert done["state"] == "done", done
        self.outputs += 1

    def run(self) -> None:
        step = {**STEPS[0], "strength": 10 + next(self.pictures.numbers) % 80}
        self.bench.post(f"/api/studies/{self.study}/contenders", {"steps": [step]})
        self.bench.post(f"/api/studies/{self.study}/runs", {"which": "missing"})

    def export(self) -> None:
        self.again("derived")
        self.bench.post(f"/api/pictures/{self.picture}/as/tif")

    def layers(self) -> None:
        self.again("derived")
        self.bench.post(f"/api/studies/{self.study}/frames/{self.frame}/layers")

    def degrade(self) -> None:
        recipe = {**RECIPE, "seed": next(self.pictures.numbers)}
        self.bench.post(f"/api/frames/{self.frame}/degradations", {"recipe": recipe})

    def display(self) -> None:
        self.again("derived")
        with suppress(Exception):
            self.bench.call("GET", f"/api/pictures/{self.picture}/tiles/0/0_0.png")

    def publish(self) -> None:
        text = {
            "summary": f"Held, {next(self.pictures.numbers)} times.",
            "method": "",
            "disclosure": "None.",
        }
        self.bench.post(f"/api/studies/{self.study}/report", text, "PUT")
        self.bench.post(f"/api/studies/{self.study}/editions", {"note": "again"})
        self.editions += 1

    def again(self, store: str) -> None:
        """Take away what can be made again, so that it is."""
        shutil.rmtree(self.bench.folder / "files" / store, ignore_errors=True)

    def aims(self) -> list[tuple[str, str, Callable[[], object]]]:
        """Kind of job, what it says while it is within the step that is aimed at, and
        how to ask for one.
        """
        return [
            ("take upload", "keeping its bytes", self.upload),
            ("decode", "decoding", self.upload),
            ("decode", "making the display", self.output),
            ("measure", "lining up", self.output),
            ("measure", "measuring", self.output),
            ("measure", "examining", self.output),
            ("run", "", self.run),
            ("export", "writing", self.export),
            ("layers", "", self.layers),
            ("degrade", "writing", self.degrade),
            ("display", "making the display", self.display),
            ("publish", "", self.publish),
        ]


def active(bench: Bench) -> bool:
    rows = bench.rows("SELECT count(*) FROM jobs_job WHERE state IN ('queued', 'running')")
    return not rows or rows[0][0] > 0


def kills(work: Work) -> Counter[str]:
    """Kill workers within each step of each kind of job, now and then the database too;
    where they fell.
    """
    fell, missed = Counter[str](), Counter[str]()
    for kind, step, ask in cycle(work.aims()):
        if fell.total() >= KILLS or missed.total() > KILLS:
            break
        name = f"{kind}, {step or 'at work'}"
        asking = threading.Thread(target=lambda ask=ask: ask())
        asking.start()
        hit = _hit(work.bench, kind, step)
        (fell if hit else missed)[name] += 1
        if hit and fell.total() % 12 == 6:
            _kill_database(work.bench, fell)
        asking.join(4 * STUCK)
        if not until(lambda: not active(work.bench), 4 * STUCK):
            waiting = "SELECT kind, state, message FROM jobs_job WHERE state IN (%s, %s)"
            print(f"still waiting after {name}: {work.bench.rows(waiting, 'queued', 'running')}")
    if missed:
        print(
            "not hit, over before: "
            + "; ".join(f"{n} x {what}" for what, n in missed.most_common())
        )
    return fell


def _hit(bench: Bench, kind: str, step: str) -> bool:
    """Wait for a job to be within a step, kill all workers, and see that it was within
    it still.
    """
    wanted = (
        "SELECT id, attempts FROM jobs_job WHERE state = 'running' AND kind = %s AND message LIKE"
        " %s AND attempts < 3 LIMIT 1"
    )
    end = time.monotonic() + STUCK
    while time.monotonic() < end:
        found = bench.rows(wanted, kind, f"{step}%")
        if not found:
            time.sleep(0.01)
            continue
        time.sleep(random.uniform(0, 0.15))
        for pid in bench.workers():
            with suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)
        return bool(
            bench.rows("SELECT 1 FROM jobs_job WHERE id = %s AND state = 'running'", found[0][0])
        )
    return False


def _kill_database(bench: Bench, fell: Counter[str]) -> None:
    for path in bench.folder.glob("postgres/data/postmaster.pid"):
        with suppress(ProcessLookupError, ValueError, OSError):
            os.kill(int(path.read_text().split()[0]), signal.SIGKILL)
            fell["database"] += 1


def settle(bench: Bench) -> None:
    """Failed work is retried as a person would, until nothing is under way."""
    for _ in range(6):
        until(lambda: not active(bench), 5 * STUCK)
        failed = bench.rows("SELECT id FROM jobs_job WHERE state = 'failed'")
        if not failed:
            return
        for (job,) in failed:
            with suppress(Exception):
                bench.call("POST", f"/api/jobs/{job}/retry")
        time.sleep(1)


def judged(work: Work) -> str:
    """What is lost, corrupt or stuck."""
    bench = work.bench
    settle(bench)
    frames = {
        f["id"]: f["picture"]["state"] for f in patiently(lambda: bench.call("GET", "/api/frames"))
    }
    lost = len(set(work.frames) - set(frames))
    editions = bench.rows("SELECT count(*) FROM publishing_edition")[0][0]
    sent = (
        "SELECT count(*) FROM studies_output WHERE picture_id IS NOT NULL AND file_name ="
        " 'output.tif'"
    )
    lost += max(0, work.editions - editions) + max(0, work.outputs - bench.rows(sent)[0][0])
    stuck = sum(state != "ready" for state in frames.values())
    stuck += bench.rows("SELECT count(*) FROM jobs_job WHERE state IN ('queued', 'running')")[0][0]
    verified = bench.manage("verify")
    corrupt = sum(
        verified.count(fault) for fault in ("bytes instead of", "not what they were", "is gone")
    )
    words = f"{len(work.frames)} frames, {work.outputs} outputs, {editions} editions"
    return f"{words}: lost {lost}, corrupt {corrupt}, stuck over {STUCK:.0f} s {stuck}"


def full_disk(work: Work) -> str:
    """Fill the disk while files come in, measure and are published; then give room
    again.
    """
    bench, filler = work.bench, work.bench.folder / "files" / "filler"
    with suppress(OSError), filler.open("wb") as stream:
        while True:
            stream.write(bytes(1_000_000))
    said: list[str] = []

    def trial() -> None:
        for ask in (work.upload, work.output, work.degrade, work.publish):
            try:
                ask()
            except Exception as error:
                said.append(str(error))

    trying = threading.Thread(target=trial)
    trying.start()
    time.sleep(20)
    problems = [row[0] for row in bench.rows("SELECT problem FROM jobs_job WHERE state = 'failed'")]
    filler.unlink()
    trying.join(10 * STUCK)
    full = bench.statuses[507] + sum(
        "disk of this bench is full" in words for words in [*said, *problems]
    )
    other = [words for words in [*said, *problems] if "disk of this bench is full" not in words]
    return (
        f"full disk: told as such {full} times"
        + (f", otherwise: {other[:3]}" if other else "")
        + "; with room again: "
        + judged(work)
    )


def slow_clients() -> str:
    """Two hundred half-sent requests; the 95th percentile of plain ones beside them."""
    held = []
    for i in range(200):
        link = socket.create_connection(("127.0.0.1", PORT), timeout=10)
        link.sendall(
            (
                b"GET /api/ses",
                b"POST /api/session HTTP/1.1\r\nHost: localhost\r\nContent-Length: 99\r\n\r\n{",
            )[i % 2]
        )
        held.append(link)
    times = []
    for _ in range(60):
        start = time.perf_counter()
        urllib.request.urlopen(f"http://localhost:{PORT}/api/session", timeout=20).read()
        times.append(time.perf_counter() - start)
    for link in held:
        link.close()
    return (
        "200 half-sent requests held open: 95th percentile of others"
        f" {1000 * float(np.quantile(times, 0.95)):.0f} ms"
    )


def load(work: Work) -> Iterator[str]:
    """50 readers at an edition, 5 reviewers at the study, for a minute; the 95th
    percentiles, and how many were turned away.
    """
    bench = work.bench
    (address,) = bench.rows(
        "SELECT slug, number FROM publishing_edition e JOIN publishing_report r ON r.id ="
        " e.report_id LIMIT 1"
    )
    page = f"/reports/{address[0]}/{address[1]}/"
    parts = [p.split('"')[0] for p in bench.call("GET", page)[1].decode().split('src="')[1:]][:40]
    study = f"/api/studies/{work.study}"
    reading = {"page": [page], "part": [page + p if not p.startswith("/") else p for p in parts]}
    looking = {
        "tile": [f"/api/pictures/{work.picture}/tiles/{level}/0_0.png" for level in (0, 1, 2)],
        "study": [study],
        "readings": [f"{study}/readings"],
    }
    times: dict[str, list[float]] = {k: [] for k in (*reading, *looking)}
    away, over = Counter[str](), time.monotonic() + LOAD_FOR

    def ask(kinds: dict[str, list[str]], pause: float) -> None:
        rng = random.Random()
        while time.monotonic() < over:
            kind = rng.choice(list(kinds))
            start = time.perf_counter()
            try:
                status = bench.call("GET", rng.choice(kinds[kind]))[0]
            except OSError:
                status = 0
            if status == 200:
                times[kind].append(time.perf_counter() - start)
            else:
                away[f"{kind} {status}"] += 1
            time.sleep(rng.uniform(0, 2 * pause))

    people = [threading.Thread(target=ask, args=(reading, 2.0)) for _ in range(READERS)]
    people += [threading.Thread(target=ask, args=(looking, 0.5)) for _ in range(REVIEWERS)]
    for one in people:
        one.start()
    for one in people:
        one.join()
    yield (
        f"{READERS} readers and {REVIEWERS} reviewers for {LOAD_FOR:.0f} s, this client on the same"
        " processors:"
    )
    for kind, seconds in times.items():
        if seconds:
            yield (
                f"  {kind:9} {len(seconds):5} answered, 95th percentile"
                f" {1000 * float(np.quantile(seconds, 0.95)):4.0f} ms"
            )
    yield f"  turned away: {dict(away) or 'none'}"


def main() -> None:
    """Print what fell where, and what came of it."""
    random.seed(SEED)
    folder = Path(tempfile.mkdtemp(prefix="glenhail-faults-", dir="/var/tmp"))
    folder.chmod(0o755)
    small = "disk" in PARTS and os.geteuid() == 0
    if small:
        # A small disk of its own for files; the database keeps its room.
        (folder / "files").mkdir()
        size = ROOM if "kills" not in PARTS else 8 * ROOM
        small = (
            subprocess.run(
                ["mount", "-t", "tmpfs", "-o", f"size={size}", "none", str(folder / "files")],
                check=False,
            ).returncode
            == 0
        )
    bench = Bench(folder)
    try:
        work = Work(bench, Pictures(folder))
        work.begin()
        if "kills" in PARTS:
            fell = kills(work)
            print(
                f"{fell.total()} kills, each within its step: "
                + "; ".join(f"{n} x {what}" for what, n in fell.most_common()),
                flush=True,
            )
            print(judged(work), flush=True)
        if "slow" in PARTS:
            print(slow_clients(), flush=True)
        if "load" in PARTS:
            work.publish()
            until(lambda: not active(bench), 4 * STUCK)
            for line in load(work):
                print(line, flush=True)
        if "disk" in PARTS:
            print(
                full_disk(work) if small else "full disk: only root can mount a small one here",
                flush=True,
            )
        print(json.dumps(bench.manage("purge", "--dry-run").strip().splitlines()[-1:]))
    finally:
        bench.stop()
        if small:
            subprocess.run(["umount", str(folder / "files")], check=False)
        shutil.rmtree(folder, ignore_errors=True)


if __name__ == "__main__":
    main()
