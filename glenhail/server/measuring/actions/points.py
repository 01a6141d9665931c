"""Helping a line-up by hand."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.db import transaction

from glenhail.core.errors import BadRequest
from glenhail.core.lineup.points import PointPair, from_points
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.measuring.actions.queueing import queue_output
from glenhail.server.measuring.models import HandPoints
from glenhail.server.outputs.models import Output


@transaction.atomic
def place_points(actor: Actor, output: Output, pairs: list[dict[str, float]]) -> None:
    """Begin an output's line-up from places found by hand in both pictures; no pairs
    take them away again.
    """
    study = output.contender.study
    require(actor, study.bench, Role.EDITOR)
    if output.picture is None:
        raise Conflict("There is no output to place points in.")
    placed = [PointPair(**p) for p in pairs]
    _check_points(output, placed)
    where: dict[str, Any] = {
        "bench": study.bench,
        "source": output.frame.picture,
        "output": output.picture,
    }
    if placed:
        HandPoints.objects.update_or_create(
            **where, defaults={"pairs": [asdict(p) for p in placed], "author_id": actor.pk}
        )
    else:
        HandPoints.objects.filter(**where).delete()
    record(actor, study.bench, "place points" if placed else "take points away", output)
    # The same two pictures may stand in other studies of the bench as well.
    for other in Output.objects.filter(
        picture=output.picture,
        frame__picture=output.frame.picture,
        contender__study__bench=study.bench,
    ):
        queue_output(other)


def _check_points(output: Output, placed: list[PointPair]) -> None:
    if not placed:
        return
    frame, made = output.frame.picture, output.picture
    assert made is not None
    places = [(p.x, p.y, frame) for p in placed] + [(p.u, p.v, made) for p in placed]
    if not all(0 <= x <= picture.width and 0 <= y <= picture.height for x, y, picture in places):
        raise ActionError("Points must lie within the frame and within the output.")
    try:
        from_points(placed, frame.width)
    except BadRequest as why:
        raise ActionError(f"{output.file_name}: {why}.") from why
