"""Writing treatments down."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from glenhail.server.accounts.models import Bench
from glenhail.server.common.errors import ActionError
from glenhail.server.tools.models import Release, Step, Tool, Treatment


@dataclass(frozen=True)
class StepWords:
    """A step as its reviewer tells it."""

    tool: str
    release: str = ""
    mode: str = ""
    settings: str = ""
    automatic: bool = False


@transaction.atomic
def write_treatment(bench: Bench, steps: Sequence[StepWords], treatment: Treatment | None = None) -> Treatment:
    """Make a treatment, or give one other steps; tools and releases not known yet are added.

    The caller has checked the actor's role.
    """
    if not steps or not all(s.tool.strip() for s in steps):
        raise ActionError("A treatment needs at least one step, and every step a tool.")
    treatment = treatment or Treatment.objects.create(bench=bench)
    treatment.steps.all().delete()
    for order, words in enumerate(steps):
        tool, _ = Tool.objects.get_or_create(bench=bench, name=words.tool.strip()[:80])
        release, _ = Release.objects.get_or_create(tool=tool, name=words.release.strip()[:40])
        Step.objects.create(
            treatment=treatment,
            order=order,
            release=release,
            mode=words.mode.strip(),
            settings=words.settings.strip(),
            automatic=words.automatic,
        )
    return treatment
