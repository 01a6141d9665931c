"""A made-up camera: takes a scene through lens, colour filters and sensor, and writes
DNG as a body would.

``python -m glenhail.standins.camera SCENE.tif OUT.dng --body quill24 --iso 6400
--shutter 0.008 --seed 1``; whole series are shot by ``glenhail.standins.series``.

The scene is linear light with 1.0 = the exposure's white. Modelled: lens blur,
vignetting, the mosaic in the body's own colours (Bayer or 6 x 6), photon noise,
pixels that respond unevenly, read noise of two gain stages, full well, hot pixels, and
codes above a black level, or with black taken off and cut. Made up, not measured on any
body.
"""

from __future__ import annotations

import argparse
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import imagecodecs
import numpy as np
import scipy.ndimage
import tifffile

from glenhail.core.errors import CoreError
from glenhail.core.files.decoding import read_picture
from glenhail.core.picture import Doubles, Floats

# Linear BT.709 to CIE XYZ, D65 (IEC 61966-2-1).
XYZ_OF_RGB = np.array(
    [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]]
)
D65 = 21  # Exif's code of the light source
CFA, DNG_VERSION = 32803, (1, 4, 0, 0)
BAYER = ("RG", "GB")
SIX_BY_SIX = ("GBGGRG", "RGRBGB", "GBGGRG", "GRGGBG", "BGBRGR", "GRGGBG")
JPEG = 7  # TIFF's number of JPEG, which DNG packs mosaics by without loss


@dataclass(frozen=True)
class Body:
    """An invented body.

    ``full_well`` in electrons at base ISO 100; ``read_noise`` in electrons below and
    from ``second_gain_iso`` on; ``mosaic_of_rgb`` takes linear BT.709 to the body's own
    colours; ``hot`` is the share of hot pixels, ``uneven`` how much pixels differ in
    response, a share of the signal; ``lens_sigma`` px, ``corner_stops`` EV lost in the
    corners. ``cut_black`` takes black off before the file is written, and ``packed``
    packs it without loss.
    """

    model: str
    full_well: float
    read_noise: tuple[float, float]
    second_gain_iso: float
    mosaic_of_rgb: Doubles
    black: int = 512
    white: int = 16383
    hot: float = 2e-5
    uneven: float = 0.004
    pattern: tuple[str, ...] = BAYER
    cut_black: bool = False
    packed: bool = False
    lens_sigma: float = 0.55
    corner_stops: float = 0.7


BODIES = {
    "quill24": Body(
        "Corvane Quill 24",
        42_000,
        (4.4, 2.1),
        800,
        np.array([[0.44, 0.08, 0.03], [0.10, 0.80, 0.10], [0.02, 0.14, 0.52]]),
    ),
    "quill33": Body(
        "Corvane Quill 33",
        30_000,
        (3.4, 1.5),
        560,
        np.array([[0.46, 0.07, 0.02], [0.12, 0.78, 0.10], [0.03, 0.12, 0.50]]),
        lens_sigma=0.6,
    ),
    "quill61": Body(
        "Corvane Quill 61",
        18_000,
        (2.6, 1.3),
        320,
        np.array([[0.45, 0.08, 0.02], [0.11, 0.79, 0.10], [0.02, 0.13, 0.51]]),
        lens_sigma=0.75,
        pattern=SIX_BY_SIX,
        packed=True,
    ),
    "lull2": Body(
        "Lull Two",
        5_200,
        (1.9, 1.2),
        400,
        np.array([[0.42, 0.10, 0.04], [0.12, 0.76, 0.12], [0.03, 0.15, 0.50]]),
        black=0,
        white=4095,
        hot=8e-5,
        uneven=0.012,
        lens_sigma=0.9,
        corner_stops=1.4,
        cut_black=True,
    ),
}


def expose(scene: Floats, body: Body, iso: float, seed: int) -> np.ndarray:
    """The mosaic's codes, shape (h, w) cut to whole blocks of its pattern.

    The same seed gives the same codes. One code is ``full_well * 100 / iso / (white -
    black)`` electrons.
    """
    rng = np.random.default_rng(seed)
    down, across = len(body.pattern), len(body.pattern[0])
    height, width = scene.shape[0] // down * down, scene.shape[1] // across * across
    light = np.maximum(scene[:height, :width].astype(np.float64), 0)
    light = (
        scipy.ndimage.gaussian_filter(light, (body.lens_sigma, body.lens_sigma, 0))
        * _vignette(height, width, body)[..., None]
    )
    colours = light @ body.mosaic_of_rgb.T
    mosaic = np.empty((height, width))
    for row, letters in enumerate(body.pattern):
        for column, letter in enumerate(letters):
            place = slice(row, None, down), slice(column, None, across)
            mosaic[place] = colours[(*place, "RGB".index(letter))]
    electrons_at_white = body.full_well * 100 / iso
    noise = body.read_noise[1 if iso >= body.second_gain_iso else 0]
    # What belongs to the body is in every exposure the same.
    own = np.random.default_rng(len(body.model))
    hot = own.random(mosaic.shape) < body.hot
    mosaic *= 1 + own.normal(0, body.uneven, mosaic.shape)
    electrons = rng.poisson(np.maximum(mosaic, 0) * electrons_at_white) + rng.normal(
        0, noise, mosaic.shape
    )
    electrons[hot] += 0.2 * body.full_well * 100 / max(iso, 400)
    codes = (
        np.minimum(electrons, body.full_well) / electrons_at_white * (body.white - body.black)
        + body.black
    )
    return np.asarray(np.clip(np.round(codes), 0, body.white), dtype=np.uint16)


def _vignette(height: int, width: int, body: Body) -> Doubles:
    y, x = np.mgrid[0:height, 0:width]
    r2 = ((x - width / 2) ** 2 + (y - height / 2) ** 2) / ((width / 2) ** 2 + (height / 2) ** 2)
    return np.asarray(2.0 ** (-body.corner_stops * r2))


def write_dng(
    path: Path, codes: np.ndarray, body: Body, shot: dict[str, Any], taken: str | None = None
) -> None:
    """Write a mosaic as DNG 1.4 (TIFF/EP, ISO 12234-2, with the tags that DNG adds),
    packed by lossless JPEG (ITU-T T.81) where the body does so.

    ``shot`` holds ``iso`` and where known ``shutter_s``, ``aperture``, ``focal_mm`` and
    ``lens``.
    """
    colour_matrix = body.mosaic_of_rgb @ np.linalg.inv(XYZ_OF_RGB)
    neutral = body.mosaic_of_rgb.sum(axis=1)
    places = tuple("RGB".index(letter) for row in body.pattern for letter in row)
    tags: list[tuple[Any, ...]] = [
        (50706, "B", 4, DNG_VERSION, True),
        (50707, "B", 4, (1, 1, 0, 0), True),
        (50708, "s", 0, body.model, True),
        (271, "s", 0, body.model.split()[0], True),
        (272, "s", 0, body.model, True),
        (274, "H", 1, 1, True),
        (33421, "H", 2, (len(body.pattern), len(body.pattern[0])), True),
        (33422, "B", len(places), places, True),
        (50714, "H", 1, body.black, True),
        (50717, "H", 1, body.white, True),
        (50721, "2i", 9, _rationals(colour_matrix.ravel()), True),
        (50778, "H", 1, D65, True),
        (50728, "2I", 3, _rationals(neutral), True),
        (34855, "H", 1, min(65535, int(shot["iso"])), True),
    ]
    if shot.get("lens"):
        tags.append((42036, "s", 0, str(shot["lens"]), True))
    for code, key in ((33434, "shutter_s"), (33437, "aperture"), (37386, "focal_mm")):
        if shot.get(key):
            tags.append((code, "2I", 1, _rationals(np.array([float(shot[key])])), True))
    whole: dict[str, Any] = {"data": codes}
    if body.packed:
        packed = imagecodecs.ljpeg_encode(codes, bitspersample=body.white.bit_length())
        rows = codes.shape[0]
        whole = {"data": iter([packed]), "compression": JPEG, "rowsperstrip": rows}
        whole |= {"shape": codes.shape, "dtype": codes.dtype}
    tifffile.imwrite(
        path,
        **whole,
        photometric=CFA,
        subfiletype=0,
        metadata=None,
        software=f"{body.model} 1.2",
        datetime=taken,
        extratags=tags,
    )


def _rationals(values: Doubles) -> tuple[int, ...]:
    return tuple(n for v in values for n in (round(float(v) * 100_000), 100_000))


def main() -> int:
    """Take one picture."""
    parser = argparse.ArgumentParser(prog="camera")
    parser.add_argument("scene", type=Path)
    parser.add_argument("made", type=Path)
    parser.add_argument("--body", choices=BODIES, default="quill24")
    parser.add_argument("--iso", type=float, default=100)
    parser.add_argument("--shutter", type=float, default=1 / 60)
    parser.add_argument("--seed", type=int, default=1)
    options = parser.parse_args()
    body = BODIES[options.body]
    try:
        codes = expose(read_picture(options.scene).pixels, body, options.iso, options.seed)
        unfinished = options.made.with_name(f"unfinished-{options.made.name}")
        write_dng(
            unfinished,
            codes,
            body,
            {"iso": options.iso, "shutter_s": options.shutter, "aperture": 4, "focal_mm": 50},
        )
        unfinished.replace(options.made)
    except (CoreError, OSError) as error:
        print(f"camera: {error}", file=sys.stderr)
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())
