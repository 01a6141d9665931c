"""Two people write the same report, and one of them is cut off: nothing that was
written is lost.
"""

from __future__ import annotations

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import Route, expect

from glenhail.server.publishing.models import Report
from glenhail.server.studies.models import Patch
from glenhail.server.tools.models import Release
from tests.browser.base import BrowserTest
from tests.server.base import upload

FACTS = {
    "kind": "denoise",
    "maker": "",
    "licence": "",
    "platforms": [],
    "ways": [],
    "takes": "any",
    "largest": None,
    "batch": None,
    "notes": "",
    "disclosure": "",
    "prices": [],
}
RELEASE = {
    "name": "1",
    "released": "2026-11-27",
    "news": "",
    "modes": [],
    "raw_modes": [],
    "strength": True,
    "settings": [],
}


class Together(BrowserTest):
    def test_the_later_one_sees_both_texts_and_what_is_not_saved_survives_a_reload(self) -> None:
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        question = {"question": "Which is better?", "factor": "tool"}
        study = client.post("/api/studies", question, "application/json").json()["id"]
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{study}/publish")
        summary = page.get_by_label("Summary", exact=True)
        saving = f"**/api/studies/{study}/report"
        # No way through, so that nothing is saved by itself.
        page.route(saving, lambda r: r.abort() if r.request.method == "PUT" else r.continue_())
        summary.fill("Mine: A is softer.")
        # A reload, as after a crash or an expired session, keeps what was not saved.
        page.reload()
        expect(summary).to_have_value("Mine: A is softer.")
        state = page.get_by_role("status", name="State of the report")
        expect(state).to_contain_text("Not saved:")
        theirs = {"summary": "Theirs: B is noisier.", "method": "", "disclosure": ""}
        self.assertEqual(
            client.put(f"/api/studies/{study}/report", theirs, "application/json").status_code, 200
        )
        page.unroute(saving)
        # It is tried again by itself, and asks instead of putting one in the other's place.
        both = page.get_by_role("alert", name="Changed by somebody else")
        expect(both.get_by_text("Theirs: B is noisier.")).to_be_visible()
        expect(summary).to_have_value("Mine: A is softer.")
        expect(page.get_by_role("button", name="Save", exact=True)).to_be_disabled()
        self.assertEqual(Report.objects.get().summary, "Theirs: B is noisier.")
        self.assert_accessible("two texts")
        both.get_by_role("button", name="Save mine instead").click()
        expect(both).not_to_be_visible()
        expect(page.get_by_text("Report saved.")).to_be_visible()
        self.assertEqual(Report.objects.get().summary, "Mine: A is softer.")
        # What was saved is not kept in the browser any longer.
        client.put(f"/api/studies/{study}/report", theirs, "application/json")
        # It comes by itself to whoever writes nothing, and what was there before is not lost.
        expect(summary).to_have_value("Theirs: B is noisier.")
        page.get_by_role("button", name="Earlier versions").click()
        versions = page.get_by_role("dialog", name="Earlier versions of the report")
        expect(versions.get_by_role("row").nth(1)).to_be_visible()
        self.assert_accessible("earlier versions")
        versions.get_by_role("button", name="Bring back").first.click()
        expect(summary).to_have_value("Mine: A is softer.")
        page.get_by_role("button", name="Undo", exact=True).click()
        expect(summary).to_have_value("Theirs: B is noisier.")
        page.get_by_role("button", name="Redo").click()
        expect(state).to_have_text("Saved")
        self.assertEqual(Report.objects.get().summary, "Mine: A is softer.")

    def test_editors_comment_on_a_part_of_the_report_until_it_is_settled(self) -> None:
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        question = {"question": "Which is better?", "factor": "tool"}
        study = client.post("/api/studies", question, "application/json").json()["id"]
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{study}/publish")
        panel = page.get_by_role("region", name="Comments")
        expect(panel.get_by_text("None open.")).to_be_visible()
        self.choose_option(panel.get_by_label("About"), "Method")
        panel.get_by_label("Comment", exact=True).fill("Say which lens.")
        panel.get_by_role("button", name="Add comment").click()
        expect(panel.get_by_text("Method: Say which lens.")).to_be_visible()
        expect(page.get_by_text("1 comment of an editor is not settled.")).to_be_visible()
        # Somebody else's comes by itself.
        path = f"/api/studies/{study}/report/comments"
        client.post(path, {"about": "", "text": "Prices are old."}, "application/json")
        expect(panel.get_by_text("Prices are old.")).to_be_visible()
        self.assert_accessible("comments on a report")
        panel.get_by_role("button", name="Settle: Say which lens.").click()
        expect(panel.get_by_text("Settled (1)")).to_be_visible()
        panel.get_by_text("Settled (1)").click()
        panel.get_by_role("button", name="Open again: Say which lens.").click()
        expect(panel.get_by_text("Method: Say which lens.")).to_be_visible()
        panel.get_by_role("button", name="Delete comment: Say which lens.").click()
        expect(panel.get_by_text("Say which lens.")).to_have_count(0)
        self.assertEqual(self.errors, [])

    def test_a_tools_facts_and_releases_are_kept_while_they_are_typed_and_not_overwritten(
        self,
    ) -> None:
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        made = client.post("/api/tools", {**FACTS, "name": "Keenfold"}, "application/json").json()
        release = client.post(
            f"/api/tools/{made['id']}/releases", RELEASE, "application/json"
        ).json()
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/tools/{made['id']}")
        notes = page.get_by_label("Notes", exact=True)
        notes.fill("Mine: soft corners.")
        page.reload()
        expect(notes).to_have_value("Mine: soft corners.")
        # Somebody else's change neither takes what is being typed away nor is overwritten.
        client.put(
            f"/api/tools/{made['id']}",
            {**FACTS, "name": "Keenfold", "notes": "Theirs: it halts."},
            "application/json",
        )
        page.get_by_role("button", name="Save", exact=True).first.click()
        both = page.get_by_role("alert", name="Changed by somebody else")
        expect(both.get_by_text("Theirs: it halts.")).to_be_visible()
        expect(notes).to_have_value("Mine: soft corners.")
        both.get_by_role("button", name="Take theirs").click()
        expect(both).not_to_be_visible()
        expect(notes).to_have_value("Theirs: it halts.")
        page.get_by_role("button", name="Edit Keenfold 1").click()
        page.get_by_label("News", exact=True).fill("Mine: faster.")
        client.put(
            f"/api/releases/{release['id']}",
            {**RELEASE, "news": "Theirs: slower."},
            "application/json",
        )
        page.locator("article").get_by_role("button", name="Save", exact=True).click()
        expect(both.get_by_text("Theirs: slower.")).to_be_visible()
        both.get_by_role("button", name="Save mine instead").click()
        expect(page.get_by_text("Release saved.")).to_be_visible()
        self.assertEqual(Release.objects.get(pk=release["id"]).news, "Mine: faster.")

    def test_a_new_tool_leaves_nothing_in_the_form_for_the_next(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/tools/new")
        page.get_by_label("Name", exact=True).fill("Mossgate")
        page.get_by_role("button", name="Save", exact=True).first.click()
        expect(page.get_by_role("heading", name="Mossgate")).to_be_visible()
        page.get_by_label("Notes", exact=True).fill("Of this one alone.")
        page.goto(f"{self.live_server_url}/tools/new")
        expect(page.get_by_label("Name", exact=True)).to_have_value("")
        expect(page.get_by_label("Notes", exact=True)).to_have_value("")

    def test_a_patch_moved_by_somebody_else_is_shown_before_it_is_moved_again(self) -> None:
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        study = client.post(
            "/api/studies", {"question": "Q", "factor": "tool"}, "application/json"
        ).json()["id"]
        frame = client.post("/api/frames", upload("frame")).json()["id"]
        client.post(f"/api/studies/{study}/frames", {"frame": frame}, "application/json")
        box = {"name": "Sky", "role": "flat", "x": 20, "y": 20, "w": 90, "h": 60}
        patch = client.post(
            f"/api/studies/{study}/patches", {**box, "frame": frame}, "application/json"
        ).json()["id"]
        self.idle()
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies/{study}/patches")
        name = page.get_by_label("Name of Sky")
        expect(name).to_be_visible()
        before: list[object] = []

        def just_before(route: Route) -> None:
            if not before:
                before.append(
                    client.put(f"/api/patches/{patch}", {**box, "x": 200}, "application/json")
                )
            route.continue_()

        page.route("**/api/patches/*", just_before)
        name.fill("Upper sky")
        name.press("Enter")
        expect(page.get_by_text("Somebody else changed this")).to_be_visible()
        kept = Patch.objects.get(pk=patch)
        self.assertEqual((kept.name, kept.x), ("Sky", 200))
        expect(page.get_by_label("Name of Sky")).to_have_value("Sky")
        # Shown as it is now; several changes in a row follow each other.
        for text in ("Upper sky", "Left sky", "Upper sky"):
            name = page.get_by_role("textbox", name="Name of ").first
            name.fill(text)
            name.press("Enter")
            expect(page.get_by_label(f"Name of {text}")).to_be_visible()
        self.until(lambda: Patch.objects.get(pk=patch).name == "Upper sky")
        self.until(lambda: Patch.objects.get(pk=patch).x == 200)
