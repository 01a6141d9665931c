"""The plan of a published edition, from what it says of itself."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from glenhail.core.execution.command import command_of
from glenhail.core.lineup.points import PointPair
from glenhail.core.looking.shown import showing_of
from glenhail.core.picture import Rect
from glenhail.core.plans.plan import Plan, PlannedContender, PlannedFrame, PlannedPatch
from glenhail.core.plans.study import TRUTH, UNPROCESSED
from glenhail.core.treatments.step import treatment_of
from glenhail.core.uses.table import Use

Document = dict[str, Any]


def reference_of(document: Document) -> str:
    """The letter of an edition's frames themselves: the unprocessed column's, or of the
    body that others are held against.

    Parameters
    ----------
    document : dict
        The edition.
    """
    kinds = {c.get("kind"): c["letter"] for c in document["contenders"]}
    return str(kinds.get("unprocessed", UNPROCESSED))


def plan_of_edition(document: Document, originals: Sequence[Mapping[str, Any]]) -> Plan:
    """A plan by which an edition's readings can be taken again from its own files.

    Frames whose originals are kept back are left out, with their patches: nobody could
    find them.

    Parameters
    ----------
    document : dict
        The edition.
    originals : sequence of mapping
        What it offers of each original, with the hash of its pixels.
    """
    pixels = {e["name"]: e["pixels"] for e in originals if "pixels" in e}
    reference = reference_of(document)
    frames = []
    for at, frame in enumerate(document["frames"]):
        hashes = {o["letter"]: pixels.get(o["file"], "") for o in frame["outputs"]}
        if not hashes.get(reference):
            continue
        patches = tuple(
            PlannedPatch(p["name"], p["role"], Rect(*p["rect"]))
            for p in document["patches"]
            if p["frame_at"] == at
        )
        truth = hashes.get(TRUTH, "")
        names = {o["letter"]: o["file_name"] for o in frame["outputs"]}
        placed = {o["letter"]: o.get("points", ()) for o in frame["outputs"]}
        frames.append(
            PlannedFrame(
                frame["name"],
                hashes[reference],
                names[reference],
                truth,
                names.get(TRUTH, "") if truth else "",
                patches=patches,
                points={k: tuple(PointPair(**p) for p in v) for k, v in placed.items() if v},
            )
        )
    return Plan(
        document["question"],
        document["factor"],
        tuple(frames),
        tuple(_contender(c) for c in document["contenders"] if c.get("treatment")),
        {m["id"]: m["version"] for m in document["measures"]},
        _uses(document),
    )


def _uses(document: Document) -> tuple[Use, ...]:
    """Those that its figures are seen in, each once."""
    shown = (showing_of(f.get("showing", {})).use for f in document.get("figures", ()))
    return tuple(dict.fromkeys(use for use in shown if use))


def _contender(told: Document) -> PlannedContender:
    commands = tuple(command_of(c) if c else None for c in told["commands"])
    return PlannedContender(told["letter"], treatment_of(told["treatment"]), commands)
