"""A report as its next edition would look now: the same document and page, with crops
that are drawn when they are asked for.
"""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

from django.template.loader import render_to_string

from glenhail.core.articles.looking import all_figures, for_looking
from glenhail.core.looking.light import ALL
from glenhail.core.looking.shown import showing_of
from glenhail.server.publishing.document import Document, compile_document
from glenhail.server.publishing.laid import laid_crop
from glenhail.server.publishing.queries import editions_of, report_of
from glenhail.server.publishing.remarks import lay_remark
from glenhail.server.studies.models import Study
from glenhail.server.viewing.shots import Shot, shots_of_all

# How a crop is drawn is told by these, where they are not as usual.
ASKED = {"lift": 0, "against": "", "kind": "", "gain": 1, "plane": ALL, "seen": "", "across": 0}


def preview_page(study: Study, style: str) -> str:
    """The page of a study's next edition, as its report stands, in a style of its own."""
    report = report_of(study)
    number = 1 + max((e.number for e in editions_of(report)), default=0)
    document = compile_document(report, number, "")
    figures = all_figures(document)
    for figure, shots in zip(figures, shots_of_all(figures), strict=True):
        figure["crops"] = _crops(figure, shots)
    for remark in document["remarks"]:
        remark["crops"] = [
            {**spot.entry, "file": _address(spot.output.pk, spot.entry["place"], {})}
            for spot in lay_remark(remark)
        ]
    document |= {"originals": [], "about_bytes": 0}
    told = {
        "d": document,
        "closer": for_looking(document),
        "linked": "{}",
        "preview": True,
        "style": style,
    }
    return render_to_string("publishing/edition.html", told)


def _crops(figure: Document, shots: list[Shot]) -> list[Document]:
    """A figure's crops, each with the addresses that draw it; what is seen in a use is
    asked for, that it may be there by then.
    """
    showing = showing_of(figure.get("showing", {}))
    made = []
    for shot in shots:
        shot.ask()
        told = {**showing.as_json(), "seen": shot.seen}
        entry = laid_crop(shot, figure, "preview").entry
        place, around, small = (entry[k] for k in ("place", "around_place", "small_size"))
        smaller = _address(shot.output, place, {**told, "across": small[0]}) if small else ""
        size = entry.get("file_size")
        entry["file"] = _address(shot.output, place, {**told, "across": size[0] if size else 0})
        entry["around"] = _address(shot.output, around, told) if entry["around"] else ""
        made.append({**entry, "small": smaller})
    return made


def _address(output: int, place: list[int], showing: dict[str, Any]) -> str:
    part = "_".join(str(v) for v in place)
    asked = urlencode({k: v for k, v in showing.items() if k in ASKED and v != ASKED[k]})
    return f"/api/outputs/{output}/shown/{part}.png" + (f"?{asked}" if asked else "")
