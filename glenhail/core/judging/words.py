"""What came of a sitting, in sentences made by rule."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from glenhail.core.interval import Interval
from glenhail.core.judging.results import Results, SpokenFor
from glenhail.core.words import listed


def percent(share: Interval) -> str:
    """A share with its interval: “71 % (62 to 79)”.

    Parameters
    ----------
    share : Interval
        0..1.
    """
    value, low, high = (round(100 * v) for v in (share.value, share.low, share.high))
    return f"{value} % ({low} to {high})"


def said_of(results: Results) -> str:
    """The answer of a sitting in a sentence: a winner only where there is one.

    Parameters
    ----------
    results : Results
        What the answers carry.
    """
    best = results.standings[0]
    if results.winner:
        if len(results.standings) == 2:
            duel = results.duels[0]
            return (
                f"{duel.better} was chosen over {duel.worse}: {percent(duel.chance)} where a"
                " difference was seen."
            )
        return (
            f"{results.winner} was chosen over each of the others: {percent(best.chance)} where a"
            " difference was seen."
        )
    ends = len(results.groups)
    if ends == 1:
        who = listed([s.contender for s in results.standings])
        return f"{who} can not be told apart by these answers."
    first = listed(results.groups[0])
    behind = [s.contender for s in results.standings if _behind_all(s.contender, results)]
    if behind:
        told = f"; each of them was chosen over {listed(behind)}"
    else:
        over = [f"{d.better} over {d.worse}" for d in results.duels if d.told_apart]
        told = f"; chosen were {listed(over)}"
    return f"No one is ahead of all: {first} can not be told apart{told}."


def _behind_all(who: str, results: Results) -> bool:
    """Whether everybody of the first group was chosen over a contender."""
    told = {(d.better, d.worse) for d in results.duels if d.told_apart}
    return all((first, who) in told for first in results.groups[0])


def speaks_for(results: Results) -> str:
    """For whom the intervals speak.

    Parameters
    ----------
    results : Results
        What the answers carry.
    """
    one = results.judges == 1
    who = "this judge" if one else f"these {results.judges} judges"
    if results.spread == SpokenFor.JUDGES:
        return f"Intervals of 95 % over {results.judges} judges: for judges like these."
    if results.spread == SpokenFor.SCENES:
        return (
            f"Intervals of 95 % over {results.scenes} scenes: for {who} on scenes like these, not"
            " for others."
        )
    return f"Intervals of 95 % from the model alone: for {who} on what was shown, not for others."


def how_shown(
    kind: str, count: int, letters: Sequence[str], spots: int, showing: Mapping[str, Any]
) -> str:
    """What judges were shown, as a clause: “40 pairs of A and B on 6 spots, at 200 %”.

    Parameters
    ----------
    kind : str
        What is asked: pairs, single or order.
    count : int
        Pairs that each judge is shown.
    letters : sequence of str
        Contenders.
    spots : int
        How many.
    showing : mapping
        ``zoom``, ``use_name``, ``beside``, ``matched`` and ``adaptive``.
    """
    asked = {"pairs": f"{count} pairs", "single": "single pictures", "order": "rows"}[kind]
    use = showing["use_name"]
    seen = f"as seen in use: {use}" if use else f"at {100 * showing['zoom']} %"
    beside = f", {showing['beside']} can be looked at as well" if showing["beside"] else ""
    matched = ", brightness matched" if showing["matched"] else ""
    places = "1 spot" if spots == 1 else f"{spots} spots"
    chosen = ", pairs chosen by what is least known (D-optimum)" if showing.get("adaptive") else ""
    return f"{asked} of {listed(letters)} on {places}, {seen}{beside}{matched}{chosen}"
