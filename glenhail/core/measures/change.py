"""What an output changed that is neither noise nor detail: colour of a patch, clipping,
tone; and an enlargement's faithfulness.
"""

from __future__ import annotations

import math

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.difference import ciede2000
from glenhail.core.colour.lab import lab
from glenhail.core.colour.roots import kernel
from glenhail.core.errors import NotConcerned, NotMeasurable
from glenhail.core.lineup.grids import ENLARGED
from glenhail.core.measures.places import colour_sums, of_mean, pseudo
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.parallel import in_strips
from glenhail.core.picture import Doubles, Floats, Rect
from glenhail.core.statistics.intervals import block_mean, jackknife
from glenhail.core.tone.cast import GREY, hue_of
from glenhail.core.tone.compare import compare_tone

LEAST_SIDE = 8
HALF_CODE = 0.5 / 255
DARKEST = 0.002  # linear, under which a colour can not be told


def colour_shift(subject: Subject, rect: Rect) -> MeasuredValue:
    """CIEDE2000 between the mean colours of output and frame once their luminance is
    matched; hue and way among the details.

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
    """
    pair = subject.with_frame(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_SIDE} × {LEAST_SIDE} frame px")
    made, frame = (colour_sums(p) for p in (pair.output, pair.truth))
    if frame.sum(axis=0) @ srgb.LUMA / pair.output.shape[0] / pair.output.shape[1] < DARKEST:
        raise NotMeasurable("the patch is too dark for its colour to be told")
    totals = made.sum(axis=0), frame.sum(axis=0)
    # All rows at once: the first over all parts, the others each without one.
    values, moved, own = _difference(
        *(np.vstack([t, t - parts]) for t, parts in zip(totals, (made, frame), strict=True))
    )
    value, left_out, moved, own = float(values[0]), values[1:], moved[0], own[0]
    found = jackknife(value, left_out)
    name = "grey" if math.hypot(own[1], own[2]) < GREY else hue_of(own[None])[0]
    details = {"colour": name, "towards_red": float(moved[1]), "towards_yellow": float(moved[2])}
    return MeasuredValue(
        value, max(0.0, found.low), found.high, pair.grid, details, pseudo(value, left_out)
    )


def _difference(made: Doubles, frame: Doubles) -> tuple[Doubles, Doubles, Doubles]:
    """CIEDE2000 of sums of linear RGB, shape (n, 3), brought to one luminance, the way
    in CIELAB, and the frame's own colours.

    Both are told at the luminance of mid grey (18 %): how far a colour moved, not how
    bright the patch is.
    """
    one, two = (lab(c * (0.18 / np.maximum(c @ srgb.LUMA, 1e-9))[:, None]) for c in (frame, made))
    return ciede2000(one, two), two - one, one


_WHITE, _BLACK = (np.float32(srgb.decode(np.array(v))) for v in (1 - HALF_CODE, HALF_CODE))


@kernel
def _count_ends(pixels: Floats) -> tuple[int, int, int]:
    """Pixels with a channel at white, at black, and at either."""
    high = low = either = 0
    for i in range(pixels.shape[0]):
        for j in range(pixels.shape[1]):
            r, g, b = pixels[i, j, 0], pixels[i, j, 1], pixels[i, j, 2]
            at_white = max(r, g, b) >= _WHITE
            at_black = min(r, g, b) <= _BLACK
            high += at_white
            low += at_black
            either += at_white or at_black
    return high, low, either


def clipped(subject: Subject, rect: Rect) -> MeasuredValue:
    """Share of the output's pixels with a channel at either end of the coded range, per
    cent; counted, so without doubt.

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
    """
    pixels = subject.native(rect) if rect != subject.whole else _shown(subject)
    counts: dict[int, tuple[int, int, int]] = {}

    def strip(start: int, end: int) -> None:
        counts[start] = _count_ends(pixels[start:end])

    in_strips(pixels.shape[0], strip)
    white, black, either = (
        100 * sum(c) / (pixels.shape[0] * pixels.shape[1])
        for c in zip(*counts.values(), strict=True)
    )
    value, details = either, {"white": white, "black": black}
    return MeasuredValue(value, value, value, "output pixels, not resampled", details)


def _shown(subject: Subject) -> Floats:
    return subject.output.picture.crop(subject.output.usable.whole())


def back_projection(subject: Subject, rect: Rect) -> MeasuredValue:
    """Faithfulness of an enlargement, dB:

    PSNR of its area averages against the frame; needs no truth.

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
        If the output is not enlarged, or gives the frame back exactly.
    """
    mapping = subject.output.mapping
    if min(mapping.sx, mapping.sy) < ENLARGED:
        raise NotConcerned("this output is not enlarged")
    pair = subject.with_frame(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_SIDE} × {LEAST_SIDE} frame px")
    squares = pair.errors.squared
    found = block_mean(squares)
    # An eighth of a 16-bit code: closer than that an enlargement gives the frame back exactly.
    if found.value < (CODES / 65535 / 8) ** 2:
        raise NotMeasurable("averaged back it is the frame exactly: the ratio is infinite")
    value, low, high = (
        _decibels(max(v, found.value / 10)) for v in (found.value, found.high, found.low)
    )
    return MeasuredValue(
        value,
        low,
        high,
        pair.grid,
        parts=of_mean(squares, lambda m: np.asarray(10 * np.log10(CODES**2 / m))),
    )


def _decibels(mean_square: float) -> float:
    return 10 * math.log10(CODES**2 / mean_square)


def tone(subject: Subject, rect: Rect) -> MeasuredValue:
    """The largest move of shadows, mids or lights beside exposure, 8-bit codes, with
    its sign; the curve among the details.

    Over the whole frame, on matched and averaged areas.

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
    """
    found = compare_tone(subject.source, subject.output)
    if not found.zones:
        raise NotMeasurable("too few areas of shadows, mids or lights to compare")
    name, most = max(found.zones.items(), key=lambda item: abs(item[1].value))
    details: dict[str, object] = {"where": name}
    details |= {
        zone: [round(CODES * v, 2) for v in (e.value, e.low, e.high)]
        for zone, e in found.zones.items()
    }
    return MeasuredValue(
        CODES * most.value,
        CODES * most.low,
        CODES * most.high,
        "areas averaged, luminance",
        details,
    )
