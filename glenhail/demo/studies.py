"""The sample studies, made through the same actions that the web part uses.

Each can be gone on with where it was broken off.
"""

from __future__ import annotations

import io
import json
import time
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User

from glenhail.core.files.decoding import read_picture
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.looking.remark_kinds import RemarkKind
from glenhail.core.measures.suggested_patches import suggest
from glenhail.core.picture import Mapping, Rect
from glenhail.core.treatments.step import Step, Treatment
from glenhail.demo import texts, verdicts
from glenhail.demo.files import output_name
from glenhail.demo.samples import (
    ARCHIVE_PRINT,
    DYE_SHED,
    GAUGE_WALL,
    LOOM_TABLE,
    NIGHT_YARD,
    Sample,
    known_of,
)
from glenhail.server.accounts.models import Bench
from glenhail.server.audit.actions import decisions
from glenhail.server.audit.models import Decided
from glenhail.server.audit.study_audit import OPEN, study_audit
from glenhail.server.judging.actions import remarks
from glenhail.server.material.actions import frames as frame_actions
from glenhail.server.material.actions import scenes as scene_actions
from glenhail.server.material.actions.terms import tell_terms
from glenhail.server.material.models import Frame, Scene
from glenhail.server.outputs.actions import cells
from glenhail.server.publishing.actions import corrections, reports
from glenhail.server.publishing.actions.corrections import Place
from glenhail.server.studies.actions import contenders, patches, uses
from glenhail.server.studies.actions import study as study_actions
from glenhail.server.studies.models import Contender, Kind, Study

PATIENCE = 300  # seconds
PATCH_NAMES = {
    "flat": "Even ground",
    "shadow": "Dark ground",
    "texture": "Fine texture",
    "edge": "Straight edge",
    "lights": "Lamps",
}
KEYS = (*texts.DENOISERS, "guided")


class Filler:
    """Fills one bench from a folder of sample files, as one reviewer."""

    def __init__(self, actor: User, bench: Bench, folder: Path) -> None:
        self.actor, self.bench, self.folder = actor, bench, folder

    def denoising(self) -> Study:
        """The published study, before its first edition: two of its frames."""
        study = self._study(texts.DENOISING, [*texts.DENOISERS.values(), texts.BASELINE])
        self._take(study, (LOOM_TABLE, GAUGE_WALL), KEYS)
        if not study.verdicts.exists():
            verdicts.write(self.actor, study, texts.FIRST_VERDICTS)
            uses.add_use(self.actor, self.bench, texts.OWN_USE)
            whole = (texts.SUMMARY, texts.FIRST_METHOD, texts.DISCLOSURE)
            reports.write_report(self.actor, study, *whole)
        return study

    def remark(self, study: Study) -> None:
        """What was seen while looking closely, at frames that are decoded."""
        if study.remarks.exists():
            return
        letters = dict(study.contenders.values_list("letter", "pk"))
        for name, across, down, kind, text, held in texts.REMARKS:
            patch = study.patches.select_related("frame__picture").get(name=name)
            spot = patch.x + across * patch.w, patch.y + down * patch.h
            said = remarks.Said(RemarkKind(kind), text, [letters[one] for one in held])
            remarks.place_remark(self.actor, study, patch.frame, *spot, said)

    def third_frame(self, study: Study) -> None:
        """What its second edition adds, and puts right."""
        if not study.report.corrections.exists():
            corrections.correct(self.actor, study, 1, Place("method"), texts.WRONG_METHOD)
        self._take(study, (DYE_SHED,), KEYS)
        whole = (texts.SUMMARY, texts.METHOD, texts.DISCLOSURE)
        own = texts.blocks(self._taken_away(study), self._kept_and_left(study))
        reports.write_report(self.actor, study, *whole, own)

    def _taken_away(self, study: Study) -> dict[str, Any]:
        """What differs from the frame on its cloth, as the close look shows it."""
        cloth = study.patches.select_related("frame").order_by("pk").filter(name="Check cloth")[0]
        treated = study.contenders.filter(kind=Kind.TREATMENT).order_by("order")
        return {
            "frame": cloth.frame_id,
            **{"x": cloth.x, "y": cloth.y, "w": 236, "h": 96},
            "letters": list(treated.values_list("letter", flat=True)),
            **{"zoom": 1, "lift": 0, "against": "U", "kind": "brightness", "gain": 8},
        }

    def _kept_and_left(self, study: Study) -> dict[str, Any]:
        """Two readings of its cloth, as a chart has them."""
        cloth = study.patches.order_by("pk").filter(name="Check cloth")[0]
        treated = study.contenders.filter(kind=Kind.TREATMENT).order_by("order")
        return {
            "measures": ["detail_kept", "detail_added"],
            "places": [{"frame": cloth.frame_id, "patch": cloth.pk}],
            "letters": list(treated.values_list("letter", flat=True)),
        }

    def decide(self, study: Study) -> None:
        """Accept what can be said to be fair, with the reason; what Mossgate did to
        tones and depth stays open.
        """
        for judged in study_audit(study).judged:
            reason = texts.ACCEPTED.get(judged.finding.rule.id)
            if reason and judged.state == OPEN:
                decisions.decide(self.actor, study, judged.finding.key, Decided.ACCEPTED, reason)

    def match_night(self) -> None:
        """Mossgate's night is brighter than it was: a second set of readings takes that
        off.
        """
        study = Study.objects.get(bench=self.bench, question=texts.NIGHT)
        for judged in study_audit(study).judged:
            if judged.finding.rule.id == "exposure" and judged.state == OPEN:
                decisions.decide(self.actor, study, judged.finding.key, Decided.MATCHED, "")

    def night(self) -> Study:
        """Everything measured, nothing judged yet: what the tools did is still to be
        looked into.
        """
        study = self._study(texts.NIGHT, texts.DENOISERS.values())
        self._take(study, (NIGHT_YARD,), tuple(texts.DENOISERS))
        return study

    def enlarging(self) -> Study:
        """Half-way: one output is still to come, and one contender could not take the
        file.
        """
        study = self._study(texts.ENLARGING, texts.ENLARGERS)
        frame = self._frame(ARCHIVE_PRINT, "archive-print.jpg", ARCHIVE_PRINT.truth_file)
        study_actions.take_frame(self.actor, study, frame)
        self._patches(study, frame, ARCHIVE_PRINT)
        self._suggested_patches(
            study, frame, self.folder / "archive-print.jpg", self.folder / ARCHIVE_PRINT.truth_file
        )
        *_, raw_only = entered = _treatments(study)
        files = ("tarnlift-2x", "bicubic-2x", None, "bicubic-4x")
        for contender, name in zip(entered, files, strict=False):
            if name:
                self._bring_in(contender, frame, f"archive-print-{name}.tif")
        if not raw_only.outputs.exists():
            cells.tell_absence(self.actor, raw_only, frame, texts.RAW_ONLY)
        return study

    def _study(self, question: str, steps: Iterable[Step]) -> Study:
        kept = Study.objects.filter(bench=self.bench, question=question).first()
        study = kept or study_actions.create_study(self.actor, self.bench, question, "tool")
        for step in list(steps)[len(_treatments(study)) :]:
            contenders.enter_contender(self.actor, study, Treatment((step,)))
        return study

    def _take(self, study: Study, samples: Iterable[Sample], keys: Sequence[str]) -> None:
        """Samples with each tool's output, in whatever order the files come."""
        coming: list[tuple[Contender, Frame, str]] = []
        for sample in samples:
            frame = self._frame(sample, sample.frame_file, sample.truth_file)
            study_actions.take_frame(self.actor, study, frame)
            self._patches(study, frame, sample)
            coming += [
                (c, frame, output_name(sample, key))
                for key, c in zip(keys, _treatments(study), strict=True)
            ]
        end = time.monotonic() + PATIENCE
        while coming:
            here = [c for c in coming if (self.folder / c[2]).exists()]
            for contender, frame, file in here:
                self._bring_in(contender, frame, file)
            coming = [c for c in coming if c not in here]
            if time.monotonic() > end:
                raise TimeoutError(
                    f"{self.folder / coming[0][2]} was not made within {PATIENCE} s."
                )
            time.sleep(0.05)

    def _frame(self, sample: Sample, file: str, truth: str | None) -> Frame:
        with self.arrived(file).open("rb") as stream:
            frame, _ = frame_actions.add_frame(self.actor, self.bench, stream, file)
        if frame.name != sample.name:
            frame_actions.rename_frame(self.actor, frame, sample.name)
        if frame.scene_id is None:
            scene_actions.place_frame(self.actor, frame, self._scene(sample).pk)
        self.licensed(frame)
        if truth is not None and frame.truth_id is None:
            with self.arrived(truth).open("rb") as stream:
                frame_actions.set_truth(self.actor, frame, stream, truth)
        return frame

    def licensed(self, frame: Frame) -> None:
        """Readers may have all of the mill's pictures."""
        if not frame.licence:
            tell_terms(self.actor, [frame.pk], texts.TERMS)

    def _scene(self, sample: Sample) -> Scene:
        kept = Scene.objects.filter(bench=self.bench, name=sample.scene).first()
        scene = kept or scene_actions.save_scene(self.actor, self.bench, sample.scene, sample.kinds)
        known = known_of(sample)
        if known is not None and scene.known is None:
            scene_actions.tell_known(
                self.actor,
                scene,
                io.BytesIO(json.dumps(known.as_json()).encode()),
                sample.known_file,
            )
        return scene

    def _patches(self, study: Study, frame: Frame, sample: Sample) -> None:
        for name, role, *numbers in sample.spots:
            if not study.patches.filter(frame=frame, name=name).exists():
                patches.draw_patch(self.actor, study, frame, name, role, Rect(*numbers))

    def _suggested_patches(self, study: Study, frame: Frame, path: Path, original: Path) -> None:
        """The first that a frame suggests of each role it has no patch of yet."""
        there = set(study.patches.filter(frame=frame).values_list("role", flat=True))
        picture, known = read_picture(path), read_picture(original)
        scale = known.width / picture.width
        for one in suggest(picture, AlignedPicture(known, Mapping(scale, scale), known.bounds)):
            if one.role not in there:
                there.add(one.role)
                patches.draw_patch(
                    self.actor, study, frame, PATCH_NAMES.get(one.role, ""), one.role, one.rect
                )

    def _bring_in(self, contender: Contender, frame: Frame, file: str) -> None:
        if not contender.outputs.filter(frame=frame).exists():
            with self.arrived(file).open("rb") as stream:
                cells.bring_in(self.actor, contender, frame, stream, file)

    def arrived(self, file: str) -> Path:
        """A sample file, once the process that makes them has made it."""
        path, end = self.folder / file, time.monotonic() + PATIENCE
        while not path.exists():
            if time.monotonic() > end:
                raise TimeoutError(f"{path} was not made within {PATIENCE} s.")
            time.sleep(0.1)
        return path


def _treatments(study: Study) -> list[Contender]:
    return list(study.contenders.filter(treatment__isnull=False).order_by("order"))
