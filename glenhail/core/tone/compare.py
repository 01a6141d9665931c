"""Everything of tone and colour about one output, in one go."""

from __future__ import annotations

from dataclasses import dataclass

from glenhail.core.interval import Interval
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.picture import Picture
from glenhail.core.tone.cast import Cast, cast
from glenhail.core.tone.curve import ToneCurve, contrast, curve, exposure, vignetting, zones
from glenhail.core.tone.matched import MatchedTone, match


@dataclass(frozen=True)
class ToneColour:
    """How an output's tone and colour differ from its frame's; what can not be told is
    None.

    ``exposure`` and ``vignetting`` in EV, ``zones`` in encoded values (1 is white),
    ``contrast`` a ratio; ``clipped`` and ``crushed`` the shares of values that the
    output has at white and at black and the frame has not (negative where it has
    fewer).
    """

    areas: int
    exposure: Interval | None
    curve: ToneCurve | None
    zones: dict[str, Interval]
    contrast: Interval | None
    vignetting: Interval | None
    colour: Cast | None
    clipped: float
    crushed: float


def compare_tone(frame: Picture, output: AlignedPicture) -> ToneColour:
    """Compare an output that was lined up with its frame.

    Parameters
    ----------
    frame : Picture
        The frame.
    output : AlignedPicture
        The output with its line-up.

    Raises
    ------
    NotMeasurable
        If too little of the frame is neither black nor clipped.
    """
    return compare_matched(match(frame, output))


def compare_matched(areas: MatchedTone) -> ToneColour:
    """The same from areas that were matched already.

    Parameters
    ----------
    areas : MatchedTone
        Areas of frame and output, averaged.
    """
    return ToneColour(
        areas.source.shape[0],
        exposure(areas),
        curve(areas),
        zones(areas),
        contrast(areas),
        vignetting(areas),
        cast(areas),
        areas.white[1] - areas.white[0],
        areas.black[1] - areas.black[0],
    )


def in_words(found: ToneColour) -> list[str]:
    """One line for each thing, for a person to read.

    Parameters
    ----------
    found : ToneColour
        What comparing found.
    """
    lines = [f"{found.areas} areas"]
    if found.exposure:
        lines.append(f"exposure {_signed(found.exposure, 3)} EV")
    lines += [f"{name} {_signed(z, 4)} of white, encoded" for name, z in found.zones.items()]
    if found.contrast:
        lines.append(
            f"coarse contrast {found.contrast.value:.3f} [{found.contrast.low:.3f},"
            f" {found.contrast.high:.3f}] times"
        )
    if found.vignetting:
        lines.append(f"corners {_signed(found.vignetting, 3)} EV against the middle")
    if found.colour:
        lines += _colours(found.colour)
    lines.append(
        f"clipped at white {100 * found.clipped:+.2f} %, at black {100 * found.crushed:+.2f} % of"
        " the values"
    )
    return lines


def _colours(colour: Cast) -> list[str]:
    lines = [f"colour differs by {colour.de00:.2f} dE00 at equal luminance"]
    if colour.grey_a and colour.grey_b:
        lines.append(f"greys {_signed(colour.grey_a, 2)} a*, {_signed(colour.grey_b, 2)} b*")
    if colour.saturation:
        lines.append(f"chroma {colour.saturation.value:.3f} times")
    lines += [
        f"{h.hue}: chroma {h.chroma:.3f} times, turned {h.turned:+.1f}°, {h.de00:.2f} dE00"
        for h in colour.hues
    ]
    return lines


def _signed(e: Interval, digits: int) -> str:
    return f"{e.value:+.{digits}f} [{e.low:+.{digits}f}, {e.high:+.{digits}f}]"
