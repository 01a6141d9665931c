"""Fields of TIFF blocks, and an Exif block made anew with what describes the light
alone.
"""

from __future__ import annotations

import struct
from collections.abc import Iterator
from dataclasses import dataclass

# Exif 3.0: how the light was taken, not by whom, when or where.
SHOOTING = frozenset({33434, 33437, 34855, 37377, 37378, 37386, 40961, 40962, 40963, 41989, 42036})
BLOCK = frozenset({271, 272, 274, 282, 283, 296})  # of the first directory of an Exif block
EXIF_IFD = 34665
SIZES = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4}
MOST_ENTRIES = 1000
STARTS = (b"II*\0", b"MM\0*")


@dataclass(frozen=True)
class Entry:
    """One field: its tag, type, count, the bytes of its value, and where these lie from
    the block's start.
    """

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
    """Byte order as `struct` writes it.

    Parameters
    ----------
    block : bytes
        An Exif block from its byte order mark on.
    """
    return "<" if block[:2] == b"II" else ">"


def number(block: bytes | bytearray, at: int, kind: str, order: str) -> int:
    """An unsigned number, or 0 beyond the end.

    Parameters
    ----------
    block : bytes
        An Exif block from its byte order mark on.
    at : int
        Which step; 0 is the first.
    kind : str
        As `struct` names it.
    order : str
        Byte order as `struct` writes it.
    """
    if at < 0 or at + struct.calcsize(kind) > len(block):
        return 0
    return int(struct.unpack_from(order + kind, block, at)[0])


def entries(block: bytes | bytearray, ifd: int, order: str) -> Iterator[Entry]:
    """The fields of a directory that lie wholly within the block.

    Parameters
    ----------
    block : bytes
        An Exif block from its byte order mark on.
    ifd : int
        Where the directory begins, bytes.
    order : str
        Byte order as `struct` writes it.
    """
    for i in range(min(number(block, ifd, "H", order), MOST_ENTRIES)):
        at = ifd + 2 + 12 * i
        tag, kind, count = (
            number(block, at, "H", order),
            number(block, at + 2, "H", order),
            number(block, at + 4, "I", order),
        )
        size = SIZES.get(kind, 0) * count
        start = at + 8 if size <= 4 else number(block, at + 8, "I", order)
        if size and at + 12 <= len(block) and start + size <= len(block):
            yield Entry(tag, kind, count, bytes(block[start : start + size]), start)


def exif_block(block: bytes) -> bytes:
    """A block made anew, with its camera, orientation, resolution and shooting settings
    alone; empty where it has none of them.

    Parameters
    ----------
    block : bytes
        An Exif block from its byte order mark on.
    """
    if block[:4] not in STARTS:
        return b""
    order = order_of(block)
    first = list(entries(block, number(block, 4, "I", order), order))
    kept = [e for e in first if e.tag in BLOCK]
    pointer = next((e.numbers(order) for e in first if e.tag == EXIF_IFD), [])
    shooting = (
        [e for e in entries(block, pointer[0], order) if e.tag in SHOOTING] if pointer else []
    )
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
            value, values = (
                struct.pack(order + "I", behind + len(values)),
                values + value + bytes(len(value) % 2),
            )
        table += struct.pack(order + "HHI", e.tag, e.kind, e.count) + value.ljust(4, b"\0")
    return table + bytes(4) + values
