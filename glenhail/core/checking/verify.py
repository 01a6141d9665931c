"""An edition held against its own files: hashes, readings, crops and page."""

from __future__ import annotations

import csv
import io
from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import cache
from typing import Any

from glenhail.core.checking.bundle import SUMS, Bundle
from glenhail.core.checking.checks import DIFFERS, UNCHECKED, Check, check
from glenhail.core.checking.crops import crops_again
from glenhail.core.checking.inquiries import inquiries_again
from glenhail.core.checking.judged import sittings_again
from glenhail.core.checking.page import page_again
from glenhail.core.checking.readings import laid_again, readings_again
from glenhail.core.checking.series import series_again, speeds_again
from glenhail.core.checking.worth import worth_again
from glenhail.core.errors import BadFile, BadRequest, CoreError
from glenhail.core.files.apart import read_picture
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.picture import Picture
from glenhail.core.plans.edition import plan_of_edition, reference_of
from glenhail.core.plans.plan import Plan, plan_of

Document = dict[str, Any]
ENDS = ("value", "low", "high")


def verify(bundle: Bundle) -> Iterator[Check]:
    """Everything that an edition's files can say about what it prints, as it is found.

    Parameters
    ----------
    bundle : Bundle
        The edition's download.
    """
    yield from _hashes(bundle)
    document = bundle.document
    yield from page_again(document, bundle.read("report/index.html").decode("utf-8", "replace"))
    yield from sittings_again(document)
    yield from series_again(document)
    yield from speeds_again(document)
    yield from inquiries_again(document)
    yield from worth_again(document)
    yield from _plan(bundle)
    yield from _csv(document, bundle.read("report/readings.csv").decode("utf-8", "replace"))
    for at in range(len(document["frames"])):
        pictures: dict[str, Picture | None] = {}

        def picture(
            output: Document, pictures: dict[str, Picture | None] = pictures
        ) -> Picture | None:
            name = output.get("file") or ""
            if name not in pictures:
                pictures[name] = _picture(bundle, name)
            return pictures[name]

        laid = _laid_by(document, at, picture)
        yield from crops_again(document, at, picture, laid, bundle.read)
        yield from readings_again(document, at, picture, laid)


def _laid_by(
    document: Document, at: int, picture: Callable[[Document], Picture | None]
) -> Callable[[str], AlignedPicture | None]:
    """How an output of a frame is had, lined up; found once for each, or told each time
    why it can not be.
    """
    outputs = {o["letter"]: o for o in document["frames"][at]["outputs"]}
    reference = reference_of(document)

    @cache
    def found(letter: str) -> AlignedPicture | CoreError | None:
        frame, output = outputs.get(reference), outputs.get(letter)
        if frame is None or output is None:
            return None
        try:
            return laid_again(picture(frame), picture(output), output)
        except CoreError as why:
            return why

    def laid(letter: str) -> AlignedPicture | None:
        told = found(letter)
        if isinstance(told, CoreError):
            raise told
        return told

    return laid


def _hashes(bundle: Bundle) -> Iterator[Check]:
    for name in bundle.names:
        if name == SUMS:
            continue
        told = bundle.sums.get(name)
        why = "its hash is another" if told else f"{SUMS} does not name it"
        yield check("file", name, told == bundle.sha256(name), why)
    for name in sorted(set(bundle.sums) - set(bundle.names)):
        yield Check("file", name, DIFFERS, "it is not there")
    listed, there = (
        [[e["name"], e.get("size")] for e in entries]
        for entries in (bundle.document.get("originals", ()), bundle.originals.values())
    )
    yield check("file", "the list of originals", listed == there, "the page has another")
    for name, entry in sorted(bundle.originals.items()):
        if "withheld" in entry:
            yield Check("file", name, UNCHECKED, entry["withheld"])
        else:
            summed = bundle.sums.get(f"originals/{name}")
            yield check(
                "file", f"{name} of the list", summed == entry["sha256"], "its hash differs"
            )


def _plan(bundle: Bundle) -> Iterator[Check]:
    """The plan is the one of this edition."""
    name = "report/plan.toml"
    try:
        plan = plan_of(bundle.read(name).decode("utf-8", "replace"), name)
        told = plan_of_edition(bundle.document, list(bundle.originals.values()))
        same = plan in (told, _without_points(told))
    except (KeyError, BadFile, BadRequest):
        same = False
    yield check("plan", name, same, "it is another than the edition's")


def _without_points(plan: Plan) -> Plan:
    """As plans were before they had points and uses; editions stay as they are."""
    return replace(plan, uses=(), frames=tuple(replace(f, points={}) for f in plan.frames))


def _picture(bundle: Bundle, name: str) -> Picture | None:
    """An output's picture; None where its original is kept back or can not be read."""
    entry = bundle.originals.get(name)
    if entry is None or "withheld" in entry or f"originals/{name}" not in bundle.names:
        return None
    try:
        return read_picture(bundle.kept(f"originals/{name}"), name)
    except BadFile:
        return None


def _csv(document: Document, text: str) -> Iterator[Check]:
    """The table of readings says the same as the data."""
    # Frames, and patches of a frame, may have one name.
    rows: dict[tuple[str, ...], list[tuple[str, ...]]] = defaultdict(list)
    for r in csv.DictReader(io.StringIO(text)):
        # Whoever changes a table may take a column out as well.
        if r.get("basis") == "as made":
            place = tuple(str(r.get(k)) for k in ("frame", "patch", "letter", "measure"))
            rows[place].append(tuple(str(r.get(k)) for k in ENDS))
    letters = [c["letter"] for c in document["contenders"]]
    places = [(f["name"], "whole frame", f) for f in document["frames"]]
    places += [(p["frame"], p["name"], p) for p in document["patches"]]
    for frame, patch, told in places:
        for row in told["table"]:
            for letter, cell in zip(letters, row["cells"], strict=False):
                if "value" not in cell:
                    continue
                found = rows[frame, patch, letter, row["id"]]
                what = f"{row['measure']} of {letter}, {patch}, {frame}"
                why = f"it has {'; '.join(map(' to '.join, found)) or 'none'}"
                wanted = tuple(str(cell[k]) for k in ENDS)
                yield check("table of readings", what, wanted in found, why)
