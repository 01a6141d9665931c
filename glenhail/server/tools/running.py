"""Running a treatment on a file with the programs of this bench."""

from __future__ import annotations

import shutil
import tempfile
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.storage import storages

from glenhail.core.execution import treatment as execution
from glenhail.core.execution.fence import Fence, why_open
from glenhail.core.execution.treatment import Made, RunFailed, StepRun, Tell, Workshop
from glenhail.core.treatments import step as core
from glenhail.server.storage.files import root_of
from glenhail.server.tools.models import Release

__all__ = [
    "Made",
    "RunFailed",
    "StepRun",
    "copied",
    "fence_for",
    "frozen",
    "run_treatment",
    "working_folder",
]


def frozen(treatment: core.Treatment, releases: Sequence[Release]) -> dict[str, Any]:
    """A treatment with its commands, as it stands now: this is kept with what it makes."""
    return {
        **treatment.as_json(),
        "words": treatment.words,
        "commands": [r.command for r in releases],
    }


def run_treatment(
    treatment: core.Treatment,
    releases: Sequence[Release],
    source: Path,
    folder: Path,
    mark: str,
    tell: Tell,
) -> Made:
    """Run all steps, as `core.execution.treatment.run_treatment` does."""
    commands = [r.template for r in releases]
    workshop = Workshop(settings.TOOLS_DIR, fence_for)
    return execution.run_treatment(treatment, commands, source, folder, mark, workshop, tell)


def fence_for(run: Path, network: bool) -> Fence | None:
    """What a program is shut in by that works in a folder;

    None where the machine has no means for it, which `/healthy` tells.
    """
    if why_open():
        return None
    roots = [root for name in settings.STORAGES if (root := root_of(storages[name])) is not None]
    return Fence(
        run,
        settings.TOOLS_DIR,
        (settings.VAR, settings.HOT_DIR, settings.FILE_UPLOAD_TEMP_DIR, *roots),
        network,
    )


def copied(source: Path, folder: Path, name: str) -> Path:
    """A copy of a file for a tool to work on: it may do with it what it likes."""
    path = folder / name
    shutil.copyfile(source, path)
    return path


def working_folder() -> tempfile.TemporaryDirectory[str]:
    """A folder that goes away."""
    return tempfile.TemporaryDirectory(
        prefix="run-", dir=settings.FILE_UPLOAD_TEMP_DIR, ignore_cleanup_errors=True
    )
