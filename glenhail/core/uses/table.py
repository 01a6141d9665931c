"""The uses there are: size, resampling, compression, and how they are looked at.

The numbers are common practice, no source: what posts, pages and printers ask for.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

CM_PER_INCH = 2.54


@dataclass(frozen=True)
class Use:
    """A place where a picture is seen.

    ``width`` and ``height`` are the box that it is made to fit, px; ``enlarge`` whether
    it is made to fill it where it has fewer pixels. ``jpeg`` is the quality, 1 to 100,
    or None without compression; ``ppi`` what it is shown or printed at, ``distance_cm``
    from where it is looked at, ``part`` the share of the picture's sides that is shown.
    ``video_mbit`` is the rate of a video, Mbit/s, of which it is the middle frame
    (core.uses.video); None where it is no video.
    """

    id: str
    name: str
    width: int
    height: int
    enlarge: bool
    jpeg: int | None
    ppi: float
    distance_cm: float
    part: float = 1.0
    resampling: str = "lanczos"
    video_mbit: float | None = None

    @property
    def pixels_per_degree(self) -> float:
        """How many of its pixels a degree of the view holds."""
        return 2 * self.distance_cm * math.tan(math.radians(0.5)) * self.ppi / CM_PER_INCH

    def life_size(self, screen_ppi: float) -> float:
        """Screen pixels for each of its pixels, for it to be as large as in use.

        Parameters
        ----------
        screen_ppi : float
            Of the screen on which it is shown instead.
        """
        return screen_ppi / self.ppi


def print_of(width_cm: float, height_cm: float, ppi: float, distance_cm: float) -> Use:
    """A print of a size.

    Parameters
    ----------
    width_cm, height_cm : float
        Of the paper.
    ppi : float
        That the printer is fed with.
    distance_cm : float
        From which it is looked at.
    """
    width, height = (round(side / CM_PER_INCH * ppi) for side in (width_cm, height_cm))
    size = f"{width_cm:g} × {height_cm:g} cm"
    name = f"print of {size} at {ppi:g} ppi, seen from {distance_cm:g} cm"
    key = f"print-{width_cm:g}x{height_cm:g}-{ppi:g}"
    return Use(key, name, width, height, True, None, ppi, distance_cm)


def video_at(mbit: float) -> Use:
    """Video at 1080p, 30 frames a second.

    Parameters
    ----------
    mbit : float
        Its rate, Mbit/s.
    """
    name = f"video at {mbit:g} Mbit/s, 1080p, 30/s, H.264, 4:2:0"
    return Use(f"video-{mbit:g}", name, 1920, 1080, True, None, 92, 60, video_mbit=mbit)


USES = {
    use.id: use
    for use in (
        Use("post", "post, 1080 px, JPEG 80", 1080, 1350, False, 80, 460, 30),
        Use("web", "web picture, 2048 px, JPEG 85", 2048, 2048, False, 85, 110, 60),
        Use("screen", "4K screen", 3840, 2160, False, None, 163, 60),
        print_of(30, 20, 300, 40),
        print_of(60, 40, 240, 80),
        Use("fifth", "crop to a fifth, 2048 px, JPEG 85", 2048, 2048, True, 85, 110, 60, 0.2),
        *(video_at(mbit) for mbit in (8, 16, 40)),
    )
}
