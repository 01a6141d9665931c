"""From a rendering to a picture: stray sparks out, what noise is left out, lens glow in; linear light, 1.0 = display white."""

import cv2
import numpy as np
import tifffile


def without_sparks(picture, halves, factor=5.0):
    """Lone pixels far above their neighbours in only one half of the samples are chance, and take their neighbours' median."""
    light = picture.max(-1)
    median = cv2.medianBlur(light.astype(np.float32), 5)
    stray = light > factor * median + 0.05
    stray &= cv2.boxFilter(stray.astype(np.float32), -1, (5, 5), normalize=False) <= 3
    a, b = (h.max(-1) for h in halves)
    stray &= np.minimum(a, b) < 0.4 * np.maximum(a, b)
    out = picture.copy()
    for c in range(3):
        out[..., c][stray] = cv2.medianBlur(picture[..., c].astype(np.float32), 3)[stray]
    return out


def denoised(picture, guides):
    """Cleaned with albedo and normals as guides. ``clean_aux`` keeps threads: without it they are smeared."""
    import pyoidn

    albedo = np.ascontiguousarray(np.clip(guides["albedo"], 0, 1))
    normal = np.ascontiguousarray(guides["normal"])
    picture = np.ascontiguousarray(picture, np.float32)
    return pyoidn.denoise(
        picture, albedo=albedo, normal=normal, hdr=True, quality="high", clean_aux=True
    )


def glow(picture, cap=40.0, share=0.010):
    """Lens scatter: a small share of the light goes into wide tails, the sum of Gaussians an octave and a half apart."""
    picture = np.minimum(picture, cap).astype(np.float32)
    height, width = picture.shape[:2]
    scale = width / 2160.0
    out = picture * (1 - share)
    for sigma, weight in ((3, 0.40), (8, 0.27), (22, 0.17), (60, 0.10), (160, 0.06)):
        k = max(1, int(sigma * scale / 6))
        small = cv2.resize(picture, (width // k, height // k), interpolation=cv2.INTER_AREA)
        wide = cv2.GaussianBlur(
            small, (0, 0), max(sigma * scale / k, 0.3), borderType=cv2.BORDER_REFLECT
        )
        out += share * weight * cv2.resize(wide, (width, height), interpolation=cv2.INTER_CUBIC)
    return np.maximum(out, 0)


def remaining_noise(halves, guides):
    """Deviation of the noise left after cleaning, in gamma-2.2 units, from the two halves of the samples."""
    a, b = (np.clip(denoised(h, guides), 0, 1) ** (1 / 2.2) for h in halves)
    return float(((a - b) / 2).std())


def write_scene(path, picture, bits=12):
    """A float TIFF whose mantissas keep ``bits`` bits, so that it packs; far finer than a 16-bit display code in the tones."""
    step = np.uint32(1 << (23 - bits))
    codes = np.ascontiguousarray(picture, np.float32).view(np.uint32)
    kept = ((codes + step // 2) & ~(step - np.uint32(1))).view(np.float32)
    tifffile.imwrite(
        path,
        kept,
        photometric="rgb",
        compression="deflate",
        predictor=True,
        compressionargs={"level": 9},
    )


def write_preview(path, picture):
    """An 8-bit sRGB picture to look at."""
    x = np.clip(picture, 0, 1)
    codes = np.where(
        x <= 0.0031308, 12.92 * x, 1.055 * np.maximum(x, 1e-9) ** (1 / 2.4) - 0.055
    )  # IEC 61966-2-1
    cv2.imwrite(str(path), (codes * 255 + 0.5).astype(np.uint8)[..., ::-1])
