"""The one visible table of measures, and the thin function that looks one up and calls it."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from glenhail.core.errors import BadRequest, NotMeasurable
from glenhail.core.measures import colour, edge, error, exposure, noise, similarity
from glenhail.core.measures.reading import Measured, Reading
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Rect

ROLES = ("flat", "shadow", "edge", "texture", "face", "lights", "print", "leave-alone")
FLAT = ("flat", "shadow")
EDGE = ("edge",)


@dataclass(frozen=True)
class Measure:
    """One row of the table.

    Attributes
    ----------
    better : str or None
        'higher', 'lower', or None where neither end is better by itself.
    roles : tuple of str
        Roles of patches it is read on.
    whole : bool
        Whether it is read on the whole frame as well.
    digits : int
        Decimals it is told with.
    """

    id: str
    name: str
    unit: str
    better: str | None
    roles: tuple[str, ...]
    whole: bool
    digits: int
    version: str
    source: str
    function: Callable[[Subject, Rect], Measured]

    @property
    def needs_truth(self) -> bool:
        """Whether it is an error against a truth."""
        return self.id in AGAINST_TRUTH


AGAINST_TRUTH = frozenset({"psnr", "ssim", "de00_mean", "mae", "rmse"})

MEASURES: dict[str, Measure] = {
    m.id: m
    for m in (
        Measure("psnr", "PSNR", "dB", "higher", ROLES, True, 2, "1", "20 log10(255 / rmse), encoded RGB", error.psnr),
        Measure("ssim", "SSIM", "", "higher", ROLES, True, 4, "1", "Wang et al. 2004, luma", similarity.ssim),
        Measure("de00_mean", "Colour error", "CIEDE2000", "lower", ROLES, True, 2, "1", "CIE 142-2001", colour.de00_mean),
        Measure("mae", "Mean absolute error", "codes", "lower", ROLES, True, 2, "1", "encoded RGB, 8-bit codes", error.mae),
        Measure("rmse", "RMS error", "codes", "lower", ROLES, True, 2, "1", "encoded RGB, 8-bit codes", error.rmse),
        Measure(
            "noise_luma",
            "Brightness noise",
            "codes",
            "lower",
            FLAT,
            False,
            2,
            "1",
            "std of luma less a 2-D quadratic",
            noise.noise_luma,
        ),
        Measure(
            "noise_chroma",
            "Colour noise",
            "CIELAB",
            "lower",
            FLAT,
            False,
            2,
            "1",
            "std of a* and b* less a 2-D quadratic",
            noise.noise_chroma,
        ),
        Measure("snr", "Signal to noise", "dB", "higher", FLAT, False, 1, "1", "after ISO 15739:2023, linear light", noise.snr),
        Measure("mtf50", "MTF50", "cycles/px", "higher", EDGE, False, 3, "1", "ISO 12233:2017 e-SFR", edge.mtf50),
        Measure("rise", "Edge rise 10-90 %", "px", "lower", EDGE, False, 2, "1", "10 to 90 % of the step", edge.rise),
        Measure("overshoot", "Bright halo", "% of step", "lower", EDGE, False, 1, "1", "beyond the bright plateau", edge.overshoot),
        Measure("undershoot", "Dark halo", "% of step", "lower", EDGE, False, 1, "1", "beyond the dark plateau", edge.undershoot),
        Measure(
            "exposure",
            "Exposure shift",
            "EV",
            None,
            (),
            True,
            3,
            "1",
            "log2 ratio of mean luminance, median over cells",
            exposure.exposure,
        ),
    )
}


@dataclass(frozen=True)
class Patch:
    """A named rectangle of the frame with a role."""

    name: str
    role: str
    rect: Rect


def measures_for(patch: Patch | None) -> list[Measure]:
    """The measures read on a patch, by its role, or on the whole frame."""
    if patch is None:
        return [m for m in MEASURES.values() if m.whole]
    if patch.role not in ROLES:
        raise BadRequest(f"{patch.role!r} is not a role; one of {', '.join(ROLES)} is")
    return [m for m in MEASURES.values() if patch.role in m.roles]


def take(subject: Subject, measure: Measure, patch: Patch | None) -> Reading:
    """One reading; where the measure can not be had, with the reason in words."""
    rect = patch.rect if patch else subject.whole
    name = patch.name if patch else None
    try:
        if not rect.inside(subject.source.width, subject.source.height, slack=0.5):
            raise NotMeasurable("the patch reaches beyond the frame's edge")
        found = measure.function(subject, rect)
    except NotMeasurable as why:
        return Reading(measure.id, name, None, None, None, measure.unit, measure.version, reason=str(why))
    return Reading(
        measure.id, name, found.value, found.low, found.high, measure.unit, measure.version, found.grid, None, found.details
    )


def take_all(subject: Subject, patches: Iterable[Patch], ids: Iterable[str] | None = None) -> list[Reading]:
    """Every reading of the patches by their roles; of the whole frame where there are no patches.

    Raises
    ------
    BadRequest
        For an id that is no measure; the text lists those there are.
    """
    wanted = set(ids) if ids is not None else None
    unknown = sorted((wanted or set()) - MEASURES.keys())
    if unknown:
        raise BadRequest(f"{', '.join(unknown)}: no such measure; there are {', '.join(MEASURES)}")
    places: list[Patch | None] = list(patches) or [None]
    return [take(subject, m, place) for place in places for m in measures_for(place) if wanted is None or m.id in wanted]
