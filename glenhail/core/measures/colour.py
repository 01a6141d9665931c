"""Colour error against a truth: CIEDE2000."""

from __future__ import annotations

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.difference import ciede2000
from glenhail.core.colour.lab import lab
from glenhail.core.errors import NotMeasurable
from glenhail.core.measures.intervals import block_mean
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.subject import CODES, Pair, Subject
from glenhail.core.picture import Floats, Rect

ROWS_AT_ONCE = 128
LEAST_SIDE = 4


def de00_map(pair: Pair) -> Floats:
    """CIEDE2000 of every pixel, float32 (h, w); worked in strips, for doubles take much room."""
    out = np.empty(pair.output.shape[:2], dtype=np.float32)
    for start in range(0, out.shape[0], ROWS_AT_ONCE):
        rows = slice(start, start + ROWS_AT_ONCE)
        one, two = (lab(srgb.decode(p[rows] / CODES)) for p in (pair.output, pair.truth))
        out[rows] = ciede2000(one, two)
    return out


def de00_mean(subject: Subject, rect: Rect) -> Measured:
    """Mean CIEDE2000 against the truth; its 95th percentile among the details."""
    pair = subject.pair(rect)
    if min(pair.rect.w, pair.rect.h) < LEAST_SIDE:
        raise NotMeasurable(f"the patch is too small, needs {LEAST_SIDE} x {LEAST_SIDE} frame px")
    differences = de00_map(pair)
    found = block_mean(differences)
    details = {"p95": float(np.percentile(differences, 95))}
    return Measured(found.value, max(0.0, found.low), found.high, pair.grid, details)
