"""What a report says of the tools themselves: their facts side by side, and what their
outputs took.
"""

from __future__ import annotations

from typing import Any

from glenhail.core.execution.timing import Spread
from glenhail.server.outputs.costs import Cost, costs
from glenhail.server.publishing.colours import colour_of
from glenhail.server.studies.models import Study
from glenhail.server.tools.comparison import compared
from glenhail.server.tools.models import Tool

Document = dict[str, Any]


def tools_table(study: Study) -> Document:
    """The facts of every tool that the study's contenders use; built-in methods have
    none worth a column.
    """
    used = Tool.objects.filter(
        releases__steps__treatment__contenders__study=study, releases__method=""
    ).distinct()
    tools = list(used.prefetch_related("releases", "prices"))
    told = [t for t in tools if t.maker or t.licence or t.platforms or t.prices.all()]
    return {
        "tools": [t.name for t in told],
        "rows": [{"fact": r.fact, "told": r.told} for r in compared(told)],
    }


def costs_table(study: Study) -> Document:
    """Seconds, seconds a megapixel, memory and size of each contender that was timed,
    with the machines.
    """
    found = costs(study)
    return {
        "rows": [_row(c) for c in found],
        "machines": sorted({m for c in found for m in c.machines}),
    }


def _row(cost: Cost) -> Document:
    s = cost.speed
    return {
        "letter": cost.contender.letter,
        "colour": colour_of(cost.contender.letter),
        "title": cost.contender.title,
        "runs": "by hand"
        if cost.told_by_hand
        else f"{s.runs}"
        if cost.alone
        else f"{s.runs}, beside other work",
        "seconds": [_middle(m) for m in (s.load, s.process, s.export, s.total, s.per_megapixel)],
        "memory": f"{cost.peak.value:.0f}" if cost.peak else "–",
        "size": f"{cost.size.value / 1e6:.1f}" if cost.size else "–",
    }


def _middle(value: Spread | None) -> str:
    return (
        "–"
        if value is None
        else f"{value.value:.1f}"
        if value.value >= 10
        else f"{value.value:.2f}"
    )
