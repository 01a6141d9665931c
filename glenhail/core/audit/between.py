"""The rules between contenders: what of their files and treatments should be equal, apart from what varies on purpose."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Hashable, Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from functools import cached_property

from glenhail.core.audit.finding import Finding, Mark, Place, Remedy, Rule, Weight
from glenhail.core.audit.rules import OUTPUT_RULES, check_output
from glenhail.core.audit.seen import Seen, rule_of
from glenhail.core.treatments.step import Step, Treatment

Told = Callable[["Made"], Hashable]
Worded = Callable[["Made"], str]
LOSSY = ("JPEG", "lossy")
EVERYWHERE = -1


@dataclass(frozen=True)
class Made:
    """One output: its frame, what is seen of it, and what its file says. ``preview`` is how a captured preview differs from it."""

    frame: int
    seen: Seen
    bits: int = 16
    profile: str = ""
    profile_assumed: bool = False
    compression: str = ""
    format: str = ""
    preview_de00: float | None = None
    preview_ev: float | None = None


@dataclass(frozen=True)
class Entrant:
    """A contender with its outputs. ``treatment`` is None for the unprocessed frame, another body, the truth.

    ``works`` are kinds of work of each step in order; ``released`` the dates of its releases; ``machines`` those it was timed on;
    ``load_share`` the part of its time that opening a file takes.
    """

    id: int
    outputs: Sequence[Made]
    treatment: Treatment | None = None
    works: Sequence[str] = ()
    released: Sequence[date] = ()
    machines: Sequence[str] = ()
    load_share: float | None = None
    baseline: bool = False

    @cached_property
    def by_frame(self) -> dict[int, Made]:
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
    marks: dict[str, list[tuple[int, Mark]]] = {}
    for made in entrant.outputs:
        for mark in check_output(made.seen):
            marks.setdefault(mark.rule.id, []).append((made.frame, mark))
    return [_gathered(entrant, rows) for rows in marks.values()]


def _gathered(entrant: Entrant, rows: list[tuple[int, Mark]]) -> Finding:
    heaviest = min((m.weight for _, m in rows), key=list(Weight).index)
    places = tuple(Place(frame, mark.amount, mark.words) for frame, mark in rows)
    return Finding(rows[0][1].rule, entrant.id, heaviest, places)


def _odd_ones(rule: Rule, rivals: Iterable[tuple[int, Hashable, str]], weight: Weight | None = None) -> list[Finding]:
    """Those who differ from what most have; where no value is the most common, all of them."""
    rows = list(rivals)
    values = Counter(value for _, value, _ in rows)
    if len(values) < 2:
        return []
    (usual, most), (_, next_most) = values.most_common(2)
    told = {value: words for _, value, words in rows}
    odd = [r for r in rows if most == next_most or r[1] != usual]
    against = "" if most == next_most else f"; most have {told[usual]}"
    return [Finding(rule, who, weight or rule.weight, (Place(EVERYWHERE, 1.0, f"{words}{against}"),)) for who, _, words in odd]


def rules_for(factor: str) -> list[Rule]:
    """Every rule that is checked in a study that varies `factor` on purpose."""
    return [r.rule for r in OUTPUT_RULES] + [rule for rule, free, _ in BETWEEN if factor not in free]


def _per_frame(rule: Rule, all_: Sequence[Entrant], value: Told, words: Worded) -> list[Finding]:
    """Odd ones on each frame, gathered by contender; the frame itself stands beside them. A value of None is not compared."""
    places: dict[int, list[Place]] = {}
    for frame in sorted({o.frame for e in all_ for o in e.outputs}):
        there = [(e.id, e.by_frame[frame]) for e in all_ if frame in e.by_frame and value(e.by_frame[frame]) is not None]
        for odd in _odd_ones(rule, [(who, value(o), words(o)) for who, o in there]):
            places.setdefault(odd.contender, []).append(Place(frame, 1.0, odd.places[0].words))
    own = {e.id for e in all_ if not e.baseline}
    return [Finding(rule, who, rule.weight, tuple(found)) for who, found in places.items() if who in own]


def _treated(rivals: Sequence[Entrant]) -> list[tuple[Entrant, Treatment]]:
    return [(e, e.treatment) for e in rivals if e.treatment is not None]


def _feed(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    return _odd_ones(rule, [(e.id, t.feed, f"was handed the {t.feed}") for e, t in _treated(rivals)])


def _size(rule: Rule, all_: Sequence[Entrant]) -> list[Finding]:
    """Against each other; against the frame itself only where that is what another body is compared with."""
    shots = any(o.seen.another_shot for e in all_ for o in e.outputs)
    rivals = [e for e in all_ if shots or not e.baseline]

    def scale(o: Made) -> Hashable:
        return None if o.seen.refused else round(o.seen.mapping.sx, 2)

    return _per_frame(rule, rivals, scale, lambda o: f"{o.seen.width} x {o.seen.height}, {scale(o)}x the frame")


def _bits(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    return _per_frame(rule, rivals, lambda o: o.bits, lambda o: f"{o.bits} bit")


def _profile(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    def words(o: Made) -> str:
        return f"profile {o.profile}{', assumed as the file has none' if o.profile_assumed else ''}"

    found = _per_frame(rule, rivals, lambda o: (o.profile, o.profile_assumed), words)
    lost = {e.id for e in rivals if any(o.profile_assumed for o in e.outputs)}
    kept = {e.id for e in rivals if not all(o.profile_assumed for o in e.outputs)}
    # A profile that is told is taken account of; one that was left out while others tell theirs had to be guessed.
    guessed = lost if kept - lost else set()
    return [replace(f, weight=Weight.COLOURS) if f.contender in guessed else f for f in found]


def _compression(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    def lossy(o: Made) -> bool:
        return o.format == "JPEG" or any(word in o.compression for word in LOSSY)

    return _per_frame(
        rule, rivals, lossy, lambda o: f"{o.format}, compressed with loss" if lossy(o) else f"{o.format}, without loss"
    )


def _strength(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    def strongest(t: Treatment) -> float:
        return max(100.0 if s.strength is None else s.strength for s in t.steps)

    return _odd_ones(rule, [(e.id, strongest(t), f"strength {strongest(t):g} %") for e, t in _treated(rivals)])


def _automatic(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    def by_itself(s: Step) -> bool:
        return s.automatic or any(x.automatic for x in s.settings)

    def words(t: Treatment) -> str:
        return "settings automatic" if any(map(by_itself, t.steps)) else "settings by hand"

    return _odd_ones(rule, [(e.id, any(map(by_itself, t.steps)), words(t)) for e, t in _treated(rivals)])


def _works(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    """Steps of a kind of work that most of the others have none of."""
    rows = [(e, Counter(w for w in e.works if w)) for e, _ in _treated(rivals)]
    usual = {w for w in {w for _, c in rows for w in c} if 2 * sum(w in c for _, c in rows) > len(rows)}
    found = []
    for e, counts in rows:
        more = sorted(set(counts) - usual)
        if usual and more:
            words = f"it has a step to {' and to '.join(more)}, most have none"
            found.append(Finding(rule, e.id, rule.weight, (Place(EVERYWHERE, float(len(more)), words),)))
    return found


def _dates(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    rows = [(e.id, max(e.released)) for e in rivals if e.released]
    if len(rows) < 2:
        return []
    newest = max(d for _, d in rows)
    old = [(who, (newest - d).days / 365.25, d) for who, d in rows if (newest - d).days > 365]
    return [
        Finding(rule, who, rule.weight, (Place(EVERYWHERE, y, f"released {d}, {y:.1f} years before the newest"),))
        for who, y, d in old
    ]


def _machines(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    rows = [(e.id, tuple(sorted(set(e.machines))), " and ".join(sorted(set(e.machines)))) for e in rivals if e.machines]
    return _odd_ones(rule, [(who, value, f"timed on {words}") for who, value, words in rows])


def _opening(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    shares = {e.id: e.load_share for e in rivals if e.load_share is not None}
    return [
        Finding(rule, who, rule.weight, (Place(EVERYWHERE, share, f"{100 * share:.0f} % of its time passes while the file opens"),))
        for who, share in shares.items() if share > 0.5 and len(shares) > 1 and min(shares.values()) < share / 2
    ]  # fmt: skip


def _preview(rule: Rule, rivals: Sequence[Entrant]) -> list[Finding]:
    found = []
    for e in rivals:
        off = [o for o in e.outputs if (o.preview_de00 or 0) > 1.5 or abs(o.preview_ev or 0) > 0.1]
        places = [
            Place(o.frame, o.preview_de00 or 0, f"differs by {o.preview_de00 or 0:.1f} CIEDE2000, {o.preview_ev or 0:+.2f} EV")
            for o in off
        ]
        if places:
            found.append(Finding(rule, e.id, rule.weight, tuple(places)))
    return found


Between = Callable[[Rule, Sequence[Entrant]], list[Finding]]
# Each rule with the factors of which it is the point.
BETWEEN: tuple[tuple[Rule, frozenset[str], Between], ...] = (
    (rule_of("feed", "Handed another kind of file", "the same", Weight.COLOURS, "treatment", Remedy.AGAIN), frozenset(), _feed),
    (rule_of("size", "Another output size", "0.5 %", Weight.COLOURS, "line-up", Remedy.SIZE, Remedy.AGAIN), frozenset(), _size),
    (rule_of("bits", "Another bit depth", "the same", Weight.COLOURS, "facts", Remedy.AGAIN), frozenset(), _bits),
    (rule_of("profile", "Another colour profile", "the same", Weight.HARMLESS, "facts", Remedy.AGAIN), frozenset(), _profile),
    (rule_of("compression", "Compressed otherwise", "the same", Weight.COLOURS, "facts", Remedy.AGAIN), frozenset(), _compression),
    (rule_of("strength", "Another strength", "the same", Weight.COLOURS, "treatment", Remedy.AGAIN),
     frozenset({"setting"}), _strength),
    (rule_of("automatic", "Automatic against by hand", "the same", Weight.COLOURS, "treatment", Remedy.AGAIN),
     frozenset({"setting"}), _automatic),
    (rule_of("works", "A step of another kind of work", "the same kinds", Weight.COLOURS, "treatment", Remedy.AGAIN),
     frozenset({"order of steps"}), _works),
    (rule_of("dates", "Released long before the others", "1 year", Weight.HARMLESS, "treatment"), frozenset({"release"}), _dates),
    (rule_of("machine", "Timed on another computer", "the same", Weight.COLOURS, "facts", Remedy.AGAIN), frozenset(), _machines),
    (rule_of("opening", "Works while a file opens", "half its time", Weight.HARMLESS, "facts"), frozenset(), _opening),
    (rule_of("preview", "Preview unlike the export", "1.5 CIEDE2000, 0.1 EV", Weight.HARMLESS, "facts"), frozenset(), _preview),
)  # fmt: skip
