"""Writing verdicts."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.judging.models import Verdict
from glenhail.server.studies.models import Study


@transaction.atomic
def write_verdicts(actor: Actor, study: Study, lines: Sequence[tuple[str, str]]) -> list[Verdict]:
    """Replace a study's verdicts by (use, text) lines; empty ones are left out."""
    require(actor, study.bench, Role.EDITOR)
    study.verdicts.all().delete()
    kept = [(use.strip(), text.strip()) for use, text in lines if use.strip() and text.strip()]
    rows = [
        Verdict(study=study, use=use[:80], text=text[:400], order=i)
        for i, (use, text) in enumerate(kept)
    ]
    Verdict.objects.bulk_create(rows)
    record(actor, study.bench, "write verdicts", study)
    return list(study.verdicts.all())
