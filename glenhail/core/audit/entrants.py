"""Contenders as the rules between them see them, and how odd ones among them are found."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Hashable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from functools import cached_property

from glenhail.core.audit.finding import Finding, FindingPlace, Rule, Weight
from glenhail.core.audit.output_rule import AuditedOutput
from glenhail.core.treatments.step import Treatment

FileFact = Callable[["AuditedFile"], Hashable]
Worded = Callable[["AuditedFile"], str]
EVERYWHERE = None  # the frame of what holds for all of them


@dataclass(frozen=True)
class AuditedFile:
    """One output: its frame, what is seen of it, and what its file says.

    ``digest`` is of the file's bytes.

    ``preview`` is how a captured preview differs from it.
    """

    frame: int
    seen: AuditedOutput
    bits: int = 16
    profile: str = ""
    profile_assumed: bool = False
    compression: str = ""
    format: str = ""
    digest: str = ""
    preview_de00: float | None = None
    preview_ev: float | None = None


@dataclass(frozen=True)
class Entrant:
    """A contender with its outputs.

    ``treatment`` is None for the unprocessed frame, another body, the truth.

    ``works`` are kinds of work of each step in order; ``released`` the dates of its
    releases; ``machines`` those it was timed on; ``load_share`` the part of its time
    that opening a file takes.
    """

    id: int
    outputs: Sequence[AuditedFile]
    treatment: Treatment | None = None
    works: Sequence[str] = ()
    released: Sequence[date] = ()
    machines: Sequence[str] = ()
    load_share: float | None = None
    baseline: bool = False

    @cached_property
    def by_frame(self) -> dict[int, AuditedFile]:
        """Its output on each frame."""
        return {o.frame: o for o in self.outputs}


Between = Callable[[Rule, Sequence[Entrant]], list[Finding]]


@dataclass(frozen=True)
class BetweenRule:
    """A rule, the factors of which it is the point, and what finds those who break it."""

    rule: Rule
    free: frozenset[str]
    check: Between


def odd_ones(
    rule: Rule, rivals: Iterable[tuple[int, Hashable, str]], weight: Weight | None = None
) -> list[Finding]:
    """Those who differ from what most have; where no value is the most common, all of
    them.

    Parameters
    ----------
    rule : Rule
        What should be equal.
    rivals : iterable of (int, hashable, str)
        Each contender's id, its value, and the value in words.
    weight : Weight, optional
        Instead of the rule's own.
    """
    rows = list(rivals)
    values = Counter(value for _, value, _ in rows)
    if len(values) < 2:
        return []
    (usual, most), (_, next_most) = values.most_common(2)
    told = {value: words for _, value, words in rows}
    odd = [r for r in rows if most == next_most or r[1] != usual]
    against = "" if most == next_most else f"; most have {told[usual]}"
    return [
        Finding(
            rule, who, weight or rule.weight, (FindingPlace(EVERYWHERE, 1.0, f"{words}{against}"),)
        )
        for who, _, words in odd
    ]


def odd_per_frame(
    rule: Rule, all_: Sequence[Entrant], value: FileFact, words: Worded
) -> list[Finding]:
    """Odd ones on each frame, gathered by contender; the frame itself stands beside
    them.

    Parameters
    ----------
    rule : Rule
        What should be equal.
    all_ : sequence of Entrant
        Whose outputs are compared, baselines among them.
    value : callable
        Of an output; None is not compared.
    words : callable
        The value of an output in words.
    """
    places: dict[int, list[FindingPlace]] = {}
    for frame in sorted({o.frame for e in all_ for o in e.outputs}):
        there = [
            (e.id, e.by_frame[frame])
            for e in all_
            if frame in e.by_frame and value(e.by_frame[frame]) is not None
        ]
        for odd in odd_ones(rule, [(who, value(o), words(o)) for who, o in there]):
            places.setdefault(odd.contender, []).append(
                FindingPlace(frame, 1.0, odd.places[0].words)
            )
    own = {e.id for e in all_ if not e.baseline}
    return [
        Finding(rule, who, rule.weight, tuple(found)) for who, found in places.items() if who in own
    ]


def treated(rivals: Sequence[Entrant]) -> list[tuple[Entrant, Treatment]]:
    """Those that are treatments, with their steps.

    Parameters
    ----------
    rivals : sequence of Entrant
        Contenders of a study.
    """
    return [(e, e.treatment) for e in rivals if e.treatment is not None]
