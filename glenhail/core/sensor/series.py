"""A body's facts over ISO, out of its raw files: pairs are found by what the files say."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

from glenhail.core.errors import BadRequest
from glenhail.core.files.raw import Mosaic
from glenhail.core.interval import Interval
from glenhail.core.picture import Facts
from glenhail.core.sensor.pairs import Moments, moments_of
from glenhail.core.sensor.photon_transfer import PhotonTransfer, photon_transfer
from glenhail.core.sensor.range import NoiseModel
from glenhail.core.sensor.raw_doubts import raw_doubts
from glenhail.core.sensor.uniformity import (
    LEAST_FRAMES,
    Stack,
    Stacked,
    dark_non_uniformity,
    response_non_uniformity,
)

DARK, BRIGHT = 0.005, (0.2, 0.8)  # of the codes: what is a dark stack, and what an even one
GREY = 0.18  # of saturation, at which a ratio is told


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


@dataclass(frozen=True)
class Pattern:
    """What pixels differ by for good: ``response`` a share of the signal, ``dark``
    electrons, with deviations of rows and columns in electrons and the share of hot
    pixels. ``reason`` says what to shoot for what is None.
    """

    response: Interval | None = None
    dark: Interval | None = None
    rows: float | None = None
    columns: float | None = None
    hot: float | None = None
    reason: str = ""


@dataclass(frozen=True)
class IsoFacts:
    """A body at one ISO: of all colours together, and gain by colour letter.

    ``top`` is what the codes hold, electrons, from black to white; ``full_well`` what a
    pixel does, where that is less, else ``no_well`` says what to shoot; ``snr`` and
    ``dynamic_range`` (EV, where signal and noise are equal) are of one pixel.
    ``pattern`` is out of stacks of eight frames or more; ``doubts`` are what was done
    to the codes before they were written.
    """

    iso: float
    files: tuple[str, ...]
    transfer: PhotonTransfer
    by_colour: dict[str, PhotonTransfer]
    top: Interval | None
    full_well: Interval | None
    no_well: str
    snr: Interval | None
    dynamic_range: float | None
    dynamic_range_of_print: float | None
    cut: float
    moved: float
    pattern: Pattern
    doubts: tuple[str, ...]


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


def sensor_series(pairs: Sequence[FramePair]) -> list[IsoFacts]:
    """Facts at each ISO, the lowest first; two mosaics are in memory at a time.

    Parameters
    ----------
    pairs : sequence of FramePair
        Of one body.
    """
    by: dict[float, list[FramePair]] = defaultdict(list)
    for pair in pairs:
        by[pair.iso].append(pair)
    return [_at(iso, of) for iso, of in sorted(by.items())]


def _at(iso: float, pairs: Sequence[FramePair]) -> IsoFacts:
    found: dict[str, list[Moments]] = defaultdict(list)
    depth, pixels = 0.0, 0
    many = Counter(pair.exposure for pair in pairs)
    doubts: dict[str, None] = {}
    stacks: dict[tuple[float, float], list[Stacked]] = {}
    for pair in pairs:
        one, two = pair.one.mosaic(), pair.two.mosaic()
        if one.values.shape != two.values.shape or one.pattern != two.pattern:
            raise BadRequest(
                f"{pair.one.path.name} and {pair.two.path.name} differ in size or pattern. Give"
                " files of one body and mode."
            )
        depth, pixels = one.white - one.black, one.values.size
        if 2 * many[pair.exposure] >= LEAST_FRAMES:
            places = len(one.pattern) * len(one.pattern[0])
            into = stacks.setdefault(pair.exposure, [Stacked() for _ in range(places)])
            for mosaic in (one, two):
                _add(into, mosaic)
        doubts.update(dict.fromkeys(raw_doubts(one, two)))
        for letter, moments in moments_of(one, two).items():
            found[letter].append(moments)
    colours = {letter: Moments.joined(parts) for letter, parts in found.items()}
    every = Moments.joined(list(colours.values()))
    transfer = photon_transfer(every)
    top = _electrons(depth, transfer.gain)
    well = _well(transfer)
    model = _model(top, transfer.read_noise)
    return IsoFacts(
        iso,
        tuple(frame.path.name for pair in pairs for frame in (pair.one, pair.two)),
        transfer,
        {letter: photon_transfer(moments) for letter, moments in colours.items()},
        top,
        well,
        "" if well else _no_well(transfer, every.cut),
        _snr(top, transfer.read_noise),
        model.dynamic_range() if model else None,
        model.dynamic_range(pixels=pixels) if model else None,
        every.cut,
        every.moved,
        _pattern([[s.result() for s in of] for of in stacks.values()], depth, transfer.gain),
        tuple(doubts),
    )


def _add(into: Sequence[Stacked], mosaic: Mosaic) -> None:
    across = len(mosaic.pattern[0])
    for at, stack in enumerate(into):
        stack.add(mosaic.plane(at // across, at % across), mosaic.black)


def _pattern(
    stacks: Sequence[Sequence[Stack | None]], depth: float, gain: Interval | None
) -> Pattern:
    whole = [[s for s in of if s is not None] for of in stacks]
    whole = [of for of in whole if of]
    dark = [of for of in whole if _mean(of) < DARK * depth]
    flat = [of for of in whole if BRIGHT[0] * depth < _mean(of) < BRIGHT[1] * depth]
    if not dark or gain is None:
        return Pattern(reason=f"shoot {LEAST_FRAMES} frames or more with the cap on")
    cap = dark[0]
    rows, columns, hot = (
        sum(getattr(s, name) for s in cap) / len(cap) for name in ("rows", "columns", "hot")
    )
    return Pattern(
        response_non_uniformity(max(flat, key=_mean), cap) if flat else None,
        dark_non_uniformity(cap, gain.value),
        rows / gain.value,
        columns / gain.value,
        hot,
        "" if flat else f"shoot {LEAST_FRAMES} frames or more of an evenly lit wall, half full",
    )


def _mean(stack: Sequence[Stack]) -> float:
    return sum(s.mean for s in stack) / len(stack)


def _electrons(codes: float, gain: Interval | None) -> Interval | None:
    return gain and Interval(codes / gain.value, codes / gain.high, codes / gain.low)


def _well(transfer: PhotonTransfer) -> Interval | None:
    gain, full = transfer.gain, transfer.full_at
    return (
        gain
        and full
        and Interval(full.value / gain.value, full.low / gain.high, full.high / gain.low)
    )


def _no_well(transfer: PhotonTransfer, cut: float) -> str:
    if transfer.gain is None:
        return transfer.reason
    if cut:
        return "the converter ends before the well is full; shoot at a lower ISO"
    return "no part of the frames is full; shoot a brighter pair"


def _model(top: Interval | None, read: Interval | None) -> NoiseModel | None:
    return NoiseModel(top.value, read.value) if top and read else None


def _snr(top: Interval | None, read: Interval | None) -> Interval | None:
    """Of grey, 18 % of saturation: more electrons and less read noise make it higher."""
    if top is None or read is None:
        return None
    value, low, high = (
        NoiseModel(t, r).snr(GREY * t)
        for t, r in ((top.value, read.value), (top.low, read.high), (top.high, read.low))
    )
    return Interval(value, low, high)
