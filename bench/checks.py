"""Each measure against its outside check: the source, and the largest deviation seen in
this run.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import colour as reference
import numpy as np
import scipy.ndimage
import skimage.metrics
from PIL import Image
from sewar.full_ref import msssim  # type: ignore[import-untyped]

from glenhail.core.colour import srgb
from glenhail.core.colour.lab import lab
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, Patch, take
from glenhail.core.measures.noise_spectrum import spectra
from glenhail.core.measures.residual import residual
from glenhail.core.measures.subject import Subject
from glenhail.core.measures.welch import sides
from glenhail.core.picture import Doubles, Floats, Mapping, Rect
from glenhail.core.targets.shapes import leaves
from tests.pictures import gaussian_edge, noisy, photograph, picture

PHOTOGRAPHS = ("china", "flower", "astronaut", "coffee", "chelsea")
Check = tuple[str, str, float, str]


def subject(made: Floats, frame: Floats, truth: Floats | None = None, scale: float = 1) -> Subject:
    """An output on its frame, perhaps with a truth."""
    output, known = picture(made), picture(truth) if truth is not None else None
    laid = AlignedPicture(known, Mapping(), known.bounds) if known else None
    return Subject(
        picture(frame), AlignedPicture(output, Mapping(scale, scale), output.bounds), laid
    )


def read(s: Subject, measure: str, role: str) -> float:
    """A value over the whole of a subject, as if it were a patch of a role."""
    found = take(s, MEASURES[measure], Patch("all", role, s.whole))
    assert found.value is not None, (measure, found.reason)
    return found.value


def details(s: Subject, measure: str, role: str) -> dict[str, float]:
    """What stands behind the same."""
    return take(s, MEASURES[measure], Patch("all", role, s.whole)).details


def errors() -> Iterator[Check]:
    """Errors over five open photographs, noisy and blurred."""
    off: dict[str, list[float]] = {
        name: [] for name in ("psnr", "ssim", "ms_ssim", "de00_mean", "de00_p95", "mae", "rmse")
    }
    for name in PHOTOGRAPHS:
        truth = photograph(name)
        for made in (
            np.clip(noisy(truth, 600), 0, 1),
            scipy.ndimage.gaussian_filter(truth, (1.5, 1.5, 0)),
        ):
            s = subject(made, truth, truth)
            one, two = (255 * srgb.encode(p).astype(np.float64) for p in (made, truth))
            lumas = [p @ srgb.LUMA.astype(np.float64) for p in (one, two)]
            settings = {
                "data_range": 255,
                "gaussian_weights": True,
                "sigma": 1.5,
                "use_sample_covariance": False,
            }
            exact = reference.delta_E(lab(made), lab(truth), method="CIE 2000")
            want = {
                "psnr": skimage.metrics.peak_signal_noise_ratio(two, one, data_range=255),
                "ssim": skimage.metrics.structural_similarity(*lumas, **settings),
                "ms_ssim": float(msssim(lumas[1], lumas[0], MAX=255)),
                "de00_mean": float(exact.mean()),
                "de00_p95": float(np.percentile(exact, 95)),
                "mae": float(np.abs(one - two).mean()),
                "rmse": float(np.sqrt(((one - two) ** 2).mean())),
            }
            for measure, value in want.items():
                off[measure].append(abs(read(s, measure, "texture") - value))
    by = {
        "psnr": "scikit-image",
        "ssim": "scikit-image",
        "ms_ssim": "sewar 0.4",
        "de00_mean": "colour-science",
        "de00_p95": "colour-science",
        "mae": "numpy",
        "rmse": "numpy",
    }
    for measure, found in off.items():
        yield (
            measure,
            f"{by[measure]}, ten pairs of open photographs",
            max(found),
            MEASURES[measure].unit,
        )


def correlated(rng: np.random.Generator, blur: float, shape: tuple[int, int]) -> Floats:
    """Noise of deviation 1 whose neighbours resemble one another."""
    if not blur:
        return rng.normal(size=shape).astype(np.float32)
    margin = math.ceil(4 * blur)
    made = (
        scipy.ndimage.gaussian_filter(rng.normal(size=[n + 2 * margin for n in shape]), blur)
        * 2
        * math.sqrt(math.pi)
        * blur
    )
    return np.asarray(
        made[margin : margin + shape[0], margin : margin + shape[1]], dtype=np.float32
    )


def _whole(rest: Doubles) -> float:
    """Mean of the noise power spectrum over the whole plane of frequencies."""
    blocks, side = spectra(rest)
    return float((blocks.mean(axis=0) * sides(side)).sum()) / side**2


def noise() -> Iterator[Check]:
    """Known noise, ten seeds of each kind; the largest single deviation from what was
    put in.
    """

    def worst(measure: str, want: float, blur: float = 0.0, channels: int = 1) -> float:
        found = []
        even = np.full((256, 256), 0.2, np.float32)
        for seed in range(10):
            made = 5 * np.stack(
                [
                    correlated(np.random.default_rng([seed, c]), blur, (256, 256))
                    for c in range(channels)
                ],
                axis=-1,
            )
            linear = srgb.decode(((120 + made) / 255).astype(np.float32))
            pixels = np.broadcast_to(linear, (256, 256, 3))
            found.append(abs(read(subject(pixels, even), measure, "flat") / want - 1))
        return max(found)

    yield (
        "noise_luma",
        "sigma put in, white and blurred by 1 px",
        max(worst("noise_luma", 5, b) for b in (0, 1)) * 100,
        "%",
    )
    sizes = [(0.0, 1.0), *((b, math.sqrt(4 * math.pi) * b) for b in (0.7, 1.0, 1.5, 2.5))]
    yield (
        "grain",
        "sqrt(4 pi) s of Gaussian noise, s 0.7 to 2.5 px",
        max(worst("grain", w, b) for b, w in sizes) * 100,
        "%",
    )
    yield "nps", "white noise: 0.3826 cycles/px", worst("nps", 0.3826) * 0.3826, "cycles/px"
    rest = residual(3 * correlated(np.random.default_rng(2), 0, (256, 256)))
    yield "nps", "Parseval's theorem", abs(_whole(rest) / float(rest.var()) - 1) * 100, "%"
    yield "blotch", "white colour noise: 1", worst("blotch", 1, 0, 3), ""
    yield (
        "blotch",
        "all of it below 1/16 cycle/px: 256 / pi",
        worst("blotch", 256 / math.pi, 8, 3) * 100,
        "%",
    )
    yield (
        "unevenness",
        "even noise: 1, white and blurred by 1 and 2 px",
        max(worst("unevenness", 1, b) for b in (0, 1, 2)),
        "",
    )
    yield (
        "banding_rows",
        "no bands: 1, white and blurred by 1 px",
        max(worst("banding_rows", 1, b) for b in (0, 1)),
        "",
    )


def detail() -> Iterator[Check]:
    """Edges, texture and contrast of known softness."""
    sharp = [
        (a, s) for a in (3, 8, 20, 26.565, 42, 95, 200, 300) for s in (0.4, 0.7, 1.0, 1.6, 4.0, 6.0)
    ]
    edges = [(subject(gaussian_edge(a, s), gaussian_edge(a, s)), s) for a, s in sharp]
    yield (
        "mtf50",
        "0.18739 / sigma, 8 angles, sigma 0.4 to 6 px",
        max(abs(read(e, "mtf50", "edge") * s / 0.18739 - 1) for e, s in edges) * 100,
        "%",
    )
    yield (
        "rise",
        "2.563 sigma, likewise",
        max(abs(read(e, "rise", "edge") / s / 2.563 - 1) for e, s in edges) * 100,
        "%",
    )
    codes = srgb.encode(leaves(384, 384, 1.5, 60, 0.1, 0.5, 9, 0.5))
    truth = srgb.decode(codes)
    yield (
        "detail_kept",
        "the truth itself: 100",
        abs(read(subject(truth.copy(), truth, truth), "detail_kept", "texture") - 100),
        "%",
    )
    off = []
    for s in (0.8, 1.2):  # narrower ones are no Gaussians once they are sampled
        soft = subject(srgb.decode(scipy.ndimage.gaussian_filter(codes, s)), truth, truth)
        curve = take(soft, MEASURES["detail_kept"], Patch("all", "texture", soft.whole)).details[
            "transfer"
        ]
        f, kept = np.array(curve["cycles_per_frame_px"]), np.array(curve["kept"])
        inside = (f > 0.05) & (f < 0.35)
        off.append(np.abs(kept - np.exp(-2 * (math.pi * s * f) ** 2))[inside].max())
    yield "detail_kept", "a Gaussian's MTF, 0.05 to 0.35 cycles/px", 100 * float(max(off)), "%"
    photo = photograph("china")
    gains = [
        (g, srgb.decode((0.4 + g * (srgb.encode(photo) - 0.4)).astype(np.float32)))
        for g in (0.8, 0.9, 1.1, 1.25)
    ]
    yield (
        "contrast_change",
        "gain put in",
        max(abs(read(subject(m, photo), "contrast_change", "texture") - g) for g, m in gains),
        "",
    )


def rest() -> Iterator[Check]:
    """Artefacts and changes put in."""
    rgb = np.repeat(gaussian_edge(6, 1.2)[..., None], 3, axis=2)
    off = []
    for shift in (-0.7, -0.2, 0.3, 0.5):
        moved = rgb.copy()
        moved[..., 0] = scipy.ndimage.shift(rgb[..., 0], (0, shift), order=5, mode="nearest")
        off.append(
            abs(
                details(subject(moved, rgb), "lateral", "edge")["red_px"]
                - shift * math.cos(math.radians(6))
            )
        )
    yield "lateral", "red shifted by -0.7 to 0.5 px", max(off), "px"
    frame = np.clip(noisy(photograph("coffee"), 2000), 0, 1)
    height, width = frame.shape[:2]
    large = resample(frame, Rect(0, 0, width, height), 2 * width, 2 * height)
    back = np.stack(
        [
            np.asarray(Image.fromarray(large[..., c]).resize((width, height), Image.Resampling.BOX))
            for c in range(3)
        ],
        2,
    )
    want = 20 * math.log10(
        255
        / math.sqrt(
            float(((255 * (srgb.encode(back) - srgb.encode(frame))).astype(np.float64) ** 2).mean())
        )
    )
    yield (
        "back_projection",
        "Pillow's box filter",
        abs(read(subject(large, frame, scale=2), "back_projection", "texture") - want),
        "dB",
    )
    stops = [
        (
            ev,
            abs(
                (
                    take(
                        subject(photograph("china") * np.float32(2**ev), photograph("china")),
                        MEASURES["exposure"],
                        None,
                    ).value
                    or 9
                )
                - ev
            ),
        )
        for ev in (-0.4, 0.15)
    ]
    yield "exposure", "-0.4 and +0.15 EV put in", max(o for _, o in stops), "EV"


def main() -> None:
    """Print one line a check."""
    for family in (errors, noise, detail, rest):
        for measure, source, deviation, unit in family():
            print(f"{measure:16} {source:52} {deviation:.2g} {unit}".rstrip(), flush=True)


if __name__ == "__main__":
    main()
