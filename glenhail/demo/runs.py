"""Two studies of the museum's prints: one made on the bench without a file touched by
hand, one from a folder made elsewhere.
"""

from __future__ import annotations

from pathlib import Path

from glenhail.core.treatments.family import orders, releases, swept
from glenhail.core.treatments.step import Setting, Step, Treatment
from glenhail.demo.prints import PRINTS, Print, make_again, make_elsewhere
from glenhail.demo.studies import Filler
from glenhail.server.material.actions import frames
from glenhail.server.material.models import Frame
from glenhail.server.outputs.actions import folders, runs
from glenhail.server.outputs.models import FolderState
from glenhail.server.studies.actions import contenders
from glenhail.server.studies.actions import study as study_actions
from glenhail.server.studies.models import Study

ORDER = "Denoise before or after enlarging?"
ELSEWHERE = "Twelve ways to treat a museum's prints, made elsewhere"
FIRST, AGAIN = "prints, from Ada's computer", "prints, thread at a lower strength"

WASH = Step("Sedgewash", "3.0", "standard", strength=100)
LIFT = Step("Tarnlift", "1.8", settings=(Setting("scale", 2.0, "x"), Setting("detail", 30.0, "%")))
GAUSSIAN = Step(
    "Gaussian",
    method="gaussian",
    settings=(Setting("luma", 1.0, "px"), Setting("colour", 2.0, "px")),
)
KEEN, MOSS = (
    Step("Keenfold", "5.1", "thread", strength=60),
    Step("Mossgate", "11", "everything", strength=60),
)

ON_THE_BENCH = (
    *releases(Treatment((WASH,)), 0, ["2.4", "3.0"]),
    Treatment((KEEN,)),
    Treatment((MOSS,)),
    Treatment((LIFT,)),
    *swept(Treatment((GAUSSIAN,)), 0, "luma", [0.5, 1.0, 2.0]),
    *orders(Treatment((WASH, LIFT))),
)


def _wash(release: str, strength: float) -> Treatment:
    return Treatment((Step("Sedgewash", release, "standard", strength=strength),))


def _lift(scale: float) -> Treatment:
    return Treatment(
        (
            Step(
                "Tarnlift",
                "1.8",
                settings=(Setting("scale", scale, "x"), Setting("detail", 30.0, "%")),
            ),
        )
    )


MADE_ELSEWHERE = (
    *(_wash("2.4", s) for s in (40, 100)),
    *(_wash("3.0", s) for s in (40, 70, 100)),
    *(
        Treatment((Step("Keenfold", "5.1", mode, strength=60),))
        for mode in ("thread", "broad", "sideways")
    ),
    *(Treatment((Step("Mossgate", "11", mode, strength=60),)) for mode in ("everything", "gentle")),
    *(_lift(s) for s in (2.0, 4.0)),
)


class RunsFiller(Filler):
    """Goes on where it was broken off, like its parent."""

    def prints(self) -> list[Frame]:
        """The five prints as frames."""
        return [self._print(p) for p in PRINTS]

    def _print(self, one: Print) -> Frame:
        with self.arrived(one.file).open("rb") as stream:
            frame, made = frames.add_frame(self.actor, self.bench, stream, one.file)
        if made:
            frames.rename_frame(self.actor, frame, one.name)
        self.licensed(frame)
        if frame.truth_id is None:
            with self.arrived(one.original).open("rb") as stream:
                frames.set_truth(self.actor, frame, stream, one.original)
        return frame

    def on_the_bench(self) -> None:
        """Four tools, two releases of one, a sweep, and an order of steps both ways;
        everything is run here.
        """
        study = self._with_prints(ORDER, "order of steps", ON_THE_BENCH)
        runs.ask_for_runs(self.actor, study, "missing")

    def elsewhere(self) -> Study:
        """A folder of sixty files, each proposed its cell."""
        study = self._with_prints(ELSEWHERE, "setting", MADE_ELSEWHERE)
        if not study.folders.exists():
            self._send_folder(study, FIRST, make_elsewhere(self.folder))
        return study

    def confirm(self, study: Study) -> None:
        """All sixty as proposed, then five of them again, which wait for somebody to
        look at what they would replace.
        """
        first = study.folders.get(name=FIRST)
        if first.state != FolderState.CONFIRMED:
            folders.confirm_folder(self.actor, first, keep_pattern=True)
        if not study.folders.filter(name=AGAIN).exists():
            self._send_folder(study, AGAIN, make_again(self.folder))

    def _send_folder(self, study: Study, name: str, home: Path) -> None:
        folder = folders.begin_folder(self.actor, study, name)
        for path in sorted(home.rglob("*.tif")):
            with path.open("rb") as stream:
                folders.add_file(
                    self.actor, folder, stream, str(Path(home.name) / path.relative_to(home))
                )

    def _with_prints(self, question: str, factor: str, treatments: tuple[Treatment, ...]) -> Study:
        kept = Study.objects.filter(bench=self.bench, question=question).first()
        study = kept or study_actions.create_study(self.actor, self.bench, question, factor)
        for one, frame in zip(PRINTS, self.prints(), strict=True):
            study_actions.take_frame(self.actor, study, frame)
            self._suggested_patches(
                study, frame, self.folder / one.file, self.folder / one.original
            )
        contenders.enter_family(self.actor, study, treatments)
        return study
