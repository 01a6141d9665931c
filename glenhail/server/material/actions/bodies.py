"""Camera bodies: adding, changing, removing."""

from __future__ import annotations

from typing import Any

from django.db import IntegrityError, transaction

from glenhail.core.sensor.size import CFAS
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.material.models import Body

# Least and most of each number; None is allowed where the noise is not known.
SIZES = {
    "width_mm": (1.0, 200.0),
    "height_mm": (1.0, 200.0),
    "width": (100, 60_000),
    "height": (100, 60_000),
}
NOISE = {
    "full_well": (100.0, 1e6),
    "read_noise": (0.0, 200.0),
    "second_gain_iso": (50.0, 1e6),
    "second_read_noise": (0.0, 200.0),
}


def save_body(actor: Actor, bench: Bench, values: dict[str, Any], body: Body | None = None) -> Body:
    """Add a body, or change one.

    Raises
    ------
    ActionError
        If a number is missing or out of bounds, or the pixels would not be square; the
        text says which.
    Conflict
        If the bench has another body of that name.
    """
    require(actor, bench, Role.EDITOR)
    body = body or Body(bench=bench)
    body.name = str(values["name"]).strip()[:120]
    if not body.name:
        raise ActionError("A body needs the name that its files give as camera.")
    if values["cfa"] not in CFAS:
        raise ActionError(f"The colour filters are one of {', '.join(CFAS)}.")
    body.cfa = values["cfa"]
    for name, bounds in (SIZES | NOISE).items():
        setattr(body, name, _within(name, values.get(name), bounds, name in NOISE))
    if not body.sensor.square_pixels:
        raise ActionError(
            f"{body.name}: {body.width_mm:g} mm over {body.width:,} px and {body.height_mm:g} mm"
            f" over {body.height:,} px give pixels that are not square. Check the four numbers."
        )
    try:
        with transaction.atomic():
            body.save()
            record(actor, bench, "save body", body)
    except IntegrityError as error:
        raise Conflict(f"There is a body called {body.name} already. Change that one.") from error
    return body


def _within(name: str, value: Any, bounds: tuple[float, float], may_lack: bool) -> float | None:
    if value is None and may_lack:
        return None
    if value is None or not bounds[0] <= value <= bounds[1]:
        raise ActionError(
            f"{name.replace('_', ' ').capitalize()}: a number from {bounds[0]:,g} to {bounds[1]:,g}"
            " is wanted."
        )
    return float(value)


@transaction.atomic
def remove_body(actor: Actor, body: Body) -> None:
    """Remove a body; its frames stay, and say their camera as before."""
    require(actor, body.bench, Role.EDITOR)
    record(actor, body.bench, "remove body", body)
    body.delete()
