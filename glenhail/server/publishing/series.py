"""Bodies over ISO in an edition: who is ahead by how many stops at each spot, the
ratios that this follows from, and the raw files.
"""

from __future__ import annotations

import math
from typing import Any

from glenhail.core.articles.drawn_curves import drawn
from glenhail.core.sensor.comparison import At, Basis
from glenhail.server.sensors import pages, queries
from glenhail.server.studies.models import Study

Document = dict[str, Any]
WIDTH, HEIGHT = 560, 200
READY = "ready"
METERED = ("luminance", "t_numbers")


def series_table(study: Study) -> Document | None:
    """What was read of a study's bodies; None where that is not current."""
    kept = queries.series_of(study)
    if kept is None or kept.found is None:
        return None
    page = pages.series_page(study)
    if page["state"] != READY:
        return None
    found = page["found"]
    bodies = [_body(b, i) for i, b in enumerate(found["bodies"])]
    wanted = (Basis.MATCHED.value, At.COMMON.value)
    ahead = [a for a in found["ahead"] if (a["basis"], a["at"]) == wanted]
    spots = [
        {**spot, **_spot(i, bodies, [a for a in ahead if a["spot"] == i])}
        for i, spot in enumerate(found["spots"])
    ]
    return {
        "taken": kept.taken.isoformat(timespec="seconds"),
        "basis": wanted[0],
        "at": wanted[1],
        "bodies": bodies,
        "several": len(bodies) > 2,
        "ahead": ahead,
        "spots": spots,
        "notes": found["notes"],
        "metered": _metered(page),
        "speeds": [_speed(s) for s in page["speeds"]],
        "files": _files(study),
    }


def out_of_date(study: Study) -> bool:
    """Whether there is a series that says nothing of the study as it is now."""
    return queries.series_of(study) is not None and pages.series_page(study)["state"] != READY


def _body(body: Document, at: int) -> Document:
    counts = {lift["iso"]: lift["effective_iso"] for lift in body["lifts"]}
    facts = body["facts"]
    return {
        "letter": body["letter"],
        "name": body["name"],
        "pixels": body["pixels"],
        "gain": body["common"]["measured"][0],
        "said": body["said"],
        "read_noise": [
            {"iso": f["iso"], "electrons": f["read_noise"], "top": f["top"]} for f in facts["isos"]
        ],
        "spots": [
            {
                "left_out": spot["left_out"],
                "readings": [
                    {
                        "iso": r["iso"],
                        "counts_as": counts.get(r["iso"]) if at else r["iso"],
                        "snr": r["snr"],
                        "light": r["light"],
                        "exposures": r["exposures"],
                        "files": r["files"],
                    }
                    for r in spot["readings"]
                    if not at or r["iso"] in counts
                ],
            }
            for spot in body["spots"]
        ],
    }


def _spot(number: int, bodies: list[Document], ahead: list[Document]) -> Document:
    """What the page draws of a spot, and its table."""
    curves = [
        [(r["counts_as"], _db(b["gain"] * r["snr"][0])) for r in b["spots"][number]["readings"]]
        for b in bodies
    ]
    sheet = drawn(curves, WIDTH, HEIGHT)
    chart = sheet and {
        "width": WIDTH,
        "height": HEIGHT,
        "across": [{"at": at, "text": text} for at, text in sheet.across],
        "up": [{"at": at, "text": text} for at, text in sheet.up],
        "curves": [
            {"letter": b["letter"], "points": c.points, "x": c.end[0], "y": c.end[1]}
            for b, c in zip(bodies, sheet.curves, strict=True)
            if c.points
        ],
    }
    said = [
        {"pair": f"{bodies[a['one']]['name']} over {bodies[a['other']]['name']}", **a}
        for a in ahead
    ]
    return {"chart": chart, "rows": [_row(s) for s in said for s in _stops(s)], "said": said}


def _stops(said: Document) -> list[Document]:
    return [{"pair": said["pair"], **stop} for stop in said["stops"]]


def _row(stop: Document) -> Document:
    value, low, high = stop["stops"]
    return {
        "pair": stop["pair"],
        "iso": f"{stop['iso']:,.0f}",
        "stops": _signed(value),
        "bounds": f"{_signed(low)} to {_signed(high)}",
        "alike": f"{stop['alike']:,.0f}",
    }


def _signed(value: float) -> str:
    return f"{value:+.2f}".replace("-", "−")


def _db(ratio: float) -> float:
    return 20 * math.log10(max(ratio, 1e-6))


def _metered(page: Document) -> Document | None:
    """A spot's luminance by the spot's place in the list."""
    told = page["metered"]
    places = [s["patch"] for s in page["found"]["spots"]]
    if told is None or told["patch"] not in places:
        return None
    return {"spot": places.index(told["patch"]), **{k: told[k] for k in METERED}}


def _speed(of: Document) -> Document:
    """With what the page prints of it."""
    rows = [
        {
            **row,
            "print": f"{row['iso']:,.0f}",
            "printed": "" if row["speed"] is None else f"{row['speed'][0]:,.0f}",
            "apart": "" if row["above"] is None else _signed(row["above"][0]),
        }
        for row in of["isos"]
    ]
    return {**of, "isos": rows}


def _files(study: Study) -> list[Document]:
    """The raw files by name and hash, so that a reader who has them can tell."""
    frames = queries.raw_frames_of(study)
    return [{"name": f.file_name, "sha256": f.picture.file_id} for f in frames]
