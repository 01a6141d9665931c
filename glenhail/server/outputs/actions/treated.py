"""Outputs that are made of another contender's, as they are: which those were, and
having them made anew when these are others.
"""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

from glenhail.server.accounts.permissions import Actor, record
from glenhail.server.jobs.actions.queue import enqueue
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Contender

JOB = "treat outputs"


@dataclass(frozen=True)
class MadeFrom:
    """Of which contender's output a cell was made, which picture that was, and the word
    that the name of its file has for what was done.
    """

    contender: int
    picture: int
    word: str

    def kept(self) -> dict[str, Any]:
        """As a cell keeps it."""
        return asdict(self)


def made_from(output: Output | None) -> MadeFrom | None:
    """Of what a cell was made; None where that was the frame, or nobody knows."""
    told = output.made_from if output is not None else None
    return MadeFrom(**told) if told else None


def why_of_another(output: Output) -> str:
    """That an output was made of what is not there any more; empty where it is."""
    told = made_from(output)
    if told is None:
        return ""
    rows = Output.objects.filter(contender_id=told.contender, frame_id=output.frame_id)
    now = rows.values_list("picture_id", "contender__letter").first()
    if now is None or now[0] == told.picture:
        return ""
    return f"made from another output of {now[1]} than is there now"


def ask_to_treat(actor: Actor, made: Contender, one: Contender, word: str) -> None:
    """Queue the making of a contender's outputs from another's: of those that are
    missing, or were made of outputs that are others by now.
    """
    arguments = {"made": made.pk, "one": one.pk, "word": word, "actor": actor.pk}
    label = f"Making {made.letter} from the outputs of {one.letter}"
    enqueue(made.study.bench, JOB, f"{JOB}:{made.pk}", label, arguments, made.study_id)
    record(actor, made.study.bench, f"enter {word}"[:60], made)
