"""How large a picture prints, and what of it is seen."""

from __future__ import annotations

import math
from dataclasses import dataclass

from glenhail.core.errors import BadRequest

CM_PER_INCH = 2.54  # exact since 1959
USUAL = (300.0, 240.0)  # ppi; common practice, no source: the usual print, and large ones

RESOLVED = 60.0  # px a degree, which an eye resolves; common practice, no source
BOUNDS = {"ppi": (20.0, 4800.0), "longer_cm": (1.0, 2000.0), "distance_cm": (5.0, 5000.0)}
UNITS = {"ppi": "ppi", "longer_cm": "cm along the longer side", "distance_cm": "cm away"}


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


def size_said(size: PrintSize) -> str:
    """As “50.8 × 33.9 cm”.

    Parameters
    ----------
    size : PrintSize
        At any ppi.
    """
    return f"{size.width_cm:.1f} × {size.height_cm:.1f} cm"


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


@dataclass(frozen=True)
class PrintPlan:
    """A print of a picture at a resolution, and what a wanted size of it takes.

    ``factor`` is by how much it has to be enlarged for the wanted size at that
    resolution, ``wanted_ppi`` what its pixels give there unenlarged; ``per_degree``
    pixels a degree of the view from the distance, ``lost`` the share of its finest
    detail that an eye does not resolve from there, ``nearest_cm`` from where on no
    pixel is told from the next.
    """

    size: PrintSize
    longer_cm: float
    factor: float
    wanted_ppi: float
    distance_cm: float
    per_degree: float
    lost: float
    nearest_cm: float


def print_plan(
    width: int, height: int, ppi: float, longer_cm: float, distance_cm: float
) -> PrintPlan:
    """What a print takes: all by hand from the pixels, the resolution and the distance.

    Parameters
    ----------
    width, height : int
        The picture, px, at least 1.
    ppi : float
        That the printer is fed with.
    longer_cm : float
        Wanted along the longer side.
    distance_cm : float
        From where the print of the wanted size is looked at.

    Raises
    ------
    BadRequest
        If a number makes no sense.
    """
    for name, value in (("ppi", ppi), ("longer_cm", longer_cm), ("distance_cm", distance_cm)):
        low, high = BOUNDS[name]
        if not low <= value <= high:
            raise BadRequest(f"{value:g}: {low:g} to {high:g} {UNITS[name]} can be told.")
    longer = max(width, height)
    wanted_ppi = longer / longer_cm * CM_PER_INCH
    half_degree = 2 * math.tan(math.radians(0.5))
    per_degree = half_degree * distance_cm * wanted_ppi / CM_PER_INCH
    return PrintPlan(
        print_size(width, height, ppi),
        longer_cm,
        ppi / wanted_ppi,
        wanted_ppi,
        distance_cm,
        per_degree,
        max(0.0, 1 - RESOLVED / per_degree),
        RESOLVED * CM_PER_INCH / (half_degree * wanted_ppi),
    )


def print_said(plan: PrintPlan) -> list[str]:
    """A plan in words.

    Parameters
    ----------
    plan : PrintPlan
        Of one picture.
    """
    size = plan.size
    width, height = size.width_cm, size.height_cm
    inches = f"{width / CM_PER_INCH:.1f} × {height / CM_PER_INCH:.1f} in"
    wanted = f"{plan.longer_cm:g} cm along the longer side"
    own = f"unenlarged, its pixels give {plan.wanted_ppi:.0f} ppi"
    factor = plan.factor
    if abs(factor - 1) < 0.005:
        takes = f"{wanted} at {size.ppi:g} ppi takes its pixels as they are."
    elif factor > 1:
        takes = f"{wanted} at {size.ppi:g} ppi takes {factor:.2f} times its pixels a side; {own}."
    else:
        takes = f"{wanted} at {size.ppi:g} ppi takes {factor:.2f} of its pixels a side; {own}."
    away = f"From {plan.distance_cm:g} cm away {plan.per_degree:.0f} of its px lie in a degree"
    if plan.lost > 0:
        told = f"{100 * plan.lost:.0f} % of its finest detail is not seen"
        seen = f"{away}, of which an eye resolves {RESOLVED:.0f}: {told}."
    else:
        told = f"single pixels are told apart up to {plan.nearest_cm:.0f} cm"
        seen = f"{away}, fewer than the {RESOLVED:.0f} an eye resolves: {told}."
    return [
        f"At {size.ppi:g} ppi it prints {width:.1f} × {height:.1f} cm ({inches}). Changing ppi"
        " alone changes no pixel.",
        takes,
        seen,
    ]
