"""What somebody does who is new here: takes things back, looks for help, comes back
after the session ended; and a page that stays calm while work goes on.
"""

from __future__ import annotations

import re
from collections import Counter

from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.test import Client
from playwright.sync_api import expect

from glenhail.server.audit.models import Decision
from glenhail.server.studies.models import Contender, Patch, Study
from tests.browser.base import BrowserTest
from tests.server.base import upload
from tests.server.test_audit import form, meddled

JSON = "application/json"
PAGES = ("set-up", "bring-in", "audit", "compare", "patches", "numbers", "curves", "answers")


# Elements that make the page itself wider than its window: those in a box that scrolls
# by itself do not.
STICKING_OUT = """() => {
  if (document.documentElement.scrollWidth <= innerWidth + 1) return [];
  const held = (e) => {
    for (let p = e.parentElement; p && p !== document.body; p = p.parentElement)
      if (getComputedStyle(p).overflowX !== "visible") return true;
    return false;
  };
  return [...document.querySelectorAll("body *")]
    .filter((e) => e.getBoundingClientRect().right > innerWidth + 1 && !held(e))
    .map((e) => `${e.tagName.toLowerCase()}.${e.className}`);
}"""


DRAWN = "() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))"


class Newcomer(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.client = Client()
        self.client.force_login(User.objects.get(username="owner"))
        body = {"question": "Which keeps the roof tiles?", "factor": "tool"}
        self.study = self.client.post("/api/studies", body, JSON).json()["id"]
        self.frame = self.client.post("/api/frames", upload("frame", "roofs.tif")).json()["id"]
        self.client.post(f"/api/frames/{self.frame}/truth", upload("truth"))
        path = f"/api/studies/{self.study}"
        self.client.post(f"{path}/frames", {"frame": self.frame}, JSON)
        for tool, made in (("Clean", upload("smooth")), ("Meddler", form(meddled()))):
            steps = [{"tool": tool, "release": "1", "mode": "", "strength": 60, "settings": []}]
            entered = self.client.post(f"{path}/contenders", {"steps": steps}, JSON).json()
            self.client.post(f"/api/contenders/{entered['id']}/outputs/{self.frame}", made)
        for name, role, x, y in (
            ("Sky", "flat", 20, 20),
            ("Roof", "texture", 200, 150),
            ("Wall", "flat", 420, 300),
        ):
            self.draw(name, role, x, y)
        self.idle()

    def draw(self, name: str, role: str, x: int, y: int) -> None:
        patch = {"frame": self.frame, "name": name, "role": role, "x": x, "y": y, "w": 90, "h": 70}
        self.client.post(f"/api/studies/{self.study}/patches", patch, JSON)

    def at(self, path: str) -> str:
        return f"{self.live_server_url}/studies/{self.study}/{path}"

    def test_what_is_removed_is_had_back_or_goes_when_the_page_is_left(self) -> None:
        page = self.sign_in()
        page.goto(self.at("patches"))
        page.get_by_role("button", name="Remove Sky").click()
        expect(page.get_by_label("Name of Sky")).to_have_count(0)
        self.assert_accessible("a notice with Undo")
        self.undo("Sky removed")
        expect(page.get_by_label("Name of Sky")).to_be_visible()
        page.get_by_role("button", name="Remove Roof").click()
        expect(page.get_by_label("Name of Roof")).to_have_count(0)
        # All pages agree on it while it can be had back.
        page.get_by_role("tab", name="Wall", exact=True).click()
        expect(page.locator(".wall h3")).to_have_text(["Sky", "Wall"])
        self.assertTrue(Patch.objects.filter(name="Roof").exists())
        page.goto(self.at("set-up"))
        self.until(lambda: not Patch.objects.filter(name="Roof").exists())
        self.assertTrue(Patch.objects.filter(name="Sky").exists())
        page.get_by_role("button", name="Remove Meddler 1").click()
        expect(page.get_by_role("button", name="Remove Meddler 1")).to_have_count(0)
        self.undo("removed with its outputs")
        expect(page.get_by_role("button", name="Remove Meddler 1")).to_be_visible()
        page.get_by_role("button", name="Remove the truth of roofs").click()
        expect(page.locator("button", has_text="Add truth")).to_be_visible()
        self.undo("Truth of roofs removed")
        expect(page.get_by_role("button", name="Remove the truth of roofs")).to_be_visible()
        self.assertEqual(Contender.objects.filter(study=self.study).count(), 4)
        self.assertEqual(self.errors, [])

    def test_studies_are_found_duplicated_archived_and_deleted(self) -> None:
        body = {"question": "In which order?", "factor": "order of steps"}
        self.client.post("/api/studies", body, JSON)
        page = self.sign_in()
        rows = page.locator("article")
        expect(rows).to_have_count(2)
        page.get_by_label("Search").fill("meddler")
        expect(rows).to_have_count(1)
        expect(page.get_by_role("status").filter(has_text="1 of 2")).to_be_visible()
        page.reload()
        expect(rows).to_have_count(1)  # the address keeps what was searched for
        page.get_by_label("Search").fill("")
        self.choose_option("Varies", "order of steps")
        expect(rows).to_have_count(1)
        self.choose_option("Varies", "anything")
        expect(rows).to_have_count(2)
        self.assert_accessible("studies")
        actions = "Actions for Which keeps the roof tiles?"
        self.choose_from_menu(actions, "Duplicate")
        expect(page).to_have_url(re.compile(r"/set-up$"))
        title = page.get_by_role("heading", name="Which keeps the roof tiles? (copy)")
        expect(title).to_be_visible()
        page.goto(f"{self.live_server_url}/studies")
        self.choose_from_menu(actions, "Archive")
        expect(rows).to_have_count(2)
        self.choose_option("Show", "archived")
        expect(rows).to_have_count(1)
        self.undo("Study archived")
        expect(rows).to_have_count(0)
        self.choose_option("Show", "current")
        expect(rows).to_have_count(3)
        self.choose_from_menu("Actions for In which order?", "Delete …")
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("“In which order?” goes")).to_be_visible()
        self.assert_accessible("deleting a study")
        dialog.get_by_role("button", name="Delete", exact=True).click()
        expect(rows).to_have_count(2)
        self.assertFalse(Study.objects.filter(question="In which order?").exists())
        self.assertEqual(self.errors, [])

    def test_findings_are_accepted_together_for_one_reason_and_lead_to_their_place(self) -> None:
        page = self.sign_in()
        page.goto(self.at("audit"))
        boxes = page.get_by_role("checkbox", name=re.compile("^Select B,"))
        expect(boxes.first).to_be_visible()
        count = boxes.count()
        for i in range(count):
            boxes.nth(i).check()
        expect(page.get_by_text(re.compile(rf"^{count} findings? selected"))).to_be_visible()
        page.get_by_label("Reason for accepting them").fill("It is what the tool does.")
        self.assert_accessible("findings selected")
        page.get_by_role("button", name="Accept all").click()
        expect(boxes).to_have_count(0)
        self.assertEqual(Decision.objects.count(), count)
        reasons = set(Decision.objects.values_list("reason", flat=True))
        self.assertEqual(reasons, {"It is what the tool does."})
        self.assertEqual(self.errors, [])

    def test_help_tells_each_pages_keys_and_terms_and_leads_into_the_guide(self) -> None:
        page = self.sign_in()
        for path, term in (("compare", "wall"), ("audit", "finding"), ("set-up", "contender")):
            page.goto(self.at(path))
            expect(page.get_by_role("heading", name="Which keeps")).to_be_visible()
            page.keyboard.press("?")
            dialog = page.get_by_role("dialog")
            expect(dialog.get_by_text(term, exact=True)).to_be_visible()
            self.assert_accessible(f"help of {path}")
            page.keyboard.press("Escape")
            expect(dialog).to_have_count(0)
        # In a field it is a sign like any other.
        page.get_by_label("Question the study answers").press("End")
        page.get_by_label("Question the study answers").press("?")
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.get_by_role("button", name="Help, ?").click()
        page.get_by_role("link", name="Read this in the user guide").click()
        expect(page.get_by_role("heading", name="A first study")).to_be_visible()
        self.assert_accessible("guide")
        page.get_by_role("link", name="Comparing").click()
        expect(page.get_by_role("heading", name="Comparing")).to_be_visible()
        self.assertIn("Comparing", page.title())
        self.assertEqual(self.errors, [])

    def test_a_session_that_ended_is_begun_again_over_the_page(self) -> None:
        page = self.sign_in()
        page.goto(self.at("judge"))
        page.get_by_role("button", name="Add verdict").click()
        page.get_by_label("Use", exact=True).fill("Large print")
        Session.objects.all().delete()
        again = page.get_by_role("dialog", name="Sign in again")
        expect(again).to_be_visible()
        self.assert_accessible("signing in again")
        again.get_by_label("Name").fill("owner")
        again.get_by_label("Password").fill("secret-words")
        again.get_by_role("button", name="Sign in").click()
        expect(again).to_have_count(0)
        expect(page.get_by_label("Use", exact=True)).to_have_value("Large print")
        page.get_by_label("Verdict", exact=True).fill("A keeps the tiles.")
        page.get_by_role("button", name="Save verdicts").click()
        expect(page.get_by_text("Verdicts saved.")).to_be_visible()

    def test_work_that_goes_on_is_read_at_most_once_a_second(self) -> None:
        page = self.sign_in()
        page.goto(self.at("compare"))
        expect(page.locator(".wall h3")).to_have_count(3)
        # The page's own clock: what the driver hears of comes late and in bunches.
        page.evaluate(
            "performance.setResourceTimingBufferSize(9999); performance.clearResourceTimings()"
        )
        for i in range(10):
            self.draw(f"Spot {i}", "flat", 30 + 50 * i, 200)
        expect(page.locator(".wall h3")).to_have_count(13, timeout=60_000)
        self.idle()
        # What was measured is shown without a reload.
        expect(page.get_by_text("being measured")).to_have_count(0, timeout=30_000)
        entries = page.evaluate(
            "performance.getEntriesByType('resource').map(e => [e.name, e.startTime / 1000])"
        )
        asked = [
            (url.split("/api/")[-1].split("?")[0], at) for url, at in entries if "/api/" in url
        ]
        spans = Counter(path for path, _ in asked)
        study = f"studies/{self.study}"
        for path in ("queue", study, f"{study}/readings", f"{study}/audit"):
            self.assertGreater(spans[path], 0, path)
            times = sorted(t for p, t in asked if p == path)
            lasted = times[-1] - times[0]
            # At both ends, and once more where a page was held up and does all at once.
            self.assertLessEqual(spans[path], lasted + 3, (path, lasted))
        self.assertEqual(self.errors, [])

    def test_the_wall_begins_high_and_shows_three_rows(self) -> None:
        page = self.sign_in()
        page.goto(self.at("compare"))
        crops = page.locator(".wall .ground")
        # What stands above it comes with the readings.
        expect(page.get_by_role("combobox", name="Measure")).to_be_visible()
        expect(crops.first).to_be_visible()
        first = crops.first.bounding_box()
        assert first is not None
        self.assertLessEqual(first["y"], 170)
        bottoms = {round(b["y"] + b["height"]) for c in crops.all() if (b := c.bounding_box())}
        self.assertGreaterEqual(sum(bottom <= 800 for bottom in bottoms), 3)
        # Heads stay while the rows move.
        head = page.locator(".wall .column").first
        before = head.bounding_box()
        page.locator(".wall-scroll").evaluate("e => e.scrollBy(0, 300)")
        self.assertEqual(head.bounding_box(), before)

    def test_nothing_sticks_out_of_a_narrow_window(self) -> None:
        page = self.sign_in()
        paths = ["/studies", "/frames", f"/frames/{self.frame}", "/tools", "/queue", "/account"]
        paths += [f"/studies/{self.study}/{p}" for p in (*PAGES, "judge", "publish")]
        for path in paths:
            page.goto(self.live_server_url + path)
            expect(page.locator("main .page, main .wall, main .look").first).to_be_visible()
            page.wait_for_load_state("networkidle")
            for width in (640, 390):
                with self.subTest(path, width=width):
                    page.set_viewport_size({"width": width, "height": 800})
                    # What follows a window's size does so in the frames after it.
                    page.evaluate(DRAWN)
                    self.assertEqual(page.evaluate(STICKING_OUT), [])

    def test_pages_have_titles_of_their_own_and_missing_ones_say_so(self) -> None:
        page = self.sign_in()
        titles: dict[str, str] = {}
        for path in (*PAGES, "judge", "publish"):
            page.goto(self.at(path))
            expect(page.get_by_role("heading", name="Which keeps")).to_be_visible()
            titles[path] = page.title()
            self.assertIn("Which keeps the roof tiles?", titles[path])
        for path, words in (
            ("/studies/9999/compare", "There is no such study"),
            ("/frames/9999", "There is no such frame"),
            ("/tools/9999", "There is no such tool"),
            (f"/studies/{self.study}/outputs/9999", "There is no such output"),
        ):
            page.goto(self.live_server_url + path)
            expect(page.get_by_text(words)).to_be_visible()
            self.assert_accessible(words)

    def test_light_and_dark_and_the_surround_are_chosen_and_kept(self) -> None:
        page = self.sign_in()
        page.goto(self.at("compare"))
        page.get_by_role("button", name="owner", exact=True).click()
        card = page.locator(".v-overlay--active")
        card.get_by_role("group", name="Appearance").get_by_role("button", name="Dark").click()
        expect(page.locator(".v-application")).to_have_class(re.compile("v-theme--dark"))
        card.get_by_role("group", name="Picture surround").get_by_role(
            "button", name="Light"
        ).click()
        ground = page.locator(".wall .ground").first
        expect(ground).to_have_css("background-color", "rgb(198, 198, 198)")
        page.keyboard.press("Escape")
        self.assert_accessible("wall in the dark")
        page.reload()
        expect(page.locator(".v-application")).to_have_class(re.compile("v-theme--dark"))
        expect(ground).to_have_css("background-color", "rgb(198, 198, 198)")
        for path in ("set-up", "bring-in", "audit", "patches", "numbers", "answers", "publish"):
            page.goto(self.at(path))
            expect(page.get_by_role("heading", name="Which keeps")).to_be_visible()
            page.wait_for_load_state("networkidle")
            self.assert_accessible(f"{path} in the dark")
