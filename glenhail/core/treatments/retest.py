"""A treatment taken over to another release of one of its tools: what stays as it was,
and what somebody has to decide.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from glenhail.core.errors import BadRequest
from glenhail.core.parameters import plain, value_of
from glenhail.core.treatments.release import ReleaseFacts, fit
from glenhail.core.treatments.step import Setting, Step, Treatment


@dataclass(frozen=True)
class TakenOver:
    """A treatment with another release, and what could not be taken over as it was,
    each as a sentence.
    """

    treatment: Treatment
    asked: tuple[str, ...]


def taken_over(told: Treatment, tool: str, release: str, facts: ReleaseFacts) -> TakenOver:
    """A treatment whose steps by one tool are those of another release of it.

    Modes and settings stay where the release still has them, with their values where it
    still takes these; what is new gets its usual value, and what is gone is left out.
    All of that is said. A release of which no modes or settings are written down takes
    everything as it was.

    Parameters
    ----------
    told : Treatment
        As it is.
    tool : str
        The tool's name.
    release : str
        The other release's name.
    facts : ReleaseFacts
        What is known of that.
    """
    asked: dict[str, None] = {}
    steps = []
    for step in told.steps:
        if step.method or step.tool != tool or step.release == release:
            steps.append(step)
            continue
        made, questions = _step(step, release, facts)
        steps.append(made)
        asked |= dict.fromkeys(questions)
    return TakenOver(replace(told, steps=tuple(steps)), tuple(asked))


def _step(step: Step, release: str, facts: ReleaseFacts) -> tuple[Step, list[str]]:
    asked = []
    mode = step.mode
    if facts.modes and mode and mode not in facts.modes:
        mode = ""
        asked.append(
            f"{facts.title} has no mode “{step.mode}”; it has {', '.join(facts.modes)}. Choose one."
        )
    strength = step.strength
    if strength is not None and not facts.strength:
        strength = None
        asked.append(f"{facts.title} has no strength; {step.strength:g} % is left out.")
    settings, more = _settings(step, facts)
    made = replace(step, release=release, mode=mode, strength=strength, settings=settings)
    return fit(made, facts), asked + more


def _settings(step: Step, facts: ReleaseFacts) -> tuple[tuple[Setting, ...], list[str]]:
    """Those that the release takes as they were, and what is asked about the rest."""
    if not facts.parameters:
        return step.settings, []
    known = {p.name: p for p in facts.parameters}
    kept, asked = [], []
    for setting in step.settings:
        parameter = known.pop(setting.name, None)
        if parameter is None:
            asked.append(f"{facts.title} has no {setting.name}; “{setting.words}” is left out.")
            continue
        try:
            if setting.value is not None:
                value_of(facts.title, parameter, setting.value)
            kept.append(setting)
        except BadRequest as error:
            usual = plain(parameter.usual)
            asked.append(f"{error} It was “{setting.words}”; {usual} is proposed.")
    told = {s.name for s in step.settings}
    for parameter in known.values():
        if parameter.name not in told:
            usual = plain(parameter.usual)
            asked.append(f"{facts.title} has a new setting, {parameter.title}: {usual} as usual.")
    return tuple(kept), asked
