"""Verdicts by use and kind of scene: what readings and calls say of each contender
against a reference, in a sentence, and whether a reviewer's verdict goes against it.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from glenhail.core.answers.board import Board, Column
from glenhail.core.answers.comparison import Answer
from glenhail.core.answers.paragraphs import ABOUT, told_by
from glenhail.core.judging.agreement import share_of
from glenhail.core.judging.calls import Call
from glenhail.core.measures.catalogue import MEASURES
from glenhail.core.seeing.matrix import SeenAt, matrix
from glenhail.core.seeing.visible import Seen
from glenhail.core.uses.table import Use
from glenhail.core.words import listed


class Judged(StrEnum):
    """How a contender stands against the reference."""

    BETTER = "better"
    WORSE = "worse"
    SAME = "no difference"


OPPOSITE = {Judged.BETTER: Judged.WORSE, Judged.WORSE: Judged.BETTER}


class Source(StrEnum):
    """Where evidence comes from: measured, told by a model of seeing, chosen by judges
    without names, or called by somebody who saw the names.
    """

    READINGS = "readings"
    SEEN = "seen"
    BLIND = "blind"
    NAMED = "named"


@dataclass(frozen=True)
class Evidence:
    """What speaks of one contender against the reference.

    ``says`` is None where it carries no answer; ``about`` is what it is about, ``text``
    tells it whole; ``role``, ``measure`` and ``readings`` are what it was read from,
    ``sitting`` the number of the sitting, ``use`` the id of what was looked at as in
    use. ``leads`` is whether judges choose it over
    the others that they were shown, where the reference was not among these.
    """

    letter: str
    source: Source
    says: Judged | None
    about: str
    text: str
    measure: str = ""
    readings: tuple[int, ...] = ()
    sitting: int | None = None
    role: str = ""
    leads: bool = False
    use: str = ""

    @property
    def key(self) -> str:
        """By which a verdict names it."""
        what = {
            Source.READINGS: self.role,
            Source.SEEN: self.use,
            Source.BLIND: str(self.sitting),
        }
        return ":".join(filter(None, (self.source, what.get(self.source, ""), self.letter)))


#: What a comparison says of the first; nothing where neither end is better by itself.
SAYS = {
    Answer.BETTER: Judged.BETTER,
    Answer.WORSE: Judged.WORSE,
    Answer.NONE: Judged.SAME,
    Answer.UNSEEN: Judged.SAME,
}


def reference_of(columns: Sequence[Column]) -> str | None:
    """Whom all others are held against: the unprocessed frame, else the first one that
    competes.

    Parameters
    ----------
    columns : sequence of Column
        A study's contenders in their order.
    """
    competing = [c for c in columns if not c.truth]
    first = next((c for c in competing if c.unprocessed), next(iter(competing), None))
    return first.letter if first else None


def from_readings(board: Board, reference: str) -> list[Evidence]:
    """What the main measure of each type of patch says of each contender.

    Parameters
    ----------
    board : Board
        Readings of the places that count.
    reference : str
        The letter of the one that the others are held against.
    """
    found = []
    for role in ABOUT:
        part = board.of_role(role)
        measure = told_by(part, role)
        for letter in board.contenders if measure else ():
            told = part.against(measure or "", letter, reference)
            if letter == reference or measure is None or told is None:
                continue
            name = MEASURES[measure].name
            answers = {a: n for a, n in told.counts.items() if n}
            counts = ", ".join(f"{a} at {n}" for a, n in sorted(answers.items()))
            places = "1 patch" if told.places == 1 else f"{told.places} patches"
            text = (
                f"{letter} against {reference}, {ABOUT[role].lower()}, {name}: {counts} of {places}"
            )
            says = SAYS.get(Answer(told.answer)) if told.answer in list(Answer) else None
            ids = tuple(c.id for c in part.at(measure, letter).values())
            found.append(
                Evidence(letter, Source.READINGS, says, ABOUT[role], text, measure, ids, role=role)
            )
    return found


def from_seen(found: Sequence[SeenAt], use: Use, reference: str) -> list[Evidence]:
    """How easily each contender's difference is seen in a use, by a model of seeing: no
    difference where nobody would see it. Whether what is seen is better it can not
    tell.

    Parameters
    ----------
    found : sequence of SeenAt
        On the frames that count, held against the reference.
    use : Use
        Where they are seen.
    reference : str
        The letter of the one that the others are held against.
    """
    return [
        Evidence(
            cell.letter,
            Source.SEEN,
            Judged.SAME if cell.seen is Seen.NOBODY else None,
            cell.seen.value,
            f"{cell.letter} against {reference} as {use.name}: {cell.seen.value}, in"
            f" {100 * cell.share:.1f} % of the picture",
            use=use.id,
        )
        for cell in matrix([one for one in found if one.use == use.id])
        if cell.letter != reference
    ]


def from_choices(calls: Sequence[Call], reference: str, sitting: int) -> list[Evidence]:
    """What judges who saw no names chose, of each contender: against the reference
    where that was among those shown, else against the others.

    Chosen in more than half of the decisive answers, or fewer, by Wilson's 95 %
    interval; no difference where that was said more often than a choice was made.

    Parameters
    ----------
    calls : sequence of Call
        Answers about the places that count.
    reference : str
        The letter of the one that the others are held against.
    sitting : int
        The number of the sitting.
    """
    shown = any(reference in call.pair for call in calls)
    counts: dict[str, Counter[Judged]] = defaultdict(Counter)
    for call in calls:
        if len(call.pair) < 2 or (shown and reference not in call.pair):
            continue
        for letter in call.pair - {reference}:
            chosen = Judged.BETTER if call.chosen == letter else Judged.WORSE
            counts[letter][chosen if call.chosen else Judged.SAME] += 1
    made = []
    for letter, n in sorted(counts.items()):
        says = _carried(n)
        other = reference if shown else "the others"
        text = (
            f"sitting {sitting}, names not seen: {letter} chosen {n[Judged.BETTER]} times,"
            f" {other} {n[Judged.WORSE]}, no difference seen {n[Judged.SAME]}"
        )
        made.append(
            Evidence(
                letter,
                Source.BLIND,
                says if shown else None,
                "eyes",
                text,
                sitting=sitting,
                leads=not shown and says == Judged.BETTER,
            )
        )
    return made


def _carried(n: Counter[Judged]) -> Judged | None:
    decisive = n[Judged.BETTER] + n[Judged.WORSE]
    if n[Judged.SAME] > decisive:
        return Judged.SAME
    found = share_of(n[Judged.BETTER], decisive)
    if found is None or found.low <= 0.5 <= found.high:
        return None
    return Judged.BETTER if found.value > 0.5 else Judged.WORSE


def from_named(said: Iterable[tuple[str, Judged]], reference: str) -> list[Evidence]:
    """What was called by those who saw the names: an answer only where nobody says the
    opposite.

    Parameters
    ----------
    said : iterable of (str, Judged)
        Contender and call, one for each patch and person.
    reference : str
        The letter of the one that the others are held against.
    """
    counts: dict[str, Counter[Judged]] = defaultdict(Counter)
    for letter, mark in said:
        counts[letter][mark] += 1
    return [
        Evidence(
            letter,
            Source.NAMED,
            _agreed(n),
            "eyes",
            f"{letter} against {reference}, seen with names: "
            + ", ".join(f"{mark} {_times(n[mark])}" for mark in Judged if n[mark]),
        )
        for letter, n in sorted(counts.items())
    ]


def _times(n: int) -> str:
    return {1: "once", 2: "twice"}.get(n, f"{n} times")


def _agreed(n: Counter[Judged]) -> Judged | None:
    if n[Judged.BETTER] and n[Judged.WORSE]:
        return None
    return max(Judged, key=lambda mark: n[mark])


def proposal(evidence: Sequence[Evidence], reference: str) -> str:
    """A sentence or two on how contenders stand against the reference: whether anybody
    would see it, what was measured, by type of patch, then what judges who saw no names
    chose.

    Parameters
    ----------
    evidence : sequence of Evidence
        Of one use and kind of scene.
    reference : str
        The letter of the one that the others are held against.

    Returns
    -------
    str
        Empty where nothing is known.
    """
    told = (_visible(evidence, reference), _measured(evidence, reference))
    return " ".join(filter(None, (*told, _seen(evidence, reference))))


def _visible(evidence: Sequence[Evidence], reference: str) -> str:
    by: dict[str, list[str]] = defaultdict(list)
    for e in evidence:
        if e.source == Source.SEEN:
            by[e.about].append(e.letter)
    told = [f"that of {listed(letters)} {seen}" for seen, letters in by.items()]
    return f"The difference from {reference}: {'; '.join(told)}." if told else ""


def _measured(evidence: Sequence[Evidence], reference: str) -> str:
    read = [e for e in evidence if e.source == Source.READINGS]
    everybody = sorted({e.letter for e in read})
    parts = []
    for mark, words in WORDS.items():
        by: dict[str, list[str]] = defaultdict(list)
        for e in read:
            if e.says == mark:
                by[e.about.lower()].append(e.letter)
        groups: dict[tuple[str, ...], list[str]] = defaultdict(list)
        for about, letters in by.items():
            groups[tuple(sorted(letters))].append(about)
        told = [
            f"{'all' if list(who) == everybody and len(who) > 1 else listed(who)} in {listed(of)}"
            for who, of in groups.items()
        ]
        if told:
            parts.append(f"{words.format(reference)}: {', '.join(told)}")
    return f"Measured {'; '.join(parts)}." if parts else ""


WORDS = {
    Judged.BETTER: "better than {}",
    Judged.WORSE: "worse than {}",
    Judged.SAME: "with no difference from {} that is seen",
}


def _seen(evidence: Sequence[Evidence], reference: str) -> str:
    blind = [e for e in evidence if e.source == Source.BLIND]
    told = []
    for words, wanted in (
        (f"choose {{}} over {reference}", [e for e in blind if e.says == Judged.BETTER]),
        (f"choose {reference} over {{}}", [e for e in blind if e.says == Judged.WORSE]),
        (
            f"see no difference of {{}} from {reference}",
            [e for e in blind if e.says == Judged.SAME],
        ),
        ("choose {} over the others they saw", [e for e in blind if e.leads]),
    ):
        if wanted:
            told.append(words.format(listed(list(dict.fromkeys(e.letter for e in wanted)))))
    return f"Judges who see no names {' and '.join(told)}." if told else ""


def marked(marks: Mapping[str, Judged], reference: str) -> str:
    """A verdict's marks in words; empty where there are none.

    Parameters
    ----------
    marks : mapping of str to Judged
        By letter.
    reference : str
        The letter of the one that the others are held against.
    """
    by = {mark: sorted(x for x, m in marks.items() if m == mark) for mark in Judged}
    told = [f"{listed(letters)} {mark}" for mark, letters in by.items() if letters]
    return f"Against {reference}: {', '.join(told)}." if told else ""


def contradictions(
    marks: Mapping[str, Judged], evidence: Sequence[Evidence], reference: str
) -> list[str]:
    """What a verdict is asked: where a mark goes against judges who saw no names, or
    against everything that there is.

    Parameters
    ----------
    marks : mapping of str to Judged
        A reviewer's marks by letter.
    evidence : sequence of Evidence
        Of the verdict's use and kind of scene.
    reference : str
        The letter of the one that the others are held against.
    """
    asked = []
    for letter, mark in marks.items():
        of = [e for e in evidence if e.letter == letter and e.says]
        against = [e for e in of if _against(mark, e.says)]
        blind = [e for e in against if e.source == Source.BLIND]
        if blind or (against and len(against) == len(of)):
            told = "; ".join(e.text for e in blind or against)
            what = {Judged.SAME: f"not different from {reference}"}.get(
                mark, f"{mark} than {reference}"
            )
            asked.append(f"{letter} is marked {what}, but: {told}.")
    return asked


def _against(mark: Judged, says: Judged | None) -> bool:
    if mark == Judged.SAME:
        return says in OPPOSITE
    return says in (OPPOSITE[mark], Judged.SAME)
