"""The server's and the workers' processes: started together, restarted when one dies, stopped together."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import sys
import time
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
    """All processes of a bench."""

    def __init__(self, var: Path, environment: dict[str, str]) -> None:
        self.logs = var / "logs"
        self.logs.mkdir(parents=True, exist_ok=True)
        self.environment = {**os.environ, **environment}
        self.members: list[Running] = []

    def add(self, name: str, command: list[str]) -> None:
        """Start a process; what it says goes to var/logs."""
        log = (self.logs / f"{name}.log").open("ab")
        self.members.append(Running(name, command, self._start(command, log), log))

    def _start(self, command: list[str], log: IO[bytes]) -> subprocess.Popen[bytes]:
        # Its own session: Ctrl-C in the terminal reaches only this program, which then stops the others in order.
        return subprocess.Popen(
            command, env=self.environment, stdout=log, stderr=log, stdin=subprocess.DEVNULL, start_new_session=True
        )

    def watch(self) -> None:
        """Until interrupted: start again what died."""
        while True:
            time.sleep(1)
            for member in self.members:
                if member.process.poll() is not None:
                    print(f"{member.name} ended ({member.process.returncode}); starting it again", file=sys.stderr)
                    member.process = self._start(member.command, member.log)

    def stop(self) -> None:
        """End all: politely, then firmly, whole sessions at once so that nothing is left behind."""
        for member in self.members:
            _signal(member.process, signal.SIGTERM)
        end = time.monotonic() + PATIENCE
        for member in self.members:
            try:
                member.process.wait(max(0.1, end - time.monotonic()))
            except subprocess.TimeoutExpired:
                _signal(member.process, signal.SIGKILL)
            member.log.close()


def _signal(process: subprocess.Popen[bytes], number: signal.Signals) -> None:
    if process.poll() is None:
        with contextlib.suppress(ProcessLookupError):
            os.killpg(process.pid, number)
