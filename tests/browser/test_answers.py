"""From a frame without patches to an answer: suggested patches taken, findings read,
contenders held against each other.
"""

from __future__ import annotations

import re

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import expect

from glenhail.core.measures.catalogue import MEASURES
from tests.browser.base import BrowserTest


class FromPatchesToAnswers(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.study_with_outputs(Smooth="smooth", Large="double")

    def test_suggested_patches_are_taken_and_what_they_say_is_read(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{self.study}/answers")
        page.get_by_role("link", name="Draw patches").click()
        page.get_by_role("button", name="Suggest patches").click()
        suggested = page.get_by_role("region", name="Suggested patches")
        # The frame is looked through by a job, beside whatever else the machine does.
        edge = suggested.get_by_text("a straight edge, quality").first
        expect(edge).to_be_visible(timeout=120_000)
        self.assert_accessible("suggested patches")
        suggested.get_by_role("button", name="Add edge at").first.click()
        expect(page.get_by_label("Name of Edge 1")).to_be_visible()
        suggested.get_by_role("button", name=re.compile("Add all")).click()
        expect(suggested.get_by_text("Nothing more to suggest here.")).to_be_visible()
        self.idle()
        # What each does, and the readings behind it.
        page.goto(f"{self.live_server_url}/studies/{self.study}/answers")
        smooth = page.get_by_role("region", name="What A does")
        expect(smooth.get_by_text("of the truth's texture")).to_be_visible()
        self.assert_accessible("answers")
        smooth.get_by_role("listitem").filter(has_text="of the truth's texture").get_by_role(
            "button"
        ).first.click()
        smooth.locator(".reading button").first.click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("Kirk et al. 2014")).to_be_visible()
        expect(dialog.get_by_role("img", name="Texture transfer")).to_be_visible()
        dialog.get_by_role("button", name="Close").click()
        # Who wins where, against whom.
        standings = page.get_by_role("region", name="Who is better where")
        self.choose_option(standings.get_by_role("combobox", name="Measure"), "Detail kept")
        self.choose_option(standings.get_by_role("combobox", name="Against"), re.compile("^A "))
        expect(
            standings.get_by_role("row", name="Everywhere").get_by_text("compared with")
        ).to_be_visible()
        expect(page).to_have_url(re.compile("against=A"))
        trade = page.get_by_role("region", name="Trade-off")
        expect(trade.get_by_role("img", name="Nobody beats")).to_be_visible()
        self.assertEqual(self.errors, [])

    def test_numbers_and_curves_are_arranged_by_keyboard_and_kept_in_the_address(self) -> None:
        page = self.sign_in()
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        frame = client.get(f"/api/studies/{self.study}").json()["frames"][0]["id"]
        for name, role, x, y, w, h in (
            ("Sky", "flat", 20, 20, 90, 60),
            ("Roof", "texture", 200, 150, 160, 160),
        ):
            patch = {"frame": frame, "name": name, "role": role, "x": x, "y": y, "w": w, "h": h}
            client.post(f"/api/studies/{self.study}/patches", patch, "application/json")
        self.idle()
        page.goto(f"{self.live_server_url}/studies/{self.study}/numbers?measures=noise")
        sky = page.get_by_role("region", name="Sky, flat")
        letters = sky.locator("thead .letter")
        expect(letters.first).to_be_visible()
        sky.get_by_role("button", name=MEASURES["noise_luma"].name, exact=True).press("Enter")
        expect(page).to_have_url(re.compile("sort=noise_luma"))
        values = [
            float(text.split()[0])
            for text in sky.get_by_role("row", name="Brightness noise")
            .locator(".value")
            .all_inner_texts()
        ]
        self.assertEqual(values, sorted(values))
        self.choose_option("Pinned", re.compile("^U "))
        expect(letters.first).to_have_text("U")
        expect(page.get_by_role("region", name="Roof, texture")).not_to_be_visible()
        self.choose_option("Show", "medians by patch type")
        expect(page.get_by_role("region", name="Flat")).to_be_visible()
        self.assert_accessible("numbers by role")
        page.get_by_role("tab", name="Curves").click()
        page.wait_for_url("**/curves**")
        self.choose_option("Patch", "Roof (texture, roofs)")
        expect(page.get_by_role("img", name="Texture transfer")).to_be_visible()
        page.get_by_role("button", name="A drawn").press("Enter")
        expect(page.get_by_role("button", name="A drawn")).to_have_attribute(
            "aria-pressed", "false"
        )
        expect(page).to_have_url(re.compile("without=A"))
        self.assert_accessible("curves")
        self.assertEqual(self.errors, [])
