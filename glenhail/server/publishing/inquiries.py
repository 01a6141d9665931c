"""What was asked of the whole study, in an edition: those answers that are of the study
as it is now, with the numbers that their words follow from.
"""

from __future__ import annotations

from typing import Any

from glenhail.core.level.way import Way
from glenhail.core.level.ways import MEANS, asked
from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.inquiries.models import About
from glenhail.server.inquiries.pages import answers_page
from glenhail.server.inquiries.queries import inquiries_of
from glenhail.server.studies.models import Study

Document = dict[str, Any]
TITLES = {
    About.VISIBILITY: "Would anybody see it?",
    About.STRENGTH: "Strength",
    About.LEVEL: "Could a slider do it?",
    About.ORDER: "Order of steps",
    About.RELEASES: "Release against release",
}
SEEN = {"seen at once": "at once", "seen when pointed at": "pointed at", "seen by nobody": "nobody"}
UNTOLD = "–"


def inquiries_table(study: Study) -> list[Document]:
    """All current answers, each with what its page prints."""
    current = {(a["about"], a["subject"]) for a in answers_page(study) if a["current"]}
    rows = [r for r in inquiries_of(study) if (r.about, r.subject) in current]
    rows.sort(key=lambda r: (list(About).index(About(r.about)), r.pk))
    return [
        {
            "about": r.about,
            "title": _title(About(r.about), r.found or {}),
            "taken": r.taken.isoformat(timespec="seconds"),
            "said": (r.found or {})["said"],
            **_LAID[About(r.about)](r.found or {}),
        }
        for r in rows
    ]


def _title(about: About, found: Document) -> str:
    """The question, with what it was asked of where an edition has several of its kind."""
    if about == About.LEVEL:
        return asked(Way(found["way"]), (found["one"], found["other"]))
    return TITLES[about]


def old_inquiries(study: Study) -> tuple[str, ...]:
    """Titles of answers that are of before something changed."""
    return tuple(TITLES[About(a["about"])] for a in answers_page(study) if not a["current"])


def _visibility(found: Document) -> Document:
    names = {f["id"]: f["name"] for f in found["frames"]}
    kept = ("letter", "use", "seen", "share", "strong", "at", "most", "flip", "same")
    cells = [
        {**{k: c[k] for k in kept}, "frame": names[c["frame"]]}
        for c in found["cells"]
        if not c["problem"]
    ]
    by = {(c["letter"], c["use"]): c for c in found["matrix"]}
    letters = list(dict.fromkeys(c["letter"] for c in found["cells"]))
    rows = [
        [use["short"], *(_seen(by.get((letter, use["id"]))) for letter in letters)]
        for use in found["uses"]
    ]
    table = {"head": [f"Seen against {found['against']}", *letters], "rows": rows}
    told = {"against": found["against"], "matched": found["matched"], "uses": found["uses"]}
    return {"numbers": {**told, "cells": cells}, "tables": [{"name": "", **table}]}


def _seen(cell: Document | None) -> str:
    if cell is None:
        return UNTOLD
    return f"{SEEN[cell['seen']]}, {100 * cell['share']:.0f} %"


def _strength(found: Document) -> Document:
    head = ["Setting", "Of the way", "Even", "Plain areas done", "Untouched", "Noise left"]
    tables = [
        {"name": f"{s['title']}, {s['name']}", "head": head, "rows": _steps(s)}
        for s in found["series"]
    ]
    return {"numbers": {"use": found["use"], "series": found["series"]}, "tables": tables}


def _steps(series: Document) -> list[list[str]]:
    noise = {n["setting"]: n["noise"]["value"] for n in series["noise"]}
    return [
        [
            f"{step['setting']:g} {series['unit']}".strip(),
            _percent(step["share"]["value"]),
            "yes" if step["even"] else "no",
            _percent(step["cleaned"]),
            _percent(step["untouched"]),
            _percent(noise.get(step["setting"])),
        ]
        for step in series["steps"]
    ]


def _level(found: Document) -> Document:
    made = f"{found['one']}, {MEANS[Way(found['way'])].done} {found['other']}"
    head = ["Measured at", found["one"], made, found["other"]]
    tables = [
        {"name": cell["name"], "head": head, "rows": [_reading(r) for r in cell["readings"]]}
        for cell in found["cells"]
        if cell["readings"]
    ]
    kept = ("name", "frequency", "ratio", "fitted", "method", "values", "numbers", "readings")
    cells = [{k: cell[k] for k in kept} for cell in found["cells"] if not cell["problem"]]
    told = {**{k: found[k] for k in ("one", "other", "way")}, "cells": cells}
    return {"numbers": told, "tables": tables}


def _reading(row: Document) -> list[str]:
    where = ", ".join(w for w in (row["patch"], row["unit"]) if w)
    what = f"{MEASURES[row['measure']].name}: {where}"
    values = (row[k] for k in ("before", "made", "other"))
    return [what, *(UNTOLD if v is None else f"{v:.3g}" for v in values)]


def _order(found: Document) -> Document:
    tables = [
        {
            "name": f"{pair['one']} against {pair['other']}",
            "head": ["Measured at", pair["one"], pair["other"], f"{pair['one']} is"],
            "rows": [_place(place) for place in pair["places"]],
        }
        for pair in found["pairs"]
        if pair["places"]
    ]
    return {"numbers": {k: found[k] for k in ("groups", "pairs")}, "tables": tables}


def _place(place: Document) -> list[str]:
    what = f"{place['title']}: {place['place']}, {place['frame']}"
    return [what, f"{place['one']:.3g}", f"{place['other']:.3g}", place["answer"]]


def _releases(found: Document) -> Document:
    kept = ("name", "same", "changed", "rms", "most", "moved", "sizes")
    cells = [{k: c[k] for k in kept} for c in found["cells"] if not c["problem"]]
    pictures = {
        "name": "Pictures, most changed first",
        "head": ["Frame", "Pixels that differ", "Levels of 255, rms", "At the place with most"],
        "rows": [_change(cell) for cell in cells],
    }
    measures = {
        "name": "Measures",
        "head": ["Measured", "Visibly better", "Visibly worse", "Other", "Not visibly", "None"],
        "rows": [_succeeded(row) for row in found["rows"]],
    }
    numbers = {k: found[k] for k in ("earlier", "later", "rows", "costs")}
    tables = [table for table in (pictures, measures) if table["rows"]]
    return {"numbers": {**numbers, "cells": cells}, "tables": tables}


def _change(cell: Document) -> list[str]:
    if cell["same"]:
        return [cell["name"], "none: the same file", "0", "0"]
    changed = _percent(cell["changed"])
    return [cell["name"], changed, f"{cell['rms']:.2f}", f"{cell['most']:.1f}"]


def _succeeded(row: Document) -> list[str]:
    named = ("; ".join(row[k]) or UNTOLD for k in ("better", "worse", "other"))
    return [row["title"], *named, str(row["unseen"]), str(row["none"])]


def _percent(share: float | None) -> str:
    return UNTOLD if share is None else f"{100 * share:.0f} %"


_LAID = {
    About.VISIBILITY: _visibility,
    About.STRENGTH: _strength,
    About.LEVEL: _level,
    About.ORDER: _order,
    About.RELEASES: _releases,
}
