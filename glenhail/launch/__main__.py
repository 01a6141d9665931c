"""``./run`` after the installs: demo, serve, test, check, bench."""

from __future__ import annotations

import os
import shlex
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from glenhail.core.execution import machine
from glenhail.launch.checks import run_checks
from glenhail.launch.postgres import Cluster, NoDatabase, wait_for_port
from glenhail.launch.processes import Crew, RunsAlready, end_left_over
from glenhail.launch.roles import TESTS
from glenhail.launch.tests import run_pieces

ROOT = Path(__file__).resolve().parents[2]
PYTHON = sys.executable
HOST = "127.0.0.1"
SERVERS = 2  # processes that answer requests


def var() -> Path:
    """Where this bench keeps its data."""
    return Path(os.environ.get("GLENHAIL_VAR", ROOT / "var"))


def manage(environment: dict[str, str], *arguments: str) -> int:
    """Run one of Django's commands."""
    return subprocess.run(
        [PYTHON, "manage.py", *arguments], cwd=ROOT, env={**os.environ, **environment}, check=False
    ).returncode


def serve(arguments: list[str]) -> int:
    """The application without sample data."""
    return _serve(demo=False)


def demo(arguments: list[str]) -> int:
    """The application with the sample studies."""
    return _serve(demo=True)


def _serve(demo: bool) -> int:
    began = time.monotonic()
    port = int(os.environ.get("GLENHAIL_PORT", "8400"))
    left = _made_way(port)
    if left is None:
        return 1
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    cluster = Cluster(var())
    crew: Crew | None = None
    files = _make_files() if demo else None
    more: subprocess.Popen[bytes] | None = None
    try:
        cluster.start()
        if left:
            cluster.adopt()
        environment = cluster.environment()
        if demo:
            # Pictures of the samples show no maker's name.
            environment[machine.SETTING] = os.environ.get(machine.SETTING) or machine.size()
        if manage(environment, "prepare"):
            return 1
        crew = Crew(var(), _told_to_the_crew() | environment)
        _start(crew, port)
        if demo and manage(environment, "fill_demo", "--files-coming"):
            return 1
        _greet(port, demo, time.monotonic() - began)
        if demo:
            # Raw series, truths and a target come in while the studies are looked at already.
            more = subprocess.Popen(
                [PYTHON, "manage.py", "fill_demo", "--more"],
                cwd=ROOT,
                env={**os.environ, **environment},
            )
        crew.watch(cluster.keep_up)
    except KeyboardInterrupt:
        print("\nStopping ...")
    finally:
        for helper in (files, more):
            if helper is not None:
                helper.kill()
        if crew is not None:
            crew.stop()
        cluster.stop()
    return 0


def _made_way(port: int) -> int | None:
    """End what a killed start left, and see that the port is free: how many processes
    were left, None where it can not start.
    """
    try:
        left = end_left_over(var())
    except RunsAlready as why:
        print(why, file=sys.stderr)
        return None
    if left:
        print(f"Ended {left} processes that a killed start had left.")
    if wait_for_port(port, 0.2):
        again = "Stop it, or choose another: GLENHAIL_PORT=8401 ./run ..."
        print(f"Something listens on port {port} already. {again}", file=sys.stderr)
        return None
    return left


def _make_files() -> subprocess.Popen[bytes]:
    """The sample files, made while the database is being set up."""
    return subprocess.Popen([PYTHON, "-m", "glenhail.demo.files", str(var() / "demo")], cwd=ROOT)


def _start(crew: Crew, port: int) -> None:
    for i in range(SERVERS):
        crew.add(f"server-{i + 1}", [PYTHON, "-m", "glenhail.launch.front", HOST, str(port)])
    for i in range(int(os.environ.get("GLENHAIL_WORKERS", os.cpu_count() or 1))):
        crew.add(
            f"worker-{i + 1}",
            [
                PYTHON,
                "manage.py",
                "procrastinate",
                "worker",
                "--queues",
                "work",
                "--concurrency",
                "1",
            ],
        )
    if not wait_for_port(port, 60):
        raise NoDatabase(f"The server does not answer; its log is {crew.logs / 'server-1.log'}.")


def _told_to_the_crew() -> dict[str, str]:
    """How the bench's own processes log, one line a request, and where they write
    figures that are summed over all of them.
    """
    told = {"GLENHAIL_LOG_FORMAT": "json", "GLENHAIL_LOG_REQUESTS": "INFO"}
    if os.environ.get("GLENHAIL_METRICS") == "1":
        folder = var() / "metrics"
        shutil.rmtree(folder, ignore_errors=True)
        folder.mkdir(parents=True)
        told["PROMETHEUS_MULTIPROC_DIR"] = str(folder)
    return {name: os.environ.get(name, value) for name, value in told.items()}


def _greet(port: int, demo: bool, seconds: float) -> None:
    print(f"\n  Glenhail is at http://localhost:{port}/   (ready after {seconds:.0f} s)")
    if demo:
        print("  Sign in as “reviewer” with the password “harrowbeck”.")
    else:
        print(f"  Sign in as “owner”; the first password is in {var() / 'first-password'}.")
    print(f"  Data and logs: {var()}. Ctrl-C stops everything.\n", flush=True)


def test(arguments: list[str]) -> int:
    """All tests, or the ones named."""
    cluster = Cluster(var())
    try:
        cluster.start()
        if not arguments:
            return run_pieces(ROOT, cluster.environment(TESTS))
        command = ["test", "--settings", "tests.settings", "--timing", *arguments]
        return manage(cluster.environment(TESTS), *command)
    finally:
        cluster.stop()


def check(arguments: list[str]) -> int:
    """The static checks."""
    return run_checks(ROOT)


def environment(arguments: list[str]) -> int:
    """What other commands need to find the running database, for a shell to take."""
    for name, value in {**Cluster(var()).environment(), "GLENHAIL_VAR": str(var())}.items():
        print(f"export {name}={shlex.quote(value)}")
    return 0


def database(arguments: list[str]) -> int:
    """PostgreSQL alone, until it is interrupted: for restoring."""
    cluster = Cluster(var())
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    try:
        cluster.start()
        print(f"PostgreSQL runs on port {cluster.port}. Ctrl-C stops it.", flush=True)
        signal.pause()
    except KeyboardInterrupt:
        print("\nStopping ...")
    finally:
        cluster.stop()
    return 0


def bench(arguments: list[str]) -> int:
    """The benchmarks, which print ratios."""
    names = arguments or sorted(p.stem for p in (ROOT / "bench").glob("[a-z]*.py"))
    cluster = Cluster(var())
    try:
        cluster.start()
        environment = {**os.environ, **cluster.environment(TESTS)}
        return max(
            subprocess.run(
                [PYTHON, "-m", f"bench.{name}"], cwd=ROOT, env=environment, check=False
            ).returncode
            for name in names
        )
    finally:
        cluster.stop()


COMMANDS: dict[str, Callable[[list[str]], int]] = {
    "demo": demo,
    "serve": serve,
    "test": test,
    "check": check,
    "bench": bench,
    "environment": environment,
    "database": database,
}


def main() -> int:
    """Run the command named first."""
    try:
        return COMMANDS[sys.argv[1]](sys.argv[2:])
    except NoDatabase as error:
        print(error, file=sys.stderr)
        return 1


if __name__ == "__main__":
    sys.exit(main())
