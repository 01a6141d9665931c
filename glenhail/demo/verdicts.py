"""The sample study's verdicts, each with what it rests on, and calls with names seen."""

from __future__ import annotations

from collections.abc import Sequence

from django.contrib.auth.models import User

from glenhail.core.judging.verdicts import Judged
from glenhail.demo import texts
from glenhail.server.judging.actions.named_calls import call_named
from glenhail.server.judging.actions.verdicts import Line, write_verdicts
from glenhail.server.judging.evidence import StudyEvidence, key_of
from glenhail.server.studies.models import Study

Told = tuple[str, str, str, dict[str, str]]
MOST = 6  # readings and calls that one verdict names


def write(actor: User, study: Study, told: Sequence[Told]) -> None:
    """Verdicts as they are told, with the readings and calls that say the same."""
    found = StudyEvidence(study)
    write_verdicts(actor, study, [_line(found, *one) for one in told])


def conclude(actor: User, study: Study) -> None:
    """All of them, once everything was measured and judged."""
    if study.verdicts.filter(use=texts.WEB).exists():
        return
    cloth = study.patches.order_by("pk").filter(name="Check cloth")[0]
    ids = dict(study.contenders.values_list("letter", "pk"))
    for letter, answer in (("B", Judged.BETTER), ("C", Judged.WORSE), ("D", Judged.SAME)):
        call_named(actor, study, cloth.pk, ids[letter], answer)
    write(actor, study, (*texts.FIRST_VERDICTS, *texts.LATER_VERDICTS))


def _line(found: StudyEvidence, use: str, scene: str, text: str, marks: dict[str, str]) -> Line:
    judged = {letter: Judged(mark) for letter, mark in marks.items()}
    rests = [
        key_of(e, scene)
        for e in found.of(use, scene)
        if e.letter in judged and (e.says == judged[e.letter] or e.leads)
    ]
    cloth = found.study.patches.order_by("pk").filter(name="Check cloth").first()
    seen = [f"patch:{cloth.pk}"] if cloth and scene == "fine texture" else []
    return Line(use, text, scene, judged, [*rests[:MOST], *seen])
