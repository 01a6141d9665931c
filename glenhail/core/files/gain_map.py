"""Pictures that hold a second one by which a screen brightens them."""

from __future__ import annotations

from pathlib import Path

LOOKED_AT = 1 << 20  # bytes from the start, where what describes a file stands
# Namespaces and box types: the XMP of gain maps, ISO 21496-1's own name, HEIF's item and auxiliary
# types.
MARKS = (b"hdr-gain-map", b"iso:ts:21496", b"tmap", b"hdrgainmap")
TOLD = "it holds a gain map for screens of high dynamic range; its base picture is measured"
KINDS = (b"\xff\xd8\xff", b"ftyp", b"\xff\x0a", b"JXL ")


def gain_map_in(path: Path) -> list[str]:
    """What is to be told of a file that holds one; nothing of others.

    Parameters
    ----------
    path : Path
        The file.
    """
    with path.open("rb") as file:
        start = file.read(LOOKED_AT)
    if not any(kind in start[:12] for kind in KINDS):
        return []
    return [TOLD] if any(mark in start for mark in MARKS) else []
