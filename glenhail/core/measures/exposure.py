"""Exposure difference of an output from its frame."""

from __future__ import annotations

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import shared_part
from glenhail.core.measures.reading import MeasuredValue
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Floats, Mapping, Rect
from glenhail.core.statistics.intervals import LEVEL

CELLS_ACROSS = 48
# Cells darker or brighter than this (linear, display white 1) are buried in noise or clipped.
DARKEST, BRIGHTEST = 0.004, 0.9
LEAST_CELLS = 12


def exposure(subject: Subject, rect: Rect) -> MeasuredValue:
    """log2 of the ratio of mean linear luminance, output over frame, EV; median over
    heavily averaged cells.

    The interval is the median's own, from order statistics (binomial), which takes no
    normal spread for granted.

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
    laid = subject.output.straight
    part = shared_part(rect.clipped(subject.whole), laid.mapping, laid.usable)
    if min(part.w, part.h) < 16:
        raise NotMeasurable("the patch is too small, needs 16 x 16 frame px")
    across = int(min(CELLS_ACROSS, part.w // 8))
    down = max(2, round(across * part.h / part.w))
    frame = _cells(AlignedPicture(subject.source, Mapping(), subject.whole), part, across, down)
    output = _cells(laid, part, across, down)
    useful = (frame > DARKEST) & (frame < BRIGHTEST) & (output > DARKEST / 4) & (output < BRIGHTEST)
    if int(useful.sum()) < LEAST_CELLS:
        raise NotMeasurable("too few parts of the frame that are neither black nor clipped")
    stops = np.sort(np.log2(output[useful] / frame[useful]))
    # Neighbouring cells share their content, so a quarter of them is counted as independent.
    count = stops.size / 4
    reach = 1.96 * np.sqrt(count) / 2 / count
    low, high = np.quantile(stops, [max(0.0, 0.5 - reach), min(1.0, 0.5 + reach)])
    details = {"cells": int(stops.size), "level": LEVEL}
    return MeasuredValue(
        float(np.median(stops)), float(low), float(high), "cells averaged in linear light", details
    )


def _cells(laid: AlignedPicture, part: Rect, across: int, down: int) -> Floats:
    target = laid.mapping.rect(part).clipped(laid.picture.bounds)
    return resample(srgb.luminance(laid.picture.pixels), target, across, down, "area")
