"""Asking for what raw files say of sensors."""

from __future__ import annotations

import hashlib

from django.db import transaction

from glenhail.core.sensor.comparison import VERSION
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.material.models import Body
from glenhail.server.sensors.queries import raw_of_body
from glenhail.server.studies.models import Study


@transaction.atomic
def ask_for_series(actor: Actor, study: Study) -> None:
    """Queue comparing a study's bodies."""
    require(actor, study.bench, Role.EDITOR)
    queue_series(study)
    record(actor, study.bench, "compare bodies", study)


def queue_series(study: Study) -> None:
    """Queue it; work that is current already ends at once."""
    key, label = f"series:{study.pk}", f"Comparing the bodies of “{study.question}”"
    enqueue(study.bench, "series", key, label, {"study": study.pk}, study.pk)


@transaction.atomic
def ask_for_sensor(actor: Actor, body: Body) -> None:
    """Queue reading a body's sensor.

    Raises
    ------
    ActionError
        If no raw file names it.
    """
    require(actor, body.bench, Role.EDITOR)
    if not raw_of_body(body.bench, body.name).exists():
        raise ActionError(
            f"No raw file on this bench names {body.name}. Bring in pairs of its raw files."
        )
    label = f"Measuring the sensor of {body.name}"
    enqueue(body.bench, "sensor", f"sensor:{body.pk}", label, {"body": body.pk})
    record(actor, body.bench, "measure sensor", body)


def body_key(body: Body) -> str:
    """What everything read of a body depends on."""
    rows = raw_of_body(body.bench, body.name).order_by("picture__file")
    told = (VERSION, body.name, list(rows.values_list("picture__file_id", "kind")))
    return hashlib.sha256(repr(told).encode()).hexdigest()
