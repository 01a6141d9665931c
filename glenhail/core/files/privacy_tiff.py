"""TIFF blocks and files with what describes their pixels alone: files in their places, Exif blocks made anew."""

from __future__ import annotations

import struct
from collections.abc import Iterator
from dataclasses import dataclass

# TIFF 6.0, TIFF/EP and DNG 1.7: what a decoder needs to give the same pixels, and the camera's name.
PICTURE = frozenset(
    {254, 255, 256, 257, 258, 259, 262, 263, 264, 265, 266, 271, 272, 273, 274, 277, 278, 279, 280, 281, 282, 283, 284, 290, 291}
    | {292, 293, 296, 301, 317, 318, 319, 320, 321, 322, 323, 324, 325, 330, 332, 334, 336, 338, 339, 340, 341, 342, 347}
    | {512, 513, 514, 515, 517, 518, 519, 520, 521, 529, 530, 531, 532, 33421, 33422, 34665, 34675}
    | set(range(50706, 50735)) | set(range(50736, 50740)) | {50741, 50778, 50779, 50780, 50781, 50829, 50830, 50831, 50832, 50833}
    | {50834, 50879, 50931, 50932, 50933, 50934, 50964, 50965, 50974, 50975, 51008, 51009, 51022, 51041, 51044, 51107, 51125}
    | {52525, 52529, 52530, 52531, 52532, 52533, 52536, 52543, 52547, 52548, 52550, 52551, 52552, 52553}
)  # fmt: skip
# UniqueCameraModel (50708) names the camera; LocalizedCameraModel (50709) is free text.
FREE_TEXT = frozenset({50709})
# Exif 3.0: how the light was taken, not by whom, when or where.
SHOOTING = frozenset({33434, 33437, 34855, 37377, 37378, 37386, 40961, 40962, 40963, 41989, 42036})
BLOCK = frozenset({271, 272, 274, 282, 283, 296})  # of the first directory of an Exif block
SUB_IFDS, EXIF_IFD = 330, 34665
DATA = {273: 279, 324: 325, 513: 514}  # offsets of data, and their byte counts
SIZES = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4}
MOST_IFDS, MOST_ENTRIES = 100, 1000
STARTS = (b"II*\0", b"MM\0*")


@dataclass(frozen=True)
class Entry:
    """One field: its tag, type, count, the bytes of its value, and where these lie from the block's start."""

    tag: int
    kind: int
    count: int
    value: bytes
    at: int

    def numbers(self, order: str) -> list[int]:
        """Its value as unsigned numbers, for types that hold such."""
        letter = {1: "B", 3: "H", 4: "I", 13: "I"}.get(self.kind)
        return list(struct.unpack(f"{order}{self.count}{letter}", self.value)) if letter else []


def order_of(block: bytes | bytearray) -> str:
    """Byte order as `struct` writes it."""
    return "<" if block[:2] == b"II" else ">"


def number(block: bytes | bytearray, at: int, kind: str, order: str) -> int:
    """An unsigned number, or 0 beyond the end."""
    if at < 0 or at + struct.calcsize(kind) > len(block):
        return 0
    return int(struct.unpack_from(order + kind, block, at)[0])


def entries(block: bytes | bytearray, ifd: int, order: str) -> Iterator[Entry]:
    """The fields of a directory that lie wholly within the block."""
    for i in range(min(number(block, ifd, "H", order), MOST_ENTRIES)):
        at = ifd + 2 + 12 * i
        tag, kind, count = number(block, at, "H", order), number(block, at + 2, "H", order), number(block, at + 4, "I", order)
        size = SIZES.get(kind, 0) * count
        start = at + 8 if size <= 4 else number(block, at + 8, "I", order)
        if size and at + 12 <= len(block) and start + size <= len(block):
            yield Entry(tag, kind, count, bytes(block[start : start + size]), start)


def exif_block(block: bytes) -> bytes:
    """A block made anew, with its camera, orientation, resolution and shooting settings alone; empty where it has none of them."""
    if block[:4] not in STARTS:
        return b""
    order = order_of(block)
    first = list(entries(block, number(block, 4, "I", order), order))
    kept = [e for e in first if e.tag in BLOCK]
    pointer = next((e.numbers(order) for e in first if e.tag == EXIF_IFD), [])
    shooting = [e for e in entries(block, pointer[0], order) if e.tag in SHOOTING] if pointer else []
    if not kept and not shooting:
        return b""
    head = bytes(block[:4]) + struct.pack(order + "I", 8)
    if not shooting:
        return head + _directory(kept, 8, order)
    link = Entry(EXIF_IFD, 4, 1, bytes(4), 0)
    after = 8 + len(_directory([*kept, link], 8, order))
    link = Entry(EXIF_IFD, 4, 1, struct.pack(order + "I", after), 0)
    return head + _directory([*kept, link], 8, order) + _directory(shooting, after, order)


def _directory(kept: list[Entry], at: int, order: str) -> bytes:
    """A directory with its values behind it, as it stands at a place of the block."""
    table, values = struct.pack(order + "H", len(kept)), b""
    behind = at + 2 + 12 * len(kept) + 4
    for e in sorted(kept, key=lambda e: e.tag):
        value = e.value
        if len(value) > 4:
            value, values = struct.pack(order + "I", behind + len(values)), values + value + bytes(len(value) % 2)
        table += struct.pack(order + "HHI", e.tag, e.kind, e.count) + value.ljust(4, b"\0")
    return table + bytes(4) + values


def clean_file(data: bytes) -> bytes | None:
    """A TIFF or DNG file in which every byte is zero that no kept field stands in or points to; None where it has no pixels."""
    order, out = order_of(data), bytearray(len(data))
    out[:8] = data[:8]
    waiting, seen, pixels = [(number(data, 4, "I", order), PICTURE)], set[int](), False
    while waiting and len(seen) < MOST_IFDS:
        ifd, may = waiting.pop()
        if not ifd or ifd in seen or ifd + 2 > len(data):
            continue
        seen.add(ifd)
        # Some writers put the shooting settings beside the picture's own fields.
        kept = [e for e in entries(data, ifd, order) if (e.tag in may or e.tag in SHOOTING) and e.tag not in FREE_TEXT]
        following = number(data, ifd + 2 + 12 * number(data, ifd, "H", order), "I", order)
        _write(out, data, ifd, kept, following if may is PICTURE else 0, order)
        told = {e.tag: e.numbers(order) for e in kept}
        for offsets, counts in DATA.items():
            for start, size in zip(told.get(offsets, ()), told.get(counts, ()), strict=False):
                out[start : start + size] = data[start : start + size]
                pixels = pixels or size > 0
        waiting += [(n, PICTURE) for n in told.get(SUB_IFDS, ())] + [(n, SHOOTING) for n in told.get(EXIF_IFD, ())]
        if may is PICTURE:
            waiting.append((following, PICTURE))
    return bytes(out[: len(data)]) if pixels else None


def _write(out: bytearray, data: bytes, ifd: int, kept: list[Entry], following: int, order: str) -> None:
    """A directory in its place with fewer fields; their values stay where they were."""
    struct.pack_into(order + "H", out, ifd, len(kept))
    at = ifd + 2
    for e in kept:
        inside = len(e.value) <= 4
        struct.pack_into(order + "HHI", out, at, e.tag, e.kind, e.count)
        out[at + 8 : at + 12] = e.value.ljust(4, b"\0") if inside else struct.pack(order + "I", e.at)
        if not inside:
            out[e.at : e.at + len(e.value)] = data[e.at : e.at + len(e.value)]
        at += 12
    if at + 4 <= len(out):
        struct.pack_into(order + "I", out, at, following)
