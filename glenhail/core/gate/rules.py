"""What may not become worse, as it is written: a measure, a bound, and of what."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from glenhail.core.errors import BadRequest
from glenhail.core.level.costs import LESS, MORE
from glenhail.core.measures.catalogue import MEASURES

FORM = "MEASURE [@ PATCH] >= NUMBER [of last] [at equal noise], or <="
WRITTEN = re.compile(
    r"(?P<measure>[a-z0-9_]+)\s*(?:@\s*(?P<patch>[^<>]+?)\s*)?(?P<bound><=|>=)"
    r"\s*(?P<amount>[-+]?[0-9]*\.?[0-9]+(?:[eE][-+]?[0-9]{1,3})?)"
    r"(?P<last>\s+of\s+last)?(?P<level>\s+at\s+equal\s+noise)?"
)
# A ratio of decibels says nothing.
NO_RATIO = ("dB",)


@dataclass(frozen=True)
class Bound:
    """A bound of one measure.

    ``amount`` is in the measure's unit, or times what the last release has where that
    is ``of_last``; ``equal_noise`` brings the noisier of both to the other's noise
    before. ``patch`` is empty for all that the measure is read on.
    """

    measure: str
    at_least: bool
    amount: float
    of_last: bool = False
    equal_noise: bool = False
    patch: str = ""

    def limit(self, last: float | None) -> float | None:
        """What a value is held to; None where the last release has none.

        Parameters
        ----------
        last : float or None
            What the last release has.
        """
        if not self.of_last:
            return self.amount
        # Where the last one had none of it, so has to have the new one.
        return None if last is None else self.amount * max(last, 0.0)

    def holds(self, value: float, limit: float) -> bool:
        """Whether a value keeps to its limit.

        Parameters
        ----------
        value, limit : float
            In the measure's unit.
        """
        return value >= limit if self.at_least else value <= limit

    def __str__(self) -> str:
        at = f" @ {self.patch}" if self.patch else ""
        bound = ">=" if self.at_least else "<="
        last = " of last" if self.of_last else ""
        level = " at equal noise" if self.equal_noise else ""
        return f"{self.measure}{at} {bound} {self.amount:g}{last}{level}"


def parse_bound(text: str) -> Bound:
    """A rule as it is written.

    Parameters
    ----------
    text : str
        ``detail_kept >= 0.9 of last at equal noise``.

    Raises
    ------
    BadRequest
        If it is not written so, or asks for what can not be told.
    """
    found = WRITTEN.fullmatch(text.strip())
    if found is None:
        raise BadRequest(f"rule {text!r}: write it as {FORM}")
    rule = Bound(
        found["measure"],
        found["bound"] == ">=",
        float(found["amount"]),
        bool(found["last"]),
        bool(found["level"]),
        (found["patch"] or "").strip(),
    )
    measure = MEASURES.get(rule.measure)
    if measure is None:
        raise BadRequest(f"rule {text!r}: there is no measure {rule.measure!r}")
    if not math.isfinite(rule.amount):
        raise BadRequest(f"rule {text!r}: its number is too large")
    if rule.of_last and (measure.unit in NO_RATIO or rule.amount <= 0):
        raise BadRequest(
            f"rule {text!r}: what is in {measure.unit or 'no unit'} is held to a number above 0"
            " of the last one only where a ratio means something"
        )
    if rule.equal_noise and rule.measure not in (*MORE, *LESS):
        known = ", ".join((*MORE, *LESS))
        raise BadRequest(f"rule {text!r}: at equal noise these are told: {known}")
    return rule
