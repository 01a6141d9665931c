"""Clips of an edition's figures, where its owner asked for them."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from glenhail.core.execution.video import why_no_video
from glenhail.core.files.clips import (
    SIZES,
    Fonts,
    fit_to_clip,
    flick_pictures,
    write_flick_mp4,
    write_flick_webp,
    write_pan,
)
from glenhail.core.files.posters import Poster
from glenhail.server.publishing.document import Document

# Of which figures: of none, of the first one on the page, of those that its author took into the
# report, of all.
CHOICES = ("none", "first", "own", "all")


def clips_wanted(document: Document, figure: Document) -> bool:
    """Whether a figure gets clips; one with a single crop has nothing to show in turn."""
    choice = document.get("extras", {}).get("clips", "none")
    chosen = {
        "none": False,
        "first": figure.get("figure") == 1,
        "own": "showing" in figure,
        "all": True,
    }
    return chosen[choice] and len(figure["crops"]) > 1


def write_clips(
    poster: Poster, stem: str, folder: Path, fonts: Fonts, tell: Callable[[str], None]
) -> list[Document]:
    """A figure's clips: the contenders in the same place as MP4 and animated WebP, and
    a pan along them as MP4. Without the program for videos there is the WebP alone.
    """
    (folder / "clips").mkdir(exist_ok=True)
    made: list[Document] = []
    for size in SIZES:
        tell(f"a clip of {size[0]} × {size[1]} px")
        for kind, name in _written(
            poster, size, f"clips/{stem}-{size[0]}x{size[1]}", folder, fonts
        ):
            told = {"file": name, "kind": kind, "width": size[0], "height": size[1]}
            made.append({**told, "size": (folder / name).stat().st_size})
    return made


def _written(
    poster: Poster, size: tuple[int, int], stem: str, folder: Path, fonts: Fonts
) -> list[tuple[str, str]]:
    pictures = list(flick_pictures(fit_to_clip(poster, size, fonts), size, fonts))
    still, video, pan = f"{stem}-flick.webp", f"{stem}-flick.mp4", f"{stem}-pan.mp4"
    write_flick_webp(pictures, folder / still)
    made = [("flick", still)]
    if why_no_video():
        return made
    write_flick_mp4(pictures, folder / video)
    made.append(("flick", video))
    along = fit_to_clip(poster, size, fonts, wide=True)
    return [*made, ("pan", pan)] if write_pan(along, size, fonts, folder / pan) else made
