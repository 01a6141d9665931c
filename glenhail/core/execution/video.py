"""Debian's ffmpeg, which makes and reads videos as a program of its own."""

from __future__ import annotations

import shutil
import uuid
from collections.abc import Sequence
from pathlib import Path

from glenhail.core.errors import BadRequest
from glenhail.core.execution.command import Command
from glenhail.core.execution.program import run_program

PROGRAM = "ffmpeg"
LIMITS = Command(PROGRAM, (), ".mp4", seconds=300, memory_mb=4000, output_mb=500)


def why_no_video() -> str:
    """Why videos can not be made on this machine; empty where they can."""
    if shutil.which(PROGRAM):
        return ""
    return f"Video needs the program {PROGRAM}, which is not on this machine. Install it there."


def run_video(folder: Path, arguments: Sequence[str]) -> None:
    """Run the program on files of a folder.

    Parameters
    ----------
    folder : Path
        Where it works.
    arguments : sequence of str
        What it shall do, after those that keep it quiet.

    Raises
    ------
    BadRequest
        If the program is not there, or gives up.
    """
    program = shutil.which(PROGRAM)
    if program is None:
        raise BadRequest(why_no_video())
    line = [program, "-hide_banner", "-nostdin", "-loglevel", "error", "-y", *arguments]
    done = run_program(line, folder, LIMITS, f"video-{uuid.uuid4().hex}")
    if done.trouble:
        raise BadRequest(f"{PROGRAM} gave up: {done.trouble}")
