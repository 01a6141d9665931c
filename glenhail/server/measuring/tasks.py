"""What is still to be measured of an output: every reading has a key of all that it
depends on, and is taken again when its key is another one.
"""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from glenhail.core.measures.catalogue import Measure, measures_for
from glenhail.core.measures.catalogue import Patch as Place
from glenhail.server.measuring.basis import Basis
from glenhail.server.measuring.lining import lay_key
from glenhail.server.measuring.models import AS_MADE, MATCHED
from glenhail.server.measuring.subjects import flat_patches, hand_points, second_of_burst
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Patch


@dataclass(frozen=True)
class Task:
    """One reading still to be taken."""

    patch: Patch | None
    measure: Measure
    key: str
    basis: str = AS_MADE

    @property
    def place(self) -> Place | None:
        return Place(self.patch.name, self.patch.role, self.patch.rect) if self.patch else None


def missing_tasks(output: Output, basis: Basis | None) -> list[Task]:
    kept = {(r.patch_id, r.measure, r.basis): r.key for r in output.readings.all()}
    places: list[Patch | None] = [*output.contender.study.patches.filter(frame=output.frame), None]
    lays = lays_of(output)
    noise = noise_key(output)
    tasks = [
        Task(patch, m, task_key(lays, patch, m, kind, basis, noise), kind)
        for kind in ([AS_MADE, MATCHED] if basis else [AS_MADE])
        for patch in places
        for m in measures_for(Place(patch.name, patch.role, patch.rect) if patch else None)
    ]
    return [
        t
        for t in tasks
        if kept.get((t.patch.pk if t.patch else None, t.measure.id, t.basis)) != t.key
    ]


def what_it_rests_on(output: Output, noise: str | None = None) -> tuple[str, str, str]:
    """All beside its patch and measure that a reading depends on."""
    return (*lays_of(output), noise_key(output) if noise is None else noise)


def lays_of(output: Output) -> tuple[str, str]:
    """What readings of an output depend on of its files and line-ups: its own, and its
    truth's.
    """
    source, truth = output.frame.picture, output.frame.truth
    own = of_truth = ""
    if output.picture:
        own = lay_key(source, output.picture, hand_points(output, output.picture))
    if truth:
        of_truth = f"{lay_key(source, truth, hand_points(output, truth))}:{truth.state}"
    return own, of_truth


def noise_key(output: Output) -> str:
    """What readings depend on that take a picture's noise from elsewhere."""
    second = second_of_burst(output)
    return f"{[p.rect for p in flat_patches(output)]}:{second.file_id if second else ''}"


def task_key(
    lays: tuple[str, str],
    patch: Patch | None,
    m: Measure,
    kind: str,
    basis: Basis | None,
    noise: str,
) -> str:
    """Everything a reading depends on, hashed."""
    parts = (
        lays[0],
        lays[1] if m.uses_truth else "",
        m.id,
        m.version,
        (patch.role, patch.x, patch.y, patch.w, patch.h) if patch else None,
        basis.key if basis and kind == MATCHED else "",
        noise if m.uses_noise else "",
    )
    return hashlib.sha256(repr(parts).encode()).hexdigest()
