"""How far judges agree: with themselves, with each other, and with reason."""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Hashable, Iterable, Sequence
from itertools import combinations

from glenhail.core.interval import Interval
from glenhail.core.judging.calls import Call

Z = 1.959963984540054  # of a 95 % interval


def share_of(yes: int, of: int) -> Interval | None:
    """A share with Wilson's interval (1927), J. Am. Stat. Assoc. 22, 209-212.

    Parameters
    ----------
    yes, of : int
        How many of how many; none of none is no share.
    """
    if of < 1:
        return None
    p, z2 = yes / of, Z * Z
    middle = (p + z2 / (2 * of)) / (1 + z2 / of)
    reach = Z / (1 + z2 / of) * math.sqrt(p * (1 - p) / of + z2 / (4 * of * of))
    return Interval(p, max(0.0, middle - reach), min(1.0, middle + reach))


def alpha(units: Iterable[Sequence[Hashable]]) -> float | None:
    """Krippendorff's alpha of answers without an order: 1 is agreement, 0 chance.

    Krippendorff, K. (2004): Content Analysis, 2nd edition, chapter 11.

    Parameters
    ----------
    units : iterable of sequences
        For each thing judged, the answers it got, in any order; such with fewer than
        two say nothing.

    Returns
    -------
    float or None
        None where nothing was judged twice, or every answer is the same.
    """
    told: Counter[Hashable] = Counter()
    apart = 0.0
    for answers in units:
        m = len(answers)
        if m < 2:
            continue
        counts = Counter(answers)
        told.update(counts)
        apart += (m * m - sum(n * n for n in counts.values())) / (m - 1)
    n = sum(told.values())
    by_chance = (n * n - sum(v * v for v in told.values())) / (n - 1) if n > 1 else 0.0
    return 1 - apart / by_chance if by_chance else None


def answered_units(judges: Iterable[Iterable[Call]]) -> list[list[str | None]]:
    """What each judge chose of each pair at each spot, for `alpha`.

    Parameters
    ----------
    judges : iterable of iterables of Call
        One for each judge; of a pair seen more than once the first answer is taken.
    """
    units: dict[tuple[str, frozenset[str]], list[str | None]] = defaultdict(list)
    for calls in judges:
        seen = set()
        for call in calls:
            key = (call.spot, call.pair)
            if len(call.pair) == 2 and key not in seen:
                seen.add(key)
                units[key].append(call.chosen)
    return list(units.values())


def circular_triads(wins: dict[frozenset[str], str], contenders: Sequence[str]) -> int | None:
    """Threes of which A was chosen over B, B over C and C over A.

    Parameters
    ----------
    wins : dict
        Who was chosen of each pair.
    contenders : sequence of str
        Everyone.

    Returns
    -------
    int or None
        None if a pair lacks its answer.
    """
    if any(frozenset(pair) not in wins for pair in combinations(contenders, 2)):
        return None
    # Kendall and Babington Smith (1940), Biometrika 31, 324-345: all triads less those in which
    # one was chosen twice.
    won = Counter(wins.values())
    t = len(contenders)
    return math.comb(t, 3) - sum(math.comb(won[name], 2) for name in contenders)


def consistence(triads: int, count: int) -> float:
    """Kendall and Babington Smith's zeta: 1 without circular triads, 0 with the most
    there can be.

    Parameters
    ----------
    triads : int
        Circular ones.
    count : int
        Contenders, at least 3.
    """
    most = (count**3 - count) / 24 if count % 2 else (count**3 - 4 * count) / 24
    return 1 - triads / most


def triads_of(calls: Iterable[Call], contenders: Sequence[str]) -> list[int]:
    """Circular triads at each spot where a judge chose of every pair.

    Parameters
    ----------
    calls : iterable of Call
        Of one judge.
    contenders : sequence of str
        Everyone.
    """
    wins: dict[str, dict[frozenset[str], str]] = defaultdict(dict)
    for call in calls:
        if call.chosen is not None and len(call.pair) == 2:
            wins[call.spot].setdefault(call.pair, call.chosen)
    counted = (circular_triads(of, contenders) for of in wins.values())
    return [triads for triads in counted if triads is not None]
