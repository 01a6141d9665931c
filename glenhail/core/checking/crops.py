"""Crops compared with the pixels of the originals they were cut from."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator
from typing import Any

import numpy as np
from PIL import Image

from glenhail.core.articles.looking import all_figures
from glenhail.core.checking.checks import DIFFERS, UNCHECKED, Check, check
from glenhail.core.errors import BadRequest, CoreError
from glenhail.core.files.contact_sheet import magnified
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.looking.differences import Kind
from glenhail.core.looking.light import ALL, lit_codes
from glenhail.core.looking.shown import Showing, difference_codes, showing_of
from glenhail.core.picture import Picture, Rect
from glenhail.core.uses.seen import as_seen

Document = dict[str, Any]
KIND = "crop"
WITHHELD = "its original is kept back"
SELDOM = 1e-3
MOST_PIXELS = 2**28  # of one crop


def crops_again(
    document: Document,
    at: int,
    picture: Callable[[Document], Picture | None],
    laid: Callable[[str], AlignedPicture | None],
    read: Callable[[str], bytes],
) -> Iterator[Check]:
    """Every crop of a frame's figures and remarks, bit by bit: the one on the page, its
    small form and the one with its surroundings. Differences, planes and what is seen
    in uses are worked out again, and rounding may turn out otherwise on another
    machine: by one code in a thousandth of all values.

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
    read : callable
        Gives a file of the report.
    """
    outputs = {o["letter"]: o for o in document["frames"][at]["outputs"]}
    told = [(p["name"], p) for p in all_figures(document)]
    told += [(f"remark {r['number']}", r) for r in document["remarks"]]
    for about, figure in told:
        if figure["frame_at"] != at:
            continue
        showing = showing_of(figure.get("showing", {}))
        close = not showing.plain and not (showing.lift and showing.plane == ALL)
        for crop in figure["crops"]:
            letter = crop["letter"]
            if showing.kind:
                cut, why = _differing(letter, laid, showing)
            else:
                shown = picture(outputs[letter]) if letter in outputs else None
                cut, why = _lit(shown, showing)
            what = f"{about} of {letter}"
            try:
                wanted = list(_wanted(crop, cut))
            except ValueError:
                yield Check(KIND, what, DIFFERS, "its place is not in the picture")
                continue
            for name, codes in wanted:
                if codes is None:
                    yield Check(KIND, f"{what}, {name}", UNCHECKED, why)
                else:
                    same = _same(read, name, codes, close)
                    yield check(KIND, f"{what}, {name}", same, "its pixels are others")


Cut = Callable[[list[int]], np.ndarray]


def _wanted(crop: Document, codes: Cut | None) -> Iterator[tuple[str, np.ndarray | None]]:
    own = codes(crop["place"]) if codes else None
    yield crop["file"], _sized(own, crop.get("file_size"))
    if crop.get("around"):
        yield crop["around"], codes(crop["around_place"]) if codes else None
    if crop.get("small"):
        yield crop["small"], _sized(own, crop["small_size"])


def _sized(own: np.ndarray | None, size: list[int] | None) -> np.ndarray | None:
    if own is None or not size:
        return own
    return magnified(own, Rect(0, 0, own.shape[1], own.shape[0]), *size)


def _lit(shown: Picture | None, showing: Showing) -> tuple[Cut | None, str]:
    """How a picture's parts are cut as they are shown; or None, and why not."""
    if shown is None:
        return None, WITHHELD
    if showing.use is None:
        whole = shown
        told = showing.plane, showing.lift, showing.gain
        return lambda place: lit_codes(whole.crop, whole.bounds, Rect(*place), *told), ""
    try:
        codes = as_seen(shown.pixels, showing.use, showing.centre).codes
    except BadRequest as problem:
        return None, str(problem)
    return lambda place: _part(codes, place), ""


def _part(codes: np.ndarray, place: list[int]) -> np.ndarray:
    x, y, w, h = place
    if not Rect(x, y, w, h).inside(codes.shape[1], codes.shape[0]):
        raise ValueError("beyond what is seen")
    return codes[y : y + h, x : x + w]


def _differing(
    letter: str, laid: Callable[[str], AlignedPicture | None], showing: Showing
) -> tuple[Cut | None, str]:
    try:
        one, two = laid(letter), laid(showing.against)
    except CoreError as problem:
        return None, str(problem)
    if one is None or two is None:
        return None, WITHHELD

    def cut(place: list[int]) -> np.ndarray:
        part = Rect(*place)
        if part.w * part.h > MOST_PIXELS:
            raise ValueError("larger than any frame")
        return difference_codes(one, two, part, Kind(showing.kind), showing.gain)

    return cut, ""


def _same(read: Callable[[str], bytes], name: str, wanted: np.ndarray, close: bool = False) -> bool:
    try:
        printed = np.asarray(Image.open(io.BytesIO(read(f"report/{name}"))).convert("RGB"))
    except (KeyError, OSError, ValueError):
        return False
    if printed.shape != wanted.shape:
        return False
    apart = np.abs(printed.astype(np.int16) - wanted)
    return bool(apart.max(initial=0) <= close and np.mean(apart > 0) <= (SELDOM if close else 0))
