"""Random fields and the small arithmetic of shading."""

import numpy as np


def field(height, width, slope=2.0, along_x=1.0, along_y=1.0, low=0.0, high=None, seed=0):
    """A periodic random field of unit deviation whose spectrum falls as 1/f^slope.

    ``along_x`` and ``along_y`` above 1 stretch it; ``low`` and ``high`` cut it off, in cycles per pixel.
    """
    white = np.random.default_rng(seed).standard_normal((height, width)).astype(np.float32)
    spectrum = np.fft.rfft2(white)
    fy = np.fft.fftfreq(height)[:, None] * along_y
    fx = np.fft.rfftfreq(width)[None, :] * along_x
    f = np.sqrt(fx * fx + fy * fy)
    f[0, 0] = 1
    gain = f ** (-slope / 2)
    gain[0, 0] = 0
    if low:
        gain *= 1 - np.exp(-((f / low) ** 4))
    if high:
        gain *= np.exp(-((f / high) ** 2))
    out = np.fft.irfft2(spectrum * gain, s=(height, width)).astype(np.float32)
    return (out - out.mean()) / (out.std() + 1e-9)


def ramp(a, b, x):
    """A smooth step from 0 at ``a`` to 1 at ``b``; falling when ``a`` exceeds ``b``."""
    t = np.clip((x - a) / (b - a), 0, 1)
    return t * t * (3 - 2 * t)


def mix(a, b, t):
    """``a`` where ``t`` is 0, ``b`` where it is 1."""
    return a + (b - a) * t


def colour(*rgb):
    """Linear BT.709 reflectance as an array that broadcasts over a picture."""
    return np.array(rgb, np.float32)


def wander(length, count, scale, seed=0):
    """``count`` slow random walks of unit deviation, ``scale`` samples wide."""
    rng = np.random.default_rng(seed)
    reach = np.arange(-3 * scale, 3 * scale + 1)
    kernel = np.exp(-0.5 * (reach / scale) ** 2)
    kernel /= np.sqrt((kernel**2).sum())
    white = rng.standard_normal((count, length + 6 * scale))
    return np.stack([np.convolve(row, kernel, "valid")[:length] for row in white])
