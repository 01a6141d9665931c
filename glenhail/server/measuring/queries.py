"""Reading what was measured: line-ups, states, readings, ranks, what is missing."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.db.models import Q, QuerySet

from glenhail.core.answers.comparison import TakenReading
from glenhail.core.answers.ranking import Rank, places
from glenhail.core.audit.examine import Examination, examination_of
from glenhail.core.lineup.register import VERSION as LINEUP_VERSION
from glenhail.core.measures.best import Best
from glenhail.core.measures.catalogue import MEASURES
from glenhail.core.measures.suggested_patches import VERSION as SUGGEST_VERSION
from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import Actor, require
from glenhail.server.common.errors import Missing
from glenhail.server.material.models import Frame, PictureState
from glenhail.server.measuring.lining import examined_key, points_at, points_key
from glenhail.server.measuring.models import Examined, LineUp, Reading, Suggested
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Kind, Study


def examined_of(rows: Sequence[Output]) -> dict[int, Examination]:
    """What is known of each output as it lies now, by its id."""
    if not rows:
        return {}
    placed = points_at(rows[0].contender.study.bench_id, {o.frame.picture_id for o in rows})
    keys = {
        o.pk: examined_key(
            o.frame.picture, o.picture, placed.get((o.frame.picture_id, o.picture.pk), [])
        )
        for o in rows
        if o.picture is not None
    }
    kept = {e.key: e.told for e in Examined.objects.filter(key__in=set(keys.values()))}
    return {pk: examination_of(kept[key]) for pk, key in keys.items() if key in kept}


def examination_told(key: str) -> dict[str, Any]:
    """What an examination found, as it was kept; empty where there is none yet."""
    kept = Examined.objects.filter(key=key).first()
    return kept.told if kept else {}


def suggested_of(frame: Frame) -> Suggested | None:
    """The patches that a frame suggests by today's rules."""
    return Suggested.objects.filter(picture=frame.picture, version=SUGGEST_VERSION).first()


def find_reading(actor: Actor, reading_id: int) -> Reading:
    """A reading the actor may see."""
    rows = Reading.objects.select_related("output__contender__study__bench")
    row = rows.filter(pk=reading_id).first()
    if row is None:
        raise Missing("This reading was taken again meanwhile. Reload the page.")
    require(actor, row.output.contender.study.bench, Role.VIEWER)
    return row


def tones_of(rows: Sequence[Output]) -> dict[int, dict[str, Any]]:
    """What takes the brightness of each examined output off, by its id."""
    found = {}
    for pk, examination in examined_of(rows).items():
        exposure, curve = examination.values.get("exposure"), examination.curves.get("tone", {})
        found[pk] = {
            "stops": exposure.value if exposure else None,
            "frame": curve.get("frame", []),
            "output": curve.get("output", []),
        }
    return found


def lineups(rows: list[Output]) -> dict[int, LineUp]:
    """Each output's present line-up, by the output's id; absent while there is none
    yet.
    """
    if not rows:
        return {}
    sources = {o.frame.picture_id for o in rows}
    found = LineUp.objects.filter(
        version=LINEUP_VERSION,
        source_id__in=sources,
        output_id__in={o.picture_id for o in rows if o.picture_id},
    )
    by_pair = {(row.source_id, row.output_id, row.points_key): row for row in found.defer("cells")}
    placed = points_at(rows[0].contender.study.bench_id, sources)
    pairs = {o.pk: (o.frame.picture_id, o.picture_id) for o in rows if o.picture_id}
    present = {
        pk: by_pair.get((*pair, points_key(placed.get(pair, [])))) for pk, pair in pairs.items()
    }
    return {pk: row for pk, row in present.items() if row is not None}


def output_state(output: Output, lineup: LineUp | None) -> tuple[str, str]:
    """An output's state and, where it was refused or is absent, why."""
    if output.picture is None:
        return "absent", output.absence
    for picture in (output.frame.picture, output.picture):
        if picture.state == PictureState.REFUSED:
            own = output.file_name if picture is output.picture else output.frame.file_name
            return "refused", picture.problem_as(own)
        if picture.state == PictureState.WAITING:
            return "waiting", ""
    if lineup is not None and lineup.refused:
        return "refused", f"{output.file_name}: {lineup.refused}"
    trouble = f"{output.file_name or output}: {output.trouble}" if output.trouble else ""
    if lineup is None:
        return ("refused", trouble) if trouble else ("lining up", "")
    # It can be shown, whatever became of its latest readings.
    return "ready", trouble


def current_readings(study: Study) -> QuerySet[Reading]:
    """Readings of today's measures only: one made by an older version is never shown as
    current.
    """
    by_version = defaultdict(list)
    for measure in MEASURES.values():
        by_version[measure.version].append(measure.id)
    today = Q()
    for version, measures in by_version.items():
        today |= Q(version=version, measure__in=measures)
    # The curves behind them are asked for one by one.
    return Reading.objects.filter(today, output__contender__study=study).defer("details")


def expected_readings(study: Study, rows: list[Output], found: dict[int, LineUp]) -> int:
    """How many readings there will be of a study's outputs, with their line-ups, once
    all work is done.
    """
    sets = 2 if study.matched else 1
    drawn = list(study.patches.all())  # once: others may be drawn meanwhile
    per_role = {
        role: sum(role in m.roles for m in MEASURES.values()) for role in {p.role for p in drawn}
    }
    whole = sum(m.whole for m in MEASURES.values())
    ready = [o for o in rows if output_state(o, found.get(o.pk))[0] == "ready"]
    patches: dict[int, int] = defaultdict(int)
    for patch in drawn:
        patches[patch.frame_id] += per_role[patch.role]
    awaited = [o for o in ready if not o.trouble]
    troubled = [o.pk for o in ready if o.trouble]
    taken = current_readings(study).filter(output__in=troubled).count() if troubled else 0
    return taken + sum(
        (whole + patches[o.frame_id]) * (1 if o.contender.kind == Kind.TRUTH else sets)
        for o in awaited
    )


@dataclass(frozen=True)
class Ranked:
    """A reading with its place among the contenders on the same patch."""

    reading: Reading
    place: Rank | None


def ranked_readings(study: Study) -> list[Ranked]:
    """All current readings of both sets; ranks compare contenders on one frame and
    patch within a set.
    """
    groups: dict[tuple[int, int | None, str, str], list[Reading]] = defaultdict(list)
    # Thousands of readings of a few dozen outputs: each of those is fetched once.
    of_study = Output.objects.filter(contender__study=study).select_related("contender")
    made, drawn = of_study.in_bulk(), study.patches.in_bulk()
    # Always in one order: what is published twice is the same twice.
    for reading in current_readings(study).order_by("output__contender__order", "pk"):
        reading.output = made[reading.output_id]
        reading.patch = drawn[reading.patch_id] if reading.patch_id is not None else None
        groups[reading.output.frame_id, reading.patch_id, reading.measure, reading.basis].append(
            reading
        )
    return [
        Ranked(reading, place)
        for (_, _, measure, _), rows in groups.items()
        for reading, place in zip(rows, _places(rows, MEASURES[measure].best), strict=True)
    ]


def _places(rows: list[Reading], best: Best | None) -> list[Rank | None]:
    if best is None:
        return [None] * len(rows)
    return places([_taken(r) for r in rows], best)


def _taken(reading: Reading) -> TakenReading | None:
    """What competes for a rank: neither the unprocessed frame nor the truth does."""
    if reading.output.contender.kind in (Kind.UNPROCESSED, Kind.TRUTH) or reading.value is None:
        return None
    low = reading.low if reading.low is not None else reading.value
    high = reading.high if reading.high is not None else reading.value
    return TakenReading(reading.value, low, high, reading.parts)
