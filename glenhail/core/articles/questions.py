"""What readers would ask of a report, found before it is published."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date

PRICE_HOLDS = 90  # days; common practice, no source
# Letters that stand for themselves in English as well.
WORDS = ("A", "I")


@dataclass(frozen=True)
class Draft:
    """What is known of a report that is about to be published.

    ``verdicts`` are uses with their texts, ``letters`` the contenders with an output,
    ``prices`` tools with the day on which the oldest of their prices was checked,
    ``unlicensed`` what has no licence, source or credit: frames, and outputs with terms
    of their own that are told in part; ``otherwise`` is what texts say otherwise than
    their numbers; ``open_comments`` are editors' that nobody settled;
    ``against_evidence`` are uses with what their verdicts' evidence says otherwise;
    ``old_series`` is whether bodies were compared before something changed,
    ``old_answers`` titles of questions of the whole study that were answered before.
    """

    today: date
    open_findings: int
    summary: str
    method: str
    disclosure: str
    verdicts: tuple[tuple[str, str], ...]
    letters: frozenset[str]
    prices: tuple[tuple[str, date], ...]
    unlicensed: tuple[str, ...] = ()
    otherwise: tuple[str, ...] = ()
    open_comments: int = 0
    against_evidence: tuple[tuple[str, str], ...] = ()
    old_series: bool = False
    old_answers: tuple[str, ...] = ()


@dataclass(frozen=True)
class Question:
    """One thing that a reader would ask; ``page`` is where it is answered."""

    id: str
    text: str
    page: str


def questions(draft: Draft) -> list[Question]:
    """All that a reader would ask, what may decide the result first.

    Parameters
    ----------
    draft : Draft
        What is known of the report.
    """
    return [
        *_fairness(draft),
        *_verdicts(draft),
        *_texts(draft),
        *(Question("otherwise", text, "publish") for text in draft.otherwise),
        *_series(draft),
        *_comments(draft),
        *_licences(draft),
        *_prices(draft),
    ]


def _fairness(draft: Draft) -> Iterator[Question]:
    n = draft.open_findings
    if n:
        what = "1 finding is" if n == 1 else f"{n} findings are"
        text = f"{what} open: readers can not tell whether outputs are like for like."
        yield Question("findings", text, "audit")


def _series(draft: Draft) -> Iterator[Question]:
    if draft.old_series:
        text = "The bodies were compared before something changed: the edition would leave it out."
        yield Question("series", text, "series")
    for title in draft.old_answers:
        text = f"“{title}” was answered before something changed: the edition would leave it out."
        yield Question("answers", text, "questions")


def _verdicts(draft: Draft) -> Iterator[Question]:
    if not draft.verdicts:
        yield Question("verdicts", "There is no verdict for any use.", "judge")
    for use, text in draft.verdicts:
        named = [w for w in re.findall(r"\b[A-Z]\b", text) if w not in WORDS]
        unknown = sorted({letter for letter in named if letter not in draft.letters})
        if unknown:
            which = " and ".join(unknown)
            told = f"The verdict for “{use}” names {which}, of which there is no output here."
            yield Question("evidence", told, "judge")
    for use, text in draft.against_evidence:
        yield Question("evidence", f"The verdict for “{use}”: {text}", "judge")


def _texts(draft: Draft) -> Iterator[Question]:
    for name, text, missing in (
        ("summary", draft.summary, "There is no summary."),
        ("method", draft.method, "There is no method: how was it done, and what was held still?"),
        ("disclosure", draft.disclosure, "There is no disclosure: who paid for what?"),
    ):
        if not text.strip():
            yield Question(name, missing, "publish")


def _comments(draft: Draft) -> Iterator[Question]:
    n = draft.open_comments
    if n:
        what = "1 comment of an editor is" if n == 1 else f"{n} comments of editors are"
        yield Question("comments", f"{what} not settled.", "publish")


def _licences(draft: Draft) -> Iterator[Question]:
    names = draft.unlicensed
    if names:
        which = names[0] if len(names) == 1 else f"{names[0]} and {len(names) - 1} more"
        told = (
            f"Licence, source or credit of {which} are not told: readers get none of their files,"
            " and can check no reading of them."
        )
        yield Question("licences", told, "set-up")


def _prices(draft: Draft) -> Iterator[Question]:
    for tool, checked in draft.prices:
        age = (draft.today - checked).days
        if age > PRICE_HOLDS:
            told = f"The price of {tool} was checked {age} days ago, on {checked.isoformat()}."
            yield Question("price", told, "tools")
