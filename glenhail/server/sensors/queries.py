"""Reading what belongs to sensors and series."""

from __future__ import annotations

from collections.abc import Sequence

from django.db.models import Q, QuerySet

from glenhail.core.sensor.proposal import ShotTold
from glenhail.server.accounts.models import Bench
from glenhail.server.material.models import Body, Frame, FrameKind, PictureState, Scene
from glenhail.server.outputs.models import Output
from glenhail.server.sensors.models import BodyMeasured, MeteredSpot, StudySeries
from glenhail.server.studies.models import Contender, Kind, Patch, Study


def bodies_of(study: Study) -> list[str]:
    """A study's bodies by name, the one that others are held against first."""
    rows = Contender.objects.filter(study=study).exclude(body="").order_by("order", "pk")
    return list(rows.values_list("body", flat=True))


def contender_letters(study: Study) -> dict[str, str]:
    """Letters of a study's bodies."""
    rows = Contender.objects.filter(study=study).exclude(body="")
    return dict(rows.values_list("body", "letter"))


def _raw(bench: Bench) -> QuerySet[Frame]:
    """Frames that bodies recorded and this bench developed."""
    rows = Frame.objects.filter(
        bench=bench,
        picture__state=PictureState.READY,
        picture__facts__developed__isnull=False,
        recipe__isnull=True,
    )
    # A key whose value is JSON's null is there.
    return rows.exclude(picture__facts__developed=None).select_related("picture__file")


def raw_frames_of(study: Study) -> list[Frame]:
    """Raw frames of the scenes that a study's frames show."""
    scenes = study.study_frames.exclude(frame__scene=None).values("frame__scene")
    rows = _raw(study.bench).filter(scene__in=scenes, kind=FrameKind.SCENE)
    return list(rows.order_by("file_name"))


def without_scene(bench: Bench, body: str) -> list[Frame]:
    """A body's flat and dark raw frames."""
    return list(raw_of_body(bench, body).exclude(kind=FrameKind.SCENE))


def raw_of_body(bench: Bench, body: str) -> QuerySet[Frame]:
    """All raw frames that name a body."""
    return _raw(bench).filter(picture__facts__camera=body).order_by("file_name")


def described(bench: Bench, names: Sequence[str]) -> QuerySet[Body]:
    """Bodies whose sensors are described."""
    return Body.objects.filter(bench=bench, name__in=names)


def patches_of(study: Study) -> QuerySet[Patch]:
    """A study's patches with their frames."""
    return study.patches.select_related("frame__picture").order_by("order", "pk")


def shots_beside(study: Study, frame: Frame) -> list[Output]:
    """Other bodies' shots of a frame that can be looked at."""
    rows = Output.objects.filter(
        contender__study=study,
        contender__kind=Kind.BODY,
        frame=frame,
        picture__state=PictureState.READY,
    )
    return list(rows.select_related("picture", "contender"))


def cells_key(study: Study) -> list[tuple[int, str, str]]:
    """What stands in the cells of a study's bodies."""
    rows = Output.objects.filter(contender__study=study, contender__kind=Kind.BODY)
    told = rows.order_by("frame_id", "contender__body")
    return list(told.values_list("frame_id", "contender__body", "picture__file_id"))


def scenes_with_raw(bench: Bench) -> list[tuple[Scene, list[ShotTold]]]:
    """Scenes that raw files show, with what these say."""
    by: dict[int, tuple[Scene, list[ShotTold]]] = {}
    rows = _raw(bench).filter(scene__isnull=False, kind=FrameKind.SCENE)
    for frame in rows.select_related("scene").order_by("scene__name", "file_name"):
        assert frame.scene is not None
        by.setdefault(frame.scene.pk, (frame.scene, []))[1].append(shot_told(frame))
    return list(by.values())


def shot_told(frame: Frame) -> ShotTold:
    """What a frame's file says, as the core proposes by it."""
    facts = frame.picture.facts
    return ShotTold(
        frame.pk,
        frame.file_name,
        str(facts.get("camera") or ""),
        float(facts.get("iso") or 0),
        float(facts.get("shutter_s") or 0),
        float(facts.get("aperture") or 0),
    )


def waiting_in(study: Study) -> bool:
    """Whether a file of a study's scenes, or of its cells, is still being taken in."""
    scenes = study.study_frames.exclude(frame__scene=None).values("frame__scene")
    frames = Frame.objects.filter(
        bench=study.bench, scene__in=scenes, picture__state=PictureState.WAITING
    )
    cells = Output.objects.filter(
        contender__study=study,
        contender__kind=Kind.BODY,
        picture__state=PictureState.WAITING,
    )
    return frames.exists() or cells.exists()


def studies_showing(picture_id: int) -> list[Study]:
    """Studies of bodies that a settled picture may matter to."""
    mine = Q(frames__picture=picture_id)
    scenes = Scene.objects.filter(mine).values("pk")
    rows = Study.objects.filter(
        Q(study_frames__frame__scene__in=scenes)
        | Q(contenders__outputs__picture=picture_id, contenders__kind=Kind.BODY)
    )
    return list(rows.filter(contenders__kind=Kind.BODY).select_related("bench").distinct())


def series_of(study: Study) -> StudySeries | None:
    """What was read of a study's bodies."""
    return StudySeries.objects.filter(study=study).first()


def measured_of(body: Body) -> BodyMeasured | None:
    """What was read of a body."""
    return BodyMeasured.objects.filter(body=body).first()


def metered_of(study: Study) -> MeteredSpot | None:
    """What a meter told of one of a study's spots."""
    return MeteredSpot.objects.filter(study=study).first()
