"""Which frame a file shows: by what its name and folders say, and by what it looks
like.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import PurePosixPath

import numpy as np

from glenhail.core.naming.thumb import Thumb, likeness
from glenhail.core.naming.words import (
    NOISE,
    PREVIEW,
    best,
    compact,
    path_pieces,
    pieces,
    stands_for,
)

LOOKS_ALIKE, LOOKS_OTHER = 0.9, 0.6


@dataclass(frozen=True)
class FrameSeen:
    """A frame that files may be of: its names, its size in px, its thumb."""

    id: int
    names: tuple[str, ...]
    width: int
    height: int
    thumb: Thumb | None = None


@dataclass(frozen=True)
class FileSeen:
    """A file: its path within the folder; its size in px and its thumb once it was
    decoded.
    """

    path: str
    width: int = 0
    height: int = 0
    thumb: Thumb | None = None


@dataclass
class NameWork:
    """A file on its way to a proposal."""

    file: FileSeen
    pieces: list[str]
    preview: bool
    frame: FrameSeen | None = None
    frame_confidence: float = 0.0
    rest: tuple[str, ...] = ()
    common: tuple[str, ...] = ()
    key: str = ""
    why: list[str] = field(default_factory=list)


def taken_apart(file: FileSeen) -> NameWork:
    """A file's path as words, those that mark previews apart.

    Parameters
    ----------
    file : FileSeen
        What is seen of the file.
    """
    found = path_pieces(file.path)
    return NameWork(file, [p for p in found if p not in PREVIEW], any(p in PREVIEW for p in found))


def drop_common(works: list[NameWork]) -> None:
    """Leave out what every name of a larger folder has: it tells nothing apart.

    Parameters
    ----------
    works : list of NameWork
        The folder's files; changed in place.
    """
    if len(works) < 3:
        return
    common = set.intersection(*(set(w.pieces) for w in works))
    for work in works:
        kept = [p for p in work.pieces if p not in common]
        if kept:
            work.pieces, work.common = kept, tuple(p for p in work.pieces if p in common)


def take_back_common(works: list[NameWork]) -> None:
    """Where nothing but the frame tells the names apart, all are of one contender, and
    what they share says which.

    Parameters
    ----------
    works : list of NameWork
        The folder's files; changed in place.
    """
    if len({w.rest for w in works}) == 1:
        for work in works:
            work.rest = (*work.common, *work.rest)


def find_frames(works: list[NameWork], frames: Sequence[FrameSeen]) -> None:
    """Which frame each file was made from, by its name and by its picture.

    Parameters
    ----------
    works : list of NameWork
        The folder's files; changed in place.
    frames : sequence of FrameSeen
        The study's frames.
    """
    weights = rarity([set().union(*(pieces(n) for n in f.names)) for f in frames])
    for work in works:
        named = [_named(work, f, weights) for f in frames]
        seen = [_seen(work, f) for f in frames]
        both = [n + (s if s is not None else 0.0) for n, s in zip(named, seen, strict=True)]
        order = sorted(range(len(frames)), key=lambda i: -both[i])
        if order:
            _settle_frame(work, frames, named, seen, order)
        work.rest = _without_frame(work)


def rarity(bags: Sequence[set[str]]) -> dict[str, float]:
    """How much each word tells apart: one that all have tells nothing.

    Parameters
    ----------
    bags : sequence of set of str
        Each name's words.
    """
    counts = Counter(word for bag in bags for word in bag)
    return {word: math.log((len(bags) + 0.5) / count) + 0.05 for word, count in counts.items()}


def _named(work: NameWork, frame: FrameSeen, weights: Mapping[str, float]) -> float:
    """How well a path names a frame, 0..1."""
    return max((_names(work, name, weights) for name in frame.names), default=0.0)


def _names(work: NameWork, name: str, weights: Mapping[str, float]) -> float:
    whole = compact(name)
    if len(whole) >= 3 and whole in "".join(work.pieces):
        return 1.0
    words = [w for w in pieces(name) if len(w) > 1 or w.isdigit()]
    total = sum(weights.get(w, 1.0) for w in words)
    if total <= 0:
        return 0.0
    return 0.9 * sum(weights.get(w, 1.0) * best(work.pieces, w) for w in words) / total


def _seen(work: NameWork, frame: FrameSeen) -> float | None:
    """How much a file looks like a frame, -1..1; None where that is not known yet."""
    if work.file.thumb is None or frame.thumb is None:
        return None
    alike = likeness(work.file.thumb, frame.thumb)
    return float(np.clip((alike - LOOKS_OTHER) / (LOOKS_ALIKE - LOOKS_OTHER), 0, 1)) * 2 - 1


def _settle_frame(
    work: NameWork,
    frames: Sequence[FrameSeen],
    named: list[float],
    seen: list[float | None],
    order: list[int],
) -> None:
    first = order[0]
    total = [n + (s or 0.0) for n, s in zip(named, seen, strict=True)]
    margin = total[first] - total[order[1]] if len(order) > 1 else 1.0
    look = seen[first]
    if named[first] < 0.25 and (look is None or look < 0):
        return
    work.frame = frames[first]
    sure = 0.97 if margin > 0.5 else 0.5 + 0.9 * max(0.0, margin)
    other = max(range(len(frames)), key=lambda i: named[i])
    if look is not None and named[other] > max(named[first], 0.5):
        sure = min(sure, 0.35)
        work.why.append(f"looks like this frame, but is named like “{frames[other].names[0]}”")
    elif look is not None and look < 0:
        sure = min(sure, 0.35)
        work.why.append("named like the frame, but does not look like it")
    elif named[first] >= 0.9:
        work.why.append("the frame's name" + (" and content" if look is not None else ""))
    elif named[first] >= 0.25:
        work.why.append("part of the frame's name" + (" and content" if look is not None else ""))
    else:
        work.why.append("content alone")
        sure = min(sure, 0.9)
    work.frame_confidence = round(min(0.99, sure), 3)


def _without_frame(work: NameWork) -> tuple[str, ...]:
    """What a name says besides its frame."""
    if work.frame is None:
        return tuple(p for p in work.pieces if p not in NOISE)
    left = list(work.pieces)
    for name in sorted(work.frame.names, key=len, reverse=True):
        cut = _cut_run(left, compact(name))
        if cut is not None:
            left = cut
            break
    words = {w for n in work.frame.names for w in pieces(n)}
    return tuple(
        p
        for p in left
        if p not in NOISE and not any(len(w) > 1 and stands_for(p, w) >= 0.8 for w in words)
    )


def _cut_run(left: list[str], whole: str) -> list[str] | None:
    """The pieces without the run of them that spells a name; None where none does."""
    for i in range(len(left)):
        spelt = ""
        for j in range(i, len(left)):
            spelt += left[j]
            if spelt == whole:
                return left[:i] + left[j + 1 :]
            if not whole.startswith(spelt):
                break
    return None


def set_keys(works: list[NameWork]) -> None:
    """By which a name is known another time: what it says besides the frame, without
    the folders that hold all files.

    Parameters
    ----------
    works : list of NameWork
        The folder's files; changed in place.
    """
    folders = [
        set(path_pieces(str(PurePosixPath(w.file.path.replace("\\", "/")).parent) + "/_"))
        for w in works
    ]
    shared = set.intersection(*folders) if folders else set()
    for work in works:
        work.key = " ".join(p for p in work.rest if p not in shared) or " ".join(work.rest)
