"""A study's method as a plan without frames, which any frames may be put to."""

from __future__ import annotations

from glenhail.core.execution.command import command_of
from glenhail.core.plans.plan import Plan, PlannedContender, as_toml, own_versions
from glenhail.server.studies.models import Contender, Study


def method_of(study: Study) -> str:
    """Question, treatments with the commands of their releases, and the versions of
    measures, as TOML.
    """
    rows = study.contenders.filter(treatment__isnull=False).order_by("order")
    contenders = rows.prefetch_related("treatment__steps__release__tool")
    planned = tuple(_contender(c) for c in contenders)
    return as_toml(Plan(study.question, study.factor, (), planned, own_versions()))


def _contender(contender: Contender) -> PlannedContender:
    assert contender.treatment is not None
    told = [s.release.command for s in contender.treatment.steps.all()]
    commands = tuple(command_of(c) if c else None for c in told)
    return PlannedContender(contender.letter, contender.treatment.told, commands)
