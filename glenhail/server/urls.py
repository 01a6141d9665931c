"""Every address of the application."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.urls import path, re_path
from drf_spectacular.views import SpectacularAPIView

from glenhail.server.accounts.api import people, tokens
from glenhail.server.accounts.api.session import SessionView
from glenhail.server.audit.api import views as audit
from glenhail.server.common.shell import shell
from glenhail.server.hooks.api.views import HooksView, HookView
from glenhail.server.inquiries.api import views as inquiries
from glenhail.server.jobs.api.views import JobCancelView, JobRetryView, QueueView
from glenhail.server.judging.api import seats, sittings
from glenhail.server.judging.api.remarks import RemarksView, RemarkView
from glenhail.server.judging.api.verdicts import EvidenceView, NamedCallsView, VerdictsView
from glenhail.server.material.api import bodies, targets, truths
from glenhail.server.material.api.degrading import DegradeView, StepKindsView
from glenhail.server.material.api.prints import PrintView
from glenhail.server.material.api.scenes import KnownView, ScenesView, SceneView
from glenhail.server.material.api.terms import FrameTermsView, LicencesView
from glenhail.server.material.api.views import FramesView, FrameView, TruthView
from glenhail.server.measuring.api import answers, examination, matching, readings, suggestions
from glenhail.server.operations.api import storage
from glenhail.server.operations.api.metrics import metrics
from glenhail.server.outputs.api import bodies as shots
from glenhail.server.outputs.api import cells, folders, runs
from glenhail.server.outputs.api.plans import MethodView, PlansView, StudyPlanView
from glenhail.server.outputs.api.retests import RetestsView
from glenhail.server.publishing.api import public
from glenhail.server.publishing.api.comments import CommentsView, CommentView
from glenhail.server.publishing.api.corrections import CorrectionsView, CorrectionView
from glenhail.server.publishing.api.preview import DraftFileView, DraftView, ShownView
from glenhail.server.publishing.api.versions import VersionsView, VersionView
from glenhail.server.publishing.api.views import (
    EditionsView,
    FiguresView,
    ReportsView,
    ReportView,
    TablesView,
    WithdrawnView,
)
from glenhail.server.sensors.api import views as sensors
from glenhail.server.storage.api import tus, uploads
from glenhail.server.studies.api import uses
from glenhail.server.studies.api import views as studies
from glenhail.server.tools.api import views as tools
from glenhail.server.viewing.api.deep import DeepPartView, DeepTileView, DifferenceView
from glenhail.server.viewing.api.layers import LayersView
from glenhail.server.viewing.api.seen import SeenTileView, SeenView
from glenhail.server.viewing.api.study import StudiesView, StudyView
from glenhail.server.viewing.api.views import (
    ExportView,
    OriginalView,
    PartView,
    PreviewView,
    ThumbView,
    TileView,
)


def no_such_call(request: HttpRequest) -> HttpResponse:
    """An unknown address below /api/ is a problem, not the application's page."""
    body = {
        "type": "about:blank",
        "title": "Not found",
        "status": 404,
        "detail": "There is no such call.",
    }
    return JsonResponse(body, status=404, content_type="application/problem+json")


urlpatterns = [
    path("healthy", storage.healthy),
    path("metrics", metrics),
    path("api/storage", storage.StorageView.as_view()),
    path("api/session", SessionView.as_view()),
    path("api/people", people.PeopleView.as_view()),
    path("api/people/<int:user_id>", people.PersonView.as_view()),
    path("api/people/<int:user_id>/new-password", people.ResetLinkView.as_view()),
    path("api/invitations", people.InvitationsView.as_view()),
    path("api/join", people.JoinView.as_view()),
    path("api/new-password", people.ResetView.as_view()),
    path("api/password", people.PasswordView.as_view()),
    path("api/sessions", people.SessionsView.as_view()),
    path("api/sessions/<str:session_id>", people.OneSessionView.as_view()),
    path("api/tokens", tokens.TokensView.as_view()),
    path("api/tokens/<int:token_id>", tokens.TokenView.as_view()),
    path("api/hooks", HooksView.as_view()),
    path("api/hooks/<int:hook_id>", HookView.as_view()),
    path("api/trail", people.TrailView.as_view()),
    path("api/queue", QueueView.as_view()),
    path("api/jobs/<int:job_id>/cancel", JobCancelView.as_view()),
    path("api/jobs/<int:job_id>/retry", JobRetryView.as_view()),
    path("api/uploads", uploads.UploadsView.as_view()),
    path("api/uploads/<uuid:upload_id>", uploads.UploadView.as_view()),
    path("api/uploads/tus", tus.CreationView.as_view()),
    path("api/uploads/<uuid:upload_id>/bytes", tus.BytesView.as_view()),
    path("api/uploads/<uuid:upload_id>/finish", uploads.FinishView.as_view()),
    path("api/frames", FramesView.as_view()),
    path("api/frames/terms", FrameTermsView.as_view()),
    path("api/licences", LicencesView.as_view()),
    path("api/frames/<int:frame_id>", FrameView.as_view()),
    path("api/frames/<int:frame_id>/truth", TruthView.as_view()),
    path("api/frames/<int:frame_id>/degradations", DegradeView.as_view()),
    path("api/frames/<int:frame_id>/degradations/preview", PreviewView.as_view()),
    path("api/frames/<int:frame_id>/target", targets.FrameLookView.as_view()),
    path("api/degradations", StepKindsView.as_view()),
    path("api/twins", truths.TwinsView.as_view()),
    path("api/bursts", truths.BurstsView.as_view()),
    path("api/bodies", bodies.BodiesView.as_view()),
    path("api/bodies/<int:body_id>", bodies.BodyView.as_view()),
    path("api/bodies/<int:body_id>/measured", sensors.BodyMeasuredView.as_view()),
    path("api/targets", targets.TargetsView.as_view()),
    path("api/targets/fields", targets.FieldKindsView.as_view()),
    path("api/targets/preview", targets.SheetPreviewView.as_view()),
    path("api/targets/look", targets.LookView.as_view()),
    path("api/targets/<int:target_id>", targets.TargetView.as_view()),
    path("api/scenes", ScenesView.as_view()),
    path("api/scenes/<int:scene_id>", SceneView.as_view()),
    path("api/scenes/<int:scene_id>/known", KnownView.as_view()),
    path("api/tools", tools.ToolsView.as_view()),
    path("api/tools/comparison", tools.ComparisonView.as_view()),
    path("api/tools/comparison.csv", tools.ComparisonCsvView.as_view()),
    path("api/tools/<int:tool_id>", tools.ToolView.as_view()),
    path("api/tools/<int:tool_id>/releases", tools.ReleasesView.as_view()),
    path("api/releases/<int:release_id>", tools.ReleaseView.as_view()),
    path("api/releases/<int:release_id>/command", tools.CommandView.as_view()),
    path("api/programs", tools.ProgramsView.as_view()),
    path("api/methods", tools.MethodsView.as_view()),
    path("api/treatments", tools.TreatmentsView.as_view()),
    path("api/treatments/<int:treatment_id>", tools.TreatmentView.as_view()),
    path("api/uses", uses.UsesView.as_view()),
    path("api/uses/<int:use_id>", uses.UseView.as_view()),
    path("api/studies", StudiesView.as_view()),
    path("api/studies/<int:study_id>", StudyView.as_view()),
    path("api/studies/<int:study_id>/copies", studies.StudyCopiesView.as_view()),
    path("api/studies/<int:study_id>/archived", studies.StudyArchivedView.as_view()),
    path("api/studies/<int:study_id>/frames", studies.StudyFramesView.as_view()),
    path("api/studies/<int:study_id>/frames/<int:frame_id>", studies.StudyFrameView.as_view()),
    path("api/studies/<int:study_id>/frames/<int:frame_id>/layers", LayersView.as_view()),
    path(
        "api/studies/<int:study_id>/frames/<int:frame_id>/target-patches",
        studies.TargetPatchesView.as_view(),
    ),
    path("api/studies/<int:study_id>/contenders", studies.ContendersView.as_view()),
    path("api/studies/<int:study_id>/patches", studies.PatchesView.as_view()),
    path("api/studies/<int:study_id>/readings", readings.ReadingsView.as_view()),
    path("api/studies/<int:study_id>/readings.csv", readings.ReadingsCsvView.as_view()),
    path("api/studies/<int:study_id>/answers", answers.AnswersView.as_view()),
    path("api/studies/<int:study_id>/summary", answers.SummaryView.as_view()),
    path("api/studies/<int:study_id>/standings", answers.StandingsView.as_view()),
    path("api/studies/<int:study_id>/tradeoff", answers.TradeView.as_view()),
    path("api/studies/<int:study_id>/curves", answers.CurvesView.as_view()),
    path("api/frames/<int:frame_id>/suggestions", suggestions.SuggestionsView.as_view()),
    path("api/patches/<int:patch_id>/spread", studies.SpreadView.as_view()),
    path("api/studies/<int:study_id>/verdicts", VerdictsView.as_view()),
    path("api/studies/<int:study_id>/evidence", EvidenceView.as_view()),
    path("api/studies/<int:study_id>/named-calls", NamedCallsView.as_view()),
    path("api/studies/<int:study_id>/remarks", RemarksView.as_view()),
    path("api/remarks/<int:remark_id>", RemarkView.as_view()),
    path("api/studies/<int:study_id>/sittings", sittings.SittingsView.as_view()),
    path("api/sitting-prospect", sittings.ProspectView.as_view()),
    path("api/sittings/<int:sitting_id>", sittings.SittingView.as_view()),
    path("api/sittings/<int:sitting_id>/close", sittings.SittingEndView.as_view()),
    path("api/sittings/<int:sitting_id>/seat", sittings.OwnSeatView.as_view()),
    path("api/sittings/<int:sitting_id>/links", sittings.SittingLinksView.as_view()),
    path("api/sittings/<int:sitting_id>/outcome", sittings.OutcomeView.as_view()),
    path("api/sittings/<int:sitting_id>/outcome/<int:spot>", sittings.SpotOutcomeView.as_view()),
    path(
        "api/sittings/<int:sitting_id>/crops/<int:spot>/<str:letter>.png",
        sittings.SittingCropView.as_view(),
    ),
    path("api/sittings/<int:sitting_id>/calls.csv", sittings.RawCallsView.as_view()),
    path("api/sitting-links/<int:sitting_link_id>", sittings.SittingLinkView.as_view()),
    path("api/invitations/<str:link_key>", seats.InvitationView.as_view()),
    path("api/invitations/<str:link_key>/seats", seats.GuestSeatView.as_view()),
    path("api/seats/<str:seat_key>", seats.SeatView.as_view()),
    path("api/seats/<str:seat_key>/screen", seats.SeatScreenView.as_view()),
    path("api/seats/<str:seat_key>/places/<int:place>", seats.SeatPlaceView.as_view()),
    path(
        "api/seats/<str:seat_key>/places/<int:place>/<str:which>.png",
        seats.SeatPictureView.as_view(),
    ),
    path("api/studies/<int:study_id>/report", ReportView.as_view()),
    path("api/studies/<int:study_id>/report/preview/", DraftView.as_view()),
    path("api/studies/<int:study_id>/report/preview/<str:name>", DraftFileView.as_view()),
    path(
        "api/outputs/<int:output_id>/shown/<int:x>_<int:y>_<int:w>_<int:h>.png",
        ShownView.as_view(),
    ),
    path("api/studies/<int:study_id>/report/versions", VersionsView.as_view()),
    path("api/studies/<int:study_id>/report/versions/<int:version_id>", VersionView.as_view()),
    path("api/studies/<int:study_id>/report/figures", FiguresView.as_view()),
    path("api/studies/<int:study_id>/report/tables", TablesView.as_view()),
    path("api/studies/<int:study_id>/editions", EditionsView.as_view()),
    path("api/studies/<int:study_id>/editions/<int:number>/withdrawn", WithdrawnView.as_view()),
    path("api/studies/<int:study_id>/corrections", CorrectionsView.as_view()),
    path("api/studies/<int:study_id>/corrections/<int:number>", CorrectionView.as_view()),
    path("api/studies/<int:study_id>/folders", folders.FoldersView.as_view()),
    path("api/studies/<int:study_id>/hot-folders", folders.HotFoldersView.as_view()),
    path("api/folders/<int:folder_id>", folders.FolderView.as_view()),
    path("api/folders/<int:folder_id>/confirm", folders.ConfirmView.as_view()),
    path("api/folder-files/<int:file_id>", folders.FolderFileView.as_view()),
    path("api/contenders/<int:contender_id>/hot-folder", folders.HotFolderView.as_view()),
    path(
        "api/contenders/<int:contender_id>/outputs/<int:frame_id>/preview",
        folders.PreviewOfOutputView.as_view(),
    ),
    path("api/studies/<int:study_id>/audit", audit.AuditView.as_view()),
    path("api/studies/<int:study_id>/audit/decisions", audit.DecisionsView.as_view()),
    path("api/studies/<int:study_id>/audit/decisions/<str:finding>", audit.DecisionView.as_view()),
    path("api/studies/<int:study_id>/matching", matching.MatchingView.as_view()),
    path("api/studies/<int:study_id>/bodies", shots.StudyBodiesView.as_view()),
    path("api/studies/<int:study_id>/series", sensors.StudySeriesView.as_view()),
    path("api/studies/<int:study_id>/series/luminance", sensors.SeriesLuminanceView.as_view()),
    path("api/studies/<int:study_id>/series/scenes", sensors.SeriesScenesView.as_view()),
    path("api/prints", PrintView.as_view()),
    path("api/studies/<int:study_id>/inquiries", inquiries.InquiriesView.as_view()),
    path("api/studies/<int:study_id>/strength", inquiries.StrengthView.as_view()),
    path("api/studies/<int:study_id>/level", inquiries.LevelView.as_view()),
    path("api/studies/<int:study_id>/level/entered", inquiries.SharpenedView.as_view()),
    path("api/studies/<int:study_id>/order", inquiries.OrderView.as_view()),
    path("api/studies/<int:study_id>/order/between", inquiries.BetweenView.as_view()),
    path("api/studies/<int:study_id>/releases", inquiries.ReleaseChangesView.as_view()),
    path("api/studies/<int:study_id>/worth", inquiries.WorthView.as_view()),
    path("api/studies/<int:study_id>/visibility", inquiries.VisibilityView.as_view()),
    path(
        "api/studies/<int:study_id>/evidence/<slug:key>/<slug:shown>.png",
        inquiries.EvidencePictureView.as_view(),
    ),
    path("api/outputs/<int:output_id>/examination", examination.ExaminationView.as_view()),
    path("api/outputs/<int:output_id>/points", examination.PointsView.as_view()),
    path("api/studies/<int:study_id>/coverage", runs.CoverageView.as_view()),
    path("api/studies/<int:study_id>/runs", runs.RunsView.as_view()),
    path("api/studies/<int:study_id>/runs/front", runs.FrontView.as_view()),
    path("api/plans", PlansView.as_view()),
    path("api/studies/<int:study_id>/plan", StudyPlanView.as_view()),
    path("api/studies/<int:study_id>/method.toml", MethodView.as_view()),
    path("api/studies/<int:study_id>/report/comments", CommentsView.as_view()),
    path("api/studies/<int:study_id>/report/comments/<int:comment_id>", CommentView.as_view()),
    path("api/studies/<int:study_id>/retests", RetestsView.as_view()),
    path("api/studies/<int:study_id>/families", runs.FamilyView.as_view()),
    path("api/studies/<int:study_id>/costs", runs.CostsView.as_view()),
    path("api/studies/<int:study_id>/costs.csv", runs.CostsCsvView.as_view()),
    path(
        "api/contenders/<int:contender_id>/against/<int:other_id>", runs.DifferencesView.as_view()
    ),
    path(
        "api/contenders/<int:contender_id>/outputs/<int:frame_id>/runs", runs.CellRunsView.as_view()
    ),
    path("api/contenders/<int:contender_id>", studies.ContenderView.as_view()),
    path("api/contenders/<int:contender_id>/terms", studies.ContenderTermsView.as_view()),
    path("api/contenders/<int:contender_id>/outputs/<int:frame_id>", cells.OutputView.as_view()),
    path("api/patches/<int:patch_id>", studies.PatchView.as_view()),
    path("api/readings/<int:reading_id>", readings.ReadingView.as_view()),
    path(
        "api/pictures/<int:picture_id>/tiles/<int:level>/<int:column>_<int:row>.png",
        TileView.as_view(),
    ),
    path(
        "api/pictures/<int:picture_id>/full-depth/<int:level>/<int:column>_<int:row>",
        DeepTileView.as_view(),
    ),
    path(
        "api/pictures/<int:picture_id>/parts/<int:x>_<int:y>_<int:w>_<int:h>.png",
        PartView.as_view(),
    ),
    path(
        "api/pictures/<int:picture_id>/full-depth/parts/<int:x>_<int:y>_<int:w>_<int:h>",
        DeepPartView.as_view(),
    ),
    path(
        "api/outputs/<int:one_id>/less/<int:two_id>/<int:level>/<int:column>_<int:row>",
        DifferenceView.as_view(),
    ),
    path("api/outputs/<int:output_id>/seen", SeenView.as_view()),
    path(
        "api/outputs/<int:output_id>/seen/<slug:key>/<int:level>/<int:column>_<int:row>.png",
        SeenTileView.as_view(),
    ),
    path("api/pictures/<int:picture_id>/thumb.webp", ThumbView.as_view()),
    path("api/pictures/<int:picture_id>/original", OriginalView.as_view()),
    path("api/pictures/<int:picture_id>/as/<str:ending>", ExportView.as_view()),
    path("api/reports", ReportsView.as_view()),
    path("api/openapi.yaml", SpectacularAPIView.as_view()),
    re_path(r"^api/.*$", no_such_call),
    path("reports/", public.site),
    re_path(
        r"^reports/(?P<name>(?:(?:tools|bodies)/[a-z0-9-]+/)?index\.html"
        r"|[-\w]+/series\.html|by-(?:date|question|release)\.html"
        r"|feed\.xml|robots\.txt|sitemap\.xml|assets/[\w.-]+)$",
        public.site,
    ),
    path("reports/<slug:slug>/", public.newest),
    path("reports/<slug:slug>/<int:number>/", public.page),
    path("reports/<slug:slug>/<int:number>/everything.zip", public.everything),
    path("reports/<slug:slug>/<int:number>/originals/<path:name>", public.one_original),
    path("reports/<slug:slug>/<int:number>/<path:name>", public.part),
    re_path(r"^(?!static/).*$", shell),
]
