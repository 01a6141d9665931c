"""Taking a difference in brightness off an output, for looking or for a set of readings
of its own: never without saying so.
"""

from __future__ import annotations

from dataclasses import replace
from enum import StrEnum

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.picture import Floats, Picture, Rect
from glenhail.core.tone.curve import ToneCurve

TABLE = 4096  # steps of the inverse curve, encoded 0..1


class Match(StrEnum):
    """What of an output is brought to its frame's."""

    NONE = "none"
    EXPOSURE = "exposure"
    PATCH = "exposure per patch"
    TONE = "exposure and tone"


class Size(StrEnum):
    """Which size outputs are brought to."""

    NATIVE = "native"
    SMALLEST = "smallest"
    LARGEST = "largest"


WORDS = {
    Match.EXPOSURE: "exposure matched over the frame",
    Match.PATCH: "exposure matched on each patch, on whole frames over the frame",
    Match.TONE: "exposure and tone matched",
}


def at_exposure(pixels: Floats, stops: float) -> Floats:
    """Linear light of an output that is `stops` EV brighter than its frame, brought to
    the frame's.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    stops : float
        How much brighter it is than its frame, EV.
    """
    return np.asarray(pixels * np.float32(2.0**-stops), dtype=np.float32)


def at_tone(pixels: Floats, curve: ToneCurve) -> Floats:
    """An output's pixels brought back through its tone curve, channel by channel on
    encoded values.

    Where the curve is level, several tones of the frame became one: the middle one
    comes back. Beyond its ends the curve goes on at the distance it has there.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    curve : ToneCurve
        From the frame's tones to the output's.
    """
    source, output = np.array(curve.source), np.array(curve.output)
    steps = np.linspace(0, 1, TABLE)
    rising, first = np.unique(output, return_index=True)
    last = output.size - 1 - np.unique(output[::-1], return_index=True)[1]
    middle = (source[first] + source[last]) / 2
    back = steps + np.interp(steps, rising, middle - rising)
    codes = srgb.encode(pixels)
    inside = np.clip(codes, 0, 1)
    found = np.interp(inside, steps, back).astype(np.float32) + (codes - inside)
    return np.asarray(srgb.decode(found.astype(np.float32)), dtype=np.float32)


def matched(laid: AlignedPicture, stops: float | None, curve: ToneCurve | None) -> AlignedPicture:
    """The same output with its exposure, or its tone (which holds the exposure),
    brought to its frame's.

    Parameters
    ----------
    laid : AlignedPicture
        The output with its line-up.
    stops : float or None
        How much brighter it is than its frame, EV; None leaves that.
    curve : ToneCurve or None
        From the frame's tones to the output's; None leaves them.
    """
    if curve is not None:
        pixels = at_tone(laid.picture.pixels, curve)
    elif stops:
        pixels = at_exposure(laid.picture.pixels, stops)
    else:
        return laid
    return AlignedPicture(Picture(pixels, laid.picture.facts), laid.mapping, laid.usable)


def at_scale(laid: AlignedPicture, scale: float) -> AlignedPicture:
    """The same output resampled so that it has `scale` pixels for each of its frame's:

    Lanczos, antialiased where it gets smaller.

    What is within a pixel of that size already is left as it is.

    Parameters
    ----------
    laid : AlignedPicture
        The output with its line-up.
    scale : float
        Pixels for each of the frame's.
    """
    m, width, height = laid.mapping, laid.picture.width, laid.picture.height
    new_width, new_height = round(width * scale / m.sx), round(height * scale / m.sy)
    if abs(new_width - width) <= 1 and abs(new_height - height) <= 1:
        return laid
    kx, ky = new_width / width, new_height / height
    pixels = resample(
        laid.picture.pixels, Rect(0, 0, width, height), new_width, new_height, "lanczos"
    )
    mapping = replace(m, sx=m.sx * kx, sy=m.sy * ky, dx=m.dx * kx, dy=m.dy * ky)
    u = laid.usable
    usable = Rect(u.x * kx, u.y * ky, u.w * kx, u.h * ky).whole()
    return AlignedPicture(Picture(pixels, laid.picture.facts), mapping, usable)


def patch_stops(frame: Picture, laid: AlignedPicture, rect: Rect) -> float:
    """By how many EV an output is brighter on one patch: heavily averaged, so that
    noise and sharpness do not count.

    Nothing (0) where either side is black.

    Parameters
    ----------
    frame : Picture
        The frame.
    laid : AlignedPicture
        The output with its line-up.
    rect : Rect
        The patch, frame px.
    """
    one = float(
        srgb.luminance(frame.crop(rect.whole().clipped(frame.bounds))).mean(dtype=np.float64)
    )
    target = laid.mapping.rect(rect).whole().clipped(laid.picture.bounds)
    other = (
        float(srgb.luminance(laid.picture.crop(target)).mean(dtype=np.float64))
        if target.w >= 1 and target.h >= 1
        else 0.0
    )
    return float(np.log2(other / one)) if one > 1e-5 and other > 1e-5 else 0.0
