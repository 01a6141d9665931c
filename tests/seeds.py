"""Cases drawn by chance, the same ones in each run; others by ``GLENHAIL_SEED``."""

from __future__ import annotations

import os

import numpy as np

SEED = int(os.environ.get("GLENHAIL_SEED", "20261127"))


def drawn(cases: int) -> list[tuple[str, np.random.Generator]]:
    """A generator of its own for each case, and its name for the subtest: a case that
    fails prints its seed.
    """
    return [
        (f"seed {SEED}, case {case}", np.random.default_rng([SEED, case])) for case in range(cases)
    ]
