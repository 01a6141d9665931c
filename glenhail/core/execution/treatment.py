"""Running a treatment on a file: every step a program of its own, from file to file,
timed and within limits.

Built-in methods are run like outside tools, so that their times and memory can stand
beside those: between two steps lies a 16-bit TIFF (or what a tool writes).
"""

from __future__ import annotations

import json
import sys
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass
from pathlib import Path

from glenhail.core.errors import BadFile, BadRequest, CoreError
from glenhail.core.execution.command import Command, find_program
from glenhail.core.execution.fence import Fence
from glenhail.core.execution.program import RunResult, run_program
from glenhail.core.execution.stdout import StdoutReport
from glenhail.core.files.apart import read_facts
from glenhail.core.picture import Facts
from glenhail.core.treatments.step import Step, Treatment

ROOT = Path(__file__).resolve().parents[3]
METHOD_LIMITS = Command("python", (), ".tif", 3600, 6000, 8000)
# How far the shapes of frame and output may differ, as a share: beyond that it is another picture.
SHAPE = 0.05

Tell = Callable[[float, str], None]


class RunFailed(CoreError):
    """A step that did not end well; the text says which one, and why."""

    def __init__(self, words: str, steps: list[StepRun], said: str) -> None:
        super().__init__(words)
        self.steps, self.said = steps, said


@dataclass(frozen=True)
class StepRun:
    """What one step took: seconds, and MB of memory."""

    words: str
    line: str
    load_s: float | None
    process_s: float | None
    export_s: float | None
    wall_s: float
    cpu_s: float
    peak_mb: float


@dataclass(frozen=True)
class Made:
    """A treatment's output, where it lies, and what it took.

    ``remark`` says what is odd about it.
    """

    path: Path
    steps: list[StepRun]
    said: str
    remark: str


@dataclass(frozen=True)
class Workshop:
    """Where programs are found, and what each is shut in by.

    ``fence`` gives, for a step's folder and whether its program may use the network,
    what it is shut in by; None where there is no means for it.
    """

    programs: Path
    fence: Callable[[Path, bool], Fence | None]


def run_treatment(
    treatment: Treatment,
    commands: Sequence[Command | None],
    source: Path,
    folder: Path,
    mark: str,
    workshop: Workshop,
    tell: Tell,
) -> Made:
    """Run all steps.

    Parameters
    ----------
    treatment : Treatment
        What is done.
    commands : sequence of Command or None
        How each step's program is run; None for built-in methods, and for programs that
        nobody told a command of.
    source : Path
        What the first step is handed; each later one is handed what the one before it
        made.
    folder : Path
        An empty one to work in.
    mark : str
        By which the programs are found again after this process died.
    workshop : Workshop
        Where programs are found.
    tell : callable
        Is told how far it is, and in words what goes on.

    Raises
    ------
    RunFailed
        If a step fails, writes nothing, or writes no picture.
    """
    runs: list[StepRun] = []
    said: list[str] = []
    facts = first = read_facts(source)
    path, remark = source, ""
    for i, (step, command) in enumerate(zip(treatment.steps, commands, strict=True)):

        def alive(seconds: float, told: StdoutReport, i: int = i, step: Step = step) -> None:
            share = (i + (told.progress or 0)) / len(treatment.steps)
            tell(share, f"{step.title}, {seconds:.0f} s")

        room = folder / f"step-{i + 1}"
        room.mkdir()
        target = room / f"{source.stem}{(command or METHOD_LIMITS).ending}"
        try:
            ran, line = _one(step, command, path, target, f"{mark}-{i + 1}", workshop, alive)
            runs.append(_took(step, line, ran))
            said.append(f"{step.title}\n{ran.said}".strip())
            path, made = _written(ran, target, room)
        except BadRequest as error:
            raise RunFailed(f"{step.title}: {error}", runs, "\n\n".join(said)) from error
        remark = remark or _odd(step, facts, made)
        facts = made
    if abs(facts.width / facts.height / (first.width / first.height) - 1) > SHAPE:
        words = (
            f"The output is {facts.width} × {facts.height} px and the frame {first.width} ×"
            f" {first.height}: not the same picture."
        )
        raise RunFailed(words, runs, "\n\n".join(said))
    return Made(path, runs, "\n\n".join(said), remark)


def _took(step: Step, line: str, ran: RunResult) -> StepRun:
    t = ran.told
    return StepRun(
        step.words, line, t.load_s, t.process_s, t.export_s, ran.wall_s, ran.cpu_s, ran.peak_mb
    )


def _one(
    step: Step,
    command: Command | None,
    source: Path,
    target: Path,
    mark: str,
    workshop: Workshop,
    alive: Callable[[float, StdoutReport], None],
) -> tuple[RunResult, str]:
    """Run one step; the command line is kept as words."""
    line, limits = _line(step, command, source, target, workshop)
    room = target.parent
    fence = workshop.fence(room.parent, limits.network)
    ran = run_program(line, room, limits, mark, alive, fence)
    return ran, " ".join(Path(word).name if word.startswith("/") else word for word in line)


def _line(
    step: Step, command: Command | None, source: Path, target: Path, workshop: Workshop
) -> tuple[list[str], Command]:
    if step.method:
        return _method_line(step, source, target), METHOD_LIMITS
    if command is None:
        raise BadRequest(
            "it has no command to run it by. Bring its outputs in, or set a command at the tool's"
            " page."
        )
    program = find_program(workshop.programs, command.program)
    return command.line(program, step, source, target), command


def _method_line(step: Step, source: Path, target: Path) -> list[str]:
    values = {s.name: s.value for s in step.settings if not s.automatic}
    line = [
        "/usr/bin/env",
        f"PYTHONPATH={ROOT}",
        sys.executable,
        "-m",
        "glenhail.core",
        "treat",
        str(source),
        str(target),
        "--method",
        step.method,
    ]
    line += [
        "--values",
        json.dumps(values),
        "--strength",
        str(100 if step.strength is None else step.strength),
    ]
    if step.part is not None:
        line += ["--part", ",".join(str(n) for n in asdict(step.part).values())]
    return line


def _written(ran: RunResult, target: Path, room: Path) -> tuple[Path, Facts]:
    """Where the step's output is, and its facts.

    Raises
    ------
    BadRequest
        If the step failed, or there is no picture.
    """
    if ran.trouble:
        raise BadRequest(ran.trouble)
    if not target.exists():
        others = sorted(p.name for p in room.iterdir() if p.name not in ("said.out", "said.err"))
        instead = (
            f" It wrote {', '.join(others[:3])} instead; see to the command's {{output}} and"
            " ending."
            if others
            else ""
        )
        raise BadRequest(f"It ended well, but wrote nothing to {target.name}.{instead}")
    try:
        return target, read_facts(target)
    except BadFile as error:
        raise BadRequest(f"What it wrote can not be taken in. {error}") from error


def _odd(step: Step, before: Facts, after: Facts) -> str:
    """What is odd about the size: a step that names a scale and gives another."""
    if step.times is None:
        return ""
    size = round(before.width * step.times), round(before.height * step.times)
    if abs(after.width - size[0]) <= 2 and abs(after.height - size[1]) <= 2:
        return ""
    return (
        f"{step.title} wrote {after.width} × {after.height} px where {step.times:g} times its input"
        f" is {size[0]} × {size[1]}."
    )
