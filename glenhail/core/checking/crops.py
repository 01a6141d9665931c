"""Crops compared with the pixels of the originals they were cut from."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator
from typing import Any

import numpy as np
from PIL import Image

from glenhail.core.checking.checks import UNCHECKED, Check, check
from glenhail.core.colour import srgb
from glenhail.core.files.contact_sheet import magnified
from glenhail.core.picture import Picture, Rect

Document = dict[str, Any]
KIND = "crop"


def crops_again(
    document: Document,
    at: int,
    picture: Callable[[Document], Picture | None],
    read: Callable[[str], bytes],
) -> Iterator[Check]:
    """Every crop of a frame's patches and remarks, bit by bit: the one on the page, its
    small form and the one with its surroundings.

    Parameters
    ----------
    document : dict
        The edition.
    at : int
        The place of one of its frames.
    picture : callable
        Gives an output's picture; None where its original is kept back.
    read : callable
        Gives a file of the report.
    """
    outputs = {o["letter"]: o for o in document["frames"][at]["outputs"]}
    told = [(p["name"], p) for p in document["patches"]]
    told += [(f"remark {r['number']}", r) for r in document["remarks"]]
    for about, crops in ((name, t["crops"]) for name, t in told if t["frame_at"] == at):
        for crop in crops:
            shown = picture(outputs[crop["letter"]]) if crop["letter"] in outputs else None
            for name, wanted in _wanted(crop, shown):
                what = f"{about} of {crop['letter']}, {name}"
                if wanted is None:
                    yield Check(KIND, what, UNCHECKED, "its original is kept back")
                else:
                    yield check(KIND, what, _same(read, name, wanted), "its pixels are others")


def _wanted(crop: Document, shown: Picture | None) -> Iterator[tuple[str, np.ndarray | None]]:
    own = _codes(shown, crop["place"])
    yield crop["file"], own
    if crop.get("around"):
        yield crop["around"], _codes(shown, crop["around_place"])
    if crop.get("small"):
        width, height = crop["small_size"]
        whole = None if own is None else Rect(0, 0, own.shape[1], own.shape[0])
        yield (
            crop["small"],
            None if own is None or whole is None else magnified(own, whole, width, height),
        )


def _codes(shown: Picture | None, place: list[int]) -> np.ndarray | None:
    if shown is None:
        return None
    x, y, w, h = place
    return srgb.to_display(shown.pixels[y : y + h, x : x + w])


def _same(read: Callable[[str], bytes], name: str, wanted: np.ndarray) -> bool:
    try:
        printed = np.asarray(Image.open(io.BytesIO(read(f"report/{name}"))).convert("RGB"))
    except (KeyError, OSError, ValueError):
        return False
    return printed.shape == wanted.shape and bool(np.array_equal(printed, wanted))
