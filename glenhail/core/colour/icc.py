"""ICC profiles (ICC.1:2022): from coded values to linear BT.709 light, at full
precision.

Matrix and grey profiles go through their published mathematics here; profiles made of
tables go through the lcms library, in floating point and without its shortcuts.
"""

from __future__ import annotations

import struct
from collections.abc import Callable
from dataclasses import dataclass

import imagecodecs
import numpy as np

from glenhail.core.colour import srgb
from glenhail.core.colour.lookup import through_table
from glenhail.core.colour.spaces import BT709_TO_XYZ, D50_XYZ, PCS_TO_BT709, adaptation, xyz_of
from glenhail.core.colour.spaces import D65 as D65_XY

Curve = Callable[[np.ndarray], np.ndarray]

# Profiles round their numbers to 1/65536; one this close to sRGB is sRGB.
SRGB_TOLERANCE = 6e-4
LCMS_NO_SHORTCUTS = 0x0100  # cmsFLAGS_NOOPTIMIZE


class BadProfile(ValueError):
    """A profile that can not be read; the text says why."""


@dataclass(frozen=True)
class IccProfile:
    """A profile taken apart.

    ``space`` is its four-letter data colour space ('RGB ', 'GRAY', 'CMYK'). ``curves``
    and ``matrix`` (to the connection space, XYZ D50) are None for a profile made of
    tables.
    """

    name: str
    space: str
    curves: tuple[Curve, ...] | None
    matrix: np.ndarray | None
    raw: bytes

    @property
    def is_srgb(self) -> bool:
        """Whether curves and primaries are sRGB's to within the profile's own rounding."""
        if self.space != "RGB " or self.curves is None or self.matrix is None:
            return False
        steps = np.linspace(0, 1, 256)
        d65_to_d50 = adaptation(xyz_of(D65_XY), D50_XYZ)
        same_matrix = np.abs(self.matrix - d65_to_d50 @ BT709_TO_XYZ).max() < SRGB_TOLERANCE
        want = srgb.decode(steps)
        return bool(
            same_matrix and all(np.abs(c(steps) - want).max() < SRGB_TOLERANCE for c in self.curves)
        )


def read_profile(raw: bytes) -> IccProfile:
    """Take an ICC profile apart.

    Parameters
    ----------
    raw : bytes
        The whole file.

    Raises
    ------
    BadProfile
        If the bytes are not a profile, or one of a kind pictures do not carry.
    """
    try:
        return _read(raw)
    except (struct.error, IndexError, UnicodeDecodeError) as error:
        raise BadProfile("it is cut short or damaged") from error


def _read(raw: bytes) -> IccProfile:
    if len(raw) < 132 or raw[36:40] != b"acsp":
        raise BadProfile("it has no ICC signature")
    space = raw[16:20].decode("ascii")
    count = struct.unpack_from(">I", raw, 128)[0]
    if count > 1000:
        raise BadProfile("its tag table is damaged")
    tags = {}
    for i in range(count):
        key, start, size = struct.unpack_from(">4sII", raw, 132 + 12 * i)
        tags[key.decode("ascii")] = raw[start : start + size]
    name = _description(tags.get("desc", b"")) or "unnamed profile"
    if (
        space == "RGB "
        and {"rXYZ", "gXYZ", "bXYZ", "rTRC", "gTRC", "bTRC"} <= tags.keys()
        and "A2B0" not in tags
    ):
        columns = [_xyz(tags[k]) for k in ("rXYZ", "gXYZ", "bXYZ")]
        curves = tuple(_curve(tags[k]) for k in ("rTRC", "gTRC", "bTRC"))
        return IccProfile(name, space, curves, np.stack(columns, axis=1), raw)
    if space == "GRAY" and "kTRC" in tags:
        return IccProfile(name, space, (_curve(tags["kTRC"]),), None, raw)
    if space in ("RGB ", "CMYK", "GRAY") and "A2B0" in tags:
        return IccProfile(name, space, None, None, raw)
    raise BadProfile(f"it is a {space.strip()} profile without curves or tables")


def _description(tag: bytes) -> str:
    if tag[:4] == b"desc":
        size = struct.unpack_from(">I", tag, 8)[0]
        return tag[12 : 12 + size].split(b"\0")[0].decode("ascii", "replace").strip()
    if tag[:4] == b"mluc":
        size, start = struct.unpack_from(">II", tag, 20)
        return tag[start : start + size].decode("utf-16-be", "replace").strip("\0 ")
    return ""


def _xyz(tag: bytes) -> np.ndarray:
    return np.array(struct.unpack_from(">3i", tag, 8)) / 65536


def _curve(tag: bytes) -> Curve:
    """A 'curv' or 'para' tag as a function of coded values 0..1 (ICC.1:2022, 10.6 and
    10.18).
    """
    if tag[:4] == b"curv":
        return _sampled(tag)
    if tag[:4] == b"para":
        return _parametric(tag)
    raise BadProfile("one of its curves is of an unknown kind")


def _sampled(tag: bytes) -> Curve:
    count = struct.unpack_from(">I", tag, 8)[0]
    if count == 0:
        return lambda v: v
    points = np.array(struct.unpack_from(f">{count}H", tag, 12), dtype=np.float64)
    if count == 1:
        gamma = points[0] / 256
        return lambda v: np.copysign(np.abs(v) ** gamma, v)
    at = np.linspace(0, 1, count)
    return lambda v: np.interp(v, at, points / 65535)


# How many parameters each function type has (ICC.1:2022, table 68).
PARAMETER_COUNT = {0: 1, 1: 3, 2: 4, 3: 5, 4: 7}


def _parametric(tag: bytes) -> Curve:
    kind = struct.unpack_from(">H", tag, 8)[0]
    if kind not in PARAMETER_COUNT:
        raise BadProfile("one of its curves is of an unknown kind")
    p = [v / 65536 for v in struct.unpack_from(f">{PARAMETER_COUNT[kind]}i", tag, 12)]
    g, a, b, c, d, e, f = p[0], 1.0, 0.0, 0.0, -np.inf, 0.0, 0.0
    if kind in (1, 2):
        a, b = p[1], p[2]
        d, e = -b / a, p[3] if kind == 2 else 0.0
        f = e
    elif kind in (3, 4):
        a, b, c, d = p[1:5]
        e, f = (p[5], p[6]) if kind == 4 else (0.0, 0.0)

    def curve(v: np.ndarray) -> np.ndarray:
        return np.where(v >= d, np.maximum(a * v + b, 0.0) ** g + e, c * v + f)

    return curve


def to_linear(coded: np.ndarray, profile: IccProfile) -> np.ndarray:
    """Coded values (h, w, channels), unsigned integer or float, to linear BT.709,
    float32 (h, w, 3).

    Parameters
    ----------
    coded : ndarray, shape (h, w, channels)
        Coded values.
    profile : IccProfile
        The profile, taken apart.
    """
    if profile.curves is None:
        return _through_tables(coded, profile)
    tables = [
        _applied(coded[..., min(i, coded.shape[-1] - 1)], c) for i, c in enumerate(profile.curves)
    ]
    if profile.space == "GRAY":
        return np.repeat(tables[0][..., None], 3, axis=-1)
    linear = np.stack(tables, axis=-1)
    if profile.is_srgb or profile.matrix is None:
        return linear
    return np.asarray(
        linear @ (PCS_TO_BT709 @ profile.matrix).T.astype(np.float32), dtype=np.float32
    )


def _applied(plane: np.ndarray, curve: Curve) -> np.ndarray:
    """A curve over one plane; integers go through a table of every code, computed in
    double.
    """
    if np.issubdtype(plane.dtype, np.integer):
        top = np.iinfo(plane.dtype).max
        return through_table(plane, curve(np.arange(top + 1) / top))
    return curve(plane.astype(np.float64)).astype(np.float32)


def _through_tables(coded: np.ndarray, profile: IccProfile) -> np.ndarray:
    channels = {"RGB ": 3, "CMYK": 4, "GRAY": 1}[profile.space]
    data = coded[..., :channels]
    if data.dtype == np.uint8:
        data = data.astype(np.uint16) * 257
    try:
        out = imagecodecs.cms_transform(
            np.ascontiguousarray(data),
            profile.raw,
            imagecodecs.cms_profile("srgb"),
            colorspace={"RGB ": "rgb", "CMYK": "cmyk", "GRAY": "gray"}[profile.space],
            outcolorspace="rgb",
            outdtype="float32",
            flags=LCMS_NO_SHORTCUTS,
        )
    except (imagecodecs.CmsError, ValueError, RuntimeError) as error:
        raise BadProfile("its tables can not be used") from error
    return srgb.decode(out).astype(np.float32)
