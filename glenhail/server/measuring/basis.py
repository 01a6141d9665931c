"""The second set of readings of a study: outputs with exposure or tone matched, or
brought to one size.
"""

from __future__ import annotations

from dataclasses import dataclass

from glenhail.core.audit.examine import examination_of
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Picture as Pixels
from glenhail.core.picture import Rect
from glenhail.core.tone.curve import ToneCurve
from glenhail.core.tone.matching import Match, Size, at_scale, matched, patch_stops
from glenhail.server.measuring import queries as measuring_queries
from glenhail.server.measuring.models import Examined
from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Kind, Study


@dataclass(frozen=True)
class Basis:
    """What is done to an output before it is measured.

    ``scale`` is output pixels for each of the frame's, None as it is; ``asked`` what
    the study asks for, ``words`` what is done: an exposure that can not be told is not
    taken off, and that is said.
    """

    match: Match
    stops: float | None
    curve: ToneCurve | None
    scale: float | None
    asked: str
    words: str

    @property
    def key(self) -> str:
        """All that readings taken on it depend on."""
        curve = (self.curve.source, self.curve.output) if self.curve else None
        return f"{self.match}:{self.stops}:{curve}:{self.scale}"

    def prepared(self, laid: AlignedPicture) -> AlignedPicture:
        """The output brought to it, as far as that is the same everywhere."""
        laid = matched(laid, self.stops, self.curve)
        return laid if self.scale is None else at_scale(laid, self.scale)

    def for_patch(self, frame: Pixels, subject: Subject, rect: Rect) -> Subject:
        """The subject for one patch: its own exposure where that is asked for."""
        if self.match != Match.PATCH:
            return subject
        stops = patch_stops(frame, subject.output, rect)
        return subject.of(matched(subject.output, stops, None))


def basis_of(output: Output, examined: Examined | None) -> Basis | None:
    """How a study wants its second set of an output;

    None where it wants none, or what it needs is not known yet.
    """
    study: Study = output.contender.study
    match, size = Match(study.match), Size(study.size)
    if (match == Match.NONE and size == Size.NATIVE) or output.contender.kind == Kind.TRUTH:
        return None
    stops, curve = _tone(match, examined, output)
    reference = output.contender.kind == Kind.UNPROCESSED
    short = (
        match != Match.NONE and not reference and (curve if match == Match.TONE else stops) is None
    )
    words = f"{study.matched}, as far as its tone can be told" if short else study.matched
    return Basis(match, stops, curve, common_scale(output, size), study.matched, words)


def _tone(
    match: Match, examined: Examined | None, output: Output
) -> tuple[float | None, ToneCurve | None]:
    # The unprocessed frame is what the others are matched to.
    if examined is None or output.contender.kind == Kind.UNPROCESSED:
        return None, None
    found = examination_of(examined.told)
    tone = found.curves.get("tone")
    if match == Match.TONE and tone:
        return None, ToneCurve(tone["frame"], tone["output"], 0.0)
    exposure = found.values.get("exposure")
    return (exposure.value if exposure and match != Match.NONE else None), None


def common_scale(output: Output, size: Size) -> float | None:
    """Pixels for each of the frame's that all of a frame's outputs are brought to."""
    if size == Size.NATIVE:
        return None
    rows = Output.objects.filter(
        contender__study=output.contender.study, frame=output.frame
    ).select_related("frame", "contender__study")
    lineups = measuring_queries.lineups([o for o in rows if o.contender.kind != Kind.TRUTH])
    scales = [1.0, *(row.sx for row in lineups.values() if not row.refused)]
    return min(scales) if size == Size.SMALLEST else max(scales)
