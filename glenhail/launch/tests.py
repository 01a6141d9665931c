"""All tests at once, in two processes with a database each: one drives the browser and
computes, the other asks the server.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path

HALVES = (
    ("tests.browser", "tests.web", "tests.core"),
    ("tests.server", "tests.demo", "tests.launch", "tests.standins"),
)


def run_halves(root: Path, environment: dict[str, str]) -> int:
    """Run both halves side by side, then print what each said; 0 where all passed."""
    with tempfile.TemporaryDirectory() as folder:
        started = [
            _start(root, environment, names, Path(folder) / f"{i}.log", f"glenhail_half_{i}")
            for i, names in enumerate(HALVES)
        ]
        codes = [process.wait() for process, _ in started]
        for _, log in started:
            sys.stdout.write(log.read_text(errors="replace"))
            sys.stdout.flush()
    return max(codes)


def _start(
    root: Path, environment: dict[str, str], names: tuple[str, ...], log: Path, database: str
) -> tuple[subprocess.Popen[bytes], Path]:
    command = [sys.executable, "manage.py", "test", "--settings", "tests.settings", "--noinput"]
    with log.open("wb") as output:
        process = subprocess.Popen(
            [*command, *names],
            cwd=root,
            env={**os.environ, **environment, "GLENHAIL_TEST_DB": database},
            stdin=subprocess.DEVNULL,
            stdout=output,
            stderr=subprocess.STDOUT,
        )
    return process, log
