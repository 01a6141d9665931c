"""What is done with editions once they are out, and what readers get without a server."""

from __future__ import annotations

import re
import tempfile
import threading
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import Page, expect

from glenhail.server.publishing.models import Edition
from glenhail.server.publishing.site.export import export_site
from glenhail.server.tools.models import Release, Tool
from glenhail.standins.host import host
from tests.browser.base import BrowserTest
from tests.server.base import upload
from tests.server.test_hostile_calls import JSON

ABORTED = "net::ERR_ABORTED"


class AfterPublishing(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.study_with_outputs(Sedgewash="smooth", Keenfold="frame")
        self.client = Client()
        self.client.force_login(User.objects.get(username="owner"))
        self.home = f"/api/studies/{self.study}"
        frame = self.client.get(self.home).json()["frames"][0]["id"]
        for name, x in (("Sky", 20), ("Roof", 200)):
            place = {"frame": frame, "name": name, "role": "flat", "x": x, "y": 20}
            self.client.post(f"{self.home}/patches", {**place, "w": 90, "h": 60}, JSON)
        self.idle()
        self.publish("")

    def publish(self, note: str) -> Edition:
        answer = self.client.post(f"{self.home}/editions", {"note": note}, JSON)
        self.assertEqual(answer.status_code, 202, answer.content)
        self.idle()
        return Edition.objects.latest("number")

    def test_a_mistake_is_corrected_tested_again_and_the_first_edition_withdrawn(self) -> None:
        tool = Tool.objects.get(name="Sedgewash")
        Release.objects.create(tool=tool, name="2", released="2026-11-20")
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{self.study}/publish")
        self.correct(page)
        self.retest(page)
        page.get_by_label("What changed since edition 1").fill("Roof put right.")
        page.get_by_label("Each frame with its contenders as layers").check()
        page.get_by_role("button", name="Publish edition 2").click()
        page.get_by_role("button", name="Publish for good").click()
        expect(page.get_by_role("link", name="Edition 2", exact=True)).to_be_visible(timeout=90_000)
        expect(page.get_by_text("In edition 2.")).to_be_visible()
        self.read(page)
        self.withdraw(page)
        self.assertEqual(self.errors, [])

    def correct(self, page: Page) -> None:
        page.get_by_role("button", name="Add correction").click()
        page.get_by_role("combobox", name="Where it stood").fill("roof")
        self.take_option(page.get_by_role("option", name=re.compile("Figure: Roof")))
        page.get_by_label("What was wrong").fill("This is the neighbour's roof.")
        self.assert_accessible("a new correction")
        page.get_by_role("form", name="New correction").get_by_role("button", name="Add").click()
        expect(page.get_by_text("Comes with edition 2.")).to_be_visible()

    def retest(self, page: Page) -> None:
        page.get_by_role("button", name="Test again with").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("Sedgewash 2, strength 60 %")).to_be_visible()
        expect(dialog.get_by_label("Test A again")).to_be_checked()
        self.assert_accessible("testing again")
        dialog.get_by_role("button", name="Test again", exact=True).click()
        expect(page.get_by_role("status").filter(has_text="C added").first).to_be_visible()
        frame = self.client.get(self.home).json()["frames"][0]["id"]
        made = next(
            c for c in self.client.get(self.home).json()["contenders"] if c["letter"] == "C"
        )
        self.client.post(f"/api/contenders/{made['id']}/outputs/{frame}", upload("double"))
        self.idle()
        page.reload()

    def read(self, page: Page) -> None:
        """The mark stands at the figure, in the old edition too."""
        second = Edition.objects.get(number=2)
        page.goto(f"{self.live_server_url}{second.address}")
        figure = page.locator("figure.patch", has=page.get_by_text(re.compile(r"Figure \d\. Roof")))
        expect(
            figure.get_by_text("Corrected in edition 2: This is the neighbour's roof.")
        ).to_be_visible()
        expect(page.get_by_role("heading", name="Release against release")).to_be_visible()
        self.assert_accessible("edition with a correction", page)
        page.goto(f"{self.live_server_url}{Edition.objects.get(number=1).address}")
        old = page.locator("figure.patch", has=page.get_by_text(re.compile(r"Figure \d\. Roof")))
        expect(old.get_by_text("Wrong here: This is the neighbour's roof.")).to_be_visible()
        old.get_by_role("link", name="Put right in edition 2").click()
        expect(page).to_have_url(re.compile(r"/2/#corrections$"))

    def withdraw(self, page: Page) -> None:
        page.goto(f"{self.live_server_url}/studies/{self.study}/publish")
        page.get_by_role("button", name="Withdraw edition 1").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_role("button", name="Withdraw", exact=True)).to_be_disabled()
        dialog.get_by_label("Reason, for readers").fill("Another mill's roof.")
        self.assert_accessible("withdrawing")
        dialog.get_by_role("button", name="Withdraw", exact=True).click()
        expect(page.get_by_text(re.compile("Withdrawn .*: Another mill's roof."))).to_be_visible()
        expect(page.get_by_role("button", name="Withdraw edition 1")).to_have_count(0)
        page.goto(f"{self.live_server_url}{Edition.objects.get(number=1).address}")
        expect(page.get_by_role("heading", name="Edition 1 was withdrawn")).to_be_visible()
        expect(page.get_by_text("Another mill's roof.")).to_be_visible()

    def test_a_plain_server_carries_the_site_without_scripts_on_a_phone_and_on_paper(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        export_site(Path(folder.name) / "site", lambda share, what: None)
        server = host(Path(folder.name) / "site")
        threading.Thread(target=server.serve_forever, daemon=True).start()
        self.addCleanup(server.server_close)
        self.addCleanup(server.shutdown)
        root = f"http://127.0.0.1:{server.server_port}"
        failed: list[str] = []
        for options in ({"java_script_enabled": False}, {"is_mobile": True, "has_touch": True}):
            page = self.reader(failed, root, **options)
            self.walk(page, root)
        expect(page.get_by_role("link", name="Edition 2")).to_have_count(0)
        paper = page.pdf(format="A4")
        self.assertGreater(paper.count(b"/Type /Page\n"), 1)
        self.assertEqual(failed, [])
        self.assertEqual(self.errors, [])

    def reader(self, failed: list[str], root: str, **options: Any) -> Page:
        """Somebody with a browser; whatever is not there, or asked for elsewhere, fails."""
        page = self.open_page(**options)
        if "is_mobile" in options:
            page.set_viewport_size({"width": 390, "height": 844})
        # Whoever goes on before all pictures are there has asked for some in vain.
        page.on(
            "requestfailed", lambda r: r.failure == ABORTED or failed.append(f"{r.url} {r.failure}")
        )
        page.on("response", lambda r: None if r.ok or r.status == 304 else failed.append(r.url))
        page.on("request", lambda r: None if r.url.startswith(root) else failed.append(r.url))
        return page

    def walk(self, page: Page, root: str) -> None:
        """From the index by a tool's page to the edition, and its files."""
        page.goto(f"{root}/")
        expect(page.get_by_role("heading", name="Which is better?")).to_be_visible()
        page.get_by_role("link", name="Sedgewash", exact=True).click()
        expect(page.get_by_text("Releases: 1.")).to_be_visible()
        page.get_by_role("link", name="Which is better?").click()
        crop = page.locator("figure.patch img").first
        expect(crop).to_be_visible()
        expect(crop).to_have_js_property("complete", True)
        self.assertGreater(crop.evaluate("e => e.naturalWidth"), 8)
        for name in (
            "edition.pdf",
            "everything.zip",
            "readings.csv",
            "edition.json",
            "../../feed.xml",
        ):
            answer = page.request.get(f"{page.url.rpartition('/')[0]}/{name}")
            self.assertEqual(answer.status, 200, name)
        wide = page.evaluate("document.documentElement.scrollWidth - innerWidth")
        self.assertLessEqual(wide, 0)
