"""From which size on a difference can be seen: one table, each with its source."""

from __future__ import annotations

from dataclasses import dataclass

PRACTICE = "common practice, no source"


@dataclass(frozen=True)
class Threshold:
    """The smallest visible difference: absolute, or a share of the larger value where
    `share` is set.
    """

    size: float
    share: bool = False
    source: str = PRACTICE

    def between(self, one: float, other: float) -> float:
        """The threshold in the measure's own unit, for two values."""
        return self.size * max(abs(one), abs(other)) if self.share else self.size

    def words(self, unit: str) -> str:
        """As a person reads it."""
        return (
            f"{100 * self.size:g} % of the value" if self.share else f"{self.size:g} {unit}".strip()
        )


_DE00 = (
    "about one just noticeable difference on large fields: Sharma, Wu, Dalal 2005, introduction; "
    + PRACTICE
)
THRESHOLDS: dict[str, Threshold] = {
    "psnr": Threshold(0.5),
    "ssim": Threshold(0.005),
    "ms_ssim": Threshold(0.005),
    "de00_mean": Threshold(1.0, source=_DE00),
    "de00_p95": Threshold(1.0, source=_DE00),
    "mae": Threshold(0.5),
    "rmse": Threshold(0.5),
    "noise_luma": Threshold(0.1, True),
    "noise_chroma": Threshold(0.1, True),
    "snr": Threshold(1.0),
    "grain": Threshold(0.15, True),
    "nps": Threshold(0.1, True),
    "blotch": Threshold(0.25, True),
    "unevenness": Threshold(0.25),
    "banding_rows": Threshold(0.3),
    "banding_cols": Threshold(0.3),
    "mtf50": Threshold(0.05, True),
    "rise": Threshold(0.05, True),
    "detail_kept": Threshold(3.0),
    "detail_added": Threshold(5.0),
    "detail_restored": Threshold(3.0),
    "detail_invented": Threshold(5.0),
    "detail_frame": Threshold(3.0),
    "contrast_change": Threshold(0.02),
    "overshoot": Threshold(3.0),
    "undershoot": Threshold(3.0),
    "fringe": Threshold(1.0),
    "lateral": Threshold(0.2),
    "lights_kept": Threshold(5.0),
    "lights_long": Threshold(0.1),
    "back_projection": Threshold(0.5),
    "colour_shift": Threshold(1.0, source=_DE00),
    "clipped": Threshold(0.5),
    "exposure": Threshold(0.05),
    "tone": Threshold(2.0),
}
