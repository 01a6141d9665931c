"""A figure as a page of its own that any site may carry: its crops within it, no
script, and no request to anywhere.
"""

from __future__ import annotations

import base64
from pathlib import Path

from django.template.loader import render_to_string

from glenhail.server.publishing.document import Document

# What stands around the crop in it, CSS px.
BESIDE, BELOW = 24, 128
LEAST = 320  # CSS px across


def write_embed(figure: Document, stem: str, document: Document, folder: Path) -> Document:
    """Write a figure's page; tells its file and the size of the frame that it needs."""
    titles = {c["letter"]: c for c in document["contenders"]}
    crops = [
        {
            **crop,
            "contender": titles[crop["letter"]],
            "data": _data(folder / crop.get("marked", crop["file"])),
        }
        for crop in figure["crops"]
    ]
    _, _, w, h = figure["rect"]
    times = figure["magnification"]
    name = f"embeds/{stem}.html"
    told = {"p": figure, "d": document, "crops": crops}
    (folder / name).write_text(render_to_string("publishing/embed.html", told), "utf-8")
    size = {"width": max(LEAST, round(w * times) + BESIDE), "height": round(h * times) + BELOW}
    return {"file": name, **size}


def _data(path: Path) -> str:
    return f"data:image/png;base64,{base64.b64encode(path.read_bytes()).decode()}"
