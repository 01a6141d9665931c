"""Editions under the headings by which readers look for them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from typing import Any

from glenhail.core.articles.dates import month

# An edition: what is told of it, ``about``, and ``at``, where it lies.
Entry = dict[str, Any]
# A heading, the page that it leads to if there is one, and what stands below it.
Group = dict[str, Any]


def by_month(editions: Sequence[Entry]) -> list[Group]:
    """By the month in which they were published.

    Parameters
    ----------
    editions : sequence of dict
        The newest first.
    """
    months: dict[str, list[Entry]] = defaultdict(list)
    for entry in editions:
        months[month(entry["about"]["published"])].append(entry)
    return [_group(name, entries) for name, entries in months.items()]


def by_question(editions: Sequence[Entry]) -> list[Group]:
    """By question, from A to Z; each leads to the question over time.

    Parameters
    ----------
    editions : sequence of dict
        The newest first.
    """
    reports: dict[str, list[Entry]] = defaultdict(list)
    for entry in editions:
        reports[entry["at"].rpartition("/")[0]].append(entry)
    groups = [
        _group(entries[0]["about"]["question"], entries, f"{slug}/series.html")
        for slug, entries in reports.items()
    ]
    return sorted(groups, key=lambda group: str(group["name"]).casefold())


def by_release(editions: Sequence[Entry]) -> list[Group]:
    """By the tools and releases that are tested in them, by name.

    Parameters
    ----------
    editions : sequence of dict
        The newest first.
    """
    tested: dict[tuple[str, str], list[Entry]] = defaultdict(list)
    for entry in editions:
        tools = [t for c in entry["about"]["contenders"] for t in c.get("tools", [])]
        for pair in dict.fromkeys((t["tool"], t["release"]) for t in tools):
            tested[pair].append(entry)
    return [
        _group(f"{tool} {release}".strip(), tested[tool, release])
        for tool, release in sorted(tested, key=_by_name)
    ]


def _by_name(pair: tuple[str, str]) -> tuple[str, str]:
    return pair[0].casefold(), pair[1]


def _group(name: str, entries: Sequence[Mapping[str, Any]], at: str = "") -> Group:
    return {"name": name, "at": at, "entries": list(entries)}
