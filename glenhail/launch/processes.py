"""The server's and the workers' processes: started together, restarted when one dies,
stopped together.
"""

from __future__ import annotations

import contextlib
import json
import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import IO

PATIENCE = 15.0  # seconds a process gets to end by itself


@dataclass
class Running:
    """One process and how to start it again."""

    name: str
    command: list[str]
    process: subprocess.Popen[bytes]
    log: IO[bytes]


class Crew:
    """All processes of a bench.

    Who they are is written down, so that the next start finds what a killed one left.
    """

    def __init__(self, var: Path, environment: dict[str, str]) -> None:
        self.list = var / "processes.json"
        self.logs = var / "logs"
        self.logs.mkdir(parents=True, exist_ok=True)
        self.environment = {**os.environ, **environment}
        self.members: list[Running] = []

    def add(self, name: str, command: list[str]) -> None:
        """Start a process; what it says goes to var/logs."""
        log = (self.logs / f"{name}.log").open("ab")
        self.members.append(Running(name, command, self._start(command, log), log))
        self._write_down()

    def _write_down(self) -> None:
        told = {
            "launcher": _identity(os.getpid()),
            "members": [_identity(m.process.pid) for m in self.members],
        }
        new = self.list.with_suffix(".new")
        new.write_text(json.dumps(told))
        new.replace(self.list)

    def _start(self, command: list[str], log: IO[bytes]) -> subprocess.Popen[bytes]:
        # Its own session: Ctrl-C in the terminal reaches only this program, which then stops the
        # others in order.
        return subprocess.Popen(
            command,
            env=self.environment,
            stdout=log,
            stderr=log,
            stdin=subprocess.DEVNULL,
            start_new_session=True,
        )

    def watch(self, look_after: Callable[[], None] = lambda: None) -> None:
        """Until interrupted: start again what died.

        `look_after` is called every second for what is not of the crew.
        """
        while True:
            time.sleep(1)
            look_after()
            for member in self.members:
                if member.process.poll() is not None:
                    print(
                        f"{member.name} ended ({member.process.returncode}); starting it again",
                        file=sys.stderr,
                    )
                    member.process = self._start(member.command, member.log)
                    self._write_down()

    def stop(self) -> None:
        """End all: politely, then firmly, whole sessions at once so that nothing is
        left behind.
        """
        for member in self.members:
            _signal(member.process, signal.SIGTERM)
        end = time.monotonic() + PATIENCE
        for member in self.members:
            try:
                member.process.wait(max(0.1, end - time.monotonic()))
            except subprocess.TimeoutExpired:
                _signal(member.process, signal.SIGKILL)
            member.log.close()
        self.list.unlink(missing_ok=True)


def _signal(process: subprocess.Popen[bytes], number: signal.Signals) -> None:
    if process.poll() is None:
        with contextlib.suppress(ProcessLookupError):
            os.killpg(process.pid, number)


class RunsAlready(Exception):
    """The bench is running; the text says under which process."""


def end_left_over(var: Path) -> int:
    """End what a launcher that was killed has left running; returns how many processes
    those were.

    Raises
    ------
    RunsAlready
        If that launcher is still there.
    """
    path = var / "processes.json"
    try:
        told = json.loads(path.read_text())
    except (OSError, ValueError):
        return 0
    if _is_there(told["launcher"]):
        raise RunsAlready(
            f"This bench runs already, under process {told['launcher']['pid']}. Stop that one"
            " first."
        )
    left = [m for m in told["members"] if _is_there(m)]
    for number in (signal.SIGTERM, signal.SIGKILL):
        for member in left:
            with contextlib.suppress(ProcessLookupError):
                os.killpg(member["pid"], number)
        end = time.monotonic() + PATIENCE
        while any(_is_there(m) for m in left) and time.monotonic() < end:
            time.sleep(0.1)
    path.unlink(missing_ok=True)
    return len(left)


def _identity(pid: int) -> dict[str, int]:
    """A process by its number and when it began: a number alone may be another's by
    now.
    """
    return {"pid": pid, "began": _began(pid) or 0}


def _is_there(identity: dict[str, int]) -> bool:
    return _began(identity["pid"]) == identity["began"]


def _began(pid: int) -> int | None:
    """When a process began, ticks since the machine did;

    None where there is none, or it has ended and nobody asked how.
    """
    try:
        after_name = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()
    except OSError:
        return None
    return None if after_name[0] in "ZX" else int(after_name[19])
