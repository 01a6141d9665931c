"""The one way in: a file becomes a Picture, or a BadFile that names it and the remedy."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path

import numpy as np
import psutil

from glenhail.core.colour import icc, srgb
from glenhail.core.colour.lookup import through_table
from glenhail.core.errors import BadFile
from glenhail.core.files import exif as tagged
from glenhail.core.files import heif, jpegxl, png_jpeg, raw, tiff
from glenhail.core.files.coded import AGAIN, CodedPicture, DecoderFailed, Header, Unreadable
from glenhail.core.files.gain_map import gain_map_in
from glenhail.core.files.limits import MAX_PIXELS, MAX_SIDE, MOST_CHANNELS, can_hold, too_large
from glenhail.core.picture import Facts, Floats, Picture

TAKEN = (
    "Glenhail reads TIFF, PNG, JPEG, JPEG XL, WebP, AVIF, HEIC, DNG and raw files of most makers"
)


@dataclass(frozen=True)
class Format:
    """A file format: the bytes that tell it and where they stand, which endings it goes
    by, how it is read.
    """

    name: str
    told_by: tuple[tuple[int, bytes], ...]
    endings: tuple[str, ...]
    header: Callable[[Path], Header]
    decode: Callable[[Path], CodedPicture]


HEIC_BRANDS = tuple(
    (4, b"ftyp" + brand) for brand in (b"heic", b"heix", b"heim", b"heis", b"mif1", b"msf1")
)
FORMATS = (
    Format(
        "TIFF",
        ((0, b"II*\0"), (0, b"MM\0*"), (0, b"II+\0"), (0, b"MM\0+")),
        (".tif", ".tiff"),
        tiff.header,
        tiff.decode,
    ),
    Format("PNG", ((0, b"\x89PNG\r\n\x1a\n"),), (".png",), png_jpeg.header, png_jpeg.decode),
    Format("WebP", ((8, b"WEBP"),), (".webp",), png_jpeg.header, png_jpeg.decode),
    Format(
        "AVIF", ((4, b"ftypavif"), (4, b"ftypavis")), (".avif",), png_jpeg.header, png_jpeg.decode
    ),
    Format("HEIC", HEIC_BRANDS, (".heic", ".heif"), heif.header, heif.decode),
    Format(
        "JPEG XL", ((0, jpegxl.BARE), (0, jpegxl.BOXED)), (".jxl",), jpegxl.header, jpegxl.decode
    ),
    Format(
        "JPEG", ((0, b"\xff\xd8\xff"),), (".jpg", ".jpeg", ".jpe"), png_jpeg.header, png_jpeg.decode
    ),
)
MOST_LIGHT, MOST_USUAL = (
    65_504.0,
    8.0,
)  # times white: the largest half-precision number; of all but one value in a hundred
# pixels that become light at a time: what is between codes and light is never held of a whole
# picture
BAND = 4_000_000
Room = Callable[[tuple[int, ...]], Floats]
RAW = Format("raw", (), raw.ENDINGS, raw.header, raw.decode)


def no_room(most: int) -> tuple[str, str]:
    """What to say of a picture that takes more than `most` bytes, and the remedy.

    Parameters
    ----------
    most : int
        Bytes of memory.
    """
    allowed = (
        f"it needs more memory than the {most / 1e9:.1f} GB that reading one file may take here"
    )
    return (
        allowed,
        (
            "Crop it or save it smaller, or have whoever runs this bench allow more"
            " (GLENHAIL_PICTURE_MB)."
        ),
    )


def load_kernels() -> None:
    """Load what decoding compiles, so that a copy of this process need not."""
    for kind in (np.uint8, np.uint16):
        through_table(np.zeros((1, 1, 3), dtype=kind), np.zeros(1 + np.iinfo(kind).max))
    srgb.decode(np.zeros((1, 1, 3), dtype=np.float32))


def read_facts(path: Path, name: str | None = None, most: int | None = None) -> Facts:
    """What a file says about itself, without decoding it;

    `most` is as for `read_picture`.

    Parameters
    ----------
    path : Path
        The file.
    name : str, optional
        What messages call the file; its own name else.
    most : int, optional
        Bytes of memory that it may take; as much as there is else.

    Raises
    ------
    BadFile
        If it is not a picture that can be taken in.
    """
    name = name or path.name
    head = _checked_header(path, name, most)
    return _facts(path, name, head, _profile(head, name))


def read_picture(
    path: Path, name: str | None = None, most: int | None = None, room: Room | None = None
) -> Picture:
    """Decode a file at full depth into linear light.

    Parameters
    ----------
    path : Path
        Where the bytes are.
    name : str, optional
        The name its owner knows it by, for messages.
    most : int, optional
        Bytes that its pixels may take, and the decoder as much again; without it, all
        there are.
    room : callable, optional
        Makes the array of a shape that pixels are written to.

    Raises
    ------
    BadFile
        If the file is empty, no picture, cut short, too large, not opaque, or its
        profile can not be read.
    """
    name = name or path.name
    head = _checked_header(path, name, most)
    profile = _profile(head, name)
    try:
        coded = _format(path, name).decode(path)
    except DecoderFailed as error:
        raise _no_decoding(head, name, most, str(error)) from error
    except Unreadable as error:
        raise BadFile(name, str(error), error.remedy) from error
    except MemoryError as error:
        raise BadFile(
            name, *no_room(2 * most if most else psutil.virtual_memory().total)
        ) from error
    except Exception as error:  # a codec may raise anything on hostile bytes
        raise _no_decoding(head, name, most, "its picture data is damaged") from error
    values = _opaque(coded, name)
    _refuse_no_light(values, name)
    try:
        linear = _upright(values, tagged.orientation(head.tags), head, profile, room or _plain_room)
    except icc.BadProfile as error:
        raise _bad_profile(name, error) from error
    return Picture(linear, _facts(path, name, replace(coded.header, icc=head.icc), profile))


def _plain_room(shape: tuple[int, ...]) -> Floats:
    return np.empty(shape, dtype=np.float32)


def _no_decoding(head: Header, name: str, most: int | None, problem: str) -> BadFile:
    """A codec that finds no memory says so in its own ways; where it can have been
    that, it is told as that.
    """
    needed = 3 * head.width * head.height * head.channels * max(1, head.bits // 8)
    return (
        BadFile(name, *no_room(2 * most))
        if most and needed > most
        else BadFile(name, problem, AGAIN)
    )


def _format(path: Path, name: str) -> Format:
    with path.open("rb") as file:
        start = file.read(16)
    if not start:
        raise BadFile(
            name,
            "the file is empty",
            "Copy or export it again; the transfer may have been broken off.",
        )
    if raw.looks_raw(path, name):
        return RAW
    for known in FORMATS:
        if any(start[at:].startswith(mark) for at, mark in known.told_by):
            return known
    claimed = next((f.name for f in FORMATS if name.lower().endswith(f.endings)), None)
    if claimed:
        raise BadFile(
            name,
            f"it is named like a {claimed} but holds something else",
            f"{TAKEN}; export it as one of these.",
        )
    raise BadFile(
        name, "it is not a picture of a known format", f"{TAKEN}; export it as one of these."
    )


def _checked_header(path: Path, name: str, most: int | None = None) -> Header:
    known = _format(path, name)
    try:
        head = known.header(path)
    except Unreadable as error:
        raise BadFile(name, str(error), error.remedy) from error
    except Exception as error:  # a parser may raise anything on hostile bytes
        raise BadFile(name, "its header is damaged", AGAIN) from error
    # A damaged tag may hold anything, several numbers too.
    if (
        not all(isinstance(n, int) and n > 0 for n in (head.width, head.height, head.channels))
        or head.channels > MOST_CHANNELS
    ):
        raise BadFile(name, "its header is damaged", AGAIN)
    if too_large(head.width, head.height):
        raise BadFile(
            name,
            f"{head.width:,} × {head.height:,} pixels is more than can be measured here",
            f"At most {MAX_PIXELS // 1_000_000} MP and {MAX_SIDE:,} pixels a side are taken;"
            " crop it.",
        )
    if not can_hold(path.stat().st_size, head.width, head.height, head.channels, head.bits):
        raise BadFile(
            name,
            f"its header tells of {head.width:,} × {head.height:,} pixels, for which the file is"
            " far too small",
            "Copy or export it again; the transfer may have been broken off.",
        )
    if most and head.width * head.height * 12 > most:
        raise BadFile(name, *no_room(2 * most))
    return head


def _profile(head: Header, name: str) -> icc.IccProfile | None:
    if head.icc is None:
        return None
    try:
        profile = icc.read_profile(head.icc)
    except icc.BadProfile as error:
        raise _bad_profile(name, error) from error
    wanted = {"RGB ": 3, "CMYK": 4, "GRAY": 1}[profile.space]
    colour_channels = 4 if head.space == "cmyk" else (3 if head.channels >= 3 else 1)
    if wanted != colour_channels:
        raise _bad_profile(
            name,
            icc.BadProfile(
                f"it is a {profile.space.strip()} profile on {colour_channels}-channel data"
            ),
        )
    return profile


def _bad_profile(name: str, error: icc.BadProfile) -> BadFile:
    return BadFile(
        name,
        f"its colour profile can not be read: {error}",
        "Export it with an sRGB profile, or with none.",
    )


def _opaque(coded: CodedPicture, name: str) -> np.ndarray:
    """Drop an alpha channel that hides nothing; refuse one that does."""
    values, head = coded.values, coded.header
    colours = 4 if head.space == "cmyk" else (3 if values.shape[-1] >= 3 else 1)
    if values.shape[-1] == colours:
        return values
    full = np.iinfo(values.dtype).max if values.dtype.kind == "u" else 1.0
    if not all(bool((values[a:b, :, colours] == full).all()) for a, b in _bands(values)):
        raise BadFile(
            name,
            "parts of it are transparent",
            "Flatten it onto a background and export it without transparency.",
        )
    return values[..., :colours]


def _refuse_no_light(values: np.ndarray, name: str) -> None:
    """Refuse floats that are no light: not finite, beyond all measure, or codes."""
    if values.dtype.kind != "f":
        return
    count, first, most = 0, None, 0.0
    for a, b in _bands(values):
        wrong = ~np.isfinite(values[a:b])
        if wrong.any():
            first = first or (int((at := np.argwhere(wrong)[0])[1]), a + int(at[0]))
            count += int(wrong.sum())
        most = max(most, float(np.abs(values[a:b]).max(initial=0)))
    if first is not None:
        are = "is" if count == 1 else "are"
        raise BadFile(
            name,
            f"{count:,} of its values {are} not a number or infinite, the first at x {first[0]}, y"
            f" {first[1]}",
            "Replace them in the program that wrote it and save it again, or save it with 16-bit"
            " integers.",
        )
    # A sample in a few hundred may be a lamp or the sun in scene light; what most of a picture has
    # are codes.
    usual = float(np.quantile(values[:: max(1, values.shape[0] // 512)], 0.99))
    if most > MOST_LIGHT or usual > MOST_USUAL:
        raise BadFile(
            name,
            f"its floating-point values reach {most:,.6g}, where 1.0 is white",
            "Divide by the code of white (255, 65535) and save it in linear light, or save it with"
            " 8 or 16 unsigned bits.",
        )


@cache
def _decoded_codes(top: int) -> np.ndarray:
    """Light of every sRGB code."""
    return np.asarray(srgb.decode(np.arange(top + 1) / top), dtype=np.float32)


def _bands(values: np.ndarray) -> Iterator[tuple[int, int]]:
    """First and end row of bands of some million pixels."""
    rows = max(1, BAND // values.shape[1])
    return ((a, min(a + rows, values.shape[0])) for a in range(0, values.shape[0], rows))


def _linear(
    values: np.ndarray, head: Header, profile: icc.IccProfile | None, out: Floats
) -> Floats:
    """Light of coded values; `out` is where it may be written to already."""
    if profile is not None and not profile.is_srgb:
        return np.ascontiguousarray(icc.to_linear(values, profile), dtype=np.float32)
    if head.space in ("developed", "cielab"):
        return np.ascontiguousarray(values, dtype=np.float32)
    if head.space == "cmyk":
        # No profile: the plain ink model, recorded as assumed.
        full = np.iinfo(values.dtype).max
        ink = values.astype(np.float32) / full
        values = (1 - ink[..., :3]) * (1 - ink[..., 3:])
    if values.dtype.kind == "u":
        top = np.iinfo(values.dtype).max
        linear = through_table(values, _decoded_codes(top), out)
    elif head.sample == "float":
        # Floating point files without a profile hold scene light by custom: linear.
        linear = values.astype(np.float32)
    else:
        linear = srgb.decode(values).astype(np.float32)
    if linear.shape[-1] == 1:
        linear = np.repeat(linear, 3, axis=-1)
    return np.ascontiguousarray(linear)


def _upright(
    values: np.ndarray, orientation: int, head: Header, profile: icc.IccProfile | None, room: Room
) -> Floats:
    """Light of a whole picture, band after band, with the EXIF orientation applied
    (Exif 2.32, 4.6.4).
    """
    height, width = values.shape[:2]
    made = room((width, height, 3) if orientation >= 5 else (height, width, 3))
    # What is written to is turned instead of what was written: the same pixels seen as they are
    # stored.
    turned = made
    if orientation in (3, 4, 7, 8):
        turned = turned[::-1]
    if orientation in (2, 3, 6, 7):
        turned = turned[:, ::-1]
    if orientation in (5, 6, 7, 8):
        turned = turned.transpose(1, 0, 2)
    for a, b in _bands(values):
        light = _linear(values[a:b], head, profile, turned[a:b])
        if not np.may_share_memory(light, turned):
            turned[a:b] = light
    return made


def _facts(path: Path, name: str, head: Header, profile: icc.IccProfile | None) -> Facts:
    orientation = tagged.orientation(head.tags)
    turned = orientation >= 5
    if profile:
        space = profile.name
    elif head.space == "developed":
        space = "camera matrix"
    elif head.space == "cmyk":
        space = "plain CMYK"
    elif head.space == "cielab":
        space = "CIELAB"
    else:
        space = "linear BT.709" if head.sample == "float" else "sRGB"
    return Facts(
        name=name,
        format=head.format,
        width=head.height if turned else head.width,
        height=head.width if turned else head.height,
        bits=head.bits,
        sample=head.sample,
        compression=head.compression,
        profile=space,
        profile_assumed=profile is None and head.space not in ("developed", "cielab"),
        orientation=orientation,
        size_bytes=path.stat().st_size,
        developed=raw.RENDERING if head.space == "developed" else None,
        doubts=[*head.doubts, *gain_map_in(path)],
        **tagged.shooting(head.tags),
    )
