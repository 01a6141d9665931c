"""What a study's verdicts can rest on: readings, calls, remarks and spots."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from glenhail.core.answers.board import Board
from glenhail.core.judging.calls import Call
from glenhail.core.judging.setup import SittingKind
from glenhail.core.judging.verdicts import (
    Evidence,
    Judged,
    contradictions,
    from_choices,
    from_named,
    from_readings,
    from_seen,
    proposal,
    reference_of,
)
from glenhail.core.seeing.matrix import SeenAt
from glenhail.core.uses.table import Use
from glenhail.server.inquiries.answering.visibility import seen_of
from glenhail.server.judging.models import NamedCall, Sitting, SittingState, Verdict
from glenhail.server.judging.outcome import SittingOutcome
from glenhail.server.judging.queries import named_calls_of, remarks_of
from glenhail.server.measuring.answers import board_of
from glenhail.server.studies.models import Study
from glenhail.server.studies.queries import study_frames


@dataclass(frozen=True)
class EvidenceCell:
    """What is known for one use (empty: for any) and kind of scene (empty: for all)."""

    use: str
    scene: str
    evidence: tuple[Evidence, ...]
    proposal: str


class StudyEvidence:
    """All that a study's readings and calls say of its contenders."""

    def __init__(self, study: Study) -> None:
        self.study = study
        self._known: dict[tuple[str, str], tuple[Evidence, ...]] = {}
        self._read: dict[str, list[Evidence]] = {}

    @cached_property
    def board(self) -> Board:
        """Its readings."""
        return board_of(self.study)

    @cached_property
    def reference(self) -> str | None:
        """The letter of the one that all others are held against."""
        return reference_of(self.board.columns)

    @cached_property
    def kinds(self) -> dict[int, tuple[str, ...]]:
        """The kinds of scene of each frame, by its id."""
        return {
            sf.frame_id: tuple(sf.frame.scene.kinds) if sf.frame.scene else ()
            for sf in study_frames(self.study)
        }

    @cached_property
    def scenes(self) -> list[str]:
        """Kinds of scene that its frames show, in the order of the frames."""
        return list(dict.fromkeys(kind for kinds in self.kinds.values() for kind in kinds))

    @cached_property
    def sittings(self) -> list[tuple[Sitting, list[tuple[int, Call]]]]:
        """Closed sittings with their choices, each with the frame it is about."""
        closed = self.study.sittings.filter(state=SittingState.CLOSED)
        found = []
        for sitting in closed.exclude(kind=SittingKind.SINGLE):
            frames = [spot["frame"] for spot in sitting.spots]
            calls = SittingOutcome(sitting).judges(screened=False).values()
            found.append((sitting, [(frames[int(c.spot)], c) for own in calls for c in own]))
        return found

    @cached_property
    def named(self) -> list[NamedCall]:
        """Calls by those who saw the names."""
        return list(named_calls_of(self.study))

    @cached_property
    def uses(self) -> list[str]:
        """Names of uses in which something was judged, or looked at by a model."""
        told = (sitting.showing["use_name"] for sitting, _ in self.sittings)
        return list(dict.fromkeys([*(name for name in told if name), *self.seen]))

    @cached_property
    def seen(self) -> dict[str, tuple[Use, list[SeenAt]]]:
        """What a model of seeing tells of contenders against the reference, by the name
        of the use.
        """
        return seen_of(self.study, self.reference) if self.reference else {}

    def of(self, use: str, scene: str) -> tuple[Evidence, ...]:
        """What speaks for and against whom, for one use and kind of scene.

        Sittings whose pictures were shown as made count for every use; those shown as
        seen in a use, and what a model of seeing tells of one, for that one alone.
        """
        # Reviewers write a use as they like.
        same = (name for name in self.uses if name.casefold() == use.strip().casefold())
        key = next(same, ""), scene
        if key not in self._known:
            self._known[key] = self._of(*key)
        return self._known[key]

    def _of(self, use: str, scene: str) -> tuple[Evidence, ...]:
        reference = self.reference
        if reference is None:
            return ()
        frames = {pk for pk, kinds in self.kinds.items() if not scene or scene in kinds}
        found = list(self._readings(scene, reference))
        if use in self.seen:
            shown, at = self.seen[use]
            found += from_seen([one for one in at if one.frame in frames], shown, reference)
        for sitting, calls in self.sittings:
            if sitting.showing["use_name"] in ("", use):
                own = [call for frame, call in calls if frame in frames]
                found += from_choices(own, reference, sitting.number)
        said = [
            (c.contender.letter, Judged(c.answer))
            for c in self.named
            if c.patch.frame_id in frames and c.against.letter == reference
        ]
        return (*found, *from_named(said, reference))

    def _readings(self, scene: str, reference: str) -> list[Evidence]:
        """They are the same for every use."""
        if scene not in self._read:
            board = self.board.of_kind(scene) if scene else self.board
            self._read[scene] = from_readings(board, reference)
        return self._read[scene]

    def cells(self) -> list[EvidenceCell]:
        """Every kind of scene, for any use and for each that something was judged in."""
        made = []
        for use in ["", *self.uses]:
            for scene in ["", *self.scenes]:
                found = self.of(use, scene)
                made.append(EvidenceCell(use, scene, found, proposal(found, self.reference or "")))
        return made

    def asked(self, verdicts: Sequence[Verdict]) -> list[list[str]]:
        """What each verdict is asked, because its evidence says otherwise."""
        return [
            contradictions(
                {letter: Judged(mark) for letter, mark in v.marks.items()},
                self.of(v.use, v.scene),
                self.reference or "",
            )
            if v.marks
            else []
            for v in verdicts
        ]


def things_of(study: Study, evidence: StudyEvidence | None = None) -> dict[str, str]:
    """All that a verdict can rest on, in words, by its key."""
    found = evidence or StudyEvidence(study)
    told = {f"patch:{p.pk}": f"patch “{p.name}”" for p in study.patches.all()}
    for remark in remarks_of(study):
        what = remark.text or remark.kind
        told[f"remark:{remark.number}"] = f"remark {remark.number}, {what}"
    for use in ["", *found.uses]:
        for scene in ["", *found.scenes]:
            for e in found.of(use, scene):
                told.setdefault(key_of(e, scene), e.text)
    return told


def key_of(evidence: Evidence, scene: str) -> str:
    """By which a verdict names a piece of evidence, which differs by kind of scene."""
    return f"{evidence.key}:{scene}" if scene else evidence.key
