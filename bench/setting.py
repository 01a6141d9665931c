"""What the benchmarks share: a database and a folder of their own, and large pictures."""

from __future__ import annotations

import atexit
import os
import shutil
import subprocess
import sys
import tempfile
import time
import tracemalloc
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from django.contrib.auth.models import User

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


@contextmanager
def served(port: int, servers: int = 1) -> Iterator[str]:
    """The application answering at an address of this machine, and ended afterwards."""
    command = [sys.executable, "-m", "glenhail.launch.front", "127.0.0.1", str(port)]
    started = [
        subprocess.Popen(command, env=os.environ, stderr=subprocess.DEVNULL) for _ in range(servers)
    ]
    address = f"http://127.0.0.1:{port}"
    try:
        _wait(address)
        yield address
    finally:
        for server in started:
            server.terminate()
            server.wait()


def _wait(address: str) -> None:
    for _ in range(200):
        try:
            urllib.request.urlopen(f"{address}/healthy", timeout=1)
        except urllib.error.HTTPError:
            return  # it misses workers, and says so
        except OSError:
            time.sleep(0.1)
        else:
            return
    raise SystemExit("the server does not answer")


def signed_in(user: User) -> str:
    """The cookie of a session of theirs."""
    from django.contrib.sessions.backends.db import SessionStore

    session = SessionStore()
    session["_auth_user_id"] = str(user.pk)
    session["_auth_user_backend"] = "django.contrib.auth.backends.ModelBackend"
    session["_auth_user_hash"] = user.get_session_auth_hash()
    session.save()
    return str(session.session_key)


def work_off() -> None:
    """Do all that is queued, one job after the other."""
    from glenhail.server.jobs.models import Job, State
    from glenhail.server.jobs.tasks import run_job

    while (job := Job.objects.filter(state=State.QUEUED).order_by("pk").first()) is not None:
        run_job(job.pk)
