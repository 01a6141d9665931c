"""The sample test material that no sample study needs: bodies, raw files, truths made
of them, a target.
"""

from __future__ import annotations

from glenhail.core.picture import Rect
from glenhail.core.targets.layout import sheet_of
from glenhail.demo import texts
from glenhail.demo.samples import (
    BODIES,
    BODY_ISOS,
    BODY_NAMES,
    BODY_SPOTS,
    RAW_BURST,
    RAW_SERIES,
    TARGET_NAME,
    TARGET_SHEET,
    TARGET_SHOTS,
    Shot,
)
from glenhail.demo.studies import Filler
from glenhail.server.material.actions import bodies, frames, scenes, targets, truths
from glenhail.server.material.models import Body, Frame, Scene, Target
from glenhail.server.outputs.actions import bodies as shots
from glenhail.server.studies.actions import patches
from glenhail.server.studies.actions import study as study_actions
from glenhail.server.studies.models import Study


class MaterialFiller(Filler):
    """Goes on where it was broken off, like its parent."""

    def bodies(self) -> None:
        """The invented bodies with their sensors."""
        known = set(Body.objects.filter(bench=self.bench).values_list("name", flat=True))
        for values in BODIES:
            if values["name"] not in known:
                bodies.save_body(self.actor, self.bench, dict(values))

    def target(self) -> None:
        """A sheet to be painted; raw files of it follow once its scene is there."""
        sheet = sheet_of(TARGET_SHEET)
        if not Target.objects.filter(bench=self.bench, number=sheet.number).exists():
            targets.make_target(self.actor, self.bench, TARGET_NAME, sheet)

    def raw_files(self) -> list[Frame]:
        """Both bodies' series of the loom table, a burst in the dye shed, and the
        target on the wall.
        """
        return [self._shot(shot) for shot in (*RAW_SERIES, *RAW_BURST, *TARGET_SHOTS)]

    def truths(self) -> None:
        """The lowest ISO of each series as the truth of the others; the burst's mean as
        the truth of each of its frames.
        """
        for body in BODY_NAMES:
            base, *others = (self._frame_of(s) for s in RAW_SERIES if s.body == body)
            missing = [f for f in others if f.truth_id is None]
            if missing:
                truths.ask_for_twins(self.actor, base, missing)
        burst = [self._frame_of(s) for s in RAW_BURST]
        if any(f.truth_id is None for f in burst):
            truths.ask_for_burst(self.actor, burst)

    def two_bodies(self) -> None:
        """A question about bodies: sizes and exposures differ, and nothing is matched
        yet.
        """
        kept = Study.objects.filter(bench=self.bench, question=texts.BODIES).first()
        study = kept or study_actions.create_study(self.actor, self.bench, texts.BODIES, "body")
        for shot in (s for s in RAW_SERIES if s.body == "quill24" and s.iso in BODY_ISOS):
            frame = self._frame_of(shot)
            study_actions.take_frame(self.actor, study, frame)
            for name, role, *numbers in BODY_SPOTS:
                if not study.patches.filter(frame=frame, name=name).exists():
                    patches.draw_patch(self.actor, study, frame, name, role, Rect(*numbers))
        if not study.contenders.filter(body=BODY_NAMES["quill33"]).exists():
            shots.enter_body(self.actor, study, BODY_NAMES["quill33"])

    def _frame_of(self, shot: Shot) -> Frame:
        return Frame.objects.select_related("bench", "picture").get(
            bench=self.bench, file_name=shot.file
        )

    def _shot(self, shot: Shot) -> Frame:
        with self.arrived(shot.file).open("rb") as stream:
            frame, made = frames.add_frame(self.actor, self.bench, stream, shot.file)
        if made:
            frames.rename_frame(self.actor, frame, shot.name)
        self.licensed(frame)
        scene = Scene.objects.filter(bench=self.bench, name=shot.scene).first()
        if scene is not None and frame.scene_id is None:
            scenes.place_frame(self.actor, frame, scene.pk)
        return frame
