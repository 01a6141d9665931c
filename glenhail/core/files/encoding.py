"""Writing pictures: 16-bit TIFF and PNG, sRGB encoded."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from fractions import Fraction
from pathlib import Path

import imagecodecs
import numpy as np
import tifffile

from glenhail.core.colour import srgb
from glenhail.core.files import exif as tagged
from glenhail.core.parallel import in_order
from glenhail.core.picture import Facts, Floats

STRIP = 64  # rows that are packed together
# Exif 2.32, 4.6.4, DateTime; a file may say anything, and the writer takes nothing else.
EXIF_DATE = re.compile(r"\d{4}:\d\d:\d\d \d\d:\d\d:\d\d")


def encoded_codes(linear: Floats, bits: int) -> np.ndarray:
    """Linear light to sRGB codes of 8 or 16 bits, clipped to what they can hold.

    Parameters
    ----------
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    bits : int
        Bits a sample, 8 or 16.
    """
    top = {8: 255, 16: 65535}[bits]
    codes = np.clip(srgb.encode(linear), 0, 1) * top
    return np.round(codes).astype(np.uint8 if bits == 8 else np.uint16)


def write_tiff(
    path: Path, linear: Floats, facts: Facts | None = None, bits: int = 16, icc: bytes | None = None
) -> None:
    """Write a deflate-compressed TIFF, with shooting facts as TIFF/EP tags where given.

    `icc` replaces the sRGB assumption only as a label: the codes written are sRGB's.

    Parameters
    ----------
    path : Path
        The file.
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    facts : Facts, optional
        Shooting facts to be written with it.
    bits : int
        Bits a sample, 8 or 16.
    icc : bytes, optional
        An ICC profile to label it with.
    """
    write_tiff_bands(path, [linear], linear.shape[0], linear.shape[1], facts, bits, icc)


def write_tiff_bands(
    path: Path,
    bands: Iterable[Floats],
    height: int,
    width: int,
    facts: Facts | None = None,
    bits: int = 16,
    icc: bytes | None = None,
) -> None:
    """The same from bands of full width, top down, so that a large picture need never
    be in memory as a whole.

    Every band but the last has a multiple of `STRIP` rows.

    Parameters
    ----------
    path : Path
        The file.
    bands : iterable of ndarray, shape (rows, w, 3)
        Linear light, top down.
    height : int
        Pixels down, at least 1.
    width : int
        Pixels across, at least 1.
    facts : Facts, optional
        Shooting facts to be written with it.
    bits : int
        Bits a sample, 8 or 16.
    icc : bytes, optional
        An ICC profile to label it with.
    """
    tifffile.imwrite(
        path,
        in_order(_packed, _strips(bands, bits)),
        shape=(height, width, 3),
        dtype=np.uint8 if bits == 8 else np.uint16,
        photometric="rgb",
        compression="zlib",
        predictor=True,
        rowsperstrip=STRIP,
        iccprofile=icc,
        datetime=facts.taken if facts and EXIF_DATE.fullmatch(facts.taken or "") else None,
        software=facts.software if facts and facts.software else "Glenhail",
        metadata=None,
        extratags=_extra_tags(facts) if facts else [],
    )


def _strips(bands: Iterable[Floats], bits: int) -> Iterator[np.ndarray]:
    for band in bands:
        codes = encoded_codes(band, bits)
        for first in range(0, codes.shape[0], STRIP):
            yield codes[first : first + STRIP]


def _packed(codes: np.ndarray) -> bytes:
    """A strip as TIFF 6.0 packs it: section 14's horizontal differences, then deflate."""
    differences = np.asarray(imagecodecs.delta_encode(np.ascontiguousarray(codes), axis=1))
    return bytes(imagecodecs.zlib_encode(differences.tobytes(), level=1))


def _extra_tags(facts: Facts) -> list[tuple[int, str, int, object, bool]]:
    tags: list[tuple[int, str, int, object, bool]] = []
    for code, value in ((tagged.MODEL, facts.camera), (tagged.LENS, facts.lens)):
        if value:
            tags.append((code, "s", 0, value, True))
    if facts.iso:
        tags.append((tagged.ISO, "I", 1, int(facts.iso), True))
    for code, amount in (
        (tagged.EXPOSURE_TIME, facts.shutter_s),
        (tagged.F_NUMBER, facts.aperture),
        (tagged.FOCAL_LENGTH, facts.focal_mm),
    ):
        if amount:
            share = Fraction(amount).limit_denominator(1_000_000)
            tags.append((code, "2I", 1, (share.numerator, share.denominator), True))
    return tags


def write_png(path: Path, linear: Floats, bits: int = 16) -> None:
    """Write a PNG, sRGB encoded, 8 or 16 bit.

    Parameters
    ----------
    path : Path
        The file.
    linear : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    bits : int
        Bits a sample, 8 or 16.
    """
    path.write_bytes(png_bytes(encoded_codes(linear, bits)))


THUMB_QUALITY = 82


def webp_bytes(codes: np.ndarray) -> bytes:
    """A lossy WebP of uint8 sRGB codes, shape (h, w, 3), for lists: never for looking
    closely.

    Parameters
    ----------
    codes : ndarray, shape (h, w, 3), uint8
        Codes.
    """
    return bytes(
        imagecodecs.webp_encode(np.ascontiguousarray(codes), level=THUMB_QUALITY, lossless=False)
    )


def png_bytes(codes: np.ndarray, level: int = 1) -> bytes:
    """A PNG of uint8 or uint16 codes, shape (h, w, 3), quickly packed.

    Parameters
    ----------
    codes : ndarray, shape (h, w, 3), uint8 or uint16
        Codes.
    level : int
        How hard it is packed, 0..9.
    """
    return bytes(imagecodecs.png_encode(np.ascontiguousarray(codes), level=level))
