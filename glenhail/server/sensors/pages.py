"""Series and sensors as their pages show them."""

from __future__ import annotations

from typing import Any

from glenhail.core.sensor.proposal import doubts_told, series_told
from glenhail.core.sensor.told import speeds_told
from glenhail.server.accounts.models import Bench
from glenhail.server.jobs.queries import active_jobs
from glenhail.server.material.models import Body
from glenhail.server.sensors import queries
from glenhail.server.sensors.actions.measuring import body_key
from glenhail.server.sensors.models import Measured
from glenhail.server.sensors.shots import shots_of
from glenhail.server.studies.models import Study


def series_page(study: Study) -> dict[str, Any]:
    """What is known of a study's series."""
    kept = queries.series_of(study)
    letters = queries.contender_letters(study)
    found = kept.found if kept else None
    if found:
        bodies = [b | {"letter": letters.get(b["name"], "")} for b in found["bodies"]]
        found = found | {"bodies": bodies}
    key = shots_of(study).key if kept else ""
    return state_of(kept, key, f"series:{study.pk}") | {"found": found, **_metered(study, found)}


def _metered(study: Study, found: dict[str, Any] | None) -> dict[str, Any]:
    """A spot's luminance, and the speeds that follow from it."""
    kept = queries.metered_of(study)
    if kept is None:
        return {"metered": None, "speeds": []}
    told = {"patch": kept.patch_id, "luminance": kept.luminance, "t_numbers": kept.t_numbers}
    spots = [s["patch"] for s in (found or {}).get("spots", [])]
    speeds = []
    if found and kept.patch_id in spots:
        at = spots.index(kept.patch_id)
        speeds = speeds_told(found, at, kept.luminance, kept.t_numbers)
    return {"metered": told, "speeds": speeds}


def sensor_page(body: Body) -> dict[str, Any]:
    """What is known of a body's sensor."""
    kept = queries.measured_of(body)
    found = kept.found if kept else None
    return state_of(kept, body_key(body) if kept else "", f"sensor:{body.pk}") | {
        "frames": queries.raw_of_body(body.bench, body.name).count(),
        "alone": (found or {}).get("alone", []),
        "found": found,
    }


def state_of(kept: Measured | None, key: str, job: str) -> dict[str, Any]:
    """How current something is that a job reads."""
    state = "none"
    if active_jobs(job):
        state = "waiting"
    elif kept is not None and kept.problem:
        state = "failed"
    elif kept is not None:
        state = "ready" if kept.key == key else "old"
    return {
        "state": state,
        "problem": kept.problem if kept else "",
        "taken": kept.taken if kept else None,
    }


def scenes_at_hand(bench: Bench) -> list[dict[str, Any]]:
    """Scenes with raw files, and what their bodies shot."""
    made = []
    for scene, shots in queries.scenes_with_raw(bench):
        series = series_told(shots)
        bodies = [{"body": s.body, "isos": list(s.by_iso), "frames": s.frames} for s in series]
        made.append(
            {
                "id": scene.pk,
                "name": scene.name,
                "bodies": bodies,
                "doubts": doubts_told(series) if len(series) > 1 else [],
            }
        )
    return made
