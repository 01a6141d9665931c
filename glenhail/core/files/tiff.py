"""TIFF 6.0, striped or tiled: grey, RGB, palette, CMYK and CIELAB of 8 to 16 bit and
float, any compression the codecs know.
"""

from __future__ import annotations

import logging
from pathlib import Path
from typing import Any

import numpy as np
import tifffile

from glenhail.core.files.cielab import to_bt709
from glenhail.core.files.coded import CodedPicture, Header, Unreadable

logging.getLogger("tifffile").setLevel(logging.CRITICAL)

EXIF_IFD = 34665
WHITE_IS_ZERO, PALETTE, MASK, INK_SPACE, YCBCR, CIELAB, ICCLAB, ITULAB = 0, 3, 4, 5, 6, 8, 9, 10
JPEG_COMPRESSIONS = (6, 7)
SUBFILE, MAX_SAMPLE, WHITE_POINT = 254, 281, 318
REDUCED = 1  # bit of NewSubfileType: a smaller version of another picture of the file
# times the pixels that another page of the same shape has, from where on the first is its thumbnail
THUMBNAIL = 4
AS_INTEGERS = (
    "Save it as RGB with 8 or 16 unsigned bits a sample, or as 32-bit float in linear light with"
    " 1.0 for white."
)
AS_RGB = "Save it in RGB colour, 8 or 16 bit."


def header(path: Path) -> Header:
    """Read the main page's header.

    Parameters
    ----------
    path : Path
        The file.
    """
    with _opened(path) as tif:
        return _header(*_page(tif))


def tags(path: Path) -> dict[int, Any]:
    """Tags of the main page and of its Exif, by number, whatever the pixels are.

    Parameters
    ----------
    path : Path
        The file.
    """
    with _opened(path) as tif:
        return _page_tags(_page(tif)[0])


def _page_tags(page: tifffile.TiffPage) -> dict[int, Any]:
    found: dict[int, Any] = {t.code: t.value for t in page.tags}
    exif = found.get(EXIF_IFD)
    if isinstance(exif, dict):
        names = tifffile.TIFF.EXIF_TAGS
        found |= {int(names[k]): v for k, v in exif.items() if k in names}
    return found


def decode(path: Path) -> CodedPicture:
    """Decode the main page.

    Parameters
    ----------
    path : Path
        The file.
    """
    with _opened(path) as tif:
        page, doubts = _page(tif)
        head = _header(page, doubts)
        whole = sum(page.databytecounts) > 0 and all(
            start + size <= tif.filehandle.size
            for start, size in zip(page.dataoffsets, page.databytecounts, strict=True)
        )
        if not whole:
            raise Unreadable("the file ends before its picture does")
        values = page.asarray()
    if page.planarconfig == 2 and values.ndim == 3:
        values = np.moveaxis(values, 0, -1)
    if page.photometric == PALETTE:
        values = _through_palette(page, values)
    values = values.reshape(head.height, head.width, -1)
    if page.photometric in (CIELAB, ICCLAB):
        return CodedPicture(
            head, to_bt709(values, page.photometric == CIELAB, head.tags.get(WHITE_POINT))
        )
    if values.dtype.kind == "u":
        values = _to_full_range(page, values)
    if page.photometric == WHITE_IS_ZERO and values.dtype.kind == "u":
        values = np.iinfo(values.dtype).max - values
    if values.dtype in (np.float64, np.float16):
        values = values.astype(np.float32)
    return CodedPicture(head, values)


def _through_palette(page: tifffile.TiffPage, values: np.ndarray) -> np.ndarray:
    """Colours of a palette's numbers, 16 bit."""
    palette = np.asarray(page.colormap)
    if palette.ndim != 2 or palette.shape[0] != 3 or int(values.max(initial=0)) >= palette.shape[1]:
        raise Unreadable("its palette does not hold the colours that its pixels name", AS_RGB)
    # Some writers keep 8-bit values there, or shift them up without filling the lower byte.
    if not (palette & 255).any():
        palette = palette >> 8
    if int(palette.max(initial=0)) <= 255:
        palette = palette.astype(np.uint16) * 257
    return np.ascontiguousarray(palette.T[values.reshape(values.shape[:2])])


def _to_full_range(page: tifffile.TiffPage, values: np.ndarray) -> np.ndarray:
    """Codes of 10, 12 or 14 bit spread over 16: stored so, or told by MaxSampleValue
    and kept to by every sample.
    """
    top = _top(page)
    full = np.iinfo(values.dtype).max
    if top == full:
        return values
    if int(values.max(initial=0)) > top:
        return values
    return np.asarray(np.round(values.astype(np.float64) * (full / top)), dtype=values.dtype)


def _top(page: tifffile.TiffPage) -> int:
    """The code of white."""
    bits = page.bitspersample
    full = 2 ** (page.dtype.itemsize * 8) - 1 if page.dtype is not None else 255
    if page.photometric == PALETTE:
        return int(full)
    if isinstance(bits, int) and bits not in (8, 16):
        return int(2**bits - 1)
    told = _first(page, MAX_SAMPLE)
    # Written as a statistic it may be anything; one below a power of two it is how many bits are
    # used.
    if bits == 16 and isinstance(told, int) and 511 <= told < full and (told + 1) & told == 0:
        return told
    return int(full)


def _first(page: tifffile.TiffPage, code: int) -> Any:
    tag = page.tags.get(code)
    value = tag.value if tag is not None else None
    return value[0] if isinstance(value, tuple) and value else value


def _opened(path: Path) -> tifffile.TiffFile:
    try:
        return tifffile.TiffFile(path)
    except (tifffile.TiffFileError, ValueError, OSError, KeyError) as error:
        raise Unreadable("its TIFF header is damaged") from error


def _page(tif: tifffile.TiffFile) -> tuple[tifffile.TiffPage, tuple[str, ...]]:
    """The picture that a file is about, and what is doubtful about that choice."""
    found = [
        p for p in tif.pages if isinstance(p, tifffile.TiffPage) and p.imagewidth and p.imagelength
    ]
    # Frames of a stack stand for pages like the first; a writer may keep the picture itself below a
    # thumbnail.
    below = [
        p
        for page in found[:1]
        for p in page.pages or ()
        if isinstance(p, tifffile.TiffPage) and p.imagewidth
    ]
    if not found:
        raise Unreadable("the TIFF holds no picture")
    first = found[0]
    pictures = [p for p in (*found, *below) if p.photometric != MASK]
    main = max(pictures or found, key=lambda p: p.imagewidth * p.imagelength)
    if main is not first and _is_thumbnail(first, main):
        return main, ("its first page is a thumbnail; the full picture behind it is measured",)
    more = len(tif.pages) - 1
    return first, (
        (f"it holds {more + 1} pictures; the first is measured",)
        if more and not _reduced(found[-1])
        else ()
    )


def _reduced(page: tifffile.TiffPage) -> bool:
    flag = _first(page, SUBFILE)
    return isinstance(flag, int) and bool(flag & REDUCED)


def _is_thumbnail(page: tifffile.TiffPage, main: tifffile.TiffPage) -> bool:
    small, large = (p.imagewidth * p.imagelength for p in (page, main))
    shapes = [p.imagewidth / p.imagelength for p in (page, main)]
    alike = 0.9 < shapes[0] / shapes[1] < 1.1 or 0.9 < shapes[0] * shapes[1] < 1.1
    return large > small and (_reduced(page) or (large >= THUMBNAIL * small and alike))


def _header(page: tifffile.TiffPage, doubts: tuple[str, ...]) -> Header:
    dtype, bits = page.dtype, page.bitspersample
    told = page.photometric
    if (
        dtype is None
        or dtype.kind not in "uf"
        or (dtype.kind == "u" and dtype.itemsize > 2)
        or bits == 1
    ):
        signed_colours = (
            told in (CIELAB, ICCLAB)
            and dtype is not None
            and dtype.kind == "i"
            and dtype.itemsize <= 2
        )
        if not signed_colours:
            raise Unreadable(f"its samples are {_kind(dtype, bits)}", AS_INTEGERS)
    if told == YCBCR and page.compression not in JPEG_COMPRESSIONS:
        raise Unreadable("its colours are stored as YCbCr without JPEG", AS_RGB)
    if told == ITULAB or (told in (CIELAB, ICCLAB) and page.samplesperpixel != 3):
        raise Unreadable("its colours are stored as a kind of CIELAB that is not read", AS_RGB)
    if told not in (WHITE_IS_ZERO, 1, 2, PALETTE, INK_SPACE, YCBCR, CIELAB, ICCLAB):
        raise Unreadable(f"its colours are stored as {getattr(told, 'name', told)}", AS_RGB)
    lab = told in (CIELAB, ICCLAB)
    top = _top(page)
    if dtype is not None and dtype.kind == "u" and bits == 16 and top < 65535 and not lab:
        doubts = (
            *doubts,
            f"its largest code is told as {top}: taken for white where no sample is above it",
        )
    return Header(
        format="TIFF",
        width=page.imagewidth,
        height=page.imagelength,
        channels=3 if told == PALETTE else page.samplesperpixel,
        bits=int(bits) if isinstance(bits, int) else dtype.itemsize * 8 if dtype is not None else 0,
        sample="float" if dtype is not None and dtype.kind == "f" else "unsigned",
        compression=_compression(page),
        icc=bytes(icc) if (icc := page.iccprofile) and not lab else None,
        tags=_page_tags(page),
        space="cielab" if lab else "cmyk" if told == INK_SPACE else "rgb",
        doubts=doubts,
    )


def _compression(page: tifffile.TiffPage) -> str:
    """The compression's name in plain words; both kinds of deflate are one."""
    name = str(getattr(page.compression, "name", page.compression)).lower()
    return "deflate" if name.endswith("deflate") else name.replace("_", " ")


def _kind(dtype: np.dtype[Any] | None, bits: object) -> str:
    if bits == 1:
        return "black or white, one bit each"
    if dtype is None:
        return "of an unknown kind"
    words = {
        "i": "signed integers",
        "u": "unsigned integers",
        "c": "complex numbers",
        "b": "black or white",
    }
    return f"{words.get(dtype.kind, str(dtype))} of {dtype.itemsize * 8} bit"
