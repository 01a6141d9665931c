"""TIFF and DNG files with what describes their pixels alone, every byte in its place."""

from __future__ import annotations

import struct

from glenhail.core.files.privacy_exif import EXIF_IFD, SHOOTING, Entry, entries, number, order_of
from glenhail.core.files.privacy_jpeg import JPEG_START, clean_jpeg

# TIFF 6.0, TIFF/EP and DNG 1.7: what a decoder needs to give the same pixels, and the camera's
# name.
PICTURE = frozenset(
    {
        254,
        255,
        256,
        257,
        258,
        259,
        262,
        263,
        264,
        265,
        266,
        271,
        272,
        273,
        274,
        277,
        278,
        279,
        280,
        281,
        282,
        283,
        284,
        290,
        291,
    }
    | {
        292,
        293,
        296,
        301,
        317,
        318,
        319,
        320,
        321,
        322,
        323,
        324,
        325,
        330,
        332,
        334,
        336,
        338,
        339,
        340,
        341,
        342,
        347,
    }
    | {512, 513, 514, 515, 517, 518, 519, 520, 521, 529, 530, 531, 532, 33421, 33422, 34665, 34675}
    | set(range(50706, 50735))
    | set(range(50736, 50740))
    | {50741, 50778, 50779, 50780, 50781, 50829, 50830, 50831, 50832, 50833}
    | {
        50834,
        50879,
        50931,
        50932,
        50933,
        50934,
        50964,
        50965,
        50974,
        50975,
        51008,
        51009,
        51022,
        51041,
        51044,
        51107,
        51125,
    }
    | {
        52525,
        52529,
        52530,
        52531,
        52532,
        52533,
        52536,
        52543,
        52547,
        52548,
        52550,
        52551,
        52552,
        52553,
    }
)
# UniqueCameraModel (50708) names the camera; LocalizedCameraModel (50709) is free text.
FREE_TEXT = frozenset({50709})
SUB_IFDS = 330
DATA = {273: 279, 324: 325, 513: 514}  # offsets of data, and their byte counts
MOST_IFDS = 100


def clean_file(data: bytes) -> bytes | None:
    """A TIFF or DNG file in which every byte is zero that no kept field stands in or
    points to; None where it has no pixels.

    Parameters
    ----------
    data : bytes
        The whole file.
    """
    order, out = order_of(data), bytearray(len(data))
    out[:8] = data[:8]
    waiting, seen, pixels = [(number(data, 4, "I", order), PICTURE)], set[int](), False
    while waiting and len(seen) < MOST_IFDS:
        ifd, may = waiting.pop()
        if not ifd or ifd in seen or ifd + 2 > len(data):
            continue
        seen.add(ifd)
        # Some writers put the shooting settings beside the picture's own fields.
        kept = [
            e
            for e in entries(data, ifd, order)
            if (e.tag in may or e.tag in SHOOTING) and e.tag not in FREE_TEXT
        ]
        following = number(data, ifd + 2 + 12 * number(data, ifd, "H", order), "I", order)
        _write(out, data, ifd, kept, following if may is PICTURE else 0, order)
        told = {e.tag: e.numbers(order) for e in kept}
        for offsets, counts in DATA.items():
            for start, size in zip(told.get(offsets, ()), told.get(counts, ()), strict=False):
                out[start : start + size] = _pixels(data[start : start + size])
                pixels = pixels or size > 0
        waiting += [(n, PICTURE) for n in told.get(SUB_IFDS, ())] + [
            (n, SHOOTING) for n in told.get(EXIF_IFD, ())
        ]
        if may is PICTURE:
            waiting.append((following, PICTURE))
    return bytes(out[: len(data)]) if pixels else None


def _write(
    out: bytearray, data: bytes, ifd: int, kept: list[Entry], following: int, order: str
) -> None:
    """A directory in its place with fewer fields; their values stay where they were."""
    struct.pack_into(order + "H", out, ifd, len(kept))
    at = ifd + 2
    for e in kept:
        inside = len(e.value) <= 4
        struct.pack_into(order + "HHI", out, at, e.tag, e.kind, e.count)
        out[at + 8 : at + 12] = (
            e.value.ljust(4, b"\0") if inside else struct.pack(order + "I", e.at)
        )
        if not inside:
            out[e.at : e.at + len(e.value)] = data[e.at : e.at + len(e.value)]
        at += 12
    if at + 4 <= len(out):
        struct.pack_into(order + "I", out, at, following)


def _pixels(piece: bytes) -> bytes:
    """A strip or tile; a JPEG stream within tells no more than one by itself may, and
    is filled up behind its end.
    """
    made = clean_jpeg(piece) if piece.startswith(JPEG_START) else None
    return piece if made is None else made.ljust(len(piece), b"\0")[: len(piece)]
