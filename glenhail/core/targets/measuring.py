"""Measuring the fields of a sheet that was found in a picture."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np
import scipy.ndimage

from glenhail.core.colour import srgb
from glenhail.core.errors import NotMeasurable
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures import edge as edges
from glenhail.core.measures import halo
from glenhail.core.measures.edge_profile import crossing
from glenhail.core.measures.residual import residual
from glenhail.core.measures.spectra import transfer
from glenhail.core.measures.subject import CODES, Subject
from glenhail.core.picture import Doubles, Floats, Mapping, Picture, Rect
from glenhail.core.targets import fields, shapes
from glenhail.core.targets.detection import SheetPose
from glenhail.core.targets.layout import Field, Sheet, paint_field

VERSION = "1"
MOST_TURN = 10.0  # degrees; patches are upright rectangles
DETAIL = (0.05, 0.4)  # cycles/px of the sheet: the band in which detail is told
# of the contrast painted: bars fainter than this count as gone (common practice, no source)
SEEN = 0.10
FOUND_WITHIN = 1.0  # px


@dataclass(frozen=True)
class FieldReading:
    """One number of one field, or the reason why there is none."""

    field: int
    kind: str
    name: str
    value: float | None
    unit: str
    digits: int
    reason: str | None = None
    low: float | None = None
    high: float | None = None

    def as_json(self) -> dict[str, Any]:
        """Plain values."""
        return dict(self.__dict__)


@dataclass(frozen=True)
class Curve:
    """A curve of one field: what it shows, and its points."""

    field: int
    name: str
    x: list[float]
    y: list[float]
    x_unit: str
    y_unit: str


@dataclass(frozen=True)
class SheetMeasurement:
    """All that a sheet tells of a picture."""

    readings: list[FieldReading]
    curves: list[Curve]


@dataclass(frozen=True)
class FieldView:
    """A field as it lies in a picture: its sheet coordinates start at its own corner."""

    number: int
    field: Field
    cell: Rect
    sheet: Sheet
    lie: SheetPose
    picture: Picture
    light: Floats

    @property
    def scale(self) -> float:
        return self.lie.scale(self.cell)

    def reading(
        self,
        name: str,
        value: float,
        unit: str,
        digits: int,
        low: float | None = None,
        high: float | None = None,
    ) -> FieldReading:
        return FieldReading(
            self.number, self.field.kind.id, name, value, unit, digits, None, low, high
        )

    def none(self, name: str, unit: str, why: str) -> FieldReading:
        return FieldReading(self.number, self.field.kind.id, name, None, unit, 0, why)

    def curve(self, name: str, x: Doubles, y: Doubles, x_unit: str, y_unit: str) -> Curve:
        return Curve(
            self.number,
            name,
            [round(float(v), 5) for v in x],
            [round(float(v), 5) for v in y],
            x_unit,
            y_unit,
        )

    def inner(self, part: Rect) -> Rect:
        """A part of the field as an upright rectangle of the picture."""
        moved = Rect(part.x + self.cell.x, part.y + self.cell.y, part.w, part.h)
        found = self.lie.inner(moved).clipped(self.picture.bounds)
        if min(found.w, found.h) < 4:
            raise NotMeasurable("it lies too small in the picture, or beyond its edge")
        return found

    def pixels(self, part: Rect) -> tuple[Doubles, Doubles, Doubles]:
        """A part's pixels: their places in field coordinates (x, y), and their light,
        each flat.
        """
        r = self.inner(part)
        y, x = np.mgrid[int(r.y) : int(r.y + r.h), int(r.x) : int(r.x + r.w)] + 0.5
        sx, sy = self.lie.to_sheet(x.ravel(), y.ravel())
        light = (
            self.light[int(r.y) : int(r.y + r.h), int(r.x) : int(r.x + r.w)]
            .ravel()
            .astype(np.float64)
        )
        return sx - self.cell.x, sy - self.cell.y, light


Teller = Callable[[FieldView], Iterator[FieldReading | Curve]]


def read_sheet(picture: Picture, sheet: Sheet, lie: SheetPose) -> SheetMeasurement:
    """Measure every field.

    Parameters
    ----------
    picture : Picture
        A picture in linear light.
    sheet : Sheet
        The target as it was laid out.
    lie : SheetPose
        Where the picture shows it.

    Raises
    ------
    NotMeasurable
        If the sheet is turned too far for upright patches.
    """
    turn = (lie.turn + 45) % 90 - 45
    if abs(turn) > MOST_TURN or abs(lie.turn) > 45:
        raise NotMeasurable(
            f"the target is turned by {lie.turn:.0f}°; up to {MOST_TURN:.0f} can be measured."
            " Hold it straight."
        )
    light = srgb.luminance(picture.pixels)
    told: list[FieldReading | Curve] = []
    for number, (field, cell) in enumerate(zip(sheet.fields, sheet.cells, strict=True), 1):
        seen = FieldView(number, field, cell, sheet, lie, picture, light)
        try:
            told += list(TELLERS[field.kind.id](seen))
        except NotMeasurable as why:
            told.append(seen.none(field.kind.title, "", str(why)))
    return SheetMeasurement(
        [t for t in told if isinstance(t, FieldReading)], [t for t in told if isinstance(t, Curve)]
    )


def _edges(seen: FieldView) -> Iterator[FieldReading | Curve]:
    square = fields.square_of(seen.field.values, int(seen.cell.w), int(seen.cell.h))
    subject = Subject(seen.picture, AlignedPicture(seen.picture, Mapping(), seen.picture.bounds))
    for quarter, side in enumerate(("right", "bottom", "left", "top")):
        try:
            rect = seen.inner(square.edge_patch(quarter))
            found = edges.mtf50(subject, rect)
        except NotMeasurable as why:
            yield seen.none(f"MTF50, {side} edge", "cycles/px", str(why))
            continue
        yield seen.reading(
            f"MTF50, {side} edge", found.value, "cycles/px", 3, found.low, found.high
        )
        if quarter == 0:
            x, y = (np.array(found.details["mtf"][k]) for k in ("cycles_per_frame_px", "transfer"))
            yield seen.curve("MTF, right edge", x, y, "cycles/px", "share of contrast")
            for name, measure in (("Bright halo", halo.overshoot), ("Dark halo", halo.undershoot)):
                try:
                    yield seen.reading(
                        f"{name}, right edge", measure(subject, rect).value, "% of step", 1
                    )
                except NotMeasurable as why:
                    yield seen.none(f"{name}, right edge", "% of step", str(why))


def _leaves(seen: FieldView) -> Iterator[FieldReading | Curve]:
    truth, made = _truth_and_made(seen)
    found = transfer(truth, made / np.float32(made.mean() / truth.mean()))
    scale = seen.scale
    band = (DETAIL[0] / scale, min(0.45, DETAIL[1] / scale))
    if band[0] >= band[1]:
        raise NotMeasurable("it lies too small in the picture")
    yield seen.reading("Detail kept", found.mean_kept(*band), "%", 1)
    yield seen.reading("Detail added", found.mean_added(*band), "%", 1)
    half = crossing(found.frequency, found.kept, 0.5)
    if half is None:
        yield seen.none("Texture MTF50", "cycles/px", "more than half is kept up to 0.5 cycles/px")
    else:
        yield seen.reading("Texture MTF50", half, "cycles/px", 3)
    yield seen.curve("Detail kept", found.frequency, found.kept, "cycles/px", "share of contrast")


def _truth_and_made(seen: FieldView) -> tuple[Floats, Floats]:
    """The field as painted, on the picture's own grid, and what the picture shows
    there.
    """
    margin = 2 / seen.scale + 2
    whole = Rect(margin, margin, seen.cell.w - 2 * margin, seen.cell.h - 2 * margin)
    r = seen.inner(whole)
    plane = paint_field(seen.sheet, seen.field, int(seen.cell.w), int(seen.cell.h))
    width, height = int(r.w), int(r.h)
    # Where the picture is coarser than the sheet, each of its pixels averages what it covers.
    parts = 1 if seen.scale > 0.9 else math.ceil(2 / seen.scale)
    total = np.zeros((height, width))
    for dy in range(parts):
        for dx in range(parts):
            y, x = np.mgrid[0:height, 0:width] + (np.array([dy, dx])[:, None, None] + 0.5) / parts
            sx, sy = seen.lie.to_sheet(x + r.x, y + r.y)
            total += scipy.ndimage.map_coordinates(
                plane, [sy - seen.cell.y - 0.5, sx - seen.cell.x - 0.5], order=3, mode="nearest"
            )
    made = seen.light[int(r.y) : int(r.y) + height, int(r.x) : int(r.x) + width]
    return np.asarray(total / parts**2, dtype=np.float32), made


def _modulation(phase: Doubles, light: Doubles) -> float:
    """Amplitude over mean of a sine of that phase (radians) in scattered values, less
    what noise adds to it.
    """
    design = np.stack([np.ones_like(phase), np.cos(phase), np.sin(phase)], axis=1)
    fit, _, rank, _ = np.linalg.lstsq(design, light, rcond=None)
    if rank < 3 or fit[0] <= 0:
        raise NotMeasurable("it lies too small in the picture")
    noise = float(((light - design @ fit) ** 2).sum()) / max(1, light.size - 3)
    return math.sqrt(max(0.0, float(fit[1] ** 2 + fit[2] ** 2) - 4 * noise / light.size)) / float(
        fit[0]
    )


def _contrast(p: Any) -> float:
    low, high = float(p["low"]), float(p["high"])
    return (high - low) / (high + low)


def _star(seen: FieldView) -> Iterator[FieldReading | Curve]:
    w, h = seen.cell.w, seen.cell.h
    radius, spokes = fields.star_radius(int(w), int(h)), int(seen.field.values["spokes"])
    x, y, light = seen.pixels(Rect(w / 2 - radius, h / 2 - radius, 2 * radius, 2 * radius))
    r, phi = np.hypot(x - w / 2, y - h / 2), np.arctan2(y - h / 2, x - w / 2)
    finest = max(spokes / (2 * math.pi * 0.48), 3 / seen.scale)
    rings = np.geomspace(finest, 0.97 * radius, 25)
    frequency, kept = [], []
    for inner, outer in pairwise(rings):
        here = (r >= inner) & (r < outer)
        if here.sum() < 40:
            continue
        frequency.append(float(np.mean(spokes / (2 * math.pi * r[here]))) / seen.scale)
        kept.append(_modulation(spokes * phi[here], light[here]) / _contrast(seen.field.values))
    if len(kept) < 6:
        raise NotMeasurable("it lies too small in the picture")
    f, k = np.array(frequency)[::-1], np.array(kept)[::-1]
    for level in (50, 10):
        found = crossing(f, k, level / 100)
        name = f"Star MTF{level}"
        if found is None:
            yield seen.none(
                name, "cycles/px", f"contrast stays above {level} % up to {f[-1]:.2f} cycles/px"
            )
        else:
            yield seen.reading(name, found, "cycles/px", 3)
    yield seen.curve("Star MTF", f, k, "cycles/px", "share of contrast")


def _wedge(seen: FieldView) -> Iterator[FieldReading | Curve]:
    painted, means, deviations = [], [], []
    for rect, light in fields.wedge_steps(seen.field.values, int(seen.cell.w), int(seen.cell.h)):
        part = seen.inner(
            Rect(rect.x + 0.15 * rect.w, rect.y + 0.15 * rect.h, 0.7 * rect.w, 0.7 * rect.h)
        )
        if min(part.w, part.h) < 6:
            raise NotMeasurable("its steps lie too small in the picture")
        pixels = seen.picture.crop(part)
        painted.append(light)
        means.append(float(srgb.luminance(pixels).mean()))
        deviations.append(float(residual(srgb.luminance(pixels)).std()))
        if abs(light - 0.18) == min(abs(p - 0.18) for p in painted):
            grey = float(residual(srgb.luma(pixels) * CODES).std())
    p, m, s = np.array(painted), np.array(means), np.array(deviations)
    lit = (m > 0.02) & (m < 0.95)
    if lit.sum() < 2:
        raise NotMeasurable("too few of its steps are neither black nor clipped")
    yield seen.reading("Exposure", float(np.median(np.log2(m[lit] / p[lit]))), "EV", 2)
    yield seen.reading(
        "Tone, slope in light", float(np.polyfit(np.log2(p[lit]), np.log2(m[lit]), 1)[0]), "", 3
    )
    yield seen.reading("Noise at mid grey", grey, "8-bit levels", 2)
    snr = 20 * np.log10(np.maximum(m, 1e-9) / np.maximum(s, 1e-9))
    stops = -np.log2(p / p[0])
    gone = crossing(stops, snr, 0.0)
    if gone is None:
        yield seen.none("Range down to SNR 1", "EV", f"more than the wedge's {stops[-1]:.0f} EV")
    else:
        yield seen.reading("Range down to SNR 1", gone, "EV", 1)
    yield seen.curve("Signal to noise", -stops, snr, "EV from the lightest step", "dB")


def _lines(seen: FieldView) -> Iterator[FieldReading | Curve]:
    groups = fields.line_groups(seen.field.values, int(seen.cell.w), int(seen.cell.h))
    for upright, name in ((True, "upright"), (False, "level")):
        frequency, kept = [], []
        for rect, f, way in groups:
            if way != upright:
                continue
            x, y, light = seen.pixels(Rect(rect.x + 2, rect.y + 2, rect.w - 4, rect.h - 4))
            phase = 2 * math.pi * f * ((x - rect.x) if upright else (y - rect.y))
            frequency.append(f / seen.scale)
            kept.append(_modulation(phase, light) / (4 / math.pi * _contrast(seen.field.values)))
        found, k = np.array(frequency), np.array(kept)
        seen_lines = np.flatnonzero(k >= SEEN)
        if seen_lines.size == 0:
            yield seen.none(
                f"Finest lines seen, {name}",
                "cycles/px",
                "none of the groups can be told from plain grey",
            )
        else:
            yield seen.reading(
                f"Finest lines seen, {name}", float(found[seen_lines[-1]]), "cycles/px", 3
            )
        yield seen.curve(f"Lines, {name}", found, k, "cycles/px", "share of contrast")


def _lights(seen: FieldView) -> Iterator[FieldReading | Curve]:
    p = seen.field.values
    places = fields.light_places(p, int(seen.cell.w), int(seen.cell.h))
    sigma = max(seen.sheet.blur, 0.5) * seen.scale
    offsets, spreads, longs = [], [], []
    for x, y, _ in places:
        fx, fy = (float(v) for v in seen.lie.to_picture(x + seen.cell.x, y + seen.cell.y))
        spot = _spot(seen.light, fx, fy, sigma)
        if spot is not None and spot[0] <= FOUND_WITHIN:
            offsets.append(spot[0])
            spreads.append(spot[1])
            longs.append(spot[2])
    yield seen.reading("Lights found again", 100 * len(offsets) / len(places), "%", 1)
    if len(offsets) < 3:
        yield seen.none("Lights, off their place", "px", "fewer than three lights were found")
        return
    yield seen.reading("Lights, off their place", float(np.median(offsets)), "px", 2)
    yield seen.reading("Lights, width", float(np.median(spreads)) * 2.3548, "px", 2)
    yield seen.reading("Lights, length over breadth", float(np.median(longs)), "", 2)


def _spot(light: Floats, x: float, y: float, sigma: float) -> tuple[float, float, float] | None:
    """A light near a place: how far off, its standard deviation in px, and length over
    breadth; None where none stands out.
    """
    reach = math.ceil(4 + 3 * sigma)
    x0, y0 = int(x) - reach, int(y) - reach
    if (
        x0 < 0
        or y0 < 0
        or int(x) + reach + 1 > light.shape[1]
        or int(y) + reach + 1 > light.shape[0]
    ):
        return None
    part = light[y0 : int(y) + reach + 1, x0 : int(x) + reach + 1].astype(np.float64)
    gy, gx = shapes.grid(part.shape[1], part.shape[0])
    rim = part[np.hypot(gx + x0 - x, gy + y0 - y) > reach - 1.5]
    ground, noise = float(np.median(rim)), 1.4826 * float(np.median(np.abs(rim - np.median(rim))))
    smooth = scipy.ndimage.gaussian_filter(part - ground, max(0.7, 0.7 * sigma))
    near = np.where(np.hypot(gx + x0 - x, gy + y0 - y) < 2.5 + sigma, smooth, -np.inf)
    row, column = np.unravel_index(int(near.argmax()), near.shape)
    # Smoothing leaves white noise 1 / (2 sqrt(pi) s) of its deviation.
    if smooth[row, column] < 5 * noise / (2 * math.sqrt(math.pi) * max(0.7, 0.7 * sigma)) + 1e-6:
        return None
    cx, cy = float(column) + 0.5, float(row) + 0.5
    for _ in range(6):  # weighted moments, the weight a Gaussian about the light
        weight = np.clip(part - ground, 0, None) * np.exp(
            -((gx - cx) ** 2 + (gy - cy) ** 2) / (2 * (1.5 * sigma + 0.7) ** 2)
        )
        cx, cy = (
            float((gx * weight).sum() / weight.sum()),
            float((gy * weight).sum() / weight.sum()),
        )
    xx, yy, xy = (
        float((v * weight).sum() / weight.sum())
        for v in ((gx - cx) ** 2, (gy - cy) ** 2, (gx - cx) * (gy - cy))
    )
    middle, half = (xx + yy) / 2, math.hypot((xx - yy) / 2, xy)
    # The weight narrows what it weighs: of two Gaussians the precisions add.
    long, broad = (
        _unweighted(v, 1.5 * sigma + 0.7) for v in (middle + half, max(middle - half, 1e-3))
    )
    return (
        math.hypot(cx + x0 - x, cy + y0 - y),
        math.sqrt(math.sqrt(long * broad)),
        math.sqrt(long / broad),
    )


def _unweighted(variance: float, weight: float) -> float:
    return 1 / max(1 / variance - 1 / weight**2, 1e-3)


TELLERS: dict[str, Teller] = {
    "edges": _edges,
    "leaves": _leaves,
    "star": _star,
    "wedge": _wedge,
    "lines": _lines,
    "lights": _lights,
}
