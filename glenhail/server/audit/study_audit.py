"""A study's audit: what its outputs and treatments do not keep to, and what was decided
about it.
"""

from __future__ import annotations

import hashlib
import math
from collections.abc import Sequence
from dataclasses import dataclass

from glenhail.core.audit.between import audit
from glenhail.core.audit.entrants import AuditedFile, Entrant
from glenhail.core.audit.examine import Examination
from glenhail.core.audit.finding import Finding, Remedy, Weight
from glenhail.core.audit.output_rule import AuditedOutput
from glenhail.core.lineup.border import Border
from glenhail.core.methods.catalogue import METHODS
from glenhail.core.tone.matching import Match, Size
from glenhail.core.treatments.step import Treatment
from glenhail.server.audit.models import Decided, Decision
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring.models import LineUp
from glenhail.server.measuring.queries import examined_of
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.outputs.costs import Cost, costs
from glenhail.server.outputs.models import Output
from glenhail.server.studies import queries
from glenhail.server.studies.models import Contender, Kind, Study
from glenhail.server.tools.models import Release, ToolKind

OPEN, HARMLESS = "open", "harmless"


WORKS = {"denoise": "denoise", "sharpen": "sharpen", "resample": "enlarge", "deconvolve": "sharpen"}


@dataclass(frozen=True)
class Judged:
    """A finding with its state: open, harmless, or what was decided about it."""

    finding: Finding
    state: str
    about: str
    decision: Decision | None
    remedies: tuple[Remedy, ...]

    @property
    def open(self) -> bool:
        """Whether it still holds against the comparison.

        What is to be made again does until it is gone.
        """
        return self.state in (OPEN, Decided.AGAIN)


@dataclass(frozen=True)
class Audit:
    """All of a study's findings.

    ``examined`` of ``wanted`` outputs were examined so far.
    """

    judged: list[Judged]
    examined: int
    wanted: int

    @property
    def open(self) -> list[Judged]:
        """Those nothing was decided about, or that are to be made again and are still
        there.
        """
        return [j for j in self.judged if j.open]

    @property
    def spoil(self) -> int:
        """How many of these spoil the comparison."""
        return sum(j.finding.weight == Weight.SPOILS for j in self.open)

    @property
    def line(self) -> str:
        """One line for walls, numbers and reports."""
        if self.wanted == 0:
            return "not examined: there are no outputs yet"
        if self.examined < self.wanted:
            return f"being examined, {self.examined} of {self.wanted} outputs so far"
        return self._spoken()

    def _spoken(self) -> str:
        spoil, colour = self.spoil, len(self.open) - self.spoil
        decided = sum(not j.open and j.state != HARMLESS for j in self.judged)
        told = []
        if spoil:
            told.append(f"{spoil} {'invalidates' if spoil == 1 else 'invalidate'} the comparison")
        if colour:
            told.append(
                f"{colour} {'affects' if colour == 1 else 'affect'}"
                f" {'it' if spoil else 'the comparison'}"
            )
        after = f"; {decided} decided" if decided else ""
        return f"open findings: {', '.join(told)}{after}" if told else f"like for like{after}"


def study_audit(study: Study) -> Audit:
    """The audit as of now."""
    rows = outputs_queries.outputs(study)
    lineups = measuring_queries.lineups(rows)
    examined = examined_of(rows)
    contenders = list(queries.contenders().filter(study=study).exclude(kind=Kind.TRUTH))
    timed = {c.contender.pk: c for c in costs(study)}
    entrants = [_entrant(c, rows, lineups, examined, timed.get(c.pk)) for c in contenders]
    made = [
        o for o in rows if o.contender.kind not in (Kind.TRUTH, Kind.UNPROCESSED) and o.picture_id
    ]
    refused = sum(1 for o in made if o.pk in lineups and lineups[o.pk].refused)
    wanted = [
        o for o in made if measuring_queries.output_state(o, lineups.get(o.pk))[0] != "refused"
    ]
    findings = audit(entrants, study.factor)
    pictures = {(o.contender_id, o.frame_id): o.picture_id for o in rows}
    there = sum(o.pk in examined for o in wanted)
    return Audit(
        _judged(study, findings, pictures, {c.pk for c in contenders if c.kind == Kind.TREATMENT}),
        there + refused,
        len(wanted) + refused,
    )


def _entrant(
    contender: Contender,
    rows: Sequence[Output],
    lineups: dict[int, LineUp],
    examined: dict[int, Examination],
    cost: Cost | None,
) -> Entrant:
    told = contender.treatment.told if contender.treatment else None
    releases = (
        [step.release for step in contender.treatment.steps.all()] if contender.treatment else []
    )
    works = [_work(r) for r in releases]
    mine = [
        o
        for o in rows
        if o.contender_id == contender.pk and o.pk in lineups and o.picture is not None
    ]
    asked = _asked(told)
    keeps = bool(works) and all(w in (ToolKind.DENOISE, ToolKind.SHARPEN) for w in works)
    return Entrant(
        contender.pk,
        [_made(o, lineups[o.pk], examined.get(o.pk), frozenset(works), asked, keeps) for o in mine],
        told,
        works,
        [r.released for r in releases if r.released],
        cost.machines if cost else (),
        _load_share(cost),
        contender.kind == Kind.UNPROCESSED,
    )


def _work(release: Release) -> str:
    """The kind of work a release is for; none where it does several."""
    if release.method:
        return WORKS.get(METHODS[release.method].family, "")
    kind = release.tool.kind
    return kind if kind in (ToolKind.DENOISE, ToolKind.SHARPEN, ToolKind.ENLARGE) else ""


def _asked(told: Treatment | None) -> float | None:
    """The enlargement that a treatment tells; None where it says nothing of any."""
    times = [s.times for s in told.steps if s.times is not None] if told is not None else []
    return math.prod(times) if times else None


def _load_share(cost: Cost | None) -> float | None:
    """What opening a file takes of the time that the tool itself tells of; beside other
    work that says nothing.
    """
    if (
        cost is None
        or not (cost.alone or cost.told_by_hand)
        or cost.speed.load is None
        or cost.speed.process is None
    ):
        return None
    parts = [
        m.value for m in (cost.speed.load, cost.speed.process, cost.speed.export) if m is not None
    ]
    return parts[0] / sum(parts) if sum(parts) > 0 else None


def _made(
    output: Output,
    row: LineUp,
    found: Examination | None,
    works: frozenset[str],
    asked: float | None,
    keeps: bool,
) -> AuditedFile:
    assert output.picture is not None
    facts, preview = output.picture.facts, output.preview_told or {}
    seen = AuditedOutput(
        output.picture.width,
        output.picture.height,
        row.mapping,
        Border(row.left, row.top, row.right, row.bottom),
        row.residual,
        row.refused,
        tuple(row.doubts),
        found or Examination(),
        asked,
        works,
        output.contender.kind == Kind.BODY,
        keeps,
    )
    return AuditedFile(
        output.frame_id,
        seen,
        int(facts.get("bits", 16)),
        str(facts.get("profile", "")),
        bool(facts.get("profile_assumed")),
        str(facts.get("compression", "")),
        str(facts.get("format", "")),
        str(output.picture.file_id),
        preview.get("de00"),
        preview.get("exposure_ev"),
    )


def _judged(
    study: Study,
    findings: list[Finding],
    pictures: dict[tuple[int, int], int | None],
    treated: set[int],
) -> list[Judged]:
    latest = {d.finding: d for d in study.decisions.select_related("actor")}
    found = []
    for finding in findings:
        about, decision = _about(finding, pictures), latest.get(finding.key)
        standing = (
            decision
            if decision is not None and decision.about == about and _holds(study, finding, decision)
            else None
        )
        state = (
            standing.kind if standing else HARMLESS if finding.weight == Weight.HARMLESS else OPEN
        )
        # What no treatment made, another body's shot, can not be made again.
        remedies = tuple(
            r for r in finding.rule.remedies if r != Remedy.AGAIN or finding.contender in treated
        )
        found.append(Judged(finding, state, about, standing, remedies))
    return found


def _holds(study: Study, finding: Finding, decision: Decision) -> bool:
    """Whether what was decided is still so: a match counts while the study has it."""
    return decision.kind != Decided.MATCHED or is_matched(study, finding)


def is_matched(study: Study, finding: Finding) -> bool:
    """Whether the study's second set of readings takes this off."""
    remedies = finding.rule.remedies
    if Remedy.SIZE in remedies:
        return study.size != Size.NATIVE
    exposure = (
        study.match in (Match.EXPOSURE, Match.PATCH, Match.TONE) and Remedy.EXPOSURE in remedies
    )
    return exposure or (study.match == Match.TONE and Remedy.TONE in remedies)


def _about(finding: Finding, pictures: dict[tuple[int, int], int | None]) -> str:
    """What was found, as it must stay for a decision about it to stand: places, sizes
    to two figures, files.
    """
    told = [
        (
            p.words
            if p.frame is None
            else f"{p.frame}:{p.amount:.1e}:{pictures.get((finding.contender, p.frame))}"
        )
        for p in finding.places
    ]
    return hashlib.sha256(repr(sorted(told)).encode()).hexdigest()
