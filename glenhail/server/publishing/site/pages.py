"""The site of all editions: an index, a page per tool and body, feed and map; each a
file with relative links only, so that any web server carries it.
"""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Any

from django.conf import settings
from django.template.loader import render_to_string
from django.utils.feedgenerator import Atom1Feed

from glenhail.core.articles.about import Gathered, bodies_of, tools_of
from glenhail.core.articles.listings import by_month, by_question, by_release
from glenhail.core.articles.series import series
from glenhail.server.publishing.models import Edition
from glenhail.server.publishing.press import ASSETS
from glenhail.server.publishing.queries import (
    corrections_list,
    newest_of_each,
    public_editions,
)

MOST_ENTRIES = 50  # of the feed
NAMESPACE = uuid.UUID("9d6c1c1e-6d0b-4f0e-8d5e-0d1f6f2a7c11")
SITE_CSS = Path(__file__).parent / "site.css"


@dataclass(frozen=True)
class SitePage:
    """One file of the site: its name below the root, and what makes its bytes."""

    name: str
    made: partial[bytes]


def site_pages() -> Iterator[SitePage]:
    """Every page of the site but the editions themselves."""
    newest = newest_of_each()
    told = [e.about for e in newest]
    tools, bodies = tools_of(told), bodies_of(told)
    common = {
        "title": ", ".join(dict.fromkeys(t["bench"] for t in told)) or "Editions",
        "tools": tools,
        "bodies": bodies,
        "noindex": settings.NOINDEX,
        "address": settings.ADDRESS,
        "mail": settings.ERRATA_ADDRESS,
    }
    entries = [{"about": e.about, "at": e.folder} for e in newest]
    yield _page("index.html", "index", "", common | {"entries": entries})
    every = list(public_editions())
    yield from _listings(common, [{"about": e.about, "at": e.folder} for e in every])
    yield from _series(common, every)
    places = {id(e.about): e.folder for e in newest}
    for kind, subjects in (("tools", tools), ("bodies", bodies)):
        for subject in subjects:
            name = f"{kind}/{subject.address}/index.html"
            context = {"subject": subject, "found": _found(subject, places)}
            yield _page(name, "subject", "../../", common | context)
    yield SitePage("feed.xml", partial(feed, str(common["title"])))
    yield SitePage("robots.txt", partial(robots))
    if settings.ADDRESS:
        yield SitePage("sitemap.xml", partial(site_map, tools, bodies))
    yield SitePage("assets/site.css", partial(SITE_CSS.read_bytes))
    for asset in sorted(ASSETS.iterdir()):
        yield SitePage(f"assets/{asset.name}", partial(asset.read_bytes))


def _listings(common: dict[str, Any], editions: list[dict[str, Any]]) -> Iterator[SitePage]:
    """Every edition by its day, its question and the releases that are tested in it."""
    listed = (
        ("by-date.html", by_month(editions)),
        ("by-question.html", by_question(editions)),
        ("by-release.html", by_release(editions)),
    )
    for name, groups in listed:
        title = name.removesuffix(".html").replace("-", " ").capitalize()
        yield _page(name, "listing", "", common | {"heading": title, "groups": groups})


def _series(common: dict[str, Any], editions: list[Edition]) -> Iterator[SitePage]:
    """Each question over time: all editions of its report."""
    reports: dict[str, list[Edition]] = defaultdict(list)
    for edition in sorted(editions, key=lambda e: e.number):
        reports[edition.report.slug].append(edition)
    for slug, found in reports.items():
        yield SitePage(f"{slug}/series.html", partial(_over_time, common, found))


def _over_time(common: dict[str, Any], editions: list[Edition]) -> bytes:
    told = series([e.about for e in editions])
    for edition, entry in zip(editions, told["editions"], strict=True):
        entry["wrong"] = corrections_list(edition.report, edition.number)
    context = {"root": "../", "question": editions[-1].about["question"], "series": told}
    return _render("publishing/site/series.html", {**common, **context})


def site_page(name: str) -> bytes | None:
    """One file of the site; None where there is none of that name."""
    return next((page.made() for page in site_pages() if page.name == name), None)


def _page(name: str, template: str, root: str, context: dict[str, Any]) -> SitePage:
    return SitePage(
        name, partial(_render, f"publishing/site/{template}.html", {**context, "root": root})
    )


def _render(template: str, context: dict[str, Any]) -> bytes:
    return render_to_string(template, context).encode()


def _found(subject: Gathered, places: dict[int, str]) -> list[dict[str, Any]]:
    return [{"mention": m, "at": places[id(m.edition)]} for m in subject.mentions]


def feed(title: str) -> bytes:
    """Every edition as an entry of an Atom feed (RFC 4287), the newest first.

    Links are relative to the feed where nobody told the site's address.
    """
    base = f"{settings.ADDRESS}/reports/" if settings.ADDRESS else ""
    editions = list(public_editions()[:MOST_ENTRIES])
    atom = Atom1Feed(
        title,
        base or "./",
        "Editions of reports",
        feed_url=f"{base}feed.xml",
        feed_guid=str(uuid.uuid5(NAMESPACE, base or title).urn),
        author_name=title,
        language="en",
    )
    for edition in editions:
        told = edition.about
        published = datetime.fromisoformat(told["published"])
        atom.add_item(
            f"{told['question']} (edition {edition.number})",
            f"{base}{edition.folder}/",
            told["note"] or told["summary"],
            author_name=told["bench"],
            pubdate=published,
            updateddate=published,
            unique_id=uuid.uuid5(NAMESPACE, edition.folder).urn,
        )
    return atom.writeString("utf-8").encode()


def robots() -> bytes:
    """What search engines may look at."""
    if settings.NOINDEX:
        return b"User-agent: *\nDisallow: /\n"
    place = f"Sitemap: {settings.ADDRESS}/reports/sitemap.xml\n" if settings.ADDRESS else ""
    return f"User-agent: *\nAllow: /\n{place}".encode()


def site_map(tools: list[Gathered], bodies: list[Gathered]) -> bytes:
    """Every page's whole address, by the protocol of sitemaps.org 0.9."""
    base = f"{settings.ADDRESS}/reports/"
    places: list[tuple[str, str]] = [(base, "")]
    editions = list(public_editions())
    slugs = {e.report.slug for e in editions}
    places += [(f"{base}{e.folder}/", e.about["published"][:10]) for e in editions]
    places += [(f"{base}{slug}/series.html", "") for slug in sorted(slugs)]
    places += [(f"{base}tools/{t.address}/", "") for t in tools]
    places += [(f"{base}bodies/{b.address}/", "") for b in bodies]
    return render_to_string("publishing/site/sitemap.xml", {"places": places}).encode()


def withdrawn_page(edition: Edition) -> bytes:
    """What stands at the address of an edition that was withdrawn."""
    return _render("publishing/site/withdrawn.html", {"edition": edition, "root": "../../"})


def newest_page(edition: Edition) -> bytes:
    """What leads from a report's address to its newest edition, without a server."""
    return _render("publishing/site/newest.html", {"edition": edition})
