"""The site around the editions: what it tells, what it keeps back, and as plain files."""

from __future__ import annotations

import io
import json
import re
import tempfile
import zipfile
from datetime import timedelta
from pathlib import Path
from typing import Any
from urllib.parse import urljoin, urlsplit
from xml.etree import ElementTree

import feedparser
import html5lib
from django.core.files.storage import storages
from django.core.management import CommandError, call_command
from django.test import Client, override_settings
from django.utils import timezone

from glenhail.server.accounts.models import Trail
from glenhail.server.publishing.frozen import record_missing
from glenhail.server.publishing.models import Edition, Report
from glenhail.server.publishing.site.export import MARK, Exported, export_site
from tests.server.base import ServerTest, work

JSON = "application/json"
SITE = "https://bench.example"
HOSTILE = "</script><script>alert(1)</script>]]> & “so”?"


class Site(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        self.reader = Client()
        self.home = f"/api/studies/{self.study.pk}"

    def publish(self, note: str = "", **more: Any) -> Edition:
        answer = self.owner.post(f"{self.home}/editions", {"note": note, **more}, JSON)
        self.assertEqual(answer.status_code, 202, answer.content)
        work()
        return Edition.objects.latest("pk")

    def read(self, address: str, client: Client | None = None) -> tuple[int, str]:
        answer = (client or self.reader).get(address)
        data = b"".join(answer.streaming_content) if answer.streaming else answer.content
        return answer.status_code, data.decode("utf-8", "replace")

    def withdraw(self, number: int = 1, reason: str = "The wrong file of A.") -> int:
        body = {"reason": reason}
        return self.owner.put(f"{self.home}/editions/{number}/withdrawn", body, JSON).status_code


class Pages(Site):
    def test_index_tool_and_feed_lead_to_the_newest_edition_and_are_sound(self) -> None:
        texts = {"summary": HOSTILE, "method": "", "disclosure": ""}
        self.owner.put(f"{self.home}/report", texts, JSON)
        self.publish()
        edition = self.publish("Again.")
        pages = {
            name: self.read(f"/reports/{name}")
            for name in ("", "tools/sedgewash/index.html", f"{edition.folder}/")
        }
        for name, (status, html) in pages.items():
            with self.subTest(name=name):
                self.assertEqual(status, 200)
                # The HTML standard's own tree builder, without forgiving anything.
                html5lib.HTMLParser(strict=True).parse(html)
                self.assertNotIn("<script>alert", html)
                self.assertNotRegex(html, r"""(href|src)=["']/""")
        self.assertIn(f'href="{edition.folder}/index.html"', pages[""][1])
        self.assertIn(
            f'href="../../{edition.folder}/index.html"', pages["tools/sedgewash/index.html"][1]
        )
        self.assertIn("Releases: 3.0.", pages["tools/sedgewash/index.html"][1])
        self.assertEqual(self.read("/reports/tools/nothing/index.html")[0], 404)
        data = re.search(r'ld\+json">(.*?)</script>', pages[f"{edition.folder}/"][1], re.S)
        assert data is not None
        self.assertEqual(json.loads(data[1])["@graph"][0]["reviewBody"], HOSTILE)

    def test_the_feed_has_what_rfc_4287_asks_for_and_keeps_its_identities(self) -> None:
        self.publish()
        self.publish("The second one.")
        for address in ("", SITE):
            with self.subTest(address=address), override_settings(ADDRESS=address):
                raw = self.read("/reports/feed.xml")[1]
                told = feedparser.parse(raw.encode())
                self.assertFalse(told.bozo)
                # Section 4.1.1 and 4.1.2: exactly one id, title and updated, and an author.
                atom = "{http://www.w3.org/2005/Atom}"
                root = ElementTree.fromstring(raw)
                for element in (root, *root.findall(f"{atom}entry")):
                    for name in ("id", "title", "updated", "author"):
                        self.assertEqual(len(element.findall(atom + name)), 1, name)
                summaries = [e.summary for e in told.entries]
                self.assertEqual(summaries[0], "The second one.")
                links = [e.link for e in told.entries]
                slug = Report.objects.get().slug
                start = f"{SITE}/reports/" if address else ""
                self.assertEqual(links, [f"{start}{slug}/2/", f"{start}{slug}/1/"])
                ids = [e.id for e in told.entries]
                self.assertEqual(len(set(ids)), 2)
                self.assertTrue(all(i.startswith("urn:uuid:") for i in ids))
        first = feedparser.parse(self.read("/reports/feed.xml")[1].encode())
        self.assertEqual([e.id for e in first.entries], ids)

    def test_the_map_is_there_only_where_the_site_s_address_is_known(self) -> None:
        edition = self.publish()
        self.assertEqual(self.read("/reports/sitemap.xml")[0], 404)
        with override_settings(ADDRESS=SITE):
            root = ElementTree.fromstring(self.read("/reports/sitemap.xml")[1])
            places = [e.text for e in root.iter() if e.tag.endswith("}loc")]
            self.assertIn(f"{SITE}{edition.address}", places)
            self.assertIn(f"{SITE}/reports/tools/sedgewash/", places)
            self.assertIn("Sitemap:", self.read("/reports/robots.txt")[1])

    @override_settings(NOINDEX=True)
    def test_search_engines_are_told_to_keep_away_where_that_is_wished(self) -> None:
        edition = self.publish()
        self.assertIn("Disallow: /\n", self.read("/reports/robots.txt")[1])
        self.assertIn('content="noindex"', self.read("/reports/")[1])
        self.assertEqual(self.reader.get(edition.address)["X-Robots-Tag"], "noindex")

    def test_no_report_takes_an_address_that_is_the_site_s(self) -> None:
        study = self.owner.post("/api/studies", {"question": "Tools", "factor": "tool"}, JSON)
        pk = study.json()["id"]
        self.owner.put(
            f"/api/studies/{pk}/report", {"summary": "", "method": "", "disclosure": ""}, JSON
        )
        self.assertEqual(Report.objects.get(study=pk).slug, f"tools-{pk}")

    def test_an_edition_of_before_is_told_of_once_the_bench_starts(self) -> None:
        edition = self.publish()
        told = edition.about
        Edition.objects.update(about={})
        record_missing()
        self.assertEqual(Edition.objects.get().about, told)
        path = Path(storages["editions"].path(f"{edition.folder}/edition.json"))
        path.write_text("{}")
        Edition.objects.update(about={})
        record_missing()
        self.assertEqual(self.read("/reports/")[0], 200)
        self.assertIn("Which is better?", self.read("/reports/feed.xml")[1])

    def test_a_question_over_time_has_every_edition_and_leads_to_its_readings(self) -> None:
        first = self.publish()
        slug = first.report.slug
        self.assertNotIn("Over time", self.read(f"/reports/{slug}/series.html")[1])
        self.publish(f"Anew. {HOSTILE}")
        status, html = self.read(f"/reports/{slug}/series.html")
        self.assertEqual(status, 200)
        html5lib.HTMLParser(strict=True).parse(html)
        self.assertNotIn("<script>alert", html)
        self.assertLess(html.index("Edition 2"), html.index("Edition 1"))
        links = set(re.findall(r'href="(\d/index\.html#[^"]+)"', html))
        self.assertEqual({link[0] for link in links}, {"1", "2"})
        for link in links:
            name, _, anchor = link.partition("#")
            page = self.read(f"/reports/{slug}/{name.removesuffix('index.html')}")[1]
            self.assertIn(f'id="{anchor}"', page)
        # A withdrawn one is none of them, and the newest tells where the others are.
        self.assertIn("../series.html", self.read(f"/reports/{slug}/2/")[1])
        self.withdraw(1)
        self.assertNotIn("1/index.html", self.read(f"/reports/{slug}/series.html")[1])
        self.assertEqual(self.read("/reports/nothing/series.html")[0], 404)

    def test_editions_are_listed_by_date_question_and_release(self) -> None:
        edition = self.publish()
        for name, heading in (
            ("by-date", "By date"),
            ("by-question", "By question"),
            ("by-release", "By release"),
        ):
            status, html = self.read(f"/reports/{name}.html")
            self.assertEqual(status, 200)
            html5lib.HTMLParser(strict=True).parse(html)
            self.assertIn(f"<h1>{heading}</h1>", html)
            self.assertIn(f'href="{edition.folder}/index.html"', html)
        self.assertIn("Sedgewash 3.0", self.read("/reports/by-release.html")[1])
        series = f"{edition.report.slug}/series.html"
        self.assertIn(f'href="{series}"', self.read("/reports/by-question.html")[1])

    def test_an_edition_that_an_earlier_release_told_less_of_is_told_anew(self) -> None:
        edition = self.publish()
        told = edition.about
        Edition.objects.update(about={k: v for k, v in told.items() if k != "reached"})
        record_missing()
        self.assertEqual(Edition.objects.get().about, told)


class KeptBack(Site):
    def test_an_edition_under_embargo_is_the_bench_s_alone_until_its_time(self) -> None:
        soon = timezone.now() + timedelta(hours=2)
        edition = self.publish(public_from=soon.isoformat())
        addresses = [
            edition.address,
            f"{edition.address}edition.json",
            f"{edition.address}everything.zip",
        ]
        for address in (*addresses, f"/reports/{edition.report.slug}/"):
            with self.subTest(address=address):
                self.assertEqual(self.read(address)[0], 404)
                self.assertEqual(self.read(address, self.client_of("stranger"))[0], 404)
        for address in addresses:
            self.assertEqual(self.read(address, self.client_of("viewer"))[0], 200)
        own = self.client_of("viewer").get(edition.address)
        self.assertEqual(own["Cache-Control"], "private, no-store")
        for address in ("/reports/", "/reports/feed.xml", f"{edition.address}editions.json"):
            self.assertNotIn("Which is better", self.read(address)[1])
        refused = self.owner.post(f"{self.home}/editions", {"note": "Next."}, JSON)
        self.assertEqual(refused.status_code, 400)
        self.assertIn("Edition 1 is not public before", refused.json()["detail"])
        Edition.objects.update(public_from=timezone.now())
        self.assertEqual(self.read(edition.address)[0], 200)
        self.assertIn("Which is better", self.read("/reports/feed.xml")[1])

    def test_a_withdrawn_edition_says_so_serves_nothing_else_and_keeps_its_bytes(self) -> None:
        edition = self.publish()
        kept = Path(storages["editions"].path(edition.folder))
        before = sorted(p.name for p in kept.rglob("*"))
        for who, status in (("viewer", 403), ("editor", 403), ("stranger", 404)):
            answer = self.client_of(who).put(
                f"{self.home}/editions/1/withdrawn", {"reason": "x"}, JSON
            )
            self.assertEqual(answer.status_code, status)
        self.assertEqual(self.withdraw(reason="  "), 400)
        page = self.reader.get(edition.address)
        # A browser that has the page asks whether it still stands; pictures are its own for ever.
        self.assertEqual(page["Cache-Control"], "public, no-cache")
        again = {"If-None-Match": page["ETag"]}
        self.assertEqual(self.reader.get(edition.address, headers=again).status_code, 304)
        crop = next(f["name"] for f in edition.files if f["name"].startswith("crops/"))
        self.assertIn("immutable", self.reader.get(f"{edition.address}{crop}")["Cache-Control"])
        self.assertEqual(self.withdraw(), 200)
        self.assertEqual(self.withdraw(), 400)
        for name in ("", "edition.json", "everything.zip", "crops/x.png", "editions.json"):
            status, html = self.read(f"{edition.address}{name}")
            self.assertEqual(status, 410)
            self.assertIn("The wrong file of A.", html)
            self.assertEqual(self.reader.get(edition.address, headers=again).status_code, 410)
            html5lib.HTMLParser(strict=True).parse(html)
        self.assertEqual(sorted(p.name for p in kept.rglob("*")), before)
        self.assertEqual(self.read(f"/reports/{edition.report.slug}/")[0], 404)
        self.assertNotIn("Which is better", self.read("/reports/")[1])
        self.assertTrue(Trail.objects.filter(action="withdraw edition").exists())
        # The next one goes on counting, and is found where the first was.
        after = self.publish("Put right.")
        self.assertEqual(after.number, 2)
        self.assertEqual(self.read(f"/reports/{edition.report.slug}/")[0], 302)
        self.assertEqual(self.read(after.address)[0], 200)

    def test_what_the_law_asks_for_is_erased_by_a_command_and_written_down(self) -> None:
        edition = self.publish()
        slug = edition.report.slug
        erase = ["erase_edition", f"{slug}/1", "--by", "owner", "--reason", "Court order 7"]
        with self.assertRaisesMessage(CommandError, "Withdraw the edition first"):
            call_command(*erase)
        self.withdraw()
        with self.assertRaisesMessage(CommandError, "takes an owner"):
            call_command("erase_edition", f"{slug}/1", "--by", "editor", "--reason", "x")
        for wrong in (f"{slug}/9", "nothing", f"{slug}/x"):
            with self.assertRaisesMessage(CommandError, "There is no edition"):
                call_command("erase_edition", wrong, "--by", "owner", "--reason", "x")
        call_command(*erase, stdout=io.StringIO())
        folder = Path(storages["editions"].path(edition.folder))
        self.assertFalse([p for p in folder.rglob("*") if p.is_file()])
        self.assertEqual(self.read(edition.address)[0], 410)
        self.assertTrue(
            Trail.objects.filter(action="erase edition", subject__contains="Court order 7").exists()
        )
        record_missing()
        call_command("verify", stdout=io.StringIO())
        self.assertEqual(Edition.objects.get().files, [])


class Export(Site):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "site"

    def export(self) -> Exported:
        return export_site(self.folder, lambda share, what: None)

    def test_every_link_and_file_of_it_is_there_and_the_bundle_is_the_server_s(self) -> None:
        self.publish()
        edition = self.publish("Again.")
        self.export()
        for page in self.folder.rglob("*.html"):
            html = page.read_text("utf-8")
            # What stands within a page itself is there.
            for link in re.findall(r'(?:href|src|srcset)="(?!data:)([^"]*)"', html):
                for one in link.split(","):
                    told = urlsplit(urljoin("http://site/", one.split()[0] if one.strip() else ""))
                    if told.netloc != "site" or one.startswith("mailto:"):
                        continue
                    target = page.parent / one.split()[0].partition("#")[0]
                    if target.is_dir():
                        target = target / "index.html"
                    self.assertTrue(target.exists(), f"{one} of {page}")
        with zipfile.ZipFile(self.folder / edition.folder / "everything.zip") as pack:
            self.assertIsNone(pack.testzip())
        served = self.reader.get(f"{edition.address}everything.zip")
        self.assertEqual(
            b"".join(served.streaming_content),
            (self.folder / edition.folder / "everything.zip").read_bytes(),
        )
        told = json.loads((self.folder / edition.folder / "editions.json").read_text())
        self.assertEqual([e["number"] for e in told["editions"]], [2, 1])

    def test_a_second_export_writes_only_what_changed_and_mends_what_is_cut_short(self) -> None:
        edition = self.publish()
        first = self.export()
        self.assertGreater(len(first.written), 10)
        again = self.export()
        self.assertEqual((again.written, again.removed), ([], []))
        cut = self.folder / edition.folder / "readings.csv"
        cut.write_bytes(cut.read_bytes()[:10])
        (self.folder / "index.html").write_text("half")
        (self.folder / edition.folder / "crops" / ".x.png.part").write_bytes(b"died here")
        mended = self.export()
        self.assertEqual(set(mended.written), {f"{edition.folder}/readings.csv", "index.html"})
        self.assertEqual(mended.removed, [f"{edition.folder}/crops/.x.png.part"])
        self.publish("Second.")
        third = self.export().written
        self.assertFalse(
            [n for n in third if n.startswith(f"{edition.folder}/") and "editions.json" not in n]
        )

    def test_what_is_withdrawn_or_under_embargo_is_not_in_it(self) -> None:
        edition = self.publish()
        self.export()
        self.withdraw()
        self.export()
        there = [p.name for p in (self.folder / edition.folder).rglob("*")]
        self.assertEqual(there, ["index.html"])
        self.assertIn("withdrawn", (self.folder / edition.folder / "index.html").read_text())
        self.assertFalse((self.folder / edition.report.slug / "index.html").exists())
        later = self.publish("Soon.", public_from=(timezone.now() + timedelta(days=1)).isoformat())
        self.export()
        self.assertFalse((self.folder / later.folder).exists())

    def test_a_folder_with_other_things_in_it_is_left_alone(self) -> None:
        self.folder.mkdir()
        (self.folder / "letters.txt").write_text("kept")
        with self.assertRaisesMessage(CommandError, "Name an empty folder"):
            call_command("export_site", str(self.folder))
        self.assertEqual([p.name for p in self.folder.iterdir()], ["letters.txt"])
        (self.folder / "letters.txt").unlink()
        out = io.StringIO()
        call_command("export_site", str(self.folder), stdout=out)
        self.assertRegex(out.getvalue(), r"\d+ files written, 0 as they were, 0 removed")
        self.assertTrue((self.folder / MARK).exists())
