"""What a picture costs and how long a batch waits, side by side: nothing is added up to
a single score.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from glenhail.core.errors import BadRequest
from glenhail.core.words import digits

# Years that a licence bought once is used; common practice, no source.
YEARS = 3.0
# How often in a year what is paid for so long is paid again, by a word in what was written.
AGAIN = (("month", 12.0), ("week", 52.0), ("year", 1.0), ("annual", 1.0))
EACH = ("picture", "image", "photo", "frame")
BOUNDS = {
    "pictures": (1.0, 10_000_000.0, "pictures a year"),
    "years": (0.1, 50.0, "years of use"),
    "batch": (1.0, 1_000_000.0, "pictures in a batch"),
    "megapixels": (0.01, 1000.0, "megapixels"),
}


# What is reckoned with unless somebody says otherwise; common practice, no source.
USUAL = {"pictures": 1000.0, "years": YEARS, "batch": 100.0, "megapixels": 24.0}
UNTOLD = "–"
MINUTE, HOUR = 60.0, 3600.0


@dataclass(frozen=True)
class ToldPrice:
    """A price as it was written down: for what, how much, in which currency."""

    what: str
    amount: float
    currency: str


@dataclass(frozen=True)
class PictureCost:
    """What a picture costs in a currency (empty where nothing is paid), or, without an
    amount, why that can not be told; ``said`` is how it was reckoned.
    """

    amount: float | None
    currency: str
    said: str


def checked_numbers(**numbers: float) -> None:
    """Numbers that make sense, each under its name in `BOUNDS`.

    Parameters
    ----------
    numbers : float
        Pictures a year, years, pictures in a batch, megapixels.

    Raises
    ------
    BadRequest
        If one does not.
    """
    for name, value in numbers.items():
        low, high, what = BOUNDS[name]
        if not low <= value <= high:
            raise BadRequest(f"{value:g}: {low:g} to {high:g} {what} can be reckoned with.")


def picture_cost(
    tools: Sequence[tuple[str, Sequence[ToldPrice]]], pictures: float, years: float = YEARS
) -> PictureCost:
    """What one picture costs with tools that are used together.

    Parameters
    ----------
    tools : sequence of (str, sequence of ToldPrice)
        Names, and all that was written down of their prices: of each tool the way to
        pay that is cheapest at so many pictures counts.
    pictures : float
        A year.
    years : float
        That a licence bought once is used.
    """
    if not tools:
        return PictureCost(0.0, "", "comes with the bench")
    found = []
    for name, prices in tools:
        each = [_each(price, pictures, years) for price in prices]
        if not each:
            return PictureCost(None, "", f"no price of {name} is written down")
        if len({price.currency for price in prices}) > 1:
            return PictureCost(None, "", f"{name} is priced in several currencies")
        found.append(min(each, key=lambda one: one.amount or 0))
    if len({one.currency for one in found}) > 1:
        return PictureCost(None, "", "its tools are priced in different currencies")
    amount = sum(one.amount or 0 for one in found)
    return PictureCost(amount, found[0].currency, "; ".join(one.said for one in found))


def _each(price: ToldPrice, pictures: float, years: float) -> PictureCost:
    what = price.what.casefold()
    told = f"{price.amount:.2f} {price.currency} for {price.what}"
    again = next((times for word, times in AGAIN if word in what), None)
    if again is not None:
        return PictureCost(price.amount * again / pictures, price.currency, told)
    if any(word in what for word in EACH):
        return PictureCost(price.amount, price.currency, told)
    spread = f"{told}, over {years:g} years"
    return PictureCost(price.amount / years / pictures, price.currency, spread)


def batch_seconds(per_megapixel: float, megapixels: float, count: float) -> float:
    """How long a batch waits on the machine that was timed, one picture after another.

    Parameters
    ----------
    per_megapixel : float
        Seconds.
    megapixels : float
        Of each picture.
    count : float
        Pictures.
    """
    return per_megapixel * megapixels * count


def amount_said(amount: float | None, currency: str) -> str:
    """What a picture costs, in two digits that mean something.

    Parameters
    ----------
    amount : float or None
        None where it can not be told.
    currency : str
        Empty where nothing is paid.
    """
    if amount is None:
        return UNTOLD
    return f"{digits(amount)} {currency}".strip() if amount else "nothing"


def waiting_said(seconds: float | None) -> str:
    """“42 s”, “12 min”, “3.5 h”.

    Parameters
    ----------
    seconds : float or None
        None where it was not timed.
    """
    if seconds is None:
        return UNTOLD
    unit, by = (
        ("s", 1.0) if seconds < MINUTE else ("min", MINUTE) if seconds < HOUR else ("h", HOUR)
    )
    return f"{digits(seconds / by)} {unit}"
