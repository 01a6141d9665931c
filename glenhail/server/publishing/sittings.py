"""Closed sittings in an edition: what was asked and shown, what came of it, and every
answer, so that a reader can weigh them again.
"""

from __future__ import annotations

from typing import Any

from glenhail.core.interval import Interval
from glenhail.core.judging.words import percent
from glenhail.server.judging.models import Sitting, SittingState
from glenhail.server.judging.outcome import RAW_HEAD as HEAD
from glenhail.server.judging.outcome import SittingOutcome, raw_rows
from glenhail.server.studies.models import Study

__all__ = ["HEAD", "sittings_table"]
Document = dict[str, Any]


def sittings_table(study: Study) -> list[Document]:
    """A study's closed sittings that somebody answered, by number."""
    closed = study.sittings.filter(state=SittingState.CLOSED, judges__calls__isnull=False)
    return [_told(sitting) for sitting in closed.distinct()]


def _told(sitting: Sitting) -> Document:
    outcome = SittingOutcome(sitting)
    results = sitting.results  # as they were told when it was closed
    return {
        "number": sitting.number,
        "question": sitting.question,
        "kind": sitting.kind,
        "simulated": sitting.simulated,
        "how": sitting.how,
        "contenders": [{k: c[k] for k in ("letter", "title")} for c in sitting.contenders],
        "spots": [
            {"frame": s["frame_name"], "name": s["name"], "role": s["role"], "rect": s["rect"]}
            for s in sitting.spots
        ],
        "obvious": sitting.obvious,
        "seed": sitting.seed,
        "judges": len([r for r in outcome.records if r.given]),
        "said": sitting.said,
        "speaks": results["speaks"] if results else "",
        "results": results,
        "rows": _rows(results) if results else [],
        "grades": outcome.grades(screened=False),
        "crops": [
            {
                "spot": c.spot,
                "letter": c.letter,
                "sha256": c.file_id,
                "width": c.width,
                "height": c.height,
            }
            for c in sitting.crops.all()
        ],
        "answers": raw_rows(outcome),
        "file": f"sitting-{sitting.number}.csv",
    }


def _rows(results: Document) -> list[Document]:
    """A line a contender, as the page shows it."""
    made = []
    for standing in results["standings"]:
        who = standing["contender"]
        apart = [
            d["worse"] if d["better"] == who else d["better"]
            for d in results["duels"]
            if d["told_apart"] and who in (d["better"], d["worse"])
        ]
        chance = percent(Interval(**standing["chance"]))
        made.append({"letter": who, "chance": chance, "apart": " ".join(sorted(apart))})
    return made
