"""A strength series from the command line."""

from __future__ import annotations

import argparse
import json
import math
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass
from functools import partial
from pathlib import Path
from typing import Any

from glenhail.core.assess import assess
from glenhail.core.cli.measure import check_patches, parse_patch
from glenhail.core.cli.uses import chosen_use
from glenhail.core.errors import BadRequest, NotMeasurable
from glenhail.core.files.decoding import read_picture
from glenhail.core.lineup.aligned import AlignedPicture, aligned, lined_up
from glenhail.core.lineup.register import LineUp
from glenhail.core.measures.catalogue import NOISE, Patch
from glenhail.core.picture import Picture
from glenhail.core.strength.course import StrengthStep, course_said
from glenhail.core.strength.evenness import VERSION
from glenhail.core.strength.matching import NoiseStep, matched_said, matched_settings
from glenhail.core.strength.noise_seen import noise_seen
from glenhail.core.strength.series import strength_series
from glenhail.core.strength.summary import Advice, advice_said, noise_steps
from glenhail.core.uses.table import Use

KEPT = ("measure", "patch", "value", "low", "high", "unit")
MEASURES = ("noise_luma", "detail_kept", "overshoot")


@dataclass(frozen=True)
class _Series:
    """A tool's steps, and the noise that each leaves where there are plain patches."""

    title: str
    steps: list[StrengthStep]
    noise: list[NoiseStep]
    readings: list[dict[str, Any]]
    said: list[str]


def add_to(commands: Any) -> None:
    """Add series.

    Parameters
    ----------
    commands : argparse subparsers
        Where the commands are added.
    """
    parser = commands.add_parser(
        "series", help="a setting over its range: where it does nothing, turns, is uneven"
    )
    parser.add_argument("frame", type=Path)
    parser.add_argument("steps", nargs="+", metavar="SETTING=FILE", help="such as 40=wash-40.tif")
    parser.add_argument(
        "--other",
        action="append",
        default=[],
        metavar="SETTING=FILE",
        help="another tool's series, whose settings are matched by the noise that is left",
    )
    parser.add_argument("--names", default="A,B", help="of both tools, such as Wash,Fold")
    parser.add_argument("--setting", default="strength", help="what varies")
    parser.add_argument("--unit", default="%", help="of what varies")
    parser.add_argument("--truth", type=Path)
    parser.add_argument(
        "--patch",
        action="append",
        default=[],
        metavar="NAME:ROLE:x,y,w,h",
        help="where noise, detail and halos are measured, frame px",
    )
    parser.add_argument("--use", help="the use at which noise shall not be seen")
    parser.add_argument("--json", action="store_true", help="one JSON object instead of lines")
    parser.set_defaults(run=_series)


def _series(options: argparse.Namespace) -> None:
    frame = read_picture(options.frame)
    patches = [parse_patch(text) for text in options.patch]
    check_patches(patches, frame)
    use = chosen_use(options.use) if options.use else None
    names = [name.strip() for name in options.names.split(",")] + ["B"]
    found = [
        _one(frame, given, name, patches, use, options)
        for name, given in zip(names, (options.steps, options.other), strict=False)
        if given
    ]
    matched = matched_settings(found[0].noise, found[1].noise) if len(found) > 1 else []
    said = [words for one in found for words in one.said]
    if matched:
        titles = found[0].title, found[1].title
        said.append(matched_said(matched, titles, (options.unit, options.unit)))
    if options.json:
        told = {
            "version": VERSION,
            "series": [asdict(one) for one in found],
            "matched": [asdict(m) for m in matched],
            "said": said,
        }
        print(json.dumps(told))
        return
    print("\n".join(said))
    for one in found:
        for step in one.steps:
            print(f"  {one.title} {_line(step, options.unit)}")


def _one(
    frame: Picture,
    given: list[str],
    title: str,
    patches: list[Patch],
    use: Use | None,
    options: argparse.Namespace,
) -> _Series:
    files = dict(_told(text) for text in given)
    known: dict[Path, LineUp] = {}
    laid = [(setting, partial(_laid, frame, path, known)) for setting, path in files.items()]
    try:
        steps = [mapped.step for mapped in strength_series(frame, laid)]
    except NotMeasurable as why:
        raise BadRequest(f"{title}: {why}.") from why
    readings = _readings(frame, files, patches, options.truth)
    noise = noise_steps(
        {r["patch"]: r["value"] for r in readings if _is_noise(r) and r["setting"] is None},
        [
            (s.setting, {r["patch"]: (r["value"], r["low"], r["high"]) for r in readings
                         if _is_noise(r) and r["setting"] == s.setting})
            for s in steps
        ],
    )  # fmt: skip
    said = [f"{title}: {words}" for words in course_said(options.setting, options.unit, steps)]
    if use is not None and any(p.role in NOISE for p in patches):
        told = _advices(laid, patches, readings, use)
        said.append(advice_said(title, options.unit, use, told))
    return _Series(title, steps, noise, readings, said)


def _is_noise(reading: dict[str, Any]) -> bool:
    return reading["measure"] == "noise_luma" and reading["value"] is not None


def _advices(
    laid: Sequence[tuple[float, Callable[[], AlignedPicture]]],
    patches: list[Patch],
    readings: list[dict[str, Any]],
    use: Use,
) -> list[Advice]:
    plain = [p.rect for p in patches if p.role in NOISE]
    told = []
    for setting, give in sorted(laid, key=lambda one: one[0]):
        shown = give()
        seen = [noise_seen(shown.picture.pixels, shown.mapping.rect(r), use) for r in plain]
        kept = [
            r["value"]
            for r in readings
            if r["measure"] == "detail_kept" and r["setting"] == setting and r["value"] is not None
        ]
        told.append(Advice(setting, tuple(seen), kept[0] if kept else None))
    return told


def _told(text: str) -> tuple[float, Path]:
    setting, sign, name = text.partition("=")
    try:
        value = float(setting)
        if not sign or not name or not math.isfinite(value):
            raise ValueError
        return value, Path(name)
    except ValueError:
        raise BadRequest(
            f"{text}: a step is told as SETTING=FILE, such as 40=wash-40.tif."
        ) from None


def _laid(frame: Picture, path: Path, known: dict[Path, LineUp]) -> AlignedPicture:
    """A file on the frame: read whenever it is wanted, lined up once."""
    output = read_picture(path)
    if path not in known:
        known[path] = lined_up(frame, output)
    return aligned(output, known[path])


def _readings(
    frame: Picture, files: dict[float, Path], patches: list[Patch], truth: Path | None
) -> list[dict[str, Any]]:
    if not patches:
        return []
    known = read_picture(truth) if truth else None
    return [
        {"setting": setting, **{k: getattr(r, k) for k in KEPT}}
        for setting, path in ((None, None), *files.items())
        for r in assess(frame, read_picture(path) if path else None, known, patches).readings
        if r.measure in MEASURES and r.patch
    ]


def _line(step: StrengthStep, unit: str) -> str:
    share = step.share
    how = "even" if step.even else "uneven"
    plain = (
        ""
        if step.cleaned is None or step.untouched is None
        else f"; of plain places {100 * step.cleaned:.0f} % done, {100 * step.untouched:.0f} % not"
    )
    return (
        f"{f'{step.setting:g} {unit}'.strip()}: {100 * share.value:.0f} % of the way"
        f" ({100 * share.low:.0f} to {100 * share.high:.0f}), {how} (spread"
        f" {step.spread:.3f}){plain}"
    )
