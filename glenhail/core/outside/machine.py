"""The machine that something was timed on, described so that a reader can compare."""

from __future__ import annotations

import os
import platform
from functools import cache
from pathlib import Path

import psutil


@cache
def machine() -> str:
    """Processor, number of processors, memory, system."""
    memory = psutil.virtual_memory().total / 2**30
    count = os.cpu_count() or 1
    system = f"{platform.system()} {platform.release().split('-')[0]}"
    return f"{_processor()}, {count} processor{'s' if count > 1 else ''}, {memory:.0f} GiB, {system}"


def _processor() -> str:
    listed = Path("/proc/cpuinfo")
    for line in listed.read_text().splitlines() if listed.exists() else ():
        if line.startswith("model name"):
            return " ".join(line.split(":", 1)[1].split())
    return platform.processor() or platform.machine()
