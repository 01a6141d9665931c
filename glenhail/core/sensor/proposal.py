"""What was shot with which body, and which frames belong together: pairs of bodies by
ISO, with gaps and doubles told.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import PurePath

from glenhail.core.shots import nearest_iso

PAIR = 2  # frames of each exposure


@dataclass(frozen=True)
class ShotTold:
    """What a raw file says: whose it is, and how it was exposed (0 for what it does not
    tell).
    """

    number: int
    name: str
    body: str
    iso: float
    shutter_s: float = 0.0
    aperture: float = 0.0


@dataclass(frozen=True)
class SeriesTold:
    """The frames of one body by ISO, the lowest first, each ISO's in order of name."""

    body: str
    by_iso: Mapping[float, tuple[ShotTold, ...]]

    @property
    def frames(self) -> int:
        """How many there are."""
        return sum(len(of) for of in self.by_iso.values())


def series_told(shots: Sequence[ShotTold]) -> list[SeriesTold]:
    """Frames of one scene as series, the body with most ISO values first.

    Parameters
    ----------
    shots : sequence of ShotTold
        In any order; those that name no body or no ISO belong to none.
    """
    by: dict[str, dict[float, list[ShotTold]]] = defaultdict(lambda: defaultdict(list))
    # By stem: what is called "…-b" comes after what is called "…".
    for shot in sorted(shots, key=lambda s: PurePath(s.name).stem):
        if shot.body and shot.iso > 0:
            by[shot.body][shot.iso].append(shot)
    made = [
        SeriesTold(body, {iso: tuple(of[iso]) for iso in sorted(of)}) for body, of in by.items()
    ]
    return sorted(made, key=lambda s: (-len(s.by_iso), s.body))


def doubts_told(series: Sequence[SeriesTold]) -> list[str]:
    """In words, what is missing or there too often.

    Parameters
    ----------
    series : sequence of SeriesTold
        Of the bodies that are compared, the one that others are held against first.
    """
    words = []
    for one in series:
        lone = [iso for iso, of in one.by_iso.items() if len(of) < PAIR]
        if lone:
            words.append(
                f"{one.body} has one frame alone at ISO {_listed(lone)}: noise takes two of each"
                " exposure."
            )
        mixed = [iso for iso, of in one.by_iso.items() if len({_exposure(s) for s in of}) > 1]
        if mixed:
            words.append(f"{one.body} was exposed in several ways at ISO {_listed(mixed)}.")
        many = [iso for iso, of in one.by_iso.items() if len(of) > PAIR and iso not in mixed]
        if many:
            words.append(f"{one.body} has more than two frames at ISO {_listed(many)}: all count.")
    for first, other in ((a, b) for a in series for b in series if a is not b):
        gaps = [iso for iso in first.by_iso if nearest_iso(iso, list(other.by_iso)) is None]
        if gaps:
            words.append(
                f"{other.body} was not shot within a third of a stop of ISO {_listed(gaps)}, where"
                f" {first.body} was."
            )
    return words


def _exposure(shot: ShotTold) -> tuple[float, float]:
    return round(shot.shutter_s, 9), round(shot.aperture, 2)


def _listed(isos: Sequence[float]) -> str:
    told = [f"{iso:,.0f}" for iso in isos]
    return told[0] if len(told) == 1 else f"{', '.join(told[:-1])} and {told[-1]}"
