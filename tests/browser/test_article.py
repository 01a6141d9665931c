"""Numbers in an article: chosen readings as table and chart, readings within a text, and
the whole seen before it is published.
"""

from __future__ import annotations

import re

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import Page, expect

from glenhail.server.publishing.models import Edition, Report
from tests.browser.base import BrowserTest
from tests.server.test_hostile_calls import JSON


class Article(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.study_with_outputs(Sedgewash="smooth", Keenfold="double")
        self.client = Client()
        self.client.force_login(User.objects.get(username="owner"))
        frame = self.client.get(f"/api/studies/{self.study}").json()["frames"][0]["id"]
        patch = {"frame": frame, "name": "Sky", "role": "flat", "x": 20, "y": 20, "w": 90, "h": 60}
        self.client.post(f"/api/studies/{self.study}/patches", patch, JSON)
        self.idle()

    def test_numbers_are_chosen_written_seen_and_published(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{self.study}/publish")
        for kind in ("Table", "Chart"):
            self.choose_readings(page, kind)
        self.write_a_reading(page)
        self.assert_accessible("a report with chosen readings")
        self.save(page)
        told = page.get_by_role("list", name="Readings of this text")
        expect(told).to_contain_text(re.compile(r"A Brightness noise, Sky, \w+: \d+\.\d+ ±"))
        self.look_first(page)
        self.client.post(f"/api/studies/{self.study}/editions", {"note": ""}, JSON)
        self.idle()
        page.goto(f"{self.live_server_url}{Edition.objects.get().address}")
        table = page.locator("#table-1")
        expect(table.get_by_role("row")).to_have_count(2)
        number = table.get_by_role("link").first
        words = number.inner_text()
        expect(page.locator(".block.text").get_by_role("link")).to_contain_text("±")
        # A number leads to the full table, which opens for it.
        number.click()
        expect(page.locator("tr:target")).to_contain_text(words.split()[0])
        expect(page.locator("tr:target")).to_be_visible()
        expect(page.locator("#chart-1 .dot").first).to_be_visible()
        self.assert_accessible("an edition with chosen readings")
        page.set_viewport_size({"width": 390, "height": 800})
        wide = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, 390)
        self.assertEqual(self.errors, [])

    def test_numbers_that_are_seen_become_a_table_of_the_report(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{self.study}/numbers?measures=noise")
        sky = page.get_by_role("region", name=re.compile("^Sky"))
        expect(sky.get_by_role("row").nth(1)).to_be_visible()
        rows = sky.get_by_role("row").count() - 1
        sky.get_by_role("button", name="Take").click()
        items = page.get_by_role("listitem")
        self.take_option(items.filter(has_text="Into the report, as a table"))
        expect(page.get_by_text("The table is in the report.")).to_be_visible()
        # Medians are of no one place.
        page.goto(f"{self.live_server_url}/studies/{self.study}/numbers?together=role")
        page.get_by_role("button", name="Take").first.click()
        expect(page.get_by_text("As Markdown")).to_be_visible()
        expect(page.get_by_text("Into the report, as a table")).to_have_count(0)
        page.goto(f"{self.live_server_url}/studies/{self.study}/publish")
        expect(page.get_by_text(re.compile(r"Brightness noise.*; Sky, \w+; "))).to_be_visible()
        block = next(b for b in Report.objects.get().blocks if b["kind"] == "table")
        self.assertEqual(len(block["table"]["measures"]), rows)
        self.assertEqual(self.errors, [])

    def choose_readings(self, page: Page, kind: str) -> None:
        self.add_block(kind)
        expect(page.get_by_text("Nothing is chosen yet")).to_be_visible()
        page.get_by_role("button", name="Choose readings").last.click()
        dialog = page.get_by_role("dialog", name=f"Readings of the {kind.lower()}")
        self.tick_options("Measures", "Brightness noise")
        self.tick_options("Places", re.compile("^Sky"))
        expect(dialog.get_by_text("1 row;")).to_be_visible()
        self.assert_accessible(f"readings of a {kind}")
        dialog.get_by_role("button", name="Choose").click()
        expect(
            page.get_by_text(re.compile(r"Brightness noise; Sky, \w+; T, U, A, B")).last
        ).to_be_visible()
        expect(page.get_by_text("Nothing is chosen yet")).to_have_count(0)

    def write_a_reading(self, page: Page) -> None:
        self.add_block("Text")
        page.get_by_role("textbox", name=re.compile("Text, block")).click()
        page.keyboard.type("It leaves ")
        page.get_by_role("button", name="Reading", exact=True).click()
        self.choose_option("Contender", re.compile("^A "))
        self.choose_option("Measure", "Brightness noise")
        self.choose_option("Place", re.compile("^Sky"))
        page.get_by_role("button", name="Insert").click()
        text = page.get_by_role("textbox", name=re.compile("Text, block"))
        expect(text).to_contain_text("It leaves {A Brightness noise, Sky, ")

    def save(self, page: Page) -> None:
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_text("Report saved.")).to_be_visible()

    def look_first(self, page: Page) -> None:
        page.get_by_role("button", name="Preview").click()
        draft = page.frame_locator("iframe")
        # It is composed, and its crops are drawn, as they are asked for.
        table = draft.locator("#table-1")
        expect(table).to_contain_text("Brightness noise", timeout=120_000)
        expect(draft.locator(".block.text")).to_contain_text("±")
        for way, across in (("Phone", 390), ("Page", 1278)):
            page.get_by_role("button", name=way, exact=True).click()
            frame = page.locator(f"iframe[title='Edition 1 as {way.lower()}']")
            self.until(
                lambda f=frame, w=across: abs((f.bounding_box() or {"width": 0})["width"] - w) < 3
            )
            expect(table).to_be_visible()
        page.get_by_role("button", name="Close preview").click()
        self.assertEqual(Edition.objects.count(), 0)
