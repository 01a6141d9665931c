"""Pictures that were made of one another lie pixel upon pixel: a test that is about
something else need not find that out, which takes most of its time.
"""

from __future__ import annotations

import unittest
from typing import Any
from unittest import mock

from glenhail.core.lineup.register import LineUp, identical
from glenhail.core.picture import Picture

USED_BY = ("glenhail.core.level.way", "glenhail.core.level.grid")


def laid_as_they_are(test: unittest.TestCase) -> None:
    """All line-ups of a test are those of a picture on itself."""
    for module in USED_BY:
        test.enterContext(mock.patch(f"{module}.lined_up", _as_it_is))


def _as_it_is(source: Picture, output: Picture, *points: Any) -> LineUp:
    assert source.pixels.shape == output.pixels.shape
    return identical(source)
