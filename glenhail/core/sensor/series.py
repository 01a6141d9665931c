"""A body's facts over ISO, out of pairs of its raw files."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from glenhail.core.interval import Interval
from glenhail.core.sensor.frames import FramePair
from glenhail.core.sensor.pairs import Moments
from glenhail.core.sensor.photon_transfer import PhotonTransfer, photon_transfer
from glenhail.core.sensor.range import NoiseModel, Ranges, ranges_of
from glenhail.core.sensor.reading import DARK, PairRead, read_pairs
from glenhail.core.sensor.uniformity import (
    LEAST_FRAMES,
    Stack,
    dark_non_uniformity,
    response_non_uniformity,
)

BRIGHT = (0.2, 0.8)  # of the codes: what an even stack is lit to
WANDERING = 4  # dark frames, of which the last may differ from the first
GREY = 0.18  # of saturation, at which a ratio is told


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
    pixel does, where that is less, else ``no_well`` says what to shoot; ``snr`` is of
    one pixel at 18 % of saturation; ``band_rows`` and ``band_columns`` are how far
    lines go up and down together from frame to frame without light, electrons;
    ``black_moved`` by how many codes dark frames lie from the black that files tell,
    and ``black_wanders`` how far apart that is among four frames or more. ``pattern``
    is out of stacks of eight frames or more; ``doubts`` are what was done
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
    ranges: Ranges
    band_rows: float | None
    band_columns: float | None
    black_moved: float | None
    black_wanders: float | None
    cut: float
    moved: float
    pattern: Pattern
    doubts: tuple[str, ...]


def sensor_series(pairs: Sequence[FramePair], pixels: int | None = None) -> list[IsoFacts]:
    """Facts at each ISO, the lowest first; two mosaics are in memory at a time.

    Parameters
    ----------
    pairs : sequence of FramePair
        Of one body.
    pixels : int, optional
        Of the whole sensor, where frames are a part of it.
    """
    return facts_of(read_pairs(pairs), pixels)


def facts_of(reads: Sequence[PairRead], pixels: int | None = None) -> list[IsoFacts]:
    """The same out of pairs that were read.

    Parameters
    ----------
    reads : sequence of PairRead
        Of one body.
    pixels : int, optional
        Of the whole sensor, where frames are a part of it.
    """
    by: dict[float, list[PairRead]] = defaultdict(list)
    for read in reads:
        by[read.pair.iso].append(read)
    return [_at(iso, of, pixels or of[-1].pixels) for iso, of in sorted(by.items())]


def _at(iso: float, reads: Sequence[PairRead], pixels: int) -> IsoFacts:
    found: dict[str, list[Moments]] = defaultdict(list)
    for read in reads:
        for letter, moments in read.moments.items():
            found[letter].append(moments)
    colours = {letter: Moments.joined(parts) for letter, parts in found.items()}
    every = Moments.joined(list(colours.values()))
    transfer = photon_transfer(every)
    depth = reads[-1].depth
    top = _electrons(depth, transfer.gain)
    well = _well(transfer)
    blacks = [black for r in reads for black in r.blacks]
    stacks = [r.stack for r in reads if r.stack]
    return IsoFacts(
        iso,
        tuple(name for read in reads for name in read.files),
        transfer,
        {letter: photon_transfer(moments) for letter, moments in colours.items()},
        top,
        well,
        "" if well else _no_well(transfer, every.cut),
        _snr(top, transfer.read_noise),
        ranges_of(top, transfer.read_noise, pixels),
        *_bands([r.lines for r in reads if r.lines], transfer.gain),
        sum(blacks) / len(blacks) if blacks else None,
        max(blacks) - min(blacks) if len(blacks) >= WANDERING else None,
        every.cut,
        every.moved,
        _pattern(stacks, depth, transfer.gain),
        tuple(dict.fromkeys(doubt for read in reads for doubt in read.doubts)),
    )


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


def _bands(
    lines: Sequence[tuple[float, float]], gain: Interval | None
) -> tuple[float | None, float | None]:
    if not lines or gain is None:
        return None, None
    rows, columns = (math.sqrt(max(0.0, sum(of) / len(of))) for of in zip(*lines, strict=True))
    return rows / gain.value, columns / gain.value


def _snr(top: Interval | None, read: Interval | None) -> Interval | None:
    """Of grey, 18 % of saturation: more electrons and less read noise make it higher."""
    if top is None or read is None:
        return None
    value, low, high = (
        NoiseModel(t, r).snr(GREY * t)
        for t, r in ((top.value, read.value), (top.low, read.high), (top.high, read.low))
    )
    return Interval(value, low, high)
