"""What is seen becomes a figure of the report, and files go out under a licence."""

from __future__ import annotations

import re

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import Page, expect

from glenhail.server.material.models import Frame
from glenhail.server.publishing.models import Edition, Report
from tests.browser.base import BrowserTest
from tests.server.test_hostile_calls import JSON


class IntoTheReport(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.study_with_outputs(Sedgewash="smooth", Keenfold="double")
        self.client = Client()
        self.client.force_login(User.objects.get(username="owner"))
        self.frame = Frame.objects.get()
        patch = {"frame": self.frame.pk, "name": "Sky", "role": "flat", "x": 20, "y": 20}
        self.client.post(f"/api/studies/{self.study}/patches", {**patch, "w": 90, "h": 60}, JSON)
        self.idle()
        self.home = f"{self.live_server_url}/studies/{self.study}"

    def test_views_become_figures_of_the_edition(self) -> None:
        page = self.sign_in()
        self.from_the_wall(page)
        self.from_the_close_look(page)
        self.one_over_the_other_and_the_whole_frame(page)
        self.in_the_report(page)
        self.client.post(f"/api/studies/{self.study}/editions", {"note": ""}, JSON)
        self.idle()
        page.goto(f"{self.live_server_url}{Edition.objects.get().address}")
        figure = page.locator("figure.patch").filter(has_text="What Sedgewash took away")
        expect(figure.get_by_text("CIEDE2000 from U")).to_be_visible()
        expect(figure.locator(".crop img")).to_have_count(2)
        self.boundary_moves(page)
        marked = page.locator("figure.patch").filter(has_text="Marked: 1 Sky.")
        expect(marked.locator(".mark")).to_have_text("1")
        page.get_by_text("Figures as pictures and clips for videos and posts").click()
        expect(page.get_by_role("link", name="1080 × 1350")).to_have_count(5)
        self.assert_accessible("an edition with figures of its author's")
        page.get_by_role("link", name="to embed").first.click()
        shown = page.locator(".one:visible")
        expect(shown).to_have_class(re.compile("o1"))
        page.get_by_role("radio").first.focus()
        page.keyboard.press("ArrowRight")
        expect(shown).to_have_class(re.compile("o2"))
        page.locator("label").first.click()
        expect(shown).to_have_class(re.compile("o1"))
        self.assert_accessible("a figure to embed")
        self.assertEqual(self.errors, [])

    def from_the_wall(self, page: Page) -> None:
        page.goto(f"{self.home}/compare")
        for letter in ("A", "B"):
            page.get_by_role("link", name=f"Look closer: Sky, {letter}").click(modifiers=["Shift"])
            chosen = page.get_by_role("link", name=f"Look closer: Sky, {letter}, chosen")
            expect(chosen).to_be_visible()
        page.get_by_role("button", name="Into the report").click()
        expect(page.get_by_text("“Sky” is in the report.")).to_be_visible()

    def from_the_close_look(self, page: Page) -> None:
        page.goto(
            f"{self.home}/look?frame={self.frame.pk}&panes=A,B&as=difference&against=U&kind=de00"
        )
        expect(page.get_by_role("heading", level=1)).to_be_attached()
        expect(page.locator("canvas").first).to_be_visible()
        page.keyboard.press("}")
        expect(page.get_by_text("is in the report.").last).to_be_visible()
        # What a figure can not be is said, and nothing is taken.
        page.goto(f"{self.home}/look?frame={self.frame.pk}&panes=A&shadows=2")
        expect(page.locator("canvas").first).to_be_visible()
        page.get_by_role("button", name="Take").click()
        page.get_by_text("Into the report").click()
        expect(page.get_by_text("This view also has: shadows γ 2.")).to_be_visible()
        self.assertEqual([b["kind"] for b in Report.objects.get().blocks].count("figure"), 2)

    def one_over_the_other_and_the_whole_frame(self, page: Page) -> None:
        page.goto(f"{self.home}/look?frame={self.frame.pk}&panes=A&as=reveal&against=U")
        expect(page.get_by_role("heading", level=1)).to_be_attached()
        expect(page.locator("canvas").first).to_have_attribute("data-complete", "true")
        page.keyboard.press("ArrowLeft")
        page.keyboard.press("}")
        expect(page.get_by_text("is in the report.").last).to_be_visible()
        page.goto(f"{self.home}/patches")
        page.get_by_role("button", name="Into the report").click()
        expect(page.get_by_text("“The frame as a whole” is in the report.")).to_be_visible()
        taken = [b["figure"] for b in Report.objects.get().blocks if b["kind"] == "figure"]
        self.assertNotIn(taken[2]["over"], (0.5, 0.05, 0.95))
        self.assertEqual((taken[2]["letters"], taken[3]["marked"]), (["A", "U"], True))

    def boundary_moves(self, page: Page) -> None:
        figure = page.locator("figure.patch").filter(has_text="A left of the line, U right of it")
        boundary = figure.get_by_role("slider", name=re.compile("^Boundary between A.* and U"))
        boundary.fill("30")
        first = figure.locator(".laid").first
        expect(first).to_have_css("clip-path", "inset(0px 70% 0px 0px)")
        boundary.press("ArrowRight")
        expect(first).to_have_css("clip-path", "inset(0px 69.5% 0px 0px)")
        figure.locator(".crop").hover()
        expect(boundary).to_have_value(re.compile("^(49.5|50|50.5)$"))

    def in_the_report(self, page: Page) -> None:
        page.goto(f"{self.home}/publish")
        captions = page.get_by_role("textbox", name=re.compile("Caption, block"))
        expect(captions).to_have_count(4)
        captions.nth(1).fill("What Sedgewash took away")
        expect(page.get_by_text("difference from U, CIEDE2000")).to_be_visible()
        self.assert_accessible("a report with figures")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_text("Report saved.")).to_be_visible()

    def test_a_licence_is_told_for_all_frames_where_readers_would_ask_for_it(self) -> None:
        Frame.objects.update(licence="", source="", credit="")
        page = self.sign_in()
        page.goto(f"{self.home}/publish")
        expect(page.get_by_text("readers get none of their files")).to_be_visible()
        page.get_by_role("link", name="Licence and credit").click()
        expect(page.get_by_text("licence not told")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Licence and credit of roofs")).click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("Files without a licence are not offered")).to_be_visible()
        self.choose_option("Licence", "CC BY 4.0: with credit")
        dialog.get_by_label("Source: who made it").fill("Taken on the roof")
        dialog.get_by_label("Credit, as it stands").fill("The bench")
        self.assert_accessible("licence and credit")
        dialog.get_by_role("button", name="Save").click()
        expect(page.get_by_text("CC BY 4.0; credit: The bench")).to_be_visible()
        self.frame.refresh_from_db()
        self.assertEqual(self.frame.licence, "CC-BY-4.0")
        self.go_to_stage("Publish")
        expect(page.get_by_role("button", name="Publish edition 1")).to_be_visible()
        expect(page.get_by_text("readers get none of their files")).to_have_count(0)
        self.assertEqual(self.errors, [])
