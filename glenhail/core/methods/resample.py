"""Resampling with an antialiased separable filter, through Pillow's float path."""

from __future__ import annotations

import numpy as np
from PIL import Image

from glenhail.core.picture import Floats, Rect

FILTERS = {
    "nearest": Image.Resampling.NEAREST,
    "bilinear": Image.Resampling.BILINEAR,
    "bicubic": Image.Resampling.BICUBIC,
    "lanczos": Image.Resampling.LANCZOS,
    "area": Image.Resampling.BOX,
}


def resample(values: Floats, box: Rect, width: int, height: int, method: str = "lanczos") -> Floats:
    """Bring a part of a picture or plane to a given size.

    Parameters
    ----------
    values : ndarray, shape (h, w) or (h, w, 3)
    box : Rect
        The part, in pixels of `values`; floats allowed, must lie within it.
    width, height : int
        Size of the result in pixels.
    method : str
        One of `FILTERS`; all but nearest widen with the reduction, so that nothing aliases.

    Returns
    -------
    ndarray of float32, shape (height, width) or (height, width, 3)
    """
    if method not in FILTERS:
        raise ValueError(f"unknown filter {method!r}, one of {', '.join(FILTERS)} wanted")
    if values.ndim == 3:
        planes = [resample(values[..., i], box, width, height, method) for i in range(values.shape[2])]
        return np.stack(planes, axis=-1)
    # Only the part that matters goes into the library: it copies all it is given.
    margin = 8 * max(1.0, box.w / width, box.h / height)
    part = Rect(box.x - margin, box.y - margin, box.w + 2 * margin, box.h + 2 * margin)
    part = Rect(np.floor(part.x), np.floor(part.y), np.ceil(part.w) + 1, np.ceil(part.h) + 1)
    part = part.clipped(Rect(0, 0, values.shape[1], values.shape[0]))
    x, y = int(part.x), int(part.y)
    plane = np.ascontiguousarray(values[y : y + int(part.h), x : x + int(part.w)], dtype=np.float32)
    edges = (
        max(0.0, box.x - x),
        max(0.0, box.y - y),
        min(float(plane.shape[1]), box.x - x + box.w),
        min(float(plane.shape[0]), box.y - y + box.h),
    )
    image = Image.fromarray(plane)
    return np.asarray(image.resize((width, height), FILTERS[method], box=edges), dtype=np.float32)
