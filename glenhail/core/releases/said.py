"""What changed from one release to the next, in words."""

from __future__ import annotations

from collections.abc import Sequence

from glenhail.core.execution.timing import Spread
from glenhail.core.releases.changes import PictureChange

UNSEEN = 0.5  # 8-bit levels, root mean square: rounding to whole levels makes 0.29 on its own
ENOUGH = 3  # runs of each, fewer of which have no range to speak of
ENOUGH = 3  # runs of each; fewer have no range to speak of
FAR = 1.1  # times as long, where the ranges do not overlap; common practice, no source


def changes_said(frames: Sequence[tuple[str, PictureChange]], names: tuple[str, str]) -> str:
    """Pictures, in a sentence or two.

    Parameters
    ----------
    frames : sequence of (str, PictureChange)
        Each frame's name and what changed on it.
    names : (str, str)
        The earlier and the later one.
    """
    earlier, later = names
    if not frames:
        return f"No frame has an output of {earlier} and one of {later}."
    equal = [name for name, change in frames if change.same]
    of = f"all {len(frames)} frames" if len(frames) > 1 else "the one frame"
    if len(equal) == len(frames):
        return f"{later} is {earlier} to the pixel on {of}."
    parts = []
    if equal:
        parts.append(f"{later} is {earlier} to the pixel on {len(equal)} of {len(frames)} frames.")
    name, most = max(frames, key=lambda frame: frame[1].rms)
    if most.rms < UNSEEN:
        parts.append(
            f"{'Elsewhere' if equal else 'Everywhere'} they differ by less than half a level of"
            " 255: by rounding, at most."
        )
    else:
        where = f"Most changed {name}" if len(frames) > 1 else f"On {name}, what changed is"
        comma = "," if len(frames) > 1 else ""
        parts.append(
            f"{where}{comma} {most.rms:.1f} levels of 255 (root mean square), with"
            f" {_share(most.changed)} of its pixels."
        )
    moved = [name for name, change in frames if change.moved]
    if moved:
        parts.append(f"{later} lies otherwise than {earlier} on {', '.join(moved)}.")
    sized = [f"{n} ({_by(c.sizes[1])} after {_by(c.sizes[0])})" for n, c in frames if c.sizes]
    if sized:
        parts.append(f"{later} is of another size on {', '.join(sized)}.")
    return " ".join(parts)


def speed_said(
    earlier: Spread | None, later: Spread | None, runs: int, names: tuple[str, str]
) -> str:
    """Seconds for each megapixel of both; slower or faster only where the ranges of
    their runs do not overlap, and there are enough of them.

    Parameters
    ----------
    earlier, later : Spread or None
        Seconds a megapixel; None where it was not timed.
    runs : int
        Of the one that was timed less often.
    names : (str, str)
        The earlier and the later one.
    """
    if earlier is None or later is None:
        return ""
    times = later.value / earlier.value if earlier.value > 0 else 1.0
    told = f"{later.value:.3g} s a megapixel against {earlier.value:.3g} s"
    if runs < ENOUGH:
        return f"{names[1]} took {told}, in too few runs to tell them apart by."
    if later.low > earlier.high and times > FAR:
        return f"{names[1]} takes {times:.1f} times as long as {names[0]}: {told}."
    if later.high < earlier.low and times < 1 / FAR:
        return f"{names[1]} is {1 / times:.1f} times as fast as {names[0]}: {told}."
    return f"{names[1]} is as fast as {names[0]}, as far as their runs tell: {told}."


def _share(share: float) -> str:
    return "under 1 %" if share < 0.01 else f"{100 * share:.0f} %"


def _by(size: tuple[int, int]) -> str:
    return f"{size[0]} × {size[1]} px"
