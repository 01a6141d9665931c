"""Files that are made when somebody asks for them, and kept: one way to ask."""

from __future__ import annotations

from typing import Any

from django.core.files.storage import storages

from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import Conflict
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.jobs.models import Job, State


def ask_for_derived(
    actor: Actor,
    bench: Bench,
    path: str,
    kind: str,
    key: str,
    label: str,
    arguments: dict[str, Any],
    study_id: int | None = None,
) -> bool:
    """Whether a derived file is there; where it is not, its making is queued for an
    editor. The job hears the path as well.

    Raises
    ------
    NotAllowed
        If it is not there, and the actor may only look: viewers queue no work.
    Conflict
        If the making of just this file failed; asking again and again must not make it
        fail again and again.
    """
    if storages["derived"].exists(path):
        return True
    require(actor, bench, Role.EDITOR)
    last = Job.objects.filter(key=key).first()
    if last is not None and last.state == State.FAILED and last.arguments.get("path") == path:
        raise Conflict(f"{last.problem} It can be tried again in the queue.")
    enqueue(bench, kind, key, label, {**arguments, "path": path}, study_id)
    return False
