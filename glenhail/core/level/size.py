"""Size at one level: what one output is like once it was enlarged, plainly, as far as
another.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from glenhail.core.errors import NotMeasurable
from glenhail.core.level.costs import AtOneLevel, verdict_said
from glenhail.core.level.way import LevelPair, Sought

METHOD = "lanczos"
SAME = 0.01  # of its size, closer than which it is the other's
ENDS = (0.1, 8.0)  # times that the method takes
ASKED = ("noise_luma", "detail_kept", "mtf50", "overshoot", "detail_added")


def find_factor(pair: LevelPair) -> Sought:
    """How many times one output is enlarged, plainly, to be as large as another.

    Parameters
    ----------
    pair : LevelPair
        Both outputs.

    Raises
    ------
    NotMeasurable
        If sizes are too far apart.
    """
    mine, theirs = pair.one.mapping, pair.other.mapping
    factor = (theirs.sx / mine.sx + theirs.sy / mine.sy) / 2
    # Line-ups have their own uncertainty; whole pictures tell it exactly.
    plain = pair.other.picture.width / pair.one.picture.width
    factor = round(plain if abs(factor / plain - 1) <= SAME else factor, 4)
    if abs(factor - 1) <= SAME:
        return Sought()
    if not ENDS[0] <= factor <= ENDS[1]:
        raise NotMeasurable(f"sizes differ {factor:.3g} times, more than is made here")
    return Sought(METHOD, {"factor": factor}, {"factor": factor})


def size_said(
    numbers: Mapping[str, Any], readings: Sequence[AtOneLevel], names: tuple[str, str]
) -> str:
    """In words what plain enlarging does, and what it costs against the other.

    Parameters
    ----------
    numbers : mapping
        The factor; empty where both are of one size.
    readings : sequence of AtOneLevel
        Of all three.
    names : (str, str)
        Who was enlarged, and as far as whom.
    """
    if not numbers:
        return f"{names[0]} and {names[1]} are of one size already."
    factor = numbers["factor"]
    how = f"Enlarged {factor:g} times" if factor > 1 else f"Made {factor:g} times its size"
    start = f"{how} by Lanczos, {names[0]} is as large as {names[1]}"
    return verdict_said(start, readings, ASKED, names[1], "plain resampling does it")
