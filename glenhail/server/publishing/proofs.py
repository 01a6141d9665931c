"""What is published is fixed when an owner asks for it, and checked to be that when it
is printed.
"""

from __future__ import annotations

import hashlib
import json
from datetime import datetime
from typing import Any

from glenhail.server.accounts.permissions import Actor
from glenhail.server.common.errors import Conflict
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring.tables import readings_csv
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.document import compile_document
from glenhail.server.publishing.models import Proof, Report
from glenhail.server.studies.models import Study


def fix(
    actor: Actor,
    report: Report,
    number: int,
    note: str,
    public_from: datetime | None,
    extras: dict[str, Any],
) -> Proof:
    """Compile and keep all that the next edition will say; ``extras`` are further files
    that were asked for.
    """
    document = compile_document(report, number, note) | {"extras": extras}
    text = as_text(document)
    study = report.study
    study.letters_published = sorted(
        {*study.letters_published, *(c["letter"] for c in document["contenders"])}
    )
    study.save(update_fields=["letters_published"])
    return Proof.objects.create(
        report=report,
        number=number,
        document=json.loads(text),
        csv=readings_csv(measuring_queries.ranked_readings(report.study)),
        places=_places(report.study),
        sha256=hashlib.sha256(text.encode()).hexdigest(),
        asked_by_id=actor.pk,
        public_from=public_from,
    )


def as_text(document: dict[str, Any]) -> str:
    """A document as it is hashed."""
    return json.dumps(document, sort_keys=True, ensure_ascii=False)


def _places(study: Study) -> dict[str, Any]:
    """Where each output lies that can be shown, and by which file."""
    rows = outputs_queries.outputs(study)
    lineups = measuring_queries.lineups(rows)
    return {
        str(o.pk): [o.picture.file_id, repr(lineups[o.pk].mapping)]
        for o in rows
        if o.picture is not None
        and measuring_queries.output_state(o, lineups.get(o.pk))[0] == "ready"
    }


def check(proof: Proof) -> None:
    """See that the pictures are still those that were asked for.

    Raises
    ------
    Conflict
        If one was replaced, removed or lined up otherwise since.
    """
    now = _places(proof.report.study)
    changed = [pk for pk, place in proof.places.items() if now.get(pk) != place]
    if not changed:
        return
    named = [
        str(o)
        for o in Output.objects.select_related("contender", "frame").filter(
            pk__in=map(int, changed)
        )
    ]
    what = ", ".join(named[:3]) or "An output"
    raise Conflict(
        f"{what} changed after this edition was asked for, so nothing was published. Ask for it"
        " again."
    )
