"""What a built-in method is: the planes it works on, what it asks for, how far a pixel
sees.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from enum import Enum
from typing import Any

import numpy as np

from glenhail.core.colour import lumachroma, srgb
from glenhail.core.parameters import Parameter, Values
from glenhail.core.picture import Floats

Measured = Mapping[str, Any]


class Domain(Enum):
    """The three planes a picture is taken apart into before a method works on them one
    by one.
    """

    LUMA_AND_COLOUR = "encoded luma and two colour differences"
    ENCODED = "encoded red, green and blue"
    LINEAR = "linear red, green and blue"


def take_apart(linear: Floats, domain: Domain) -> list[Floats]:
    """Linear light, shape (h, w, 3), as the domain's three planes, each (h, w).

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    domain : Domain
        Which values the method works on.
    """
    if domain is Domain.LUMA_AND_COLOUR:
        luma, colour = lumachroma.split(linear)
        return [luma, *colour]
    values = srgb.encode(linear) if domain is Domain.ENCODED else linear
    return [np.ascontiguousarray(values[..., i]) for i in range(3)]


def put_together(planes: list[Floats], domain: Domain) -> Floats:
    """The way back to linear light.

    Parameters
    ----------
    planes : list of ndarray, shape (h, w)
        The planes, treated.
    domain : Domain
        Which values the method works on.
    """
    if domain is Domain.LUMA_AND_COLOUR:
        return lumachroma.join(planes[0], planes[1:])
    values = np.stack(planes, axis=-1)
    return np.asarray(srgb.decode(values) if domain is Domain.ENCODED else values, dtype=np.float32)


def nothing_measured(linear: Floats, values: Values) -> Measured:
    """For methods that need to know nothing of the whole picture.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    values : Mapping
        Parameters by name, checked.
    """
    return {}


@dataclass(frozen=True)
class Method:
    """One built-in method.

    Attributes
    ----------
    work : callable
        ``(plane, index, values, measured)`` to a plane of the same size; index 0, 1 or
        2 says which one of the domain's.
    reach : callable
        How many pixels away a pixel's result still depends on anything, for given
        values and measurements.
    align : callable
        The rows at which a band may begin are multiples of this.
    measure : callable
        What has to be known of the whole picture before any part of it is worked on.
    scale : callable
        Size of the result over that of the picture. A method with a scale other than 1
        resizes, and has no ``work``.
    """

    id: str
    title: str
    family: str
    does: str
    source: str
    parameters: tuple[Parameter, ...]
    domain: Callable[[Values], Domain]
    work: Callable[[Floats, int, Values, Measured], Floats] | None = None
    reach: Callable[[Values, Measured], int] = lambda values, measured: 0
    align: Callable[[Values], int] = lambda values: 1
    measure: Callable[[Floats, Values], Measured] = nothing_measured
    scale: Callable[[Values], float] = lambda values: 1.0
