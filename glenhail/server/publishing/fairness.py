"""What a report says of its own fairness: what was found not to be like for like, and
what was done about it.
"""

from __future__ import annotations

from typing import Any

from glenhail.server.audit.study_audit import HARMLESS, Judged, study_audit
from glenhail.server.publishing.colours import colour_of
from glenhail.server.studies.models import Contender, Study

Document = dict[str, Any]


def fairness_table(study: Study, letters: dict[int, Contender], frames: dict[int, str]) -> Document:
    """The audit's line and its findings, open ones first; harmless ones apart.

    One finding of several contenders is one row.
    """
    now = study_audit(study)
    heavy = [j for j in now.judged if j.state != HARMLESS]
    return {
        "line": now.line,
        "open": any(j.open for j in heavy),
        "matched": study.matched,
        "rows": _together(
            [_row(j, letters, frames) for j in sorted(heavy, key=lambda j: not j.open)]
        ),
        "harmless": _together(
            [_row(j, letters, frames) for j in now.judged if j.state == HARMLESS]
        ),
    }


SHARED = ("what", "tolerance", "weight", "state", "open", "reason", "who", "when")


def _together(rows: list[Document]) -> list[Document]:
    """Rows that say the same of several contenders, and were decided alike, as one with
    a list of these.
    """
    found: dict[tuple[Any, ...], list[Document]] = {}
    for row in rows:
        found.setdefault(tuple(row[name] for name in SHARED), []).append(row)
    return [
        {**{name: group[0][name] for name in SHARED}, "each": group} for group in found.values()
    ]


def _row(judged: Judged, letters: dict[int, Contender], frames: dict[int, str]) -> Document:
    f, decision = judged.finding, judged.decision
    contender = letters[f.contender]
    places = [frames[p.frame] for p in f.places if p.frame in frames]
    worst = f.worst
    at = f" ({frames[worst.frame]})" if worst.frame in frames and len(frames) > 1 else ""
    return {
        "letter": contender.letter,
        "colour": colour_of(contender.letter),
        "title": contender.title,
        "what": f.rule.title,
        "words": f"{worst.words}{at}",
        "where": f"{len(places)} of {len(frames)} frames" if places else "all frames",
        "tolerance": f.rule.tolerance,
        "weight": f.weight.value,
        "state": judged.state,
        "open": judged.open,
        "reason": decision.reason if decision else "",
        "who": decision.actor.get_username() if decision and decision.actor else "",
        "when": decision.created.date().isoformat() if decision else "",
    }
