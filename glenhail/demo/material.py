"""The sample test material that no sample study needs: bodies, raw files, truths made
of them, a target.
"""

from __future__ import annotations

from glenhail.core.picture import Rect
from glenhail.core.targets.layout import sheet_of
from glenhail.demo import texts, verdicts
from glenhail.demo.samples import (
    BODIES,
    BODY_ISOS,
    BODY_NAMES,
    BODY_SPOTS,
    DARKS,
    LOOM_TABLE,
    LUMINANCE,
    RAW_BURST,
    RAW_SERIES,
    T_NUMBERS,
    TARGET_NAME,
    TARGET_SHEET,
    TARGET_SHOTS,
    TWIN_ISOS,
    Shot,
)
from glenhail.demo.studies import Filler
from glenhail.server.material.actions import bodies, frames, scenes, targets, truths
from glenhail.server.material.models import Body, Frame, FrameKind, Scene, Target
from glenhail.server.publishing.actions import reports
from glenhail.server.sensors.actions import measuring, metering, series
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
        """Both bodies' series of the loom table and with the cap on, a burst in the dye
        shed, and the target on the wall.
        """
        return [self._shot(shot) for shot in (*RAW_SERIES, *DARKS, *RAW_BURST, *TARGET_SHOTS)]

    def truths(self) -> None:
        """The lowest ISO of each series as the truth of the others; the burst's mean as
        the truth of each of its frames.
        """
        for body in BODY_NAMES:
            shots = [s for s in RAW_SERIES if s.body == body and s.iso in TWIN_ISOS]
            base, *others = (self._frame_of(s) for s in shots if not s.second)
            missing = [f for f in others if f.truth_id is None]
            if missing:
                truths.ask_for_twins(self.actor, base, missing)
        burst = [self._frame_of(s) for s in RAW_BURST]
        if any(f.truth_id is None for f in burst):
            truths.ask_for_burst(self.actor, burst)

    def two_bodies(self) -> Study:
        """A question about bodies: their series of one scene, compared at its spots."""
        kept = Study.objects.filter(bench=self.bench, question=texts.BODIES).first()
        study = kept or study_actions.create_study(self.actor, self.bench, texts.BODIES, "body")
        scene = Scene.objects.get(bench=self.bench, name=LOOM_TABLE.scene)
        if not study.contenders.filter(body=BODY_NAMES["quill33"]).exists():
            series.take_series(self.actor, study, scene.pk, list(BODY_NAMES.values()))
        for shot in (s for s in RAW_SERIES if s.body == "quill24" and s.iso in BODY_ISOS):
            frame = self._frame_of(shot)
            if shot.second:
                continue
            for name, role, *numbers in BODY_SPOTS:
                if not study.patches.filter(frame=frame, name=name).exists():
                    patches.draw_patch(self.actor, study, frame, name, role, Rect(*numbers))
        self._meter(study)
        return study

    def _meter(self, study: Study) -> None:
        """What a meter told of the first spot, and what each lens was set to."""
        spot = study.patches.filter(name=BODY_SPOTS[0][0]).earliest("order", "pk")
        lenses = {BODY_NAMES[key]: number for key, number in T_NUMBERS.items()}
        metering.tell_luminance(self.actor, study, spot.pk, LUMINANCE, lenses)

    def conclude_bodies(self, study: Study) -> None:
        """What the series say, once they were read."""
        if not study.verdicts.exists():
            verdicts.write(self.actor, study, texts.BODIES_VERDICTS)
            whole = (texts.BODIES_SUMMARY, texts.BODIES_METHOD, texts.DISCLOSURE)
            reports.write_report(self.actor, study, *whole)

    def sensors(self) -> None:
        """What both bodies' raw files say of their sensors."""
        for body in Body.objects.filter(bench=self.bench, name__in=BODY_NAMES.values()):
            measuring.ask_for_sensor(self.actor, body)

    def _frame_of(self, shot: Shot) -> Frame:
        return Frame.objects.select_related("bench", "picture").get(
            bench=self.bench, file_name=shot.file
        )

    def _shot(self, shot: Shot) -> Frame:
        with self.arrived(shot.file).open("rb") as stream:
            frame, made = frames.add_frame(self.actor, self.bench, stream, shot.file)
        if made:
            frames.rename_frame(self.actor, frame, shot.name)
        if shot.dark and frame.kind != FrameKind.DARK:
            frames.tell_kind(self.actor, frame, FrameKind.DARK)
        self.licensed(frame)
        scene = Scene.objects.filter(bench=self.bench, name=shot.scene).first()
        if scene is not None and frame.scene_id is None:
            scenes.place_frame(self.actor, frame, scene.pk)
        return frame
