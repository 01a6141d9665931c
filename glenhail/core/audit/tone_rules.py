"""The rules for tone and colour.

Tolerances lie above what honest denoising does: averaging encoded values darkens noisy
shadows by up to 0.04 EV.
"""

from __future__ import annotations

import math

from glenhail.core.audit.examine import USUAL
from glenhail.core.audit.finding import Remedy, Rule, RuleBreach
from glenhail.core.audit.output_rule import (
    COLOURS,
    AuditedOutput,
    Checked,
    Wording,
    beyond,
    excess_check,
    outward,
    rule_of,
    table,
    value_check,
)


def _moved(kind: str, tolerance: float, words: str) -> Checked:
    """A check of a shift in a* and b*, either of which may go beyond the tolerance."""

    def check(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
        v = s.examination.values
        a, b = v.get(f"{kind}_a"), v.get(f"{kind}_b")
        if a is None or b is None:
            return None
        if not any(
            beyond(v[n], tolerance, usual=v.get(n + USUAL)) for n in (f"{kind}_a", f"{kind}_b")
        ):
            return None
        size = math.hypot(a.value, b.value)
        return RuleBreach(
            rule, size, f"{words} moved {size:.1f} to {_way(a.value, b.value)}", rule.weight
        )

    return check


def _way(a: float, b: float) -> str:
    parts = [("red" if a > 0 else "green", abs(a)), ("yellow" if b > 0 else "blue", abs(b))]
    return " and ".join(name for name, size in parts if size > 0.35 * max(abs(a), abs(b)))


# A hue of fewer areas is told by which of them noise put there.
LEAST_AREAS = 24


def _hues(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    moved = [
        h
        for h in s.examination.hues
        if abs(h["turned"]) > 5 and h["de00"] > 1.5 and h["areas"] >= LEAST_AREAS
    ]
    if not moved:
        return None
    most = max(moved, key=lambda h: abs(h["turned"]))
    return RuleBreach(
        rule,
        abs(most["turned"]),
        "; ".join(f"{h['hue']} turned {outward(h['turned'], 1, 5):+.1f}°" for h in moved),
        rule.weight,
    )


MATCH = (Remedy.EXPOSURE, Remedy.TONE, Remedy.AGAIN)
# How tones differ from what the exposure alone would do, in 8-bit levels.
BESIDE_EXPOSURE = Wording(
    "{} levels lighter than exposure alone", "{} levels darker than exposure alone", 0
)
TONE = table(
    (
        (
            rule_of("exposure", "Exposure moved", "0.07 EV", COLOURS, "tone", *MATCH),
            value_check("exposure", 0.07, Wording("{} EV brighter", "{} EV darker"), spoils=1.0),
        ),
        (
            rule_of("shadows", "Shadows moved", "2.5 levels", COLOURS, "tone", *MATCH[1:]),
            value_check(
                "shadows",
                2.5,
                BESIDE_EXPOSURE,
            ),
        ),
        (
            rule_of("mids", "Mid tones moved", "2.5 levels", COLOURS, "tone", *MATCH[1:]),
            value_check(
                "mids",
                2.5,
                BESIDE_EXPOSURE,
            ),
        ),
        (
            rule_of("lights", "Lights moved", "2.5 levels", COLOURS, "tone", *MATCH[1:]),
            value_check(
                "lights",
                2.5,
                BESIDE_EXPOSURE,
            ),
        ),
        (
            rule_of(
                "corners",
                "Corners moved against the middle",
                "0.08 EV",
                COLOURS,
                "tone",
                Remedy.AGAIN,
            ),
            value_check("corners", 0.08, Wording("{} EV brighter", "{} EV darker")),
        ),
        (
            rule_of(
                "clipped",
                "Clipping added at white",
                "0.5 % of values",
                COLOURS,
                "tone",
                Remedy.AGAIN,
            ),
            excess_check("clipped", 0.5, Wording("{} % of the values more than the frame has")),
        ),
        (
            rule_of(
                "crushed",
                "Clipping added at black",
                "0.5 % of values",
                COLOURS,
                "tone",
                Remedy.AGAIN,
            ),
            excess_check("crushed", 0.5, Wording("{} % of the values more than the frame has")),
        ),
        (
            rule_of(
                "greys", "White balance moved", "1.0 in a* or b*", COLOURS, "colour", Remedy.AGAIN
            ),
            _moved("grey", 1.0, "greys"),
        ),
        (
            rule_of("saturation", "Saturation moved", "6 %", COLOURS, "colour", Remedy.AGAIN),
            value_check(
                "saturation",
                0.06,
                Wording("chroma raised by {} of itself", "chroma lowered by {} of itself"),
                at=1.0,
            ),
        ),
        (
            rule_of(
                "colour",
                "Colours moved over all",
                "1.5 in a* or b*",
                COLOURS,
                "colour",
                Remedy.AGAIN,
            ),
            _moved("all", 1.5, "they"),
        ),
        (rule_of("hue", "Colours turned", "5°", COLOURS, "colour", Remedy.AGAIN), _hues),
    )
)
