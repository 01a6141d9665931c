"""Facts from TIFF and EXIF tags (Exif 2.32, CIPA DC-008; TIFF/EP, ISO 12234-2)."""

from __future__ import annotations

import math
from typing import Any

# Exif 2.32, tables 4 to 8; numbers in decimal.
MAKE, MODEL, SOFTWARE, DATE = 271, 272, 305, 306
X_RESOLUTION, RESOLUTION_UNIT, ORIENTATION = 282, 296, 274
EXPOSURE_TIME, F_NUMBER, ISO, DATE_TAKEN, FOCAL_LENGTH, LENS = (
    33434,
    33437,
    34855,
    36867,
    37386,
    42036,
)
PER_CM = 3


def number(value: Any) -> float | None:
    """A tag's value as a finite number: integers, rationals as pairs or objects, first
    of a list.

    Parameters
    ----------
    value : Any
        A value as it was told.
    """
    try:
        if isinstance(value, tuple | list):
            if len(value) == 2 and all(isinstance(v, int) for v in value):
                return value[0] / value[1] if value[1] else None
            return number(value[0])
        result = float(value)
    except (TypeError, ValueError, IndexError, OverflowError, ZeroDivisionError):
        return None
    return result if math.isfinite(result) else None


def text(value: Any) -> str | None:
    """A tag's value as a short printable text, or None.

    Parameters
    ----------
    value : Any
        A value as it was told.
    """
    if isinstance(value, bytes):
        value = value.decode("utf-8", "replace")
    if not isinstance(value, str):
        return None
    cleaned = "".join(c for c in value.split("\0")[0] if c.isprintable()).strip()
    return cleaned[:120] or None


def camera(tags: dict[int, Any]) -> str | None:
    """Maker and model without saying the maker twice.

    Parameters
    ----------
    tags : dict
        A file's tags by their numbers.
    """
    make, model = text(tags.get(MAKE)), text(tags.get(MODEL))
    if make and model and not model.lower().startswith(make.lower()):
        return f"{make} {model}"
    return model or make


def orientation(tags: dict[int, Any]) -> int:
    """1 to 8; anything else counts as 1.

    Parameters
    ----------
    tags : dict
        A file's tags by their numbers.
    """
    value = number(tags.get(ORIENTATION))
    return int(value) if value is not None and value in range(1, 9) else 1


def ppi(tags: dict[int, Any]) -> float | None:
    """Pixels per inch, where the file says so.

    Parameters
    ----------
    tags : dict
        A file's tags by their numbers.
    """
    value = number(tags.get(X_RESOLUTION))
    if not value or value <= 1:
        return None
    return value * 2.54 if number(tags.get(RESOLUTION_UNIT)) == PER_CM else value


def shooting(tags: dict[int, Any]) -> dict[str, Any]:
    """Camera, lens and exposure, keyed as in `glenhail.core.picture.Facts`.

    Parameters
    ----------
    tags : dict
        A file's tags by their numbers.
    """
    # Never a rational: two whole numbers are two ratings, of which the first counts.
    ratings = tags.get(ISO)
    iso = number(ratings[0] if isinstance(ratings, tuple | list) and ratings else ratings)
    return {
        "camera": camera(tags),
        "lens": text(tags.get(LENS)),
        "iso": iso if iso and iso > 0 else None,
        "shutter_s": number(tags.get(EXPOSURE_TIME)),
        "aperture": number(tags.get(F_NUMBER)),
        "focal_mm": number(tags.get(FOCAL_LENGTH)),
        "taken": text(tags.get(DATE_TAKEN)) or text(tags.get(DATE)),
        "software": text(tags.get(SOFTWARE)),
        "ppi": ppi(tags),
    }
