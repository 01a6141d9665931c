"""How often the truth lies within a sitting's intervals, and how often a winner is told
that is none: 2,000 simulated sittings of each kind.

Wanted: within in 93 to 97 %, wrong winners under 5 %.
"""

from __future__ import annotations

import time

import numpy as np

from glenhail.core.judging.results import results_of
from tests.core.simulated_judges import Simulated, sitting_of

SITTINGS = 2000
EQUAL = (0.0, 0.0, 0.0, 0.0)
KINDS = {
    "1 judge, 12 scenes": Simulated(judges=1, scenes=12),
    "3 judges, 12 scenes": Simulated(judges=3, scenes=12),
    "3 judges, scenes differ": Simulated(judges=3, scenes=12, scene_spread=0.6),
    "3 judges, left is liked": Simulated(judges=3, scenes=12, lean=0.6),
    "8 judges": Simulated(judges=8, scenes=12),
    "8 judges who differ": Simulated(judges=8, scenes=12, judge_spread=0.5),
    "8 judges, a fifth sloppy": Simulated(judges=8, scenes=12, worths=EQUAL, sloppy=0.2),
    "1 judge, equals": Simulated(judges=1, scenes=12, worths=EQUAL),
    "3 judges, equals": Simulated(judges=3, scenes=12, worths=EQUAL),
    "8 judges, equals": Simulated(judges=8, scenes=12, worths=EQUAL, judge_spread=0.4),
    "3 judges, adaptive": Simulated(judges=3, scenes=12, adaptive=True),
    "8 judges, adaptive": Simulated(judges=8, scenes=12, adaptive=True),
    "3 equals, adaptive": Simulated(judges=3, scenes=12, worths=EQUAL, adaptive=True),
}


def main() -> None:
    """Print a line a kind."""
    print(f"{'':28}within   wrong winner   ms each   (wanted: 93 to 97 %, under 5 %)")
    for name, simulated in KINDS.items():
        rng = np.random.default_rng(2026)
        within = shown = wrong = 0
        weighing = 0.0
        for _ in range(SITTINGS):
            judges = sitting_of(simulated, rng)
            start = time.perf_counter()
            results = results_of(judges, simulated.letters)
            weighing += time.perf_counter() - start
            assert results is not None
            for standing in results.standings:
                truth = simulated.worths[simulated.letters.index(standing.contender)]
                within += standing.worth.low <= truth <= standing.worth.high
                shown += 1
            best = simulated.letters[int(np.argmax(simulated.worths))]
            equal = len(set(simulated.worths)) == 1
            wrong += results.winner is not None and (equal or results.winner != best)
        told = 100 * within / shown, 100 * wrong / SITTINGS, 1000 * weighing / SITTINGS
        print(f"{name:28}{told[0]:5.1f} %{told[1]:13.1f} %{told[2]:10.1f}")


if __name__ == "__main__":
    main()
