"""The rules for how an output lies on its frame."""

from __future__ import annotations

import math

from glenhail.core.audit.finding import Remedy, Rule, RuleBreach
from glenhail.core.audit.output_rule import COLOURS, HARMLESS, SPOILS, AuditedOutput, rule_of, table
from glenhail.core.lineup.bend import largest, turn_of
from glenhail.core.picture import Mapping

SIDES = ("left", "top", "right", "bottom")


def _refused(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    return RuleBreach(rule, 1.0, s.refused, SPOILS) if s.refused else None


def _doubtful(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    return (
        RuleBreach(rule, float(len(s.doubts)), "; ".join(s.doubts), rule.weight)
        if s.doubts
        else None
    )


def _enlargement(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    if s.asked is None and not s.keeps_size:
        return None
    wanted = s.asked or 1.0
    off = max(abs(s.mapping.sx / wanted - 1), abs(s.mapping.sy / wanted - 1))
    if off <= max(0.002, 2 * s.residual / _side(s)):
        return None
    told = f"{s.asked:g}× was asked for" if s.asked is not None else "no other size was asked for"
    return RuleBreach(
        rule, off, f"{told}, the picture is {_times(s.mapping)}", SPOILS if off > 0.05 else COLOURS
    )


def _stretched(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    off = abs(s.mapping.sx / s.mapping.sy - 1)
    # The size of an output is a whole number of pixels, which alone makes the two differ a little.
    allowed = max(0.001, 1.0 / min(s.width, s.height), 2 * s.residual / _side(s))
    return (
        RuleBreach(
            rule, off, f"{s.mapping.sx:.4f}× across and {s.mapping.sy:.4f}× down", rule.weight
        )
        if off > allowed
        else None
    )


def _moved(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    m = s.mapping
    size = max(abs(m.dx / m.sx), abs(m.dy / m.sy))
    if size <= max(0.05, s.residual / 2):
        return None
    whole = m.keeps_pixels()
    how = (
        "taken off without touching a pixel"
        if whole
        else "taken off; error measures interpolate for it"
    )
    words = (
        f"{abs(m.dx):.4g} px {'right' if m.dx > 0 else 'left'}, {abs(m.dy):.4g} px"
        f" {'down' if m.dy > 0 else 'up'}, {how}"
    )
    return RuleBreach(
        rule, size, words, HARMLESS if whole or size < 0.3 or max(m.sx, m.sy) > 1.2 else COLOURS
    )


def _bordered(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    told = [f"{n} px {side}" for side in SIDES if (n := getattr(s.border, side))]
    most = float(max(getattr(s.border, side) for side in SIDES))
    return (
        RuleBreach(
            rule, most, f"a plain border, {', '.join(told)}; left out of every measure", rule.weight
        )
        if told
        else None
    )


def _turned(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    if s.mapping.bend is None:
        return None
    turn = turn_of(s.mapping.bend)
    if abs(turn) <= max(0.03, math.degrees(2 * s.residual / _side(s))):
        return None
    return RuleBreach(
        rule,
        abs(turn),
        f"{abs(turn):.2f}° {'clockwise' if turn > 0 else 'anticlockwise'}",
        rule.weight,
    )


def _bent(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    """Corners moved by more than the turn alone explains."""
    bend = s.mapping.bend
    if bend is None or not any((*bend.across[3:], *bend.down[3:])):
        return None
    width, height = s.width / s.mapping.sx, s.height / s.mapping.sy
    most = largest(bend, width, height)
    return (
        RuleBreach(
            rule,
            most,
            f"places moved by up to {most:.1f} frame px, as a lens correction does",
            rule.weight,
        )
        if most > max(0.4, 2 * s.residual)
        else None
    )


def _loose(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    return (
        RuleBreach(rule, s.residual, f"{s.residual:.2f} frame px left over", rule.weight)
        if s.residual > 0.5
        else None
    )


def _side(s: AuditedOutput) -> float:
    """The frame's shorter side, px: what is left of a line-up makes scales and turns
    doubtful by its share of that.
    """
    return min(s.width / s.mapping.sx, s.height / s.mapping.sy)


def _times(m: Mapping) -> str:
    return f"{m.sx:.4g}×" if abs(m.sx / m.sy - 1) < 1e-3 else f"{m.sx:.4g}× by {m.sy:.4g}×"


LINE_UP = table(
    (
        (
            rule_of(
                "refused",
                "Does not line up",
                "must show the frame",
                SPOILS,
                "line-up",
                Remedy.POINTS,
                Remedy.AGAIN,
            ),
            _refused,
        ),
        (
            rule_of(
                "doubtful",
                "Line-up in doubt",
                "8 places or more, over 0.4 of the frame",
                SPOILS,
                "line-up",
                Remedy.POINTS,
            ),
            _doubtful,
        ),
        (
            rule_of(
                "enlargement", "Not enlarged as asked", "0.2 %", COLOURS, "line-up", Remedy.AGAIN
            ),
            _enlargement,
        ),
        (
            rule_of("stretched", "Stretched one way", "0.1 %", COLOURS, "line-up", Remedy.AGAIN),
            _stretched,
        ),
        (rule_of("moved", "Moved", "0.05 frame px", HARMLESS, "line-up", Remedy.AGAIN), _moved),
        (
            rule_of("border", "Border or line added", "none", HARMLESS, "line-up", Remedy.AGAIN),
            _bordered,
        ),
        (rule_of("turned", "Turned", "0.03°", COLOURS, "line-up", Remedy.AGAIN), _turned),
        (
            rule_of(
                "bent",
                "Lens correction or other bend",
                "0.4 frame px",
                COLOURS,
                "line-up",
                Remedy.AGAIN,
            ),
            _bent,
        ),
        (
            rule_of(
                "loose",
                "Moved unevenly from place to place",
                "0.5 frame px",
                COLOURS,
                "line-up",
                Remedy.AGAIN,
            ),
            _loose,
        ),
    )
)
