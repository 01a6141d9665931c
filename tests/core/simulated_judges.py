"""Judges with known preferences, by code that the estimator does not share: each picture
weighs on a judge with a random part of its own, and the heavier one is chosen.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from glenhail.core.judging.adaptive import chosen_anew
from glenhail.core.judging.calls import Call, Said
from glenhail.core.judging.drawing import Purpose, drawn_pairs
from glenhail.core.judging.setup import ShownPlace


@dataclass(frozen=True)
class Simulated:
    """A sitting's judges. The difference of two Gumbel variables is logistic, so that
    choices follow Bradley and Terry's model; a third weighs for no difference.
    """

    judges: int = 3
    scenes: int = 8
    worths: tuple[float, ...] = (0.6, 0.2, -0.2, -0.6)
    pairs: int = 60
    tie: float = -0.7
    lean: float = 0.0
    scene_spread: float = 0.0
    judge_spread: float = 0.0
    sloppy: float = 0.0
    adaptive: bool = False

    @property
    def letters(self) -> list[str]:
        return [chr(65 + i) for i in range(len(self.worths))]


def sitting_of(of: Simulated, rng: np.random.Generator) -> dict[str, list[Call]]:
    """Each judge's calls, checks left out."""
    spots = [str(i) for i in range(of.scenes)]
    scenes = {s: rng.normal(0, of.scene_spread, len(of.worths)) for s in spots}
    made: dict[str, list[Call]] = {}
    for judge in range(of.judges):
        own = rng.normal(0, of.judge_spread, len(of.worths))
        shown = drawn_pairs(of.letters, spots, of.pairs, int(rng.integers(1 << 40)))
        calls: list[Call] = []
        places = [ShownPlace(int(p.spot), (p.left, p.right), p.purpose, p.of) for p in shown]
        for at in range(len(places)):
            if of.adaptive and at % 8 == 0:
                known = [c for own_calls in made.values() for c in own_calls] + calls
                seed = int(rng.integers(1 << 40))
                places = chosen_anew(places, at, known, of.letters, seed)
            place = places[at]
            if place.purpose != Purpose.ASKED:
                continue
            pair = Call(place.letters[0], place.letters[1], Said.NEITHER, str(place.spot))
            worth = np.asarray(of.worths) + own + scenes[pair.spot]
            one, two = worth[of.letters.index(pair.left)], worth[of.letters.index(pair.right)]
            weights = np.array([one + of.lean / 2, two - of.lean / 2, of.tie + (one + two) / 2])
            felt = weights + rng.gumbel(size=3)
            said = list(Said)[int(np.argmax(felt))]
            if rng.random() < of.sloppy:
                said = list(Said)[int(rng.integers(3))]
            calls.append(Call(pair.left, pair.right, said, pair.spot))
        made[str(judge)] = calls
    return made
