"""How often the audit of a picture is wrong: findings on 200 honest outputs, and 200
faults put in, by kind; and its time on 24 MP.

Frames are parts of the sample scenes and of open photographs, with the noise of a
full-frame body at ISO 400 to 25,600. An honest output is one that a denoiser, a plain
enlargement or nothing at all made of it. A fault is put into such an output by a few
lines of its own.
"""

from __future__ import annotations

import sys
import time
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor

import numpy as np
import scipy.ndimage
import skimage.transform

from bench.setting import large_scene, noisy
from glenhail.core.audit.examine import examine
from glenhail.core.audit.finding import RuleBreach, Weight
from glenhail.core.audit.output_rule import AuditedOutput
from glenhail.core.audit.rules import check_output
from glenhail.core.colour import srgb
from glenhail.core.degrade.noise import Sensor, photograph
from glenhail.core.errors import NoLineUp
from glenhail.core.filters.resample import resample
from glenhail.core.lineup.aligned import aligned
from glenhail.core.lineup.register import line_up
from glenhail.core.methods.sharpen import unsharp_mask
from glenhail.core.methods.treat import treat
from glenhail.core.picture import Facts, Floats, Picture, Rect

SEED, COUNT = 20261125, 200
BODY = Sensor(full_well=42_000, read_noise=3.6)
SIDE = (1000, 760)
DENOISERS = ("gaussian", "median", "bilateral", "means", "variation", "wavelet", "guided")
Fault = Callable[[Floats, np.random.Generator], Floats]


def sources() -> list[Floats]:
    """Parts of scenes, linear light, shape (760, 1000, 3) or as large as the photograph
    is.
    """
    from glenhail.demo.frames import scene
    from glenhail.demo.samples import DYE_SHED, GAUGE_WALL, LOOM_TABLE, NIGHT_YARD
    from tests.pictures import photograph as open_photograph

    found = []
    for sample in (GAUGE_WALL, DYE_SHED, LOOM_TABLE, NIGHT_YARD):
        light = scene(sample)
        for y, x in ((0, 0), (500, 900), (250, 400)):
            found.append(light[y : y + SIDE[1], x : x + SIDE[0]])
    return found + [
        open_photograph(name) for name in ("china", "flower", "astronaut", "coffee", "chelsea")
    ]


def as_frame(light: Floats, rng: np.random.Generator) -> Floats:
    """What a body records of it, 16 bit."""
    iso = float(400 * 2 ** rng.integers(0, 7))
    shot = photograph(np.ascontiguousarray(light), BODY, iso, int(rng.integers(1 << 30)))
    return sixteen_bit(shot)


def sixteen_bit(light: Floats) -> Floats:
    """Through a 16-bit file."""
    codes = np.round(np.clip(srgb.encode(light), 0, 1) * 65535) / 65535
    return np.asarray(srgb.decode(codes.astype(np.float32)), dtype=np.float32)


def honest(frame: Floats, rng: np.random.Generator) -> tuple[Floats, str]:
    """What a clean tool makes of it."""
    name = str(rng.choice([*DENOISERS, *DENOISERS, "as it is", "bicubic", "lanczos"]))
    if name == "as it is":
        return frame, name
    height, width = frame.shape[:2]
    if name in ("bicubic", "lanczos"):
        times = float(rng.choice([1.5, 2.0, 3.0]))
        made = resample(
            frame, Rect(0, 0, width, height), round(width * times), round(height * times), name
        )
        return made, f"{name} {times:g}x"
    strength = float(rng.choice([60, 80, 100]))
    return treat(frame, name, {}, strength=strength), f"{name} {strength:g} %"


def denoised(frame: Floats, rng: np.random.Generator) -> Floats:
    """An honest output of the frame's own size, to put a fault into."""
    name = str(rng.choice(["guided", "wavelet", "median", "as it is"]))
    return (
        frame
        if name == "as it is"
        else treat(frame, name, {}, strength=float(rng.choice([60, 100])))
    )


def encoded(change: Callable[[Floats, np.random.Generator], Floats]) -> Fault:
    """A fault that is worked on encoded values."""

    def done(light: Floats, rng: np.random.Generator) -> Floats:
        return np.asarray(
            srgb.decode(np.clip(change(srgb.encode(light), rng), 0, 1).astype(np.float32)),
            dtype=np.float32,
        )

    return done


def sign(rng: np.random.Generator) -> float:
    """Either way."""
    return float(rng.choice([-1.0, 1.0]))


def moved(light: Floats, rng: np.random.Generator) -> Floats:
    """By whole pixels, black behind it."""
    dx, dy = int(rng.integers(1, 4)), int(rng.integers(0, 3))
    out = np.zeros_like(light)
    out[dy:, dx:] = light[: light.shape[0] - dy, : light.shape[1] - dx]
    return out


def warped(light: Floats, inverse: Callable[[np.ndarray], np.ndarray]) -> Floats:
    """scikit-image's warp."""
    planes = [
        skimage.transform.warp(light[..., i].astype(float), inverse, order=3, mode="edge")
        for i in range(3)
    ]
    return np.stack(planes, axis=-1).astype(np.float32)


def turned(light: Floats, rng: np.random.Generator) -> Floats:
    """By 0.15 to 1 degree."""
    angle = sign(rng) * rng.uniform(0.15, 1.0)
    return np.stack(
        [
            skimage.transform.rotate(light[..., i].astype(float), angle, order=3, mode="edge")
            for i in range(3)
        ],
        -1,
    ).astype(np.float32)


def bent(light: Floats, rng: np.random.Generator) -> Floats:
    """A lens correction, corners moved by 2 to 8 px."""
    middle = np.array([light.shape[1] / 2, light.shape[0] / 2])
    k = sign(rng) * rng.uniform(2, 8) / float(np.hypot(*middle))
    return warped(
        light,
        lambda p: (
            middle
            + (p - middle)
            * (1 + k * (((p - middle) / np.hypot(*middle)) ** 2).sum(1, keepdims=True))
        ),
    )


def corners(light: Floats, rng: np.random.Generator) -> Floats:
    """Lit or darkened by 0.2 to 0.6 EV."""
    y, x = np.meshgrid(
        np.linspace(-1, 1, light.shape[0]), np.linspace(-1, 1, light.shape[1]), indexing="ij"
    )
    return np.asarray(
        light * (2 ** (sign(rng) * rng.uniform(0.2, 0.6) * (x**2 + y**2) / 2))[..., None],
        dtype=np.float32,
    )


def saturated(codes: Floats, rng: np.random.Generator) -> Floats:
    """Chroma times 0.75 to 0.88 or 1.14 to 1.4."""
    luma = (codes @ srgb.LUMA)[..., None]
    factor = rng.uniform(1.14, 1.4) if rng.random() < 0.5 else rng.uniform(0.75, 0.88)
    return np.asarray(luma + np.float32(factor) * (codes - luma))


def cast(light: Floats, rng: np.random.Generator) -> Floats:
    """White balance off by 8 to 20 % in red or blue."""
    gains = np.ones(3, dtype=np.float32)
    gains[int(rng.choice([0, 2]))] += np.float32(sign(rng) * rng.uniform(0.08, 0.2))
    return light * gains


def opened(codes: Floats, rng: np.random.Generator) -> Floats:
    """Shadows opened."""
    return np.asarray(codes + np.float32(rng.uniform(0.03, 0.08)) * np.clip(1 - codes, 0, 1) ** 4)


def sharpened(light: Floats, rng: np.random.Generator) -> Floats:
    """An unsharp mask that nobody asked for."""
    return unsharp_mask(light, float(rng.uniform(1.2, 2.0)), float(rng.uniform(0.8, 1.5)))


def grainy(codes: Floats, rng: np.random.Generator) -> Floats:
    """Grain added over all, 0.8 to 1.5 times as strong as what is fine already."""
    grain = (
        rng.standard_normal(codes.shape[:2]).astype(np.float32)
        * rng.uniform(0.8, 1.5)
        * fineness(codes)
    )
    return codes + grain[..., None].astype(np.float32)


def fineness(codes: Floats) -> float:
    """Standard deviation of the finest structure and noise, encoded."""
    luma = codes @ srgb.LUMA
    return float((luma - scipy.ndimage.gaussian_filter(luma, 1.0)).std())


def patchy(light: Floats, rng: np.random.Generator) -> Floats:
    """Noise left in half of the places, taken off in the others."""
    smooth = treat(light, "guided", {})
    clouds = scipy.ndimage.gaussian_filter(rng.standard_normal(light.shape[:2]), 18)
    return np.where((clouds > 0)[..., None], light, treat(smooth, "gaussian", {})).astype(
        np.float32
    )


def invented(light: Floats, rng: np.random.Generator) -> Floats:
    """Enlarged, with a texture of its own as strong as what is fine in the frame."""
    height, width = light.shape[:2]
    times = int(rng.choice([2, 3]))
    codes = srgb.encode(
        resample(light, Rect(0, 0, width, height), width * times, height * times, "bicubic")
    )
    white = rng.standard_normal(codes.shape[:2]).astype(np.float32)
    band = scipy.ndimage.gaussian_filter(white, 0.7) - scipy.ndimage.gaussian_filter(white, 1.4)
    return np.asarray(
        srgb.decode(
            codes
            + (rng.uniform(0.7, 1.4) * fineness(srgb.encode(light)) * band / band.std())[
                ..., None
            ].astype(np.float32)
        )
    )


def stretched(light: Floats, rng: np.random.Generator) -> Floats:
    """One side longer by 0.4 to 1.5 %."""
    height, width = light.shape[:2]
    return resample(
        light,
        Rect(0, 0, width, height),
        round(width * (1 + rng.uniform(0.004, 0.015))),
        height,
        "lanczos",
    )


# Each kind with the rules of which one must find it.
FAULTS: dict[str, tuple[Fault, frozenset[str]]] = {
    "moved, black lines": (moved, frozenset({"moved"})),
    "turned": (turned, frozenset({"turned"})),
    "lens correction": (bent, frozenset({"bent"})),
    "stretched": (stretched, frozenset({"stretched"})),
    "exposure": (
        lambda p, rng: p * np.float32(2 ** (sign(rng) * rng.uniform(0.12, 0.6))),
        frozenset({"exposure"}),
    ),
    "gamma": (
        encoded(
            lambda c, rng: np.maximum(c, 0) ** np.float32(1.15 if rng.random() < 0.5 else 0.87)
        ),
        frozenset({"shadows", "mids", "lights", "exposure"}),
    ),
    "shadows opened": (encoded(opened), frozenset({"shadows", "exposure"})),
    "corners": (corners, frozenset({"corners"})),
    "white balance": (cast, frozenset({"greys", "hue", "colour"})),
    "saturation": (encoded(saturated), frozenset({"saturation"})),
    "sharpened": (sharpened, frozenset({"sharpened"})),
    "grain added": (encoded(grainy), frozenset({"noise-raised", "added"})),
    "in patches": (patchy, frozenset({"patchy"})),
    "invented": (invented, frozenset({"finer"})),
}


def marks(frame: Floats, output: Floats) -> list[RuleBreach]:
    """All that the rules say of an output."""
    facts = Facts("bench", "TIFF", frame.shape[1], frame.shape[0], 16, "unsigned", "", "sRGB", True)
    one, two = Picture(frame, facts), Picture(np.ascontiguousarray(output), facts)
    try:
        found = line_up(one, two)
    except NoLineUp as why:
        return check_output(AuditedOutput(two.width, two.height, refused=str(why)))
    seen = AuditedOutput(
        two.width,
        two.height,
        found.mapping,
        found.border,
        found.residual,
        "",
        found.doubts,
        examine(one, aligned(two, found)),
    )
    return check_output(seen)


def shows(base: Floats, made: Floats) -> bool:
    """Whether a fault did anything that one could see: 5 % of the pixels by 3 codes."""
    return bool(
        (np.abs(srgb.encode(made) - srgb.encode(base)).max(axis=-1) > 3 / 255).mean() > 0.05
    )


def _one_honest(at: int) -> tuple[str, list[RuleBreach]]:
    rng = np.random.default_rng([SEED, 1, at])
    frame = as_frame(_SOURCES[at % len(_SOURCES)], rng)
    made, name = honest(frame, rng)
    return f"{at % len(_SOURCES)}, {name}", marks(frame, sixteen_bit(made))


def _one_fault(at: int) -> tuple[str, list[RuleBreach]]:
    rng = np.random.default_rng([SEED, 2, at])
    kind = list(FAULTS)[at % len(FAULTS)]
    frame = as_frame(_SOURCES[at // 2 % len(_SOURCES)], rng)
    base = frame if kind in ("in patches", "grain added") else denoised(frame, rng)
    for other in range(len(_SOURCES)):
        made = FAULTS[kind][0](base, rng)
        if made.shape != base.shape or shows(base, made):
            break
        # A frame without shadows shows nothing of shadows that were opened: another one.
        frame = as_frame(_SOURCES[(at + other) % len(_SOURCES)], rng)
        base = frame if kind in ("in patches", "grain added") else denoised(frame, rng)
    return kind, marks(frame, sixteen_bit(made))


_SOURCES: list[Floats] = []


def main() -> None:
    """Print alarms, misses and times."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else COUNT
    _SOURCES.extend(sources())
    with ThreadPoolExecutor(2) as pool:
        clean = list(pool.map(_one_honest, range(count)))
        faulty = list(pool.map(_one_fault, range(count)))
    alarms = [(name, [m for m in found if m.weight != Weight.HARMLESS]) for name, found in clean]
    false = [(name, heavy) for name, heavy in alarms if heavy]
    for name, heavy in false:
        print(f"  alarm on {name}: {'; '.join(f'{m.rule.id} ({m.words})' for m in heavy)}")
    print(
        f"seed {SEED}: {len(false)} of {count} honest outputs with a finding that needs a decision"
        f" ({100 * len(false) / count:.1f} %)"
    )
    notes = Counter(m.rule.id for _, found in clean for m in found if m.weight == Weight.HARMLESS)
    print(f"  harmless notes on them: {dict(notes)}")
    missed = [
        (kind, found) for kind, found in faulty if not FAULTS[kind][1] & {m.rule.id for m in found}
    ]
    for kind, found in missed:
        print(f"  missed {kind}: told {[m.rule.id for m in found]}")
    by_kind = Counter(kind for kind, _ in missed)
    print(
        f"seed {SEED}: {len(missed)} of {count} faults missed ({100 * len(missed) / count:.1f} %)"
        f" {dict(by_kind)}"
    )
    _time()


def _time() -> None:
    scene = large_scene()
    facts = Facts("bench", "TIFF", 6000, 4000, 16, "unsigned", "", "sRGB", True)
    one, two = Picture(noisy(scene, 900, 3), facts), Picture(scene, facts)
    start = time.perf_counter()
    found = line_up(one, two)
    lined = time.perf_counter()
    examine(one, aligned(two, found))
    done = time.perf_counter()
    copy = time.perf_counter()
    np.copyto(np.empty_like(scene), scene)
    copy = time.perf_counter() - copy
    print(
        f"24 MP: line-up {lined - start:.1f} s, examination {done - lined:.1f} s;"
        f" {(done - start) / copy:.0f} copies of the data"
    )


if __name__ == "__main__":
    main()
