"""What was found of two outputs at one level over several frames, plain: as it is kept
and shown.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

import numpy as np

from glenhail.core.level.way import Levelled
from glenhail.core.methods.catalogue import METHODS
from glenhail.core.treatments.step import Setting, Step

DIGITS = 3


def levelled_told(found: Levelled) -> dict[str, Any]:
    """One frame's, without pictures.

    Parameters
    ----------
    found : Levelled
        Of that frame.
    """
    sought = found.sought
    curve = sought.curve
    return {
        "said": found.said,
        "method": sought.method,
        "values": dict(sought.values),
        "numbers": dict(sought.numbers),
        "frequency": curve.frequency.tolist() if curve else [],
        "ratio": curve.ratio.tolist() if curve else [],
        "fitted": list(sought.fitted),
        "readings": [asdict(r) for r in found.readings],
    }


def slider_step(frames: Sequence[dict[str, Any]]) -> Step | None:
    """The method in the middle of those that frames take, as a step of a treatment;
    None where none takes any.

    Parameters
    ----------
    frames : sequence of dict
        As `levelled_told` has them.
    """
    told = [f for f in frames if f["method"]]
    if not told:
        return None
    method = METHODS[told[0]["method"]]
    settings = tuple(
        Setting(p.name, _middle([f["values"][p.name] for f in told]), getattr(p, "unit", ""))
        for p in method.parameters
        if p.name in told[0]["values"]
    )
    return Step(method.title, settings=settings, method=method.id)


def _middle(values: Sequence[float | str]) -> float | str:
    if isinstance(values[0], str):
        return values[0]
    return float(f"{float(np.median([float(v) for v in values])):.{DIGITS}g}")
