"""What one release of a tool takes: its modes, settings and files; whether a step fits
it, and whether a treatment can make anything of a frame.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from glenhail.core.errors import BadRequest
from glenhail.core.parameters import Number, Parameter, value_of
from glenhail.core.treatments.step import ORIGINAL, Setting, Step, Treatment


@dataclass(frozen=True)
class ReleaseFacts:
    """One release as its tool's facts tell it.

    Attributes
    ----------
    title
        Tool and release, as messages name it.
    modes, raw_modes
        Its modes, none where nobody has written them down; those that take raw files
        only.
    strength
        Whether it has one.
    parameters
        Its settings with their types, none where nobody has written them down.
    builtin
        Whether it is a built-in method; ``keeps_size`` tells of such a one that it
        works on the size it is given, so that it can be kept to a part of the picture.
    raw_only
        Whether the tool takes nothing but raw files.
    largest
        How many times it enlarges at most; 0 where that is not known.
    """

    title: str
    modes: tuple[str, ...] = ()
    raw_modes: tuple[str, ...] = ()
    strength: bool = True
    parameters: tuple[Parameter, ...] = ()
    builtin: bool = False
    keeps_size: bool = False
    raw_only: bool = False
    largest: float = 0.0


@dataclass(frozen=True)
class FrameFacts:
    """What a tool has to know of a frame's file: whether it is raw, and else of which
    format.
    """

    name: str
    raw: bool = False
    format: str = ""


def fit(step: Step, release: ReleaseFacts) -> Step:
    """A step with each setting checked against what its release has, in its unit; what
    is not told takes its usual value.

    Parameters
    ----------
    step
        As somebody told it.
    release
        The release it names. One of which no settings are written down takes any.

    Returns
    -------
    Step
        The same step with its settings in the release's order.

    Raises
    ------
    BadRequest
        If a mode or setting is none of its own, or out of bounds.
    """
    if release.modes and step.mode and step.mode not in release.modes:
        raise BadRequest(f"{release.title}: its modes are {', '.join(release.modes)}.")
    if step.strength is not None and not release.strength:
        raise BadRequest(f"{release.title}: it has no strength.")
    if step.part is not None and not (release.builtin and release.keeps_size):
        raise BadRequest(
            f"{release.title}: only built-in methods that keep the size can be kept to a part. Say"
            " the limit in words."
        )
    if not release.parameters:
        if release.builtin and step.settings:
            raise BadRequest(f"{release.title}: it has no settings.")
        return step
    return replace(step, settings=_settings(step, release))


def _settings(step: Step, release: ReleaseFacts) -> tuple[Setting, ...]:
    told = {s.name: s for s in step.settings}
    names = [p.name for p in release.parameters]
    unknown = set(told) - set(names)
    if unknown:
        raise BadRequest(
            f"{release.title}: it has no {', '.join(sorted(unknown))}; it has {', '.join(names)}."
        )
    settings = []
    for p in release.parameters:
        unit = p.unit if isinstance(p, Number) else ""
        given = told.get(p.name, Setting(p.name, p.usual))
        value = None if given.value is None else value_of(release.title, p, given.value)
        settings.append(Setting(p.name, value, unit, given.automatic))
    return tuple(settings)


def why_impossible(told: Treatment, releases: Sequence[ReleaseFacts], frame: FrameFacts) -> str:
    """Why a treatment can make nothing of a frame, as its tools' facts tell.

    Parameters
    ----------
    told
        The treatment.
    releases
        Those of its steps, in their order.
    frame
        The frame it would be made from.

    Returns
    -------
    str
        A sentence for the empty cell; empty where it can.
    """
    for i, (step, release) in enumerate(zip(told.steps, releases, strict=True)):
        raw_only = release.raw_only or step.mode in release.raw_modes
        if raw_only and (i > 0 or not frame.raw or told.feed != ORIGINAL):
            return f"{step.tool} takes raw files only{_handed(i, frame)}."
        if release.largest and step.times and step.times > release.largest:
            return (
                f"{step.tool} enlarges {release.largest:g} times at most, not {step.times:g} times."
            )
    return ""


def _handed(i: int, frame: FrameFacts) -> str:
    if i > 0:
        return ", and here it is handed what the step before it made"
    if frame.raw:
        return ", and here it is handed a 16-bit TIFF; hand it the original file"
    return f"; {frame.name} is a {frame.format or 'rendered file'}"
