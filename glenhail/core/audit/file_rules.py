"""Rules between contenders: what of their files should be equal."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from dataclasses import replace

from glenhail.core.audit.entrants import (
    AuditedFile,
    BetweenRule,
    Entrant,
    odd_ones,
    odd_per_frame,
    treated,
)
from glenhail.core.audit.finding import Finding, FindingPlace, Remedy, Rule, Weight
from glenhail.core.audit.output_rule import rule_of

LOSSY, LOSSLESS = ("JPEG", "lossy"), "lossless"


def _feed(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    return odd_ones(
        rule, [(e.id, t.feed, f"its input was the {t.feed}") for e, t in treated(rivals)]
    )


def _size(rule: Rule, all_: Sequence[Entrant]) -> list[Finding]:
    """Against each other; against the frame itself only where that is what another body
    is compared with.
    """
    shots = any(o.seen.another_shot for e in all_ for o in e.outputs)
    rivals = [e for e in all_ if shots or not e.baseline]

    def scale(o: AuditedFile) -> Hashable:
        return None if o.seen.refused else round(o.seen.mapping.sx, 2)

    return odd_per_frame(
        rule, rivals, scale, lambda o: f"{o.seen.width} × {o.seen.height}, {scale(o)}× the frame"
    )


def _bits(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    return odd_per_frame(rule, rivals, lambda o: o.bits, lambda o: f"{o.bits} bit")


def _profile(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    def words(o: AuditedFile) -> str:
        return f"profile {o.profile}{', assumed as the file has none' if o.profile_assumed else ''}"

    found = odd_per_frame(rule, rivals, lambda o: (o.profile, o.profile_assumed), words)
    lost = {e.id for e in rivals if any(o.profile_assumed for o in e.outputs)}
    kept = {e.id for e in rivals if not all(o.profile_assumed for o in e.outputs)}
    # A profile that is told is taken account of; one that was left out while others tell theirs had
    # to be guessed.
    guessed = lost if kept - lost else set()
    return [replace(f, weight=Weight.COLOURS) if f.contender in guessed else f for f in found]


def _compression(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    """Files compressed with loss where others are not; a file without loss is never at
    fault.
    """

    def lossy(o: AuditedFile) -> bool:
        if LOSSLESS in o.compression.lower():
            return False
        return o.format == "JPEG" or any(word in o.compression for word in LOSSY)

    places: dict[int, list[FindingPlace]] = {}
    own = [e for e in rivals if not e.baseline]
    for frame in sorted({o.frame for e in own for o in e.outputs}):
        there = [(e.id, e.by_frame[frame]) for e in own if frame in e.by_frame]
        if any(not lossy(o) for _, o in there):
            for who, o in there:
                if lossy(o):
                    places.setdefault(who, []).append(
                        FindingPlace(
                            frame, 1.0, f"{o.format}, compressed with loss; others are not"
                        )
                    )
    return [Finding(rule, who, rule.weight, tuple(found)) for who, found in places.items()]


def _preview(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    found = []
    for e in rivals:
        off = [o for o in e.outputs if (o.preview_de00 or 0) > 1.5 or abs(o.preview_ev or 0) > 0.1]
        places = [
            FindingPlace(
                o.frame,
                o.preview_de00 or 0,
                f"differs by {o.preview_de00 or 0:.1f} CIEDE2000, {o.preview_ev or 0:+.2f} EV",
            )
            for o in off
        ]
        if places:
            found.append(Finding(rule, e.id, rule.weight, tuple(places)))
    return found


FILE_RULES: tuple[BetweenRule, ...] = (
    BetweenRule(
        rule_of(
            "feed",
            "Different input file",
            "must be equal",
            Weight.COLOURS,
            "treatment",
            Remedy.AGAIN,
        ),
        frozenset(),
        _feed,
    ),
    BetweenRule(
        rule_of(
            "size",
            "Another output size",
            "0.5 %",
            Weight.COLOURS,
            "line-up",
            Remedy.SIZE,
            Remedy.AGAIN,
        ),
        frozenset(),
        _size,
    ),
    BetweenRule(
        rule_of(
            "bits", "Different bit depth", "must be equal", Weight.COLOURS, "facts", Remedy.AGAIN
        ),
        frozenset(),
        _bits,
    ),
    BetweenRule(
        rule_of(
            "profile",
            "Different colour profile",
            "must be equal",
            Weight.HARMLESS,
            "facts",
            Remedy.AGAIN,
        ),
        frozenset(),
        _profile,
    ),
    BetweenRule(
        rule_of(
            "compression",
            "Different compression",
            "must be equal",
            Weight.COLOURS,
            "facts",
            Remedy.AGAIN,
        ),
        frozenset(),
        _compression,
    ),
    BetweenRule(
        rule_of(
            "preview",
            "Preview unlike the export",
            "1.5 CIEDE2000, 0.1 EV",
            Weight.HARMLESS,
            "facts",
        ),
        frozenset(),
        _preview,
    ),
)
