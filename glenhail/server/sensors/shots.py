"""Which raw files belong to a body and to a study of bodies, and where the study's
patches lie on each body's mosaic.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Sequence
from contextlib import ExitStack
from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path
from typing import Any

from glenhail.core.errors import BadFile
from glenhail.core.files.coded import DecoderFailed, Unreadable
from glenhail.core.files.raw import Mosaic, read_mosaic
from glenhail.core.picture import Facts, Rect
from glenhail.core.sensor.comparison import VERSION, BodyShots
from glenhail.core.sensor.frames import SensorFrame, pairs_of
from glenhail.core.sensor.spot_places import share_of
from glenhail.server.material.models import Body, Frame, FrameKind
from glenhail.server.measuring.lining import find_line_up, points_of
from glenhail.server.outputs.actions.bodies import camera_of
from glenhail.server.sensors import queries
from glenhail.server.storage.files import original
from glenhail.server.studies.models import Patch, Study

MOST_SPOTS = 12
PLAIN = ("flat", "shadow")


@dataclass(frozen=True)
class Spot:
    """A patch of a study, once for all its frames."""

    name: str
    role: str
    patch: Patch


@dataclass(frozen=True)
class StudyShots:
    """A study's bodies by name, their frames of its scenes and others without scene,
    and its spots; ``key`` names all that follows from them.
    """

    bodies: tuple[str, ...]
    scene: dict[str, list[Frame]]
    others: dict[str, list[Frame]]
    spots: tuple[Spot, ...]
    key: str

    def count(self) -> int:
        """How many files there are."""
        return sum(len(of) for by in (self.scene, self.others) for of in by.values())


def shots_of(study: Study) -> StudyShots:
    """What a study of bodies has at hand; bodies without a raw file of its scenes are
    left out.
    """
    frames = queries.raw_frames_of(study)
    names = [n for n in queries.bodies_of(study) if any(camera_of(f) == n for f in frames)]
    spots = _spots(study)
    scene = {n: [f for f in frames if camera_of(f) == n] for n in names}
    others = {n: queries.without_scene(study.bench, n) for n in names}
    sizes = {b.name: (b.width_mm, b.height_mm, b.width, b.height) for b in _sizes(study, names)}
    told = (
        VERSION,
        [(n, _files(scene[n]), _files(others[n]), sizes.get(n)) for n in names],
        [(s.name, s.role, s.patch.frame_id, *s.patch.drawn[2:]) for s in spots],
        queries.cells_key(study),
    )
    key = hashlib.sha256(repr(told).encode()).hexdigest()
    return StudyShots(tuple(names), scene, others, spots, key)


def _files(frames: Sequence[Frame]) -> list[tuple[str, str]]:
    return sorted((f.picture.file_id, f.kind) for f in frames)


def _spots(study: Study) -> tuple[Spot, ...]:
    """Of patches drawn at the same place of several frames the first one."""
    found: dict[tuple[Any, ...], Spot] = {}
    for patch in queries.patches_of(study):
        place = (patch.role, *(round(float(v)) for v in (patch.x, patch.y, patch.w, patch.h)))
        found.setdefault(place, Spot(patch.name or patch.role, patch.role, patch))
    return tuple(found.values())[:MOST_SPOTS]


def _sizes(study: Study, names: Sequence[str]) -> list[Body]:
    return list(queries.described(study.bench, names))


Heard = Callable[[], None]


def bodies_shot(
    study: Study, shots: StudyShots, opened: ExitStack, heard: Heard
) -> list[BodyShots]:
    """As the core compares them; files stay open until `opened` is closed, and `heard`
    is called before each of them is read.

    Raises
    ------
    BadRequest, BadFile
        If a file can not be used.
    """
    sizes = {b.name: b.sensor for b in _sizes(study, shots.bodies)}
    places = [_places(study, spot.patch) for spot in shots.spots]
    plain = [i for i, spot in enumerate(shots.spots) if spot.role in PLAIN]
    made = []
    for name in shots.bodies:
        scene, _ = pairs_of([sensor_frame(f, opened, heard) for f in shots.scene[name]])
        others, _ = pairs_of([sensor_frame(f, opened, heard) for f in shots.others[name]])
        spots = [place.get(name) for place in places]
        made.append(BodyShots(name, scene, others, spots, sizes.get(name), plain))
    return made


def sensor_frame(frame: Frame, opened: ExitStack, heard: Heard) -> SensorFrame:
    """A raw file as the core reads it, by the name that the bench knows it by."""
    path = opened.enter_context(original(frame.picture.file))
    told = {k: v for k, v in frame.picture.facts.items() if k in Facts.__dataclass_fields__}
    facts = Facts(**told)
    # Flat and dark ones stand apart from each other, and from a scene of the same exposure.
    if frame.kind != FrameKind.SCENE:
        facts = replace(facts, aperture=None)
    if frame.kind == FrameKind.DARK:
        facts = replace(facts, shutter_s=None)
    return SensorFrame(Path(frame.file_name), facts, partial(_mosaic, path, frame.file_name, heard))


def _mosaic(path: Path, name: str, heard: Heard) -> Mosaic:
    heard()
    try:
        return read_mosaic(path)
    except (Unreadable, DecoderFailed) as error:
        raise BadFile(name, str(error), "Give the raw file as the body wrote it.") from error


def _places(study: Study, patch: Patch) -> dict[str, Rect]:
    """Where a patch lies on each body's mosaic, in shares of it."""
    frame = patch.frame
    found = {camera_of(frame): _share(frame, patch.rect)}
    for output in queries.shots_beside(study, frame):
        picture = output.picture
        assert picture is not None
        row = find_line_up(
            frame.picture, picture, points_of(study.bench_id, frame.picture, picture)
        )
        if not row.refused:
            place = row.mapping.rect(patch.rect)
            found[output.contender.body] = share_of(
                place, picture.width, picture.height, picture.facts.get("orientation") or 1
            )
    return {name: place for name, place in found.items() if place is not None}


def _share(frame: Frame, rect: Rect) -> Rect | None:
    p = frame.picture
    return share_of(rect, p.width, p.height, p.facts.get("orientation") or 1)
