"""Making outputs: asking, watching, calling off; families of contenders, what differs,
what it cost.
"""

from __future__ import annotations

from collections import Counter
from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.errors import BadRequest
from glenhail.core.execution.machine import machine
from glenhail.core.treatments import family
from glenhail.core.treatments import step as core
from glenhail.core.treatments.compare import differences
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.common.requests import valid
from glenhail.server.material.queries import find_frame
from glenhail.server.outputs import costs, coverage
from glenhail.server.outputs.actions import runs
from glenhail.server.outputs.models import Run
from glenhail.server.outputs.queries import runs_of
from glenhail.server.studies import queries
from glenhail.server.studies.actions import contenders
from glenhail.server.tools.api.shapes import TreatmentShape
from glenhail.server.tools.api.views import told_treatment

FAMILIES = ("sweep", "orders", "releases", "feeds")


class CellRef(serializers.Serializer[Any]):
    contender = serializers.IntegerField()
    frame = serializers.IntegerField()


class RunsIn(serializers.Serializer[Any]):
    which = serializers.ChoiceField(choices=runs.WHICH)
    cells = CellRef(many=True, default=list)
    repeats = serializers.IntegerField(default=1)


class AskedOut(serializers.Serializer[Any]):
    """How many outputs were queued; which can not be made, and which not here, with the
    reasons.
    """

    queued = serializers.IntegerField()
    impossible = serializers.ListField(child=serializers.CharField())
    by_hand = serializers.ListField(child=serializers.CharField())


class CoveredOut(serializers.Serializer[Any]):
    contender = serializers.IntegerField()
    frame = serializers.IntegerField()
    state = serializers.ChoiceField(choices=coverage.STATES)
    why = serializers.CharField()
    by_hand = serializers.CharField()
    out_of_date = serializers.CharField()
    progress = serializers.FloatField()
    doing = serializers.CharField()
    run = serializers.IntegerField(allow_null=True)
    job = serializers.IntegerField(allow_null=True)


class CoverageOut(serializers.Serializer[Any]):
    cells = CoveredOut(many=True)
    counts = serializers.DictField(child=serializers.IntegerField())
    seconds_left = serializers.FloatField(allow_null=True)
    machine = serializers.CharField()


class MiddleOut(serializers.Serializer[Any]):
    value = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()


class SpeedOut(serializers.Serializer[Any]):
    runs = serializers.IntegerField()
    load = MiddleOut(allow_null=True)
    process = MiddleOut(allow_null=True)
    export = MiddleOut(allow_null=True)
    total = MiddleOut(allow_null=True)
    per_megapixel = MiddleOut(allow_null=True)


class CostOut(serializers.Serializer[Any]):
    """Medians over a contender's runs, with the least and the greatest; seconds, MB of
    memory, bytes of output.
    """

    contender = serializers.IntegerField(source="contender.pk")
    speed = SpeedOut()
    cpu = MiddleOut(allow_null=True)
    peak = MiddleOut(allow_null=True)
    size = MiddleOut(allow_null=True)
    machines = serializers.ListField(child=serializers.CharField())
    told_by_hand = serializers.BooleanField()
    alone = serializers.BooleanField()
    unsteady = serializers.BooleanField()


class StepRunOut(serializers.Serializer[Any]):
    words = serializers.CharField()
    line = serializers.CharField()
    load_s = serializers.FloatField(allow_null=True)
    process_s = serializers.FloatField(allow_null=True)
    export_s = serializers.FloatField(allow_null=True)
    wall_s = serializers.FloatField()
    cpu_s = serializers.FloatField()
    peak_mb = serializers.FloatField()


class RunOut(serializers.ModelSerializer[Run]):
    """One run with all that is known of it."""

    words = serializers.SerializerMethodField()
    steps = StepRunOut(many=True)

    class Meta:
        model = Run
        fields = [
            "id",
            "contender",
            "frame",
            "outcome",
            "problem",
            "said",
            "number",
            "same",
            "alone",
            "words",
            "steps",
            "load_s",
            "process_s",
            "export_s",
            "wall_s",
            "cpu_s",
            "peak_mb",
            "out_bytes",
            "megapixels",
            "machine",
            "created",
        ]
        read_only_fields = fields

    def get_words(self, run: Run) -> str:
        return str(run.made_with["words"]) if run.made_with else ""


class TimesIn(serializers.Serializer[Any]):
    """Seconds by hand; ``what`` was timed, in words; ``again``: one repeat more, beside
    those before.
    """

    load_s = serializers.FloatField(allow_null=True, default=None, min_value=0, max_value=1e6)
    process_s = serializers.FloatField(allow_null=True, default=None, min_value=0, max_value=1e6)
    export_s = serializers.FloatField(allow_null=True, default=None, min_value=0, max_value=1e6)
    machine = serializers.CharField(max_length=200, allow_blank=True, default="")
    what = serializers.CharField(max_length=300, allow_blank=True, default="")
    again = serializers.BooleanField(default=False)


class FamilyIn(serializers.Serializer[Any]):
    """A treatment and what its family differs in.

    `dry` only tells what would be entered.
    """

    treatment = TreatmentShape()
    kind = serializers.ChoiceField(choices=FAMILIES)
    step = serializers.IntegerField(default=0)
    name = serializers.CharField(allow_blank=True, default="")
    values = serializers.ListField(child=serializers.JSONField(), default=list)
    dry = serializers.BooleanField(default=False)


class FamilyOut(serializers.Serializer[Any]):
    words = serializers.ListField(child=serializers.CharField())
    entered = serializers.ListField(child=serializers.IntegerField())


class DifferenceOut(serializers.Serializer[Any]):
    where = serializers.CharField()
    what = serializers.CharField()
    left = serializers.CharField()
    right = serializers.CharField()


class CountOut(serializers.Serializer[Any]):
    count = serializers.IntegerField()


def _cells(given: list[dict[str, Any]]) -> list[runs.Cell]:
    return [(c["contender"], c["frame"]) for c in given]


class CoverageView(APIView):
    """What is made, missing, running, failed, impossible."""

    @extend_schema(operation_id="coverage_read", responses=CoverageOut)
    def get(self, request: Request, study_id: int) -> Response:
        cells = coverage.coverage(queries.find_study(request.user, study_id))
        counts = Counter(c.state for c in cells)
        whole = {
            "cells": cells,
            "counts": counts,
            "seconds_left": coverage.seconds_left(cells),
            "machine": machine(),
        }
        return Response(CoverageOut(whole).data)


class RunsView(APIView):
    """Asking for outputs to be made, and calling that off."""

    @extend_schema(operation_id="runs_ask", request=RunsIn, responses={201: AskedOut})
    def post(self, request: Request, study_id: int) -> Response:
        given, study = valid(RunsIn, request), queries.find_study(request.user, study_id)
        asked = runs.ask_for_runs(
            request.user, study, given["which"], _cells(given["cells"]), given["repeats"]
        )
        return Response(AskedOut(asked).data, status=201)

    @extend_schema(operation_id="runs_cancel", responses=CountOut)
    def delete(self, request: Request, study_id: int) -> Response:
        return Response(
            {"count": runs.cancel_runs(request.user, queries.find_study(request.user, study_id))}
        )


class CellsIn(serializers.Serializer[Any]):
    cells = CellRef(many=True)


class FrontView(APIView):
    """Cells that somebody is looking at: they are made first."""

    @extend_schema(operation_id="runs_bring_forward", request=CellsIn, responses=CountOut)
    def post(self, request: Request, study_id: int) -> Response:
        study = queries.find_study(request.user, study_id)
        return Response(
            {
                "count": runs.bring_forward(
                    request.user, study, _cells(valid(CellsIn, request)["cells"])
                )
            }
        )


class CostsView(APIView):
    """What the outputs cost."""

    @extend_schema(operation_id="costs_read", responses=CostOut(many=True))
    def get(self, request: Request, study_id: int) -> Response:
        return Response(
            CostOut(costs.costs(queries.find_study(request.user, study_id)), many=True).data
        )


class CostsCsvView(APIView):
    """The same as CSV."""

    @extend_schema(operation_id="costs_csv", responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, study_id: int) -> HttpResponse:
        text = costs.costs_csv(queries.find_study(request.user, study_id))
        headers = {"Content-Disposition": f'attachment; filename="study-{study_id}-times.csv"'}
        return HttpResponse(text, content_type="text/csv; charset=utf-8", headers=headers)


class CellRunsView(APIView):
    """All runs of one cell, the newest first."""

    @extend_schema(operation_id="cell_runs", responses=RunOut(many=True))
    def get(self, request: Request, contender_id: int, frame_id: int) -> Response:
        contender = queries.find_contender(request.user, contender_id)
        return Response(RunOut(runs_of(contender, frame_id), many=True).data)

    @extend_schema(operation_id="cell_tell_times", request=TimesIn, responses={201: RunOut})
    def put(self, request: Request, contender_id: int, frame_id: int) -> Response:
        contender, frame = (
            queries.find_contender(request.user, contender_id),
            find_frame(request.user, frame_id),
        )
        return Response(
            RunOut(runs.tell_times(request.user, contender, frame, valid(TimesIn, request))).data,
            status=201,
        )


class FamilyView(APIView):
    """A whole family of contenders in one go."""

    @extend_schema(operation_id="family_enter", request=FamilyIn, responses=FamilyOut)
    def post(self, request: Request, study_id: int) -> Response:
        given, study = valid(FamilyIn, request), queries.find_study(request.user, study_id)
        try:
            made = _family(told_treatment(given["treatment"]), given)
        except BadRequest as error:
            raise ActionError(str(error)) from error
        entered = [] if given["dry"] else contenders.enter_family(request.user, study, made)
        return Response(
            FamilyOut({"words": [t.words for t in made], "entered": [c.pk for c in entered]}).data
        )


def _family(base: core.Treatment, given: dict[str, Any]) -> list[core.Treatment]:
    if given["kind"] == "sweep":
        return family.swept(base, given["step"], given["name"], given["values"])
    if given["kind"] == "releases":
        return family.releases(base, given["step"], [str(v) for v in given["values"]])
    return {"orders": family.orders, "feeds": family.feeds}[given["kind"]](base)


class DifferencesView(APIView):
    """What exactly differs between two contenders."""

    @extend_schema(operation_id="contenders_differ", responses=DifferenceOut(many=True))
    def get(self, request: Request, contender_id: int, other_id: int) -> Response:
        one, other = (queries.find_contender(request.user, n) for n in (contender_id, other_id))
        if one.treatment is None or other.treatment is None:
            raise Missing(
                "Only treatments can be compared; the truth and the unprocessed frame are none."
            )
        return Response(
            DifferenceOut(differences(one.treatment.told, other.treatment.told), many=True).data
        )
