"""What an uploaded file can be for in a study: a frame of it, a contender's output or
its preview, a file of a folder.
"""

from __future__ import annotations

from typing import Any

from glenhail.server.accounts.models import Bench
from glenhail.server.accounts.permissions import Actor
from glenhail.server.material.deliveries import take_frame, told
from glenhail.server.material.queries import find_frame
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.outputs.actions import cells, folders, previews
from glenhail.server.storage.files import Source
from glenhail.server.storage.uploads import DELIVERIES, Delivery
from glenhail.server.studies import queries
from glenhail.server.studies.actions import study

Values = dict[str, Any]


def _check_frame(actor: Actor, bench: Bench, values: Values) -> None:
    queries.find_study(actor, told(values, "study"))


def _take_frame(actor: Actor, bench: Bench, values: Values, source: Source, name: str) -> Values:
    made = take_frame(actor, bench, values, source, name)
    study.take_frame(
        actor, queries.find_study(actor, told(values, "study")), find_frame(actor, made["frame"])
    )
    return made


def _check_output(actor: Actor, bench: Bench, values: Values) -> None:
    queries.find_contender(actor, told(values, "contender"))
    find_frame(actor, told(values, "frame"))


def _take_output(actor: Actor, bench: Bench, values: Values, source: Source, name: str) -> Values:
    contender, frame = (
        queries.find_contender(actor, told(values, "contender")),
        find_frame(actor, told(values, "frame")),
    )
    cells.bring_in(actor, contender, frame, source, name)
    return {"frame": frame.pk, "known": None}


def _check_file(actor: Actor, bench: Bench, values: Values) -> None:
    outputs_queries.find_folder(actor, told(values, "folder"))


def _take_file(actor: Actor, bench: Bench, values: Values, source: Source, name: str) -> Values:
    folder = outputs_queries.find_folder(actor, told(values, "folder"))
    file = folders.add_file(actor, folder, source, str(values.get("path") or name))
    return {"frame": None, "known": None, "file": file.pk}


def _take_preview(actor: Actor, bench: Bench, values: Values, source: Source, name: str) -> Values:
    contender, frame = (
        queries.find_contender(actor, told(values, "contender")),
        find_frame(actor, told(values, "frame")),
    )
    previews.attach_file(actor, contender, frame, source, name)
    return {"frame": frame.pk, "known": None}


DELIVERIES["folder file"] = Delivery(_check_file, _take_file)


DELIVERIES["preview"] = Delivery(_check_output, _take_preview)


DELIVERIES["study frame"] = Delivery(_check_frame, _take_frame)


DELIVERIES["output"] = Delivery(_check_output, _take_output)
