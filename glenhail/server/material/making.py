"""The longer makings: frames by a recipe, truths from other frames, painted targets."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict, replace
from functools import partial
from pathlib import Path
from typing import Any

from django.conf import settings

from glenhail.core.degrade.recipe import Recipe, recipe_of
from glenhail.core.degrade.recipe import degrade as do_recipe
from glenhail.core.files.encoding import write_tiff
from glenhail.core.picture import Facts
from glenhail.core.targets.layout import paint, sheet_of
from glenhail.core.truth.burst import Burst, burst_mean
from glenhail.core.truth.twin import Twin, twin_of
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.actions.degrading import keep_made
from glenhail.server.material.actions.targets import keep_painted
from glenhail.server.material.actions.truths import keep_truth
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame, Target

RELATED = ("bench", "picture__file", "truth__file")


@contextmanager
def _made_file() -> Iterator[Path]:
    with tempfile.TemporaryDirectory(dir=settings.FILE_UPLOAD_TEMP_DIR) as folder:
        yield Path(folder) / "made.tif"


@does("degrade")
def degrade(progress: Progress, arguments: dict[str, Any]) -> None:
    """Make a frame from a clean one by a recipe, and take it in."""
    clean = Frame.objects.select_related(*RELATED).get(pk=arguments["frame"])
    recipe = recipe_of(arguments["recipe"])
    progress.tell(0.05, "decoding the clean frame")
    source = decoded(clean.pristine)
    progress.tell(0.3, recipe.words())
    made = do_recipe(source.pixels, recipe)
    progress.tell(0.8, "writing")
    with _made_file() as path:
        write_tiff(path, made, _facts_of_made(source.facts, recipe))
        keep_made(clean.bench, clean, recipe, arguments["name"], path)


def _facts_of_made(facts: Facts, recipe: Recipe) -> Facts:
    """The clean frame's own, with the ISO that its noise now has."""
    iso = next(
        (float(s.named["iso"]) for s in recipe.steps if s.kind.id == "sensor_noise"), facts.iso
    )
    return replace(facts, iso=iso, software="Glenhail")


@does("twin")
def twin(progress: Progress, arguments: dict[str, Any]) -> None:
    """Make a base-ISO frame the truth of another."""
    frame, base = (
        Frame.objects.select_related(*RELATED).get(pk=arguments[k]) for k in ("frame", "base")
    )
    progress.tell(0.05, "decoding both frames")
    shot, clean = decoded(frame.picture), replace(decoded(base.picture))
    clean = replace(clean, facts=replace(clean.facts, name=base.file_name))
    progress.tell(0.3, "lining up, matching exposure, looking for what moved")
    made = twin_of(shot, clean)
    progress.tell(0.8, "writing")
    with _made_file() as path:
        write_tiff(path, made.truth, replace(clean.facts, software="Glenhail"))
        keep_truth([frame], path, _told_of_twin(made, base), arguments["actor"])


def _told_of_twin(made: Twin, base: Frame) -> dict[str, Any]:
    numbers = asdict(made) | {"truth": None}
    words = (
        f"{base.name}, lined up to {made.residual:.2f} px (shift {made.mapping.dx:.2f},"
        f" {made.mapping.dy:.2f} px), {made.exposure:+.2f} EV taken off; {100 * made.moved:.2f} %"
        " differs by more than noise"
    )
    return {
        "kind": "twin",
        "words": words,
        "from": [base.name],
        "numbers": {k: v for k, v in numbers.items() if v is not None},
    }


@does("burst")
def burst(progress: Progress, arguments: dict[str, Any]) -> None:
    """Make the mean of some frames the truth of each."""
    frames = list(
        Frame.objects.select_related(*RELATED).filter(pk__in=arguments["frames"]).order_by("pk")
    )
    count = len(arguments["frames"])
    loads = [partial(decoded, frame.picture) for frame in frames]
    made = burst_mean(
        loads,
        lambda done: progress.tell(
            0.7 * done / count, f"{done} of {count} frames read and compared"
        ),
    )
    progress.tell(0.85, "writing")
    with _made_file() as path:
        facts = decoded(frames[0].picture).facts
        write_tiff(path, made.mean, replace(facts, software="Glenhail"))
        keep_truth(frames, path, _told_of_burst(made, frames), arguments["actor"])


def _told_of_burst(made: Burst, frames: list[Frame]) -> dict[str, Any]:
    words = (
        f"mean of {len(frames)} frames, {100 * made.rejected:.2f} % of the values left out as"
        f" outliers; temporal noise of one frame {made.temporal:.2f} levels, {made.left:.2f} left"
        f" in the mean; fixed pattern {made.fixed:.2f} levels"
    )
    numbers = {
        "noises": made.noises,
        "rejected": made.rejected,
        "left": made.left,
        "fixed": made.fixed,
    }
    return {"kind": "burst", "words": words, "from": [f.name for f in frames], "numbers": numbers}


@does("paint target")
def paint_target(progress: Progress, arguments: dict[str, Any]) -> None:
    """Paint a sheet and take it in as a frame."""
    target = Target.objects.select_related("bench").get(pk=arguments["target"])
    sheet = sheet_of(target.sheet)
    progress.tell(0.1, f"painting {sheet.width} × {sheet.height} px")
    with _made_file() as path:
        write_tiff(path, paint(sheet))
        progress.tell(0.8, "taking it in")
        keep_painted(target, sheet, path)
