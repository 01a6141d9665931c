"""A small study with one release of a tool, tested again with the next."""

from __future__ import annotations

from glenhail.demo import texts
from glenhail.demo.samples import GAUGE_WALL
from glenhail.demo.studies import Filler
from glenhail.server.material.models import Frame
from glenhail.server.outputs.actions import retests, runs
from glenhail.server.publishing.actions import reports
from glenhail.server.publishing.blocks import FIGURE
from glenhail.server.publishing.queries import report_of
from glenhail.server.studies.actions import study as study_actions
from glenhail.server.studies.models import Study
from glenhail.server.tools.models import Release


class RetestFiller(Filler):
    """Fills it in two steps: as it was published first, and with the next release."""

    def first(self) -> Study:
        """One frame, one contender, made on the bench."""
        study = self._study(texts.RETEST, [texts.RETEST_STEP])
        frame = self._frame(GAUGE_WALL, GAUGE_WALL.frame_file, GAUGE_WALL.truth_file)
        study_actions.take_frame(self.actor, study, frame)
        self._patches(study, frame, GAUGE_WALL)
        whole = (texts.RETEST_SUMMARY, texts.RETEST_METHOD, texts.DISCLOSURE)
        reports.write_report(self.actor, study, *whole)
        self._views(study, frame)
        runs.ask_for_runs(self.actor, study, "missing")
        return study

    def _views(self, study: Study, frame: Frame) -> None:
        """Where the patches lie, one over the other, and what is left of it in a post."""
        if any(b["kind"] == FIGURE for b in report_of(study).blocks):
            return
        size = frame.picture
        whole = {"x": 0, "y": 0, "w": size.width, "h": size.height, "letters": ["U"]}
        patch = study.patches.filter(role="print").order_by("pk")[0]
        part = {"x": patch.x, "y": patch.y, "w": patch.w, "h": patch.h, "zoom": 2}
        for view in (
            {**whole, "marked": True},
            {**part, "letters": ["A", "U"], "over": 0.5},
            {**part, "letters": ["A", "U", "T"], "seen_as": "post"},
        ):
            usual = {"against": "", "kind": "", "lift": 0, "gain": 1}
            reports.take_figure(self.actor, study, {"frame": frame.pk, **usual, **view})

    def again(self, study: Study) -> None:
        """The same with the next release, beside the first."""
        first = study.contenders.get(letter="A")
        if not first.followers.exists():
            release = Release.objects.get(
                tool__bench=self.bench, tool__name=texts.RETEST_STEP.tool, name=texts.RETEST_RELEASE
            )
            retests.begin_retest(self.actor, study, release.pk, [first.pk])
