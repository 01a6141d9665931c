"""What a target in a frame says of lens and sensor together."""

from __future__ import annotations

from typing import Any

from glenhail.core.targets.sharpness import aliasing_told, line_pairs
from glenhail.server.material.models import Frame
from glenhail.server.material.queries import body_named

UNIT = "cycles/px"
EDGE = "MTF"


def system_of(frame: Frame) -> dict[str, Any] | None:
    """Its sharpness in line pairs; None where no target was found, or none of it could
    be read.
    """
    finding = getattr(frame, "finding", None)
    if finding is None:
        return None
    facts = frame.picture.facts
    body = body_named(frame.bench, str(facts.get("camera") or ""))
    height = min(frame.picture.width, frame.picture.height)
    sharpness = []
    for reading in finding.readings:
        if reading["unit"] == UNIT and reading["value"] is not None:
            pairs = line_pairs(reading["value"], height, body.sensor if body else None)
            sharpness.append({"name": reading["name"], **vars(pairs)})
    if not sharpness:
        return None
    edges = [c for c in finding.curves if c["name"].startswith(EDGE) and c["x_unit"] == UNIT]
    aliasing = aliasing_told(edges[0]["x"], edges[0]["y"]) if edges else ""
    return {"lens": facts.get("lens") or "", "sharpness": sharpness, "aliasing": aliasing}
