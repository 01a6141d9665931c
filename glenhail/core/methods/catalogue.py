"""The built-in methods, as one visible table: the baselines that anybody has."""

from __future__ import annotations

from collections.abc import Callable

from glenhail.core.errors import BadRequest
from glenhail.core.filters.resample import FILTERS
from glenhail.core.methods import deconvolve, denoise, sharpen, tone
from glenhail.core.methods.method import Domain, Measured, Method
from glenhail.core.parameters import Choice, Number, Parameter, Values
from glenhail.core.picture import Floats


def on_luma_and_colour(values: Values) -> Domain:
    """It works on luma and the two colour differences, whatever its parameters.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    """
    return Domain.LUMA_AND_COLOUR


def on_encoded(values: Values) -> Domain:
    """It works on encoded values, whatever its parameters.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    """
    return Domain.ENCODED


def on_linear(values: Values) -> Domain:
    """It works on linear light, whatever its parameters.

    Parameters
    ----------
    values : Mapping
        Parameters by name, checked.
    """
    return Domain.LINEAR


_SIDES = ("none", "3 px", "5 px")
# How often what the Gaussian takes away is added back.
_GAIN = Number("gain", "gain", "x", 0.05, 6, 1.0)
_ON = Choice("on", "on", (sharpen.LUMA, sharpen.CHANNELS), sharpen.LUMA)


def _denoiser(
    name: str,
    title: str,
    does: str,
    source: str,
    parameters: tuple[Parameter, ...],
    work: Callable[[Floats, int, Values, Measured], Floats],
    reach: Callable[[Values, Measured], int],
) -> Method:
    return Method(
        name,
        title,
        "denoise",
        does,
        source,
        parameters,
        on_luma_and_colour,
        work,
        reach,
        measure=denoise.measure_noise,
    )


def _amounts(most: float, luma: float, colour: float) -> tuple[Number, Number]:
    return (
        Number("luma", "luma", "x measured noise", 0, most, luma),
        Number("colour", "colour", "x measured noise", 0, most, colour),
    )


def _sharpener(
    name: str,
    title: str,
    does: str,
    source: str,
    parameters: tuple[Parameter, ...],
    work: Callable[[Floats, int, Values, Measured], Floats],
) -> Method:
    return Method(
        name,
        title,
        "sharpen",
        does,
        source,
        (*parameters, _ON),
        sharpen.domain,
        work,
        sharpen.support,
    )


def _factor(values: Values) -> float:
    return float(values["factor"])


def _resampler(name: str) -> Method:
    does = f"new pixels by the {name} filter, on linear light"
    factor = Number("factor", "factor", "x", 0.1, 8, 2.0)
    source = {"bicubic": "Keys 1981", "lanczos": "Duchon 1979"}.get(
        name, "common practice, no source"
    )
    return Method(
        name, name.capitalize(), "resample", does, source, (factor,), on_linear, scale=_factor
    )


def _wavelet_align(values: Values) -> int:
    return int(2**denoise.LEVELS)


METHODS: dict[str, Method] = {
    m.id: m
    for m in (
        *(_resampler(name) for name in FILTERS),
        _sharpener(
            "unsharp",
            "Unsharp mask",
            "adds back what a Gaussian takes away",
            "common practice, no source",
            (
                _GAIN,
                Number("reach", "reach", "px", 0.2, 32, 1.0),
                Number("floor", "floor", "8-bit levels", 0, 32, 0),
            ),
            sharpen.unsharp_plane,
        ),
        _sharpener(
            "laplacian",
            "Laplacian",
            "takes away the curvature of the brightness",
            "Gonzalez and Woods (from memory)",
            (_GAIN, Number("reach", "reach", "px", 0.3, 5, 0.8)),
            sharpen.laplacian_plane,
        ),
        _sharpener(
            "high_pass",
            "High-pass",
            "fine structure about mid grey, laid over the picture",
            "W3C Compositing and Blending 1, overlay",
            (_GAIN, Number("reach", "reach", "px", 0.3, 20, 2.0)),
            sharpen.high_pass_plane,
        ),
        Method(
            "gaussian",
            "Gaussian",
            "denoise",
            "the plain soft blur",
            "common practice, no source",
            (
                Number("luma", "luma", "px", 0, 20, 1.0),
                Number("colour", "colour", "px", 0, 20, 2.0),
            ),
            on_luma_and_colour,
            denoise.gaussian_plane,
            denoise.gaussian_reach,
        ),
        Method(
            "median",
            "Median",
            "denoise",
            "the middle value of a square",
            "Tukey 1977",
            (Choice("luma", "luma", _SIDES, "3 px"), Choice("colour", "colour", _SIDES, "5 px")),
            on_luma_and_colour,
            denoise.median_plane,
            lambda values, measured: 2,
        ),
        _denoiser(
            "bilateral",
            "Bilateral",
            "mean of near pixels of like value",
            "Tomasi and Manduchi 1998",
            (*_amounts(20, 3, 6), Number("space", "space", "px", 0.5, 10, 2.0)),
            denoise.bilateral_plane,
            denoise.bilateral_reach,
        ),
        _denoiser(
            "means",
            "Non-local means",
            "mean of places that look alike",
            "Buades, Coll and Morel 2005",
            (
                *_amounts(5, 0.8, 1.2),
                Number("patch", "patch", "px, odd", 3, 11, 5, whole=True, odd=True),
                Number("distance", "search distance", "px", 2, 15, 6, whole=True),
            ),
            denoise.means_plane,
            denoise.means_reach,
        ),
        _denoiser(
            "variation",
            "Total variation",
            "the flattest picture near the given one",
            "Rudin, Osher and Fatemi 1992; Chambolle 2004",
            _amounts(10, 1.5, 4),
            denoise.variation_plane,
            lambda values, measured: denoise.TV_STEPS + 1,
        ),
        Method(
            "wavelet",
            "Wavelet",
            "denoise",
            "soft thresholds on wavelet details (db2, 4 levels)",
            "Donoho and Johnstone 1994",
            _amounts(10, 2, 4),
            on_luma_and_colour,
            denoise.wavelet_plane,
            denoise.wavelet_reach,
            _wavelet_align,
            denoise.measure_noise,
        ),
        Method(
            "guided",
            "Guided filter",
            "denoise",
            "smooths where the local variance is low",
            "He, Sun and Tang 2010",
            (
                Number("radius", "radius", "px", 1, 20, 2, whole=True),
                Number("variance", "variance", "", 1e-6, 1, 0.004),
            ),
            on_encoded,
            denoise.guided_plane,
            lambda values, measured: 2 * int(values["radius"]),
        ),
        Method(
            "contrast",
            "Contrast",
            "tone",
            "codes drawn apart about one that stays",
            "common practice, no source",
            (
                Number("gain", "gain", "x", 0.2, 5, 1.0),
                Number("pivot", "stays", "8-bit levels", 0, 255, 128),
            ),
            on_encoded,
            tone.contrast_plane,
        ),
        Method(
            "wiener",
            "Wiener",
            "deconvolve",
            "undoes a known blur, smooth where that is hopeless",
            "Hunt 1971",
            (*deconvolve.KERNEL, Number("balance", "balance", "", 1e-4, 100, 0.02)),
            on_linear,
            deconvolve.wiener_plane,
            deconvolve.wiener_reach,
            measure=deconvolve.told_balance,
        ),
        Method(
            "unsupervised",
            "Unsupervised Wiener",
            "deconvolve",
            "the same, with the balance that the picture suggests",
            "Orieux, Giovannelli and Rodet 2010",
            deconvolve.KERNEL,
            on_linear,
            deconvolve.wiener_plane,
            deconvolve.wiener_reach,
            measure=deconvolve.learned_balance,
        ),
        Method(
            "lucy",
            "Richardson-Lucy",
            "deconvolve",
            "undoes a known blur round by round",
            "Richardson 1972; Lucy 1974",
            (*deconvolve.KERNEL, Number("rounds", "rounds", "", 1, 30, 10, whole=True)),
            on_linear,
            deconvolve.lucy_plane,
            deconvolve.lucy_reach,
        ),
    )
}


def method_of(name: str) -> Method:
    """A method by its id.

    Parameters
    ----------
    name : str
        By which it is known.

    Raises
    ------
    BadRequest
        If there is none; the text lists what there is.
    """
    if name not in METHODS:
        raise BadRequest(f"There is no method “{name}”. There are {', '.join(METHODS)}.")
    return METHODS[name]
