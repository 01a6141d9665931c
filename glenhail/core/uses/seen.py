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
        return _in_video(pixels, use.video_mbit, use.resampling, centre)
    part = shown_part(pixels.shape[1], pixels.shape[0], use.part, centre)
    fits = min(use.width / part.w, use.height / part.h)
    scale = fits if use.enlarge else min(1.0, fits)
    width, height = (max(1, round(side * scale)) for side in (part.w, part.h))
    if (width, height) == (part.w, part.h):
        x, y = int(part.x), int(part.y)
        small = pixels[y : y + height, x : x + width]
    else:
        small = resample(pixels, part, width, height, use.resampling)
    codes = srgb.to_display(small)
    if use.jpeg is None:
        return SeenPicture(codes, part, scale, None)
    data = _jpeg(codes, use.jpeg)
    back = np.asarray(Image.open(io.BytesIO(data)).convert("RGB"), dtype=np.uint8)
    return SeenPicture(back, part, scale, len(data))


def _in_video(
    pixels: Floats, mbit: float, resampling: str, centre: tuple[float, float]
) -> SeenPicture:
    part = video.pan_part(pixels.shape[1], pixels.shape[0], centre)
    strip = srgb.to_display(resample(pixels, part, video.STRIP, video.HEIGHT, resampling))
    codes, size = video.middle_frame(strip, mbit)
    scale = video.STRIP / part.w
    first = part.x + video.STEP * video.MIDDLE / scale
    shown = Rect(first, part.y, video.WIDTH / scale, part.h)
    return SeenPicture(codes, shown, scale, size)


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
