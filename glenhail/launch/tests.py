"""All tests at once, in pieces with a process and a database each, two side by side:
whoever is done takes the next piece.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

# The longest first, so that the last ones end together.
WHOLE = ("tests.browser", "tests.server")
REST = ("tests.web", "tests.demo", "tests.launch", "tests.standins")
AT_ONCE = 2


def pieces(root: Path) -> list[tuple[str, ...]]:
    """Every package of tests once, in the order in which they are begun.

    Args:
        root: Folder of the project.
    """
    core = sorted(p.stem for p in (root / "tests/core").glob("test_*.py"))
    shares = [tuple(f"tests.core.{name}" for name in core[i::2]) for i in (0, 1)]
    return [*((name,) for name in WHOLE), *shares, REST]


def run_pieces(root: Path, environment: dict[str, str]) -> int:
    """Run all pieces, then print what each said; 0 where all passed."""
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(AT_ONCE) as slots:

        def run(numbered: tuple[int, tuple[str, ...]]) -> int:
            number, names = numbered
            log = Path(folder) / f"{number}.log"
            code = _run(root, environment, names, log, f"glenhail_piece_{number}")
            sys.stdout.write(log.read_text(errors="replace"))
            print(f"piece {number}: {'passed' if code == 0 else 'FAILED'}", flush=True)
            return code

        return max(slots.map(run, enumerate(pieces(root))), key=abs)


def _run(
    root: Path, environment: dict[str, str], names: tuple[str, ...], log: Path, database: str
) -> int:
    command = [sys.executable, "manage.py", "test", "--settings", "tests.settings", "--noinput"]
    with log.open("wb") as output:
        return subprocess.run(
            [*command, *names],
            cwd=root,
            env={**os.environ, **environment, "GLENHAIL_TEST_DB": database},
            stdin=subprocess.DEVNULL,
            stdout=output,
            stderr=subprocess.STDOUT,
            check=False,
        ).returncode
