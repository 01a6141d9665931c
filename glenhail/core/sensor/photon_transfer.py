"""Conversion gain and read noise out of temporal noise over light.

Photon transfer (Janesick, J. R. (2007), Photon Transfer, SPIE Press; EMVA 1288
release 4): photons arrive by Poisson's law, so that the variance of codes grows with
their mean, and its slope is the codes that one electron makes.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy.ndimage

from glenhail.core.interval import Interval
from glenhail.core.picture import Doubles
from glenhail.core.sensor.pairs import Moments
from glenhail.core.statistics.intervals import jackknife

ROUNDED = 1 / 12  # variance of rounding to whole codes, codes squared: EMVA 1288
LEAST_VARIANCE, UNSEEN = 0.24, 0.40  # the same: read noise is then below 0.40 codes
NEIGHBOURS = 15
WELL_FROM, WELL, MARGIN = 0.5, 0.7, 0.95  # common practice, no source
GROUPS = 24  # that the jackknife leaves out one by one
ROUNDS = 6
LEAST_BLOCKS = 4 * GROUPS
SPAN = 3.0  # of mean variances, from the darkest to the brightest, that a slope is read from


@dataclass(frozen=True)
class PhotonTransfer:
    """What the noise of a body at one ISO says, each with its 95 % interval.

    ``gain`` is in codes an electron, ``read_noise`` in electrons; ``read_codes`` the
    same in codes, rounding taken off; ``full_at`` between which codes above black a
    well is full, where any is. None where the frames do not carry it, and then
    ``reason`` says which frame to shoot.
    """

    gain: Interval | None
    read_noise: Interval | None
    read_codes: Interval | None
    blocks: int
    reason: str = ""
    full_at: Interval | None = None


def photon_transfer(found: Moments) -> PhotonTransfer:
    """Gain and read noise out of all pairs of one ISO.

    A straight line of variance over mean, each block weighed by how well its variance
    is known; intervals by leaving out groups of blocks (Tukey 1958).

    Parameters
    ----------
    found : Moments
        Of all pairs at one ISO, dark ones among them where there are any.
    """
    if not found.means.size:
        return _without(0, "everything is cut off; shoot a darker pair")
    seen = _around(found.means, found.variances) >= LEAST_VARIANCE
    means, variances = found.means[seen], found.variances[seen]
    full = _full(means, variances) if means.size else None
    # Some way before it is full a well fills less evenly.
    kept = means < (MARGIN * full.low if full else np.inf)
    means, variances = means[kept], variances[kept]
    n = means.size
    if n < LEAST_BLOCKS:
        return _without(n, "too few blocks are left; shoot a pair that is darker or less cut off")
    spread = np.quantile(variances, (0.02, 0.98))
    if spread[1] < SPAN * spread[0]:
        return _without(n, "all of it is about as bright; shoot a darker pair of the same too")
    whole = _line(means, variances)
    left = _lines_without(means, variances, whole)
    gain = jackknife(float(whole[0]), left[:, 0])
    if gain.low <= 0:
        return _without(n, "noise does not grow with light; shoot a brighter pair")
    if not seen.all():
        most = UNSEEN / gain.value
        reason = f"rounding to whole codes hides read noise: it is below {most:.1f} electrons"
        return PhotonTransfer(gain, None, None, n, reason, full)
    read = _rooted(jackknife(float(whole[1]) - ROUNDED, left[:, 1] - ROUNDED))
    electrons = _rooted(
        jackknife((whole[1] - ROUNDED) / whole[0] ** 2, (left[:, 1] - ROUNDED) / left[:, 0] ** 2)
    )
    reason = "" if read else "read noise is below what so few dark pixels show; shoot a dark pair"
    return PhotonTransfer(gain, electrons, read, n, reason, full)


def _around(means: Doubles, values: Doubles) -> Doubles:
    """Each block's value as the mean of its neighbours' in brightness, so that chance
    does not choose among them.
    """
    order = np.argsort(means, kind="stable")
    smooth = scipy.ndimage.uniform_filter1d(values[order], NEIGHBOURS, mode="nearest")
    found: Doubles = np.empty_like(values)
    found[order] = smooth
    return found


def _full(means: Doubles, variances: Doubles) -> Interval | None:
    """Between which means noise stops growing: a full well cuts off both. By a line
    through the darker half of the range.
    """
    dark = means <= WELL_FROM * means.max()
    if dark.sum() < LEAST_BLOCKS // 2:
        return None
    spread = np.quantile(variances[dark], (0.02, 0.98))
    if spread[1] < SPAN * spread[0]:
        return None  # one brightness alone: no line goes through it
    slope, height = _line(means[dark], variances[dark])
    expected = np.maximum(slope * means + height, ROUNDED)
    full = (_around(means, variances / expected) < WELL) & ~dark
    if not full.any():
        return None
    first = float(means[full].min())
    before = float(means[means < first].max())
    return Interval((before + first) / 2, before, float(means[full].max()))


def _without(blocks: int, reason: str) -> PhotonTransfer:
    return PhotonTransfer(None, None, None, blocks, reason)


def _rooted(variance: Interval) -> Interval | None:
    """A deviation out of a variance; None where that may be nothing at all."""
    if variance.low <= 0:
        return None
    low, value, high = np.sqrt([variance.low, variance.value, variance.high])
    return Interval(float(value), float(low), float(high))


def _line(means: Doubles, variances: Doubles) -> Doubles:
    """Slope and height at no light, shape (2,), by least squares; a variance of n
    pixels is known to a share of itself, so that its square is what it is weighed by.
    """
    expected: Doubles = np.full_like(variances, variances.mean())
    at = np.zeros(2)
    for _ in range(ROUNDS):
        matrix, right = _normal(means, variances, expected)
        at = np.asarray(np.linalg.solve(matrix.sum(axis=0), right.sum(axis=0)))
        expected = _expected(means, variances, at)
    return np.asarray(at)


def _expected(means: Doubles, variances: Doubles, at: Doubles) -> Doubles:
    return np.asarray(np.maximum(at[0] * means + at[1], 0.02 * variances.mean()))


def _lines_without(means: Doubles, variances: Doubles, whole: Doubles) -> Doubles:
    """Lines that each leave out one group of blocks, shape (groups, 2), weighed as the
    whole is: what is left out changes no weight to speak of.
    """
    matrix, right = _normal(means, variances, _expected(means, variances, whole))
    without = right.sum(axis=0) - right
    found = np.linalg.solve(matrix.sum(axis=0) - matrix, without[..., None])
    return np.asarray(found[..., 0])


def _normal(means: Doubles, variances: Doubles, expected: Doubles) -> tuple[Doubles, Doubles]:
    """Sums of the normal equations by group, shapes (groups, 2, 2) and (groups, 2)."""
    weights = expected**-2.0
    groups = np.arange(means.size) % GROUPS
    sums = [
        np.bincount(groups, weights * of, minlength=GROUPS)
        for of in (means**2, means, np.ones_like(means), means * variances, variances)
    ]
    xx, x, one, xy, y = sums
    matrix = np.stack([np.stack([xx, x], axis=1), np.stack([x, one], axis=1)], axis=1)
    return np.asarray(matrix, float), np.stack([xy, y], axis=1).astype(float)
