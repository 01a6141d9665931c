"""From a document to an edition's folder: crops, sheets, page, data."""

from __future__ import annotations

import json
import shutil
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from django.template.loader import render_to_string
from django.utils.safestring import mark_safe

from glenhail.core.articles.licences import why_kept_back
from glenhail.core.articles.linked import linked
from glenhail.core.articles.looking import all_figures, for_looking
from glenhail.core.articles.names import file_part, inline
from glenhail.core.files.clips import Fonts
from glenhail.core.files.contact_sheet import Exhibit, Mark, draw_marked, draw_sheet, magnified
from glenhail.core.files.encoding import png_bytes
from glenhail.core.files.posters import SIZES, Poster, draw_poster
from glenhail.core.files.privacy import KEPT_BACK
from glenhail.core.picture import Rect
from glenhail.server.common.csvs import csv_text
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.clips import clips_wanted, write_clips
from glenhail.server.publishing.document import Document
from glenhail.server.publishing.embeds import write_embed
from glenhail.server.publishing.laid import laid_crop
from glenhail.server.publishing.originals import (
    Published,
    original_names,
    published_copy,
    rendering,
)
from glenhail.server.publishing.paper import print_paper
from glenhail.server.publishing.remarks import cut_remark
from glenhail.server.publishing.sittings import HEAD
from glenhail.server.publishing.terms import terms_by_output
from glenhail.server.viewing.shots import Shot, shots_of

ASSETS = Path(__file__).parent / "assets"
TEXT_FONT = ASSETS / "atkinson-hyperlegible-next-latin-wght-normal.woff2"
MONO_FONT = ASSETS / "spline-sans-mono-latin-wght-normal.woff2"
FONTS = Fonts(TEXT_FONT, MONO_FONT)
SCHEMA = "edition.schema.json"


def print_edition(
    document: Document, folder: Path, csv: str, sha256: str, tell: Callable[[float, str], None]
) -> None:
    """Write every file of an edition into an empty folder; `document` gains its crops,
    and its PDF is known by the hash of what was asked to be printed.
    """
    for part in ("crops", "small", "around", "posters", "embeds"):
        (folder / part).mkdir(parents=True)
    figures = all_figures(document)
    for done, figure in enumerate(figures):
        share = 0.05 + 0.75 * done / max(1, len(figures))
        tell(share, f"cutting {figure['name']}")
        _cut(figure, done, document, folder, partial(tell, share))
    for remark in document["remarks"]:
        tell(0.85, f"cutting remark {remark['number']}")
        cut_remark(remark, folder)
    for asset in ASSETS.iterdir():
        shutil.copy(asset, folder / asset.name)
    (folder / "readings.csv").write_text(csv, "utf-8")
    for sitting in document["sittings"]:
        (folder / sitting["file"]).write_text(csv_text(HEAD, sitting["answers"]), "utf-8")
    tell(0.91, "setting the PDF")
    print_paper(document, folder, sha256)
    # What the page tells of its own size can only be known once it is there, but for the digits.
    document["about_bytes"] = 0
    texts = sum(len(text.encode()) for text in _texts(document).values())
    originals = sum(entry.get("size", 0) for entry in document["originals"])
    printed = sum(p.stat().st_size for p in folder.rglob("*") if p.is_file())
    document["about_bytes"] = printed + texts + originals
    for name, text in _texts(document).items():
        (folder / name).write_text(text, "utf-8")


def _texts(document: Document) -> dict[str, str]:
    """The document as data and as a page, by the name of its file."""
    shown = {"d": document, "closer": for_looking(document), "linked": _linked(document)}
    data = {"$schema": SCHEMA, **document}
    return {
        "edition.json": json.dumps(data, indent=1, ensure_ascii=False),
        "index.html": render_to_string("publishing/edition.html", shown),
    }


def _linked(document: Document) -> str:
    """Linked data as it stands within a page: nothing in it can end its element."""
    text = json.dumps(linked(document, document["address"]), ensure_ascii=False)
    escaped = {ord(c): f"\\u{ord(c):04X}" for c in "<>&"}
    return mark_safe(text.translate(escaped))  # noqa: S308


def _cut(
    patch: Document, index: int, document: Document, folder: Path, tell: Callable[[str], None]
) -> None:
    """Cut a figure's crops, in the order of its outputs, and draw its sheet."""
    stem = f"{index + 1:02d}-{file_part(patch['frame'])}-{file_part(patch['name'])}"
    columns = {c["letter"]: c for c in document["contenders"]}
    shots = shots_of(patch)

    def cut(shot: Shot) -> tuple[Document, Exhibit]:
        return _crop(shot, patch, columns[shot.letter], stem, folder)

    with ThreadPoolExecutor(max_workers=2) as pool:
        made = list(pool.map(cut, shots))
    patch["crops"] = [entry for entry, _ in made]
    if made:
        whence = [document["question"], f"{document['bench']}, edition {document['number']}"]
        below = " · ".join(filter(None, [*whence, document["address"]]))
        poster = _draw(patch, [exhibit for _, exhibit in made], stem, folder, below)
        if clips_wanted(document, patch):
            patch["clips"] = write_clips(poster, stem, folder, FONTS, tell)
        patch["embed"] = write_embed(patch, stem, document, folder)


def _crop(
    shot: Shot, patch: Document, column: Document, stem: str, folder: Path
) -> tuple[Document, Exhibit]:
    """Save a shot's own pixels around a patch and tell the page how to lay them."""
    laid = laid_crop(shot, patch, stem)
    entry, part = laid.entry, laid.part
    codes = shot.codes(part)
    y, x = round(laid.inner.y - part.y), round(laid.inner.x - part.x)
    own = codes[y : y + round(laid.inner.h), x : x + round(laid.inner.w)]
    whole = Rect(0, 0, own.shape[1], own.shape[0])
    size = entry.get("file_size")
    drawn = magnified(own, whole, *size) if size else own
    (folder / entry["file"]).write_bytes(png_bytes(drawn, level=6))
    if entry["small"]:
        shrunk = magnified(own, whole, *entry["small_size"])
        (folder / entry["small"]).write_bytes(png_bytes(shrunk, level=9))
    if entry["around"]:
        (folder / entry["around"]).write_bytes(png_bytes(codes, level=2))
    target = laid.target
    box = Rect(target.x - part.x, target.y - part.y, target.w, target.h).clipped(
        Rect(0, 0, part.w, part.h)
    )
    first = _headline(patch, entry["line"])
    marked = _marks(patch)
    if marked:
        entry["marked"] = entry["file"].replace(".png", "-marked.png")
        shown = draw_marked(drawn, marked, MONO_FONT)
        (folder / entry["marked"]).write_bytes(png_bytes(shown, level=6))
    named = column["letter"], column["colour"], column["title"]
    return entry, Exhibit(codes, box, *named, first, marked)


def _marks(figure: Document) -> list[Mark]:
    """What is marked, in shares of the figure's sides."""
    _, _, width, height = figure["rect"]
    made = []
    for told in figure.get("marks", ()):
        x, y, w, h = told["rect"]
        place = Rect(x / width, y / height, w / width, h / height)
        made.append(Mark(str(told["number"]), place, told["corner"]))
    return made


def _headline(patch: Document, told: str) -> str:
    """A reading with its measure, for a picture that leaves the page."""
    if not told:
        return ""
    head = patch["headline"]
    value, _, half = told.partition(" ±")
    unit = f" {head['unit']}" if head["unit"] else ""
    return f"{head['measure']} {value}{unit} ±{half}"


def _draw(patch: Document, exhibits: list[Exhibit], stem: str, folder: Path, below: str) -> Poster:
    """A figure as one picture: all in a row, and in the sizes of videos and posts."""
    _, _, w, h = patch["rect"]
    m = patch["magnification"]
    shown = f", {patch['shown']}" if patch.get("shown") else ""
    named = f"{patch['name']}, {patch['frame']}"
    heading = f"{named}, {100 * m:g} % of the frame{shown}"
    sheet = draw_sheet(heading, exhibits, round(w * m), round(h * m), TEXT_FONT, MONO_FONT)
    patch["sheet"] = f"crops/{stem}-sheet.png"
    sheet.save(folder / patch["sheet"], compress_level=3)
    patch["posters"] = []
    head = patch["headline"]
    unit = f" in {head['unit']}" if head and head["unit"] else ""
    beneath = f"; below each, {inline(head['measure'])}{unit}" if head else ""
    told = [replace(e, line=c["line"]) for e, c in zip(exhibits, patch["crops"], strict=True)]
    marked = ", ".join(f"{m['number']} {m['name']}" for m in patch.get("marks", ()))
    listed = f"; marked: {marked}" if marked else ""
    # A frame as a whole is shrunk to what there is room for; crops stand in whole pixels.
    steps = {"steps": ()} if marked else {}
    poster = Poster(f"{named}{shown}{listed}{beneath}", below, told, w, h, **steps)
    for width, height in SIZES:
        name = f"posters/{stem}-{width}x{height}.png"
        drawn = draw_poster(poster, (width, height), TEXT_FONT, MONO_FONT)
        (folder / name).write_bytes(png_bytes(np.asarray(drawn), level=4))
        patch["posters"].append({"file": name, "width": width, "height": height})
    return poster


def manifest_of(study_id: int) -> list[dict[str, Any]]:
    """Every original an edition offers: its name in the download, or why it is kept
    back.

    Three hashes are told of each: ``original`` of the file as it came, ``sha256`` of
    what readers get, and ``pixels`` of what both decode to.
    """
    entries: dict[str, dict[str, Any]] = {}
    copies: dict[int, Published | None] = {}
    rows = Output.objects.filter(
        contender__study_id=study_id, picture__isnull=False
    ).select_related("contender", "picture__file", "frame__picture")
    terms = terms_by_output(list(rows))
    names = original_names(study_id)
    for output in rows.order_by("frame_id", "contender__order"):
        assert output.picture is not None
        frame_terms, own = terms[output.pk]
        if why := why_kept_back(frame_terms, own):
            entries[names[output.pk]] = {
                "name": names[output.pk],
                "withheld": why,
                "original": output.picture.file_id,
            }
            continue
        if output.picture.pk not in copies:
            copies[output.picture.pk] = published_copy(output.picture)
        copy = copies[output.picture.pk]
        name = names[output.pk]
        hashes = {"original": output.picture.file_id}
        if copy is None:
            entries[name] = {"name": name, "withheld": KEPT_BACK, **hashes}
            file, instead = (
                rendering(output.picture),
                f"{name.rpartition('.')[0] or name}-16bit.tif",
            )
            entries[instead] = {
                "name": instead,
                "sha256": file.pk,
                "size": file.size,
                "rendering_of": name,
                **hashes,
            }
        else:
            entries[name] = {
                "name": name,
                "sha256": copy.file.pk,
                "size": copy.file.size,
                **hashes,
                "pixels": copy.pixels,
            }
    return list(entries.values())
