"""What is measured: an output on its frame, perhaps with a truth, and how they lie on
each other.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, TypeVar, cast
from weakref import WeakKeyDictionary, ref

from glenhail.core.errors import NotMeasurable
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.grids import GridPixels, shared_part, to_frame_grid, to_truth_grid
from glenhail.core.measures.pixels import Errors, differences, errors
from glenhail.core.picture import Floats, Mapping, Picture, Rect

CODES = 255.0
MOST_LIGHT = 65_504.0  # times white
MOST_SHARED = 256  # places and names that are remembered of a frame
T = TypeVar("T")
_of_frames: WeakKeyDictionary[Picture, OrderedDict[Hashable, Any]] = WeakKeyDictionary()


@dataclass(frozen=True)
class Pair:
    """Output and truth on the truth's grid (or output and frame on the frame's),
    linear, shape (h, w, 3).

    ``rect`` is in that grid's pixels, ``scale`` how many of them go to one of the
    frame's. Both are compared in one pass.
    """

    output: Floats
    truth: Floats
    rect: Rect
    grid: str
    scale: float = 1.0

    @cached_property
    def errors(self) -> Errors:
        """Luma of both and the errors of encoded values, 8-bit codes."""
        return errors(self.output, self.truth)

    @cached_property
    def differences(self) -> Floats:
        """CIEDE2000 of every pixel."""
        return differences(self.output, self.truth)

    @property
    def lumas(self) -> tuple[Floats, Floats]:
        """Luma of output and truth, 8-bit codes."""
        return self.errors.output, self.errors.truth


def _is_light(pixels: Floats) -> bool:
    """Whether all values are finite and within what half precision holds;

    NaN makes either end one.
    """
    return bool(pixels.min() >= -MOST_LIGHT and pixels.max() <= MOST_LIGHT)


@dataclass
class Subject:
    """One output to be measured.

    Attributes
    ----------
    source : Picture
        The frame.
    output : AlignedPicture
        What is measured.
    truth : AlignedPicture, optional
        The known-good original, where there is one.
    no_truth : str
        The reason told where there is none.
    plain : sequence of Rect
        Places of the frame that are flat, lit or dark: where its noise and the output's
        are seen alone.
    second : AlignedPicture, optional
        Another exposure of the same scene, whose noise is its own.
    """

    source: Picture
    output: AlignedPicture
    truth: AlignedPicture | None = None
    no_truth: str = "no truth for this frame"
    plain: Sequence[Rect] = ()
    second: AlignedPicture | None = None
    _place: Rect | None = field(default=None, repr=False)
    _once: dict[str, Any] = field(default_factory=dict, repr=False)

    def of(self, output: AlignedPicture) -> Subject:
        """The same frame and truth with another output; nothing that was found is kept."""
        return Subject(self.source, output, self.truth, self.no_truth, self.plain, self.second)

    def once(self, name: str, rect: Rect, find: Callable[[], T]) -> T:
        """What `find` gives, kept by name for measures that share it on one place; its
        reason too, if it gives none.

        Only what belongs to the place asked for last is kept.
        """
        if self._place != rect:
            self._place, self._once = rect, {}
        if name not in self._once:
            try:
                self._once[name] = find()
            except NotMeasurable as why:
                self._once[name] = why
        found = self._once[name]
        if isinstance(found, NotMeasurable):
            raise NotMeasurable(str(found))
        return cast("T", found)

    def shared(self, name: str, rect: Rect, find: Callable[[], T]) -> T:
        """What `find` gives for a place of the frame and its truth, whatever the
        output: found once for all of them.

        Kept as long as the frame itself is held, the places asked for last.
        """
        kept = _of_frames.setdefault(self.source, OrderedDict())
        truth = (
            (ref(self.truth.picture), self.truth.mapping, self.truth.usable) if self.truth else None
        )
        key = (name, rect, truth)
        # Workers' threads may ask at once: at worst both find the same.
        found = kept[key] if key in kept else find()
        kept[key] = found
        kept.move_to_end(key)
        while len(kept) > MOST_SHARED:
            kept.popitem(last=False)
        return cast("T", found)

    def refuse_no_numbers(self, rect: Rect) -> None:
        """Refuse a place where the output or the frame has values that are no light.

        Raises
        ------
        NotMeasurable
            If any is not finite, or beyond what a picture can hold.
        """

        def find() -> bool:
            target = self.output.mapping.rect(rect).whole().clipped(self.output.picture.bounds)
            places = (
                (self.source, rect.whole().clipped(self.whole)),
                (self.output.picture, target),
            )
            return all(
                _is_light(picture.crop(place))
                for picture, place in places
                if place.w >= 1 and place.h >= 1
            )

        if not self.once("numbers", rect, find):
            raise NotMeasurable(
                "the picture has values here that are not numbers, or beyond all light"
            )

    @property
    def whole(self) -> Rect:
        """The whole frame."""
        return self.source.bounds

    def native(self, rect: Rect) -> Floats:
        """The output's own pixels under a frame rectangle: linear, whole pixels, not
        resampled.

        Raises
        ------
        NotMeasurable
            If the output does not show all of the patch.
        """
        target = self.output.mapping.rect(rect).whole()
        if not target.inside(self.output.picture.width, self.output.picture.height):
            raise NotMeasurable("the patch reaches beyond this output's edge")
        if target.clipped(self.output.usable) != target:
            raise NotMeasurable("the patch reaches into this output's border")
        return self.output.picture.crop(target)

    def pair(self, rect: Rect) -> Pair:
        """Output and truth on the truth's grid: on a smaller one a doubled pixel would
        be perfect.

        Raises
        ------
        NotMeasurable
            If the frame has no truth, or a patch is not wholly shown by both.
        """
        truth = self.truth
        if truth is None:
            raise NotMeasurable(self.no_truth)
        if truth.picture is self.output.picture:
            raise NotMeasurable("this is the truth itself")
        return self.once(
            "pair", rect, lambda: self._beside(rect, truth.straight, "the truth", to_truth_grid)
        )

    def with_frame(self, rect: Rect) -> Pair:
        """Output and the frame itself on the frame's grid; the frame stands as
        `Pair.truth`.

        Raises
        ------
        NotMeasurable
            If the output does not show all of a patch.
        """
        frame = AlignedPicture(self.source, Mapping(), self.whole)
        return self.once(
            "with frame", rect, lambda: self._beside(rect, frame, "the frame", to_frame_grid)
        )

    def frame_on_truth(self, pair: Pair) -> Floats:
        """The frame itself on the truth's grid, over a pair's place: what an output
        could not lack through its own fault.
        """
        assert self.truth is not None
        mapping = Mapping().seen_from(self.truth.straight.mapping)
        return to_truth_grid(self.source.pixels, mapping, pair.rect).pixels

    @property
    def reference(self) -> AlignedPicture:
        """What shows best what is there: the truth, or else the frame itself."""
        return self.truth or AlignedPicture(self.source, Mapping(), self.whole)

    def _beside(
        self,
        rect: Rect,
        grid: AlignedPicture,
        name: str,
        place: Callable[[Floats, Mapping, Rect], GridPixels],
    ) -> Pair:
        """Output beside a picture whose own pixels are the grid."""
        mapping = self.output.mapping.seen_from(grid.mapping)
        wanted = grid.mapping.rect(rect).whole() if rect != self.whole else grid.usable.whole()
        part = shared_part(wanted.clipped(grid.usable).whole(), mapping, self.output.usable)
        if rect != self.whole and part != wanted:
            raise NotMeasurable(f"the patch reaches beyond the edge of this output or of {name}")
        if part.w < 1 or part.h < 1:
            raise NotMeasurable(f"this output and {name} share no part of the frame")
        placed = place(self.output.picture.pixels, mapping, part)
        return Pair(
            placed.pixels,
            grid.picture.crop(part),
            part,
            placed.grid,
            (grid.mapping.sx + grid.mapping.sy) / 2,
        )
