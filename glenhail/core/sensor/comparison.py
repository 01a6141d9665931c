"""Several bodies over ISO at spots of one scene: the whole of what a study of bodies
says, out of their raw files.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from itertools import combinations

from glenhail.core.picture import Rect
from glenhail.core.sensor.averaging import Averaging, averaging
from glenhail.core.sensor.brightness import Lift, effective, lifts
from glenhail.core.sensor.brightness import told as brightness_told
from glenhail.core.sensor.decomposition import CaughtLight, Reason, reasons_of
from glenhail.core.sensor.frames import FramePair
from glenhail.core.sensor.range import PRINT_PIXELS
from glenhail.core.sensor.reading import PairRead, read_pairs
from glenhail.core.sensor.series import IsoFacts, facts_of
from glenhail.core.sensor.shadows import Shadow, shadows
from glenhail.core.sensor.size import SensorSize
from glenhail.core.sensor.spots import SpotCurve, curves_of, differing
from glenhail.core.sensor.stages import ReadNoiseAt
from glenhail.core.sensor.stages import told as stages_told
from glenhail.core.sensor.stops import Alike, SnrCurve, StopsAhead, alike, stops_ahead, told

VERSION = "7"  # of numbers and words: what is kept of an earlier one is read again


class Basis(StrEnum):
    """What ISO counts as: as the makers claim it, or moved so that all are as bright."""

    AS_SHOT = "as shot"
    MATCHED = "equally bright"


class At(StrEnum):
    """The size that noise is told at: each body's own pixels, the smallest body's, or a
    print's.
    """

    PIXEL = "pixel"
    COMMON = "common"
    PRINT = "print"


@dataclass(frozen=True)
class BodyShots:
    """A body's pairs of a scene and of anything else (dark ones), where its spots lie
    in shares of its frame (None where it did not see one), and its sensor's size where
    that is known.

    ``plain`` are the numbers of even, uncoloured spots, by which brightness is told;
    without any it is told by all.
    """

    name: str
    scene: Sequence[FramePair]
    others: Sequence[FramePair]
    spots: Sequence[Rect | None]
    size: SensorSize | None = None
    plain: Sequence[int] = ()


@dataclass(frozen=True)
class BodyFound:
    """What was read of one body: by spot, by ISO, and what averaging does to its
    pixels.
    """

    name: str
    pixels: int
    spots: tuple[SpotCurve, ...]
    facts: tuple[IsoFacts, ...]
    common: Averaging
    print: Averaging
    stages: str
    shadows: tuple[Shadow, ...]

    def gain(self, at: At) -> float:
        """How many times as large a ratio is at a size."""
        return {At.PIXEL: 1.0, At.COMMON: self.common.measured.value}.get(
            at, self.print.measured.value
        )

    def curve(self, spot: int, at: At, matched: Sequence[Lift] | None) -> SnrCurve:
        """Signal to noise at one of its spots; `matched` are its lifts, None for ISO as
        claimed.
        """
        return self.spots[spot].at(
            self.gain(at), effective(matched) if matched is not None else None
        )


@dataclass(frozen=True)
class Ahead:
    """How far one body is ahead of another at a spot: bodies and spot by number."""

    one: int
    other: int
    spot: int
    basis: Basis
    at: At
    stops: tuple[StopsAhead, ...]
    alike: tuple[Alike, ...]
    said: str


@dataclass(frozen=True)
class Why:
    """What the advantage at one ISO and spot is made of, as the pictures were shot."""

    one: int
    other: int
    spot: int
    iso: float
    reasons: tuple[Reason, ...]


@dataclass(frozen=True)
class Compared:
    """All of it. ``lifts`` are of each body against the first, none for itself."""

    bodies: tuple[BodyFound, ...]
    lifts: tuple[tuple[Lift, ...], ...]
    brightness: tuple[str, ...]
    ahead: tuple[Ahead, ...]
    why: tuple[Why, ...]
    notes: tuple[str, ...]


def compare(bodies: Sequence[BodyShots]) -> Compared:
    """Bodies against each other; each of their files is read once.

    Parameters
    ----------
    bodies : sequence of BodyShots
        Two or more; the same spots in each, the one that others are held against first.
    """
    read = [_read(b) for b in bodies]
    smallest = min(reads[0].pixels for reads, _ in read)
    found = [_found(b, *of, smallest) for b, of in zip(bodies, read, strict=True)]
    plain = bodies[0].plain or range(len(bodies[0].spots))
    lit = [[f.spots[i] for i in plain] for f in found]
    against = [()] + [tuple(lifts(of, lit[0])) for of in lit[1:]]
    ahead = [
        _ahead(found, against, (i, j), spot, basis, at)
        for i, j in combinations(range(len(found)), 2)
        for spot in range(len(bodies[0].spots))
        for basis in Basis
        for at in (At.PIXEL, At.COMMON)
    ]
    return Compared(
        tuple(found),
        tuple(against),
        tuple(
            brightness_told(of, (f.name, found[0].name)) if lit[0] else ""
            for f, of in zip(found[1:], against[1:], strict=True)
        ),
        tuple(ahead),
        tuple(_why(bodies, found, ahead)),
        tuple(_notes(found)),
    )


def _read(body: BodyShots) -> tuple[list[PairRead], list[PairRead]]:
    return read_pairs(body.scene, body.spots), read_pairs(body.others)


def _found(
    body: BodyShots, reads: Sequence[PairRead], others: Sequence[PairRead], smallest: int
) -> BodyFound:
    curves = curves_of(reads, len(body.spots))
    whole = body.size.width * body.size.height if body.size else None
    facts = facts_of([*reads, *others], whole)
    spectra, pixels = [r.spectrum for r in reads if r.spectrum is not None], reads[0].pixels
    noise = [ReadNoiseAt(f.iso, f.transfer.read_noise) for f in facts if f.transfer.read_noise]
    return BodyFound(
        body.name,
        pixels,
        tuple(curves),
        tuple(facts),
        averaging(spectra, pixels, smallest),
        averaging(spectra, whole or pixels, PRINT_PIXELS),
        stages_told(noise),
        tuple(shadows(curves)),
    )


def _ahead(
    found: Sequence[BodyFound],
    against: Sequence[Sequence[Lift]],
    pair: tuple[int, int],
    spot: int,
    basis: Basis,
    at: At,
) -> Ahead:
    matched = [against[i] if i and basis is Basis.MATCHED else None for i in pair]
    one, other = (found[i].curve(spot, at, m) for i, m in zip(pair, matched, strict=True))
    names = found[pair[0]].name, found[pair[1]].name
    enough = len(one.iso) > 1 and len(other.iso) > 1
    stops = tuple(stops_ahead(one, other)) if enough else ()
    shot = {lift.effective_iso: lift.iso for lift in matched[1] or ()}
    same = [replace(a, shot=shot.get(a.shot, a.shot)) for a in alike(stops, other)]
    return Ahead(*pair, spot, basis, at, stops, tuple(same), told(stops, names))


def _why(
    bodies: Sequence[BodyShots], found: Sequence[BodyFound], ahead: Sequence[Ahead]
) -> list[Why]:
    made = []
    for a in (a for a in ahead if a.basis is Basis.AS_SHOT and a.at is At.COMMON):
        for at in a.stops:
            one, other = (_caught(bodies[i], found[i], a.spot, at.iso) for i in (a.one, a.other))
            if one is not None and other is not None:
                reasons = reasons_of(one, other, at.stops.value)
                made.append(Why(a.one, a.other, a.spot, at.iso, tuple(reasons)))
    return made


def _caught(body: BodyShots, found: BodyFound, spot: int, iso: float) -> CaughtLight | None:
    """None where its sensor's size, or its gain at that ISO, is not known."""
    facts = next((f for f in found.facts if f.iso == iso), None)
    reading = next((r for r in found.spots[spot].readings if r.iso == iso), None)
    if body.size is None or facts is None or reading is None:
        return None
    if facts.top is None or facts.transfer.read_noise is None:
        return None
    # A frame may be a part of the sensor: of that, as much of the area.
    area = body.size.width_mm * body.size.height_mm
    share = found.pixels / (body.size.width * body.size.height)
    electrons = reading.light.value * facts.top.value * found.pixels / (area * share)
    return CaughtLight(area * share, electrons, facts.transfer.read_noise.value, found.pixels)


def _notes(found: Sequence[BodyFound]) -> list[str]:
    """What was left out, and where exposures differ; each once."""
    words: dict[str, None] = {}
    for body in found:
        for facts in body.facts:
            for doubt in facts.doubts:
                words[f"{body.name}: {doubt}."] = None
    for one, other in combinations(found, 2):
        for note in differing(one.spots[0], other.spots[0]) if one.spots else ():
            words[f"{one.name} and {other.name}, {note}"] = None
    return list(words)
