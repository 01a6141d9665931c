"""What is worked out of the same pictures in test after test is worked out once a run:
line-ups, examinations, readings and posters, each known by all that it depends on.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from typing import Any
from weakref import WeakKeyDictionary

import numpy as np
from django.db.models import Model

from glenhail.core.files.encoding import png_bytes
from glenhail.core.lineup import aligned
from glenhail.core.lineup.aligned import AlignedPicture
from glenhail.core.lineup.register import line_up
from glenhail.core.measures.catalogue import take
from glenhail.core.measures.subject import Subject
from glenhail.core.picture import Picture
from glenhail.server.measuring import jobs, lining
from glenhail.server.publishing import press

_digests: WeakKeyDictionary[Picture, str] = WeakKeyDictionary()


def remember() -> None:
    """From now on; what fails is tried again."""
    aligned.line_up = _once(line_up)  # type: ignore[attr-defined]
    lining._found = _once(lining._found)  # type: ignore[assignment]
    examine = lining.examine.examine
    lining.examine.examine = _once(examine)
    jobs.take = _once(take)  # type: ignore[attr-defined]
    # Most editions of a run show the same crops: 4K posters of them are packed once.
    press.png_bytes = _once(png_bytes)  # type: ignore[attr-defined]


def _once(find: Callable[..., Any]) -> Callable[..., Any]:
    known: dict[Any, Any] = {}

    def found(*arguments: Any, **named: Any) -> Any:
        key = _plain(arguments), repr(named)
        if key not in known:
            known[key] = find(*arguments, **named)
        return known[key]

    return found


def _plain(value: Any) -> Any:
    """A value as something that can be compared: rows by their file, pictures by their
    pixels, the rest as it prints.
    """
    if isinstance(value, Model):
        return value.file_id  # type: ignore[attr-defined]
    if isinstance(value, Picture):
        if value not in _digests:
            digest = hashlib.blake2b(value.pixels.tobytes(), digest_size=16).hexdigest()
            _digests[value] = f"{digest} {value.facts}"
        return _digests[value]
    if isinstance(value, np.ndarray):
        return value.shape, value.dtype.str, hashlib.blake2b(np.ascontiguousarray(value)).digest()
    if isinstance(value, AlignedPicture):
        return _plain(value.picture), repr((value.mapping, value.usable, value.white))
    if isinstance(value, Subject):
        parts = (value.source, value.output, value.truth, value.second)
        return tuple(map(_plain, parts)), value.no_truth, repr(value.plain)
    if isinstance(value, tuple):
        return tuple(map(_plain, value))
    return repr(value)
