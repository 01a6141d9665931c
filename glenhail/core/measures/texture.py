"""Detail of texture against a truth, and contrast of coarse structure, told apart by frequency."""

from __future__ import annotations

import math

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.intervals import jackknife
from glenhail.core.measures.places import pseudo, sums
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.spectra import Transfer, Transfers, transfers
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.methods.resample import resample
from glenhail.core.picture import Doubles, Floats, Rect

# Cycles per frame px between which detail counts: below lies contrast, above lies aliasing (MEASURES' own choice).
BAND = (0.05, 0.4)
GROUPS = 16
MOST_SIDE = 1024
LEAST_TEXTURE = 0.5  # codes, deviation of the truth within the band under which there is no texture to keep
# Half of a Gaussian's contrast is left at 0.18739 / sigma: 1/16 cycle per frame px.
COARSE_SIGMA = 0.18739 * 16
LEAST_COARSE_SIDE = 48
CELL = 4  # px that are averaged in linear light before they are encoded
AGREE = 0.01  # gains that are taken for the same
LEAST_CONTRAST = 1.0  # codes


def _transfers(subject: Subject, rect: Rect) -> Transfers:
    def find() -> Transfers:
        output, truth = (plane[:MOST_SIDE, :MOST_SIDE] for plane in subject.pair(rect).lumas)
        found = transfers(truth, output, GROUPS)
        if _in_band(found.whole) < LEAST_TEXTURE:
            raise NotMeasurable("the truth has no texture here to be kept")
        return found

    return subject.once("transfers", rect, find)


def _in_band(found: Transfer) -> float:
    """Deviation of the truth within the band, codes; spectra are of Hann blocks, whose window takes 0.1406 of the power."""
    inside = (found.frequency >= BAND[0]) & (found.frequency <= BAND[1])
    step = float(np.diff(found.frequency).mean())
    ring = 2 * math.pi * found.frequency * step  # area of each ring of frequencies
    side = round(1 / step)
    return math.sqrt(float((found.power * ring)[inside].sum()) / (side * side * 0.140625))


def detail_kept(subject: Subject, rect: Rect) -> Measured:
    """Share of the truth's texture that is there, in place and in phase, per cent; noise and invention do not raise it.

    Re(S_xy) / S_xx over 0.05 to 0.4 cycles per frame px, each frequency by the truth's amplitude: the truth itself has 100, a
    blur its MTF.

    References
    ----------
    Kirk, Herzer, Artmann and Kunz, Proc. SPIE 9014, 2014.
    """
    return _read(subject, rect, "kept")


def detail_added(subject: Subject, rect: Rect) -> Measured:
    """Power in the same band that is not coherent with the truth, over the truth's, per cent: noise or invention."""
    return _read(subject, rect, "added")


def _read(subject: Subject, rect: Rect, what: str) -> Measured:
    found = _transfers(subject, rect)

    def told(t: Transfer) -> float:
        return t.mean_kept(*BAND) if what == "kept" else t.mean_added(*BAND)

    left_out = np.array([told(t) for t in found.left_out])
    interval = jackknife(told(found.whole), left_out)
    low = interval.low if what == "kept" else max(0.0, interval.low)
    grid = subject.pair(rect).grid
    return Measured(interval.value, low, interval.high, grid, _curve(found), pseudo(interval.value, left_out))


def _curve(found: Transfers) -> dict[str, object]:
    """Texture transfer by frequency with its own intervals, up to the frame's limit, for the charts."""
    whole, count = found.whole, len(found.left_out)
    if count > 1:
        spread = np.stack([t.kept for t in found.left_out])
        error = np.sqrt((count - 1) / count * ((spread - spread.mean(axis=0)) ** 2).sum(axis=0))
    else:
        error = np.zeros_like(whole.kept)
    rows = {"cycles_per_frame_px": whole.frequency, "kept": whole.kept, "error": 2 * error, "added": whole.added}
    return {"transfer": {name: [round(float(v), 4) for v in values] for name, values in rows.items()}}


def contrast_change(subject: Subject, rect: Rect) -> Measured:
    """Gain of structure coarser than 16 frame px, output over frame: contrast, which is not detail. 1 is unchanged.

    Regression of blurred luma on the frame's, so that contrast is told apart from the detail that it raises as well. An average of
    noisy encoded values is darker than the light is, so that averaging noise in linear light seems to raise contrast; sharpening
    encoded values seems so in linear light. So both averages are taken, and of two that differ the one that says less.
    """
    pair = subject.with_frame(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_COARSE_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_COARSE_SIDE} x {LEAST_COARSE_SIDE} frame px")
    encoded = _gains(*(scipy.ndimage.gaussian_filter(plane, COARSE_SIGMA, output=np.float64) for plane in pair.lumas))
    linear = _gains(*(_coarse(pixels) for pixels in (pair.output, pair.truth)))
    details = {"averaged_encoded": encoded[0], "averaged_linear": linear[0]}
    value, left_out = linear if abs(encoded[0] - linear[0]) > AGREE and abs(linear[0] - 1) < abs(encoded[0] - 1) else encoded
    found = jackknife(value, left_out)
    return Measured(value, found.low, found.high, pair.grid, details, pseudo(value, left_out))


def _gains(made: Doubles, frame: Doubles) -> tuple[float, Doubles]:
    """Gain of one blurred plane over another, and others that each leave out one part of the patch."""
    made, frame = made - made.mean(), frame - frame.mean()
    if frame.std() < LEAST_CONTRAST:
        raise NotMeasurable("the frame has no coarse structure here to tell contrast by")
    both, own = sums(made * frame)[0], sums(frame * frame)[0]
    return float(both.sum() / own.sum()), np.asarray((both.sum() - both) / (own.sum() - own))


def _coarse(linear: Floats) -> Doubles:
    """Luma of cells averaged in linear light, codes, blurred so that half of the contrast is left at 1/16 cycle a px."""
    rows, columns = linear.shape[0] // CELL, linear.shape[1] // CELL
    cells = resample(linear, Rect(0, 0, columns * CELL, rows * CELL), columns, rows, "area")
    return scipy.ndimage.gaussian_filter(srgb.luma(cells) * np.float32(CODES), COARSE_SIGMA / CELL, output=np.float64)
