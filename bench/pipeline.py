"""From the end of an upload to the wall and the first readings, against a bare decode
and pyramid; 24 MP, 16 bit.

Wanted: at most 2 times.
"""

from __future__ import annotations

import time
from pathlib import Path

import numpy as np

from bench.setting import HEIGHT, WIDTH, best, large_scene, noisy, set_up_server


def main() -> None:
    """Print both times and their ratio."""
    folder = set_up_server()
    from glenhail.core.files.encoding import write_tiff

    scene = large_scene()
    path = folder / "frame.tif"
    write_tiff(path, noisy(scene, 900, 1))
    write_tiff(folder / "output.tif", noisy(scene, 9000, 2))
    bare = best(lambda: _bare(path), 3)
    frame, output = _timed_upload(folder)
    megapixels = WIDTH * HEIGHT / 1e6
    print(f"{megapixels:.0f} MP, 16-bit TIFF, {path.stat().st_size / 1e6:.0f} MB")
    print(f"bare decode and lossless pyramid        {bare:6.2f} s")
    print(
        f"frame: upload's end to first readings   {frame:6.2f} s   {frame / bare:.2f} times"
        " (wanted: under 2)"
    )
    print(
        f"output: upload's end to first readings  {output:6.2f} s   {output / bare:.2f} times"
        " (wanted: under 2)"
    )


def _bare(path: Path) -> None:
    import tifffile

    from glenhail.core.files.decoding import read_facts
    from glenhail.core.files.pyramid import write_pyramid
    from glenhail.core.picture import Picture

    codes = tifffile.imread(path)
    pixels = np.asarray(codes / np.float32(65535), dtype=np.float32)
    write_pyramid(Picture(pixels, read_facts(path)), path.with_suffix(".zip"))


def _timed_upload(folder: Path) -> tuple[float, float]:
    """Seconds until every patch reading of the frame itself, and of one output, is
    there; one worker.
    """
    from glenhail.core.picture import Rect
    from glenhail.core.treatments.step import Step, Treatment
    from glenhail.server.accounts.actions.members import add_member
    from glenhail.server.accounts.models import Bench, Role
    from glenhail.server.material.actions.frames import add_frame
    from glenhail.server.outputs.actions import cells
    from glenhail.server.studies.actions import contenders, patches, study

    bench = Bench.objects.create(name="Bench")
    owner = add_member(bench, "owner", "secret-words", Role.OWNER)
    asked = study.create_study(owner, bench, "How fast?", "tool")
    with (folder / "frame.tif").open("rb") as file:
        frame, _ = add_frame(owner, bench, file, "frame.tif")
    study.take_frame(owner, asked, frame)
    for i, role in enumerate(("flat", "texture", "edge")):
        patches.draw_patch(owner, asked, frame, "", role, Rect(800 + 900 * i, 1000, 256, 256))
    first = _until_readings("U")
    contender = contenders.enter_contender(owner, asked, Treatment((Step("Sedgewash", "3.0"),)))
    with (folder / "output.tif").open("rb") as file:
        cells.bring_in(owner, contender, frame, file, "output.tif")
    return first, _until_readings("A")


def _until_readings(letter: str) -> float:
    """Do the queued jobs; the time at which the last patch reading of a letter was
    kept.
    """
    from glenhail.server.jobs.models import Job, State
    from glenhail.server.jobs.tasks import run_job
    from glenhail.server.measuring.models import Reading

    start, wall = time.perf_counter(), time.time()
    while (job := Job.objects.filter(state=State.QUEUED).order_by("pk").first()) is not None:
        run_job(job.pk)
    last = (
        Reading.objects.filter(output__contender__letter=letter, patch__isnull=False)
        .latest("taken")
        .taken
    )
    assert time.perf_counter() > start
    return last.timestamp() - wall


if __name__ == "__main__":
    main()
