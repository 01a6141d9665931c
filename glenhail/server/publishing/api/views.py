"""Reports under work and their editions."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.core.looking.differences import Kind
from glenhail.core.looking.light import PLANES
from glenhail.server.accounts.permissions import membership
from glenhail.server.common.locks import locked
from glenhail.server.common.requests import valid
from glenhail.server.common.versions import require_current, tagged
from glenhail.server.jobs.api.views import JobOut
from glenhail.server.publishing.actions import editions, reports
from glenhail.server.publishing.api.corrections import PrintedMeasureOut
from glenhail.server.publishing.asked import asked_of
from glenhail.server.publishing.blocks import KINDS, complete
from glenhail.server.publishing.clips import CHOICES
from glenhail.server.publishing.models import Edition
from glenhail.server.publishing.queries import (
    commands_of,
    editions_of,
    find_edition,
    measures_read,
    published,
    report_of,
)
from glenhail.server.publishing.said import values_told
from glenhail.server.publishing.versions import texts_of
from glenhail.server.studies.models import Study
from glenhail.server.studies.queries import find_study

DIFFERENCES = [(kind.value, kind.value) for kind in Kind]


class EditionOut(serializers.ModelSerializer[Edition]):
    address = serializers.CharField(read_only=True)
    publisher = serializers.CharField(source="publisher.username", default="", read_only=True)

    class Meta:
        model = Edition
        fields = [
            "number",
            "note",
            "published",
            "publisher",
            "address",
            "public_from",
            "withdrawn",
            "withdrawn_because",
        ]
        read_only_fields = fields


class FigureUse(serializers.Serializer[Any]):
    """A use as a figure keeps it: whatever becomes of the bench's own, it stays."""

    id = serializers.CharField(max_length=60)
    name = serializers.CharField(max_length=200)
    width = serializers.IntegerField()
    height = serializers.IntegerField()
    enlarge = serializers.BooleanField()
    jpeg = serializers.IntegerField(allow_null=True)
    ppi = serializers.FloatField()
    distance_cm = serializers.FloatField()
    part = serializers.FloatField()
    resampling = serializers.CharField(max_length=20)
    video_mbit = serializers.FloatField(allow_null=True)


class FigureIn(serializers.Serializer[Any]):
    """A part of a frame (px) as contenders have it: as made, lifted (EV), a plane
    alone, as seen in a use that looks at a ``centre``, or as what differs from another;
    ``zoom`` is the magnification it shall have at most. Of two one may lie ``over`` the
    other up to a share of the width; of a whole frame the patches may be ``marked``.
    """

    frame = serializers.IntegerField()
    x = serializers.FloatField()
    y = serializers.FloatField()
    w = serializers.FloatField(min_value=1)
    h = serializers.FloatField(min_value=1)
    letters = serializers.ListField(child=serializers.CharField(max_length=1), max_length=40)
    zoom = serializers.FloatField(required=False, allow_null=True, min_value=0.01)
    lift = serializers.IntegerField(default=0)
    against = serializers.CharField(default="", allow_blank=True, max_length=1)
    kind = serializers.ChoiceField(choices=DIFFERENCES, default="", allow_blank=True)
    gain = serializers.IntegerField(default=1)
    plane = serializers.ChoiceField(choices=PLANES, required=False)
    use = FigureUse(required=False, allow_null=True)
    centre = serializers.ListField(
        child=serializers.FloatField(), min_length=2, max_length=2, required=False
    )
    over = serializers.FloatField(required=False, allow_null=True)
    marked = serializers.BooleanField(required=False)


class ViewIn(FigureIn):
    """What is seen; with ``trim`` the part about its middle that stands whole on a page
    at ``zoom``; ``seen_as`` is the id of the use that it is seen in.
    """

    trim = serializers.BooleanField(default=False)
    seen_as = serializers.CharField(default="", allow_blank=True, max_length=60)


class ReadPlaceIn(serializers.Serializer[Any]):
    """A patch of a frame; without one the whole frame."""

    frame = serializers.IntegerField()
    patch = serializers.IntegerField(allow_null=True, default=None)


class TableIn(serializers.Serializer[Any]):
    """Readings for a table or a chart: each measure at each place, of these; as made,
    or those of the study's matched outputs.
    """

    measures = serializers.ListField(child=serializers.CharField(max_length=40), max_length=60)
    places = ReadPlaceIn(many=True)
    letters = serializers.ListField(child=serializers.CharField(max_length=1), max_length=40)
    matched = serializers.BooleanField(required=False)


class TakenTableIn(serializers.Serializer[Any]):
    """Readings that are seen, and whether they become a table or a chart."""

    kind = serializers.CharField(max_length=20)
    table = TableIn()


class BlockIn(serializers.Serializer[Any]):
    """A block of the report; only those that may stand several times have words of
    their own. ``by`` says whose reply it is, and when it came.
    """

    kind = serializers.CharField(max_length=20)
    text = serializers.CharField(allow_blank=True, required=False, max_length=40_000)
    by = serializers.CharField(allow_blank=True, required=False, max_length=400)
    figure = FigureIn(required=False, allow_null=True)
    table = TableIn(required=False, allow_null=True)


class TextValueOut(serializers.Serializer[Any]):
    """A reading that a text asks for, or what one says otherwise than its numbers;
    ``block`` is the place of its block, null for summary, method and verdicts.
    """

    where = serializers.CharField()
    block = serializers.IntegerField(allow_null=True)
    asked = serializers.CharField()
    text = serializers.CharField()
    problem = serializers.CharField()
    warning = serializers.CharField()


class BlockKindOut(serializers.Serializer[Any]):
    """``kept`` blocks are in every edition; of ``own`` ones there may be several."""

    id = serializers.CharField()
    title = serializers.CharField()
    kept = serializers.BooleanField()
    own = serializers.BooleanField()


class ReportIn(serializers.Serializer[Any]):
    summary = serializers.CharField(allow_blank=True, max_length=4000)
    method = serializers.CharField(allow_blank=True, max_length=8000)
    disclosure = serializers.CharField(allow_blank=True, max_length=4000)
    blocks = BlockIn(many=True, required=False)


class ReportWriteIn(ReportIn):
    """``auto`` where the page saves by itself: such states become one version."""

    auto = serializers.BooleanField(default=False)


class ReaderQuestionOut(serializers.Serializer[Any]):
    """What a reader would ask; ``page`` is a stage of the study, or the tools."""

    id = serializers.CharField()
    text = serializers.CharField()
    page = serializers.CharField()


class ReportOut(serializers.Serializer[Any]):
    """A report under work; ``commands`` names the releases whose commands its editions
    publish, ``measures`` those that there are readings of.
    """

    summary = serializers.CharField()
    method = serializers.CharField()
    disclosure = serializers.CharField()
    blocks = BlockIn(many=True)
    kinds = BlockKindOut(many=True)
    missing = serializers.CharField()
    asked = ReaderQuestionOut(many=True)
    commands = serializers.ListField(child=serializers.CharField())
    values = TextValueOut(many=True)
    measures = PrintedMeasureOut(many=True)
    editions = EditionOut(many=True)


class NoteIn(serializers.Serializer[Any]):
    """``public_from``: until then nobody but the bench reads the edition. ``clips``: of
    which figures there are videos; ``layers``: whether of each frame there is one file
    with a layer for each contender.
    """

    note = serializers.CharField(allow_blank=True, max_length=400)
    public_from = serializers.DateTimeField(required=False, allow_null=True)
    clips = serializers.ChoiceField(choices=CHOICES, required=False)
    layers = serializers.BooleanField(required=False)


class WithdrawIn(serializers.Serializer[Any]):
    reason = serializers.CharField(max_length=400)


class ReportRow(serializers.Serializer[Any]):
    study = serializers.IntegerField()
    question = serializers.CharField()
    editions = EditionOut(many=True)


def _report(study: Study) -> object:
    found = report_of(study)
    printed = editions_of(found)
    told = values_told(study)
    whole = {
        "summary": found.summary,
        "method": found.method,
        "disclosure": found.disclosure,
        "blocks": complete(found.blocks),
        "kinds": KINDS,
        "missing": reports.what_is_missing(study, told),
        "asked": asked_of(study, told),
        "commands": commands_of(study),
        "values": told,
        "measures": measures_read(study),
        "editions": printed,
    }
    return ReportOut(whole).data


class ReportView(APIView):
    """A study's report under work."""

    @extend_schema(operation_id="report_read", responses=ReportOut)
    def get(self, request: Request, study_id: int) -> Response:
        study = find_study(request.user, study_id)
        return Response(_report(study), headers=tagged(texts_of(report_of(study))))

    @extend_schema(operation_id="report_write", request=ReportWriteIn, responses=ReportOut)
    def put(self, request: Request, study_id: int) -> Response:
        study, texts = find_study(request.user, study_id), valid(ReportWriteIn, request)
        with transaction.atomic():
            locked(study)
            require_current(request, texts_of(report_of(study)))
            reports.write_report(request.user, study, **texts)
        return Response(_report(study), headers=tagged(texts_of(report_of(study))))


class FiguresView(APIView):
    """What was seen on the wall or in the close look, for the report."""

    @extend_schema(operation_id="figure_take", request=ViewIn, responses={201: BlockIn})
    def post(self, request: Request, study_id: int) -> Response:
        study, view = find_study(request.user, study_id), valid(ViewIn, request)
        trim = view.pop("trim")
        with transaction.atomic():
            locked(study)
            block = reports.take_figure(request.user, study, view, trim)
        return Response(BlockIn(block).data, status=201)


class TablesView(APIView):
    """What was seen among the numbers, for the report."""

    @extend_schema(operation_id="table_take", request=TakenTableIn, responses={201: BlockIn})
    def post(self, request: Request, study_id: int) -> Response:
        study, told = find_study(request.user, study_id), valid(TakenTableIn, request)
        with transaction.atomic():
            locked(study)
            block = reports.take_table(request.user, study, told["kind"], told["table"])
        return Response(BlockIn(block).data, status=201)


class EditionsView(APIView):
    """Publishing."""

    @extend_schema(operation_id="edition_publish", request=NoteIn, responses={202: JobOut})
    def post(self, request: Request, study_id: int) -> Response:
        study = find_study(request.user, study_id)
        job = reports.publish(request.user, study, **valid(NoteIn, request))
        return Response(JobOut(job).data, status=202)


class WithdrawnView(APIView):
    """Withdrawing an edition."""

    @extend_schema(operation_id="edition_withdraw", request=WithdrawIn, responses=EditionOut)
    def put(self, request: Request, study_id: int, number: int) -> Response:
        edition = find_edition(find_study(request.user, study_id), number)
        reason = valid(WithdrawIn, request)["reason"]
        return Response(EditionOut(editions.withdraw(request.user, edition, reason)).data)


class ReportsView(APIView):
    """All published reports of the bench."""

    @extend_schema(operation_id="reports_list", responses=ReportRow(many=True))
    def get(self, request: Request) -> Response:
        whole = [
            {"study": r.study_id, "question": r.study.question, "editions": r.editions.all()}
            for r in published(membership(request.user).bench)
        ]
        return Response(ReportRow(whole, many=True).data)
