"""What a reviewer says of a spot: the words of remarks, and of why one output was
chosen over another. Common practice, no source.
"""

from __future__ import annotations

from enum import StrEnum


class RemarkKind(StrEnum):
    """What is seen at a spot; ``words`` of one's own say more."""

    SMEARED = "smeared"
    PLASTIC = "plastic"
    BLOTCHY = "blotchy"
    HALO = "halo"
    STREAK = "streak"
    FRINGE = "fringe"
    FALSE_DETAIL = "false detail"
    NOISE_LEFT = "noise left"
    COLOUR_SHIFT = "colour shift"
    BETTER = "better"
    WORSE = "worse"
    OWN_WORDS = "own words"
