"""TIFF 6.0, striped or tiled, 8 and 16 bit and float, any compression the codecs know."""

from __future__ import annotations

import logging
from pathlib import Path
from typing import Any

import numpy as np
import tifffile

from glenhail.core.files.coded import Coded, Header

logging.getLogger("tifffile").setLevel(logging.CRITICAL)

EXIF_IFD = 34665
WHITE_IS_ZERO = 0
INK_SPACE = 5


class Unreadable(ValueError):
    """Why a file's contents can not be used, as a clause."""


def header(path: Path) -> Header:
    """Read the first page's header."""
    with _opened(path) as tif:
        return _header(_page(tif))


def tags(path: Path) -> dict[int, Any]:
    """Tags of the first page and of its Exif, by number, whatever the pixels are."""
    with _opened(path) as tif:
        return _page_tags(_page(tif))


def _page_tags(page: tifffile.TiffPage) -> dict[int, Any]:
    found: dict[int, Any] = {t.code: t.value for t in page.tags}
    exif = found.get(EXIF_IFD)
    if isinstance(exif, dict):
        names = tifffile.TIFF.EXIF_TAGS
        found |= {int(names[k]): v for k, v in exif.items() if k in names}
    return found


def decode(path: Path) -> Coded:
    """Decode the first page."""
    with _opened(path) as tif:
        page = _page(tif)
        head = _header(page)
        whole = sum(page.databytecounts) > 0 and all(
            start + size <= tif.filehandle.size for start, size in zip(page.dataoffsets, page.databytecounts, strict=True)
        )
        if not whole:
            raise Unreadable("the file ends before its picture does")
        values = page.asarray()
    if page.planarconfig == 2 and values.ndim == 3:
        values = np.moveaxis(values, 0, -1)
    values = values.reshape(head.height, head.width, -1)
    if page.photometric == WHITE_IS_ZERO and values.dtype.kind == "u":
        values = np.iinfo(values.dtype).max - values
    if values.dtype in (np.float64, np.float16):
        values = values.astype(np.float32)
    return Coded(head, values)


def _opened(path: Path) -> tifffile.TiffFile:
    try:
        return tifffile.TiffFile(path)
    except (tifffile.TiffFileError, ValueError, OSError, KeyError) as error:
        raise Unreadable("its TIFF header is damaged") from error


def _page(tif: tifffile.TiffFile) -> tifffile.TiffPage:
    if not tif.pages:
        raise Unreadable("the TIFF holds no picture")
    page = tif.pages[0]
    if not isinstance(page, tifffile.TiffPage) or page.imagewidth == 0 or page.imagelength == 0:
        raise Unreadable("the TIFF holds no picture")
    return page


def _header(page: tifffile.TiffPage) -> Header:
    dtype = page.dtype
    if dtype is None or dtype.kind not in "uf" or (dtype.kind == "u" and dtype.itemsize > 2):
        raise Unreadable(f"its samples are {dtype or 'of an unknown kind'}")
    return Header(
        format="TIFF",
        width=page.imagewidth,
        height=page.imagelength,
        channels=page.samplesperpixel,
        bits=dtype.itemsize * 8,
        sample="float" if dtype.kind == "f" else "unsigned",
        compression=getattr(page.compression, "name", str(page.compression)).replace("_", " ").lower(),
        icc=bytes(icc) if (icc := page.iccprofile) else None,
        tags=_page_tags(page),
        space="cmyk" if page.photometric == INK_SPACE else "rgb",
    )
