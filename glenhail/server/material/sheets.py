"""A target sheet as shown before it is painted."""

from __future__ import annotations

from dataclasses import replace

from glenhail.core.files.encoding import encoded_codes, png_bytes
from glenhail.core.filters.resample import resample
from glenhail.core.picture import Rect
from glenhail.core.targets.layout import Sheet, paint

WIDTH = 720
# Painted in about a quarter of a second: it happens in a request. A larger sheet is shown as its
# smaller likeness.
MOST_PAINTED = 1_000_000  # px


def preview_png(sheet: Sheet) -> bytes:
    """The sheet, reduced to a width that fits the page; of one beyond a megapixel, what
    it looks like at that size.

    Raises
    ------
    BadRequest
        If its numbers contradict each other.
    """
    shrink = max(1.0, (sheet.width * sheet.height / MOST_PAINTED) ** 0.5)
    shown = replace(sheet, width=int(sheet.width / shrink), height=int(sheet.height / shrink))
    plane = paint(shown)
    width = min(WIDTH, shown.width)
    height = max(1, round(width * shown.height / shown.width))
    return png_bytes(
        encoded_codes(
            resample(plane, Rect(0, 0, shown.width, shown.height), width, height, "area"), 8
        )
    )
