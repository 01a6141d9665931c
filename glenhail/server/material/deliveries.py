"""What an uploaded file can be for here: a frame, or the truth of one."""

from __future__ import annotations

from typing import Any

from glenhail.server.accounts.models import Bench
from glenhail.server.accounts.permissions import Actor
from glenhail.server.common.errors import ActionError
from glenhail.server.material.actions import frames
from glenhail.server.material.actions.scenes import place_frame
from glenhail.server.material.queries import find_frame, find_scene
from glenhail.server.storage.files import Source
from glenhail.server.storage.uploads import DELIVERIES, Delivery

Values = dict[str, Any]


def told(values: Values, what: str) -> int:
    """A number that the delivery must tell.

    Raises
    ------
    ActionError
        If it does not.
    """
    if not isinstance(values.get(what), int):
        raise ActionError(f"To be taken in as {values['kind']}, a file must say for which {what}.")
    return int(values[what])


def _no_check(actor: Actor, bench: Bench, values: Values) -> None:
    """Who may send files at all may add frames."""


def take_frame(actor: Actor, bench: Bench, values: Values, source: Source, name: str) -> Values:
    """Add a frame; the same file again gives the frame that is there, under the name it
    has.
    """
    frame, made = frames.add_frame(actor, bench, source, name)
    return {"frame": frame.pk, "known": None if made else frame.name}


def _check_scene(actor: Actor, bench: Bench, values: Values) -> None:
    find_scene(actor, told(values, "scene"))


def _take_scene_frame(
    actor: Actor, bench: Bench, values: Values, source: Source, name: str
) -> Values:
    """A frame and what it shows; one that is there already and shows another stays so."""
    made = take_frame(actor, bench, values, source, name)
    frame = find_frame(actor, made["frame"])
    if frame.scene_id is None:
        place_frame(actor, frame, told(values, "scene"))
    return made


def _check_truth(actor: Actor, bench: Bench, values: Values) -> None:
    find_frame(actor, told(values, "frame"))


def _take_truth(actor: Actor, bench: Bench, values: Values, source: Source, name: str) -> Values:
    frame = frames.set_truth(actor, find_frame(actor, told(values, "frame")), source, name)
    return {"frame": frame.pk, "known": None}


DELIVERIES["frame"] = Delivery(_no_check, take_frame)
DELIVERIES["scene frame"] = Delivery(_check_scene, _take_scene_frame)
DELIVERIES["truth"] = Delivery(_check_truth, _take_truth)
