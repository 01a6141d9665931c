"""What a site tells of an edition without opening it, and what it gathers of a tool or
a body over all of them.
"""

from __future__ import annotations

import re
import unicodedata
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from glenhail.core.articles.series import reached

Document = dict[str, Any]
MOST_FOUND = 12  # sentences of one contender
MOST_CROPS = 3


def about(document: Document) -> Document:
    """An edition in a few hundred words, as plain data.

    Parameters
    ----------
    document : dict
        The edition, with its crops.
    """
    said = {c["letter"]: c["sentences"] for c in document["findings"]}
    lead = document["lead"]
    patches = document["patches"]
    return {
        "question": document["question"],
        "bench": document["bench"],
        "factor": document["factor"],
        "number": document["number"],
        "published": document["published"],
        "summary": document["summary"],
        "note": document["note"],
        "verdicts": document["verdicts"],
        "answers": [
            {"about": s["about"], "text": s["answer"]["text"]}
            for s in document["sections"]
            if s["answer"]
        ],
        "crops": _crops(patches[lead]) if lead is not None else [],
        "contenders": [
            {
                "letter": c["letter"],
                "title": c["title"],
                "manner": c["manner"],
                "colour": c["colour"],
                "tools": c.get("tools", []),
                "found": [
                    {"mark": s["mark"], "text": s["text"]}
                    for s in said.get(c["letter"], [])[:MOST_FOUND]
                ],
            }
            for c in document["contenders"]
        ],
        "frames": [
            {
                "name": f["name"],
                "body": str(f["facts"].get("camera") or ""),
                "iso": f["facts"].get("iso"),
                "scene": f["scene"],
            }
            for f in document["frames"]
        ],
        "succession": [
            {k: s[k] for k in ("later", "earlier", "text")} for s in document.get("succession", [])
        ],
        "reached": reached(document),
        "measures": sorted({r["measure"] for p in patches for r in p["table"] if r["cells"]}),
    }


def unknown(question: str, bench: str) -> Document:
    """What can be told of an edition whose data has an older form: its names alone.

    Parameters
    ----------
    question : str
        Of the study.
    bench : str
        Who published it.
    """
    texts = {"question": question, "bench": bench, "factor": "", "summary": "", "note": ""}
    lists = (
        "verdicts",
        "answers",
        "crops",
        "contenders",
        "frames",
        "measures",
        "reached",
        "succession",
    )
    return {**texts, **{name: [] for name in lists}}


def _crops(patch: Document) -> list[Document]:
    """The first crops of a figure, small where there is a small form."""
    first = patch["crops"][:MOST_CROPS]
    return [{"letter": c["letter"], "file": c["small"] or c["file"]} for c in first]


@dataclass(frozen=True)
class Mention:
    """An edition in which a tool or body takes part, with what is found there of it."""

    edition: Document
    contenders: tuple[Document, ...] = ()
    frames: tuple[Document, ...] = ()


@dataclass(frozen=True)
class Gathered:
    """A tool or a body with the editions that tell of it, in the order given."""

    name: str
    address: str
    releases: tuple[str, ...]
    mentions: tuple[Mention, ...]


def tools_of(editions: Sequence[Document]) -> list[Gathered]:
    """Every tool of these editions, by name.

    Parameters
    ----------
    editions : sequence of dict
        What is told of each, the newest first.
    """
    told: dict[str, list[Mention]] = defaultdict(list)
    releases: dict[str, dict[str, None]] = defaultdict(dict)
    for edition in editions:
        by_tool: dict[str, list[Document]] = defaultdict(list)
        for contender in edition["contenders"]:
            for tool in {t["tool"]: t for t in contender["tools"]}.values():
                by_tool[tool["tool"]].append(contender)
                releases[tool["tool"]].setdefault(tool["release"])
        for name, contenders in by_tool.items():
            told[name].append(Mention(edition, contenders=tuple(contenders)))
    return _subjects(told, {k: tuple(r for r in v if r) for k, v in releases.items()})


def bodies_of(editions: Sequence[Document]) -> list[Gathered]:
    """Every camera body of these editions, by name.

    Parameters
    ----------
    editions : sequence of dict
        What is told of each, the newest first.
    """
    told: dict[str, list[Mention]] = defaultdict(list)
    for edition in editions:
        by_body: dict[str, list[Document]] = defaultdict(list)
        for frame in edition["frames"]:
            if frame["body"]:
                by_body[frame["body"]].append(frame)
        for name, frames in by_body.items():
            told[name].append(Mention(edition, frames=tuple(frames)))
    return _subjects(told, {})


def _subjects(
    told: dict[str, list[Mention]], releases: dict[str, tuple[str, ...]]
) -> list[Gathered]:
    names = sorted(told, key=lambda name: (name.casefold(), name))
    return [
        Gathered(name, address, releases.get(name, ()), tuple(told[name]))
        for name, address in zip(names, addresses(names), strict=True)
    ]


def addresses(names: Iterable[str]) -> list[str]:
    """A part of an address for each name: a to z, digits and hyphens, none twice.

    Parameters
    ----------
    names : iterable of str
        In a fixed order.
    """
    taken: set[str] = set()
    made = []
    for name in names:
        plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
        stem = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:60] or "other"
        at, tried = stem, 2
        while at in taken:
            at, tried = f"{stem}-{tried}", tried + 1
        taken.add(at)
        made.append(at)
    return made
