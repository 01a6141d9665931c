"""A figure as a clip for video: contenders one after the other in the same place, or a
slow pan along them.

Crops are magnified by whole, even numbers, since compression hides what is shown small:
so magnified, a pixel covers whole pairs of the video's, and 4:2:0 takes no colour from
its neighbours. Words are burnt in beside the crops, never over them.
"""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from PIL import Image

from glenhail.core.colour.video import as_video
from glenhail.core.execution.video import run_video
from glenhail.core.files.contact_sheet import SURROUND, Exhibit
from glenhail.core.files.posters import Ground, Poster, ground_of, show
from glenhail.core.picture import Rect

SIZES = ((1920, 1080), (3840, 2160))  # px, ITU-R BT.709 and BT.2020
TIMES = (16, 8, 4, 2)  # magnifications of the frame
RATE = 30  # frames a second
HELD = 1.5  # seconds that a contender is seen
ROUNDS = 2  # how often all of them are seen in a video, which does not begin again by itself
STILL = 30  # frames that a pan stands at its ends
PACE = 8  # px of 1,920 that a pan moves on from frame to frame
# What x264 loses at this rate factor is not seen in a magnified pixel (ours; tests hold it).
QUALITY = 12
NEARLY = 0.002  # of an output's scale: half a pixel of the usual crop
LARGEST = 120_000_000  # px that the row of a pan may have
CODED = (
    *("-c:v", "libx264", "-preset", "veryfast", "-tune", "stillimage", "-crf", str(QUALITY)),
    *("-colorspace", "bt709", "-color_primaries", "bt709", "-color_trc", "iec61966-2-1"),
    # Played before all of it is there.
    *("-color_range", "tv", "-chroma_sample_location", "center", "-movflags", "+faststart"),
)


@dataclass(frozen=True)
class Fonts:
    """The typefaces of words and of numbers."""

    text: Path
    mono: Path


def fit_to_clip(poster: Poster, size: tuple[int, int], fonts: Fonts, wide: bool = False) -> Poster:
    """A figure as a clip of this size can show it: whole, or its middle at 200 %, and
    then it says so.

    Parameters
    ----------
    poster : Poster
        The figure.
    size : tuple of int
        Px across and down.
    fonts : Fonts
        The typefaces.
    wide : bool
        Whether the clip moves along, so that only its height limits a crop.
    """
    told = replace(poster, steps=TIMES)
    cut = _cut_to(told, _ground(told, size, fonts), wide)
    if cut is told:
        return told
    # Its words may take a further line, and with it some of the room.
    return _cut_to(told, _ground(cut, size, fonts), wide)


def _ground(poster: Poster, size: tuple[int, int], fonts: Fonts) -> Ground:
    return ground_of(poster.heading, poster.below, size, fonts.text, fonts.mono)


def _cut_to(poster: Poster, ground: Ground, wide: bool) -> Poster:
    least = poster.steps[-1]
    across, down = ((v - 2) // least for v in (ground.room[0], ground.room[1] - ground.label))
    width = poster.width if wide else min(poster.width, across)
    height = min(poster.height, down)
    if (width, height) == (poster.width, poster.height):
        return poster
    shares = width / poster.width, height / poster.height
    return replace(
        poster,
        heading=f"{poster.heading}; its middle, {width:.0f} × {height:.0f} px",
        exhibits=[replace(e, box=_middle(e.box, *shares)) for e in poster.exhibits],
        width=width,
        height=height,
    )


def _middle(box: Rect, across: float, down: float) -> Rect:
    w, h = box.w * across, box.h * down
    return Rect(box.x + (box.w - w) / 2, box.y + (box.h - h) / 2, w, h)


def flick_pictures(poster: Poster, size: tuple[int, int], fonts: Fonts) -> Iterator[Image.Image]:
    """Each contender alone, all of them at the very same place.

    Parameters
    ----------
    poster : Poster
        The figure, as `fit_to_clip` gave it.
    size : tuple of int
        Px across and down.
    fonts : Fonts
        The typefaces.
    """
    for exhibit in poster.exhibits:
        ground = _ground(poster, size, fonts)
        room = ground.room[0], ground.room[1] - ground.label
        times = _times(poster, *room)
        place = (ground.margin, ground.top + ground.margin // 2, *room)
        show(ground, on_pixels(exhibit, poster, times), poster, times, place)
        yield ground.sheet


def on_pixels(exhibit: Exhibit, poster: Poster, times: float) -> Exhibit:
    """A crop moved by at most one of the clip's pixels, so that each of its own begins
    at an even one of those; as it is where it can not be shown by whole pixels.

    Parameters
    ----------
    exhibit : Exhibit
        The crop; its box may lie between pixels.
    poster : Poster
        To which it belongs.
    times : float
        The magnification of the frame.
    """
    box = exhibit.box
    wide, tall = round(poster.width * times), round(poster.height * times)
    each = round(wide / box.w)
    if each < 1 or abs(wide / box.w - each) > NEARLY * each:
        return exhibit
    step = (1 if each % 2 else 2) / each
    x, y = (round(v / step) * step for v in (box.x, box.y))
    return replace(exhibit, box=Rect(x, y, wide / each, tall / each))


def _times(poster: Poster, across: float, down: float) -> float:
    fits = min(across / poster.width, down / poster.height)
    return next(s for s in poster.steps if s <= fits)


def write_flick_webp(pictures: list[Image.Image], path: Path) -> None:
    """Pictures as an animation that goes round for ever, every pixel as it was.

    Parameters
    ----------
    pictures : list of Image
        All of one size.
    path : Path
        The file.
    """
    first, *rest = pictures
    held = round(1000 * HELD)
    first.save(
        path, "WEBP", save_all=True, append_images=rest, duration=held, loop=0, lossless=True,
        method=1, quality=20, minimize_size=False, allow_mixed=False,
    )  # fmt: skip


def write_flick_mp4(pictures: list[Image.Image], path: Path) -> None:
    """Pictures as an H.264 video.

    Parameters
    ----------
    pictures : list of Image
        All of one size, even across and down.
    path : Path
        The file.

    Raises
    ------
    BadRequest
        If the program for videos is not there, or gives up.
    """
    width, height = pictures[0].size
    with tempfile.TemporaryDirectory() as name:
        source = Path(name) / "flick.yuv"
        with source.open("wb") as file:
            for picture in pictures:
                file.write(as_video(np.asarray(picture)))
        told = _raw(width, height, f"1/{HELD}")
        again = f"loop={ROUNDS - 1}:{len(pictures)}:0,fps={RATE}"
        filters = ["-vf", again]
        run_video(Path(name), [*told, "-i", str(source), *filters, *CODED, str(path)])


def write_pan(poster: Poster, size: tuple[int, int], fonts: Fonts, path: Path) -> bool:
    """A slow pan along the contenders as an H.264 video; none is written, and False
    returned, where all of them are seen at once, or are too many for one.

    Parameters
    ----------
    poster : Poster
        The figure, as `fit_to_clip` gave it, `wide`.
    size : tuple of int
        Px across and down, even.
    fonts : Fonts
        The typefaces.
    path : Path
        The file.

    Raises
    ------
    BadRequest
        If the program for videos is not there, or gives up.
    """
    ground = _ground(poster, size, fonts)
    times = _pan_times(poster, ground)
    if times is None:
        return False
    strip = _strip(poster, ground, times)
    beyond = strip.width - size[0]
    if beyond <= 0:
        return False
    pace = max(2, PACE * size[0] // SIZES[0][0] // 2 * 2)
    frames = 2 * STILL + -(-beyond // pace)
    with tempfile.TemporaryDirectory() as name:
        still, moving = Path(name) / "still.yuv", Path(name) / "strip.yuv"
        still.write_bytes(as_video(np.asarray(ground.sheet)))
        moving.write_bytes(as_video(np.asarray(strip)))
        at = f"min(max((n-{STILL})*{pace}\\,0)\\,{beyond})"
        # All lies and moves by even numbers, so that the colour of two by two moves along.
        seen = f"crop={size[0]}:{strip.height}:{at}:0"
        filters = (
            f"[0]loop={frames - 1}:1:0[g];[1]loop={frames - 1}:1:0,{seen}[s];"
            f"[g][s]overlay=0:{ground.top}:format=yuv420"
        )
        inputs = [*_raw(*size, str(RATE)), "-i", str(still)]
        inputs += [*_raw(*strip.size, str(RATE)), "-i", str(moving)]
        made = ["-filter_complex", filters, "-frames:v", str(frames)]
        run_video(Path(name), [*inputs, *made, *CODED, str(path)])
    return True


def _pan_times(poster: Poster, ground: Ground) -> float | None:
    """The largest magnification at which the row of all contenders is not too long."""
    down = ground.room[1] - ground.label
    fits = [t for t in poster.steps if t * poster.height <= down]
    tall = ground.bottom - ground.top
    return next((t for t in fits if _long(poster, ground, t) * tall <= LARGEST), None)


def _cell(poster: Poster, ground: Ground, times: float) -> int:
    """Px across that a contender has in the row; words need some too."""
    return max(round(poster.width * times), 8 * ground.label)


def _long(poster: Poster, ground: Ground, times: float) -> int:
    """How long the row is, px; even."""
    count, gap = len(poster.exhibits), ground.label // 2
    long = 2 * ground.margin + count * _cell(poster, ground, times) + (count - 1) * gap
    return long + long % 2


def _strip(poster: Poster, ground: Ground, times: float) -> Image.Image:
    """All contenders in a row, as long as it becomes."""
    down, cell = ground.room[1] - ground.label, _cell(poster, ground, times)
    size = (_long(poster, ground, times), ground.bottom - ground.top)
    row = replace(ground, sheet=Image.new("RGB", size, SURROUND))
    for i, exhibit in enumerate(poster.exhibits):
        left = ground.margin + i * (cell + ground.label // 2)
        place = (left, ground.margin // 2, cell, down)
        show(row, on_pixels(exhibit, poster, times), poster, times, place)
    return row.sheet


def _raw(width: int, height: int, rate: str) -> list[str]:
    told = ["-f", "rawvideo", "-pix_fmt", "yuv420p", "-s", f"{width}x{height}"]
    return [*told, "-framerate", rate]
