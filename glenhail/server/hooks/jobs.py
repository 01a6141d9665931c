"""The jobs that tell programs: one try of one telling, and what of a study is new."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from asgiref.sync import sync_to_async
from django.conf import settings
from django.db.models import Count, Max
from django.utils import timezone
from procrastinate import JobContext
from procrastinate.contrib.django import app

from glenhail.core.automation.signing import Message, signed
from glenhail.server.accounts.models import Role
from glenhail.server.audit.study_audit import study_audit
from glenhail.server.hooks.actions.hooks import JOB, send_soon, tell
from glenhail.server.hooks.models import Announced, Event, Telling
from glenhail.server.hooks.sending import NotSent, send
from glenhail.server.jobs.models import ACTIVE, Job
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.measuring.models import Reading
from glenhail.server.studies.models import Study

LOOK = "look what is new"
MEASURE = "measure"
# After a try that failed the next one follows in so many minutes; after the last it is given up.
PAUSES_MIN = (1, 5, 30, 120, 360, 720)
ARRIVED = range(200, 300)


def not_told(arguments: dict[str, Any], problem: str) -> None:
    """What was called off, or came to nothing by our own fault, is not waited for."""
    Telling.objects.filter(pk=arguments["telling"]).update(due=None, problem=problem[:300])


@does(JOB, settle=not_told, least=Role.OWNER)
def tell_program(progress: Progress, arguments: dict[str, Any]) -> None:
    """Try once to send what is due; what does not arrive is tried again later."""
    found = Telling.objects.select_related("hook").filter(pk=arguments["telling"]).first()
    if found is None or found.due is None:
        return
    now = timezone.now()
    body = found.body.encode()
    own = {"content-type": "application/json", "user-agent": "glenhail", "event": found.event}
    message = Message("POST", found.hook.address, own, body)
    key = f"hook-{found.hook_id}"
    headers = signed(message, found.hook.secret.encode(), int(now.timestamp()), key)
    status, problem = None, ""
    try:
        status = send(found.hook.address, headers, body)
        if status not in ARRIVED:
            problem = f"it answered {status}"
    except NotSent as error:
        problem = str(error)[:300]
    tries = found.tries + 1
    late = problem and tries <= len(PAUSES_MIN)
    due = now + timedelta(minutes=PAUSES_MIN[tries - 1]) if late else None
    with progress.settling():
        Telling.objects.filter(pk=found.pk).update(
            tries=tries, status=status, problem=problem, due=due, arrived=None if problem else now
        )


@does(LOOK)
def look_what_is_new(progress: Progress, arguments: dict[str, Any]) -> None:
    """Tell of a study's readings once all are taken, and of findings nobody was told
    of.
    """
    study = Study.objects.select_related("bench").filter(pk=arguments["study"]).first()
    active = Job.objects.filter(study_id=arguments["study"], kind=MEASURE, state__in=ACTIVE)
    if study is None or active.exists():
        return  # the last of them asks again
    of_study = Reading.objects.filter(output__contender__study=study)
    counted = of_study.aggregate(n=Count("pk"), last=Max("taken"))
    readings = f"{counted['n']} {counted['last']}"
    letters = dict(study.contenders.values_list("pk", "letter"))
    open_now = {
        j.finding.key: f"{letters[j.finding.contender]}: {j.finding.worst.words}"
        for j in study_audit(study).open
    }
    about = {
        "study": study.pk,
        "question": study.question,
        "address": f"{settings.ADDRESS}/studies/{study.pk}",
    }
    with progress.settling():
        kept, _ = Announced.objects.select_for_update().get_or_create(study=study)
        if counted["n"] and kept.readings != readings:
            tell(study.bench, Event.READINGS, {**about, "readings": counted["n"]})
        new = [text for name, text in open_now.items() if name not in kept.findings]
        if new:
            tell(study.bench, Event.FINDING, {**about, "findings": new})
        kept.readings, kept.findings = readings, list(open_now)
        kept.save()


def send_due() -> None:
    """Queue every telling whose next try is due."""
    due = Telling.objects.filter(due__lte=timezone.now(), tries__gt=0)
    for telling in due.select_related("hook__bench")[:100]:
        send_soon(telling)


@app.periodic(cron="* * * * *")
@app.task(name="glenhail.tell", queue="work", queueing_lock="tell", pass_context=True)
async def tell_due(context: JobContext, timestamp: int) -> None:
    """Try again what did not arrive."""
    await sync_to_async(send_due)()
