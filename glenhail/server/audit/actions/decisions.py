"""Deciding about findings."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from glenhail.core.audit.finding import Remedy
from glenhail.core.tone.matching import Match, Size
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.audit.models import Decided, Decision
from glenhail.server.audit.study_audit import Judged, is_matched, study_audit
from glenhail.server.common.errors import ActionError, Conflict, Missing
from glenhail.server.measuring.actions.matching import set_matching
from glenhail.server.outputs.actions.runs import ask_for_runs
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Study


@transaction.atomic
def decide(
    actor: Actor, study: Study, key: str, kind: str, reason: str, about: str = ""
) -> Decision:
    """Accept a finding with a reason, match it away, or have its outputs made again.

    `about` is what the reviewer was shown; where something else is found by now,
    nothing is decided.
    """
    require(actor, study.bench, Role.EDITOR)
    return _decide(actor, study, _finding(study, key), kind, reason, about)


def _decide(
    actor: Actor, study: Study, judged: Judged, kind: str, reason: str, about: str
) -> Decision:
    if about and about != judged.about:
        raise Conflict(
            f"“{judged.finding.rule.title}” is not what it was when you looked. Read it again."
        )
    reason = reason.strip()[:300]
    if kind == Decided.ACCEPTED and not reason:
        raise ActionError("Say why it may stand: readers will ask.")
    if kind == Decided.MATCHED:
        _match_away(actor, study, judged)
    if kind == Decided.AGAIN:
        _make_again(actor, study, judged)
    decision = Decision.objects.create(
        study=study,
        finding=judged.finding.key,
        about=judged.about,
        kind=kind,
        reason=reason,
        actor_id=actor.pk,
    )
    record(actor, study.bench, f"finding {kind}", decision)
    return decision


@transaction.atomic
def accept_all(
    actor: Actor, study: Study, findings: Sequence[tuple[str, str]], reason: str
) -> list[Decision]:
    """Accept several findings, each with what it was about, for one reason; all or
    none.

    Raises
    ------
    Conflict
        If one is something else by now.
    """
    require(actor, study.bench, Role.EDITOR)
    found = {j.finding.key: j for j in study_audit(study).judged}
    missing = [key for key, _ in findings if key not in found]
    if missing:
        raise Missing("One of these findings is gone: what it was about has changed.")
    return [
        _decide(actor, study, found[key], Decided.ACCEPTED, reason, about)
        for key, about in findings
    ]


@transaction.atomic
def reopen(actor: Actor, study: Study, key: str) -> None:
    """Take back what was decided about a finding; a match stays until it is taken off
    the study.
    """
    require(actor, study.bench, Role.EDITOR)
    if not Decision.objects.filter(study=study, finding=key).delete()[0]:
        raise Missing("Nothing was decided about this finding.")
    record(actor, study.bench, "reopen finding", key)


def _finding(study: Study, key: str) -> Judged:
    found = next((j for j in study_audit(study).judged if j.finding.key == key), None)
    if found is None:
        raise Missing("This finding is gone: what it was about has changed.")
    return found


def _match_away(actor: Actor, study: Study, judged: Judged) -> None:
    remedies = judged.remedies
    match, size = Match(study.match), Size(study.size)
    if Remedy.SIZE in remedies:
        size = size if size != Size.NATIVE else Size.SMALLEST
    elif Remedy.EXPOSURE in remedies:
        match = match if match != Match.NONE else Match.EXPOSURE
    elif Remedy.TONE in remedies:
        match = Match.TONE
    else:
        raise ActionError(
            f"“{judged.finding.rule.title}” can not be matched away. Accept it with a reason, or"
            " request a new output."
        )
    set_matching(actor, study, match, size)
    assert is_matched(study, judged.finding)


def _make_again(actor: Actor, study: Study, judged: Judged) -> None:
    """Run what can be run here; what is made elsewhere waits for another file.

    Until it is gone, the finding holds.
    """
    if Remedy.AGAIN not in judged.remedies:
        raise ActionError(
            f"“{judged.finding.rule.title}” can not be mended by making it again. Accept it with a"
            " reason."
        )
    contender = judged.finding.contender
    frames = {p.frame for p in judged.finding.places if p.frame is not None} or set(
        Output.objects.filter(contender_id=contender).values_list("frame_id", flat=True)
    )
    ask_for_runs(actor, study, "cells", [(contender, frame) for frame in frames])
