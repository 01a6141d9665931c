"""``manage.py fill_demo``: the sample studies, once; an interrupted filling goes on
where it stopped.
"""

from __future__ import annotations

import time
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db.models import Q

from glenhail.demo import sittings, texts, verdicts
from glenhail.demo.files import make_files
from glenhail.demo.frames import make_raw_files
from glenhail.demo.material import MaterialFiller
from glenhail.demo.prints import make_prints
from glenhail.demo.questions import NOTE, ORDER_NOTE, RETEST_NOTE, QuestionsFiller
from glenhail.demo.retest import RetestFiller
from glenhail.demo.runs import RunsFiller
from glenhail.demo.studies import Filler
from glenhail.demo.tools import write_tools
from glenhail.server.accounts.actions.members import add_member
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.jobs.models import ACTIVE, Job, State
from glenhail.server.publishing.actions import comments, reports
from glenhail.server.publishing.models import Comment, Edition
from glenhail.server.studies.models import Study

BENCH = "Harrowbeck bench"
PATIENCE = 600


class Command(BaseCommand):
    help = "Fills the bench with the sample studies of the Harrowbeck weaving mill."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument(
            "--more", action="store_true", help="the material that no sample study needs"
        )
        parser.add_argument(
            "--files-coming", action="store_true", help="another process is making the sample files"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        if options["more"]:
            bench = Bench.objects.get(name=BENCH)
            actor, folder = User.objects.get(username="reviewer"), settings.VAR / "demo"
            make_prints(folder)
            on_bench = RunsFiller(actor, bench, folder)
            on_bench.prints()
            self._wait_for_decoding(bench)
            on_bench.on_the_bench()
            elsewhere = on_bench.elsewhere()
            self._wait(elsewhere)
            on_bench.confirm(elsewhere)
            self._more(MaterialFiller(actor, bench, folder))
            self._retest(RetestFiller(actor, bench, folder))
            self._questions(QuestionsFiller(actor, bench, folder))
            return
        if Edition.objects.filter(report__study__question=texts.DENOISING, number=2).exists():
            return
        self.stdout.write("Filling in the sample studies, about a minute and a half ...")
        bench = Bench.objects.order_by("pk").first() or Bench.objects.create(name=BENCH)
        Bench.objects.filter(pk=bench.pk).update(name=BENCH)
        actor = add_member(bench, "reviewer", "harrowbeck", Role.OWNER)
        add_member(bench, "guest", "harrowbeck", Role.VIEWER)
        write_tools(actor, bench)
        if not options["files_coming"]:
            make_files(settings.VAR / "demo")
        self._fill(actor, bench)

    def _fill(self, actor: User, bench: Bench) -> None:
        """The study to publish goes first; while its editions are printed, the others
        give the workers something to do.
        """
        filler = Filler(actor, bench, settings.VAR / "demo")
        study = filler.denoising()
        self._wait(study)
        filler.remark(study)
        self._publish(actor, study, texts.FIRST_NOTE, 1)
        others = [filler.night()]
        self._wait_for_edition(study, 1)
        filler.third_frame(study)
        others.append(filler.enlarging())
        self._wait(study)
        filler.decide(study)
        sitting = sittings.compose(actor, study)
        self._wait(study)
        sittings.judge(actor, sitting)
        sittings.compose_open(actor, study)
        verdicts.conclude(actor, study)
        self._publish(actor, study, texts.SECOND_NOTE, 2, clips="first", layers=True)
        self._wait_for_edition(study, 2)
        if not Comment.objects.filter(report__study=study).exists():
            comments.say(actor, study, *texts.COMMENT)
        for other in others:
            self._wait(other)

    def _more(self, filler: MaterialFiller) -> None:
        filler.bodies()
        filler.target()
        make_raw_files(filler.folder)
        self._wait_for_decoding(filler.bench)
        filler.raw_files()
        self._wait_for_decoding(filler.bench)
        filler.truths()
        filler.match_night()
        self._wait_for_decoding(filler.bench)
        bodies = filler.two_bodies()
        filler.sensors()
        self._wait(bodies)
        filler.conclude_bodies(bodies)
        self._publish(filler.actor, bodies, texts.BODIES_NOTE, 1)
        self._wait_for_edition(bodies, 1)

    def _retest(self, filler: RetestFiller) -> None:
        study = filler.first()
        self._publish(filler.actor, study, texts.RETEST_FIRST, 1)
        self._wait_for_edition(study, 1)
        filler.again(study)
        self._publish(filler.actor, study, texts.RETEST_SECOND, 2)
        self._wait_for_edition(study, 2)

    def _questions(self, filler: QuestionsFiller) -> None:
        study = filler.strengths()
        others = filler.others()
        for other in (study, *others):
            self._wait(other)
        filler.ask_others()
        filler.ask_strengths(study)
        self._publish(filler.actor, study, NOTE, 1)
        self._wait_for_edition(study, 1)
        order, enlarging, retest = others
        self._publish(filler.actor, order, ORDER_NOTE, 1)
        self._publish(filler.actor, retest, RETEST_NOTE, 3)
        self._wait_for_edition(order, 1)
        self._wait_for_edition(retest, 3)
        self._wait(enlarging)

    def _wait_for_decoding(self, bench: Bench) -> None:
        end = time.monotonic() + PATIENCE
        while Job.objects.filter(bench=bench, study_id=None, state__in=ACTIVE).exists():
            if time.monotonic() > end:
                raise CommandError(
                    "The workers do not get on with the sample material; see var/logs."
                )
            time.sleep(0.2)

    def _publish(
        self,
        actor: User,
        study: Study,
        note: str,
        number: int,
        clips: str = "none",
        layers: bool = False,
    ) -> None:
        if not Edition.objects.filter(report__study=study, number=number).exists():
            self._wait(study)
            reports.publish(actor, study, note, None, clips, layers)

    def _wait_for_edition(self, study: Study, number: int) -> None:
        self._wait(study)
        if not Edition.objects.filter(report__study=study, number=number).exists():
            raise CommandError(
                f"Sample edition {number} was not printed; the workers' logs in var/logs say why."
            )

    def _wait(self, study: Study) -> None:
        """Until no work of the study, and no decoding that it may need, is left."""
        end = time.monotonic() + PATIENCE
        concerned = Q(study_id=study.pk) | Q(study_id=None)
        while Job.objects.filter(concerned, bench=study.bench, state__in=ACTIVE).exists():
            if time.monotonic() > end:
                raise CommandError(
                    "The workers do not get on with the sample studies; see var/logs."
                )
            time.sleep(0.2)
        failed = Job.objects.filter(study_id=study.pk, state=State.FAILED).first()
        if failed is not None:
            raise CommandError(f"{failed.label}: {failed.problem}")
