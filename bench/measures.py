"""Errors over a 24 MP pair and patches of 256 px: against scikit-image, OpenCV and a
plain copy of the data, in one run.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import partial
from typing import Any

import cv2
import numpy as np
import skimage.color
import skimage.metrics

from bench.setting import best, large_scene, most_held, noisy
from glenhail.core.colour import srgb
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import MEASURES, ROLES, Patch, take, take_all
from glenhail.core.measures.similarity import SCALES
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Facts, Floats, Mapping, Picture, Rect

WHOLE = ("psnr", "ssim", "ms_ssim", "de00_mean")


def subjects() -> Callable[[], Subject]:
    """A frame of 24 MP, a noisy output of it, and the frame as truth; anew each time,
    so that nothing is remembered.
    """
    scene = large_scene()
    facts = Facts("bench", "TIFF", 6000, 4000, 16, "unsigned", "", "sRGB", True)
    one, two = (np.clip(p, 0, 1) for p in (scene, noisy(scene, 900, 3)))

    def make() -> Subject:
        frame, output = Picture(one, facts), Picture(two, facts)
        return Subject(
            frame,
            AlignedPicture(output, Mapping(), output.bounds),
            AlignedPicture(frame, Mapping(), frame.bounds),
        )

    return make


def ours(subject: Subject) -> None:
    """All four, from linear light."""
    for name in WHOLE:
        take(subject, MEASURES[name], None)


def theirs(one: Floats, two: Floats) -> dict[str, float]:
    """Seconds of scikit-image's functions from encoded values;

    MS-SSIM composed of its SSIM at five scales.
    """
    metrics: Any = skimage.metrics
    settings = {
        "data_range": 255,
        "gaussian_weights": True,
        "sigma": 1.5,
        "use_sample_covariance": False,
    }
    lumas = [np.ascontiguousarray(p @ srgb.LUMA) for p in (one, two)]

    def scales() -> None:
        planes = lumas
        for _ in SCALES:
            metrics.structural_similarity(*planes, **settings)
            planes = [
                cv2.resize(p, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA) for p in planes
            ]

    # Its CIEDE2000 needs far more memory: a quarter is timed, and counted four times.
    quarter = [p[:1000] / 255 for p in (one, two)]
    delta: Any = skimage.color.deltaE_ciede2000
    return {
        "psnr": best(lambda: metrics.peak_signal_noise_ratio(one, two, data_range=255), 1),
        "ssim": best(lambda: metrics.structural_similarity(*lumas, **settings), 1),
        "ms_ssim": best(scales, 1),
        "de00_mean": 4 * best(lambda: delta(*(skimage.color.rgb2lab(p) for p in quarter)), 1),
    }


def opencv_ssim(one: Floats, two: Floats) -> float:
    """SSIM composed of OpenCV's Gaussian filter."""
    mx, my, xx, yy, xy = (
        cv2.GaussianBlur(p, (11, 11), 1.5) for p in (one, two, one * one, two * two, one * two)
    )
    c1, c2 = 6.5025, 58.5225
    top = (2 * mx * my + c1) * (2 * (xy - mx * my) + c2)
    return float((top / ((mx * mx + my * my + c1) * (xx - mx * mx + yy - my * my + c2))).mean())


def patches(make: Callable[[], Subject]) -> None:
    """Milliseconds of all measures of each role on 256 x 256 px, line-up and decoding
    done.
    """
    rect = Rect(2000, 1500, 256, 256)
    times = []
    for role in ROLES:
        patch = [Patch("p", role, rect)]
        first = best(partial(lambda p: take_all(make(), p), patch), 7)
        subject = make()
        take_all(subject, patch)
        more = best(partial(lambda s, p: take_all(s.of(s.output), p), subject, patch), 7)
        times.append((first, more))
        print(
            f"patch of 256 x 256 px, {role:11}: {1000 * first:5.1f} ms, a frame's further outputs"
            f" {1000 * more:5.1f} ms"
        )
    first, more = (float(np.median(t)) for t in zip(*times, strict=True))
    print(
        f"median of the roles: {1000 * first:.1f} ms, further outputs {1000 * more:.1f} ms (wanted:"
        " at most 20)"
    )


def main() -> None:
    """Print times, ratios and the most memory that was held."""
    make = subjects()
    ours(make())
    subject = make()
    held = most_held(lambda: ours(make()))
    seconds = {name: best(lambda name=name: take(make(), MEASURES[name], None)) for name in WHOLE}  # type: ignore[misc]
    together = best(lambda: ours(make()))
    start = time.perf_counter()
    copies = [p.pixels.copy() for p in (subject.source, subject.output.picture)]
    copying = time.perf_counter() - start
    codes = [srgb.encode(p) * np.float32(255) for p in copies]
    others = theirs(codes[0], codes[1])
    for name in WHOLE:
        print(
            f"{name:10} alone {seconds[name]:5.2f} s, scikit-image {others[name]:6.2f} s:"
            f" {others[name] / seconds[name]:5.1f} times"
        )
    print(
        f"together {together:5.2f} s, scikit-image {sum(others.values()):6.2f} s:"
        f" {sum(others.values()) / together:5.1f} times faster"
    )
    print(
        f"that is {together / copying:.1f} copies of the data ({copying:.3f} s); most memory held"
        f" beside the pictures {held / 1e6:.0f} MB (wanted: under 700)"
    )
    lumas = [np.ascontiguousarray(c @ srgb.LUMA, dtype=np.float32) for c in codes]
    from glenhail.core.measures.similarity import ssim_map

    one, two = best(lambda: float(ssim_map(*lumas).mean())), best(lambda: opencv_ssim(*lumas))
    print(
        f"SSIM of two lumas {one:.2f} s, composed of OpenCV's filters {two:.2f} s: {two / one:.1f}"
        " times faster"
    )
    patches(make)


if __name__ == "__main__":
    main()
