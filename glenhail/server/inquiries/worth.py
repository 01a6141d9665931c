"""Price, speed and what is got for it: each contender of a study, from what is written
down, timed and measured.
"""

from __future__ import annotations

from typing import Any

from glenhail.core.answers.board import Board
from glenhail.core.answers.worth import (
    ToldPrice,
    amount_said,
    batch_seconds,
    checked_numbers,
    picture_cost,
    waiting_said,
)
from glenhail.server.measuring.answers import board_of
from glenhail.server.outputs.costs import Cost, costs
from glenhail.server.studies.models import Contender, Study
from glenhail.server.studies.queries import entered
from glenhail.server.tools.models import Tool

MEASURES = {"noise": "noise_luma", "detail": "detail_kept"}


def worth_page(study: Study, told: dict[str, float]) -> dict[str, Any]:
    """All contenders that are treatments; ``told`` are pictures a year, years, pictures
    in a batch and their megapixels.

    Raises
    ------
    BadRequest
        If one of the numbers makes no sense.
    """
    checked_numbers(**told)
    timed = {cost.contender.pk: cost for cost in costs(study)}
    board = board_of(study)
    rows = [_row(c, timed.get(c.pk), board, told) for c in entered(study) if c.treatment]
    machines = sorted({m for cost in timed.values() for m in cost.machines})
    return {**told, "rows": rows, "machines": machines}


def _row(
    contender: Contender, cost: Cost | None, board: Board, told: dict[str, float]
) -> dict[str, Any]:
    price = picture_cost(told_prices(contender), told["pictures"], told["years"])
    per = cost.speed.per_megapixel if cost else None
    seconds = batch_seconds(per.value, told["megapixels"], told["batch"]) if per else None
    size = cost.size if cost else None
    return {
        "letter": contender.letter,
        "amount": price.amount,
        "currency": price.currency,
        "said": price.said,
        "costs": amount_said(price.amount, price.currency),
        "seconds": seconds,
        "waits": waiting_said(seconds),
        "by_hand": cost is not None and cost.told_by_hand,
        "size_bytes": None if size is None else size.value,
        **{name: _median(board, measure, contender.letter) for name, measure in MEASURES.items()},
    }


def told_prices(contender: Contender) -> list[tuple[str, list[ToldPrice]]]:
    """Of each tool once; methods that come with a bench cost nothing."""
    assert contender.treatment is not None
    tools: dict[int, Tool] = {}
    for step in contender.treatment.steps.all():
        if not step.release.method:
            tools[step.release.tool_id] = step.release.tool
    return [
        (t.name, [ToldPrice(p.what, float(p.amount), p.currency) for p in t.prices.all()])
        for t in tools.values()
    ]


def _median(board: Board, measure: str, letter: str) -> dict[str, float] | None:
    places = [key for key, place in board.places.items() if place.role]
    found = board.median(measure, letter, places)
    return None if found is None else {"value": found.value, "low": found.low, "high": found.high}
