"""Detail where no truth is known: an output's texture against its frame's, with the
noise taken off both.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, partial

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.interval import Interval
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part, to_truth_grid
from glenhail.core.measures import welch
from glenhail.core.measures.places import pseudo
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.residual import residual
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.picture import Doubles, Floats, Rect
from glenhail.core.statistics.intervals import jackknife

# Cycles per frame px, as for detail kept.
BAND = (0.05, 0.4)
BLOCKS = (64, 32)
LEAST_BLOCKS = 9
FREQUENCY = np.arange(1, BLOCKS[-1] // 2 + 1) / BLOCKS[-1]  # of the rings, cycles/px
GROUPS = 16
LIKE = 1.5  # EV that a flat patch's brightness may be away from the texture's
DROWNED = 2.0  # times the noise's power that the texture's has to be
FAINT = 0.2  # of the noise's power that a frequency's texture has to be to count
# How far the reading may lie from what a truth would tell, in points: where the texture is clear of
# the noise, and where its power is only `DROWNED` times the noise's (docs/measures.md). Noise on a
# texture is not quite that on a flat patch, and less so the harder a tool treats the two
# differently.
CLEAR_OFF, DROWNED_OFF = 4.5, 20.0
SECOND_OFF = 3.0  # the same where a second exposure takes the noise off
NO_NOISE = (
    "no flat patch of this frame is as bright as this one, so its noise is not known: draw one"
    " within 1.5 EV"
)


@dataclass(frozen=True)
class Spectra:
    """Power by ring of frequencies of the blocks of a patch, in groups of neighbours:
    shape (groups, rings).
    """

    frequency: Doubles
    frame: Doubles
    output: Doubles
    cross: Doubles | None
    counts: Doubles


def detail_frame(subject: Subject, rect: Rect) -> MeasuredValue:
    """Share of the frame's own texture that an output has, per cent: it needs no truth.

    sqrt((S_out - N_out) / (S_frame - N_frame)) over 0.05 to 0.4 cycles per frame px,
    each frequency by the frame's amplitude; each noise is that of its own picture's
    flat patches of like brightness. With a second exposure of the same scene: the
    output's cross spectrum with it over the frame's, which needs no flat patch. In the
    first, invented texture counts as if it were real.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    rect : Rect
        The patch, frame px.

    Returns
    -------
    MeasuredValue
        The value with its interval and details, in the measure's unit.

    Raises
    ------
    NotMeasurable
        Where there is no flat patch of like brightness, or noise drowns the texture.

    References
    ----------
    McElvain, Campbell, Miller and Jin, Proc. SPIE 7537, 2010. Cao, Guichard and
    Hornung, Proc. SPIE 7250, 2009.
    """
    if subject.output.picture is subject.source:
        return MeasuredValue(100.0, 100.0, 100.0, "the frame itself")
    if subject.second is not None:
        return _by_second(subject, rect, subject.second)
    frame, output, grid = _planes(subject, rect)
    found = _spectra(frame, output, None)
    noises = _noise(subject, rect)
    signal = found.frame.sum(axis=0) / found.counts.sum() - noises[0]
    band = _band(found.frequency)
    ratio = float(
        (signal * found.frequency)[band].sum()
        / max(float((noises[0] * found.frequency)[band].sum()), 1e-12)
    )
    if ratio < DROWNED:
        raise NotMeasurable(
            f"noise drowns the texture here: its power is {max(0.0, ratio):.1f} times the noise's,"
            f" needs {DROWNED:g}"
        )

    def told(frames: Doubles, outputs: Doubles, count: float) -> float:
        clean, made = frames / count - noises[0], outputs / count - noises[1]
        use = band & (clean > FAINT * noises[0])
        weight = np.sqrt(clean[use])
        # Rings where noise took more than there was count as below nothing, so that chance does not
        # add up.
        share = np.sign(made[use]) * np.sqrt(np.abs(made[use]) / clean[use])
        return 100 * float((share * weight).sum() / weight.sum())

    whole = told(found.frame.sum(axis=0), found.output.sum(axis=0), float(found.counts.sum()))
    left_out = _left_out(found, told)
    interval = jackknife(whole, left_out)
    off = max(CLEAR_OFF, DROWNED_OFF * (DROWNED / ratio) ** 0.7)
    reach = math.hypot(interval.high - interval.value, off)
    details = {"texture_over_noise": ratio, "invented_counts": True, "by": "flat patches"}
    return MeasuredValue(
        whole, max(0.0, whole - reach), whole + reach, grid, details, pseudo(whole, left_out)
    )


def _left_out(found: Spectra, told: Callable[[Doubles, Doubles, float], float]) -> Doubles:
    frames, outputs = found.frame.sum(axis=0), found.output.sum(axis=0)
    count = float(found.counts.sum())
    assert callable(told)
    return np.array(
        [
            told(frames - f, outputs - o, count - c)
            for f, o, c in zip(found.frame, found.output, found.counts, strict=True)
        ]
    )


def _by_second(subject: Subject, rect: Rect, second: AlignedPicture) -> MeasuredValue:
    """Two exposures have the scene in common and no noise: neither have the output and
    the second.
    """
    frame, output, grid = _planes(subject, rect)
    other = _on_frame(second, rect)
    if other.shape != frame.shape:
        raise NotMeasurable("the patch reaches beyond the edge of the second exposure")
    made, own = (_spectra(plane, other, other) for plane in (output, frame))
    assert made.cross is not None and own.cross is not None
    band = _band(made.frequency)

    def told(outputs: Doubles, frames: Doubles) -> float:
        use = band & (frames > 0)
        weight = np.sqrt(frames[use])
        return 100 * float((outputs[use] / frames[use] * weight).sum() / weight.sum())

    total = made.cross.sum(axis=0), own.cross.sum(axis=0)
    if float(total[1][band].sum()) < FAINT * float(own.frame.sum(axis=0)[band].sum()):
        raise NotMeasurable(
            "noise drowns the texture here: the two exposures have too little in common"
        )
    whole = told(*total)
    left_out = np.array(
        [told(total[0] - m, total[1] - o) for m, o in zip(made.cross, own.cross, strict=True)]
    )
    found: Interval = jackknife(whole, left_out)
    details = {"invented_counts": False, "by": "a second exposure"}
    reach = math.hypot(found.high - found.value, SECOND_OFF)
    return MeasuredValue(
        whole,
        whole - reach,
        whole + reach,
        f"{grid}, against a second exposure",
        details,
        pseudo(whole, left_out),
    )


def _planes(subject: Subject, rect: Rect) -> tuple[Floats, Floats, str]:
    """Luma of frame and output on the frame's grid, 8-bit codes."""
    if subject.output.mapping.keeps_pixels():
        pair = subject.with_frame(rect)
        return pair.lumas[1], pair.lumas[0], pair.grid
    frame = srgb.luma(subject.source.crop(rect.whole())) * np.float32(CODES)
    placed = _placed(subject.output, rect)
    if placed is None:
        raise NotMeasurable("the patch reaches beyond this output's edge")
    return frame, placed[0], placed[1]


def _placed(laid: AlignedPicture, rect: Rect) -> tuple[Floats, str] | None:
    wanted = rect.whole()
    if shared_part(wanted, laid.mapping, laid.usable) != wanted:
        return None
    placed = to_truth_grid(laid.picture.pixels, laid.mapping, wanted)
    return srgb.luma(placed.pixels) * np.float32(CODES), placed.grid.replace(
        "truth's grid", "frame's grid"
    )


def _on_frame(laid: AlignedPicture, rect: Rect) -> Floats:
    placed = _placed(laid, rect)
    return placed[0] if placed is not None else np.empty((0, 0), np.float32)


def _band(frequency: Doubles) -> np.ndarray:
    return np.asarray((frequency >= BAND[0]) & (frequency <= BAND[1]))


def _spectra(one: Floats, two: Floats, crossed: Floats | None) -> Spectra:
    side = next((b for b in BLOCKS if welch.count(one.shape, b) >= LEAST_BLOCKS), None)
    if side is None or min(one.shape) < side:
        size = f"{one.shape[1]} × {one.shape[0]}"
        raise NotMeasurable(
            f"{size} px are too few to tell frequencies apart, needs {2 * BLOCKS[-1]} ×"
            f" {2 * BLOCKS[-1]}"
        )
    first, second = (welch.spectra(plane, side) for plane in (one, two))
    starts = welch.groups_of(first.shape[0], GROUPS)
    powers = [_rings(np.abs(b) ** 2, side, starts) for b in (first, second)]
    cross = None if crossed is None else _rings((first * np.conj(second)).real, side, starts)
    return Spectra(
        FREQUENCY,
        powers[0],
        powers[1],
        cross,
        np.diff([*starts, first.shape[0]]).astype(np.float64),
    )


@cache
def _ring_of(side: int) -> welch.Rings:
    """Rings of half a cycle per block of the smallest blocks, so that all sides have
    the same ones.
    """
    ring = np.round(np.hypot(*welch.frequencies(side)) * BLOCKS[-1]).astype(int)
    return welch.Rings.of(ring, (ring > 0) & (ring <= FREQUENCY.size))


def _rings(power: np.ndarray, side: int, starts: np.ndarray) -> Doubles:
    """Densities summed over the blocks of each group, mean over each ring; shape
    (groups, rings).
    """
    return _ring_of(side).means(welch.by_groups(power, starts)) / welch.power_of(side)


def _noise_of(plane: Floats) -> Doubles:
    """Noise power of a flat patch by ring."""
    blocks = welch.spectra(residual(plane), BLOCKS[-1], level=False)
    return np.asarray(
        _rings(np.abs(blocks) ** 2, BLOCKS[-1], np.zeros(1, dtype=int))[0] / blocks.shape[0]
    )


def _noise(subject: Subject, rect: Rect) -> tuple[Doubles, Doubles]:
    """Noise power by ring of the frame and of the output, from flat patches of like
    brightness, the nearer the more.
    """
    own = _level(subject, rect)
    made: list[tuple[float, Doubles, Doubles]] = []
    for place in subject.plain:
        away = abs(math.log2(max(_level(subject, place), 1e-6) / max(own, 1e-6)))
        output = _placed(subject.output, place)
        if away > LIKE or output is None or min(place.whole().w, place.whole().h) < BLOCKS[-1]:
            continue
        own_noise = subject.shared("frame's noise", place, partial(_frame_noise, subject, place))
        made.append((1 / (0.2 + away), own_noise, _noise_of(output[0])))
    if not made:
        raise NotMeasurable(NO_NOISE)
    weights = sum(w for w, _, _ in made)
    frame_noise, output_noise = (
        np.asarray(sum(m[0] * m[i] for m in made) / weights) for i in (1, 2)
    )
    return frame_noise, output_noise


def _frame_noise(subject: Subject, place: Rect) -> Doubles:
    return _noise_of(srgb.luma(subject.source.crop(place.whole())) * np.float32(CODES))


def _level(subject: Subject, rect: Rect) -> float:
    """Mean linear luminance of the frame at a place."""

    def find() -> float:
        inside = rect.whole().clipped(subject.whole)
        light = subject.source.crop(inside)
        return (
            float(srgb.luminance(light).mean(dtype=np.float64))
            if inside.w >= 1 and inside.h >= 1
            else 0.0
        )

    return subject.shared("level", rect, find)
