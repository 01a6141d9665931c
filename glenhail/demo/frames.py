"""The sample files: truths, and what the invented bodies recorded of them."""

from __future__ import annotations

import io
from collections.abc import Callable
from functools import partial
from pathlib import Path

import numpy as np
import scipy.ndimage
from PIL import Image

from glenhail.core.colour import srgb
from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.encoding import encoded_codes, write_tiff
from glenhail.core.filters.resample import resample
from glenhail.core.methods.denoise import guided
from glenhail.core.picture import Facts, Floats, Rect
from glenhail.core.targets.layout import paint, sheet_of
from glenhail.demo.samples import (
    ARCHIVE_PRINT,
    BURST_PART,
    DARKS,
    DYE_SHED,
    LOOM_TABLE,
    RAW_BURST,
    RAW_PART,
    RAW_SERIES,
    SCENES,
    TARGET_SHEET,
    TARGET_SHOTS,
    Sample,
    Shot,
)
from glenhail.standins.camera import BODIES, expose, write_dng

M24 = Sensor(full_well=42_000, read_noise=3.6)
PRINT_WIDTH, PRINT_HEIGHT = 640, 427
ORIGINAL = 2  # px of a print's truth for each of its own
QUILL_33_PIXELS = 7020 / 6000  # per pixel of the Quill 24, along a side
QUILL_33_LIGHT = 2**0.14  # the newer body lets that much more in at the same setting
PRINT_BLUR = 0.7  # px of the print, standard deviation
PRINT_QUALITY = 82
TARGET_SCALE, WALL = 0.92, 90  # of the sheet as painted; px of wall around it
BASELINE_RADIUS, BASELINE_EPSILON = 2, 0.004


def scene(sample: Sample) -> Floats:
    """A scene in linear light; lamps go beyond white."""
    return read_picture(SCENES / f"{sample.key.replace('-', '_')}.tif").pixels


def make_sample(sample: Sample, folder: Path) -> None:
    """Write truth and frame, unless they are there; the same seed gives the same bytes."""
    truth_path, frame_path = folder / sample.truth_file, folder / sample.frame_file
    if truth_path.exists() and frame_path.exists():
        return
    light = scene(sample)
    write_beside(truth_path, light)
    write_beside(frame_path, photograph(light, M24, sample.iso, sample.seed), _facts(sample, light))


def _facts(sample: Sample, light: Floats) -> Facts:
    return Facts(
        name=sample.frame_file,
        format="TIFF",
        width=light.shape[1],
        height=light.shape[0],
        bits=16,
        sample="unsigned",
        compression="",
        profile="sRGB",
        profile_assumed=True,
        camera="Corvane Quill 24",
        lens=sample.lens,
        iso=sample.iso,
        shutter_s=sample.shutter_s,
        aperture=sample.aperture,
        focal_mm=sample.focal_mm,
        taken=sample.taken,
        software="Corvane Quill 24 1.2",
    )


def make_raw_files(folder: Path) -> None:
    """What both bodies recorded: a series of the loom table, a burst in the dye shed,
    and a target on the wall.
    """
    _shoot_all(RAW_SERIES, partial(_part, LOOM_TABLE, RAW_PART), folder)
    _shoot_all(DARKS, _cap_on, folder)
    _shoot_all(RAW_BURST, partial(_part, DYE_SHED, BURST_PART), folder)
    _shoot_all(TARGET_SHOTS, _target_on_the_wall, folder)


def _shoot_all(shots: tuple[Shot, ...], light_of: Callable[[], Floats], folder: Path) -> None:
    missing = [shot for shot in shots if not (folder / shot.file).exists()]
    light = light_of() if missing else None
    for shot in missing:
        assert light is not None
        _shoot(light, shot, folder / shot.file)


def _part(sample: Sample, part: tuple[int, int, int, int]) -> Floats:
    x, y, w, h = part
    return scene(sample)[y : y + h, x : x + w]


def _cap_on() -> Floats:
    return np.zeros((RAW_PART[3], RAW_PART[2], 3), dtype=np.float32)


def _target_on_the_wall() -> Floats:
    """The sheet a little smaller than painted, on dark brick."""
    sheet = paint(sheet_of(TARGET_SHEET))
    height, width = (round(n * TARGET_SCALE) for n in sheet.shape[:2])
    wall = np.full((height + 2 * WALL, width + 2 * WALL, 3), (0.11, 0.07, 0.05), dtype=np.float32)
    wall[WALL:-WALL, WALL:-WALL] = resample(
        sheet, Rect(0, 0, sheet.shape[1], sheet.shape[0]), width, height, "lanczos"
    )
    return wall


def _shoot(light: Floats, shot: Shot, path: Path) -> None:
    """A raw file: the newer body has more and smaller pixels on the same part, and
    exposes a little longer than it says.
    """
    newer = shot.body == "quill33"
    scale = QUILL_33_PIXELS if newer else 1.0
    height, width = light.shape[:2]
    part = resample(
        light, Rect(0, 0, width, height), round(width * scale), round(height * scale), "bicubic"
    )
    part = part * np.float32(QUILL_33_LIGHT) if newer else part
    unfinished = path.with_name(f"unfinished-{path.name}")
    told = {
        "iso": shot.iso,
        "shutter_s": shot.shutter_s,
        "aperture": 4.0,
        "focal_mm": 50.0,
        "lens": LOOM_TABLE.lens,
    }
    write_dng(
        unfinished,
        expose(part, BODIES[shot.body], shot.iso, shot.seed),
        BODIES[shot.body],
        told,
        LOOM_TABLE.taken,
    )
    unfinished.replace(path)


def make_baseline(source: Path, target: Path) -> None:
    """What anybody has: the guided filter on each encoded channel, the same for every
    picture.
    """
    codes = srgb.encode(read_picture(source).pixels)
    smooth = [guided(codes[..., c], BASELINE_RADIUS, BASELINE_EPSILON) for c in range(3)]
    write_beside(target, srgb.decode(np.stack(smooth, axis=-1)))


def write_beside(path: Path, light: Floats, facts: Facts | None = None) -> None:
    """Beside its place first: a making that is broken off leaves no half file."""
    unfinished = path.with_name(f"unfinished-{path.name}")
    write_tiff(unfinished, light, facts)
    unfinished.replace(path)


def make_small_print(folder: Path) -> None:
    """A 640 px archive print of the loom table, a little soft, as a JPEG; its scene;
    and plain bicubic enlargements of it.
    """
    make_original(folder / ARCHIVE_PRINT.truth_file, LOOM_TABLE, (0.0, 0.0, 1.0, 1.0), PRINT_WIDTH)
    print_path = folder / "archive-print.jpg"
    if not print_path.exists():
        light = np.clip(scene(LOOM_TABLE), 0, 1)
        small = resample(
            light, Rect(0, 0, light.shape[1], light.shape[0]), PRINT_WIDTH, PRINT_HEIGHT, "area"
        )
        soft = scipy.ndimage.gaussian_filter(small, (PRINT_BLUR, PRINT_BLUR, 0))
        unfinished = print_path.with_name(f"unfinished-{print_path.name}")
        unfinished.write_bytes(
            phone_jpeg(
                photograph(soft, M24, ARCHIVE_PRINT.iso, ARCHIVE_PRINT.seed),
                ARCHIVE_PRINT.iso,
                ARCHIVE_PRINT.taken,
            )
        )
        unfinished.replace(print_path)
    grain = read_picture(print_path).pixels
    for times in (2, 4):
        target = folder / f"archive-print-bicubic-{times}x.tif"
        if not target.exists():
            whole = Rect(0, 0, PRINT_WIDTH, PRINT_HEIGHT)
            write_beside(
                target, resample(grain, whole, times * PRINT_WIDTH, times * PRINT_HEIGHT, "bicubic")
            )


def make_original(
    path: Path, sample: Sample, part: tuple[float, float, float, float], width: int
) -> None:
    """What a print of so many pixels shows, `ORIGINAL` times as large: the truth that
    enlargements of it are held against.
    """
    if path.exists():
        return
    light = np.clip(scene(sample), 0, 1)
    height, across = light.shape[:2]
    x, y, w, h = part
    box = Rect(x * across, y * height, w * across, h * height)
    write_beside(
        path,
        resample(light, box, ORIGINAL * width, ORIGINAL * round(width * box.h / box.w), "area"),
    )


def phone_jpeg(light: Floats, iso: float, taken: str) -> bytes:
    """As a phone saves a copied print: 8 bit, chroma halved, facts in Exif."""
    facts = Image.Exif()
    facts[0x0110], facts[0x0131], facts[0x0132] = "Lull Two", "Lull Two 4.0", taken
    facts.get_ifd(0x8769).update({0x8827: int(iso), 0x829A: ARCHIVE_PRINT.shutter_s})
    out = io.BytesIO()
    codes = encoded_codes(light, 8)
    Image.fromarray(codes).save(out, "JPEG", quality=PRINT_QUALITY, subsampling="4:2:0", exif=facts)
    return out.getvalue()
