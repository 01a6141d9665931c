"""Under which terms the files of an edition are passed on."""

from __future__ import annotations

from collections.abc import Sequence

from glenhail.core.articles.licences import Terms
from glenhail.server.material.models import Frame
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Kind


def terms_by_output(rows: Sequence[Output]) -> dict[int, tuple[Terms, Terms | None]]:
    """For each output the terms of its frame, and of what was made from that.

    Frame and truth stand for themselves; another body's shot is a frame of its own.
    """
    shots = {
        f.picture_id: f.terms
        for f in Frame.objects.filter(
            bench_id__in={o.frame.bench_id for o in rows},
            picture_id__in=[o.picture_id for o in rows if o.contender.kind == Kind.BODY],
        )
    }
    made: dict[int, tuple[Terms, Terms | None]] = {}
    for output in rows:
        kind = output.contender.kind
        if kind == Kind.TREATMENT:
            made[output.pk] = (output.frame.terms, output.contender.terms)
        elif kind == Kind.BODY:
            made[output.pk] = (shots.get(output.picture_id or 0, Terms()), None)
        else:
            made[output.pk] = (output.frame.terms, None)
    return made
