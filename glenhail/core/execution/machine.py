"""The machine that something was timed on, described so that a reader can compare."""

from __future__ import annotations

import os
import platform
from functools import cache
from pathlib import Path

import psutil

SETTING = "GLENHAIL_MACHINE"


@cache
def machine() -> str:
    """What the bench is told to call it (``GLENHAIL_MACHINE``), else the processor's
    own name, cores, memory, system.
    """
    named = " ".join(os.environ.get(SETTING, "").split())
    return named or f"{_processor()}, {size()}"


def size() -> str:
    """Cores, memory and system, without anybody's brand: "2 cores, 24 GiB, Linux"."""
    memory = psutil.virtual_memory().total / 2**30
    count = os.cpu_count() or 1
    return f"{count} core{'s' if count > 1 else ''}, {memory:.0f} GiB, {platform.system()}"


def _processor() -> str:
    listed = Path("/proc/cpuinfo")
    for line in listed.read_text().splitlines() if listed.exists() else ():
        if line.startswith("model name"):
            return " ".join(line.split(":", 1)[1].split())
    return platform.processor() or platform.machine()
