"""A picture as it is seen in a use: cut, brought to its size, compressed."""

from __future__ import annotations

import io
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from PIL import Image

from glenhail.core.colour import srgb
from glenhail.core.filters.resample import resample
from glenhail.core.picture import Floats, Rect
from glenhail.core.uses import video
from glenhail.core.uses.table import Use

CHROMA = "4:2:0"  # what JPEGs of posts and pages have


@dataclass(frozen=True)
class SeenPicture:
    """What is left of a picture in a use.

    ``codes`` are 8-bit sRGB codes, shape (h, w, 3); ``part`` is what of the picture
    they show, px; ``scale`` pixels in use for each of the picture's; ``size_bytes``
    what the JPEG or the video takes, None without one.
    """

    codes: npt.NDArray[np.uint8]
    part: Rect
    scale: float
    size_bytes: int | None


@dataclass(frozen=True)
class SeenLayout:
    """What of a picture a use shows (px of it), and how large that is made, px."""

    part: Rect
    width: int
    height: int

    def place(self, rect: Rect) -> Rect:
        """Where a part of the picture lies in what is seen of it.

        Parameters
        ----------
        rect : Rect
            Px of the picture.
        """
        across, down = self.width / self.part.w, self.height / self.part.h
        x, y = (rect.x - self.part.x) * across, (rect.y - self.part.y) * down
        return Rect(x, y, rect.w * across, rect.h * down)


def seen_layout(width: int, height: int, use: Use, centre: tuple[float, float]) -> SeenLayout:
    """How a picture lies in what is seen of it in a use: known without a pixel.

    Parameters
    ----------
    width, height : int
        The picture, px.
    use : Use
        Where it is seen.
    centre : (float, float)
        Where a use that shows only a part looks, shares of width and height.
    """
    if use.video_mbit is not None:
        pan = video.pan_part(width, height, centre)
        scale = video.STRIP / pan.w
        first = pan.x + video.STEP * video.MIDDLE / scale
        return SeenLayout(Rect(first, pan.y, video.WIDTH / scale, pan.h), video.WIDTH, video.HEIGHT)
    part = shown_part(width, height, use.part, centre)
    fits = min(use.width / part.w, use.height / part.h)
    scale = fits if use.enlarge else min(1.0, fits)
    return SeenLayout(part, *(max(1, round(side * scale)) for side in (part.w, part.h)))


def as_seen(pixels: Floats, use: Use, centre: tuple[float, float] = (0.5, 0.5)) -> SeenPicture:
    """A picture as it is seen in a use.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    use : Use
        Where it is seen.
    centre : (float, float)
        Where a use that shows only a part looks, shares of width and height.

    Returns
    -------
    SeenPicture
        Resampled in linear light, then encoded, rounded and compressed.

    Raises
    ------
    BadRequest
        If it is a video, and those can not be made here.
    """
    if use.video_mbit is not None:
        return _in_video(pixels, use, centre)
    lies = seen_layout(pixels.shape[1], pixels.shape[0], use, centre)
    return part_as_seen(pixels, use, lies.part, lies.width, lies.height)


def part_as_seen(pixels: Floats, use: Use, part: Rect, width: int, height: int) -> SeenPicture:
    """A part of a picture, as large as it is seen in a use that is no video.

    Parameters
    ----------
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    use : Use
        Where it is seen.
    part : Rect
        What of it is shown, px; floats allowed.
    width, height : int
        How large that is made, px.
    """
    if Rect(round(part.x), round(part.y), width, height) == part:
        x, y = int(part.x), int(part.y)
        small = pixels[y : y + height, x : x + width]
    else:
        small = resample(pixels, part, width, height, use.resampling)
    codes = srgb.to_display(small)
    if use.jpeg is None:
        return SeenPicture(codes, part, width / part.w, None)
    data = _jpeg(codes, use.jpeg)
    back = np.asarray(Image.open(io.BytesIO(data)).convert("RGB"), dtype=np.uint8)
    return SeenPicture(back, part, width / part.w, len(data))


def _in_video(pixels: Floats, use: Use, centre: tuple[float, float]) -> SeenPicture:
    assert use.video_mbit is not None
    height, width = pixels.shape[:2]
    pan = video.pan_part(width, height, centre)
    strip = resample(pixels, pan, video.STRIP, video.HEIGHT, use.resampling)
    codes, size = video.middle_frame(srgb.to_display(strip), use.video_mbit)
    shown = seen_layout(width, height, use, centre).part
    return SeenPicture(codes, shown, video.STRIP / pan.w, size)


def shown_part(width: int, height: int, share: float, centre: tuple[float, float]) -> Rect:
    """Whole pixels of a picture about a place, as near to it as its edges allow.

    Parameters
    ----------
    width, height : int
        The picture, px.
    share : float
        Of its sides, above 0 and at most 1.
    centre : (float, float)
        Shares of width and height.
    """
    w, h = max(1, round(width * share)), max(1, round(height * share))
    x = min(max(0, round(centre[0] * width - w / 2)), width - w)
    y = min(max(0, round(centre[1] * height - h / 2)), height - h)
    return Rect(x, y, w, h)


def _jpeg(codes: npt.NDArray[np.uint8], quality: int) -> bytes:
    held = io.BytesIO()
    Image.fromarray(codes).save(held, "JPEG", quality=quality, subsampling=CHROMA)
    return held.getvalue()
