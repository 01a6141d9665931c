"""How browsers get the files of the site, from here as from any other server: of what
kind they are, and how long they may be kept.
"""

from __future__ import annotations

import mimetypes
import posixpath

FOR_EVER = "public, max-age=31536000, immutable"
# A page never changes, but may be withdrawn: whoever has it asks whether it still stands.
ASKED_AGAIN = "public, no-cache"
# Folders of an edition whose files are pictures and the like, not pages.
PARTS = ("crops/", "small/", "around/", "posters/", "clips/", "layers/")
# Not every machine's own table has them, or tells how they are written.
KINDS = {
    ".css": "text/css; charset=utf-8",
    ".csv": "text/csv; charset=utf-8",
    ".html": "text/html; charset=utf-8",
    ".mp4": "video/mp4",
    ".ora": "image/openraster",
    ".toml": "text/plain; charset=utf-8",
    ".webp": "image/webp",
    ".woff2": "font/woff2",
    ".xml": "application/xml; charset=utf-8",
}
# Somebody else's bytes: they are saved, never shown as a page of this site.
SAVED = "application/octet-stream"


def media_type(name: str) -> str:
    """What a file is, by the end of its name."""
    return KINDS.get(posixpath.splitext(name)[1]) or mimetypes.guess_type(name)[0] or SAVED


def caching(name: str) -> str:
    """How long a file of an edition may be kept; `name` is that within its folder."""
    return FOR_EVER if name.startswith(PARTS) else ASKED_AGAIN
