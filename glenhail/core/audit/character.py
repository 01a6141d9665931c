"""What was done to a picture besides what was asked, told from the picture itself."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.audit.bands import BROAD, COARSE, FINE, GROUND, MID, Blocks
from glenhail.core.interval import Interval
from glenhail.core.picture import Doubles

LUMA = 0
TONES = 6  # groups of blocks by brightness
PLAINEST = 0.25  # share of each group that is taken for plain, at most
FLOOR = 0.1  # quantile of a group's energies that is taken for noise
STRONG, FAINT = 12.0, 3.0  # times the noise floor, from where structure is strong, and faint
EVEN = 1.4  # times the noise floor, up to where a plain block holds noise alone
MOST_CUT = (
    0.25  # share of a block's pixels at black or white; noise in deep shadows is cut off often
)
LEAST_BLOCKS = 8
ROUNDING = 1 / 12  # codes squared


@dataclass(frozen=True)
class Character:
    """Ratios of an output to its frame; None where too few places say something.

    ``sharpened``: gain of fine structure over that of coarse structure (1 is none).
    ``local_contrast``: of structure of 8 to 20 px over coarser. ``smeared``: share of
    faint fine structure that is still there. ``noise``: what is left of the brightness
    noise of plain parts in each octave, ``noise_raised`` the most of it. ``blotches``:
    colour noise left in coarse octaves over fine ones, in dark plain parts, with
    ``blotch_codes`` its size in 8-bit codes, ``blotch_fine`` the share of fine energy
    left. ``patchy``: scatter, from place to place, of the amplitude of fine noise left.
    ``added``: energy that has nothing to do with the frame over that of its structure.
    """

    sharpened: Interval | None
    local_contrast: Interval | None
    smeared: Interval | None
    noise: tuple[float, ...]
    noise_raised: Interval | None
    blotches: Interval | None
    blotch_codes: float
    blotch_fine: float
    patchy: Interval | None
    added: Interval | None


def character(found: Blocks) -> Character:
    """All of it from the sums over blocks.

    Parameters
    ----------
    found : Blocks
        Sums over blocks.
    """
    whole = found.cut <= MOST_CUT
    b = Blocks(*(getattr(found, name)[whole] for name in Blocks.__dataclass_fields__))
    group = _groups(b.luma)
    floor = _floors(b.ff[:, LUMA], group)
    plain = _plain(b, group)
    dark = plain & (b.luma < 90)
    noise = tuple(float(r) for r in _left(b, plain))
    shade = dark if int(dark.sum()) >= LEAST_BLOCKS else plain
    return Character(
        _sharpened(b, floor),
        _gain(b, floor, COARSE + 1, GROUND),
        _smeared(b, floor),
        noise,
        _raised(b, plain),
        _blotches(b, shade),
        float(np.sqrt(np.median(b.yy[plain][:, 1:, BROAD].sum(axis=1)))) if plain.any() else 0.0,
        _fine_colour(b, shade),
        _patchy(b, group),
        _added(b, floor),
    )


def _groups(luma: Doubles) -> np.ndarray:
    """Each block's group of brightness, groups of equal size."""
    order = np.argsort(np.argsort(luma))
    return np.asarray(order * TONES // max(1, luma.size))


def _floors(energy: Doubles, group: np.ndarray) -> Doubles:
    """The noise's energy at each block, from the plainest of its group; shape as
    `energy`.
    """
    floor = np.empty_like(energy)
    for g in range(TONES):
        mine = group == g
        if mine.any():
            floor[mine] = np.quantile(energy[mine], FLOOR, axis=0)
    return np.maximum(floor, ROUNDING)


def _plain(b: Blocks, group: np.ndarray) -> np.ndarray:
    """Blocks that hold hardly more than noise: the plainest of each group in the
    octaves where structure shows.
    """
    structure = b.ff[:, LUMA, MID : BROAD + 1].sum(axis=1)
    plain = np.zeros(structure.size, dtype=bool)
    for g in range(TONES):
        mine = group == g
        if mine.any():
            least, some, most = np.quantile(structure[mine], [0.05, 0.1, PLAINEST])
            plain |= mine & (structure <= min(most, max(some, 2.5 * least)))
    return plain


def pooled(top: Doubles, bottom: Doubles) -> Interval | None:
    """Ratio of two sums over blocks, with its interval from leaving groups of blocks
    out (jackknife over twelve).

    Parameters
    ----------
    top : ndarray, shape (blocks,)
        What is above the line, one a block.
    bottom : ndarray, shape (blocks,)
        What is below it.
    """
    if top.size < LEAST_BLOCKS or float(bottom.sum()) <= 0:
        return None
    value = float(top.sum() / bottom.sum())
    part = np.arange(top.size) * 12 // top.size
    others = np.array([top[part != i].sum() / bottom[part != i].sum() for i in range(12)])
    error = float(np.sqrt(11 / 12 * ((others - others.mean()) ** 2).sum()))
    return Interval(value, value - 1.96 * error, value + 1.96 * error)


def _gain(b: Blocks, floor: Doubles, octave: int, against: int) -> Interval | None:
    """Gain of strong structure in one octave over that in another, in the same blocks."""
    strong = (b.ff[:, LUMA, octave] > STRONG * floor[:, octave]) & (
        b.ff[:, LUMA, against] > STRONG * floor[:, against] / 3
    )
    if int(strong.sum()) < LEAST_BLOCKS:
        return None
    one, two = (pooled(b.fy[strong, LUMA, o], b.ff[strong, LUMA, o]) for o in (octave, against))
    if one is None or two is None or two.value <= 0.2:
        return None
    return Interval(one.value / two.value, one.low / two.value, one.high / two.value)


def _sharpened(b: Blocks, floor: Doubles) -> Interval | None:
    """The largest gain of the three finest octaves that can be had: of strong
    structure, or of all that agrees with the frame.

    A tool that removes noise first raises structure alone; one that removes none raises
    both alike.
    """
    gains = [_gain(b, floor, o, BROAD) for o in (FINE, MID, COARSE)]
    gains += [pooled(b.fy[:, LUMA, o], b.ff[:, LUMA, o]) for o in (FINE, MID)]
    told = [g for g in gains if g is not None]
    return max(told, key=lambda g: g.value) if told else None


def _smeared(b: Blocks, floor: Doubles) -> Interval | None:
    """Share kept of faint structure, the frame's noise taken off its energy."""
    energy = b.ff[:, LUMA, MID]
    faint = (energy > FAINT * floor[:, MID]) & (energy < STRONG * floor[:, MID])
    return pooled(b.fy[faint, LUMA, MID], energy[faint] - floor[faint, MID])


def _left(b: Blocks, plain: np.ndarray) -> Doubles:
    if not plain.any():
        return np.zeros(0)
    return np.asarray(
        b.yy[plain, LUMA].sum(axis=0) / np.maximum(b.ff[plain, LUMA].sum(axis=0), 1e-9)
    )


def _raised(b: Blocks, plain: np.ndarray) -> Interval | None:
    """The most that is left of the noise in any octave but the coarsest, where
    structure hides.
    """
    left = [
        pooled(b.yy[plain, LUMA, o], b.ff[plain, LUMA, o] + ROUNDING) for o in (FINE, MID, COARSE)
    ]
    told = [e for e in left if e is not None]
    return max(told, key=lambda e: e.value) if told else None


def _blotches(b: Blocks, plain: np.ndarray) -> Interval | None:
    """What is left of colour noise in the coarse octave over what is left of it in the
    finest.
    """
    colour = slice(1, 3)
    coarse = pooled(
        b.yy[plain, colour, COARSE].sum(axis=1), b.ff[plain, colour, COARSE].sum(axis=1)
    )
    fine = pooled(
        b.yy[plain, colour, FINE].sum(axis=1) + ROUNDING,
        b.ff[plain, colour, FINE].sum(axis=1) + ROUNDING,
    )
    if coarse is None or fine is None:
        return None
    scale = 1 / max(fine.value, 1e-4)
    return Interval(coarse.value * scale, coarse.low * scale, coarse.high * scale)


def _fine_colour(b: Blocks, plain: np.ndarray) -> float:
    """Share of the energy of fine colour noise that is left."""
    colour = slice(1, 3)
    return (
        float(
            (b.yy[plain, colour, FINE].sum() + ROUNDING)
            / (b.ff[plain, colour, FINE].sum() + ROUNDING)
        )
        if plain.any()
        else 1.0
    )


def _patchy(b: Blocks, group: np.ndarray) -> Interval | None:
    """How unevenly noise was taken off where there is nothing else: scatter of the
    amplitude of fine noise left (1 is all of it).

    The scatter from block to block, less what the scatter within blocks explains
    (one-way analysis of variance, random effects): places are larger than a quarter of
    a block, chance is not.
    """
    frame, output = b.left[..., 0] + ROUNDING, b.left[..., 1]
    floor = _floors(frame.ravel(), np.repeat(group, 4)).reshape(frame.shape)
    even = frame.mean(axis=1) <= EVEN * floor.mean(axis=1)
    if int(even.sum()) < LEAST_BLOCKS:
        return None
    left, mine = np.sqrt(output[even] / frame[even]), group[even]
    means = left.mean(axis=1)
    off = np.concatenate(
        [means[mine == g] - np.median(means[mine == g]) for g in range(TONES) if (mine == g).any()]
    )
    within = float(np.median(left.var(axis=1, ddof=1))) / 4
    # The 80 % point of the half-normal, which a few odd blocks do not move.
    between = (float(np.quantile(np.abs(off), 0.8)) / 1.2816) ** 2
    value = float(np.sqrt(max(0.0, between - within)))
    error = max(value, np.sqrt(within)) / np.sqrt(2 * off.size)
    return Interval(value, value - 1.96 * error, value + 1.96 * error)


def _added(b: Blocks, floor: Doubles) -> Interval | None:
    """What of the output's fine structure has nothing to do with the frame's, less what
    the frame's noise explains.
    """
    o = MID
    strong = b.ff[:, LUMA, o] > STRONG / 3 * floor[:, o]
    if int(strong.sum()) < LEAST_BLOCKS:
        return None
    ff, fy, yy = (m[strong, LUMA, o] for m in (b.ff, b.fy, b.yy))
    gain = np.maximum(fy / ff, 0)
    rest = yy - fy * fy / ff - gain**2 * floor[strong, o]
    return pooled(rest, ff)
