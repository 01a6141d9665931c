"""A truth from a second shot: the same scene at base ISO from a tripod, brought to the
noisy frame's exposure.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.errors import BadRequest, NoLineUp
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part, to_frame_grid
from glenhail.core.lineup.register import LineUp, line_up
from glenhail.core.measures.subject import CODES
from glenhail.core.picture import Doubles, Floats, Mapping, Picture, Rect
from glenhail.core.truth.still import move_of

MOST_SHIFT = 16.0  # px; a tripod that moved further may stand elsewhere
MOST_STRETCH = 1.0  # px, end to end
MOST_RESIDUAL = 0.5  # px
MOST_BENT = 1.0  # px, anywhere in the picture
MOST_EXPOSURE = 3.0  # EV; beyond that, the base frame's own noise is lifted into the truth
MOST_MOVED = 0.005  # share of the cells
CELL = 16  # px
# A cell counts as changed when its mean differs by this many standard errors of the noise, and by
# so many 8-bit codes.
SURE, LEAST_CHANGE = 6.0, 3.0
CLIPPED = 0.97  # linear; cells that reach it say nothing
DARKEST, LEAST_CELLS = 0.004, 12  # linear; cells that exposure is compared in
MOST_CUT = 0.02  # share of a cell's pixels that may lie at black


@dataclass(frozen=True)
class Twin:
    """A base-ISO frame as truth of another.

    Attributes
    ----------
    truth : ndarray of float32, shape (h, w, 3)
        The base frame at the other's exposure, on its own grid.
    mapping : Mapping
        From the frame to the truth, px.
    residual : float
        What the line-up leaves over, px.
    exposure : float
        EV by which the base frame was brighter, and which was taken off.
    moved : float
        Share of the frame's cells whose mean differs by more than noise explains.
    clipped : float
        Share of the base frame's values at white, where it is no truth if it was the
        brighter one.
    """

    truth: Floats
    mapping: Mapping
    residual: float
    exposure: float
    moved: float
    clipped: float


def twin_of(frame: Picture, base: Picture) -> Twin:
    """Make a base-ISO frame the truth of a noisier one.

    Parameters
    ----------
    frame : Picture
        The frame.
    base : Picture
        The same scene at base ISO.

    Raises
    ------
    BadRequest
        If it does not line up, was taken at another size or from elsewhere, or part of
        the scene moved; the text names the base frame, tells how much, and where.
    """
    name = base.facts.name
    found = _lined_up(frame, base)
    mapping = move_of(found.mapping, frame.width, frame.height).mapping
    laid = AlignedPicture(base, mapping, found.usable(base))
    both = _compared(frame, laid)
    stops = _exposure(both, name)
    if abs(stops) > MOST_EXPOSURE:
        raise BadRequest(
            f"{name}: {stops:+.1f} EV from the frame; up to {MOST_EXPOSURE:g} EV can be matched."
            " Expose both alike by the shutter."
        )
    gain = np.float32(2.0**-stops)
    moved, where = _moved(both, gain)
    if moved > MOST_MOVED:
        raise BadRequest(
            f"{name}: the scene moved between the two: {100 * moved:.1f} % of it differs by more"
            f" than noise, most of that around {where[0]:.0f}, {where[1]:.0f} px. Use another shot,"
            " or one of a still scene."
        )
    clipped = float((base.pixels >= CLIPPED).any(axis=2).mean())
    return Twin(base.pixels * gain, mapping, found.residual, stops, moved, clipped)


def _lined_up(frame: Picture, base: Picture) -> LineUp:
    name = base.facts.name
    try:
        found = line_up(frame, base)
    except NoLineUp as why:
        raise BadRequest(f"{name}: {why}.") from why
    m = move_of(found.mapping, frame.width, frame.height)
    if m.stretch > MOST_STRETCH:
        raise BadRequest(
            f"{name}: {found.mapping.sx:.4f} x the frame's size. A twin is shot with the same body,"
            " lens and place."
        )
    if max(abs(m.dx), abs(m.dy)) > MOST_SHIFT:
        raise BadRequest(
            f"{name}: shifted by {m.dx:.1f}, {m.dy:.1f} px, at most {MOST_SHIFT:g}. The tripod"
            " moved: shoot both again."
        )
    # A turn or bend that the line-up explains is none that a tripod makes; what it explains is not
    # in its residual.
    if m.bent > MOST_BENT:
        raise BadRequest(
            f"{name}: turned or bent by up to {m.bent:.1f} px against the frame. The tripod moved:"
            " shoot both again."
        )
    if found.residual > MOST_RESIDUAL:
        raise BadRequest(
            f"{name}: it lines up only to {found.residual:.2f} px, at most {MOST_RESIDUAL:g}."
            " Camera or scene moved."
        )
    return found


@dataclass(frozen=True)
class _Compared:
    """Both shots on the frame's grid, and the cells that say something of both."""

    part: Rect
    shot: Floats
    base: Floats
    useful: np.ndarray


def _compared(frame: Picture, laid: AlignedPicture) -> _Compared:
    part = shared_part(frame.bounds, laid.mapping, laid.usable)
    part = Rect(part.x, part.y, part.w // CELL * CELL, part.h // CELL * CELL)
    base = np.asarray(to_frame_grid(laid.picture.pixels, laid.mapping, part).pixels)
    shot = frame.crop(part)
    brightest = np.maximum(base, shot).max(axis=2)
    useful = _cells(np.asarray(brightest, dtype=np.float32)).max(axis=(1, 3)) < CLIPPED
    # Where noise was cut off at black the mean is lifted: it differs without anything having moved,
    # and exposure seems higher.
    cut = np.asarray((shot <= 0).any(axis=2), dtype=np.float32)
    useful &= _cells(cut).mean(axis=(1, 3)) < MOST_CUT
    return _Compared(part, shot, base, useful)


def _exposure(both: _Compared, name: str) -> float:
    """EV by which the base frame is the brighter one: the median over useful cells."""
    one, two = (
        _cells(srgb.luminance(p)).mean(axis=(1, 3))[both.useful] for p in (both.shot, both.base)
    )
    lit = (one > DARKEST) & (two > DARKEST / 16)
    if lit.sum() < LEAST_CELLS:
        raise BadRequest(
            f"{name}: its exposure can not be compared: too few parts are neither black nor white"
            " in both."
        )
    return float(np.median(np.log2(two[lit] / one[lit])))


def _moved(both: _Compared, gain: np.float32) -> tuple[float, tuple[float, float]]:
    """Share of useful cells that changed, and the middle of the largest patch of them."""
    part, shot, truth, useful = both.part, both.shot, both.base * gain, both.useful
    # On encoded values noise has much the same size everywhere; black stays linear there, so that
    # it has no bias.
    codes = _cells((srgb.luma(shot) - srgb.luma(truth)) * np.float32(CODES))
    change, error = codes.mean(axis=(1, 3)), codes.std(axis=(1, 3)) / CELL
    level = _cells(srgb.luma(truth) * np.float32(CODES)).mean(axis=(1, 3))
    change = change - _tone(level, change, useful)
    differs = useful & (np.abs(change) > np.maximum(LEAST_CHANGE, SURE * error))
    if not differs.any():
        return 0.0, (0.0, 0.0)
    label, _ = scipy.ndimage.label(differs, structure=np.ones((3, 3)))
    rows, columns = np.nonzero(label == np.bincount(label.ravel())[1:].argmax() + 1)
    where = part.x + (columns.mean() + 0.5) * CELL, part.y + (rows.mean() + 0.5) * CELL
    return float(differs.sum() / max(1, useful.sum())), where


def _cells(plane: np.ndarray) -> np.ndarray:
    height, width = plane.shape
    return plane.reshape(height // CELL, CELL, width // CELL, CELL)


def _tone(level: Floats, change: Floats, useful: np.ndarray) -> Doubles:
    """What a plain tone difference explains of the change: its median at each
    brightness.
    """
    edges = (
        np.quantile(level[useful], np.linspace(0, 1, 17))
        if useful.any()
        else np.array([0.0, 255.0])
    )
    place = np.clip(np.searchsorted(edges, level, side="right") - 1, 0, len(edges) - 2)
    medians = [
        np.median(change[useful & (place == i)]) if (useful & (place == i)).any() else 0.0
        for i in range(len(edges) - 1)
    ]
    return np.asarray(medians)[place]
