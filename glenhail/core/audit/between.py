"""The rules between contenders: what of their files and treatments should be equal,
apart from what varies on purpose.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Hashable, Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from functools import cached_property

from glenhail.core.audit.examine import FRAME
from glenhail.core.audit.finding import Finding, FindingPlace, Remedy, Rule, RuleBreach, Weight
from glenhail.core.audit.output_rule import AuditedOutput, rule_of
from glenhail.core.audit.rules import OUTPUT_RULES, check_output
from glenhail.core.treatments.step import Step, Treatment

FileFact = Callable[["AuditedFile"], Hashable]
Worded = Callable[["AuditedFile"], str]
LOSSY, LOSSLESS = ("JPEG", "lossy"), "lossless"
EVERYWHERE = None  # the frame of what holds for all of them
# Scatter of the share of noise left (1 is all of it) that an even strength shows by chance, and how
# much more counts.
PATCHY, BEYOND_EVEN = 0.12, 0.05


@dataclass(frozen=True)
class AuditedFile:
    """One output: its frame, what is seen of it, and what its file says.

    ``digest`` is of the file's bytes.

    ``preview`` is how a captured preview differs from it.
    """

    frame: int
    seen: AuditedOutput
    bits: int = 16
    profile: str = ""
    profile_assumed: bool = False
    compression: str = ""
    format: str = ""
    digest: str = ""
    preview_de00: float | None = None
    preview_ev: float | None = None


@dataclass(frozen=True)
class Entrant:
    """A contender with its outputs.

    ``treatment`` is None for the unprocessed frame, another body, the truth.

    ``works`` are kinds of work of each step in order; ``released`` the dates of its
    releases; ``machines`` those it was timed on; ``load_share`` the part of its time
    that opening a file takes.
    """

    id: int
    outputs: Sequence[AuditedFile]
    treatment: Treatment | None = None
    works: Sequence[str] = ()
    released: Sequence[date] = ()
    machines: Sequence[str] = ()
    load_share: float | None = None
    baseline: bool = False

    @cached_property
    def by_frame(self) -> dict[int, AuditedFile]:
        """Its output on each frame."""
        return {o.frame: o for o in self.outputs}


def audit(entrants: Sequence[Entrant], factor: str) -> list[Finding]:
    """All findings of a study, heaviest first.

    Parameters
    ----------
    entrants : sequence of Entrant
        The unprocessed frame among them, as a baseline.
    factor : str
        What varies on purpose; rules about that are left out.
    """
    found = [f for e in entrants for f in _of_outputs(e)]
    for rule, free, check in BETWEEN:
        if factor not in free:
            found += check(rule, entrants)
    order = list(Weight)
    return sorted(found, key=lambda f: (order.index(f.weight), f.rule.id, f.contender))


def _of_outputs(entrant: Entrant) -> list[Finding]:
    marks: dict[str, list[tuple[int, RuleBreach]]] = {}
    for made in entrant.outputs:
        for mark in check_output(made.seen):
            marks.setdefault(mark.rule.id, []).append((made.frame, mark))
    return [_gathered(entrant, rows) for rows in marks.values()]


def _gathered(entrant: Entrant, rows: list[tuple[int, RuleBreach]]) -> Finding:
    heaviest = min((m.weight for _, m in rows), key=list(Weight).index)
    places = tuple(FindingPlace(frame, mark.amount, mark.words) for frame, mark in rows)
    return Finding(rows[0][1].rule, entrant.id, heaviest, places)


def _odd_ones(
    rule: Rule, rivals: Iterable[tuple[int, Hashable, str]], weight: Weight | None = None
) -> list[Finding]:
    """Those who differ from what most have; where no value is the most common, all of
    them.
    """
    rows = list(rivals)
    values = Counter(value for _, value, _ in rows)
    if len(values) < 2:
        return []
    (usual, most), (_, next_most) = values.most_common(2)
    told = {value: words for _, value, words in rows}
    odd = [r for r in rows if most == next_most or r[1] != usual]
    against = "" if most == next_most else f"; most have {told[usual]}"
    return [
        Finding(
            rule, who, weight or rule.weight, (FindingPlace(EVERYWHERE, 1.0, f"{words}{against}"),)
        )
        for who, _, words in odd
    ]


def rules_for(factor: str) -> list[Rule]:
    """Every rule that is checked in a study that varies `factor` on purpose.

    Parameters
    ----------
    factor : str
        What the study varies on purpose.
    """
    return [r.rule for r in OUTPUT_RULES] + [
        rule for rule, free, _ in BETWEEN if factor not in free
    ]


def _per_frame(
    rule: Rule, all_: Sequence[Entrant], value: FileFact, words: Worded
) -> list[Finding]:
    """Odd ones on each frame, gathered by contender; the frame itself stands beside
    them. A value of None is not compared.
    """
    places: dict[int, list[FindingPlace]] = {}
    for frame in sorted({o.frame for e in all_ for o in e.outputs}):
        there = [
            (e.id, e.by_frame[frame])
            for e in all_
            if frame in e.by_frame and value(e.by_frame[frame]) is not None
        ]
        for odd in _odd_ones(rule, [(who, value(o), words(o)) for who, o in there]):
            places.setdefault(odd.contender, []).append(
                FindingPlace(frame, 1.0, odd.places[0].words)
            )
    own = {e.id for e in all_ if not e.baseline}
    return [
        Finding(rule, who, rule.weight, tuple(found)) for who, found in places.items() if who in own
    ]


def _treated(rivals: Sequence[Entrant]) -> list[tuple[Entrant, Treatment]]:
    return [(e, e.treatment) for e in rivals if e.treatment is not None]


def _feed(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    return _odd_ones(
        rule, [(e.id, t.feed, f"its input was the {t.feed}") for e, t in _treated(rivals)]
    )


def _size(rule: Rule, all_: Sequence[Entrant]) -> list[Finding]:
    """Against each other; against the frame itself only where that is what another body
    is compared with.
    """
    shots = any(o.seen.another_shot for e in all_ for o in e.outputs)
    rivals = [e for e in all_ if shots or not e.baseline]

    def scale(o: AuditedFile) -> Hashable:
        return None if o.seen.refused else round(o.seen.mapping.sx, 2)

    return _per_frame(
        rule, rivals, scale, lambda o: f"{o.seen.width} × {o.seen.height}, {scale(o)}× the frame"
    )


def _bits(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    return _per_frame(rule, rivals, lambda o: o.bits, lambda o: f"{o.bits} bit")


def _profile(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    def words(o: AuditedFile) -> str:
        return f"profile {o.profile}{', assumed as the file has none' if o.profile_assumed else ''}"

    found = _per_frame(rule, rivals, lambda o: (o.profile, o.profile_assumed), words)
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


def _strength(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    """Of those that have a strength: one that is not told is not compared."""
    told = [
        (e.id, strengths)
        for e, t in _treated(rivals)
        if (strengths := [s.strength for s in t.steps if s.strength is not None])
    ]
    return _odd_ones(
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
        for e, t in _treated(rivals)
        if all((s.strength or 100) == 100 for s in t.steps)
    }
    found = []
    for e, t in _treated(rivals):
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

    return _odd_ones(
        rule, [(e.id, any(map(by_itself, t.steps)), words(t)) for e, t in _treated(rivals)]
    )


def _works(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    """Steps of a kind of work that most of the others have none of."""
    rows = [(e, Counter(w for w in e.works if w)) for e, _ in _treated(rivals)]
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
    return _odd_ones(rule, [(who, value, f"timed on {words}") for who, value, words in rows])


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


Between = Callable[[Rule, Sequence[Entrant]], list[Finding]]
# Each rule with the factors of which it is the point.
BETWEEN: tuple[tuple[Rule, frozenset[str], Between], ...] = (
    (
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
    (
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
    (
        rule_of(
            "bits", "Different bit depth", "must be equal", Weight.COLOURS, "facts", Remedy.AGAIN
        ),
        frozenset(),
        _bits,
    ),
    (
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
    (
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
    (
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
    (
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
    (
        rule_of("no-effect", "No effect", "must differ", Weight.COLOURS, "facts", Remedy.AGAIN),
        frozenset(),
        _no_effect,
    ),
    (
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
    (
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
    (
        rule_of("dates", "Released long before the others", "1 year", Weight.HARMLESS, "treatment"),
        frozenset({"release"}),
        _dates,
    ),
    (
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
    (
        rule_of("opening", "Works while a file opens", "half its time", Weight.HARMLESS, "facts"),
        frozenset(),
        _opening,
    ),
    (
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
