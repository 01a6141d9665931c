"""Which value of a measure is its best: the highest, the lowest, or a target that is
missed on either side.
"""

from __future__ import annotations

import math

# A number: infinite where more (or less) is always better, else the target.
Best = float
HIGHEST, LOWEST = math.inf, -math.inf


def distance(value: float, best: Best) -> float:
    """How far a value is from the best; only differences of it mean anything where the
    best is an end.

    Parameters
    ----------
    value : float
        The value, in its measure's unit.
    best : Best
        Where the measure's best lies.
    """
    if math.isinf(best):
        return -value if best > 0 else value
    return abs(value - best)


def side(value: float, best: Best) -> int:
    """1 where a higher value is farther from the best, -1 where it is nearer.

    Parameters
    ----------
    value : float
        The value, in its measure's unit.
    best : Best
        Where the measure's best lies.
    """
    return 1 if value > best else -1


def in_words(best: Best | None, unit: str = "") -> str | None:
    """As a person reads it: "highest", "lowest", "nearest 100 %";

    None where no value is better than another.

    Parameters
    ----------
    best : Best or None
        Where the measure's best lies; None where it has none.
    unit : str
        The measure's unit.
    """
    if best is None:
        return None
    if math.isinf(best):
        return "highest" if best > 0 else "lowest"
    return f"nearest {best:g} {unit}".strip()
