"""Figures for whoever watches the bench, in Prometheus' text format; only where
GLENHAIL_METRICS is set.
"""

from __future__ import annotations

import os
import shutil
from collections.abc import Iterator

from django.conf import settings
from django.core.files.storage import storages
from django.http import Http404, HttpRequest, HttpResponse
from prometheus_client import CONTENT_TYPE_LATEST, CollectorRegistry, generate_latest, multiprocess
from prometheus_client.core import GaugeMetricFamily, Metric
from prometheus_client.registry import Collector

from glenhail.server.jobs.queries import active_by_kind
from glenhail.server.operations.health import look
from glenhail.server.storage.files import root_of


class BenchFigures(Collector):
    """What only the bench itself knows: jobs, checks, room."""

    def collect(self) -> Iterator[Metric]:
        """The figures as they are now."""
        jobs = GaugeMetricFamily("glenhail_jobs", "Jobs that wait or run", labels=["kind", "state"])
        for kind, state, count in active_by_kind():
            jobs.add_metric([kind, state], count)
        yield jobs
        well = GaugeMetricFamily(
            "glenhail_well", "1 where a check of /healthy is well", labels=["check"]
        )
        for check in look():
            well.add_metric([check.name], float(check.well))
        yield well
        root = root_of(storages["originals"])
        if root is not None and root.exists():
            yield GaugeMetricFamily(
                "glenhail_disk_free_bytes", "Room left for originals", shutil.disk_usage(root).free
            )


def metrics(request: HttpRequest) -> HttpResponse:
    """The bench's figures and those of all server processes together."""
    if not settings.METRICS or request.META.get("REMOTE_ADDR") not in settings.METRICS_FROM:
        raise Http404
    own = CollectorRegistry()
    own.register(BenchFigures())
    told = generate_latest(own)
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        shared = CollectorRegistry()
        multiprocess.MultiProcessCollector(shared)  # type: ignore[no-untyped-call]
        told += generate_latest(shared)
    return HttpResponse(
        told, content_type=CONTENT_TYPE_LATEST, headers={"Cache-Control": "no-store"}
    )
