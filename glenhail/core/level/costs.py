"""What an output is like once it was brought to another's level: measured beside it,
and what is worse, in words.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from glenhail.core.assess import readings_of
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import Patch
from glenhail.core.picture import Picture

# In words, what is worse where it is more, and where it is less.
MORE = {
    "noise_luma": "is {} % noisier",
    "noise_chroma": "has {} % more colour noise",
    "overshoot": "has {} % more halo",
    "detail_added": "has {} % more false detail",
}
LESS = {"detail_kept": "keeps {} % less detail", "mtf50": "is {} % softer"}
MOST = 10.0  # times, beyond which nothing more is told
WORSE = 1.1  # times: a tenth is what can be seen of noise; common practice, no source


@dataclass(frozen=True)
class AtOneLevel:
    """A measure of one patch: of the output as it was, as it was made, and of the
    other.
    """

    measure: str
    patch: str
    unit: str
    before: float | None
    made: float | None
    other: float | None


def compared(
    source: Picture,
    truth: AlignedPicture | None,
    patches: Sequence[Patch],
    outputs: tuple[AlignedPicture, AlignedPicture, AlignedPicture],
) -> tuple[AtOneLevel, ...]:
    """All three on every patch.

    Parameters
    ----------
    source : Picture
        The frame.
    truth : AlignedPicture or None
        The known-good original.
    patches : sequence of Patch
        Frame px.
    outputs : (AlignedPicture, AlignedPicture, AlignedPicture)
        As it was, as it was made, and the other.
    """
    taken = [readings_of(source, output, truth, patches, (*MORE, *LESS)) for output in outputs]
    values = [{(r.measure, r.patch): r.value for r in of} for of in taken]
    return tuple(
        AtOneLevel(r.measure, r.patch, r.unit, *(of.get((r.measure, r.patch)) for of in values))
        for r in taken[0]
        if r.patch
    )


def costs_told(
    readings: Sequence[AtOneLevel], measures: Sequence[str]
) -> tuple[list[str], list[str]]:
    """What is worse in what was made than in the other, in words; and by which of the
    measures both were read.

    Parameters
    ----------
    readings : sequence of AtOneLevel
        Of all three.
    measures : sequence of str
        Which of `MORE` and `LESS` are asked.
    """
    worse, read = [], []
    for measure in measures:
        pairs = [
            (r.made, r.other)
            for r in readings
            if r.measure == measure and r.made is not None and r.other is not None
        ]
        if not pairs:
            continue
        read.append(measure)
        if measure in MORE:
            ratio = float(np.median([_times(made, other) for made, other in pairs]))
            words, share = MORE[measure], ratio - 1
        else:
            ratio = float(np.median([_times(other, made) for made, other in pairs]))
            words, share = LESS[measure], 1 - 1 / ratio
        if ratio > WORSE:
            over = "over " if ratio >= MOST else ""
            worse.append(words.format(f"{over}{100 * share:.0f}"))
    return worse, read


def verdict_said(
    start: str,
    readings: Sequence[AtOneLevel],
    measures: Sequence[str],
    other: str,
    does_it: str = "a slider does it",
) -> str:
    """A sentence that ends in what reaching the level costs.

    Parameters
    ----------
    start : str
        How which level was reached.
    readings : sequence of AtOneLevel
        Of all three.
    measures : sequence of str
        Which are asked.
    other : str
        The other's name.
    does_it : str
        What is said where nothing is worse.
    """
    worse, read = costs_told(readings, measures)
    if not read:
        return f"{start}; draw plain, edge and texture patches to see what that costs."
    if not worse:
        return f"{start}, and worse by a tenth in nothing that was measured: {does_it}."
    return f"{start} and {' and '.join(worse)}: {other}'s method is worth it."


def _times(more: float, less: float) -> float:
    """How many times as much; of next to nothing no more than can be told."""
    if more <= 0:
        return 1.0
    return min(MOST, more / max(less, more / MOST))
