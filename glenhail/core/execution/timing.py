"""What outputs cost: the middle of several runs and their spread, per picture and per
megapixel of the source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median


@dataclass(frozen=True)
class Timing:
    """One run: seconds, and the source's size in megapixels.

    A time that was not told is None.
    """

    megapixels: float
    load_s: float | None = None
    process_s: float | None = None
    export_s: float | None = None
    wall_s: float | None = None

    @property
    def total_s(self) -> float | None:
        """From start to end: as it was clocked, or else what was told added up."""
        if self.wall_s is not None:
            return self.wall_s
        told = [t for t in (self.load_s, self.process_s, self.export_s) if t is not None]
        return sum(told) if told else None


@dataclass(frozen=True)
class Spread:
    """The median of several values with the least and the greatest."""

    value: float
    low: float
    high: float


def spread_told(kept: dict[str, float] | None) -> Spread | None:
    """A spread as it was kept; None where there is none.

    Parameters
    ----------
    kept : dict or None
        Its values by name.
    """
    return Spread(**kept) if kept else None


def middle(values: Sequence[float | None]) -> Spread | None:
    """The median of those that are told; None where none is.

    Parameters
    ----------
    values : sequence of float or None
        Values; None where one is not told.
    """
    told = [v for v in values if v is not None]
    return Spread(median(told), min(told), max(told)) if told else None


@dataclass(frozen=True)
class Speed:
    """Seconds of several runs, each part apart, and seconds for each megapixel of the
    source.
    """

    runs: int
    load: Spread | None
    process: Spread | None
    export: Spread | None
    total: Spread | None
    per_megapixel: Spread | None


def speed(runs: Sequence[Timing]) -> Speed:
    """Sum runs up.

    Parameters
    ----------
    runs : sequence of Timing
        The timed runs.
    """
    per = [
        r.total_s / r.megapixels if r.total_s is not None and r.megapixels > 0 else None
        for r in runs
    ]
    return Speed(
        len(runs),
        middle([r.load_s for r in runs]),
        middle([r.process_s for r in runs]),
        middle([r.export_s for r in runs]),
        middle([r.total_s for r in runs]),
        middle(per),
    )


def time_left(waiting: Sequence[float | None], side_by_side: int) -> float | None:
    """Seconds until everything that waits is done, from what each is expected to take;

    None while nothing is known.

    What is not known of one is taken to be the middle of the others.

    Parameters
    ----------
    waiting : sequence of float or None
        Seconds each is expected to take; None where nothing is known.
    side_by_side : int
        How many run at once.
    """
    known = [s for s in waiting if s is not None]
    if not known:
        return None
    usual = median(known)
    seconds = [usual if s is None else s for s in waiting]
    return max(*seconds, sum(seconds) / max(1, side_by_side))
