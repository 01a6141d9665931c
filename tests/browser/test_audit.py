"""A comparison made fair: findings with their evidence, decided, matched, and a line-up
helped by hand.
"""

from __future__ import annotations

import re

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import expect

from glenhail.server.audit.models import Decision
from glenhail.server.measuring.models import LineUp
from tests.browser.base import BrowserTest
from tests.server.base import upload
from tests.server.test_audit import form, meddled, smooth


class LikeForLike(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        question = {"question": "Which is better?", "factor": "tool"}
        self.study = client.post("/api/studies", question, "application/json").json()["id"]
        frame = client.post("/api/frames", upload("frame", "roofs.tif")).json()["id"]
        client.post(f"/api/studies/{self.study}/frames", {"frame": frame}, "application/json")
        for tool, made in (
            ("Clean", upload("smooth")),
            ("Meddler", form(meddled())),
            ("Cutter", form(smooth()[:, 130:])),
        ):
            steps = [{"tool": tool, "release": "1", "mode": "", "strength": 60, "settings": []}]
            entered = client.post(
                f"/api/studies/{self.study}/contenders", {"steps": steps}, "application/json"
            ).json()
            client.post(f"/api/contenders/{entered['id']}/outputs/{frame}", made)
        patch = {"frame": frame, "name": "Sky", "role": "flat", "x": 180, "y": 20, "w": 90, "h": 60}
        client.post(f"/api/studies/{self.study}/patches", patch, "application/json")
        self.idle()

    def test_what_is_not_fair_is_seen_looked_into_and_decided(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{self.study}/compare")
        page.get_by_role("link", name="2 open findings").click()
        meddler = page.get_by_role("region", name="Findings of B")
        expect(meddler.get_by_text("0.50 EV darker")).to_be_visible()
        expect(
            page.get_by_role("region", name="Findings of A").get_by_text("like for like")
        ).to_be_visible()
        self.assert_accessible("audit")
        # The evidence is one click away.
        meddler.get_by_role("link", name="Evidence").first.click()
        expect(page.get_by_role("img", name="What was added to each tone")).to_be_visible()
        expect(page.get_by_text("EV, ").first).to_be_visible()
        self.assert_accessible("tone of an output")
        page.get_by_role("button", name="Effect on the picture").click()
        expect(page.get_by_role("img", name="Noise left in plain parts")).to_be_visible()
        page.get_by_role("button", name="Line-up", exact=True).click()
        expect(page.get_by_role("img", name="places measured")).to_be_visible()
        expect(page.get_by_text("shift 2.00, 1.00 px")).to_be_visible()
        self.assert_accessible("line-up of an output")
        # Matched away, in a second set of readings that says so wherever it is shown.
        page.get_by_role("tab", name="Like for like").click()
        page.get_by_role("button", name="match exposure: B, Exposure moved").click()
        expect(meddler.get_by_text("matched by owner")).to_be_visible()
        self.idle()
        page.goto(
            f"{self.live_server_url}/studies/{self.study}/compare?readings=matched&match=exposure"
        )
        expect(page.get_by_text("exposure matched over the frame")).to_be_visible()
        expect(page.get_by_text("Crops: exposure matched")).to_be_visible()
        self.assert_accessible("wall with matched readings")
        page.get_by_role("tab", name="Numbers").click()
        page.wait_for_url("**/numbers**")  # the wall has a list of readings too
        self.choose_option("Readings", re.compile("matched"))
        expect(page.get_by_text("±").first).to_be_visible()

    def test_a_line_up_that_failed_is_helped_by_two_pairs_of_points(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{self.study}/audit")
        cutter = page.get_by_role("region", name="Findings of C")
        cutter.get_by_role("link", name="Place points").click()
        self.assert_accessible("placing points")
        frame, output = (
            page.get_by_role("application", name=f"{name}: arrows move")
            for name in ("Frame", "Output")
        )
        for x, y in ((200, 60), (600, 400)):
            for side, picture, left in ((frame, (640, 427), 0), (output, (510, 427), 130)):
                box = side.bounding_box()
                assert box is not None
                zoom = min(box["width"] / picture[0], box["height"] / picture[1])
                place = {
                    "x": box["width"] / 2 + (x - left - picture[0] / 2) * zoom,
                    "y": box["height"] / 2 + (y - picture[1] / 2) * zoom,
                }
                side.click(position=place)  # type: ignore[arg-type]
        page.get_by_role("button", name="Line up from these points").click()
        expect(page.get_by_text("Points saved; lining up again.")).to_be_visible()
        self.idle()
        self.assertTrue(LineUp.objects.filter(refused="", dx=-130).exists())
        page.goto(f"{self.live_server_url}/studies/{self.study}/audit")
        expect(cutter.get_by_text("Does not line up")).not_to_be_visible()

    def test_a_finding_is_accepted_with_a_reason_by_keyboard_and_opened_again(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{self.study}/audit")
        # Arranged by what was found, a finding stands once, with all that have it.
        page.get_by_role("button", name="Finding", exact=True).press("Enter")
        moved = page.get_by_role("region", name="Exposure moved")
        expect(moved.get_by_text("0.50 EV darker")).to_be_visible()
        self.assert_accessible("audit by finding")
        page.get_by_role("button", name="Contender", exact=True).press("Enter")
        accept = page.get_by_role("button", name="Accept: B, Exposure moved")
        expect(accept).to_be_enabled()
        accept.press("Enter")
        page.get_by_label("Reason, printed in the report").fill("It comes so.")
        page.keyboard.press("Enter")
        expect(page.get_by_text("It comes so.")).to_be_visible()
        self.assertEqual(Decision.objects.get().reason, "It comes so.")
        again = page.get_by_role("button", name="Reopen: B, Exposure moved")
        expect(again).to_be_enabled()
        again.press("Enter")
        expect(page.get_by_role("button", name="Accept: B, Exposure moved")).to_be_visible()
        self.assertEqual(self.errors, [])
