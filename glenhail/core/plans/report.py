"""What a plan came to, as a table of readings and a page that needs nothing beside it."""

from __future__ import annotations

import base64
import csv
import io
from collections import defaultdict
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from urllib.parse import quote
from xml.etree import ElementTree as Tree

import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.errors import CoreError
from glenhail.core.files.apart import read_picture
from glenhail.core.files.encoding import png_bytes
from glenhail.core.lineup.aligned import aligned, lined_up
from glenhail.core.measures.catalogue import HEADLINES, MEASURES
from glenhail.core.picture import Picture, Rect
from glenhail.core.plans.plan import Plan, PlannedFrame
from glenhail.core.plans.seen import SeenFile, write_seen
from glenhail.core.plans.study import TRUTH, UNPROCESSED, Carried, Found, Taken

COLUMNS = (
    "frame",
    "patch",
    "role",
    "letter",
    "contender",
    "measure",
    "value",
    "low",
    "high",
    "unit",
    "version",
    "grid",
    "reason",
)
WHOLE = "whole frame"
STYLE = (
    "body { font: 15px/1.45 sans-serif; margin: 24px auto; max-width: 1020px; color: #1a1c1c }"
    " table { border-collapse: collapse; width: 100%; font-size: 13px }"
    " th, td { text-align: right; padding: 3px 8px 3px 0; border-bottom: 1px solid #ddd }"
    " th:first-child { text-align: left } .soft { color: #5c6161 }"
    " .crops { display: flex; flex-wrap: wrap; gap: 8px; background: #777; padding: 8px }"
    " .crops figure { margin: 0 } figcaption { color: #fff; font-size: 12px }"
    " img { image-rendering: pixelated; max-width: 240px }"
)


def titles(plan: Plan) -> dict[str, str]:
    """What each letter stands for.

    Parameters
    ----------
    plan : Plan
        The plan.
    """
    own = {c.letter: c.treatment.words for c in plan.contenders}
    return {TRUTH: "Truth", UNPROCESSED: "Unprocessed", **own}


def readings_csv(plan: Plan, readings: list[Taken]) -> str:
    """One line a reading (RFC 4180), numbers unrounded.

    Parameters
    ----------
    plan : Plan
        The plan.
    readings : list of Taken
        What was taken.
    """
    out = io.StringIO(newline="")
    rows = csv.writer(out, lineterminator="\r\n")
    rows.writerow(COLUMNS)
    named = titles(plan)
    for taken in readings:
        frame, r = plan.frames[taken.frame], taken.reading
        patch = None if taken.patch is None else frame.patches[taken.patch]
        place = [frame.name, patch.name if patch else WHOLE, patch.role if patch else ""]
        what = [*place, taken.letter, named[taken.letter], r.measure]
        rows.writerow(
            [*what, r.value, r.low, r.high, r.unit, r.version, r.grid or "", r.reason or ""]
        )
    return out.getvalue()


def page(plan: Plan, found: Found, carried: Carried, seen: Sequence[SeenFile] = ()) -> str:
    """A page with the crops of every patch and the main measures' readings.

    Parameters
    ----------
    plan : Plan
        The plan.
    found : Found
        Its pictures.
    carried : Carried
        What it came to.
    seen : sequence of SeenFile
        Its outputs in uses, which lie beside it.
    """
    html = Tree.Element("html", lang="en")
    head = Tree.SubElement(html, "head")
    Tree.SubElement(head, "meta", charset="utf-8")
    Tree.SubElement(head, "title").text = plan.question
    Tree.SubElement(head, "style").text = STYLE
    body = Tree.SubElement(html, "body")
    Tree.SubElement(body, "h1").text = plan.question
    names = Tree.SubElement(body, "ul")
    for letter, words in titles(plan).items():
        Tree.SubElement(names, "li").text = f"{letter}: {words}"
    for name in found.missing:
        Tree.SubElement(body, "p").text = f"Not found: {name}."
    by_place: dict[tuple[int, int | None], list[Taken]] = defaultdict(list)
    for taken in carried.readings:
        by_place[taken.frame, taken.patch].append(taken)
    for at, frame in enumerate(plan.frames):
        if frame.pixels not in found.paths:
            continue
        Tree.SubElement(body, "h2").text = frame.name
        for (number, letter), why in carried.absent.items():
            if number == at:
                Tree.SubElement(body, "p").text = f"{letter}: no output. {why}"
        shown = dict(pictures_of(plan, at, found, carried))
        for number, patch in enumerate(frame.patches):
            Tree.SubElement(body, "h3").text = f"{patch.name} ({patch.role})"
            _crops(body, shown, frame, patch.rect, patch.name)
            _table(body, by_place[at, number])
        Tree.SubElement(body, "h3").text = "Whole frame"
        _table(body, by_place[at, None])
    if seen:
        _seen(body, seen)
    return "<!doctype html>\n" + Tree.tostring(html, encoding="unicode", method="html")


def pictures_of(
    plan: Plan, at: int, found: Found, carried: Carried
) -> Iterator[tuple[str, Picture]]:
    """The letters and pictures of a frame, truth and unprocessed first.

    Parameters
    ----------
    plan : Plan
        The plan.
    at : int
        The frame's place in it; one that was not found has none.
    found : Found
        Its pictures.
    carried : Carried
        What it came to.
    """
    frame = plan.frames[at]
    if frame.pixels not in found.paths:
        return
    paths = [(UNPROCESSED, found.paths[frame.pixels])]
    if frame.truth in found.paths:
        paths.insert(0, (TRUTH, found.paths[frame.truth]))
    paths += [(letter, path) for (number, letter), path in carried.outputs.items() if number == at]
    for letter, path in paths:
        yield letter, read_picture(path)


def _crops(
    body: Tree.Element, shown: dict[str, Picture], frame: PlannedFrame, rect: Rect, name: str
) -> None:
    row = Tree.SubElement(body, "div", {"class": "crops"})
    source = shown[UNPROCESSED]
    for letter, picture in shown.items():
        points = frame.points.get(letter, ())
        try:
            place = aligned(picture, lined_up(source, picture, points)).mapping.rect(rect)
        except CoreError:
            continue
        part = place.outer().clipped(Rect(0, 0, picture.width, picture.height))
        x, y, w, h = (round(v) for v in (part.x, part.y, part.w, part.h))
        codes = srgb.to_display(picture.pixels[y : y + h, x : x + w])
        figure = Tree.SubElement(row, "figure")
        data = base64.b64encode(png_bytes(np.ascontiguousarray(codes), level=6)).decode()
        Tree.SubElement(
            figure, "img", src=f"data:image/png;base64,{data}", alt=f"{name} of {letter}"
        )
        Tree.SubElement(figure, "figcaption").text = letter


def _table(body: Tree.Element, readings: list[Taken]) -> None:
    """The main measures that have a number, a column for each letter."""
    letters = list(dict.fromkeys(t.letter for t in readings))
    cells = {(t.reading.measure, t.letter): t.reading for t in readings}
    table = Tree.SubElement(body, "table")
    head = Tree.SubElement(Tree.SubElement(table, "thead"), "tr")
    for text in ("Measure", *letters):
        Tree.SubElement(head, "th").text = text
    rows = Tree.SubElement(table, "tbody")
    for measure in (m for m in MEASURES.values() if m.id in HEADLINES):
        told = [cells.get((measure.id, letter)) for letter in letters]
        if not any(r is not None and r.value is not None for r in told):
            continue
        row = Tree.SubElement(rows, "tr")
        Tree.SubElement(row, "th").text = f"{measure.name} {measure.unit}".strip()
        for r in told:
            text = "\N{EN DASH}"
            if r is not None and r.value is not None and r.low is not None and r.high is not None:
                half = max(r.high - r.value, r.value - r.low)
                text = f"{r.value:.{measure.digits}f} ±{half:.{measure.digits}f}"
            Tree.SubElement(row, "td").text = text


def _seen(body: Tree.Element, seen: Sequence[SeenFile]) -> None:
    """What each output is in each use: its size, what it takes, and its file."""
    Tree.SubElement(body, "h2").text = "As seen in use"
    table = Tree.SubElement(body, "table")
    head = Tree.SubElement(Tree.SubElement(table, "thead"), "tr")
    for text in ("Output", "Use", "Size", "Bytes"):
        Tree.SubElement(head, "th").text = text
    rows = Tree.SubElement(table, "tbody")
    for told in seen:
        row = Tree.SubElement(rows, "tr")
        Tree.SubElement(row, "th").text = f"{told.letter} of {told.frame}"
        cell = Tree.SubElement(row, "td")
        if told.file:
            Tree.SubElement(cell, "a", href=quote(told.file)).text = told.use
        else:
            cell.text = told.use
        size = f"{told.width} × {told.height} px" if told.file else told.reason
        Tree.SubElement(row, "td").text = size
        Tree.SubElement(row, "td").text = f"{told.size_bytes:,}" if told.size_bytes else ""


def write_results(
    plan: Plan, found: Found, carried: Carried, out: Path, tell: Callable[[str], None]
) -> None:
    """Write ``readings.csv`` and ``index.html`` into a folder, and the outputs as they
    are seen in the plan's uses.

    Parameters
    ----------
    plan : Plan
        The plan.
    found : Found
        Its pictures.
    carried : Carried
        What it came to.
    out : Path
        The folder.
    tell : callable
        Is told in words what goes on.
    """
    seen = write_seen(plan, lambda at: pictures_of(plan, at, found, carried), out, tell)
    (out / "readings.csv").write_text(readings_csv(plan, carried.readings), "utf-8", newline="")
    (out / "index.html").write_text(page(plan, found, carried, seen), "utf-8")
