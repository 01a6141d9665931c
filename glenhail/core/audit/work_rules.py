"""The rules for what was done to the picture besides what its tool is for, told from
the picture.
"""

from __future__ import annotations

from glenhail.core.audit.finding import Remedy, Rule, RuleBreach
from glenhail.core.audit.output_rule import (
    COLOURS,
    HARMLESS,
    AuditedOutput,
    Checked,
    Wording,
    excess_check,
    rule_of,
    table,
)

FINE_GONE = 0.15  # of its energy that fine colour noise may keep where it counts as gone


def _unless(work: str, check: Checked) -> Checked:
    """The same check, harmless where that is what the contender's tools are for."""

    def checked(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
        mark = check(rule, s)
        own = mark is not None and work in s.works
        return (
            RuleBreach(rule, mark.amount, f"{mark.words}; its own work", HARMLESS)
            if mark is not None and own
            else mark
        )

    return checked


def _blotches(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    ratio, size, fine = (
        s.examination.values.get(n) for n in ("blotches", "blotch_codes", "blotch_fine")
    )
    if ratio is None or size is None or ratio.low < 3 or size.value < 0.4:
        return None
    # An even blend with the frame keeps the fine noise as well: what is left is the frame's, not
    # the tool's.
    if fine is not None and fine.value > FINE_GONE:
        return None
    return RuleBreach(
        rule,
        ratio.value,
        f"coarse colour noise of {size.value:.1f} 8-bit levels stays where the fine is gone,"
        f" {ratio.value:.0f}× as much of it",
        rule.weight,
    )


def _smeared(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    kept = s.examination.values.get("smeared")
    if kept is None or kept.high > 0.7:
        return None
    return RuleBreach(
        rule, 1 - kept.value, f"{100 * kept.value:.0f} % of faint fine texture kept", rule.weight
    )


def _coarser(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    left = s.examination.curves.get("noise", {}).get("left", [])
    if len(left) < 3 or left[2] < 0.5 or left[0] > 0.8 or left[2] < 1.6 * left[0]:
        return None
    words = (
        f"of the noise of plain parts {100 * left[2]:.0f} % stays at 11 px, {100 * left[0]:.0f} %"
        " at 2 px"
    )
    return RuleBreach(rule, left[2] / max(left[0], 1e-3), words, rule.weight)


def _halos(rule: Rule, s: AuditedOutput) -> RuleBreach | None:
    sides = [
        (n, e)
        for n, e in (
            ("light", s.examination.values.get("overshoot")),
            ("dark", s.examination.values.get("undershoot")),
        )
        if e is not None and e.value > 2 and e.low > 1
    ]
    if not sides:
        return None
    return RuleBreach(
        rule,
        max(e.value for _, e in sides),
        ", ".join(f"{e.value:.1f} % beyond the {n} side" for n, e in sides),
        rule.weight,
    )


WORK = table(
    (
        (
            rule_of(
                "sharpened",
                "Fine contrast raised: it sharpens",
                "5 %",
                COLOURS,
                "edge",
                Remedy.AGAIN,
            ),
            _unless(
                "sharpen",
                excess_check(
                    "sharpened",
                    0.05,
                    Wording("fine structure has {} times the contrast of coarse"),
                    at=1.0,
                ),
            ),
        ),
        (
            rule_of("halos", "Halos along edges", "2 % of the step", COLOURS, "edge", Remedy.AGAIN),
            _unless("sharpen", _halos),
        ),
        (
            rule_of(
                "local-contrast", "Local contrast raised", "5 %", COLOURS, "noise", Remedy.AGAIN
            ),
            _unless(
                "sharpen",
                excess_check(
                    "local_contrast",
                    0.05,
                    Wording("structure of 8 to 20 px has {} times its contrast"),
                    at=1.0,
                ),
            ),
        ),
        (
            rule_of(
                "noise-raised",
                "Noise raised in plain parts",
                "15 % of its energy",
                COLOURS,
                "noise",
                Remedy.AGAIN,
            ),
            _unless(
                "sharpen",
                excess_check(
                    "noise_raised",
                    0.15,
                    Wording("{} times the frame's in its most raised octave"),
                    at=1.0,
                ),
            ),
        ),
        (
            rule_of(
                "added",
                "Structure that the frame has not",
                "10 % of its energy",
                COLOURS,
                "noise",
                Remedy.AGAIN,
            ),
            excess_check(
                "added", 0.1, Wording("{} times the energy of the frame's fine structure")
            ),
        ),
        (
            rule_of(
                "finer",
                "Finer than the frame can hold",
                "1.5× a plain enlargement",
                HARMLESS,
                "noise",
                Remedy.AGAIN,
            ),
            excess_check(
                "finer",
                0.5,
                Wording(
                    "{} times what a plain enlargement has: texture of its own, or repeated pixels",
                    digits=1,
                ),
                at=1.0,
            ),
        ),
        (
            rule_of("blotches", "Coloured blotches stay", "3×, 0.4 levels", HARMLESS, "noise"),
            _blotches,
        ),
        (rule_of("smeared", "Fine texture smeared", "70 % kept", HARMLESS, "noise"), _smeared),
        (
            rule_of(
                "coarser",
                "Noise comes back coarser",
                "half of it, 1.6× the fine",
                HARMLESS,
                "noise",
            ),
            _coarser,
        ),
    )
)
