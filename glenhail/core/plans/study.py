"""Carrying out a plan: frames found, outputs made, readings taken, without a server."""

from __future__ import annotations

import shutil
import tempfile
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from glenhail.core.articles.names import file_parts
from glenhail.core.errors import BadFile, CoreError
from glenhail.core.execution.treatment import RunFailed, Workshop, run_treatment
from glenhail.core.files.apart import read_picture
from glenhail.core.files.encoding import write_tiff
from glenhail.core.files.pixels import pixels_hash
from glenhail.core.lineup.aligned import AlignedPicture, aligned, lined_up
from glenhail.core.lineup.points import PointPair
from glenhail.core.measures.catalogue import NOISE, Patch, measures_for, take
from glenhail.core.measures.reading import Reading
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Mapping, Picture
from glenhail.core.plans.plan import Plan, PlannedContender, PlannedFrame
from glenhail.core.treatments.step import ORIGINAL

TRUTH, UNPROCESSED = "T", "U"
Tell = Callable[[str], None]


@dataclass(frozen=True)
class Found:
    """Where each picture of a plan lies, by the hash of its pixels; and the names of
    those that lie nowhere.
    """

    paths: dict[str, Path]
    missing: tuple[str, ...]


@dataclass(frozen=True)
class Taken:
    """One reading with where it was taken and of which contender; ``patch`` is None for
    the whole frame.
    """

    frame: int
    patch: int | None
    letter: str
    reading: Reading


@dataclass
class Carried:
    """What a plan came to: outputs by frame and letter, why there is none, readings."""

    outputs: dict[tuple[int, str], Path] = field(default_factory=dict)
    absent: dict[tuple[int, str], str] = field(default_factory=dict)
    readings: list[Taken] = field(default_factory=list)


def find_frames(plan: Plan, files: Sequence[Path], tell: Tell) -> Found:
    """Find a plan's pictures among files, whatever these are called.

    Parameters
    ----------
    plan : Plan
        The plan.
    files : sequence of Path
        Each is read; those that are no picture are passed over.
    tell : callable
        Is told in words what goes on.
    """
    wanted: dict[str, str] = {}
    for frame in plan.frames:
        wanted[frame.pixels] = f"{frame.name} ({frame.file or 'no file named'})"
        if frame.truth:
            wanted[frame.truth] = f"the truth of {frame.name} ({frame.truth_file or 'unnamed'})"
        if frame.second:
            wanted[frame.second] = f"the other exposure of {frame.name}"
    names = {n for f in plan.frames for n in (f.file, f.truth_file)}
    paths: dict[str, Path] = {}
    # Those that are called as the plan says are looked at first.
    for path in sorted(files, key=lambda p: (p.name not in names, str(p))):
        if len(paths) == len(wanted):
            break
        tell(f"reading {path.name}")
        try:
            found = pixels_hash(read_picture(path).pixels)
        except (BadFile, OSError):
            continue
        if found in wanted:
            paths.setdefault(found, path)
    return Found(paths, tuple(words for h, words in wanted.items() if h not in paths))


def carry_out(plan: Plan, found: Found, out: Path, workshop: Workshop, tell: Tell) -> Carried:
    """Make every output of a plan and take every reading, frame by frame.

    Parameters
    ----------
    plan : Plan
        The plan.
    found : Found
        Its pictures; a frame that is missing is left out.
    out : Path
        A folder that gains ``outputs/FRAME/LETTER_FILE``.
    workshop : Workshop
        Where the programs are.
    tell : callable
        Is told in words what goes on.
    """
    carried = Carried()
    folders = file_parts([f.name for f in plan.frames])
    for at, (frame, folder) in enumerate(zip(plan.frames, folders, strict=True)):
        if frame.pixels not in found.paths:
            continue
        for contender in plan.contenders:
            tell(f"{contender.letter}, {contender.treatment.title}, on {frame.name}")
            home = out / "outputs" / folder
            try:
                path = _made(contender, found.paths[frame.pixels], home, workshop)
            except (RunFailed, BadFile) as error:
                carried.absent[at, contender.letter] = str(error)
            else:
                carried.outputs[at, contender.letter] = path
        carried.readings += _readings(at, frame, plan, found, carried, tell)
    return carried


def _made(contender: PlannedContender, source: Path, home: Path, workshop: Workshop) -> Path:
    """One output, put where it stays; the source is handed over as a copy, or in the
    neutral rendering.
    """
    home.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(prefix="glenhail-study-") as room:
        folder = Path(room)
        if contender.treatment.feed == ORIGINAL:
            handed = folder / source.name
            shutil.copyfile(source, handed)
        else:
            handed = folder / f"{source.stem}.tif"
            picture = read_picture(source)
            write_tiff(handed, picture.pixels, picture.facts)
        made = run_treatment(
            contender.treatment,
            contender.commands,
            handed,
            folder,
            f"study-{contender.letter}",
            workshop,
            lambda share, words: None,
        )
        to = home / f"{contender.letter}_{made.path.name}"
        shutil.copyfile(made.path, to)
    return to


def _readings(
    at: int, frame: PlannedFrame, plan: Plan, found: Found, carried: Carried, tell: Tell
) -> Iterator[Taken]:
    source = read_picture(found.paths[frame.pixels])
    patches = [Patch(p.name, p.role, p.rect) for p in frame.patches]
    plain = [p.rect for p in patches if p.role in NOISE]
    known_good = _picture(found, frame.truth)
    truth = _laid(source, known_good, frame.points.get(TRUTH, ()))
    # Some measures know a frame that is held against itself: it is one picture, read once.
    read = {UNPROCESSED: source, TRUTH: known_good}
    second = _picture(found, frame.second)
    shown = [(UNPROCESSED, found.paths[frame.pixels])]
    if frame.truth in found.paths:
        shown.insert(0, (TRUTH, found.paths[frame.truth]))
    shown += [
        (c.letter, path)
        for c in plan.contenders
        if (path := carried.outputs.get((at, c.letter))) is not None
    ]
    for letter, path in shown:
        tell(f"measuring {letter} of {frame.name}")
        try:
            shown_here = read.get(letter) or read_picture(path)
            laid = _laid(source, shown_here, frame.points.get(letter, ()))
        except CoreError as error:
            carried.absent[at, letter] = str(error)
            continue
        assert laid is not None
        subject = Subject(source, laid, truth, plain=plain)
        if second is not None:
            subject.second = AlignedPicture(second, Mapping(), second.bounds)
        for number, patch in [*enumerate(patches), (None, None)]:
            for measure in measures_for(patch):
                yield Taken(at, number, letter, take(subject, measure, patch))


def _picture(found: Found, pixels: str) -> Picture | None:
    return read_picture(found.paths[pixels]) if pixels in found.paths else None


def _laid(
    source: Picture, shown: Picture | None, points: Sequence[PointPair]
) -> AlignedPicture | None:
    return None if shown is None else aligned(shown, lined_up(source, shown, points))
