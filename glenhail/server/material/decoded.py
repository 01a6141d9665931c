"""Decoded pictures, kept by each worker while there is room: several jobs in a row need
the same frame.
"""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock

import psutil

from glenhail.core.files.apart import read_picture
from glenhail.core.picture import Picture as Pixels
from glenhail.server.material.models import Picture
from glenhail.server.storage.files import original

# A worker keeps a study of eight contenders of 24 MP where there is memory for it.
MOST_BYTES = min(3_000_000_000, psutil.virtual_memory().total // 8)

_kept: OrderedDict[str, Pixels] = OrderedDict()
_lock = Lock()


def decoded(picture: Picture) -> Pixels:
    """A picture at full depth.

    Raises
    ------
    BadFile
        If it can not be taken in.
    """
    key = picture.file_id
    with _lock:
        if key in _kept:
            _kept.move_to_end(key)
            return _kept[key]
    with original(picture.file) as path:
        pixels = read_picture(path, picture.name)
    with _lock:
        _kept[key] = pixels
        while len(_kept) > 1 and sum(p.pixels.nbytes for p in _kept.values()) > MOST_BYTES:
            _kept.popitem(last=False)
    return pixels
