"""An edition as linked data, for machines that gather reviews and datasets."""

from __future__ import annotations

from typing import Any

Document = dict[str, Any]


def linked(document: Document, address: str) -> Document:
    """An edition in the terms of schema.org: a Review of what was compared, and the
    Dataset of its readings.

    Parameters
    ----------
    document : dict
        The edition.
    address : str
        Where it stands; "" where nobody knows, and links are relative to its page.

    References
    ----------
    schema.org: Review, Dataset, DataDownload, SoftwareApplication.
    """
    author = {"@type": "Organization", "name": document["bench"]}
    whole = {
        "name": document["question"],
        "datePublished": document["published"],
        "inLanguage": "en",
        "version": str(document["number"]),
        **({"url": address} if address else {}),
    }
    review = {
        "@type": "Review",
        **whole,
        "author": author,
        "reviewBody": document["summary"],
        "itemReviewed": [_tool(t) for t in _tools(document)],
    }
    readings = {
        "@type": "Dataset",
        **whole,
        "creator": author,
        "description": f"Readings of “{document['question']}” with their intervals.",
        "variableMeasured": sorted(
            {r["measure"] for p in document["patches"] for r in p["table"] if r["cells"]}
        ),
        **_licence(document),
        "distribution": [
            _download(address, "readings.csv", "text/csv"),
            _download(address, "edition.json", "application/json"),
            _download(address, "everything.zip", "application/zip"),
        ],
    }
    return {"@context": "https://schema.org", "@graph": [review, readings]}


def _licence(document: Document) -> Document:
    """What all of its files are under, where they have one licence and one credit."""
    told = {
        (f["terms"]["address"], f["terms"]["credit"]) for f in document["frames"] if "terms" in f
    }
    if len(told) != 1 or any(c.get("terms") for c in document["contenders"]):
        return {}
    address, credit = told.pop()
    return {"license": address, "creditText": credit} if address else {}


def _tools(document: Document) -> list[tuple[str, str]]:
    told = [(t["tool"], t["release"]) for c in document["contenders"] for t in c.get("tools", [])]
    return list(dict.fromkeys(told))


def _tool(told: tuple[str, str]) -> Document:
    name, release = told
    version = {"softwareVersion": release} if release else {}
    return {"@type": "SoftwareApplication", "name": name, **version}


def _download(address: str, name: str, kind: str) -> Document:
    return {"@type": "DataDownload", "encodingFormat": kind, "contentUrl": f"{address}{name}"}
