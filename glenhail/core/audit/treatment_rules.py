"""Rules between contenders: what of their treatments and their work should be equal."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

from glenhail.core.audit.entrants import (
    EVERYWHERE,
    AuditedFile,
    BetweenRule,
    Entrant,
    odd_ones,
    treated,
)
from glenhail.core.audit.examine import FRAME
from glenhail.core.audit.finding import Finding, FindingPlace, Remedy, Rule, Weight
from glenhail.core.audit.output_rule import rule_of
from glenhail.core.treatments.step import Step, Treatment

# Scatter of the share of noise left (1 is all of it) that an even strength shows by chance, and how
# much more counts.
PATCHY, BEYOND_EVEN = 0.12, 0.05


def _strength(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    """Of those that have a strength: one that is not told is not compared."""
    told = [
        (e.id, strengths)
        for e, t in treated(rivals)
        if (strengths := [s.strength for s in t.steps if s.strength is not None])
    ]
    return odd_ones(
        rule, [(who, max(strengths), f"strength {max(strengths):g} %") for who, strengths in told]
    )


def _uneven_strength(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    """A strength below full whose noise is left less evenly than an even blend of the
    frame with the same tool's full strength.

    In an even blend of share s each place keeps 1 - s of the noise besides s of what
    full strength leaves there, so that places differ by s times as much as at full
    strength; without an output at full strength they may differ by `PATCHY`.
    """
    full = {
        _at_full(t): e
        for e, t in treated(rivals)
        if all((s.strength or 100) == 100 for s in t.steps)
    }
    found = []
    for e, t in treated(rivals):
        share = min((s.strength for s in t.steps if s.strength is not None), default=100.0) / 100
        if share >= 1:
            continue
        beside = full.get(_at_full(t))
        places = [p for o in e.outputs if (p := _patchy_place(o, share, beside)) is not None]
        if places:
            found.append(Finding(rule, e.id, rule.weight, tuple(places)))
    return found


def _at_full(t: Treatment) -> Treatment:
    return replace(t, steps=tuple(replace(s, strength=None, automatic=False) for s in t.steps))


def _patchy_place(o: AuditedFile, share: float, full: Entrant | None) -> FindingPlace | None:
    here = o.seen.examination.values.get("patchy")
    there = full.by_frame.get(o.frame) if full is not None else None
    whole = there.seen.examination.values.get("patchy") if there is not None else None
    even = share * whole.value if whole is not None else PATCHY - BEYOND_EVEN
    if here is None or here.value <= even + BEYOND_EVEN or here.low <= even:
        return None
    against = f"an even blend by {even:.2f}" if whole is not None else "an even one hardly does"
    words = (
        f"at {100 * share:g} % the share of noise left differs by {here.value:.2f} from place to"
        f" place, {against}"
    )
    return FindingPlace(o.frame, here.value, words)


def _by_bytes(e: Entrant, o: AuditedFile) -> str:
    return o.digest


def _by_pixels(e: Entrant, o: AuditedFile) -> str:
    return FRAME if e.baseline else o.seen.examination.pixels


def _no_effect(rule: Rule, all_: Sequence[Entrant]) -> list[Finding]:
    """Outputs of a frame that are the same file, or the same picture, as another
    contender's or as the frame itself.
    """
    places: dict[int, list[FindingPlace]] = {}
    for frame in sorted({o.frame for e in all_ for o in e.outputs}):
        there = [(e, e.by_frame[frame]) for e in all_ if frame in e.by_frame]
        for how, known_by in (("byte for byte", _by_bytes), ("pixel for pixel", _by_pixels)):
            alike: dict[str, list[Entrant]] = {}
            for e, o in there:
                if known_by(e, o):
                    alike.setdefault(known_by(e, o), []).append(e)
            for group in (g for g in alike.values() if len(g) > 1):
                for e in group:
                    if not e.baseline and not any(p.frame == frame for p in places.get(e.id, [])):
                        other = (
                            "the frame's"
                            if any(x.baseline for x in group)
                            else "another contender's"
                        )
                        places.setdefault(e.id, []).append(
                            FindingPlace(frame, float(len(group)), f"{how} {other}: no effect")
                        )
    return [Finding(rule, who, rule.weight, tuple(found)) for who, found in places.items()]


def _automatic(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    def by_itself(s: Step) -> bool:
        return s.automatic or any(x.automatic for x in s.settings)

    def words(t: Treatment) -> str:
        return "settings automatic" if any(map(by_itself, t.steps)) else "settings by hand"

    return odd_ones(
        rule, [(e.id, any(map(by_itself, t.steps)), words(t)) for e, t in treated(rivals)]
    )


def _works(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    """Steps of a kind of work that most of the others have none of."""
    rows = [(e, Counter(w for w in e.works if w)) for e, _ in treated(rivals)]
    usual = {
        w for w in {w for _, c in rows for w in c} if 2 * sum(w in c for _, c in rows) > len(rows)
    }
    found = []
    for e, counts in rows:
        more = sorted(set(counts) - usual)
        if usual and more:
            words = f"it has a step to {' and to '.join(more)}, most have none"
            found.append(
                Finding(
                    rule, e.id, rule.weight, (FindingPlace(EVERYWHERE, float(len(more)), words),)
                )
            )
    return found


def _dates(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    rows = [(e.id, max(e.released)) for e in rivals if e.released]
    if len(rows) < 2:
        return []
    newest = max(d for _, d in rows)
    old = [(who, (newest - d).days / 365.25, d) for who, d in rows if (newest - d).days > 365]
    return [
        Finding(
            rule,
            who,
            rule.weight,
            (FindingPlace(EVERYWHERE, y, f"released {d}, {y:.1f} years before the newest"),),
        )
        for who, y, d in old
    ]


def _machines(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    rows = [
        (e.id, tuple(sorted(set(e.machines))), " and ".join(sorted(set(e.machines))))
        for e in rivals
        if e.machines
    ]
    return odd_ones(rule, [(who, value, f"timed on {words}") for who, value, words in rows])


def _opening(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    shares = {e.id: e.load_share for e in rivals if e.load_share is not None}
    return [
        Finding(
            rule,
            who,
            rule.weight,
            (
                FindingPlace(
                    EVERYWHERE,
                    share,
                    f"{100 * share:.0f} % of its time passes while the file opens",
                ),
            ),
        )
        for who, share in shares.items()
        if share > 0.5 and len(shares) > 1 and min(shares.values()) < share / 2
    ]


TREATMENT_RULES: tuple[BetweenRule, ...] = (
    BetweenRule(
        rule_of(
            "strength",
            "Different strength",
            "must be equal",
            Weight.COLOURS,
            "treatment",
            Remedy.AGAIN,
        ),
        frozenset({"setting"}),
        _strength,
    ),
    BetweenRule(
        rule_of(
            "uneven-strength",
            "Strength works in patches",
            "0.05 more than an even blend",
            Weight.COLOURS,
            "noise",
            Remedy.AGAIN,
        ),
        frozenset(),
        _uneven_strength,
    ),
    BetweenRule(
        rule_of("no-effect", "No effect", "must differ", Weight.COLOURS, "facts", Remedy.AGAIN),
        frozenset(),
        _no_effect,
    ),
    BetweenRule(
        rule_of(
            "automatic",
            "Automatic against by hand",
            "must be equal",
            Weight.COLOURS,
            "treatment",
            Remedy.AGAIN,
        ),
        frozenset({"setting"}),
        _automatic,
    ),
    BetweenRule(
        rule_of(
            "works",
            "A step of another kind of work",
            "the same kinds",
            Weight.COLOURS,
            "treatment",
            Remedy.AGAIN,
        ),
        frozenset({"order of steps"}),
        _works,
    ),
    BetweenRule(
        rule_of("dates", "Released long before the others", "1 year", Weight.HARMLESS, "treatment"),
        frozenset({"release"}),
        _dates,
    ),
    BetweenRule(
        rule_of(
            "machine",
            "Timed on another computer",
            "must be equal",
            Weight.COLOURS,
            "facts",
            Remedy.AGAIN,
        ),
        frozenset(),
        _machines,
    ),
    BetweenRule(
        rule_of("opening", "Works while a file opens", "half its time", Weight.HARMLESS, "facts"),
        frozenset(),
        _opening,
    ),
)
