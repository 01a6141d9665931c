"""How the second set of readings is taken."""

from __future__ import annotations

from django.db import transaction

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.measuring.actions.queueing import queue_output
from glenhail.server.measuring.models import MATCHED, Reading
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Study


@transaction.atomic
def set_matching(actor: Actor, study: Study, match: str, size: str) -> Study:
    """How the second set of readings is taken; none where nothing is matched and every
    output keeps its size.
    """
    require(actor, study.bench, Role.EDITOR)
    if (study.match, study.size) == (match, size):
        return study
    study.match, study.size = match, size
    study.save(update_fields=["match", "size"])
    Reading.objects.filter(output__contender__study=study, basis=MATCHED).delete()
    record(actor, study.bench, "match outputs", f"{study}: {study.matched or 'nothing'}")
    if study.matched:
        for output in Output.objects.filter(contender__study=study).select_related(
            "contender__study__bench", "frame"
        ):
            queue_output(output)
    return study
