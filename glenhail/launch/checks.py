"""The static checks, each a command; one line of outcome each."""

from __future__ import annotations

import os
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

AT_ONCE = 2
BIN = Path(sys.executable).parent
CHECKS: dict[str, tuple[str, list[str]]] = {
    "ruff, rules": (".", [str(BIN / "ruff"), "check", "-q"]),
    "ruff, layout": (".", [str(BIN / "ruff"), "format", "--check", "-q"]),
    "mypy, strict": (".", [str(BIN / "mypy")]),
    "rules of the house": (".", [sys.executable, "-m", "glenhail.launch.house"]),
    "import contracts": (".", [str(BIN / "lint-imports"), "--no-logo"]),
    "migrations match models": (
        ".",
        [sys.executable, "manage.py", "makemigrations", "--check", "--dry-run"],
    ),
    "eslint": ("web", ["npm", "run", "--silent", "lint"]),
    "prettier": ("web", ["npm", "run", "--silent", "format"]),
    "vue-tsc": ("web", ["npm", "run", "--silent", "check"]),
}


def _run(root: Path, folder: str, command: list[str]) -> subprocess.CompletedProcess[str]:
    environment = {**os.environ, "MYPYPATH": str(root), "PYTHONPATH": str(root)}
    return subprocess.run(
        command, cwd=root / folder, capture_output=True, text=True, check=False, env=environment
    )


def run_checks(root: Path) -> int:
    """Run every check, two at a time; returns how many failed."""
    failed = 0
    with ThreadPoolExecutor(AT_ONCE) as threads:
        ended = threads.map(lambda told: _run(root, *told), CHECKS.values())
        for name, done in zip(CHECKS, ended, strict=True):
            print(f"{'ok  ' if done.returncode == 0 else 'FAIL'} {name}", flush=True)
            if done.returncode:
                failed += 1
                print(done.stdout[-4000:] + done.stderr[-4000:])
    print(f"{len(CHECKS) - failed} passed, {failed} failed")
    return 1 if failed else 0
