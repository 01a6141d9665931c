"""The queue."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.permissions import membership
from glenhail.server.jobs.actions import queue
from glenhail.server.jobs.models import ACTIVE, Job

SHOWN = 60


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


class QueueOut(serializers.Serializer[Any]):
    active = serializers.IntegerField()
    jobs = JobOut(many=True)


class QueueView(APIView):
    """Running and waiting work, and what ended lately."""

    @extend_schema(operation_id="queue_read", responses=QueueOut)
    def get(self, request: Request) -> Response:
        jobs = Job.objects.filter(bench=membership(request.user).bench)
        active = jobs.filter(state__in=ACTIVE)
        shown = [*active.order_by("-state", "created"), *jobs.exclude(state__in=ACTIVE)[:SHOWN]]
        return Response(QueueOut({"active": active.count(), "jobs": shown[:SHOWN]}).data)


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
