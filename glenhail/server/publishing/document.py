"""A study as one plain document: all that an edition's page, data file and crops are
made from.
"""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.utils import timezone

from glenhail.core.articles.corrections import corrections_table
from glenhail.core.articles.figures import magnification
from glenhail.core.measures.catalogue import MEASURES, OWN
from glenhail.core.measures.thresholds import THRESHOLDS
from glenhail.core.prints import USUAL, print_size, size_said
from glenhail.server.material.models import Frame
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring.models import AS_MADE, MATCHED, LineUp
from glenhail.server.measuring.subjects import second_of_burst
from glenhail.server.outputs import queries as outputs_queries
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.blocks import complete, laid_out
from glenhail.server.publishing.changed import changes_since
from glenhail.server.publishing.colours import colour_of
from glenhail.server.publishing.corrections import wrongs_of
from glenhail.server.publishing.costs import costs_table, tools_table
from glenhail.server.publishing.fairness import fairness_table
from glenhail.server.publishing.findings import findings_table
from glenhail.server.publishing.inquiries import inquiries_table
from glenhail.server.publishing.models import Report
from glenhail.server.publishing.originals import original_names
from glenhail.server.publishing.own_figures import figures_of
from glenhail.server.publishing.own_tables import placed_tables
from glenhail.server.publishing.queries import address_of, editions_of
from glenhail.server.publishing.readings import (
    Values,
    absences,
    shown_contenders,
    table_of,
    values_of,
)
from glenhail.server.publishing.remarks import remarks_table
from glenhail.server.publishing.said import put_values
from glenhail.server.publishing.sections import arrange
from glenhail.server.publishing.series import series_table
from glenhail.server.publishing.sittings import sittings_table
from glenhail.server.publishing.succession import succession_table
from glenhail.server.publishing.verdicts import verdicts_table
from glenhail.server.publishing.worth import worth_table
from glenhail.server.studies import queries
from glenhail.server.studies.models import Contender, Patch
from glenhail.server.tools.models import Step

FORMAT = "glenhail edition 2"

Document = dict[str, Any]


def compile_document(report: Report, number: int, note: str) -> Document:
    """Everything an edition says, as of now."""
    study = report.study
    rows = outputs_queries.outputs(study)
    lineups = measuring_queries.lineups(rows)
    shown = [o for o in rows if measuring_queries.output_state(o, lineups.get(o.pk))[0] == "ready"]
    frames = [sf.frame for sf in queries.study_frames(study)]
    sets = measuring_queries.ranked_readings(study)
    values, matched = (
        values_of([r for r in sets if r.reading.basis == basis]) for basis in (AS_MADE, MATCHED)
    )
    contenders = shown_contenders(study, frames)
    columns = [_column(c) for c in contenders]
    names = original_names(study.pk)
    places = {f.pk: at for at, f in enumerate(frames)}
    rows_of_patches = list(study.patches.all())
    patches = [
        _patch(p, shown, lineups, values, columns, places)
        | _beside(matched, (p.frame_id, p.pk), columns)
        for p in rows_of_patches
    ]
    letters = [c["letter"] for c in columns]
    figures, blocks = figures_of(complete(report.blocks), shown, letters, places, rows_of_patches)
    document = {
        "format": FORMAT,
        "question": study.question,
        "factor": study.factor,
        "bench": study.bench.name,
        "slug": report.slug,
        "address": address_of(report, number),
        "errata": settings.ERRATA_ADDRESS,
        "number": number,
        "note": note,
        "published": timezone.now().isoformat(timespec="seconds"),
        "summary": report.summary,
        "method": report.method,
        "disclosure": report.disclosure,
        "findings": findings_table(study, contenders),
        "fairness": fairness_table(
            study, {c.pk: c for c in contenders}, {f.pk: f.name for f in frames}
        ),
        "tools": tools_table(study),
        "costs": costs_table(study),
        "worth": worth_table(study, contenders),
        "remarks": remarks_table(study, places),
        "sittings": sittings_table(study),
        "series": series_table(study),
        "inquiries": inquiries_table(study),
        "succession": succession_table(study, contenders),
        "verdicts": verdicts_table(study),
        "earlier": [
            {
                "number": e.number,
                "note": "withdrawn" if e.withdrawn else e.note,
                "published": e.published.isoformat(),
            }
            for e in editions_of(report)
        ],
        "contenders": columns,
        "frames": [
            _frame(f, rows, lineups, values, columns, names)
            | _beside(matched, (f.pk, None), columns)
            for f in frames
        ],
        "patches": patches,
        "figures": figures,
        **arrange(study, patches, figures, blocks),
        "measures": [_measure(m) for m in MEASURES],
    }
    at = {p.pk: n for n, p in enumerate(rows_of_patches)}
    blocks = put_values(document, placed_tables(document, blocks, places, at))
    document["changes"] = changes_since(report, document)
    wrongs = wrongs_of(report, number, list(at))
    document["corrections"] = wrongs
    document["blocks"] = laid_out(document, blocks)
    document["corrections"] = corrections_table(document, wrongs)
    return document


def _beside(matched: Values, place: Any, columns: list[Document]) -> Document:
    """The second set of readings at the same place; empty where the study has none."""
    table = table_of(matched, place, columns)
    return {"matched_table": table, "matched_absences": absences(table)}


def _measure(measure_id: str) -> Document:
    m = MEASURES[measure_id]
    return {
        "id": m.id,
        "name": m.name,
        "unit": m.unit,
        "source": m.source,
        "version": m.version,
        "seen": THRESHOLDS[m.id].words(m.unit) if m.id in THRESHOLDS else "",
        "best": m.best_in_words,
    }


def _column(contender: Contender) -> Document:
    return {
        "letter": contender.letter,
        "kind": contender.kind,
        "title": (
            contender.title
            if contender.treatment_id or contender.body
            else contender.title.capitalize()
        ),
        "manner": contender.manner,
        "tools": _tools(contender),
        "treatment": contender.treatment.told.as_json() if contender.treatment else None,
        "commands": [s.release.command for s in _steps(contender)],
        "colour": colour_of(contender.letter),
        "terms": contender.terms.as_json() if contender.terms.told else None,
    }


def _tools(contender: Contender) -> list[Document]:
    """The tools whose releases its treatment uses; what comes with a bench is none."""
    releases = [s.release for s in _steps(contender) if not s.release.method]
    return [{"tool": r.tool.name, "release": r.name} for r in releases]


def _steps(contender: Contender) -> list[Step]:
    return list(contender.treatment.steps.all()) if contender.treatment else []


def _frame(
    frame: Frame,
    rows: list[Output],
    lineups: dict[int, LineUp],
    values: Values,
    columns: list[Document],
    names: dict[int, str],
) -> Document:
    mine = [o for o in rows if o.frame_id == frame.pk]
    table = table_of(values, (frame.pk, None), columns)
    return {
        "name": frame.name,
        "file_name": frame.file_name,
        "truth": frame.truth_name,
        "facts": frame.picture.facts,
        "print": _print(frame.picture.facts or {}),
        "outputs": [_output(o, lineups.get(o.pk), names[o.pk]) for o in mine],
        # Another exposure of its burst, which takes part in its noise readings.
        "second": bool(mine) and second_of_burst(mine[0]) is not None,
        "scene": frame.scene.name if frame.scene else "",
        "kinds": ", ".join(frame.scene.kinds) if frame.scene else "",
        "made_by": frame.made_by,
        "terms": frame.terms.as_json(),
        "table": table,
        "absences": absences(table),
    }


def _output(output: Output, lineup: LineUp | None, name: str) -> Document:
    state, problem = measuring_queries.output_state(output, lineup)
    facts = output.picture.facts if output.picture else {}
    return {
        "letter": output.contender.letter,
        "file_name": output.file_name,
        # In the download, and what was placed by hand to line it up.
        "file": name if output.picture else "",
        "points": lineup.points if lineup else [],
        "state": state,
        "problem": problem,
        "width": facts.get("width"),
        "height": facts.get("height"),
        "print": _print(facts),
        "bits": facts.get("bits"),
        "size_bytes": facts.get("size_bytes"),
        "lineup": lineup_words(lineup) if lineup and state == "ready" else "",
    }


def _print(facts: Document) -> str:
    """How large its own pixels are on paper, at the usual resolution."""
    if not facts.get("width") or not facts.get("height"):
        return ""
    return size_said(print_size(facts["width"], facts["height"], USUAL[0]))


def lineup_words(row: LineUp) -> str:
    """A line-up in one line."""
    scale = f"{row.sx:.5g}×" if row.sx == row.sy else f"{row.sx:.5g}× by {row.sy:.5g}×"
    parts = [
        f"scale {scale}",
        f"shift {row.dx:+.2f}, {row.dy:+.2f} px",
        f"residual {row.residual:.2f} px",
    ]
    if abs(row.turn) >= 0.005:
        parts.append(f"turned {row.turn:+.2f}°")
    edges = [
        f"{n} px {side}" for side in ("left", "top", "right", "bottom") if (n := getattr(row, side))
    ]
    return ", ".join(parts + ([f"border {', '.join(edges)}"] if edges else []))


def _patch(
    patch: Patch,
    shown: list[Output],
    lineups: dict[int, LineUp],
    values: Values,
    columns: list[Document],
    frame_at: dict[int, int],
) -> Document:
    outputs = [o.pk for o in shown if o.frame_id == patch.frame_id]
    times = magnification(patch.w, patch.h, len(outputs))
    table = table_of(values, (patch.frame_id, patch.pk), columns)
    return {
        "name": patch.name,
        "role": patch.role,
        "frame": patch.frame.name,
        # Its place among the frames: two may have one name.
        "frame_at": frame_at[patch.frame_id],
        "rect": [patch.x, patch.y, patch.w, patch.h],
        "magnification": times,
        "percent": f"{100 * times:g} %",
        "box": {"width": f"{patch.w * times:.3f}px", "ratio": f"{patch.w:g} / {patch.h:g}"},
        "headline": headline(patch.role, table, columns),
        "letters": [c["letter"] for c in columns],
        "outputs": outputs,
        "crops": [],
        "table": table,
        "absences": absences(table),
    }


def headline(role: str, table: list[Document], columns: list[Document]) -> Document | None:
    """The one reading that is told under each crop: the patch type's own, else the
    first there is.
    """
    rows = sorted((r for r in table if r["cells"]), key=lambda row: row["id"] != OWN[role])
    if not rows:
        return None
    row = rows[0]
    told = {
        column["letter"]: f"{cell['text']} ±{cell['half']}"
        for cell, column in zip(row["cells"], columns, strict=True)
        if "value" in cell
    }
    return {"measure": row["measure"], "unit": row["unit"], "told": told}
