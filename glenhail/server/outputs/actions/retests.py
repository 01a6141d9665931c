"""Testing again with another release: the same frames, patches and treatments."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from glenhail.core.treatments.retest import TakenOver, taken_over
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.outputs.actions.runs import Asked, ask_for_runs, releases_of, treated
from glenhail.server.studies.actions.contenders import enter_contender, withdraw_contender
from glenhail.server.studies.models import Contender, Study
from glenhail.server.tools.models import Release


@dataclass(frozen=True)
class Proposal:
    """A contender as it would be with another release; ``there`` is the one that has
    that treatment already.
    """

    contender: Contender
    made: TakenOver
    there: Contender | None


@dataclass(frozen=True)
class Retest:
    """A release that a study can be tested again with."""

    release: Release
    proposals: tuple[Proposal, ...]


def retests(study: Study) -> list[Retest]:
    """Every other release of the tools in a study, the newest first, with what would
    be entered.
    """
    entered = treated(study)
    used = {r.tool_id for c in entered for r in releases_of(c) if not r.method}
    rows = Release.objects.filter(tool__in=used, method="").select_related("tool")
    found = []
    for release in sorted(rows, key=_newest_first):
        proposals = proposals_for(entered, release)
        if proposals:
            found.append(Retest(release, proposals))
    return found


def _newest_first(release: Release) -> tuple[int, str, int]:
    age = -release.released.toordinal() if release.released else 0
    return age, release.tool.name, -release.pk


def proposals_for(entered: Sequence[Contender], release: Release) -> tuple[Proposal, ...]:
    """What a release makes of a study's contenders that use another of its tool."""
    words = {c.treatment.told.words: c for c in entered if c.treatment}
    made = []
    for contender in entered:
        own = {r.pk for r in releases_of(contender) if r.tool_id == release.tool_id}
        if contender.treatment is None or not own - {release.pk}:
            continue
        new = taken_over(contender.treatment.told, release.tool.name, release.name, release.facts)
        made.append(Proposal(contender, new, words.get(new.treatment.words)))
    return tuple(made)


@transaction.atomic
def begin_retest(
    actor: Actor,
    study: Study,
    release_id: int,
    chosen: Sequence[int],
    keep: bool = True,
    run: bool = True,
) -> tuple[list[Contender], Asked]:
    """Enter the chosen contenders with another release, each following the one that it
    was made from, and queue their outputs where that release can be run here.

    Without `keep` those that they follow are taken out.

    Raises
    ------
    Missing
        If the bench has no such release.
    ActionError
        If nothing is chosen, or something that the release can not follow.
    """
    require(actor, study.bench, Role.EDITOR)
    release = Release.objects.filter(tool__bench=study.bench, pk=release_id).first()
    if release is None:
        raise Missing("There is no such release.")
    Study.objects.select_for_update().get(pk=study.pk)
    proposals = {p.contender.pk: p for p in proposals_for(treated(study), release)}
    unknown = set(chosen) - set(proposals)
    if unknown or not chosen:
        raise ActionError(f"Choose contenders of this study that use another {release.tool}.")
    taken = [p for pk in dict.fromkeys(chosen) if (p := proposals[pk]).there is None]
    if not taken:
        raise ActionError(f"{release} is entered with these settings already.")
    made = []
    for proposal in taken:
        contender = enter_contender(actor, study, proposal.made.treatment)
        contender.follows = proposal.contender if keep else None
        contender.save(update_fields=["follows"])
        made.append(contender)
    record(actor, study.bench, "test again", f"{study} with {release}")
    if not keep:
        for proposal in taken:
            withdraw_contender(actor, proposal.contender)
    return made, _asked(actor, study, made) if run else Asked(0, [], [])


def _asked(actor: Actor, study: Study, made: Sequence[Contender]) -> Asked:
    frames = study.study_frames.values_list("frame_id", flat=True)
    cells = [(c.pk, frame) for c in made for frame in frames]
    return ask_for_runs(actor, study, "cells", cells)
