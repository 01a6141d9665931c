"""Raw files of a body, and which of them are pairs of one exposure."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

from glenhail.core.errors import BadRequest
from glenhail.core.files.raw import Mosaic
from glenhail.core.picture import Facts


@dataclass(frozen=True)
class SensorFrame:
    """A raw file, what it says, and how its mosaic is had."""

    path: Path
    facts: Facts
    mosaic: Callable[[], Mosaic]


@dataclass(frozen=True)
class FramePair:
    """Two files of the same exposure."""

    iso: float
    one: SensorFrame
    two: SensorFrame

    @property
    def exposure(self) -> tuple[float, float]:
        """Shutter and aperture, 0 where the files name none."""
        return self.one.facts.shutter_s or 0, self.one.facts.aperture or 0


def pairs_of(frames: Sequence[SensorFrame]) -> tuple[list[FramePair], list[str]]:
    """Pairs of one body, by ISO; and in words the files that found no partner.

    Parameters
    ----------
    frames : sequence of SensorFrame
        In any order.

    Raises
    ------
    BadRequest
        If a file names no ISO.
    """
    groups: dict[tuple[float, float, float], list[SensorFrame]] = defaultdict(list)
    for frame in frames:
        f = frame.facts
        if not f.iso:
            raise BadRequest(f"{frame.path.name} names no ISO. Only raw files that do can be used.")
        groups[f.iso, round(f.shutter_s or 0, 9), round(f.aperture or 0, 2)].append(frame)
    pairs, alone = [], []
    for (iso, *_), found in sorted(groups.items(), key=lambda g: g[0]):
        group = sorted(found, key=lambda frame: frame.path.name)
        pairs += [FramePair(iso, group[i], group[i + 1]) for i in range(0, len(group) - 1, 2)]
        if len(group) % 2:
            alone.append(
                f"{group[-1].path.name}: no second frame of its exposure. Shoot each twice."
            )
    return pairs, alone
