"""Sizes of files as people read them."""

from __future__ import annotations

UNITS = ("B", "kB", "MB", "GB", "TB")


def size_words(count: float) -> str:
    """A size, as 9.4 MB: powers of ten, three digits at most.

    Parameters
    ----------
    count : float
        Bytes.
    """
    value, unit = float(count), 0
    while round(value) >= 1000 and unit < len(UNITS) - 1:
        value, unit = value / 1000, unit + 1
    digits = 0 if unit == 0 or value >= 99.95 else 1 if value >= 9.995 else 2
    return f"{value:.{digits}f} {UNITS[unit]}"
