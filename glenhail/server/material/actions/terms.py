"""Under which terms frames are passed on."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from glenhail.core.articles.licences import LICENCES, Terms
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError
from glenhail.server.material.models import Frame, Licensed
from glenhail.server.material.queries import find_frame


@transaction.atomic
def tell_terms(actor: Actor, frame_ids: Sequence[int], terms: Terms) -> list[Frame]:
    """Say under which terms these frames and their truths are passed on."""
    frames = [find_frame(actor, frame_id) for frame_id in dict.fromkeys(frame_ids)]
    for frame in frames:
        require(actor, frame.bench, Role.EDITOR)
        set_terms(frame, terms)
        record(actor, frame.bench, "tell licence", frame)
    return frames


def set_terms(row: Licensed, terms: Terms) -> None:
    """Keep the terms of a frame or of a contender's outputs.

    Raises
    ------
    ActionError
        If there is no such licence.
    """
    if terms.licence and terms.licence not in LICENCES:
        raise ActionError(
            f"{terms.licence!r} is no licence that is known here; there are {', '.join(LICENCES)}."
        )
    row.licence = terms.licence
    row.source, row.credit = (" ".join(text.split()) for text in (terms.source, terms.credit))
    row.save(update_fields=["licence", "source", "credit"])
