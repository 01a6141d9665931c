"""Line-ups and examinations of pairs of pictures: found once, kept, made again when
what they depend on changed.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from dataclasses import asdict
from typing import Any

from glenhail.core.audit import examine
from glenhail.core.errors import BadRequest, NoLineUp
from glenhail.core.lineup import register
from glenhail.core.lineup.aligned import AlignedPicture, aligned
from glenhail.core.lineup.border import Border
from glenhail.core.lineup.points import PointPair
from glenhail.core.picture import Picture as Pixels
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Picture
from glenhail.server.measuring.models import Examined, HandPoints, LineUp

Points = list[dict[str, float]]


Pair = tuple[int, int]


def points_at(bench_id: int, sources: Iterable[int]) -> dict[Pair, Points]:
    """Pairs of points that people of a bench placed, by the ids of the two pictures."""
    rows = HandPoints.objects.filter(bench_id=bench_id, source_id__in=set(sources))
    return {(row.source_id, row.output_id): list(row.pairs) for row in rows}


def points_of(bench_id: int, source: Picture, picture: Picture) -> Points:
    """Those of two pictures; none where nobody placed any."""
    return points_at(bench_id, [source.pk]).get((source.pk, picture.pk), [])


def points_key(points: Points) -> str:
    """What a line-up begun from points is known by; empty where there are none."""
    return hashlib.sha256(repr(points).encode()).hexdigest() if points else ""


def find_line_up(source: Picture, picture: Picture, points: Points) -> LineUp:
    """The line-up of two pictures, begun from points where a bench placed some; found
    once.
    """
    where: dict[str, Any] = {
        "source": source,
        "output": picture,
        "version": register.VERSION,
        "points_key": points_key(points),
    }
    kept = LineUp.objects.filter(**where).first()
    if kept is not None:
        return kept
    fields = {**_BLANK, **_found(source, picture, points), "points": points}
    return LineUp.objects.update_or_create(**where, defaults=fields)[0]


_BLANK: dict[str, Any] = {
    "refused": "",
    "sx": 1,
    "sy": 1,
    "dx": 0,
    "dy": 0,
    "left": 0,
    "top": 0,
    "right": 0,
    "bottom": 0,
    "residual": 0,
    "likeness": 0,
    "bend": None,
    "doubts": [],
    "cells": [],
}


def _found(source: Picture, picture: Picture, points: list[dict[str, float]]) -> dict[str, Any]:
    try:
        found = register.line_up(
            decoded(source), decoded(picture), [PointPair(**p) for p in points]
        )
    except (NoLineUp, BadRequest) as why:
        return {"refused": str(why)}
    m = found.mapping
    cells = [[round(v, 3) for v in (c.x, c.y, c.dx, c.dy, c.alike)] for c in found.cells]
    return {
        "sx": m.sx,
        "sy": m.sy,
        "dx": m.dx,
        "dy": m.dy,
        **asdict(found.border),
        "bend": asdict(m.bend) if m.bend else None,
        "residual": found.residual,
        "likeness": found.likeness,
        "doubts": list(found.doubts),
        "cells": cells,
    }


def laid_of(pixels: Pixels, row: LineUp) -> AlignedPicture:
    """A decoded picture as its kept line-up lays it."""
    border = Border(row.left, row.top, row.right, row.bottom)
    return aligned(pixels, register.LineUp(row.mapping, border, row.residual, row.likeness))


def lay_key(source: Picture, picture: Picture, points: Points) -> str:
    """All that the way two pictures lie on each other depends on."""
    return f"{source.file_id}:{picture.file_id}:{register.VERSION}:{points}"


def find_examination(source: Picture, picture: Picture, row: LineUp) -> Examined:
    """What examining found; done once for each line-up."""
    key = examined_key(source, picture, row.points)
    kept = Examined.objects.filter(key=key).first()
    if kept is not None:
        return kept
    found = examine.examine(decoded(source), laid_of(decoded(picture), row))
    fields = {"source": source, "output": picture, "told": found.as_json()}
    return Examined.objects.update_or_create(key=key, defaults=fields)[0]


def examined_key(source: Picture, picture: Picture, points: Points) -> str:
    """All that an examination depends on, hashed."""
    return hashlib.sha256(
        f"{lay_key(source, picture, points)}:{examine.VERSION}".encode()
    ).hexdigest()
