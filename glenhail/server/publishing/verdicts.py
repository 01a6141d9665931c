"""Verdicts in an edition: in words, with how contenders stand and what that rests on."""

from __future__ import annotations

from typing import Any

from glenhail.core.judging.verdicts import Judged, marked
from glenhail.server.judging.evidence import StudyEvidence, things_of
from glenhail.server.judging.models import Verdict
from glenhail.server.studies.models import Study

Document = dict[str, Any]


def verdicts_table(study: Study) -> list[Document]:
    """A study's verdicts in their order."""
    verdicts = list(study.verdicts.all())
    if not any(v.marks or v.evidence for v in verdicts):
        return [_told(v, "", {}) for v in verdicts]
    evidence = StudyEvidence(study)
    things = things_of(study, evidence)
    for verdict in verdicts:
        there = evidence.board.contenders
        verdict.marks = {x: mark for x, mark in verdict.marks.items() if x in there}
    return [_told(v, evidence.reference or "", things) for v in verdicts]


def _told(verdict: Verdict, reference: str, things: dict[str, str]) -> Document:
    marks = {letter: Judged(mark) for letter, mark in verdict.marks.items()}
    return {
        "use": ", ".join(filter(None, (verdict.use, verdict.scene))),
        "text": verdict.text,
        "marks": verdict.marks,
        "marked": marked(marks, reference),
        # What is gone by now is not told: nobody could look at it.
        "evidence": [things[key] for key in verdict.evidence if key in things],
    }
