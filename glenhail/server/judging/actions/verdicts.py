"""Writing verdicts."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from django.db import transaction

from glenhail.core.judging.verdicts import Judged
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError
from glenhail.server.judging.evidence import things_of
from glenhail.server.judging.models import Verdict
from glenhail.server.studies.models import Study

MOST, MOST_EVIDENCE = 300, 40


@dataclass(frozen=True)
class Line:
    """One verdict: for which use and kind of scene (empty for all), in words; how
    contenders stand, by letter; and the keys of what it rests on.
    """

    use: str
    text: str
    scene: str = ""
    marks: Mapping[str, Judged] = field(default_factory=dict)
    evidence: Sequence[str] = ()


@transaction.atomic
def write_verdicts(actor: Actor, study: Study, lines: Sequence[Line]) -> list[Verdict]:
    """Replace a study's verdicts; those without a use or without text are left out.

    Raises
    ------
    ActionError
        If one marks a contender, or names evidence, that is not of the study, or two
        are for one use and kind of scene.
    """
    require(actor, study.bench, Role.EDITOR)
    kept = [line for line in lines if line.use.strip() and line.text.strip()]
    _check(study, kept)
    study.verdicts.all().delete()
    rows = [
        Verdict(
            study=study,
            use=line.use.strip()[:80],
            scene=line.scene.strip()[:40],
            text=line.text.strip()[:400],
            marks=dict(line.marks),
            evidence=list(dict.fromkeys(line.evidence)),
            order=i,
        )
        for i, line in enumerate(kept)
    ]
    Verdict.objects.bulk_create(rows)
    record(actor, study.bench, "write verdicts", study)
    return list(study.verdicts.all())


def _check(study: Study, lines: Sequence[Line]) -> None:
    if len(lines) > MOST:
        raise ActionError(f"A study holds {MOST} verdicts. Remove some first.")
    # A contender may have been removed since: that stands in nobody's way.
    letters = {letter for v in study.verdicts.all() for letter in v.marks}
    letters.update(study.contenders.values_list("letter", flat=True))
    known: set[str] | None = None
    cells = set()
    for line in lines:
        where = f"The verdict for “{line.use.strip()}”"
        cell = line.use.strip().casefold(), line.scene.strip().casefold()
        if cell in cells and line.scene:
            raise ActionError(f"{where} and {line.scene} is there twice. Write one of them.")
        cells.add(cell)
        if strangers := sorted(set(line.marks) - letters):
            raise ActionError(f"{where} marks {', '.join(strangers)}, which is not in this study.")
        if len(line.evidence) > MOST_EVIDENCE:
            raise ActionError(f"{where} rests on more than {MOST_EVIDENCE} things. Choose fewer.")
        if line.evidence and known is None:
            known = set(things_of(study))
        if line.evidence and not set(line.evidence) <= (known or set()) | _kept(study):
            raise ActionError(f"{where} names evidence that is not of this study. Reload the page.")


def _kept(study: Study) -> set[str]:
    """What verdicts rest on already, though it may be gone by now."""
    return {key for v in study.verdicts.all() for key in v.evidence}
