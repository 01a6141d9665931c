"""What the script of an edition's page needs to show crops closer."""

from __future__ import annotations

from typing import Any

Document = dict[str, Any]
PLACES = ("letter", "around", "width", "height", "x", "y", "scale")


def all_figures(document: Document) -> list[Document]:
    """Everything of an edition that is cut into crops: patches, then what its author
    took into the report.

    Parameters
    ----------
    document : dict
        The edition.
    """
    return [*document["patches"], *document.get("figures", ())]


def for_looking(document: Document) -> Document:
    """Contenders, and each patch with its crops, and no more: it is part of the page.

    Parameters
    ----------
    document : dict
        The edition, with its crops.
    """
    return {
        "number": document["number"],
        "contenders": [
            {k: c[k] for k in ("letter", "title", "manner", "colour")}
            for c in document["contenders"]
        ],
        "patches": [
            {
                "name": p["name"],
                "rect": p["rect"],
                "crops": [{k: crop[k] for k in PLACES} for crop in p["crops"]],
            }
            for p in all_figures(document)
        ],
    }
