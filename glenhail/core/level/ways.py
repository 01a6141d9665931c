"""All ways to bring one output to another's level: what does it, and its words."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from glenhail.core.level.contrast import contrast_said, match_contrast
from glenhail.core.level.costs import AtOneLevel
from glenhail.core.level.deconvolved import deconvolution_said, match_by_deconvolution
from glenhail.core.level.matched import match_sharpness, sharpness_said
from glenhail.core.level.noise import match_noise, noise_said
from glenhail.core.level.size import match_size, size_said
from glenhail.core.level.way import Levelled, Way

Said = Callable[[Mapping[str, Any], Sequence[AtOneLevel], tuple[str, str]], str]

MATCH: dict[Way, Callable[..., Levelled]] = {
    Way.SHARPNESS: match_sharpness,
    Way.DECONVOLUTION: match_by_deconvolution,
    Way.NOISE: match_noise,
    Way.CONTRAST: match_contrast,
    Way.SIZE: match_size,
}
SAID: dict[Way, Said] = {
    Way.SHARPNESS: sharpness_said,
    Way.DECONVOLUTION: deconvolution_said,
    Way.NOISE: noise_said,
    Way.CONTRAST: contrast_said,
    Way.SIZE: size_said,
}
# What was made of one is called after what was done to it.
DONE = {
    Way.SHARPNESS: "sharpened-to",
    Way.DECONVOLUTION: "deconvolved-to",
    Way.NOISE: "smoothed-to",
    Way.CONTRAST: "at-contrast-of",
    Way.SIZE: "resized-to",
}
WHAT = {
    **{way: way.value for way in Way},
    Way.DECONVOLUTION: "sharpness",
}
