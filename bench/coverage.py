"""How often the 95 % intervals hold the true value: 400 trials a measure on white and on correlated noise, with a fixed seed."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

import numpy as np
import scipy.ndimage
import scipy.special

from glenhail.core.colour import srgb
from glenhail.core.measures import edge, error, grain, noise, texture
from glenhail.core.measures.reading import Measured
from glenhail.core.measures.subject import Laid, Subject
from glenhail.core.picture import Facts, Floats, Mapping, Picture, Rect
from glenhail.core.targets.shapes import leaves

SEED, TRIALS, SIDE = 20261125, 400, 160
FACTS = Facts("trial", "TIFF", SIDE, SIDE, 16, "unsigned", "", "sRGB", True)
# Gaussian blur of the noise, px: white, and as a denoiser leaves it.
BLURS = (0.0, 1.0)
AMOUNT = 6.0  # codes
Trial = tuple[Subject, float]


def correlated(rng: np.random.Generator, blur: float, shape: tuple[int, ...] = (SIDE, SIDE)) -> Floats:
    """Noise of deviation 1 whose neighbours resemble one another."""
    margin = math.ceil(4 * blur)
    made = rng.normal(size=[side + 2 * margin for side in shape])
    if blur:
        made = scipy.ndimage.gaussian_filter(made, blur) * 2 * math.sqrt(math.pi) * blur
    return np.asarray(made[margin : margin + shape[0], margin : margin + shape[1]], dtype=np.float32)


def picture(codes: Floats) -> Picture:
    """A grey picture from encoded 8-bit codes, unrounded."""
    linear = srgb.decode(codes.astype(np.float64) / 255).astype(np.float32)
    return Picture(np.repeat(linear[..., None], 3, axis=2), FACTS)


def subject(made: Floats, truth: Floats) -> Subject:
    """An output of its own, with the truth as its frame."""
    one, two = picture(made), picture(truth)
    return Subject(two, Laid(one, Mapping(), one.bounds), Laid(two, Mapping(), two.bounds))


def flat(rng: np.random.Generator, blur: float) -> Trial:
    """An even surface with noise of known deviation."""
    level = np.full((SIDE, SIDE), 120, np.float32)
    return subject(level + AMOUNT * correlated(rng, blur), level), AMOUNT


def psnr_of(rng: np.random.Generator, blur: float) -> Trial:
    """The same; its error is the noise."""
    return flat(rng, blur)[0], 20 * math.log10(255 / AMOUNT)


def grain_of(rng: np.random.Generator, blur: float) -> Trial:
    """Noise of known correlation: sqrt(4 pi) s for a Gaussian of s px."""
    return flat(rng, blur)[0], math.sqrt(4 * math.pi) * blur if blur else 1.0


TEXTURE = 255 * srgb.encode(leaves(SIDE, SIDE, 1.5, 60, 0.1, 0.5, 9, 0.5))
# What is kept of a texture by a Gaussian: found from the textures themselves, without noise.
SOFT = scipy.ndimage.gaussian_filter(TEXTURE, 0.8)
WHOLE = Rect(0, 0, SIDE, SIDE)
KEPT = texture.detail_kept(subject(SOFT, TEXTURE), WHOLE).value


def texture_of(rng: np.random.Generator, blur: float) -> Trial:
    """A softened texture with noise."""
    return subject(SOFT + AMOUNT * correlated(rng, blur), TEXTURE), KEPT


def edge_of(rng: np.random.Generator, blur: float) -> Trial:
    """A Gaussian edge of random angle under noise: 0.18739 / sigma."""
    sigma, turn = 0.9, math.radians(rng.uniform(4, 12))
    y, x = np.mgrid[0:SIDE, 0:SIDE] + 0.5
    distance = (x - SIDE / 2 - rng.uniform(-1, 1)) * math.cos(turn) - (y - SIDE / 2) * math.sin(turn)
    light = 0.1 + 0.5 * 0.5 * (1 + scipy.special.erf(distance / sigma / math.sqrt(2)))
    made = light + 0.01 * correlated(rng, blur)
    one, two = (Picture(np.repeat(p[..., None], 3, axis=2).astype(np.float32), FACTS) for p in (made, light))
    return Subject(two, Laid(one, Mapping(), one.bounds)), 0.18739 / sigma


MEASURES: dict[str, tuple[Callable[[Subject, Rect], Measured], Callable[[np.random.Generator, float], Trial]]] = {
    "noise_luma": (noise.noise_luma, flat),
    "grain": (grain.grain, grain_of),
    "psnr": (error.psnr, psnr_of),
    "mtf50": (edge.mtf50, edge_of),
    "detail_kept": (texture.detail_kept, texture_of),
}


def coverage(name: str, blur: float, trials: int = TRIALS) -> tuple[float, float]:
    """Share of trials whose interval holds the true value, and the mean deviation from it over the mean width."""
    measure, make = MEASURES[name]
    held, off, width = 0, 0.0, 0.0
    for trial in range(trials):
        made, true = make(np.random.default_rng([SEED, trial]), blur)
        found = measure(made, WHOLE)
        held += found.low <= true <= found.high
        off, width = off + found.value - true, width + found.high - found.low
    return held / trials, off / width


def lines() -> Iterator[str]:
    """One line a measure and kind of noise."""
    for name in MEASURES:
        for blur in BLURS:
            share, bias = coverage(name, blur)
            kind = f"noise blurred by {blur:g} px" if blur else "white noise"
            yield f"{name:12} {kind:24} {100 * share:5.1f} % hold the true value; bias {100 * bias:+5.1f} % of the interval"


def main() -> None:
    """Print the coverage of each measure."""
    print(f"seed {SEED}, {TRIALS} trials, {SIDE} x {SIDE} px")
    for line in lines():
        print(line, flush=True)


if __name__ == "__main__":
    main()
