"""All findings of a study: of each output by itself, and of what differs between
contenders apart from what varies on purpose.
"""

from __future__ import annotations

from collections.abc import Sequence

from glenhail.core.audit.entrants import Entrant
from glenhail.core.audit.file_rules import FILE_RULES
from glenhail.core.audit.finding import Finding, FindingPlace, Rule, RuleBreach, Weight
from glenhail.core.audit.rules import OUTPUT_RULES, check_output
from glenhail.core.audit.treatment_rules import TREATMENT_RULES

BETWEEN = (*FILE_RULES, *TREATMENT_RULES)


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
    for between in BETWEEN:
        if factor not in between.free:
            found += between.check(between.rule, entrants)
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


def rules_for(factor: str) -> list[Rule]:
    """Every rule that is checked in a study that varies `factor` on purpose.

    Parameters
    ----------
    factor : str
        What the study varies on purpose.
    """
    return [r.rule for r in OUTPUT_RULES] + [b.rule for b in BETWEEN if factor not in b.free]
