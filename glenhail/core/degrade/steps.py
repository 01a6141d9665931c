"""The steps a degradation is made of: one visible table, and a function for each."""

from __future__ import annotations

import io
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from PIL import Image

from glenhail.core.colour import srgb
from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.filters import kernels as blur
from glenhail.core.filters.resample import FILTERS, resample
from glenhail.core.parameters import Choice, Number, Values
from glenhail.core.picture import Floats, Rect

Work = Callable[[Floats, Values, np.random.Generator], Floats]

LIGHT = ("linear", "encoded")


@dataclass(frozen=True)
class StepKind:
    """What a step is called, what it does, what it asks for."""

    id: str
    title: str
    does: str
    parameters: tuple[Number | Choice, ...]
    work: Work


def _in(light: float | str, values: Floats, work: Callable[[Floats], Floats]) -> Floats:
    """Do something to linear or to sRGB-encoded values, and hand back linear ones."""
    if light == "linear":
        return work(values)
    return srgb.decode(work(srgb.encode(values)))


def _uniform(values: Floats, p: Values, rng: np.random.Generator) -> Floats:
    return _in(p["light"], values, lambda v: blur.blur(v, blur.uniform_kernel(int(p["side"]))))


def _gaussian(values: Floats, p: Values, rng: np.random.Generator) -> Floats:
    return _in(p["light"], values, lambda v: blur.blur(v, blur.gaussian_kernel(float(p["sigma"]))))


def _defocus(values: Floats, p: Values, rng: np.random.Generator) -> Floats:
    return blur.blur(values, blur.disc_kernel(float(p["radius"])))


def _motion(values: Floats, p: Values, rng: np.random.Generator) -> Floats:
    return blur.blur(values, blur.motion_kernel(float(p["length"]), float(p["angle"])))


def _sensor_noise(values: Floats, p: Values, rng: np.random.Generator) -> Floats:
    iso, second = float(p["iso"]), float(p["second_gain_iso"])
    read_noise = float(p["second_read_noise"] if second and iso >= second else p["read_noise"])
    return photograph(values, Sensor(float(p["full_well"]), read_noise), iso, rng)


def _plain_noise(values: Floats, p: Values, rng: np.random.Generator) -> Floats:
    sigma = float(p["sigma"]) / 255
    noise = rng.standard_normal(values.shape, dtype=np.float32)
    if p["colour"] == "grey":
        noise = np.repeat(noise[..., :1], 3, axis=-1)
    scaled = np.asarray(np.float32(sigma) * noise, dtype=np.float32)
    return _in(p["light"], values, lambda v: v + scaled)


def _shrink(values: Floats, p: Values, rng: np.random.Generator) -> Floats:
    height, width = values.shape[:2]
    factor = float(p["factor"])
    size = max(1, round(width / factor)), max(1, round(height / factor))
    return _in(
        p["light"],
        values,
        lambda v: resample(v, Rect(0, 0, width, height), *size, str(p["filter"])),
    )


def _jpeg(values: Floats, p: Values, rng: np.random.Generator) -> Floats:
    codes = np.round(np.clip(srgb.encode(values), 0, 1) * 255).astype(np.uint8)
    packed = io.BytesIO()
    Image.fromarray(codes).save(
        packed, "JPEG", quality=int(p["quality"]), subsampling=str(p["chroma"])
    )
    read = np.asarray(Image.open(packed), dtype=np.float32) / 255
    return srgb.decode(read)


def _banding(values: Floats, p: Values, rng: np.random.Generator) -> Floats:
    axis = 0 if p["along"] == "rows" else 1
    offsets = np.asarray(
        rng.standard_normal(values.shape[axis]) * float(p["sigma"]) / 255, dtype=np.float32
    )
    line = offsets[:, None, None] if axis == 0 else offsets[None, :, None]
    return _in("encoded", values, lambda v: v + line)


def _haze(values: Floats, p: Values, rng: np.random.Generator) -> Floats:
    veil = np.float32(float(p["veil"]) / 100)
    return np.asarray(values * (1 - veil) + veil, dtype=np.float32)


_LIGHT = Choice("light", "on values", LIGHT, "linear")

STEPS = {
    kind.id: kind
    for kind in (
        StepKind(
            "uniform_blur",
            "Uniform blur",
            "every pixel becomes the mean of a square",
            (Number("side", "side", "px, odd", 3, 61, 5, whole=True, odd=True), _LIGHT),
            _uniform,
        ),
        StepKind(
            "gaussian_blur",
            "Gaussian blur",
            "a soft lens",
            (Number("sigma", "sigma", "px", 0.2, 30, 1.0), _LIGHT),
            _gaussian,
        ),
        StepKind(
            "defocus",
            "Defocus",
            "a disc for every point, as a lens out of focus gives",
            (Number("radius", "radius", "px", 0.5, 40, 3.0),),
            _defocus,
        ),
        StepKind(
            "motion",
            "Motion",
            "a straight move during the exposure",
            (
                Number("length", "length", "px", 1, 80, 9.0),
                Number("angle", "angle", "°", -180, 180, 20.0),
            ),
            _motion,
        ),
        StepKind(
            "sensor_noise",
            "Sensor noise",
            "photon noise and read noise of a body at an ISO (Janesick 2007)",
            (
                Number("iso", "ISO", "", 50, 409_600, 6400),
                Number("full_well", "full well", "e-, at ISO 100", 500, 500_000, 42_000),
                Number("read_noise", "read noise", "e-", 0, 100, 3.6),
                Number(
                    "second_gain_iso", "second gain stage from ISO (0: none)", "", 0, 409_600, 0
                ),
                Number("second_read_noise", "read noise there", "e-", 0, 100, 2.0),
            ),
            _sensor_noise,
        ),
        StepKind(
            "plain_noise",
            "Plain noise",
            "Gaussian noise of one size everywhere",
            (
                Number("sigma", "sigma", "8-bit levels", 0.1, 128, 8.0),
                Choice("colour", "colour", ("each channel", "grey"), "each channel"),
                Choice("light", "on values", LIGHT, "encoded"),
            ),
            _plain_noise,
        ),
        StepKind(
            "shrink",
            "Shrink",
            "fewer pixels, by a named filter",
            (
                Number("factor", "factor", "x", 1.01, 16, 2.0),
                Choice("filter", "filter", tuple(FILTERS), "area"),
                _LIGHT,
            ),
            _shrink,
        ),
        StepKind(
            "jpeg",
            "JPEG",
            "saved at a quality and read back, 8 bit",
            (
                Number("quality", "quality", "of 100", 1, 100, 75, whole=True),
                Choice("chroma", "chroma", ("4:4:4", "4:2:2", "4:2:0"), "4:2:0"),
            ),
            _jpeg,
        ),
        StepKind(
            "banding",
            "Banding",
            "every row or column a little too bright or too dark",
            (
                Number("sigma", "sigma", "8-bit levels", 0.05, 64, 2.0),
                Choice("along", "along", ("rows", "columns"), "rows"),
            ),
            _banding,
        ),
        StepKind(
            "haze",
            "Haze",
            "a veil of light that lifts the blacks",
            (Number("veil", "veil", "% of white", 0.1, 90, 5.0),),
            _haze,
        ),
    )
}
