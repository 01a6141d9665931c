"""Reading sensors out of raw files."""

from __future__ import annotations

from contextlib import ExitStack
from typing import Any

from glenhail.core.errors import CoreError
from glenhail.core.sensor.comparison import compare
from glenhail.core.sensor.frames import pairs_of
from glenhail.core.sensor.series import sensor_series
from glenhail.core.sensor.told import compared_told, facts_told
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.models import Body
from glenhail.server.sensors.actions.measuring import body_key
from glenhail.server.sensors.actions.series import LEAST_BODIES
from glenhail.server.sensors.models import BodyMeasured, StudySeries
from glenhail.server.sensors.queries import measured_of, raw_of_body, series_of
from glenhail.server.sensors.shots import bodies_shot, sensor_frame, shots_of
from glenhail.server.studies.models import Study

FEW = "Two bodies with raw files of one scene are needed, each exposure shot twice."


class _Reading:
    """Tells how many files were read; here a job learns as well that it was cancelled."""

    def __init__(self, progress: Progress, count: int) -> None:
        self.progress, self.count, self.done = progress, max(1, count), 0

    def __call__(self) -> None:
        self.done += 1
        share = min(0.95, 0.05 + 0.9 * self.done / self.count)
        self.progress.tell(share, f"reading raw file {self.done} of {self.count}")


def _kept(key: str, found: dict[str, Any] | None, problem: str) -> dict[str, Any]:
    """What was read before stays where it could not be read again."""
    told = {"key": key, "problem": problem}
    return told if problem else {**told, "found": found}


def not_compared(arguments: dict[str, Any], problem: str) -> None:
    """A study whose bodies were not compared says why."""
    if Study.objects.filter(pk=arguments["study"]).exists():
        told = {"problem": problem}
        StudySeries.objects.update_or_create(study_id=arguments["study"], defaults=told)


@does("series", settle=not_compared)
def series(progress: Progress, arguments: dict[str, Any]) -> None:
    """Compare a study's bodies, unless what is kept of them is current."""
    study = Study.objects.select_related("bench").filter(pk=arguments["study"]).first()
    if study is None:
        return
    shots = shots_of(study)
    kept = series_of(study)
    if kept is not None and kept.key == shots.key and not kept.problem:
        return
    progress.tell(0.02, "reading raw files")
    found, problem = None, ""
    heard = _Reading(progress, shots.count())
    try:
        with ExitStack() as opened:
            bodies = [b for b in bodies_shot(study, shots, opened, heard) if b.scene]
            if len(bodies) < LEAST_BODIES:
                problem = FEW
            else:
                found = compared_told(compare(bodies), [s.name for s in shots.spots])
                found["spots"] = [
                    {"name": s.name, "role": s.role, "patch": s.patch.pk} for s in shots.spots
                ]
    except CoreError as error:
        problem = str(error)
    with progress.settling():
        StudySeries.objects.update_or_create(study=study, defaults=_kept(shots.key, found, problem))


def not_measured(arguments: dict[str, Any], problem: str) -> None:
    """A body that was not measured says why."""
    if Body.objects.filter(pk=arguments["body"]).exists():
        told = {"problem": problem}
        BodyMeasured.objects.update_or_create(body_id=arguments["body"], defaults=told)


@does("sensor", settle=not_measured)
def measure_sensor(progress: Progress, arguments: dict[str, Any]) -> None:
    """Read a body's sensor out of all its raw files, unless that is current."""
    body = Body.objects.select_related("bench").filter(pk=arguments["body"]).first()
    if body is None:
        return
    key, kept, sensor = body_key(body), measured_of(body), body.sensor
    if kept is not None and kept.key == key and not kept.problem:
        return
    progress.tell(0.02, "reading raw files")
    found, problem = None, ""
    frames = list(raw_of_body(body.bench, body.name))
    try:
        with ExitStack() as opened:
            heard = _Reading(progress, len(frames))
            pairs, alone = pairs_of([sensor_frame(f, opened, heard) for f in frames])
            found = (
                {**facts_told(sensor_series(pairs, sensor.width * sensor.height)), "alone": alone}
                if pairs
                else None
            )
            problem = "" if pairs else "No two raw files have the same exposure. Shoot each twice."
    except CoreError as error:
        problem = str(error)
    with progress.settling():
        BodyMeasured.objects.update_or_create(
            body=body,
            defaults={**_kept(key, found, problem), "frames": len(frames)},
        )
