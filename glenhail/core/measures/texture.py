"""Detail of texture against a truth, and contrast of coarse structure, told apart by
frequency.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import cv2
import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotConcerned, NotMeasurable
from glenhail.core.filters.blur import gaussian
from glenhail.core.measures.places import pseudo, sums
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.spectra import BeyondNyquist, Transfer, Transfers, transfers
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.picture import Doubles, Floats, Rect
from glenhail.core.statistics.intervals import jackknife

# Cycles per frame px between which detail counts: below lies contrast, above lies aliasing
# (MEASURES' own choice).
BAND = (0.05, 0.4)
GROUPS = 16
MOST_SIDE = 1024
HANN_POWER = 0.140625  # mean square of a two-dimensional Hann window
LEAST_LARGER, LEAST_BEYOND = (
    1.02,
    1.25,
)  # times the frame that a truth has to be for something to lie beyond
# codes, deviation of the truth beyond the frame's limit under which there is nothing to win back
LEAST_FINE = 0.1
LEAST_TEXTURE = (
    0.5  # codes, deviation of the truth within the band under which there is no texture to keep
)
# Half of a Gaussian's contrast is left at 0.18739 / sigma: 1/16 cycle per frame px.
COARSE_SIGMA = 0.18739 * 16
LEAST_COARSE_SIDE = 48
CELL = 4  # px that are averaged in linear light before they are encoded
AGREE = 0.01  # gains that are taken for the same
LEAST_CONTRAST = 1.0  # codes


def _transfers(subject: Subject, rect: Rect) -> Transfers:
    def find() -> Transfers:
        pair = subject.pair(rect)
        most = round(MOST_SIDE * max(1.0, pair.scale))
        output, truth = (plane[:most, :most] for plane in pair.lumas)
        found = transfers(truth, output, GROUPS, pair.scale)
        if _in_band(found.whole, pair.scale) < LEAST_TEXTURE:
            raise NotMeasurable("the truth has no texture here to be kept")
        return found

    return subject.once("transfers", rect, find)


def _band(scale: float) -> tuple[float, float]:
    """The band in cycles per px of a truth that has `scale` of them for each of the
    frame's.
    """
    return BAND[0] / scale, BAND[1] / max(scale, 1.0)


def _in_band(found: Transfer, scale: float) -> float:
    """Deviation of the truth within the band, codes; spectra are of Hann blocks, whose
    window takes 0.1406 of the power.
    """
    low, high = _band(scale)
    inside = (found.frequency >= low) & (found.frequency <= high)
    step = float(np.diff(found.frequency).mean())
    ring = 2 * math.pi * found.frequency * step  # area of each ring of frequencies
    side = round(1 / step)
    return math.sqrt(float((found.power * ring)[inside].sum()) / (side * side * HANN_POWER))


def detail_kept(subject: Subject, rect: Rect) -> MeasuredValue:
    """Share of the truth's texture that is there, in place and in phase, per cent;
    noise and invention do not raise it.

    Re(S_xy) / S_xx on the truth's grid over 0.05 to 0.4 cycles per frame px, each
    frequency by the truth's amplitude: the truth itself has 100, a blur its MTF.

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

    References
    ----------
    Kirk, Herzer, Artmann and Kunz, Proc. SPIE 9014, 2014.
    """
    return _read(subject, rect, "kept")


def detail_added(subject: Subject, rect: Rect) -> MeasuredValue:
    """Power in the same band that is not coherent with the truth, over the truth's, per
    cent: noise or invention.

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
    return _read(subject, rect, "added")


def _read(subject: Subject, rect: Rect, what: str) -> MeasuredValue:
    found, pair = _transfers(subject, rect), subject.pair(rect)
    band = _band(pair.scale)

    def told(t: Transfer) -> float:
        return t.mean_kept(*band) if what == "kept" else t.mean_added(*band)

    left_out = np.array([told(t) for t in found.left_out])
    interval = jackknife(told(found.whole), left_out)
    low = interval.low if what == "kept" else max(0.0, interval.low)
    details = _curve(found, pair.scale)
    if what == "kept" and pair.scale > LEAST_LARGER:
        details["frame_holds"] = _frame_holds(subject, rect)
    return MeasuredValue(
        interval.value, low, interval.high, pair.grid, details, pseudo(interval.value, left_out)
    )


def _frame_holds(subject: Subject, rect: Rect) -> float:
    """Detail kept by the frame itself, enlarged by Lanczos: what its own making
    (averaging, say) has lost, no enlarger keeps.
    """

    def find() -> float:
        pair = subject.pair(rect)
        frame = srgb.luma(subject.frame_on_truth(pair)) * np.float32(CODES)
        most = round(MOST_SIDE * pair.scale)
        found = transfers(pair.lumas[1][:most, :most], frame[:most, :most], 0, pair.scale)
        return found.whole.mean_kept(*_band(pair.scale))

    return subject.once("frame holds", rect, find)


def detail_restored(subject: Subject, rect: Rect) -> MeasuredValue:
    """Share of the truth's texture beyond the frame's own Nyquist frequency that an
    enlargement has, in place and in phase, %.

    Beyond means max(|fx|, |fy|) over half a cycle per frame px, up to 0.4 cycles per px
    of the truth. A sinc enlargement, which adds nothing, has 0; the truth has 100;
    texture that only looks like it has 0 as well.

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
        If there is no truth, it is no larger than 1.25 times the frame, or it has no
        texture there.
    """
    return _read_beyond(subject, rect, lambda b: b.kept, None)


def detail_invented(subject: Subject, rect: Rect) -> MeasuredValue:
    """Power in that band that is not coherent with the truth, over the truth's, %: made
    up, or sharpened stairs.

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
    return _read_beyond(subject, rect, lambda b: b.added, 0.0)


def _read_beyond(
    subject: Subject, rect: Rect, told: Callable[[BeyondNyquist], float], least: float | None
) -> MeasuredValue:
    pair = subject.pair(rect)
    if pair.scale <= LEAST_BEYOND:
        if pair.scale <= LEAST_LARGER:
            raise NotConcerned(
                "the truth is no larger than the frame: nothing lies beyond what the frame"
                " could hold"
            )
        raise NotMeasurable(
            f"the truth is {pair.scale:.2f} times the frame: nothing lies between their limits,"
            f" needs over {LEAST_BEYOND:g}"
        )
    found = _transfers(subject, rect)
    whole = found.whole.beyond
    if whole is None:
        raise NotMeasurable(
            "the patch is too small to tell what lies beyond the frame's own detail"
        )
    side = round(1 / float(np.diff(found.whole.frequency).mean()))
    # Both halves of the plane of frequencies count, over a Hann window's power.
    if math.sqrt(2 * whole.power / (side**4 * HANN_POWER)) < LEAST_FINE:
        raise NotMeasurable("the truth has nothing here that is finer than the frame could hold")
    left_out = np.array([told(t.beyond) for t in found.left_out if t.beyond is not None])
    interval = jackknife(told(whole), left_out)
    low = interval.low if least is None else max(least, interval.low)
    return MeasuredValue(
        interval.value,
        low,
        interval.high,
        pair.grid,
        _curve(found, pair.scale),
        pseudo(interval.value, left_out),
    )


def _curve(found: Transfers, scale: float) -> dict[str, Any]:
    """Texture transfer by frequency with its own intervals, up to the frame's limit,
    for the charts.
    """
    whole, count = found.whole, len(found.left_out)
    if count > 1:
        spread = np.stack([t.kept for t in found.left_out])
        error = np.sqrt((count - 1) / count * ((spread - spread.mean(axis=0)) ** 2).sum(axis=0))
    else:
        error = np.zeros_like(whole.kept)
    rows = {
        "cycles_per_frame_px": whole.frequency * scale,
        "kept": whole.kept,
        "error": 2 * error,
        "added": whole.added,
    }
    return {
        "transfer": {name: [round(float(v), 4) for v in values] for name, values in rows.items()}
    }


def contrast_change(subject: Subject, rect: Rect) -> MeasuredValue:
    """Gain of structure coarser than 16 frame px, output over frame: contrast, which is
    not detail. 1 is unchanged.

    Regression of blurred luma on the frame's, so that contrast is told apart from the
    detail that it raises as well. An average of noisy encoded values is darker than the
    light is, so that averaging noise in linear light seems to raise contrast;
    sharpening encoded values seems so in linear light. So both averages are taken, and
    of two that differ the one that says less.

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
    if min(pair.rect.w, pair.rect.h) < LEAST_COARSE_SIDE:
        raise NotMeasurable(
            f"the patch is too small, needs {LEAST_COARSE_SIDE} × {LEAST_COARSE_SIDE} frame px"
        )
    encoded = _gains(*(gaussian(plane, COARSE_SIGMA) for plane in pair.lumas))
    linear = _gains(*(_coarse(pixels) for pixels in (pair.output, pair.truth)))
    details = {"averaged_encoded": encoded[0], "averaged_linear": linear[0]}
    value, left_out = (
        linear
        if abs(encoded[0] - linear[0]) > AGREE and abs(linear[0] - 1) < abs(encoded[0] - 1)
        else encoded
    )
    found = jackknife(value, left_out)
    return MeasuredValue(value, found.low, found.high, pair.grid, details, pseudo(value, left_out))


def _gains(made: Floats, frame: Floats) -> tuple[float, Doubles]:
    """Gain of one blurred plane over another, and others that each leave out one part
    of the patch.
    """
    made, frame = (
        plane - plane.mean(dtype=np.float64).astype(np.float32) for plane in (made, frame)
    )
    both, own = sums(made * frame)[0], sums(frame * frame)[0]
    if math.sqrt(own.sum() / frame.size) < LEAST_CONTRAST:
        raise NotMeasurable("the frame has no coarse structure here to tell contrast by")
    return float(both.sum() / own.sum()), np.asarray((both.sum() - both) / (own.sum() - own))


def _coarse(linear: Floats) -> Floats:
    """Luma of cells averaged in linear light, codes, blurred so that half of the
    contrast is left at 1/16 cycle a px.
    """
    rows, columns = linear.shape[0] // CELL, linear.shape[1] // CELL
    whole = np.ascontiguousarray(linear[: rows * CELL, : columns * CELL])
    cells = np.asarray(
        cv2.resize(whole, (columns, rows), interpolation=cv2.INTER_AREA), dtype=np.float32
    )
    return gaussian(srgb.luma(cells) * np.float32(CODES), COARSE_SIGMA / CELL)
