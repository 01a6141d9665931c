"""Crops compared with the pixels of the originals they were cut from."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator
from typing import Any

import numpy as np
from PIL import Image

from glenhail.core.articles.looking import all_figures
from glenhail.core.checking.checks import UNCHECKED, Check, check
from glenhail.core.errors import CoreError
from glenhail.core.files.contact_sheet import magnified
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.looking.differences import Kind
from glenhail.core.looking.shown import Showing, difference_codes, lifted, showing_of
from glenhail.core.picture import Picture, Rect

Document = dict[str, Any]
KIND = "crop"
SELDOM = 1e-3


def crops_again(
    document: Document,
    at: int,
    picture: Callable[[Document], Picture | None],
    laid: Callable[[str], AlignedPicture | None],
    read: Callable[[str], bytes],
) -> Iterator[Check]:
    """Every crop of a frame's figures and remarks, bit by bit: the one on the page, its
    small form and the one with its surroundings. What differs between two outputs is
    worked out again, and rounding may turn out otherwise on another machine: by one
    code in a thousandth of all values.

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
        for crop in figure["crops"]:
            letter = crop["letter"]
            why = "its original is kept back"
            if showing.kind:
                try:
                    codes = _differing(laid(letter), laid(showing.against), showing)
                except CoreError as error:
                    codes, why = None, str(error)
            else:
                shown = picture(outputs[letter]) if letter in outputs else None
                codes = _lifted(shown, showing.lift)
            for name, wanted in _wanted(crop, codes):
                what = f"{about} of {letter}, {name}"
                if wanted is None:
                    yield Check(KIND, what, UNCHECKED, why)
                else:
                    same = _same(read, name, wanted, close=bool(showing.kind))
                    yield check(KIND, what, same, "its pixels are others")


Cut = Callable[[list[int]], np.ndarray]


def _wanted(crop: Document, codes: Cut | None) -> Iterator[tuple[str, np.ndarray | None]]:
    own = codes(crop["place"]) if codes else None
    yield crop["file"], own
    if crop.get("around"):
        yield crop["around"], codes(crop["around_place"]) if codes else None
    if crop.get("small"):
        width, height = crop["small_size"]
        whole = None if own is None else Rect(0, 0, own.shape[1], own.shape[0])
        yield (
            crop["small"],
            None if own is None or whole is None else magnified(own, whole, width, height),
        )


def _lifted(shown: Picture | None, lift: int) -> Cut | None:
    if shown is None:
        return None

    def cut(place: list[int]) -> np.ndarray:
        x, y, w, h = place
        return lifted(shown.pixels[y : y + h, x : x + w], lift)

    return cut


def _differing(
    one: AlignedPicture | None, two: AlignedPicture | None, showing: Showing
) -> Cut | None:
    if one is None or two is None:
        return None
    kind, gain = Kind(showing.kind), showing.gain
    return lambda place: difference_codes(one, two, Rect(*place), kind, gain)


def _same(read: Callable[[str], bytes], name: str, wanted: np.ndarray, close: bool = False) -> bool:
    try:
        printed = np.asarray(Image.open(io.BytesIO(read(f"report/{name}"))).convert("RGB"))
    except (KeyError, OSError, ValueError):
        return False
    if printed.shape != wanted.shape:
        return False
    apart = np.abs(printed.astype(np.int16) - wanted)
    return bool(apart.max(initial=0) <= close and np.mean(apart > 0) <= (SELDOM if close else 0))
