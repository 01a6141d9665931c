"""What stands behind the question mark of an address."""

from __future__ import annotations

import math
from collections.abc import Sequence

from rest_framework.request import Request

from glenhail.server.common.errors import ActionError

MOST_DIGITS = 18  # more than fits a row's id


def whole_number(request: Request, name: str) -> int | None:
    """A row's id that was asked for; None where there is none, or something else."""
    return number_of(request.query_params.get(name, ""))


def number_of(told: str) -> int | None:
    """A number of few enough digits; None where it is something else."""
    fits = told.isascii() and told.isdecimal() and len(told) <= MOST_DIGITS
    return int(told) if fits else None


def choice(request: Request, name: str, among: Sequence[str]) -> str:
    """One of a few words that was asked for; the first where none was.

    Raises
    ------
    ActionError
        If it is none of them.
    """
    told = str(request.query_params.get(name, among[0]))
    if told not in among:
        raise ActionError(f"“{name}” is one of {', '.join(among)}.")
    return told


def number(request: Request, name: str, usual: float) -> float:
    """A number that was asked for; the usual one where none was.

    Raises
    ------
    ActionError
        If it is none.
    """
    told = request.query_params.get(name, "")
    try:
        value = float(told) if told else usual
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise ActionError(f"{name}: “{told[:20]}” is no number.")
    return value
