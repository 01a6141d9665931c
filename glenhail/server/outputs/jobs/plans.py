"""Looking for the frames of a plan."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User

from glenhail.server.jobs.registry import Progress, does
from glenhail.server.outputs.actions.plans import JOB, take_planned_frames
from glenhail.server.outputs.models import StudyPlan


@does(JOB)
def find_frames(progress: Progress, arguments: dict[str, Any]) -> None:
    """Take those that the bench has into the study that the plan began."""
    row = StudyPlan.objects.select_related("study__bench").get(study_id=arguments["study"])
    actor = User.objects.get(pk=arguments["actor"])
    take_planned_frames(actor, row, lambda what: progress.tell(0.5, what))
