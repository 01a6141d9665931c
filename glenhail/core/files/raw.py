"""Raw files through LibRaw: one fixed neutral rendering, and the mosaic as the sensor
gave it.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import rawpy

from glenhail.core.files import exif as tagged
from glenhail.core.files import tiff
from glenhail.core.files.coded import CodedPicture, DecoderFailed, Header, Unreadable

DNG_VERSION = 50706
ENDINGS = (
    ".dng",
    ".nef",
    ".nrw",
    ".arw",
    ".sr2",
    ".cr2",
    ".cr3",
    ".crw",
    ".raf",
    ".orf",
    ".rw2",
    ".pef",
    ".srw",
    ".rwl",
    ".3fr",
    ".iiq",
)
# How every raw file is developed; told with the frame. Highlights are clipped where the first
# channel is full.
RENDERING_NAME, RENDERING_VERSION = "Glenhail neutral rendering", 1
RENDERING = (
    f"{RENDERING_NAME} {RENDERING_VERSION}: camera white balance and matrix, homogeneity-directed"
    " demosaic, no noise reduction, no sharpening, no brightening, highlights clipped"
)
# LibRaw's flips as Exif orientations.
FLIPS = {0: 1, 3: 3, 5: 8, 6: 6}
COLOURS = 3
LEAST_OF_SIX = 512  # px a side, below which LibRaw does not demosaic 6 x 6 filters


@dataclass(frozen=True)
class Mosaic:
    """The visible part of a sensor's mosaic.

    Attributes
    ----------
    values : ndarray of uint16, shape (h, w)
        Codes as recorded.
    pattern : tuple of str
        Colour letters of the repeating block, row by row: ("RG", "GB").
    black, white : float
        Codes of no light (mean over the channels) and of saturation.
    """

    values: np.ndarray
    pattern: tuple[str, ...]
    black: float
    white: float

    def plane(self, row: int, column: int) -> np.ndarray:
        """Codes of one place of the repeating block."""
        return self.values[row :: len(self.pattern), column :: len(self.pattern[0])]


def looks_raw(path: Path, name: str) -> bool:
    """Whether a file is to be developed: named like a raw file, or a TIFF that says it
    is a DNG.

    Parameters
    ----------
    path : Path
        The file.
    name : str
        By which it is known.
    """
    if name.lower().endswith(ENDINGS):
        return True
    with path.open("rb") as file:
        if file.read(4) not in (b"II*\0", b"MM\0*"):
            return False
    return DNG_VERSION in _tags(path)


def header(path: Path) -> Header:
    """What the file says; nothing is developed.

    Parameters
    ----------
    path : Path
        The file.
    """
    with _opened(path) as raw:
        return _header(path, raw)


def decode(path: Path) -> CodedPicture:
    """Develop to linear light, BT.709 primaries, float32 with 1.0 = full scale, not yet
    turned upright.

    Parameters
    ----------
    path : Path
        The file.
    """
    with _opened(path) as raw:
        head = _header(path, raw)
        if len(raw.raw_pattern) > 2 and min(head.width, head.height) < LEAST_OF_SIX:
            raise Unreadable(f"a 6 x 6 mosaic under {LEAST_OF_SIX} px a side can not be developed")
        try:
            developed = raw.postprocess(
                demosaic_algorithm=rawpy.DemosaicAlgorithm.AHD,
                use_camera_wb=True,
                no_auto_bright=True,
                adjust_maximum_thr=0.0,
                gamma=(1, 1),
                output_bps=16,
                output_color=rawpy.ColorSpace.sRGB,
                highlight_mode=rawpy.HighlightMode.Clip,
                fbdd_noise_reduction=rawpy.FBDDNoiseReductionMode.Off,
                median_filter_passes=0,
                user_flip=0,
            )
        except (rawpy.LibRawError, ValueError, MemoryError) as error:
            raise DecoderFailed("its raw data is damaged or cut short") from error
    if developed.shape != (head.height, head.width, COLOURS):
        raise Unreadable("its size is not the one it says")
    return CodedPicture(head, np.asarray(developed, dtype=np.float32) / np.float32(65535))


def read_mosaic(path: Path) -> Mosaic:
    """The mosaic, for what is measured before demosaicing.

    Parameters
    ----------
    path : Path
        The file.

    Raises
    ------
    Unreadable
        If the file has none: it was demosaiced in the body.
    """
    with _opened(path) as raw:
        try:
            values = raw.raw_image_visible.copy()
            letters = raw.color_desc.decode("ascii")
            pattern = tuple("".join(letters[i] for i in row) for row in raw.raw_pattern)
        except (rawpy.LibRawError, AttributeError, TypeError, ValueError) as error:
            raise Unreadable("it holds no mosaic") from error
        return Mosaic(
            values, pattern, float(np.mean(raw.black_level_per_channel)), float(raw.white_level)
        )


def _opened(path: Path) -> Any:
    try:
        return rawpy.imread(str(path))
    except (rawpy.LibRawError, OSError, ValueError) as error:
        raise Unreadable("LibRaw does not know this kind of raw file, or it is damaged") from error


def _header(path: Path, raw: Any) -> Header:
    if raw.num_colors != COLOURS:
        raise Unreadable(f"it has {raw.num_colors} colours, 3 are needed")
    return Header(
        format="DNG" if DNG_VERSION in _tags(path) else "raw",
        width=int(raw.sizes.width),
        height=int(raw.sizes.height),
        channels=COLOURS,
        bits=max(1, int(raw.white_level).bit_length()),
        sample="unsigned",
        compression="",
        tags=_shooting(raw) | _tags(path) | {tagged.ORIENTATION: FLIPS.get(raw.sizes.flip, 1)},
        space="developed",
    )


def _tags(path: Path) -> dict[int, Any]:
    try:
        return tiff.tags(path)
    except (
        Exception
    ):  # a parser may raise anything on hostile bytes; a raw file need not be TIFF at all
        return {}


def _shooting(raw: Any) -> dict[int, Any]:
    """What LibRaw itself found, for files whose tags are not TIFF's."""
    found = {
        tagged.ISO: getattr(raw.other, "iso_speed", 0),
        tagged.EXPOSURE_TIME: getattr(raw.other, "shutter", 0),
        tagged.F_NUMBER: getattr(raw.other, "aperture", 0),
        tagged.FOCAL_LENGTH: getattr(raw.other, "focal_len", 0),
        tagged.LENS: getattr(raw.lens, "model", None) or getattr(raw.lens, "Lens", None),
    }
    return {k: v for k, v in found.items() if v}
