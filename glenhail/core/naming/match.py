"""Proposals for a whole folder at once: which frame each file is of, and which
contender made it.

A name may say it, in the reviewer's own way; what is left of the name once the frame's
words are taken out is the same for all files of one contender, so that what one of them
tells serves them all. Size and content say the rest. Every cell gets one file of a kind
at most.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from scipy.optimize import linear_sum_assignment

from glenhail.core.naming.frames import (
    FileSeen,
    FrameSeen,
    NameWork,
    drop_common,
    find_frames,
    rarity,
    set_keys,
    take_back_common,
    taken_apart,
)
from glenhail.core.naming.words import best, compact, pieces, stands_for
from glenhail.core.treatments.step import Treatment

SAME_SIZE = 0.03
KNOWN, SIZE, FROM_GROUP = 50.0, 0.6, 0.05
# A contender whose own file fits it better by this much is out of the question for another file of
# the same frame.
CLEARLY = 0.1


@dataclass(frozen=True)
class ContenderSeen:
    """A contender that files may be from."""

    id: int
    letter: str
    treatment: Treatment


@dataclass(frozen=True)
class Proposal:
    """What a file is taken for. Confidences are 0..1;

    ``rest`` is what its name says besides the frame; ``why`` in words.
    """

    frame: int | None
    frame_confidence: float
    contender: int | None
    contender_confidence: float
    preview: bool
    rest: str
    why: list[str] = field(default_factory=list)

    @property
    def confidence(self) -> float:
        """Of both together."""
        return min(self.frame_confidence, self.contender_confidence)


def propose(
    files: Sequence[FileSeen],
    frames: Sequence[FrameSeen],
    contenders: Sequence[ContenderSeen],
    known: Mapping[str, int] | None = None,
) -> list[Proposal]:
    """A proposal for each file, in their order.

    Parameters
    ----------
    files : sequence of FileSeen
        The folder's files.
    frames : sequence of FrameSeen
        The study's frames.
    contenders : sequence of ContenderSeen
        Those that outputs are brought in for.
    known : mapping of str to int, optional
        What a name says besides the frame (`Proposal.rest`), to the contender that it
        stood for in an earlier folder.
    """
    works = [taken_apart(f) for f in files]
    drop_common(works)
    find_frames(works, frames)
    take_back_common(works)
    set_keys(works)
    scores = _scores(works, contenders, known or {})
    chosen = _assigned(works, scores)
    holders = {
        (_cell_of(w), c): scores[i][c]
        for i, (w, c) in enumerate(zip(works, chosen, strict=True))
        if c is not None
    }
    return [
        _proposal(
            w,
            scores[i],
            chosen[i],
            contenders,
            {c: s for (cell, c), s in holders.items() if cell == _cell_of(w)},
        )
        for i, w in enumerate(works)
    ]


def _words_of(contender: ContenderSeen) -> dict[str, float]:
    """The words that a name may hint at a contender with, and how much each weighs."""
    words: dict[str, float] = {}
    for step in contender.treatment.steps:
        for text, weight in ((step.tool, 1.0), (step.method, 0.6), (step.mode, 0.8)):
            words |= {w: weight for w in pieces(text) if len(w) > 1}
        words |= {compact(step.release): 0.8} if step.release else {}
        words |= dict.fromkeys(pieces(step.release), 0.5)
        if step.strength is not None:
            words[f"{step.strength:g}"] = 0.7
        for setting in step.settings:
            if isinstance(setting.value, int | float) and not isinstance(setting.value, bool):
                words.setdefault(f"{setting.value:g}", 0.5)
            elif isinstance(setting.value, str):
                words |= {w: 0.5 for w in pieces(setting.value) if len(w) > 1}
        if step.limit or step.part:
            words.setdefault("part", 0.4)
    return words


def _scores(
    works: list[NameWork], contenders: Sequence[ContenderSeen], known: Mapping[str, int]
) -> list[list[float]]:
    """How well each file's name and size fit each contender."""
    bags = [_words_of(c) for c in contenders]
    rare = rarity([set(b) for b in bags])
    groups: dict[tuple[str, ...], list[float]] = {}
    for rest, key in {w.rest: w.key for w in works}.items():
        groups[rest] = [
            KNOWN if known.get(key) == c.id else _fits(rest, c, bag, rare)
            for c, bag in zip(contenders, bags, strict=True)
        ]
    likely = _one_to_one(groups, len(contenders))
    return [
        [
            groups[w.rest][i] + _size_fits(w, c) + (FROM_GROUP if likely.get(w.rest) == i else 0)
            for i, c in enumerate(contenders)
        ]
        for w in works
    ]


def _fits(
    rest: tuple[str, ...],
    contender: ContenderSeen,
    bag: Mapping[str, float],
    rare: Mapping[str, float],
) -> float:
    if rest == (contender.letter.lower(),):
        return 1.5
    total = 0.0
    for piece in rest:
        hints = [stands_for(piece, w) * weight * rare[w] for w, weight in bag.items()]
        # "sw3": initials of a tool and a release run together are taken apart already; "3" may
        # begin "3.0".
        hints += [
            0.3 * rare[w]
            for w in bag
            if piece.isdigit() and w.isdigit() and w.startswith(piece) and w != piece
        ]
        total += max(hints, default=0.0)
    return total + _order_fits(rest, contender)


def _order_fits(rest: tuple[str, ...], contender: ContenderSeen) -> float:
    """A name that gives several tools in the order of the treatment's steps."""
    places = [
        next((i for i, p in enumerate(rest) if best([p], w) >= 0.4), None)
        for w in _first_words(contender.treatment)
    ]
    told = [p for p in places if p is not None]
    if len(contender.treatment.steps) < 2 or len(told) < len(places):
        return 0.0
    return 0.4 if told == sorted(told) else -0.4


def _first_words(treatment: Treatment) -> list[str]:
    return [next(iter(pieces(s.tool)), "") for s in treatment.steps]


def _size_fits(work: NameWork, contender: ContenderSeen) -> float:
    """Whether the file's size is what the contender's enlargement gives; nothing where
    the size is not known.
    """
    if work.frame is None or not work.file.width or work.preview:
        return 0.0
    wanted = math.prod(s.times or 1.0 for s in contender.treatment.steps)
    got = math.sqrt(work.file.width * work.file.height / (work.frame.width * work.frame.height))
    return SIZE * 0.2 if abs(got / wanted - 1) < SAME_SIZE else -SIZE


def _one_to_one(
    groups: Mapping[tuple[str, ...], list[float]], count: int
) -> dict[tuple[str, ...], int]:
    """Each way of naming as one contender: what no word decides is decided by what is
    left over, and alike for all frames.
    """
    keys = sorted(groups)
    if not keys or not count:
        return {}
    rows, columns = linear_sum_assignment(-np.array([groups[k] for k in keys]))
    return {keys[r]: int(c) for r, c in zip(rows, columns, strict=True)}


def _cell_of(work: NameWork) -> tuple[int | None, bool]:
    return (work.frame.id if work.frame else None, work.preview)


def _assigned(works: list[NameWork], scores: list[list[float]]) -> list[int | None]:
    """Within a frame every contender gets one file at most (and one preview)."""
    chosen: list[int | None] = [None] * len(works)
    cells: dict[tuple[int | None, bool], list[int]] = defaultdict(list)
    for i, work in enumerate(works):
        cells[_cell_of(work)].append(i)
    for (frame, _), members in cells.items():
        if frame is None or not scores or not scores[0]:
            continue
        rows, columns = linear_sum_assignment(-np.array([scores[i] for i in members]))
        for r, c in zip(rows, columns, strict=True):
            chosen[members[r]] = int(c)
    return chosen


def _proposal(
    work: NameWork,
    scores: list[float],
    chosen: int | None,
    contenders: Sequence[ContenderSeen],
    holders: Mapping[int, float],
) -> Proposal:
    frame = work.frame.id if work.frame else None
    rest = work.key
    if chosen is None:
        why = work.why or ["nothing in its name or content says what it is"]
        if work.frame and contenders:
            why = [*why, "there are more files of this frame than contenders"]
        return Proposal(frame, work.frame_confidence, None, 0.0, work.preview, rest, why)
    others = [
        s
        for i, s in enumerate(scores)
        if i != chosen and not (i in holders and holders[i] > s + CLEARLY)
    ]
    margin = scores[chosen] - max(others, default=-1.0)
    by_itself = scores[chosen] - max((s for i, s in enumerate(scores) if i != chosen), default=-1.0)
    told = scores[chosen] - FROM_GROUP
    if told > KNOWN / 2:
        sure, words = 0.99, "named as in a folder before"
    elif told > 0.2 and margin > 0.05:
        # What only the other files' places make clear is likely, never sure.
        sure, words = min(0.97 if by_itself > 0.05 else 0.75, 0.6 + margin), f"“{rest}”"
    elif told > 0.2 and margin >= 0:
        sure, words = 0.45, f"“{rest}” fits several contenders"
    else:
        sure, words = 0.3, "what is left over"
    return Proposal(
        frame,
        work.frame_confidence,
        contenders[chosen].id,
        round(sure, 3),
        work.preview,
        rest,
        [*work.why, words],
    )
