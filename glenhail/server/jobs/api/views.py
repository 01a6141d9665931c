"""The queue."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.utils import timezone
from django.utils.dateparse import parse_datetime
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.permissions import membership
from glenhail.server.common.errors import ActionError
from glenhail.server.jobs.actions import queue
from glenhail.server.jobs.models import Job
from glenhail.server.jobs.queries import active_of, ended_of

SHOWN = 60
EARLIEST = 1970


class JobOut(serializers.ModelSerializer[Job]):
    class Meta:
        model = Job
        fields = [
            "id",
            "kind",
            "label",
            "study_id",
            "state",
            "progress",
            "message",
            "problem",
            "created",
            "started",
            "finished",
        ]
        read_only_fields = fields


class EndedOut(serializers.Serializer[Any]):
    """A job that ended, whatever came of it: what it was about may look different now."""

    id = serializers.IntegerField()
    kind = serializers.CharField()
    study = serializers.IntegerField(source="study_id", allow_null=True)


class QueueOut(serializers.Serializer[Any]):
    """Running and waiting work, and what ended; ``now`` is to be sent as ``since``."""

    active = serializers.IntegerField()
    seconds_left = serializers.FloatField(allow_null=True)
    jobs = JobOut(many=True)
    ended = EndedOut(many=True)
    now = serializers.DateTimeField()


SINCE = OpenApiParameter(
    "since", OpenApiTypes.DATETIME, description="Tell each job that ended after this moment."
)


class QueueView(APIView):
    """Running and waiting work, and what ended lately."""

    @extend_schema(operation_id="queue_read", parameters=[SINCE], responses=QueueOut)
    def get(self, request: Request) -> Response:
        bench, now = membership(request.user).bench, timezone.now()
        active = active_of(bench)
        shown = [*active[:SHOWN], *ended_of(bench)[:SHOWN]]
        since = _moment(request.query_params.get("since"))
        whole = {
            "active": active.count(),
            "seconds_left": queue.seconds_left(bench),
            "jobs": shown[:SHOWN],
            "ended": queue.ended_since(bench, since) if since is not None else [],
            "now": now,
        }
        return Response(QueueOut(whole).data)


def _moment(told: str | None) -> datetime | None:
    if not told:
        return None
    try:
        moment = parse_datetime(told)
    except ValueError:
        moment = None
    if moment is None or moment.tzinfo is None or moment.year < EARLIEST:
        raise ActionError(f"{told!r} is no moment; send back what `now` was, as it was told.")
    return moment


class JobCancelView(APIView):
    """Stop a job."""

    @extend_schema(operation_id="job_cancel", request=None, responses=JobOut)
    def post(self, request: Request, job_id: int) -> Response:
        return Response(JobOut(queue.cancel(request.user, job_id)).data)


class JobRetryView(APIView):
    """Run a job again."""

    @extend_schema(operation_id="job_retry", request=None, responses=JobOut)
    def post(self, request: Request, job_id: int) -> Response:
        return Response(JobOut(queue.retry(request.user, job_id)).data)
