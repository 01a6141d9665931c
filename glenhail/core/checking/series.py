"""How far bodies are ahead of each other over ISO, worked out again from the ratios
that an edition holds.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from glenhail.core.checking.checks import Check, check
from glenhail.core.interval import Interval
from glenhail.core.sensor.speed import speeds
from glenhail.core.sensor.stops import SnrCurve, stops_ahead, told
from glenhail.core.sensor.told import lit_again

Document = dict[str, Any]
KIND = "series"
NEAR = 1e-6


def series_again(document: Document) -> Iterator[Check]:
    """Stops and sentence of each pair of bodies at each spot.

    Parameters
    ----------
    document : dict
        The edition.
    """
    series: Document = document.get("series") or {}
    for ahead in series.get("ahead", ()):
        bodies = [series["bodies"][ahead[who]] for who in ("one", "other")]
        names = (bodies[0]["name"], bodies[1]["name"])
        what = f"{names[0]} and {names[1]}, {series['spots'][ahead['spot']]['name']}"
        try:
            one, other = (_curve(b, ahead["spot"]) for b in bodies)
            enough = len(one.iso) > 1 and len(other.iso) > 1
            found = stops_ahead(one, other) if enough else []
        except (ValueError, IndexError, KeyError, TypeError, ZeroDivisionError):
            yield check(KIND, what, False, "its ratios can not be read")
            continue
        near = len(found) == len(ahead["stops"]) and all(
            abs(a - b) < NEAR
            for f, t in zip(found, ahead["stops"], strict=True)
            for a, b in zip((f.stops.value, f.stops.low, f.stops.high), t["stops"], strict=True)
        )
        yield check(KIND, f"stops of {what}", near, "the ratios give others")
        words = told(found, names)
        yield check(KIND, f"words of {what}", words == ahead["said"], f"the ratios say: {words}")


def speeds_again(document: Document) -> Iterator[Check]:
    """Saturation-based speed of each body at the metered spot.

    Parameters
    ----------
    document : dict
        The edition.
    """
    series: Document = document.get("series") or {}
    metered: Document = series.get("metered") or {}
    bodies = {b["name"]: b for b in series.get("bodies", ())}
    for told_of in series.get("speeds", ()) if metered else ():
        name, lens = told_of["body"], metered["t_numbers"].get(told_of["body"])
        told_at = {row["iso"]: row["speed"] for row in told_of["isos"]}
        if lens is None or not told_at:
            continue
        try:
            readings = bodies[name]["spots"][metered["spot"]]["readings"]
            again = speeds([lit_again(r) for r in readings], metered["luminance"], lens)
            near = all(_same(told_at.get(s.iso), s.speed) for s in again)
        except (ValueError, IndexError, KeyError, TypeError, ZeroDivisionError):
            yield check(KIND, f"speeds of {name}", False, "what they follow from can not be read")
            continue
        yield check(KIND, f"speeds of {name}", near, "its brightness gives others")


def _same(told_of: list[float] | None, found: Interval | None) -> bool:
    if told_of is None or found is None:
        return told_of is None and found is None
    values = (found.value, found.low, found.high)
    return all(abs(a / b - 1) < NEAR for a, b in zip(told_of, values, strict=True))


def _curve(body: Document, spot: int) -> SnrCurve:
    """As they were compared: at the common size, each ISO as it counts."""
    rows = body["spots"][spot]["readings"]
    gain = body["gain"]
    return SnrCurve(
        [r["counts_as"] for r in rows],
        [Interval(*(gain * v for v in r["snr"])) for r in rows],
    )
