"""Stars at known places, painted as Gaussians integrated over each pixel."""

import cv2
import numpy as np

COUNT, SEED, SIGMA = 62, 12, 0.7  # px
APART, FROM_EDGE, DARK_ENOUGH = 14, 9, 0.16


def paint_stars(picture, depth):
    """Adds the stars to the sky (depth 0); returns the picture and each star's x, y, peak and colour."""
    height, width = picture.shape[:2]
    scale = width / 2160.0
    kernel = np.ones((2 * int(FROM_EDGE * scale) + 3,) * 2)
    sky = cv2.erode((depth <= 1e-6).astype(np.uint8), kernel) > 0
    ys, xs = np.nonzero(sky & (cv2.GaussianBlur(picture.max(-1), (0, 0), 8 * scale) < DARK_ENOUGH))
    rng, stars = np.random.default_rng(SEED), []
    while len(stars) < COUNT:
        i = rng.integers(len(xs))
        x, y = xs[i] + rng.random(), ys[i] + rng.random()
        if y / height > 0.44 and rng.random() < 0.6:  # fewer in the haze
            continue
        if all((x - s["x"]) ** 2 + (y - s["y"]) ** 2 > (APART * scale) ** 2 for s in stars):
            peak, tint = 0.025 * (1.3 / 0.025) ** (rng.random() ** 1.9), rng.normal(0, 0.16)
            hue = [float(np.clip(1 + tint, 0.6, 1.3)), 1.0, float(np.clip(1 - tint, 0.6, 1.35))]
            stars.append(
                {
                    "x": round(float(x), 3),
                    "y": round(float(y), 3),
                    "peak": round(peak, 4),
                    "colour": hue,
                }
            )
    out = picture.copy()
    for star in stars:
        _paint(out, star)
    return out, sorted(stars, key=lambda s: -s["peak"])


def _paint(out, star, reach=5, fine=5):
    x0, y0 = int(star["x"]) - reach, int(star["y"]) - reach
    at = np.arange(2 * reach + 1)[:, None] + (np.arange(fine) + 0.5) / fine
    gx, gy = (
        np.exp(-0.5 * ((corner + at - centre) / SIGMA) ** 2).mean(1)
        for corner, centre in ((x0, star["x"]), (y0, star["y"]))
    )
    spot = np.outer(gy, gx) * star["peak"]
    h, w = out.shape[:2]
    ya, yb, xa, xb = max(y0, 0), min(y0 + 2 * reach + 1, h), max(x0, 0), min(x0 + 2 * reach + 1, w)
    out[ya:yb, xa:xb] += (
        spot[ya - y0 : yb - y0, xa - x0 : xb - x0, None] * np.array(star["colour"])
    ).astype(np.float32)
