"""What a meter told of a spot, for saturation-based speed."""

from __future__ import annotations

from collections.abc import Mapping

from django.db import transaction

from glenhail.core.sensor.speed import LUMINANCES, T_NUMBERS
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.sensors import queries
from glenhail.server.sensors.models import MeteredSpot
from glenhail.server.studies.models import Study


@transaction.atomic
def tell_luminance(
    actor: Actor, study: Study, patch_id: int, luminance: float, t_numbers: Mapping[str, float]
) -> None:
    """Keep a spot's luminance and the lenses' T-numbers in place of earlier ones.

    Raises
    ------
    ActionError
        If a number can be none of its kind, or a body is not of the study.
    """
    require(actor, study.bench, Role.EDITOR)
    patch = queries.patches_of(study).filter(pk=patch_id).first()
    if patch is None:
        raise Missing("There is no such patch in this study, or it was removed.")
    _within(luminance, LUMINANCES, "A luminance", " cd/m²")
    unknown = [name for name in t_numbers if name not in queries.bodies_of(study)]
    if unknown:
        raise ActionError(f"{', '.join(unknown)}: no body of this study is called that.")
    for number in t_numbers.values():
        _within(number, T_NUMBERS, "A T-number", "")
    told = {"patch": patch, "luminance": luminance, "t_numbers": dict(t_numbers)}
    MeteredSpot.objects.update_or_create(study=study, defaults=told)
    record(actor, study.bench, "tell luminance", study)


@transaction.atomic
def forget_luminance(actor: Actor, study: Study) -> None:
    """Take it back: speeds are told no more."""
    require(actor, study.bench, Role.EDITOR)
    MeteredSpot.objects.filter(study=study).delete()
    record(actor, study.bench, "forget luminance", study)


def _within(value: float, reach: tuple[float, float], what: str, unit: str) -> None:
    # What is no number fails every comparison.
    if not reach[0] <= value <= reach[1]:
        raise ActionError(f"{what} lies between {reach[0]:g} and {reach[1]:,.0f}{unit}.")
