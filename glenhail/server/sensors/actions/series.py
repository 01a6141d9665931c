"""Making a study of bodies out of their series of one scene."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from glenhail.core.sensor.proposal import series_told
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.material.models import Frame
from glenhail.server.outputs.actions.bodies import enter_body, fill_body
from glenhail.server.sensors import queries
from glenhail.server.sensors.actions.queueing import queue_if_whole
from glenhail.server.studies.actions.contenders import name_reference
from glenhail.server.studies.actions.study import take_frame
from glenhail.server.studies.models import Contender, Factor, Kind, Study

LEAST_BODIES = 2


@transaction.atomic
def take_series(actor: Actor, study: Study, scene_id: int, bodies: Sequence[str]) -> Study:
    """Let the first body's frames be the study's rows, one for each ISO, and enter the
    others beside it: their shots of the nearest ISO stand in the rows.

    Raises
    ------
    ActionError
        If the study is not about bodies, fewer than two are given, or one has no raw
        file of the scene.
    """
    require(actor, study.bench, Role.EDITOR)
    if study.factor != Factor.BODY:
        raise ActionError("What varies in this study is not the body. Change that first.")
    found = {scene.pk: shots for scene, shots in queries.scenes_with_raw(study.bench)}
    if scene_id not in found:
        raise Missing("There is no such scene with raw files, or it was removed.")
    series = {s.body: s for s in series_told(found[scene_id])}
    names = list(dict.fromkeys(bodies))
    if len(names) < LEAST_BODIES:
        raise ActionError("Choose two bodies or more, the one to hold others against first.")
    unknown = [n for n in names if n not in series]
    if unknown:
        raise ActionError(f"{', '.join(unknown)}: no raw file of this scene names it.")
    reference = Contender.objects.get(study=study, kind=Kind.UNPROCESSED)
    if reference.body not in ("", names[0]):
        raise ActionError(
            f"This study holds others against {reference.body} already. Begin another one for"
            f" {names[0]}."
        )
    name_reference(study, names[0])
    firsts = [shots[0].number for shots in series[names[0]].by_iso.values()]
    frames = Frame.objects.in_bulk(firsts)
    for number in firsts:
        take_frame(actor, study, frames[number])
    for name in names[1:]:
        entered = study.contenders.filter(body=name).first()
        if entered is None:
            enter_body(actor, study, name)
        else:
            fill_body(actor, entered)
    record(actor, study.bench, "take series", study)
    queue_if_whole(study)
    return study
