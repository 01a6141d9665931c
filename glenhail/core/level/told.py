"""What was found of two outputs at one level over several frames, plain: as it is kept
and shown.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

import numpy as np

from glenhail.core.level.matched import Matched
from glenhail.core.treatments.step import Setting, Step

METHOD, TITLE = "unsharp", "Unsharp mask"


def matched_told(found: Matched) -> dict[str, Any]:
    """One frame's, without pictures.

    Parameters
    ----------
    found : Matched
        Of that frame.
    """
    fit = found.fit
    return {
        "said": found.said,
        "frequency": found.curve.frequency.tolist(),
        "ratio": found.curve.ratio.tolist(),
        "fitted": fit.curve(found.curve.frequency).tolist() if fit else [],
        "fit": {**asdict(fit), "reached": fit.reached} if fit else None,
        "readings": [asdict(r) for r in found.readings],
    }


def slider_step(frames: Sequence[dict[str, Any]]) -> Step | None:
    """The unsharp mask in the middle of those that frames take, as a step of a
    treatment; None where none takes any.

    Parameters
    ----------
    frames : sequence of dict
        As `matched_told` has them.
    """
    best = [f["fit"]["best"] for f in frames if f["fit"]]
    if not best:
        return None
    reach, gain = (float(np.median([pair[k] for pair in best])) for k in ("reach", "gain"))
    settings = (
        Setting("gain", round(gain, 2), "x"),
        Setting("reach", round(reach, 2), "px"),
        Setting("floor", 0, "8-bit levels"),
        Setting("on", "luma"),
    )
    return Step(TITLE, settings=settings, method=METHOD)
