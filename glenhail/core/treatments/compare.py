"""What exactly differs between two treatments."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from difflib import SequenceMatcher

from glenhail.core.treatments.step import Step, Treatment

NOTHING = "–"


@dataclass(frozen=True)
class Difference:
    """One thing that differs: where (a step's number in words), what, and how it stands
    on either side.
    """

    where: str
    what: str
    left: str
    right: str


def differences(left: Treatment, right: Treatment) -> list[Difference]:
    """Everything that differs, and nothing that does not.

    Parameters
    ----------
    left : Treatment
        The first treatment.
    right : Treatment
        The second one.
    """
    found = [] if left.feed == right.feed else [Difference("", "handed", left.feed, right.feed)]
    one, other = [s.tool for s in left.steps], [s.tool for s in right.steps]
    if one != other and sorted(one) == sorted(other):
        found.append(Difference("", "order of steps", ", then ".join(one), ", then ".join(other)))
        pairs: list[tuple[Step | None, Step | None]] = [
            (s, _same_tool(s, right)) for s in left.steps
        ]
    else:
        pairs = list(_aligned(left.steps, right.steps))
    for a, b in pairs:
        found += _between(a, b, len(pairs) > 1)
    return found


def _same_tool(step: Step, other: Treatment) -> Step:
    same = [s for s in other.steps if s.tool == step.tool]
    return next((s for s in same if s == step), same[0])


def _aligned(
    left: tuple[Step, ...], right: tuple[Step, ...]
) -> Iterator[tuple[Step | None, Step | None]]:
    """Steps of the same tool beside each other; what has no partner stands alone."""
    matcher = SequenceMatcher(a=[s.tool for s in left], b=[s.tool for s in right], autojunk=False)
    for _, a0, a1, b0, b1 in matcher.get_opcodes():
        one, other = left[a0:a1], right[b0:b1]
        for i in range(max(len(one), len(other))):
            yield (one[i] if i < len(one) else None), (other[i] if i < len(other) else None)


def _between(a: Step | None, b: Step | None, several: bool) -> Iterator[Difference]:
    step = a or b
    assert step is not None
    where = step.title if several else ""
    if a is None or b is None:
        yield Difference(where, "step", a.words if a else NOTHING, b.words if b else NOTHING)
        return
    names = list(dict.fromkeys(s.name for s in (*a.settings, *b.settings)))
    told = [("tool", a.tool, b.tool), ("release", a.release, b.release), ("mode", a.mode, b.mode)]
    told += [("strength", _strength(a), _strength(b)), ("automatic", _how(a), _how(b))]
    told += [(name, _setting(a, name), _setting(b, name)) for name in names]
    told += [("limit", a.limit, b.limit), ("part", str(a.part or ""), str(b.part or ""))]
    for what, one, other in told:
        if one != other:
            yield Difference(where, what, one or NOTHING, other or NOTHING)


def _strength(step: Step) -> str:
    return "" if step.strength is None else f"{step.strength:g} %"


def _how(step: Step) -> str:
    return "automatic" if step.automatic else "by hand"


def _setting(step: Step, name: str) -> str:
    found = next((s for s in step.settings if s.name == name), None)
    return found.words[len(name) :].strip() if found else ""
