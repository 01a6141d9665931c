"""The one visible table of measures, and the thin function that looks one up and calls
it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass

from glenhail.core.errors import BadRequest, NotConcerned, NotMeasurable
from glenhail.core.measures import (
    change,
    colour,
    detail_frame,
    edge,
    error,
    exposure,
    fringe,
    grain,
    halo,
    lights,
    noise,
    noise_spectrum,
    similarity,
    texture,
)
from glenhail.core.measures.best import HIGHEST, LOWEST, Best, in_words
from glenhail.core.measures.reading import MeasuredValue, Reading
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Rect

ROLES = ("flat", "shadow", "edge", "texture", "face", "lights", "print", "leave-alone")
# Families, in the order they are shown in.
ERROR, NOISE_, DETAIL, ARTEFACTS, CHANGE = FAMILIES = (
    "error",
    "noise",
    "detail",
    "artefacts",
    "change",
)


@dataclass(frozen=True)
class Measure:
    """One row of the table.

    Attributes
    ----------
    family : str
        What it tells of: error, noise, detail, artefacts, or what was changed besides.
    best : float or None
        Its best value: `HIGHEST`, `LOWEST` or a target (measures.best); None where no
        value is better than another.
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
    family: str
    best: Best | None
    roles: tuple[str, ...]
    whole: bool
    digits: int
    version: str
    source: str
    function: Callable[[Subject, Rect], MeasuredValue]

    @property
    def best_in_words(self) -> str | None:
        """Its best as a person reads it."""
        return in_words(self.best, self.unit)

    @property
    def target(self) -> float | None:
        """Its best where that is a number to be met."""
        return None if self.best is None or math.isinf(self.best) else self.best

    @property
    def own_of(self) -> list[str]:
        """Roles for which it is the first thing to be told."""
        return [role for role, measure in OWN.items() if measure == self.id]

    @property
    def stands_for(self) -> str | None:
        """The measure in whose place it is told where there is no truth."""
        return next((known for known, other in WITHOUT_TRUTH.items() if other == self.id), None)

    @property
    def needs_truth(self) -> bool:
        """Whether it is an error against a truth."""
        return self.id in AGAINST_TRUTH

    @property
    def uses_noise(self) -> bool:
        """Whether the noise of other patches, or another exposure, has a part in it."""
        return self.id == "detail_frame"

    @property
    def uses_truth(self) -> bool:
        """Whether a truth, where there is one, has a part in it."""
        return self.needs_truth or self.id in BY_TRUTH


AGAINST_TRUTH = frozenset(
    {
        "psnr",
        "ssim",
        "ms_ssim",
        "de00_mean",
        "de00_p95",
        "mae",
        "rmse",
        "detail_kept",
        "detail_added",
        "detail_restored",
        "detail_invented",
    }
)
# Read at a place, or against lights, that the truth shows best where there is one.
BY_TRUTH = frozenset(
    {"mtf50", "rise", "overshoot", "undershoot", "fringe", "lateral", "lights_kept", "lights_long"}
)

NOISE = ("flat", "shadow")
EDGE = ("edge",)
TEXTURE = ("texture", "face", "print")
LIGHTS = ("lights",)
COARSE = ("texture", "face", "print", "leave-alone")

MEASURES: dict[str, Measure] = {
    m.id: m
    for m in (
        Measure(
            "psnr",
            "PSNR",
            "dB",
            ERROR,
            HIGHEST,
            ROLES,
            True,
            2,
            "3",
            "20 log10(255 / rmse), encoded RGB",
            error.psnr,
        ),
        Measure(
            "ssim",
            "SSIM",
            "",
            ERROR,
            HIGHEST,
            ROLES,
            True,
            4,
            "3",
            "Wang et al. 2004, luma",
            similarity.ssim,
        ),
        Measure(
            "ms_ssim",
            "MS-SSIM",
            "",
            ERROR,
            HIGHEST,
            ROLES,
            True,
            4,
            "2",
            "Wang et al. 2003, luma",
            similarity.ms_ssim,
        ),
        Measure(
            "de00_mean",
            "Colour error",
            "CIEDE2000",
            ERROR,
            LOWEST,
            ROLES,
            True,
            2,
            "3",
            "CIE 142-2001",
            colour.de00_mean,
        ),
        Measure(
            "de00_p95",
            "Colour error, worst 5 %",
            "CIEDE2000",
            ERROR,
            LOWEST,
            ROLES,
            True,
            2,
            "2",
            "CIE 142-2001, 95th percentile",
            colour.de00_p95,
        ),
        Measure(
            "mae",
            "Mean absolute error",
            "8-bit levels",
            ERROR,
            LOWEST,
            ROLES,
            True,
            2,
            "3",
            "encoded RGB, 8-bit levels",
            error.mae,
        ),
        Measure(
            "rmse",
            "RMS error",
            "8-bit levels",
            ERROR,
            LOWEST,
            ROLES,
            True,
            2,
            "3",
            "encoded RGB, 8-bit levels",
            error.rmse,
        ),
        Measure(
            "noise_luma",
            "Brightness noise",
            "8-bit levels",
            NOISE_,
            LOWEST,
            NOISE,
            False,
            2,
            "2",
            "std of luma less a 2-D quadratic",
            noise.noise_luma,
        ),
        Measure(
            "noise_chroma",
            "Colour noise",
            "CIELAB",
            NOISE_,
            LOWEST,
            NOISE,
            False,
            2,
            "2",
            "std of a* and b* less a 2-D quadratic",
            noise.noise_chroma,
        ),
        Measure(
            "snr",
            "Signal to noise",
            "dB",
            NOISE_,
            HIGHEST,
            NOISE,
            False,
            1,
            "2",
            "after ISO 15739:2023, linear light",
            noise.snr,
        ),
        Measure(
            "grain",
            "Grain size",
            "px",
            NOISE_,
            None,
            NOISE,
            False,
            2,
            "1",
            "root of the area under the autocorrelation",
            grain.grain,
        ),
        Measure(
            "nps",
            "Mean noise frequency",
            "cycles/px",
            NOISE_,
            None,
            NOISE,
            False,
            3,
            "1",
            "noise power spectrum, Welch 1967",
            noise_spectrum.nps,
        ),
        Measure(
            "blotch",
            "Coloured blotches",
            "x white",
            NOISE_,
            LOWEST,
            NOISE,
            False,
            1,
            "1",
            "colour noise below 1/16 cycles/px, over white noise's",
            noise_spectrum.blotch,
        ),
        Measure(
            "unevenness",
            "Unevenness of noise",
            "x even",
            NOISE_,
            1.0,
            NOISE,
            False,
            2,
            "1",
            "spread of local variance, over even noise's",
            grain.unevenness,
        ),
        Measure(
            "banding_rows",
            "Bands along rows",
            "x none",
            NOISE_,
            1.0,
            NOISE,
            False,
            2,
            "1",
            "std of row means over that of noise",
            noise_spectrum.banding_rows,
        ),
        Measure(
            "banding_cols",
            "Bands along columns",
            "x none",
            NOISE_,
            1.0,
            NOISE,
            False,
            2,
            "1",
            "std of column means over that of noise",
            noise_spectrum.banding_cols,
        ),
        Measure(
            "mtf50",
            "MTF50",
            "cycles/px",
            DETAIL,
            HIGHEST,
            EDGE,
            False,
            3,
            "3",
            "ISO 12233:2017 e-SFR",
            edge.mtf50,
        ),
        Measure(
            "rise",
            "Edge rise 10-90 %",
            "px",
            DETAIL,
            LOWEST,
            EDGE,
            False,
            2,
            "3",
            "10 to 90 % of the step",
            edge.rise,
        ),
        Measure(
            "detail_kept",
            "Detail kept",
            "%",
            DETAIL,
            100.0,
            TEXTURE,
            False,
            1,
            "2",
            "Kirk et al. 2014, 0.05 to 0.4 cycles/px",
            texture.detail_kept,
        ),
        Measure(
            "detail_added",
            "Noise and false detail",
            "%",
            DETAIL,
            LOWEST,
            TEXTURE,
            False,
            1,
            "2",
            "power not coherent with the truth, same band",
            texture.detail_added,
        ),
        Measure(
            "detail_restored",
            "Detail restored",
            "%",
            DETAIL,
            100.0,
            TEXTURE,
            False,
            1,
            "1",
            "Kirk et al. 2014, beyond the frame's Nyquist frequency",
            texture.detail_restored,
        ),
        Measure(
            "detail_invented",
            "Detail invented",
            "%",
            DETAIL,
            LOWEST,
            TEXTURE,
            False,
            1,
            "1",
            "power not coherent with the truth, same band",
            texture.detail_invented,
        ),
        Measure(
            "detail_frame",
            "Detail of the frame kept",
            "%",
            DETAIL,
            100.0,
            TEXTURE,
            False,
            1,
            "1",
            "McElvain et al. 2010; Cao, Guichard and Hornung 2009",
            detail_frame.detail_frame,
        ),
        Measure(
            "contrast_change",
            "Coarse contrast",
            "x frame",
            CHANGE,
            1.0,
            COARSE,
            False,
            3,
            "1",
            "gain of structure coarser than 16 px",
            texture.contrast_change,
        ),
        Measure(
            "overshoot",
            "Bright halo",
            "% of step",
            ARTEFACTS,
            0.0,
            EDGE,
            False,
            1,
            "3",
            "beyond the bright plateau",
            halo.overshoot,
        ),
        Measure(
            "undershoot",
            "Dark halo",
            "% of step",
            ARTEFACTS,
            0.0,
            EDGE,
            False,
            1,
            "3",
            "beyond the dark plateau",
            halo.undershoot,
        ),
        Measure(
            "fringe",
            "Colour fringe",
            "C*",
            ARTEFACTS,
            LOWEST,
            EDGE,
            False,
            2,
            "1",
            "chroma along an edge beyond a mix of both sides, less the frame's",
            fringe.fringe,
        ),
        Measure(
            "lateral",
            "Red or blue beside green",
            "px",
            ARTEFACTS,
            0.0,
            EDGE,
            False,
            2,
            "1",
            "channels' edges apart, less the frame's",
            fringe.lateral,
        ),
        Measure(
            "lights_kept",
            "Lights kept",
            "%",
            ARTEFACTS,
            HIGHEST,
            LIGHTS,
            False,
            0,
            "1",
            "points found again within 1 px",
            lights.lights_kept,
        ),
        Measure(
            "lights_long",
            "Lights drawn out",
            "x reference",
            ARTEFACTS,
            LOWEST,
            LIGHTS,
            False,
            2,
            "1",
            "length over width, over the reference's",
            lights.lights_long,
        ),
        Measure(
            "back_projection",
            "Faithfulness",
            "dB",
            ERROR,
            HIGHEST,
            ROLES,
            True,
            2,
            "1",
            "PSNR of the enlargement averaged back, against the frame",
            change.back_projection,
        ),
        Measure(
            "colour_shift",
            "Colour shift",
            "CIEDE2000",
            CHANGE,
            LOWEST,
            ROLES,
            False,
            2,
            "1",
            "mean colours at one luminance, against the frame",
            change.colour_shift,
        ),
        Measure(
            "clipped",
            "Clipped",
            "%",
            CHANGE,
            None,
            (*LIGHTS, "shadow", "face"),
            True,
            2,
            "1",
            "pixels at either end of the coded range",
            change.clipped,
        ),
        Measure(
            "exposure",
            "Exposure shift",
            "EV",
            CHANGE,
            0.0,
            (),
            True,
            3,
            "1",
            "log2 ratio of mean luminance, median over cells",
            exposure.exposure,
        ),
        Measure(
            "tone",
            "Tone shift",
            "8-bit levels",
            CHANGE,
            0.0,
            (),
            True,
            1,
            "2",
            "largest move of shadows, mids or lights beside exposure",
            change.tone,
        ),
    )
}

# What is told first of a patch, by its role.
OWN = {
    "flat": "noise_luma",
    "shadow": "noise_luma",
    "edge": "mtf50",
    "texture": "detail_kept",
    "face": "detail_kept",
    "print": "detail_kept",
    "lights": "lights_kept",
    "leave-alone": "ssim",
}
# What stands in where there is no truth to hold it against.
WITHOUT_TRUTH = {"detail_kept": "detail_frame"}
# What a report shows first; the others stand below, folded away.
HEADLINES = frozenset(
    {
        "psnr",
        "ssim",
        "de00_mean",
        "noise_luma",
        "noise_chroma",
        "blotch",
        "unevenness",
        "mtf50",
        "overshoot",
        "detail_kept",
        "detail_added",
        "detail_restored",
        "detail_invented",
        "detail_frame",
        "contrast_change",
        "lights_kept",
        "lights_long",
        "back_projection",
        "exposure",
        "tone",
    }
)


@dataclass(frozen=True)
class Patch:
    """A named rectangle of the frame with a role."""

    name: str
    role: str
    rect: Rect


def measures_for(patch: Patch | None) -> list[Measure]:
    """The measures read on a patch, by its role, or on the whole frame.

    Parameters
    ----------
    patch : Patch or None
        The patch; None for the whole frame.
    """
    if patch is None:
        return [m for m in MEASURES.values() if m.whole]
    if patch.role not in ROLES:
        raise BadRequest(f"{patch.role!r} is not a role; one of {', '.join(ROLES)} is")
    return [m for m in MEASURES.values() if patch.role in m.roles]


def take(subject: Subject, measure: Measure, patch: Patch | None) -> Reading:
    """One reading; where the measure can not be had, with the reason in words.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    measure : Measure
        What is measured.
    patch : Patch or None
        The patch; None for the whole frame.
    """
    rect = patch.rect if patch else subject.whole
    name = patch.name if patch else None
    try:
        if not rect.inside(subject.source.width, subject.source.height, slack=0.5):
            raise NotMeasurable("the patch reaches beyond the frame's edge")
        subject.refuse_no_numbers(rect)
        found = measure.function(subject, rect)
        if not all(map(math.isfinite, (found.value, found.low, found.high))):
            raise NotMeasurable("it can not be told of so small or so empty a place")
    except NotMeasurable as why:
        concerns = not isinstance(why, NotConcerned)
        return Reading(
            measure.id,
            name,
            None,
            None,
            None,
            measure.unit,
            measure.version,
            reason=str(why),
            concerns=concerns,
        )
    return Reading(
        measure.id,
        name,
        found.value,
        found.low,
        found.high,
        measure.unit,
        measure.version,
        found.grid,
        None,
        details=found.details,
        parts=found.parts,
    )


def take_all(
    subject: Subject, patches: Iterable[Patch], ids: Iterable[str] | None = None
) -> list[Reading]:
    """Every reading of the patches by their roles; of the whole frame where there are
    no patches.

    Parameters
    ----------
    subject : Subject
        The output with its frame and, where there is one, its truth.
    patches : iterable of Patch
        Patches in frame px, each with its role.
    ids : iterable of str, optional
        Measures by id; all that belong to the patches else.

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
    return [
        take(subject, m, place)
        for place in places
        for m in measures_for(place)
        if wanted is None or m.id in wanted
    ]
