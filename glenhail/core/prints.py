"""How large a picture prints."""

from __future__ import annotations

from dataclasses import dataclass

CM_PER_INCH = 2.54  # exact since 1959
USUAL = (300.0, 240.0)  # ppi; common practice, no source: the usual print, and large ones


@dataclass(frozen=True)
class PrintSize:
    """Centimetres of a print at so many pixels per inch."""

    ppi: float
    width_cm: float
    height_cm: float


def print_size(width: int, height: int, ppi: float) -> PrintSize:
    """The size of `width` x `height` px at a resolution; only the pixels and it have a
    part in that.

    Parameters
    ----------
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    ppi : float
        Pixels per inch.
    """
    return PrintSize(ppi, width / ppi * CM_PER_INCH, height / ppi * CM_PER_INCH)


def print_sizes(width: int, height: int, own: float | None = None) -> list[PrintSize]:
    """At the file's own resolution first, where it tells one that is not usual, and at
    the usual ones.

    Parameters
    ----------
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    own : float or None
        The file's own resolution, ppi; None where it tells none.
    """
    told = [own] if own and round(own) not in USUAL else []
    return [print_size(width, height, ppi) for ppi in (*told, *USUAL)]
