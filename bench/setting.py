"""What the benchmarks share: a database and a folder of their own, and large pictures."""

from __future__ import annotations

import atexit
import os
import shutil
import tempfile
import time
import tracemalloc
from collections.abc import Callable
from pathlib import Path

import numpy as np

WIDTH, HEIGHT = 6000, 4000  # 24 MP


def set_up_server() -> Path:
    """Django with an empty database and a temporary folder; returns the folder."""
    folder = Path(tempfile.mkdtemp(prefix="glenhail-bench-"))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    os.environ["GLENHAIL_VAR"] = str(folder)
    os.environ["DJANGO_SETTINGS_MODULE"] = "glenhail.server.settings"
    import django

    django.setup()
    from django.db import connection

    before = connection.settings_dict["NAME"]
    os.environ["GLENHAIL_DB_NAME"] = connection.creation.create_test_db(
        verbosity=0, autoclobber=True
    )
    atexit.register(connection.creation.destroy_test_db, before, 0)
    return folder


def large_scene(seed: int = 1) -> np.ndarray:
    """A 24 MP scene with structure at all scales, linear light, float32."""
    from glenhail.core.filters.resample import resample
    from glenhail.core.picture import Rect

    rng = np.random.default_rng(seed)
    scene = np.full((HEIGHT, WIDTH, 3), 0.35, dtype=np.float32)
    for cells in (8, 60, 500):
        rough = rng.random((cells * 2 // 3, cells, 3)).astype(np.float32) - 0.5
        scene += 0.22 * resample(rough, Rect(0, 0, cells, cells * 2 // 3), WIDTH, HEIGHT, "bicubic")
    return np.clip(scene, 0.01, 1)


def noisy(scene: np.ndarray, electrons: float, seed: int) -> np.ndarray:
    """Gaussian stand-in for photon noise; quick to make for 24 MP."""
    rng = np.random.default_rng(seed)
    noise = rng.standard_normal(scene.shape, dtype=np.float32)
    return np.asarray(scene + noise * np.sqrt(scene / electrons), dtype=np.float32)


def best(work: Callable[[], object], runs: int = 3) -> float:
    """The quickest of several runs, seconds."""
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times)


def most_held(work: Callable[[], object]) -> int:
    """The most memory of arrays that work holds at one time beyond what was there
    before, bytes.
    """
    tracemalloc.start()
    work()
    most = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return most
