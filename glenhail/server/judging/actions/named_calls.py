"""Calls on the wall and in the close look, by those who see the names."""

from __future__ import annotations

from django.db import transaction

from glenhail.core.judging.verdicts import Judged, reference_of
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import ActionError
from glenhail.server.common.locks import locked
from glenhail.server.judging.models import NamedCall
from glenhail.server.measuring.answers import column_of
from glenhail.server.studies.models import Contender, Kind, Patch, Study
from glenhail.server.studies.queries import contenders


@transaction.atomic
def call_named(
    actor: Actor, study: Study, patch_id: int, contender_id: int, answer: Judged | None
) -> NamedCall | None:
    """Say how a contender's patch looks against the reference's; None takes one's call
    back.

    Raises
    ------
    ActionError
        If patch or contender are not of the study, or the contender is the reference
        or the truth.
    """
    require(actor, study.bench, Role.EDITOR)
    locked(study)
    patch = Patch.objects.filter(study=study, pk=patch_id).first()
    contender = Contender.objects.filter(study=study, pk=contender_id).first()
    if patch is None or contender is None:
        raise ActionError("This patch or contender is not in this study any more. Reload the page.")
    reference = reference_in(study)
    if contender.kind == Kind.TRUTH:
        raise ActionError("The truth is the truth. Calls are about contenders.")
    if reference is None or contender == reference:
        raise ActionError(f"{contender.letter} is what others are held against.")
    own = NamedCall.objects.filter(patch=patch, contender=contender, author_id=actor.pk)
    if answer is None:
        own.delete()
        return None
    call, _ = own.update_or_create(
        patch=patch,
        contender=contender,
        author_id=actor.pk,
        defaults={"study": study, "against": reference, "answer": answer},
    )
    return call


def reference_in(study: Study) -> Contender | None:
    """The contender that all others are held against: the unprocessed frame, else the
    first one that competes.
    """
    rows = {c.letter: c for c in contenders().filter(study=study)}
    return rows.get(reference_of([column_of(c) for c in rows.values()]) or "")
