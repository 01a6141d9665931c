"""Readings taken again from an edition's own files."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from typing import Any

from glenhail.core.checking.checks import DIFFERS, UNCHECKED, Check, check
from glenhail.core.errors import CoreError
from glenhail.core.lineup.aligned import AlignedPicture, aligned, lined_up
from glenhail.core.lineup.points import PointPair
from glenhail.core.measures.catalogue import MEASURES, NOISE, Patch, take
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Picture, Rect
from glenhail.core.plans.edition import reference_of
from glenhail.core.plans.study import TRUTH

Document = dict[str, Any]
# Between machines; on one machine numbers are the same.
RELATIVE, ABSOLUTE = 1e-6, 1e-9
KIND = "reading"


def readings_again(
    document: Document,
    at: int,
    picture: Callable[[Document], Picture | None],
    laid: Callable[[str], AlignedPicture | None],
) -> Iterator[Check]:
    """Every number that an edition prints of a frame and its patches, taken again.

    Parameters
    ----------
    document : dict
        The edition.
    at : int
        The place of one of its frames.
    picture : callable
        Gives an output's picture; None where its original is kept back.
    laid : callable
        Gives the picture of a letter, lined up; None as there, or a CoreError where it
        can not be.
    """
    frame = document["frames"][at]
    outputs = {o["letter"]: o for o in frame["outputs"]}
    places = [(None, frame)] + [(_patch(p), p) for p in document["patches"] if p["frame_at"] == at]
    letters = [c["letter"] for c in document["contenders"]]
    flat = [place.rect for place, _ in places if place is not None and place.role in NOISE]
    reference = reference_of(document)
    source = picture(outputs[reference]) if reference in outputs else None
    truth = laid(TRUTH)
    for column, letter in enumerate(letters):
        cells = [
            (place, row["id"], row["cells"][column])
            for place, told in places
            for row in told["table"]
            if row["cells"] and "value" in row["cells"][column]
        ]
        if not cells:
            continue
        subject = None
        why = "its original, or the frame's, is kept back"
        try:
            shown = laid(letter)
            if source is not None and shown is not None:
                subject = Subject(source, shown, truth, plain=flat)
        except CoreError as error:
            why = str(error)
        for place, measure, cell in cells:
            name = f"{letter}, {place.name if place else 'whole frame'}, {frame['name']}"
            yield _again(subject, why, name, place, measure, cell, bool(frame.get("second")))


def _again(
    subject: Subject | None,
    why: str,
    name: str,
    place: Patch | None,
    measure: str,
    cell: Document,
    second: bool,
) -> Check:
    m = MEASURES.get(measure)
    what = f"{m.name if m else measure} of {name}"
    if m is None:
        return Check(KIND, what, UNCHECKED, "there is no such measure here")
    if cell["text"] != f"{cell['value']:.{m.digits}f}":
        return Check(KIND, what, DIFFERS, f"{cell['value']} is printed as {cell['text']}")
    if cell["version"] != m.version:
        versions = f"version {cell['version']}, here is {m.version}"
        return Check(KIND, what, UNCHECKED, f"it was taken by {versions}")
    if subject is None:
        return Check(KIND, what, UNCHECKED, why)
    if second:
        return Check(KIND, what, UNCHECKED, "another exposure of its burst took part")
    taken = take(subject, m, place)
    printed = [cell["value"], cell["low"], cell["high"]]
    now = [taken.value, taken.low, taken.high]
    told = f"printed {printed[0]!r} ({printed[1]!r} to {printed[2]!r}), taken {now[0]!r}"
    return check(KIND, what, all(map(_alike, printed, now)), told)


def _alike(one: float | None, other: float | None) -> bool:
    if one is None or other is None:
        return one is other
    return math.isclose(one, other, rel_tol=RELATIVE, abs_tol=ABSOLUTE)


def _patch(told: Document) -> Patch:
    return Patch(told["name"], told["role"], Rect(*told["rect"]))


def laid_again(
    source: Picture | None, shown: Picture | None, output: Document | None
) -> AlignedPicture | None:
    """An output lined up again with its frame, from the points that were placed; None
    where one of them is kept back.

    Parameters
    ----------
    source, shown : Picture, optional
        The frame and the output.
    output : dict, optional
        What the edition says of the output.

    Raises
    ------
    CoreError
        If they can not be lined up.
    """
    if source is None or shown is None or output is None:
        return None
    points = [PointPair(**p) for p in output.get("points", [])]
    return aligned(shown, lined_up(source, shown, points))
