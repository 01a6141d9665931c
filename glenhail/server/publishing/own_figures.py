"""Figures that an author took into the report: a part of a frame as chosen contenders
have it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from glenhail.core.articles.figures import (
    LEAST,
    TALLEST,
    TALLEST_WHOLE,
    magnification,
    marks,
    part_on_page,
)
from glenhail.core.errors import BadRequest
from glenhail.core.looking.shown import Showing, showing_of
from glenhail.core.picture import Rect
from glenhail.core.uses.seen import seen_layout
from glenhail.server.common.errors import ActionError
from glenhail.server.material.models import Frame
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.blocks import FIGURE
from glenhail.server.studies.models import Patch, Study
from glenhail.server.viewing.seen import rounded

Document = dict[str, Any]
MOST_CROPS = 12  # contenders in one figure
LONGEST_CAPTION = 300


def checked_figure(study: Study, told: Document) -> Document:
    """What a figure block is kept as.

    Raises
    ------
    ActionError
        If there is no such frame, place or contender, or it can not be shown so.
    """
    frame = _frame(study, told["frame"])
    rect = Rect(*(float(told[k]) for k in "xywh")).whole()
    if told.get("marked"):
        rect = Rect(0, 0, frame.picture.width, frame.picture.height)
    if rect.w < LEAST or rect.h < LEAST:
        raise ActionError(f"A figure shows at least {LEAST} by {LEAST} px of its frame.")
    if not rect.inside(frame.picture.width, frame.picture.height):
        raise ActionError(f"The figure reaches beyond the edge of {frame.name}.")
    letters = list(dict.fromkeys(told["letters"]))
    known = set(study.contenders.values_list("letter", flat=True))
    try:
        showing = showing_of(told)
        showing = replace(showing, centre=rounded(showing.centre))
    except BadRequest as why:
        raise ActionError(f"{str(why).capitalize()}.") from why
    rect = _seen_part(rect, frame, showing)
    unknown = {*letters, *filter(None, [showing.against])} - known
    if unknown:
        raise ActionError(f"There is no contender {', '.join(sorted(unknown))} in this study.")
    letters = [letter for letter in letters if letter != showing.against]
    if not 0 < len(letters) <= MOST_CROPS:
        raise ActionError(f"A figure shows 1 to {MOST_CROPS} contenders.")
    place = {k: round(getattr(rect, k)) for k in "xywh"}
    times = {"zoom": float(told["zoom"])} if told.get("zoom") else {}
    laid = _arranged(told, letters, showing)
    return {"frame": frame.pk, **place, "letters": letters, **times, **showing.as_json(), **laid}


def _arranged(told: Document, letters: Sequence[str], showing: Showing) -> Document:
    """One over the other, or patches marked, where that is asked for."""
    over, marked = told.get("over"), bool(told.get("marked"))
    if over is not None:
        if len(letters) != 2 or showing.kind or marked:
            raise ActionError("One over the other takes two contenders, and no difference.")
        if not 0 < over < 1:
            raise ActionError("The boundary lies at a share of the width: above 0 and below 1.")
        return {"over": round(float(over), 3)}
    if marked and (len(letters) != 1 or not showing.plain):
        raise ActionError("A frame with its patches marked is of one contender, as made.")
    return {"marked": True} if marked else {}


def _seen_part(rect: Rect, frame: Frame, showing: Showing) -> Rect:
    """What of a part is seen: a use may show only some of its frame.

    Raises
    ------
    ActionError
        If too little is.
    """
    if showing.use is None:
        return rect
    picture = frame.picture
    lies = seen_layout(picture.width, picture.height, showing.use, showing.centre)
    seen = rect.clipped(lies.part).whole()
    if seen.w < LEAST or seen.h < LEAST:
        raise ActionError(
            f"{showing.use.name} shows another part of {frame.name}. Move to it first, or"
            " choose another use."
        )
    return seen


def on_page(study: Study, told: Document) -> Document:
    """A view as the figure that stands whole on a page at the view's magnification."""
    picture = _frame(study, told["frame"]).picture
    view, bounds = Rect(*(told[k] for k in "xywh")), Rect(0, 0, picture.width, picture.height)
    count = 1 if told.get("over") else len({*told["letters"]} - {told["against"]})
    part = part_on_page(view, bounds, max(1, count), told.get("zoom") or 1.0)
    return {**told, **{k: round(getattr(part, k)) for k in "xywh"}}


def proposed_caption(study: Study, figure: Document) -> str:
    """What a figure shows, in words: the patch that fills most of it, else its frame."""
    rect = Rect(*(figure[k] for k in "xywh"))
    inside = [
        p
        for p in study.patches.filter(frame_id=figure["frame"])
        if _area(p.rect.clipped(rect)) >= 0.5 * _area(p.rect)
    ]
    if figure.get("marked"):
        return "The frame as a whole"
    if inside:
        return str(max(inside, key=lambda p: _area(p.rect)).name)
    return f"Part of {_frame(study, figure['frame']).name}"


def _area(rect: Rect) -> float:
    return max(0.0, rect.w) * max(0.0, rect.h)


def figures_of(
    blocks: Sequence[Document],
    shown: Sequence[Output],
    letters: Sequence[str],
    frames: dict[int, int],
    patches: Sequence[Patch],
) -> tuple[list[Document], list[Document]]:
    """Figures as an edition has them, and the blocks, where each knows its figure's
    place; a figure of which nothing can be shown is left out.

    ``shown`` are the outputs that are ready, ``frames`` the places of the study's,
    ``patches`` those that may be marked.
    """
    figures: list[Document] = []
    kept: list[Document] = []
    for block in blocks:
        if block["kind"] != FIGURE:
            kept.append(block)
        elif (figure := _figure(block, shown, letters, frames)) is not None:
            figure |= _laid(block["figure"], figure, patches)
            kept.append({"kind": FIGURE, "text": figure["name"], "at": len(figures)})
            figures.append(figure)
    return figures, kept


def _figure(
    block: Document, shown: Sequence[Output], letters: Sequence[str], frames: dict[int, int]
) -> Document | None:
    told = block["figure"]
    outputs = {o.contender.letter: o for o in shown if o.frame_id == told["frame"]}
    showing = showing_of(told)
    chosen = [outputs[letter] for letter in told["letters"] if letter in outputs]
    against = outputs.get(showing.against)
    if told["frame"] not in frames or not chosen or (showing.kind and against is None):
        return None
    frame = chosen[0].frame
    w, h = told["w"], told["h"]
    count = 1 if told.get("over") else len(chosen)
    tallest = TALLEST_WHOLE if told.get("marked") else TALLEST
    times = magnification(w, h, count, told.get("zoom"), tallest)
    return {
        "name": block.get("text", "").strip() or f"Part of {frame.name}",
        "role": "",
        "frame": frame.name,
        "frame_at": frames[told["frame"]],
        "rect": [told[k] for k in "xywh"],
        "magnification": times,
        "percent": f"{100 * times:g} %",
        "box": {"width": f"{w * times:.3f}px", "ratio": f"{w:g} / {h:g}"},
        "headline": None,
        "letters": list(letters),
        "outputs": [o.pk for o in chosen],
        "against": against.pk if against else None,
        "showing": showing.as_json(),
        "shown": showing.words,
        "crops": [],
        **{k: [] for k in ("table", "absences", "matched_table", "matched_absences")},
    }


def _laid(told: Document, figure: Document, patches: Sequence[Patch]) -> Document:
    """What lies over what, and what is marked."""
    if told.get("over") and len(figure["outputs"]) == 2:
        left, right = told["letters"]
        words = f"{left} left of the line, {right} right of it"
        return {"over": {"percent": f"{100 * told['over']:g}%", "words": words}}
    if not told.get("marked"):
        return {}
    named = [(p.name, p.rect) for p in patches if p.frame_id == told["frame"]]
    return {"marks": marks(named, Rect(*figure["rect"]), figure["magnification"])}


def _frame(study: Study, frame_id: int) -> Frame:
    row = study.study_frames.select_related("frame__picture").filter(frame_id=frame_id).first()
    if row is None:
        raise ActionError("The figure's frame is not in this study any more.")
    return row.frame
