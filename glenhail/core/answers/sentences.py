"""What a contender does, in plain sentences made from the readings by rules; each leads
back to the readings behind it.

No overall score: each sentence says one thing, and where it holds.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass
from statistics import median

from glenhail.core.answers.board import Board, Cell
from glenhail.core.answers.comparison import Answer

GOOD, BAD, PLAIN = "good", "bad", "plain"
SAME_GAIN = 0.03  # up to which two gains count as one
WHOLE = 97.0  # % of the texture from which on a frame holds all of it
MINUS = re.compile(r"-(?=\d)")
NAMED = 2  # places that are named, the rest counted
COARSE_AREA = (
    math.pi / 256
)  # of frequencies that count as coarse, cycles per frame px: a disc of 1/16
MOST_LEFT = 0.6  # of the frame's fine colour noise that a tool leaves whose blotches are told
LEAST_BLOTCH = (
    0.5  # CIELAB units of coarse colour noise from which on it is seen; common practice, no source
)


@dataclass(frozen=True)
class Sentence:
    """One finding: whose, what, whether it speaks for or against (or neither), and the
    readings behind it; ``short`` says it without numbers and places.
    """

    letter: str
    text: str
    tone: str
    measure: str
    readings: tuple[int, ...]
    short: str = ""


@dataclass(frozen=True)
class Headline:
    """A measure every contender is described by, beside the others."""

    measure: str
    words: str
    told: Callable[[float, float | None], str]
    needs_frame: bool = False
    most: float | None = None  # beyond it more is no merit any more
    unless: str = ""  # a measure that says it better where there is one
    # a measure without which it says nothing of a contender: faithfulness is read of enlargements
    # alone
    only_with: str = ""


def _of_frame(value: float, frame: float | None) -> str:
    return f"{100 * value / frame:.0f} %" if frame else f"{value:.2f}"


def _decibels(value: float, _: float | None) -> str:
    return f"{value:.1f} dB"


def _per_cent(value: float, _: float | None) -> str:
    # Rounded first: there is no less than nothing of nothing.
    return f"{round(value) + 0:d} %".replace("-", "−")


HEADLINES = (
    Headline(
        "noise_luma", "leaves {own} of the frame's brightness noise in plain parts", _of_frame, True
    ),
    Headline(
        "noise_chroma", "leaves {own} of the frame's colour noise in plain parts", _of_frame, True
    ),
    Headline("detail_kept", "keeps {own} of the truth's texture", _per_cent, most=104),
    Headline(
        "detail_restored",
        "wins back {own} of the finer texture that the frame has lost",
        _per_cent,
        most=104,
        only_with="back_projection",
    ),
    Headline(
        "detail_invented",
        "of texture as fine it makes up {own} of the power that the truth has",
        _per_cent,
        only_with="back_projection",
    ),
    Headline(
        "detail_frame",
        "keeps {own} of the frame's own texture",
        _per_cent,
        most=108,
        unless="detail_kept",
    ),
    Headline("mtf50", "edges reach {own} of the frame's MTF50", _of_frame, True),
    Headline("back_projection", "averaged back, it agrees with the frame to {own}", _decibels),
    Headline("lights_kept", "still shows {own} of the points of light", _per_cent),
)


@dataclass(frozen=True)
class Fault:
    """What only some contenders do: told where its whole interval lies beyond a limit,
    and beyond what the frame has itself.

    ``above`` and ``below`` are limits; ``margin`` is by how much it must go beyond the
    frame's own reading; ``also`` is what must hold besides at a place.
    """

    measure: str
    words: str
    above: float | None = None
    below: float | None = None
    margin: float | None = None
    tone: str = BAD
    also: Callable[[Board, str, str], bool] | None = None

    @property
    def short(self) -> str:
        """What it says without its numbers."""
        return re.split(r"[,:](?!\S)", BY_HOW_MUCH.sub("", self.words))[0]


BY_HOW_MUCH = re.compile(r"(?: by)? \{[^}]*\}(?: (?:EV|px|%|CIEDE2000))?")


def _coarse(board: Board, place: str, letter: str) -> float | None:
    """Colour noise below 1/16 cycle a px, CIELAB units: the share that is there of all
    of it.
    """
    share, noise = (board.cells.get((m, place), {}).get(letter) for m in ("blotch", "noise_chroma"))
    if share is None or noise is None:
        return None
    return noise.taken.value * math.sqrt(min(1.0, share.taken.value * COARSE_AREA))


def _blotches_seen(board: Board, place: str, letter: str) -> bool:
    coarse = _coarse(board, place, letter)
    return coarse is not None and coarse > LEAST_BLOTCH and _fine_gone(board, place, letter)


def _fine_gone(board: Board, place: str, letter: str) -> bool:
    """Whether most of the frame's fine colour noise is gone: what an even blend leaves
    of it are no blotches of the tool's.
    """
    own, frame = (_fine(board, place, c) for c in (letter, board.unprocessed or ""))
    return own is None or frame is None or own < MOST_LEFT * frame


def _fine(board: Board, place: str, letter: str) -> float | None:
    """Colour noise above 1/16 cycle a px, CIELAB units."""
    coarse, noise = (
        _coarse(board, place, letter),
        board.cells.get(("noise_chroma", place), {}).get(letter),
    )
    return (
        None
        if coarse is None or noise is None
        else math.sqrt(max(0.0, noise.taken.value**2 - coarse**2))
    )


def _bands_own(measure: str) -> Callable[[Board, str, str], bool]:
    """Whether an output's bands are more than those the frame has under its noise."""

    def size(board: Board, place: str, letter: str) -> float | None:
        ratio, noise = (
            board.cells.get((m, place), {}).get(letter) for m in (measure, "noise_luma")
        )
        return (
            None
            if ratio is None or noise is None
            else noise.taken.value * math.sqrt(max(0.0, ratio.taken.high**2 - 1))
        )

    def check(board: Board, place: str, letter: str) -> bool:
        own, frame = size(board, place, letter), size(board, place, board.unprocessed or "")
        return own is not None and (frame is None or own > 1.5 * frame)

    return check


FAULTS = (
    Fault(
        "blotch",
        "the colour noise it leaves lies in blotches, {v:.1f} times white noise's",
        above=1.5,
        margin=0.5,
        also=_blotches_seen,
    ),
    Fault(
        "unevenness",
        "leaves noise in patches: {v:.1f} times as uneven as even noise",
        above=1.3,
        margin=0.25,
    ),
    Fault(
        "banding_rows",
        "draws bands along rows, {v:.1f} times what noise gives",
        above=1.3,
        margin=0.3,
        also=_bands_own("banding_rows"),
    ),
    Fault(
        "banding_cols",
        "draws bands along columns, {v:.1f} times what noise gives",
        above=1.3,
        margin=0.3,
        also=_bands_own("banding_cols"),
    ),
    Fault(
        "detail_added",
        "adds noise or detail that the truth has not: {v:.0f} % of its power",
        above=5.0,
        margin=5.0,
    ),
    Fault(
        "contrast_change",
        "raises coarse contrast by {up:.0f} %: that much of its crispness is contrast, not detail",
        above=1.02,
        tone=PLAIN,
    ),
    Fault("contrast_change", "lowers coarse contrast by {down:.0f} %", below=0.98, tone=PLAIN),
    Fault("overshoot", "draws bright halos, {v:.0f} % of the step", above=3.0, margin=3.0),
    Fault("undershoot", "draws dark halos, {v:.0f} % of the step", above=3.0, margin=3.0),
    Fault("fringe", "adds colour along edges, {v:.1f} C*", above=1.0),
    Fault("lateral", "moves red or blue beside green by {v:+.2f} px", above=0.2),
    Fault("lateral", "moves red or blue beside green by {v:+.2f} px", below=-0.2),
    Fault("lights_long", "draws lights long, out to {v:.1f} times their shape", above=1.1),
    Fault("colour_shift", "moves colours by {v:.1f} CIEDE2000", above=1.0),
    Fault("exposure", "is {v:.2f} EV brighter than the frame", above=0.05, tone=PLAIN),
    Fault("exposure", "is {down_ev:.2f} EV darker than the frame", below=-0.05, tone=PLAIN),
    Fault(
        "tone",
        "lifts shadows, mids or lights by {v:.0f} of 255 levels beside exposure",
        above=2.0,
        tone=PLAIN,
    ),
    Fault(
        "tone",
        "lowers shadows, mids or lights by {down_ev:.0f} of 255 levels beside exposure",
        below=-2.0,
        tone=PLAIN,
    ),
)


def findings(board: Board, letter: str) -> list[Sentence]:
    """All that the rules say of one contender: how it stands first, then what it does
    besides.

    Parameters
    ----------
    board : Board
        A study's readings by place, measure and contender.
    letter : str
        A contender's letter.
    """
    told = [_headline(board, h, letter) for h in HEADLINES]
    return [sentence for sentence in told if sentence is not None] + faults(board, letter)


def faults(board: Board, letter: str) -> list[Sentence]:
    """What one contender does besides how it stands, by the rules `FAULTS`.

    Parameters
    ----------
    board : Board
        A study's readings by place, measure and contender.
    letter : str
        A contender's letter.
    """
    told = [_fault(board, f, letter) for f in FAULTS]
    return [sentence for sentence in told if sentence is not None]


def _headline(board: Board, rule: Headline, letter: str) -> Sentence | None:
    own = _typical(board, rule, letter)
    if own is None or (rule.unless and board.at(rule.unless, letter)):
        return None
    if rule.only_with and not board.at(rule.only_with, letter):
        return None
    others = [
        v
        for other in board.contenders
        if other != letter and (v := _typical(board, rule, other)) is not None
    ]
    text = rule.words.format(own=own[2])
    if others:
        ordered = sorted(others, key=lambda o: o[0])
        low, high = ordered[0][2], ordered[-1][2]
        text += f"; the others {low}" + ("" if low == high else f" to {high}")
    tone = _standing(board, rule.measure, letter)
    if rule.most is not None and own[0] > rule.most:
        tone, text = PLAIN, f"{text}; {_more_than_all(board, letter, own[0])}"
    elif held := _frame_holds(board, rule):
        text += f" (the frame itself holds {held:.0f} %)"
    return Sentence(letter, text, tone, rule.measure, own[1])


def _more_than_all(board: Board, letter: str, kept: float) -> str:
    """Whether detail beyond the truth's is no more than a gain in contrast, which fine
    and coarse structure share.
    """
    gains = [c.taken.value for c in board.at("contrast_change", letter).values()]
    gain = median(gains) if gains else 1.0
    if gain > 1 + SAME_GAIN and kept <= 100 * gain * (1 + SAME_GAIN):
        return (
            f"that is contrast, raised by {100 * (gain - 1):.0f} % coarse and fine alike, not"
            " detail"
        )
    return "more than all of it is sharpening"


def _frame_holds(board: Board, rule: Headline) -> float | None:
    """What the frame itself has of it, enlarged plainly, where that is less than all:
    no tool can be blamed for the rest.
    """
    if rule.measure != "detail_kept" or board.unprocessed is None:
        return None
    held = [c.taken.value for c in board.at(rule.measure, board.unprocessed).values()]
    return median(held) if held and median(held) < WHOLE else None


def _typical(
    board: Board, rule: Headline, letter: str
) -> tuple[float, tuple[int, ...], str] | None:
    """Median over the places, of the share of the frame's own where the rule asks for
    it; the readings; in words.
    """
    cells = board.at(rule.measure, letter)
    frame = board.at(rule.measure, board.unprocessed) if board.unprocessed else {}
    if rule.needs_frame:
        shares = [
            (c.taken.value / frame[p].taken.value, c)
            for p, c in cells.items()
            if p in frame and frame[p].taken.value > 0
        ]
        if not shares:
            return None
        value = median(s for s, _ in shares)
        return value, tuple(c.id for _, c in shares), rule.told(value, 1.0)
    if not cells:
        return None
    value = median(c.taken.value for c in cells.values())
    return value, tuple(c.id for c in cells.values()), rule.told(value, None)


def _standing(board: Board, measure: str, letter: str) -> str:
    """Good where it beats every other contender at most places, bad where each of them
    beats it.
    """
    tallies = [
        board.against(measure, letter, other) for other in board.contenders if other != letter
    ]
    answers = [t.answer for t in tallies if t is not None]
    if answers and all(a == Answer.BETTER for a in answers):
        return GOOD
    return BAD if answers and all(a == Answer.WORSE for a in answers) else PLAIN


def _fault(board: Board, rule: Fault, letter: str) -> Sentence | None:
    cells = board.at(rule.measure, letter)
    frame = board.at(rule.measure, board.unprocessed) if board.unprocessed else {}
    guilty = {
        p: c
        for p, c in cells.items()
        if _beyond(rule, c, frame.get(p)) and (not rule.also or rule.also(board, p, letter))
    }
    # At half of the places, or it is an accident of one of them.
    if not guilty or 2 * len(guilty) < len(cells):
        return None
    value = median(c.taken.value for c in guilty.values())
    text = MINUS.sub(
        "−",
        rule.words.format(v=value, up=100 * (value - 1), down=100 * (1 - value), down_ev=-value),
    )
    return Sentence(
        letter,
        text + _where(board, list(guilty), len(cells)),
        rule.tone,
        rule.measure,
        tuple(c.id for c in guilty.values()),
        rule.short,
    )


def _beyond(rule: Fault, cell: Cell, frame: Cell | None) -> bool:
    t = cell.taken
    if rule.above is not None and not t.low > rule.above:
        return False
    if rule.below is not None and not t.high < rule.below:
        return False
    return rule.margin is None or frame is None or t.value > frame.taken.value + rule.margin


def _where(board: Board, places: list[str], of: int) -> str:
    named = [board.places[p] for p in places if board.places[p].role]
    if not named:
        return ""
    names = list(dict.fromkeys(p.name for p in named))
    listed = ", ".join(names[:NAMED]) + (
        f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
    )
    return f" ({listed}{f'; {len(places)} of {of} patches' if of > 1 else ''})"
