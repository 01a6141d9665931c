"""What is asked of whole studies on the sample bench: how far a setting goes, whether
the order of steps matters, whether a slider could do it, and whether anybody would see
it.
"""

from __future__ import annotations

from glenhail.core.treatments.family import swept
from glenhail.core.treatments.step import Setting, Step, Treatment
from glenhail.demo.runs import ORDER
from glenhail.demo.samples import GAUGE_WALL
from glenhail.demo.studies import Filler
from glenhail.demo.texts import DISCLOSURE, ENLARGING, RETEST
from glenhail.server.inquiries.actions.asking import ask_of_study
from glenhail.server.inquiries.answering import level, releases, visibility
from glenhail.server.inquiries.models import About
from glenhail.server.outputs.actions import runs
from glenhail.server.publishing.actions import reports
from glenhail.server.studies.actions import contenders
from glenhail.server.studies.actions import study as study_actions
from glenhail.server.studies.models import Study

STRENGTH = "Does 40 % of Sedgewash mean 40 %?"
SUMMARY = (
    "Sedgewash 2.4 does all or nothing, place by place, at every strength below 100 %; release 3.0"
    " does more here and less there; a guided filter blended in is even."
)
METHOD = (
    "Five strengths of each were run on the bench on one frame, from the same 16-bit TIFF, and held"
    " against the even blend of the frame and full strength."
)
ORDER_SUMMARY = (
    "Denoised before or after enlarging, and one release against the next, on the museum's prints."
)
ORDER_METHOD = (
    "All treatments were run on the bench from the same 16-bit TIFF. What is said of orders and"
    " releases follows from the readings of the patches drawn."
)
ORDER_NOTE = "Orders of two steps, and a release against the next."
RETEST_NOTE = "With what was asked of both releases."
NOTE = "Three strength series on the gauge wall."
STRENGTHS = (20.0, 40.0, 60.0, 80.0, 100.0)
GUIDED = Step(
    "Guided filter",
    strength=100,
    method="guided",
    settings=(Setting("radius", 3, "px"), Setting("variance", 0.004)),
)


class QuestionsFiller(Filler):
    """Goes on where it was broken off, like its parent."""

    def strengths(self) -> Study:
        """Three series on one frame, made on the bench."""
        study = self._study(STRENGTH, ())
        Study.objects.filter(pk=study.pk).update(factor="setting")
        frame = self._frame(GAUGE_WALL, GAUGE_WALL.frame_file, GAUGE_WALL.truth_file)
        study_actions.take_frame(self.actor, study, frame)
        self._patches(study, frame, GAUGE_WALL)
        wash = [Step("Sedgewash", release, "standard", strength=100) for release in ("2.4", "3.0")]
        for step in (*wash, GUIDED):
            family = swept(Treatment((step,)), 0, "strength", STRENGTHS)
            contenders.enter_family(self.actor, study, family)
        reports.write_report(self.actor, study, SUMMARY, METHOD, "Nobody paid for anything.")
        runs.ask_for_runs(self.actor, study, "missing")
        return study

    def ask_strengths(self, study: Study) -> None:
        """How far each setting goes, once all was measured."""
        self._ask(study, About.STRENGTH, "web")

    def others(self) -> tuple[Study, Study, Study]:
        """Studies that are there, of an order, of enlarging, of two releases."""
        order, enlarging, retest = (
            Study.objects.get(bench=self.bench, question=q) for q in (ORDER, ENLARGING, RETEST)
        )
        return order, enlarging, retest

    def ask_others(self) -> None:
        """The other questions, of studies that are measured."""
        order, enlarging, retest = self.others()
        self._ask(order, About.ORDER, "")
        first, second = enlarging.contenders.filter(letter__in="AB").order_by("letter")
        self._ask(enlarging, About.LEVEL, level.subject_of(second, first))
        frame = retest.contenders.get(letter="U")
        self._ask(retest, About.VISIBILITY, visibility.subject_of(frame, ""))
        for study in (order, retest):
            earlier, later = (study.contenders.get(letter=k) for k in releases.pairs_of(study)[0])
            self._ask(study, About.RELEASES, releases.subject_of(earlier, later))
        first, second = retest.contenders.filter(letter__in="AB").order_by("letter")
        self._ask(retest, About.LEVEL, level.subject_of(second, first))
        reports.write_report(self.actor, order, ORDER_SUMMARY, ORDER_METHOD, DISCLOSURE)

    def _ask(self, study: Study, about: About, subject: str) -> None:
        if not study.inquiries.filter(about=about, found__isnull=False).exists():
            ask_of_study(self.actor, study, about, subject)
