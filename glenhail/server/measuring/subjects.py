"""An output with its frame and truth as the core measures them, read from the rows."""

from __future__ import annotations

from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.catalogue import NOISE as PLAIN
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Mapping
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame, Picture, PictureState
from glenhail.server.measuring.lining import Points, find_line_up, laid_of, points_of
from glenhail.server.measuring.models import LineUp
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Patch


def subject_of(output: Output, row: LineUp) -> Subject:
    assert output.picture is not None
    source, truth = output.frame.picture, output.frame.truth
    subject = Subject(
        decoded(source),
        laid_of(decoded(output.picture), row),
        plain=[p.rect for p in flat_patches(output)],
    )
    second = second_of_burst(output)
    if second is not None:
        other = decoded(second)
        subject.second = AlignedPicture(other, Mapping(), other.bounds)
    if truth is None:
        return subject
    if truth.state != PictureState.READY:
        subject.no_truth = (
            f"the truth was not taken in: {truth.problem}"
            if truth.problem
            else "the truth is still being taken in"
        )
        return subject
    truth_row = find_line_up(source, truth, hand_points(output, truth))
    if truth_row.refused:
        subject.no_truth = "the truth does not line up with the frame"
    else:
        subject.truth = laid_of(decoded(truth), truth_row)
    return subject


def truth_of(frame: Frame) -> AlignedPicture | None:
    """A frame's truth as it lies on it, where there is one that does."""
    if frame.truth is None or frame.truth.state != PictureState.READY:
        return None
    row = find_line_up(
        frame.picture, frame.truth, points_of(frame.bench_id, frame.picture, frame.truth)
    )
    return None if row.refused else laid_of(decoded(frame.truth), row)


def flat_patches(output: Output) -> list[Patch]:
    """Flat patches of an output's frame, lit or dark: where its noise is seen alone."""
    return list(output.contender.study.patches.filter(frame=output.frame, role__in=PLAIN))


def second_of_burst(output: Output) -> Picture | None:
    """Another frame of the same burst, whose noise is its own;

    None where the frame is of none.
    """
    frame = output.frame
    if (frame.truth_made or {}).get("kind") != "burst":
        return None
    of_burst = Frame.objects.select_related("picture__file").filter(
        bench=frame.bench_id, truth=frame.truth_id
    )
    own = frame.picture
    others = of_burst.filter(
        picture__state=PictureState.READY, picture__width=own.width, picture__height=own.height
    )
    other = others.exclude(pk=frame.pk).order_by("pk").first()
    return other.picture if other is not None else None


def hand_points(output: Output, picture: Picture) -> Points:
    """What was placed by hand at the output's bench for its frame and a picture."""
    return points_of(output.contender.study.bench_id, output.frame.picture, picture)
