"""A patch drawn on a study of six contenders whose 24 MP files are ready: how long
until each has its first readings; one worker.
"""

from __future__ import annotations

import time

import numpy as np

from bench.setting import large_scene, noisy, set_up_server

CONTENDERS = 6


def main() -> None:
    """Print the seconds for a patch of each role, after one that warms nothing but the
    files.
    """
    folder = set_up_server()
    from glenhail.core.files.encoding import write_tiff
    from glenhail.core.measures.catalogue import ROLES
    from glenhail.core.picture import Rect
    from glenhail.core.treatments.step import Step, Treatment
    from glenhail.server.accounts.actions.members import add_member
    from glenhail.server.accounts.models import Bench, Role
    from glenhail.server.material.actions.frames import add_frame
    from glenhail.server.outputs.actions import cells
    from glenhail.server.studies.actions import contenders, patches, study

    scene = np.clip(large_scene(), 0, 1)
    write_tiff(folder / "frame.tif", np.clip(noisy(scene, 900, 1), 0, 1))
    bench = Bench.objects.create(name="Bench")
    owner = add_member(bench, "owner", "secret-words", Role.OWNER)
    asked = study.create_study(owner, bench, "How fast?", "tool")
    with (folder / "frame.tif").open("rb") as file:
        frame, _ = add_frame(owner, bench, file, "frame.tif")
    study.take_frame(owner, asked, frame)
    for i in range(CONTENDERS):
        contender = contenders.enter_contender(owner, asked, Treatment((Step(f"Tool {i}", "1.0"),)))
        write_tiff(folder / "output.tif", np.clip(noisy(scene, 3000 + 1000 * i, 2 + i), 0, 1))
        with (folder / "output.tif").open("rb") as file:
            cells.bring_in(owner, contender, frame, file, "output.tif")
    work()
    patches.draw_patch(owner, asked, frame, "", "flat", Rect(300, 300, 256, 256))
    work()
    for i, role in enumerate(ROLES):
        start = time.perf_counter()
        patches.draw_patch(owner, asked, frame, "", role, Rect(700 + 500 * i, 1000, 256, 256))
        drawn = time.perf_counter() - start
        jobs = work()
        print(
            f"{role:11} drawn in {1000 * drawn:4.0f} ms; {jobs} jobs, all {CONTENDERS} read"
            f" {time.perf_counter() - start:5.2f} s after"
        )


def work() -> int:
    """Do the queued jobs in their order, as a worker does; how many there were."""
    from glenhail.server.jobs.models import Job, State
    from glenhail.server.jobs.tasks import run_job

    done = 0
    while (job := Job.objects.filter(state=State.QUEUED).order_by("pk").first()) is not None:
        run_job(job.pk)
        done += 1
    return done


if __name__ == "__main__":
    main()
