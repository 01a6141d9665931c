"""The job that treats a contender's outputs with one step more."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User

from glenhail.core.files.encoding import write_tiff
from glenhail.core.methods.treat import treat
from glenhail.server.inquiries.answering.pictures import cells_of_frames
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.material.actions.pictures import clean_name
from glenhail.server.material.decoded import decoded
from glenhail.server.outputs.actions.cells import bring_in
from glenhail.server.outputs.actions.runs import releases_of
from glenhail.server.outputs.actions.treated import JOB, MadeFrom, made_from
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Contender
from glenhail.server.tools.running import frozen, working_folder


@does(JOB)
def treat_outputs(progress: Progress, arguments: dict[str, Any]) -> None:
    """Make a contender's outputs from another's, by its last step; cells that are
    filled already stay as they are, unless they were made of an output that is another
    by now.
    """
    found = Contender.objects.select_related("study__bench", "treatment").in_bulk(
        [arguments["made"], arguments["one"]]
    )
    actor = User.objects.filter(pk=arguments["actor"]).first()
    made, one = found.get(arguments["made"]), found.get(arguments["one"])
    if made is None or one is None or actor is None:
        return
    filled = {o.frame_id: made_from(o) for o in Output.objects.filter(contender=made)}
    outputs = [
        o
        for of in cells_of_frames(made.study).values()
        for o in of
        if o.contender_id == one.pk and _wanted(o, filled)
    ]
    for done, output in enumerate(outputs):
        progress.tell(done / len(outputs), f"treating {output.frame.name}")
        _treat(actor, made, output, arguments["word"])


def _wanted(output: Output, filled: Mapping[int, MadeFrom | None]) -> bool:
    if output.frame_id not in filled:
        return True
    told = filled[output.frame_id]
    return told is not None and told.picture != output.picture_id


def _treat(actor: User, made: Contender, output: Output, word: str) -> None:
    assert made.treatment is not None and output.picture is not None
    step = made.treatment.told.steps[-1]
    given = decoded(output.picture)
    values = {s.name: s.value for s in step.settings}
    treated = treat(given.pixels, step.method, values)
    # Only what was made here from its first step on is told to be made so.
    made_with = frozen(made.treatment.told, releases_of(made)) if output.made_with else None
    told = MadeFrom(output.contender_id, output.picture.pk, word)
    name = clean_name(f"{Path(output.file_name).stem}-{word}.tif")
    with working_folder() as room:
        path = Path(room) / "treated.tif"
        write_tiff(path, treated, given.facts)
        with path.open("rb") as stream:
            bring_in(actor, made, output.frame, stream, name, made_with, told.kept())
