"""A reviewer's way through the questions of a whole study: would anybody see it, how far a
setting goes, could a slider do it, does the order matter; each answered, opened to its
evidence, and read again among the answers.
"""

from __future__ import annotations

import re
from typing import Any
from unittest import mock

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import expect

from glenhail.core.colour import srgb
from glenhail.core.files.encoding import png_bytes
from glenhail.server.inquiries.answering import visibility
from tests.browser.base import BrowserTest
from tests.server.test_hostile_calls import JSON
from tests.server.test_inquiries import blended, few_uses, frame

FOLD = {"tool": "Keenfold", "release": "5.1", "mode": "", "strength": 60, "settings": []}
PATCHES = (("Sky", "flat", 16, 16, 120, 90), ("Cloth", "texture", 170, 20, 140, 200))


def wash(strength: float) -> dict[str, Any]:
    return FOLD | {"tool": "Sedgewash", "release": "3.0", "strength": strength}


class Questions(BrowserTest):
    def made(self) -> int:
        """Three strengths of one tool, and one of them before and after another tool."""
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        told = {"question": "How far?", "factor": "setting"}
        study = client.post("/api/studies", told, JSON).json()["id"]
        source = client.post("/api/frames", self.file("frame.png", frame())).json()["id"]
        client.post(f"/api/studies/{study}/frames", {"frame": source}, JSON)
        for steps, share in (
            ([wash(30)], 0.3),
            ([wash(60)], 0.6),
            ([wash(100)], 1.0),
            ([wash(50), FOLD], 0.9),
            ([FOLD, wash(50)], 0.1),
        ):
            entered = client.post(f"/api/studies/{study}/contenders", {"steps": steps}, JSON).json()
            file = self.file(f"wash-{share}.png", blended(share))
            client.post(f"/api/contenders/{entered['id']}/outputs/{source}", file)
        for name, role, *place in PATCHES:
            patch = {"frame": source, "name": name, "role": role}
            rect = dict(zip("xywh", place, strict=True))
            client.post(f"/api/studies/{study}/patches", patch | rect, JSON)
        self.idle()
        return int(study)

    def file(self, name: str, linear: Any) -> dict[str, Any]:
        from django.core.files.uploadedfile import SimpleUploadedFile

        return {"file": SimpleUploadedFile(name, png_bytes(srgb.to_display(linear)))}

    def test_each_is_asked_answered_and_opened_to_its_evidence(self) -> None:
        self.enterContext(mock.patch.object(visibility, "uses_of", few_uses))
        study = self.made()
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{study}/compare")
        page.get_by_role("tab", name="Questions").click()
        answer = page.get_by_role("region", name="Answer")
        stages = page.get_by_role("navigation", name="Stages of the study")
        expect(stages.get_by_role("link", name="Compare")).to_have_attribute("aria-current", "step")
        self.assert_accessible("a question before it was asked")
        page.get_by_role("button", name="Look at all uses").click()
        expect(answer).to_contain_text("The difference of", timeout=90_000)
        page.get_by_role("button", name="C as web picture").click()
        evidence = page.get_by_role("region", name="C as web picture")
        expect(evidence.get_by_role("img", name="Where C differs from U")).to_be_visible()
        expect(evidence.get_by_role("img", name="C, where most is seen")).to_be_visible()
        evidence.get_by_role("button", name="FLIP").click()
        expect(evidence.get_by_text("flickers most")).to_be_visible()
        self.assertIn("cell=C", page.url)
        self.assert_accessible("would anybody see it")

        page.get_by_role("tab", name="Strength").click()
        page.get_by_role("button", name="Look at the series").click()
        expect(answer).to_contain_text("Every step is an even blend", timeout=90_000)
        expect(page.get_by_role("img", name=re.compile("How far it goes"))).to_be_visible()
        pictures = page.get_by_role("region", name="Sedgewash 3.0 in pictures")
        expect(pictures.get_by_role("img", name=re.compile("^Where"))).to_have_count(3)
        self.assert_accessible("a strength series")

        page.get_by_role("tab", name="Order of steps").click()
        page.get_by_role("button", name="Compare the orders").click()
        expect(answer).to_contain_text("by brightness noise", timeout=60_000)
        table = page.get_by_role("region", name="D against E")
        expect(table.get_by_role("row").filter(has_text="Sky").first).to_contain_text("better")
        self.assert_accessible("order of steps")

        page.get_by_role("tab", name="Release against release").click()
        expect(page.get_by_text("by two releases")).to_be_visible()
        self.choose_option("From", re.compile("^A,"))
        self.choose_option("to", re.compile("^C,"))
        page.get_by_role("button", name="Compare A and C").click()
        expect(answer).to_contain_text("levels of 255", timeout=60_000)
        changed = page.get_by_role("region", name="frame", exact=True)
        expect(changed.get_by_role("img", name="Where C differs from A, frame")).to_be_visible()
        by_measure = page.get_by_role("region", name="By measure")
        expect(by_measure.get_by_role("row").filter(has_text="Brightness noise")).to_contain_text(
            "Sky"
        )
        self.assert_accessible("release against release")

        page.get_by_role("tab", name="Price and speed").click()
        prices = page.get_by_role("region", name="Price and speed")
        expect(prices.get_by_role("row").filter(has_text="Sedgewash").first).to_contain_text(
            "no price of Sedgewash is written down"
        )
        page.get_by_label("A batch has").fill("0")
        expect(page.get_by_role("alert")).to_contain_text("pictures in a batch")
        page.get_by_label("A batch has").fill("20")
        expect(page.get_by_role("alert")).to_have_count(0)
        self.assert_accessible("price and speed")

        page.get_by_role("tab", name="Could a slider do it?").click()
        self.choose_option("Bring", re.compile("^C,"))
        self.choose_option("to", re.compile("^U,"))
        page.get_by_role("button", name="Sharpen C").click()
        expect(answer).to_contain_text("With radius", timeout=90_000)
        expect(page.get_by_role("img", name="Cloth, C, sharpened")).to_be_visible()
        self.assert_accessible("could a slider do it")
        self.choose_option("in", "contrast")
        page.get_by_role("button", name="Level C").click()
        expect(answer).to_contain_text("coarse contrast is", timeout=60_000)
        self.choose_option("in", "sharpness, by an unsharp mask")
        expect(answer).to_contain_text("With radius")
        page.get_by_role("button", name="Enter C, sharpened to U").click()
        expect(page).to_have_url(re.compile("/compare"))
        expect(page.get_by_text("Unsharp mask").first).to_be_visible()
        self.idle()

        page.get_by_role("tab", name="Answers").click()
        asked = page.get_by_role("region", name="Questions of the whole study")
        expect(asked.get_by_role("link", name="Strength")).to_be_visible()
        # The new contender is not in what was looked at before it.
        expect(asked.get_by_text("Something changed since").first).to_be_visible()
        asked.get_by_role("link", name="Would anybody see it?").click()
        expect(page.get_by_role("button", name="Ask again")).to_be_visible()
        self.assertEqual(self.errors, [])
