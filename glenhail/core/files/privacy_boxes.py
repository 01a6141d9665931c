"""AVIF, HEIC and JPEG XL: boxes and items that hold pixels stay in their places, every
other byte is zero.

References
----------
ISO/IEC 14496-12 (boxes), 23008-12 (items), 18181-2 (JPEG XL's).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from glenhail.core.files.privacy_exif import exif_block

# Boxes that stay whole; of `meta` and `mdat`, and of `hdlr`, `iinf`, `iprp` and `idat` within, a
# part does.
TOP = {b"ftyp", b"jxlc", b"jxlp", b"jxll", b"jxli", b"JXL "}
IN_META = {b"pitm", b"iloc", b"iref", b"dinf", b"grpl"}
PROPERTIES = {
    b"ispe",
    b"pixi",
    b"colr",
    b"hvcC",
    b"av1C",
    b"avcC",
    b"irot",
    b"imir",
    b"clap",
    b"pasp",
    b"auxC",
    b"lsel",
    b"a1op",
    b"a1lx",
    b"clli",
    b"mdcv",
    b"cclv",
    b"rloc",
    b"jpgC",
}
PIXELS = {b"hvc1", b"hev1", b"lhv1", b"av01", b"avc1", b"jpeg", b"grid", b"iovl", b"iden", b"tmap"}
EXIF = b"Exif"
MOST = 10_000  # boxes, items and extents


@dataclass(frozen=True)
class Box:
    """A box's type, where its contents begin and end."""

    kind: bytes
    start: int
    end: int


def boxes(data: bytes, start: int, end: int) -> Iterator[Box]:
    """The boxes between two places; one that reaches beyond ends them.

    Parameters
    ----------
    data : bytes
        The whole file.
    start : int
        Where the first begins, bytes.
    end : int
        Where the last ends, bytes.
    """
    for _ in range(MOST):
        if start + 8 > end:
            return
        size, head = int.from_bytes(data[start : start + 4], "big"), 8
        if size == 1:
            size, head = int.from_bytes(data[start + 8 : start + 16], "big"), 16
        stop = end if size == 0 else start + size
        if (size and size < head) or stop > end:
            return
        yield Box(data[start + 4 : start + 8], start + head, stop)
        start = stop


class _Reader:
    """Numbers one after the other."""

    def __init__(self, data: bytes, at: int, end: int) -> None:
        self.data, self.at, self.end = data, at, end

    def take(self, size: int) -> int:
        found = int.from_bytes(self.data[self.at : min(self.at + size, self.end)], "big")
        self.at += size
        return found


def clean_boxes(data: bytes) -> bytes | None:
    """A file of boxes with its pixels alone;

    None where none of its items are known to be such.

    Parameters
    ----------
    data : bytes
        The whole file.
    """
    out = bytearray(len(data))
    at = 0
    for box in boxes(data, 0, len(data)):
        out[at : box.start] = data[at : box.start]
        if box.kind in TOP:
            out[box.start : box.end] = data[box.start : box.end]
        at = box.end
    if any(box.kind == b"JXL " for box in boxes(data, 0, len(data))):
        return bytes(out)
    meta = next((b for b in boxes(data, 0, len(data)) if b.kind == b"meta"), None)
    return bytes(out) if meta is not None and _clean_meta(data, out, meta) else None


def _clean_meta(data: bytes, out: bytearray, meta: Box) -> bool:
    at = meta.start + 4
    out[meta.start : at] = data[meta.start : at]
    inside = {b.kind: b for b in boxes(data, at, meta.end)}
    for box in boxes(data, at, meta.end):
        out[at : box.start] = data[at : box.start]
        if box.kind in IN_META:
            out[box.start : box.end] = data[box.start : box.end]
        at = box.end
    if b"hdlr" in inside:  # the handler's type; its name is free text
        h = inside[b"hdlr"]
        out[h.start : h.start + 12] = data[h.start : h.start + 12]
    if b"iprp" in inside:
        _clean_properties(data, out, inside[b"iprp"])
    kinds = _clean_items(data, out, inside[b"iinf"]) if b"iinf" in inside else {}
    idat = inside[b"idat"].start if b"idat" in inside else 0
    found = False
    for item, start, size in _extents(data, inside[b"iloc"], idat) if b"iloc" in inside else ():
        if kinds.get(item) in PIXELS:
            out[start : start + size] = data[start : start + size]
            found = found or size > 0
        elif kinds.get(item) == EXIF:
            _write_exif(data, out, start, size)
    return found


def _clean_properties(data: bytes, out: bytearray, iprp: Box) -> None:
    at = iprp.start
    for box in boxes(data, iprp.start, iprp.end):
        out[at : box.start] = data[at : box.start]
        if box.kind == b"ipco":
            within = box.start
            for prop in boxes(data, box.start, box.end):
                out[within : prop.start] = data[within : prop.start]
                if prop.kind in PROPERTIES:
                    out[prop.start : prop.end] = data[prop.start : prop.end]
                within = prop.end
        else:
            out[box.start : box.end] = data[box.start : box.end]
        at = box.end


def _clean_items(data: bytes, out: bytearray, iinf: Box) -> dict[int, bytes]:
    """Types of the items by their numbers; their names, which are free text, are
    blanked.
    """
    version = data[iinf.start]
    at = iinf.start + 4 + (2 if version == 0 else 4)
    out[iinf.start : at] = data[iinf.start : at]
    kinds = {}
    for box in boxes(data, at, iinf.end):
        wide = 4 if data[box.start] >= 3 else 2
        named = box.start + 4 + wide + 2
        kinds[int.from_bytes(data[box.start + 4 : box.start + 4 + wide], "big")] = data[
            named : named + 4
        ]
        out[at : named + 4] = data[at : named + 4]
        at = box.end
    return kinds


def _extents(data: bytes, iloc: Box, idat: int) -> Iterator[tuple[int, int, int]]:
    """Item, start and size of each piece of an item's data within this file."""
    r = _Reader(data, iloc.start, iloc.end)
    version = r.take(1)
    r.take(3)
    sizes, more = r.take(1), r.take(1)
    offset_size, length_size, base_size, index_size = (
        sizes >> 4,
        sizes & 15,
        more >> 4,
        more & 15 if version in (1, 2) else 0,
    )
    for _ in range(min(r.take(2 if version < 2 else 4), MOST)):
        item = r.take(2 if version < 2 else 4)
        method = r.take(2) & 15 if version in (1, 2) else 0
        elsewhere = r.take(2)
        base = r.take(base_size)
        for _ in range(min(r.take(2), MOST)):
            r.take(index_size)
            start, size = base + r.take(offset_size), r.take(length_size)
            if elsewhere == 0 and method < 2:
                start += idat if method == 1 else 0
                yield item, start, max(0, min(size or len(data) - start, len(data) - start))


def _write_exif(data: bytes, out: bytearray, start: int, size: int) -> None:
    """What may stay of an Exif item, in its place, where it fits."""
    skip = 4 + int.from_bytes(data[start : start + 4], "big")
    block = exif_block(data[start + skip : start + size])
    if block and 4 + len(block) <= size:
        out[start : start + 4 + len(block)] = bytes(4) + block
