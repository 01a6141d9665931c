"""Words that sentences of every kind share."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np


def listed(names: Sequence[str], last: str = "and") -> str:
    """“A”, “A and B”, “A, B and C”.

    Parameters
    ----------
    names : sequence of str
        Of none, nothing is said.
    last : str
        What stands before the last one.
    """
    return f" {last} ".join(filter(None, [", ".join(names[:-1]), *names[-1:]]))


def digits(value: float, count: int = 2) -> str:
    """A number in so many digits that mean something, never as a power of ten.

    Parameters
    ----------
    value : float
        Any finite one.
    count : int
        Of digits.
    """
    return np.format_float_positional(value, precision=count, fractional=False, trim="-")
