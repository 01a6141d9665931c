"""Outputs of a study as inquiries take them: decoded, lined up, matched where asked."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any

from glenhail.core.errors import NoLineUp
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.server.common.errors import Missing
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import PictureState
from glenhail.server.measuring.basis import basis_of
from glenhail.server.measuring.lining import (
    find_examination,
    find_line_up,
    laid_of,
    lay_key,
    points_at,
    points_of,
)
from glenhail.server.outputs import queries as outputs
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Contender, Kind, Study


def cells_of_frames(study: Study) -> dict[int, list[Output]]:
    """Outputs that have a decoded picture, by their frame, in the study's order."""
    found: dict[int, list[Output]] = {row.frame_id: [] for row in study.study_frames.all()}
    for output in outputs.outputs(study):
        pictures = output.picture, output.frame.picture
        if output.frame_id in found and all(p and p.state == PictureState.READY for p in pictures):
            found[output.frame_id].append(output)
    return found


def output_pairs(study: Study, one: Contender, other: Contender) -> Iterator[tuple[Output, Output]]:
    """Outputs of both, of every frame that has them."""
    for of in cells_of_frames(study).values():
        by = {o.contender_id: o for o in of}
        if one.pk in by and other.pk in by:
            yield by[one.pk], by[other.pk]


def contender_pair(study: Study, numbers: Sequence[str]) -> tuple[Contender, Contender]:
    """Two contenders by their numbers, with their treatments.

    Raises
    ------
    Missing
        If one of them was taken out.
    """
    one, other = (int(n) for n in numbers)
    found = study.contenders.select_related("treatment").in_bulk([one, other])
    if one not in found or other not in found:
        raise Missing("One of the two contenders was taken out.")
    return found[one], found[other]


def aligned_output(output: Output, matched: bool = False) -> AlignedPicture:
    """An output on its frame; with its light or size matched, where that is asked for
    and the study says how.

    Raises
    ------
    NoLineUp
        If it does not lie on it.
    """
    assert output.picture is not None
    row = find_line_up(output.frame.picture, output.picture, _points(output))
    if row.refused:
        raise NoLineUp(f"{output.file_name}: {row.refused}.")
    laid = laid_of(decoded(output.picture), row)
    if not matched:
        return laid
    asis = output.contender.kind in (Kind.UNPROCESSED, Kind.TRUTH)
    examined = None if asis else find_examination(output.frame.picture, output.picture, row)
    basis = basis_of(output, examined)
    return laid if basis is None else basis.prepared(laid)


def output_key(output: Output) -> str:
    """All that its pixels and place depend on, without looking at them."""
    assert output.picture is not None
    return lay_key(output.frame.picture, output.picture, _points(output))


def cell_keys(cells: Mapping[int, Sequence[Output]]) -> list[tuple[str, str]]:
    """Each output's letter and key, all of a study in one question to the database."""
    outputs = [o for of in cells.values() for o in of if o.picture is not None]
    if not outputs:
        return []
    sources = {o.frame.picture_id for o in outputs}
    placed = points_at(outputs[0].contender.study.bench_id, sources)
    made = []
    for o in outputs:
        assert o.picture is not None
        points = placed.get((o.frame.picture_id, o.picture_id or 0), [])
        made.append((o.contender.letter, lay_key(o.frame.picture, o.picture, points)))
    return made


def hashed(told: Iterable[Any]) -> str:
    """A key out of all that something depends on."""
    return hashlib.sha256(repr(tuple(told)).encode()).hexdigest()


def _points(output: Output) -> list[dict[str, float]]:
    assert output.picture is not None
    return points_of(output.contender.study.bench_id, output.frame.picture, output.picture)
