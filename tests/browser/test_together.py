"""Two people write the same report, and one of them is cut off: nothing that was written is lost."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import expect

from glenhail.server.publishing.models import Report
from tests.browser.base import BrowserTest


class Together(BrowserTest):
    def test_the_later_one_sees_both_texts_and_what_is_not_saved_survives_a_reload(self) -> None:
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        question = {"question": "Which is better?", "factor": "tool"}
        study = client.post("/api/studies", question, "application/json").json()["id"]
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{study}/publish")
        summary = page.get_by_label("Summary, in a few sentences")
        summary.fill("Mine: A is softer.")
        # A reload, as after a crash or an expired session, keeps what was not saved.
        page.reload()
        expect(summary).to_have_value("Mine: A is softer.")
        theirs = {"summary": "Theirs: B is noisier.", "method": "", "disclosure": ""}
        self.assertEqual(client.put(f"/api/studies/{study}/report", theirs, "application/json").status_code, 200)
        page.get_by_role("button", name="Save the text").click()
        both = page.get_by_role("alert", name="Changed by somebody else")
        expect(both.get_by_text("Theirs: B is noisier.")).to_be_visible()
        expect(summary).to_have_value("Mine: A is softer.")
        self.assertEqual(Report.objects.get().summary, "Theirs: B is noisier.")
        self.assert_accessible("two texts")
        both.get_by_role("button", name="Save mine instead").click()
        expect(both).not_to_be_visible()
        expect(page.get_by_text("Report saved.")).to_be_visible()
        self.assertEqual(Report.objects.get().summary, "Mine: A is softer.")
        # What was saved is not kept in the browser any longer.
        client.put(f"/api/studies/{study}/report", theirs, "application/json")
        page.reload()
        expect(summary).to_have_value("Theirs: B is noisier.")
