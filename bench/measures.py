"""PSNR, SSIM and CIEDE2000 over a 24 MP pair, against scikit-image's functions in the same run."""

from __future__ import annotations

from typing import Any

import numpy as np
import skimage.color
import skimage.metrics

from bench.setting import best, large_scene, noisy


def main() -> None:
    """Print both times of each and their ratio."""
    reference: Any = skimage.metrics
    delta_e: Any = skimage.color.deltaE_ciede2000

    from glenhail.core.measures.colour import de00_map
    from glenhail.core.measures.error import psnr
    from glenhail.core.measures.similarity import ssim_map
    from glenhail.core.measures.subject import Laid, Pair, Subject
    from glenhail.core.picture import Facts, Mapping, Picture, Rect

    scene = large_scene()
    facts = Facts("bench", "TIFF", 6000, 4000, 16, "unsigned", "", "sRGB", True)
    one, two = (Picture(np.clip(p, 0, 1), facts) for p in (scene, noisy(scene, 900, 3)))
    subject = Subject(two, Laid(two, Mapping(), two.bounds), Laid(one, Mapping(), one.bounds))
    pair: Pair = subject.pair(subject.whole)
    lumas = [np.ascontiguousarray(p.mean(axis=2)) for p in (pair.output, pair.truth)]
    part = Rect(0, 0, 6000, 1000)  # scikit-image's CIEDE2000 needs far more memory; a quarter is timed, four times counted
    small = [p[: int(part.h)] / 255 for p in (pair.output, pair.truth)]
    ours = {
        "psnr": best(lambda: psnr(subject, subject.whole)),
        "ssim": best(lambda: ssim_map(*lumas)),
        "de00": best(lambda: de00_map(pair)),
    }
    theirs = {
        "psnr": best(lambda: reference.peak_signal_noise_ratio(pair.truth, pair.output, data_range=255), 1),
        "ssim": best(
            lambda: reference.structural_similarity(
                *lumas, data_range=255, gaussian_weights=True, sigma=1.5, use_sample_covariance=False
            ),
            1,
        ),
        "de00": 4 * best(lambda: delta_e(*(skimage.color.rgb2lab(p) for p in small)), 1),
    }
    for name, seconds in ours.items():
        print(f"{name}: {seconds:5.2f} s, scikit-image {theirs[name]:6.2f} s, {theirs[name] / seconds:5.1f} times faster")
    print(f"together: {sum(theirs.values()) / sum(ours.values()):.1f} times faster")


if __name__ == "__main__":
    main()
