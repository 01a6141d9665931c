"""One output examined against its frame: every number the audit's rules ask for, with
the curves that show it.
"""

from __future__ import annotations

import zlib
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import asdict, dataclass, field, replace
from itertools import pairwise
from typing import Any

import numpy as np

from glenhail.core.audit.bands import SIGMAS, blocks
from glenhail.core.audit.character import Character, character
from glenhail.core.audit.edges import Edges, edges
from glenhail.core.audit.invented import finer_than_frame
from glenhail.core.audit.regions import regions
from glenhail.core.errors import NotMeasurable
from glenhail.core.interval import Interval
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.picture import Floats, Picture
from glenhail.core.tone.compare import ToneColour, compare_matched
from glenhail.core.tone.curve import ZONES, ToneCurve, decoded, encoded
from glenhail.core.tone.matched import match

VERSION = "4"
FRAME = "the frame's own"
# What averaging the frame's noise away on encoded values does by itself to these is kept beside
# them.
USUAL = ", smoothed"
SMOOTHED = (
    "exposure",
    "shadows",
    "mids",
    "lights",
    "corners",
    "grey_a",
    "grey_b",
    "all_a",
    "all_b",
    "saturation",
)


@dataclass
class Examination:
    """What was found.

    ``values`` by the names that the rules know them by (`glenhail.core.audit.rules`);
    ``curves`` as columns of numbers, for showing; ``reasons`` where something could not
    be told; ``pixels`` is a sum by which equal pictures are known.
    """

    values: dict[str, Interval] = field(default_factory=dict)
    curves: dict[str, dict[str, list[float]]] = field(default_factory=dict)
    regions: list[dict[str, Any]] = field(default_factory=list)
    hues: list[dict[str, Any]] = field(default_factory=list)
    reasons: dict[str, str] = field(default_factory=dict)
    pixels: str = ""

    def as_json(self) -> dict[str, Any]:
        """Plain, for keeping."""
        values = {
            name: [round(v, 6) for v in (e.value, e.low, e.high)] for name, e in self.values.items()
        }
        return {**asdict(self), "values": values}


def examination_of(told: dict[str, Any]) -> Examination:
    """Back from what was kept.

    Parameters
    ----------
    told : dict
        Plain values, as they were kept or sent.
    """
    return Examination(
        **{**told, "values": {name: Interval(*v) for name, v in told["values"].items()}}
    )


def examine(frame: Picture, output: AlignedPicture) -> Examination:
    """Examine an output that was lined up with its frame.

    Parameters
    ----------
    frame : Picture
        The frame.
    output : AlignedPicture
        The output with its line-up.
    """
    found = Examination(pixels=sum_of(frame.pixels, output.picture.pixels))
    # All three read pictures and release the interpreter while they do.
    with ThreadPoolExecutor(max_workers=3) as pool:
        tasks = [pool.submit(task, frame, output) for task in (_tone_of, _character_of, _edges_of)]
        for task in tasks:
            task.result()(found)
    return found


def sum_of(frame: Floats, pixels: Floats) -> str:
    """A sum of size and pixels; `FRAME` where they are the frame's own.

    Parameters
    ----------
    frame : ndarray, shape (h, w, 3), float32
        The frame's pixels, linear light.
    pixels : ndarray, shape (h, w, 3), float32
        Linear light, 1 is white.
    """
    if frame.shape == pixels.shape and np.array_equal(frame, pixels):
        return FRAME
    height, width = pixels.shape[:2]
    print_of = zlib.crc32(np.ascontiguousarray(pixels).view(np.uint8).data)
    return f"{width}x{height}:{print_of:08x}"


Telling = Callable[[Examination], None]


def _tone_of(frame: Picture, output: AlignedPicture) -> Telling:
    try:
        matched = match(frame, output)
    except NotMeasurable as why:
        reason = str(why)
        return lambda found: found.reasons.update(tone=reason)
    tone, places = compare_matched(matched), regions(matched)
    usual = compare_matched(replace(matched, output=matched.smoothed))

    def tell(found: Examination) -> None:
        _tell_tone(found, tone)
        beside = Examination()
        _tell_tone(beside, usual)
        found.values |= {
            f"{name}{USUAL}": beside.values[name] for name in SMOOTHED if name in beside.values
        }
        found.regions = [asdict(r) for r in places]

    return tell


def _character_of(frame: Picture, output: AlignedPicture) -> Telling:
    sums = blocks(frame, output)
    mark, finer = None if sums is None else character(sums), finer_than_frame(frame, output)

    def tell(found: Examination) -> None:
        if mark is None:
            found.reasons["character"] = "the frame and this output share too small a part"
        else:
            _tell_character(found, mark)
        _keep(found, "finer", finer)

    return tell


def _edges_of(frame: Picture, output: AlignedPicture) -> Telling:
    lines = edges(frame, output)
    return lambda found: _tell_edges(found, lines)


def _keep(found: Examination, name: str, value: Interval | None) -> None:
    if value is not None:
        found.values[name] = value


def _exact(value: float) -> Interval:
    return Interval(value, value, value)


def _tell_tone(found: Examination, tone: ToneColour) -> None:
    for name, value in (
        ("exposure", tone.exposure),
        ("contrast", tone.contrast),
        ("corners", tone.vignetting),
    ):
        _keep(found, name, value)
    found.values["clipped"], found.values["crushed"] = (
        _exact(100 * tone.clipped),
        _exact(100 * tone.crushed),
    )
    if tone.curve is not None:
        found.curves["tone"] = {"frame": tone.curve.source, "output": tone.curve.output}
        stops = tone.exposure.value if tone.exposure else 0.0
        found.values |= _beside_exposure(tone.curve, stops)
    if tone.colour is None:
        found.reasons["colour"] = "too few areas are light enough to tell colours"
        return
    c = tone.colour
    for name, value in (
        ("all_a", c.all_a),
        ("all_b", c.all_b),
        ("grey_a", c.grey_a),
        ("grey_b", c.grey_b),
    ):
        _keep(found, name, value)
    _keep(found, "saturation", c.saturation)
    found.hues = [asdict(h) for h in c.hues]


def _beside_exposure(curve: ToneCurve, stops: float) -> dict[str, Interval]:
    """How far the curve lies from that of the exposure alone, in shadows, mids and
    lights: the largest step, in 8-bit codes.
    """
    source, output = np.array(curve.source), np.array(curve.output)
    plain = encoded(decoded(source) * 2**stops)
    off = 255 * (output - plain)
    half = 255 * curve.scatter / 4  # knots are medians of dozens of areas
    found = {}
    for name, (low, high) in ZONES.items():
        inside = (source >= low) & (source < high)
        if inside.any():
            value = float(np.median(off[inside]))
            found[name] = Interval(value, value - half, value + half)
    return found


def _tell_character(found: Examination, c: Character) -> None:
    names = {
        "sharpened": c.sharpened,
        "local_contrast": c.local_contrast,
        "smeared": c.smeared,
        "noise_raised": c.noise_raised,
        "blotches": c.blotches,
        "patchy": c.patchy,
        "added": c.added,
    }
    for name, value in names.items():
        _keep(found, name, value)
    found.values["blotch_codes"], found.values["blotch_fine"] = (
        _exact(c.blotch_codes),
        _exact(c.blotch_fine),
    )
    if c.noise:
        # The middle of each octave, cycles per frame px: a difference of Gaussians peaks near 0.28
        # / sqrt(s1 s2).
        octaves = [0.4, *(round(0.28 / float(np.sqrt(a * b)), 4) for a, b in pairwise(SIGMAS[1:]))]
        found.curves["noise"] = {
            "frequency": octaves[: len(c.noise)],
            "left": [round(n, 4) for n in c.noise],
        }


def _tell_edges(found: Examination, lines: Edges | None) -> None:
    if lines is None:
        found.reasons["edges"] = "fewer than a dozen strong edges of the frame stand alone"
        return
    half = 1.96 * lines.error
    for name, value in (("overshoot", lines.overshoot), ("undershoot", lines.undershoot)):
        found.values[name] = Interval(value, value - half, value + half)
    columns = {"distance": lines.distance, "frame": lines.frame, "output": lines.output}
    found.curves["edge"] = {
        name: [round(float(v), 4) for v in column] for name, column in columns.items()
    }
