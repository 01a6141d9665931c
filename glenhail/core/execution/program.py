"""Running one program with limits: of time, of memory, of what it writes.

Nothing it starts outlives it.

Every program runs in a session and a folder of its own, with nothing to read on
standard input and a mark in its environment by which whatever it started is found
again, even after this process was killed.
"""

from __future__ import annotations

import contextlib
import os
import select
import signal
import subprocess
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

import psutil

from glenhail.core.execution.command import Command
from glenhail.core.execution.fence import Fence
from glenhail.core.execution.stdout import StdoutReport, ends_of, told_by

MARK = "GLENHAIL_RUN"
SAID = ("said.out", "said.err")
LOOK_EVERY = 0.05  # seconds
FENCED_WITHIN = 20.0  # seconds
MOST_SAID = 4 * 2**20  # bytes that a program may say on each of its two ways of talking
STANDARD = {
    "PATH": "/usr/local/bin:/usr/bin:/bin",
    "LANG": "C.UTF-8",
    "OPENBLAS_NUM_THREADS": str(os.cpu_count() or 1),
}

Alive = Callable[[float, StdoutReport], None]


@dataclass(frozen=True)
class RunResult:
    """How a program's run went.

    ``trouble`` is a sentence where it did not end well; times in seconds, memory in MB.
    """

    trouble: str
    wall_s: float
    cpu_s: float
    peak_mb: float
    told: StdoutReport
    said: str


def run_program(
    line: Sequence[str],
    folder: Path,
    limits: Command,
    mark: str,
    alive: Alive = lambda seconds, told: None,
    fence: Fence | None = None,
) -> RunResult:
    """Run a command line to its end, or to that of its limits.

    Parameters
    ----------
    line : sequence of str
        Program and arguments; no shell is involved.
    folder : Path
        The working folder; everything the program writes belongs there.
    limits : Command
        Its seconds, memory_mb and output_mb count.
    mark : str
        Names this run in the environment of all that the program starts.
    alive : callable
        Called all the while with the seconds passed and what was told so far; what it
        raises ends the program, and is raised.
    fence : Fence, optional
        What the program is shut in by.

    Notes
    -----
    ``setpriv`` ends the program when this thread dies, ``prlimit`` keeps any file it
    writes below the limit.
    """
    end_marked(mark)
    watch = _Watch(folder, limits)
    with (folder / "said.out").open("wb") as out, (folder / "said.err").open("wb") as err:
        read, begun = os.pipe()
        within = fence.around(line, folder, begun) if fence else line
        process = subprocess.Popen(
            [*_bounds(limits), *within],
            cwd=folder,
            stdin=subprocess.DEVNULL,
            stdout=out,
            stderr=err,
            start_new_session=True,
            env={**STANDARD, MARK: mark, "HOME": str(folder), "TMPDIR": str(folder)},
            pass_fds=[begun] if fence else [],
        )
        os.close(begun)
        shut_in = not fence or _begins(read)
        os.close(read)
        watch.starts(process.pid)
        began = time.monotonic()
        try:
            trouble = _watched(process, watch, began, alive)
        finally:
            _end(process, mark)
    wall = time.monotonic() - began
    told = told_by(folder / "said.out")
    if not shut_in:
        trouble = trouble or "It was not run: it could not be shut in on this machine."
    trouble = trouble or explained(process.returncode, ends_of(folder / "said.err", 1))
    return RunResult(
        trouble, wall, max(0.0, watch.cpu - watch.before), watch.peak / 2**20, told, _said(folder)
    )


def _begins(handle: int) -> bool:
    """Wait until a program within a fence begins;

    False where the fence could not be made.
    """
    ready = select.select([handle], [], [], FENCED_WITHIN)[0]
    return bool(ready and os.read(handle, 1))


def _bounds(limits: Command) -> list[str]:
    # The files in which its talk is kept count as well, but are watched more closely.
    most = int(limits.output_mb * 2**20)
    return ["setpriv", "--pdeathsig", "KILL", "prlimit", f"--fsize={most}", "--core=0", "--"]


def _watched(process: subprocess.Popen[bytes], watch: _Watch, began: float, alive: Alive) -> str:
    """Wait for the end; a sentence where a limit was passed."""
    handle = os.pidfd_open(process.pid)
    try:
        while not _ended(process, watch):
            seconds = time.monotonic() - began
            trouble = watch.look(process.pid, seconds)
            if trouble:
                return trouble
            alive(seconds, told_by(watch.folder / "said.out"))
            # Awake at once when it ends, so that it is timed exactly.
            select.select([handle], [], [], LOOK_EVERY if seconds < 5 else 4 * LOOK_EVERY)
    finally:
        os.close(handle)
    return ""


def _ended(process: subprocess.Popen[bytes], watch: _Watch) -> bool:
    """Whether it has ended; then the system's own count of its processor time, and of
    all that it waited for, is taken.
    """
    pid, status, usage = os.wait4(process.pid, os.WNOHANG)
    if pid == 0:
        return False
    process.returncode = os.waitstatus_to_exitcode(status)
    watch.cpu = max(watch.cpu, usage.ru_utime + usage.ru_stime)
    return True


class _Watch:
    """What a program and all it started use, looked at again and again."""

    def __init__(self, folder: Path, limits: Command) -> None:
        self.folder, self.limits = folder, limits
        self.peak, self.cpu, self.before = 0, 0.0, 0.0

    def starts(self, pid: int) -> None:
        """What shutting a program in took is not the program's."""
        self.before = _used(pid)[1]

    def look(self, pid: int, seconds: float) -> str:
        """Take note of memory and processor time; a sentence once a limit is passed."""
        memory, cpu = _used(pid)
        self.peak, self.cpu = max(self.peak, memory), max(self.cpu, cpu)
        if seconds > self.limits.seconds:
            waited = cpu - self.before < 0.05 * seconds
            why = (
                " It used hardly any processor time: it may be waiting for an answer or a window."
                if waited
                else ""
            )
            return f"It did not end within {self.limits.seconds:g} s and was stopped.{why}"
        if memory > self.limits.memory_mb * 2**20:
            return f"It used more than {self.limits.memory_mb:,g} MB of memory and was stopped."
        if _written(self.folder) > self.limits.output_mb * 2**20:
            return f"It wrote more than {self.limits.output_mb:,g} MB and was stopped."
        if any((self.folder / name).stat().st_size > MOST_SAID for name in SAID):
            return f"It said more than {MOST_SAID >> 20} MB and was stopped."
        return ""


def _used(pid: int) -> tuple[int, float]:
    """Memory in bytes and processor time in seconds of a process and its children,
    those that ended included.
    """
    memory, cpu = 0, 0.0
    with contextlib.suppress(psutil.Error):
        top = psutil.Process(pid)
        for process in (top, *top.children(recursive=True)):
            with contextlib.suppress(psutil.Error):
                times = process.cpu_times()
                memory += process.memory_info().rss
                cpu += times.user + times.system + times.children_user + times.children_system
    return memory, cpu


def _written(folder: Path) -> int:
    total = 0
    for path in folder.rglob("*"):
        with contextlib.suppress(OSError):
            total += 0 if path.name in SAID else path.lstat().st_size
    return total


def _end(process: subprocess.Popen[bytes], mark: str) -> None:
    """End the program's session, then whatever has left it."""
    with contextlib.suppress(ProcessLookupError, PermissionError):
        os.killpg(process.pid, signal.SIGKILL)
    process.wait()
    end_marked(mark)


def end_marked(mark: str) -> None:
    """End every process that carries a run's mark: what a killed worker left behind, or
    what hid from its session.

    Parameters
    ----------
    mark : str
        The value of the environment variable that marks the run.
    """
    wanted = f"{MARK}={mark}".encode()
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit() and int(entry.name) != os.getpid():
            with contextlib.suppress(OSError):
                if wanted in (entry / "environ").read_bytes().split(b"\0"):
                    os.kill(int(entry.name), signal.SIGKILL)


SIGNALS = {
    signal.SIGSEGV: "it reached for memory that is not its own (a crash)",
    signal.SIGABRT: "it gave up by itself (a crash)",
    signal.SIGKILL: "the system stopped it, most likely for want of memory",
    signal.SIGXFSZ: "it wrote a larger file than it may",
    signal.SIGILL: "it was built for another processor",
    signal.SIGFPE: "it made an impossible calculation (a crash)",
    signal.SIGBUS: "it reached for memory that is not there (a crash)",
}
CODES = {
    126: "it is not a program that can be run here",
    127: "it, or something it needs, was not found",
}


def explained(code: int, last_words: str) -> str:
    """What an exit code means, as a sentence; empty for 0.

    Parameters
    ----------
    code : int
        The exit code; below 0 for a signal.
    last_words : str
        What it said at the end.
    """
    if code == 0:
        return ""
    said = f" Its last words: {last_words}" if last_words else " It said nothing."
    number = -code if code < 0 else code - 128
    if number in {int(s) for s in SIGNALS}:
        return f"It was ended by signal {number}: {SIGNALS[signal.Signals(number)]}.{said}"
    return f"It ended with exit code {code}{': ' + CODES[code] if code in CODES else ''}.{said}"


def _said(folder: Path) -> str:
    ways = (("standard output", "said.out"), ("standard error", "said.err"))
    parts = [(title, ends_of(folder / name, 40)) for title, name in ways]
    return "\n".join(f"{title}:\n{text}" for title, text in parts if text)
