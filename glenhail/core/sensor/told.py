"""What was read of sensors, as plain values: for a database, an edition or a program."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from typing import Any

from glenhail.core.interval import Interval
from glenhail.core.sensor import averaging, lifting, shadows, speed, stages
from glenhail.core.sensor.averaging import Averaging
from glenhail.core.sensor.brightness import Lift
from glenhail.core.sensor.comparison import VERSION, Ahead, BodyFound, Compared
from glenhail.core.sensor.series import IsoFacts
from glenhail.core.sensor.spots import SpotCurve

Told = dict[str, Any]
BASE_ISO = 100.0  # that a body's full well is stated at


def facts_told(facts: Sequence[IsoFacts]) -> Told:
    """A body's facts: by ISO, and what they say together.

    Parameters
    ----------
    facts : sequence of IsoFacts
        The lowest ISO first.
    """
    noise = [
        stages.ReadNoiseAt(f.iso, f.transfer.read_noise) for f in facts if f.transfer.read_noise
    ]
    return {
        "version": VERSION,
        "isos": [_iso(f) for f in facts],
        "steps": [asdict(step) for step in stages.gain_steps(noise)],
        "nothing_gained_from": stages.nothing_gained_from(noise),
        "lifting": [
            {**asdict(cost), "stops": _of(cost.stops)} for cost in lifting.lift_costs(noise)
        ],
        "said": _sensor_said(noise),
        "stated": as_stated(facts),
    }


def _sensor_said(noise: Sequence[stages.ReadNoiseAt]) -> str:
    """Gain stages, and what lifting costs."""
    lifted = lifting.told(lifting.lift_costs(noise))
    return " ".join(filter(None, (stages.told(noise), lifted)))


def as_stated(facts: Sequence[IsoFacts]) -> Told | None:
    """The measured model of noise as the numbers that a body is described by; None
    where no ISO has both its top and its read noise.

    Parameters
    ----------
    facts : sequence of IsoFacts
        The lowest ISO first.
    """
    known = [
        (f.iso, f.top.value, f.transfer.read_noise)
        for f in facts
        if f.top is not None and f.transfer.read_noise is not None
    ]
    if not known:
        return None
    iso, top, read = known[0]
    steps = stages.gain_steps([stages.ReadNoiseAt(at, noise) for at, _, noise in known])
    above = next(((at, noise) for at, _, noise in known if steps and at >= steps[0].above), None)
    return {
        "full_well": _rounded(top * iso / BASE_ISO, 4),
        "read_noise": _rounded(read.value, 3),
        "second_gain_iso": above[0] if above else None,
        "second_read_noise": _rounded(above[1].value, 3) if above else None,
    }


def _rounded(value: float, digits: int) -> float:
    return float(f"{value:.{digits}g}")


def _iso(f: IsoFacts) -> Told:
    t = f.transfer
    return {
        "iso": f.iso,
        "files": list(f.files),
        "blocks": t.blocks,
        "gain": _of(t.gain),
        "read_noise": _of(t.read_noise),
        "read_codes": _of(t.read_codes),
        "reason": t.reason,
        "top": _of(f.top),
        "full_well": _of(f.full_well),
        "no_well": f.no_well,
        "snr": _of(f.snr),
        "ranges": {name: _of(value) for name, value in vars(f.ranges).items()},
        "response": _of(f.pattern.response),
        "dark": _of(f.pattern.dark),
        "rows": f.pattern.rows,
        "columns": f.pattern.columns,
        "hot": f.pattern.hot,
        "no_pattern": f.pattern.reason,
        "band_rows": f.band_rows,
        "band_columns": f.band_columns,
        "black_moved": f.black_moved,
        "black_wanders": f.black_wanders,
        "cut": f.cut,
        "moved": f.moved,
        "doubts": list(f.doubts),
        "colours": {
            c: {"gain": _of(of.gain), "read_noise": _of(of.read_noise)}
            for c, of in f.by_colour.items()
        },
    }


def _of(value: Interval | None) -> list[float] | None:
    """Value and bounds."""
    return None if value is None else [value.value, value.low, value.high]


def compared_told(found: Compared, spots: Sequence[str]) -> Told:
    """Bodies against each other.

    Parameters
    ----------
    found : Compared
        As `compare` has it.
    spots : sequence of str
        What its spots are called.
    """
    brightness = ["", *found.brightness]
    return {
        "version": VERSION,
        "bodies": [
            _body(body, found.lifts[i], brightness[i], spots) for i, body in enumerate(found.bodies)
        ],
        "ahead": [_ahead(a) for a in found.ahead],
        "why": [asdict(w) for w in found.why],
        "notes": list(found.notes),
    }


def _body(body: BodyFound, lifted: Sequence[Lift], brightness: str, spots: Sequence[str]) -> Told:
    facts = facts_told(body.facts)
    return {
        "name": body.name,
        "pixels": body.pixels,
        "common": _averaging(body.common),
        "print": _averaging(body.print),
        "said": _said(body, brightness, facts["said"], spots),
        "lifts": [
            {
                "iso": lift.iso,
                "stops": _of(lift.stops),
                "differ": lift.differ,
                "exposure": lift.exposure,
                "effective_iso": lift.effective_iso,
            }
            for lift in lifted
        ],
        "spots": [_spot(body, i, curve) for i, curve in enumerate(body.spots)],
        "facts": facts,
    }


def _said(body: BodyFound, brightness: str, sensor: str, spots: Sequence[str]) -> list[str]:
    """Brightness, size, sensor and casts, in sentences that name the body."""
    words = (
        brightness,
        averaging.told(body.common, body.name),
        f"{body.name}: {sensor}",
        *(f"{body.name}, {cast}" for cast in shadows.told(body.shadows, spots)),
    )
    return [*filter(None, words)]


def _averaging(of: Averaging) -> Told:
    return {"white": of.white, "measured": _of(of.measured)}


def _spot(body: BodyFound, number: int, curve: SpotCurve) -> Told:
    casts = {s.iso: s for s in body.shadows if s.spot == number}
    return {
        "left_out": list(curve.left_out),
        "readings": [
            {
                "iso": r.iso,
                "files": list(r.files),
                "light": _of(r.light),
                "snr": _of(r.snr),
                "exposures": sorted(map(list, curve.exposures.get(r.iso, ()))),
                "red": casts[r.iso].red if r.iso in casts else 0.0,
                "blue": casts[r.iso].blue if r.iso in casts else 0.0,
                "hue": casts[r.iso].hue if r.iso in casts else "",
            }
            for r in curve.readings
        ],
    }


def _ahead(a: Ahead) -> Told:
    return {
        "one": a.one,
        "other": a.other,
        "spot": a.spot,
        "basis": a.basis.value,
        "at": a.at.value,
        "said": a.said,
        "stops": [
            {"iso": s.iso, "stops": _of(s.stops), "alike": same.other_iso, "shot": same.shot}
            for s, same in zip(a.stops, a.alike, strict=True)
        ],
    }


def lit_again(reading: Told) -> speed.LitAt:
    """How a spot was lit, out of what is told of it at one ISO.

    Parameters
    ----------
    reading : dict
        With ``iso``, ``light`` and ``exposures``.
    """
    exposures = tuple((shutter, aperture) for shutter, aperture in reading["exposures"])
    return speed.LitAt(reading["iso"], Interval(*reading["light"]), exposures)


def speeds_told(
    found: Told, spot: int, luminance: float, t_numbers: Mapping[str, float]
) -> list[Told]:
    """Saturation-based speeds at a spot whose luminance was measured, of each body.

    Parameters
    ----------
    found : dict
        As `compared_told` has it.
    spot : int
        In the middle of the picture.
    luminance : float
        Of the spot, cd/m2.
    t_numbers : mapping of str to float
        Of the bodies' lenses; a body that lacks one gets the reason.
    """
    made = []
    for body in found["bodies"]:
        lit = [lit_again(r) for r in body["spots"][spot]["readings"]]
        lens = t_numbers.get(body["name"])
        of = speed.speeds(lit, luminance, lens) if lens else []
        said = speed.told(of) if lens else "No T-number of its lens is given."
        rows = [
            {"iso": s.iso, "speed": _of(s.speed), "above": _of(s.above), "reason": s.reason}
            for s in of
        ]
        made.append({"body": body["name"], "said": said, "isos": rows})
    return made
