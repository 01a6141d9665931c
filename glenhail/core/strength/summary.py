"""What a series leaves of noise, and the strength at which none is seen in a use."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from glenhail.core.interval import Interval
from glenhail.core.seeing.visible import Seen
from glenhail.core.strength.matching import NoiseStep
from glenhail.core.uses.table import Use

Bounds = tuple[float, float, float]


def noise_steps(
    frame: Mapping[str, float], steps: Sequence[tuple[float, Mapping[str, Bounds]]]
) -> list[NoiseStep]:
    """Noise at each setting as a share of the frame's, the median over patches.

    Parameters
    ----------
    frame : Mapping of str to float
        The frame's noise by patch.
    steps : sequence of (float, Mapping of str to (float, float, float))
        Settings, and their noise by patch: value and bounds.

    Returns
    -------
    list of NoiseStep
        Without settings that no patch tells of.
    """
    made = []
    for setting, told in steps:
        both = [patch for patch in told if frame.get(patch, 0) > 0]
        if both:
            ratios = np.array([np.array(told[p]) / frame[p] for p in both])
            value, low, high = (float(v) for v in np.median(ratios, axis=0))
            made.append(NoiseStep(setting, Interval(value, low, high)))
    return made


@dataclass(frozen=True)
class Advice:
    """How easily noise is seen at a setting, on each plain patch, and what of the
    detail is left, per cent.
    """

    setting: float
    seen: tuple[Seen, ...]
    detail: float | None


def advised(steps: Sequence[Advice]) -> Advice | None:
    """The lowest setting at which noise is seen by nobody, on any patch.

    Parameters
    ----------
    steps : sequence of Advice
        By their settings.
    """
    return next((s for s in steps if all(seen is Seen.NOBODY for seen in s.seen)), None)


def advice_said(title: str, unit: str, use: Use, steps: Sequence[Advice]) -> str:
    """In words how much of a tool a use takes.

    Parameters
    ----------
    title : str
        Of the tool.
    unit : str
        Of its setting.
    use : Use
        Where the picture is seen.
    steps : sequence of Advice
        By their settings.
    """
    found, where = advised(steps), use.name.partition(",")[0]
    if found is None:
        return f"{title}: as {where}, noise is seen at every setting."
    at = f"{found.setting:g} {unit}".strip()
    cost = "" if found.detail is None else f", with {found.detail:.0f} % of the detail kept"
    return f"{title}: as {where}, noise is seen by nobody from {at} on{cost}."
