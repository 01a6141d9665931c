"""Writing OpenRaster: pictures as named layers over each other, for any painting
program that reads the open format.

References
----------
OpenRaster file layout, baseline (freedesktop.org): a ZIP whose first entry is the media
type, uncompressed, then ``stack.xml``, one PNG for each layer, the merged picture and a
thumbnail.
"""

from __future__ import annotations

import xml.etree.ElementTree as ET
import zipfile
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from glenhail.core.files.encoding import encoded_codes, png_bytes
from glenhail.core.filters.resample import resample
from glenhail.core.picture import Floats, Rect

MEDIA_TYPE = "image/openraster"
VERSION = "0.0.3"
THUMBNAIL = 256  # px, the longer side at most


@dataclass(frozen=True)
class Layer:
    """One layer: its name, its pixels in linear light, and where its upper left corner
    lies on the canvas.
    """

    name: str
    pixels: Floats
    x: int = 0
    y: int = 0


def write_openraster(path: Path, width: int, height: int, layers: Iterable[Layer]) -> int:
    """Write layers, 16 bit, sRGB encoded; the first is the lowest and the only one
    shown at first. Returns how many there are.

    Layers may come one after the other, so that only one of them is in memory.

    Parameters
    ----------
    path : Path
        The file.
    width : int
        Pixels across, at least 1.
    height : int
        Pixels down, at least 1.
    layers : iterable of Layer
        From the lowest up.
    """
    stack: list[dict[str, str]] = []
    with zipfile.ZipFile(path, "w", zipfile.ZIP_STORED) as pack:  # a PNG is packed already
        pack.writestr("mimetype", MEDIA_TYPE)
        for number, layer in enumerate(layers):
            source = f"data/layer{number:03}.png"
            pack.writestr(source, png_bytes(encoded_codes(layer.pixels, 16)))
            shown = "visible" if number == 0 else "hidden"
            stack.append(
                {
                    "name": layer.name,
                    "src": source,
                    "x": str(layer.x),
                    "y": str(layer.y),
                    "opacity": "1.0",
                    "visibility": shown,
                    "composite-op": "svg:src-over",
                }
            )
            if number == 0:
                _write_merged(pack, layer, width, height)
        pack.writestr("stack.xml", _stack_xml(width, height, stack))
    return len(stack)


def _write_merged(pack: zipfile.ZipFile, lowest: Layer, width: int, height: int) -> None:
    """What a viewer shows: the one visible layer."""
    merged = np.zeros((height, width, 3), np.float32)
    h, w = lowest.pixels.shape[:2]
    merged[lowest.y : lowest.y + h, lowest.x : lowest.x + w] = lowest.pixels
    pack.writestr("mergedimage.png", png_bytes(encoded_codes(merged, 16)))
    scale = min(1.0, THUMBNAIL / max(width, height))
    size = max(1, round(width * scale)), max(1, round(height * scale))
    pack.writestr(
        "Thumbnails/thumbnail.png",
        png_bytes(encoded_codes(resample(merged, Rect(0, 0, width, height), *size, "area"), 8)),
    )


def _stack_xml(width: int, height: int, stack: list[dict[str, str]]) -> bytes:
    image = ET.Element("image", {"version": VERSION, "w": str(width), "h": str(height)})
    layers = ET.SubElement(image, "stack")
    for attributes in reversed(stack):  # the uppermost comes first
        ET.SubElement(layers, "layer", attributes)
    return bytes(ET.tostring(image, encoding="utf-8", xml_declaration=True))
