"""What editors say to each other about a report under work; readers see none of it."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, NotAllowed
from glenhail.server.publishing.actions.reports import report_of
from glenhail.server.publishing.models import Comment
from glenhail.server.studies.models import Study

MOST = 500  # of one report


@transaction.atomic
def say(actor: Actor, study: Study, about: str, text: str) -> Comment:
    """Say something about a part of the report, or all of it where `about` is empty.

    Raises
    ------
    ActionError
        If nothing is said, or there is no room for more.
    """
    require(actor, study.bench, Role.EDITOR)
    if not text.strip():
        raise ActionError("Write what you have to say.")
    report = report_of(study)
    if report.comments.count() >= MOST:
        raise ActionError(f"This report has {MOST} comments. Delete some that are settled.")
    made = Comment.objects.create(
        report=report, about=about.strip()[:200], text=text.strip(), author_id=actor.pk
    )
    record(actor, study.bench, "comment", made)
    return made


@transaction.atomic
def settle(actor: Actor, comment: Comment, settled: bool) -> Comment:
    """Say that a comment was seen to, or that it was not after all."""
    require(actor, comment.report.study.bench, Role.EDITOR)
    comment.settled = timezone.now() if settled else None
    comment.settled_by_id = actor.pk if settled else None
    comment.save(update_fields=["settled", "settled_by"])
    return comment


@transaction.atomic
def unsay(actor: Actor, comment: Comment) -> None:
    """Delete a comment: one's own, or any as an owner.

    Raises
    ------
    NotAllowed
        If it is somebody else's.
    """
    bench = comment.report.study.bench
    require(actor, bench, Role.EDITOR)
    if comment.author_id != actor.pk:
        try:
            require(actor, bench, Role.OWNER)
        except NotAllowed as error:
            raise NotAllowed("Only its author or an owner deletes a comment. Settle it.") from error
    record(actor, bench, "delete comment", comment)
    comment.delete()
