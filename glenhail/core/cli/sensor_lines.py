"""What was read of sensors, as lines of text."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from glenhail.core.sensor.comparison import At, Basis

Told = dict[str, Any]


def lines_of(told: Told) -> Iterator[str]:
    """Each body's facts, then who is ahead of whom at which spot, then doubts.

    Parameters
    ----------
    told : dict
        As `compared_told` has it, with ``speeds`` and ``left_out``.
    """
    for body in told["bodies"]:
        yield body["name"] or "a body that the files do not name"
        for iso in body["facts"]["isos"]:
            yield f"  {_iso(iso)}"
        for words in body["said"]:
            yield f"  {words}"
        for number, spot in enumerate(body["spots"]):
            for words in spot["left_out"]:
                yield f"  {told['spots'][number]}, {words}"
    for ahead in told["ahead"]:
        if (ahead["basis"], ahead["at"]) == (Basis.MATCHED, At.COMMON):
            yield from _ahead(told, ahead)
    for of in told["speeds"]:
        yield f"{of['body']}: {of['said']}"
    for words in told["notes"]:
        yield words
    for words in told["left_out"]:
        yield f"left out: {words}"


def _ahead(told: Told, ahead: Told) -> Iterator[str]:
    yield f"{told['spots'][ahead['spot']]}: {ahead['said']}"
    for stop in ahead["stops"]:
        value, low, high = stop["stops"]
        yield (
            f"  ISO {stop['iso']:,.0f}: {value:+.2f} stops ({low:+.2f} to {high:+.2f}), as noisy"
            f" as the other at ISO {stop['alike']:,.0f}"
        )


def _iso(f: Told) -> str:
    one = f["ranges"]["one"]
    ev = "" if one is None else f", {one[0]:.1f} EV a pixel"
    told = (
        f"ISO {f['iso']:,.0f}: gain {_told(f['gain'], 'codes an electron')}, read noise"
        f" {_told(f['read_noise'], 'electrons')}, top {_told(f['top'], 'electrons', 0)}{ev}"
    )
    if f["response"]:
        told += f"; response uneven by {100 * f['response'][0]:.2f} %"
    if f["dark"]:
        told += (
            f"; dark pattern {_told(f['dark'], 'electrons')}, hot pixels"
            f" {1e6 * (f['hot'] or 0):.0f} ppm"
        )
    return ". ".join([told, *filter(None, [f["reason"]]), *f["doubts"]])


def _told(found: list[float] | None, unit: str, digits: int = 3) -> str:
    if found is None:
        return "not known"
    value, low, high = found
    return f"{value:.{digits}f} {unit} ({low:.{digits}f} to {high:.{digits}f})"
