"""Two people and a guest's phone sit through a sitting; nothing that reaches a judge's
browser tells whose picture it is.
"""

from __future__ import annotations

import re
from typing import Any
from urllib.parse import urlsplit

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import Page, Response, expect

from glenhail.server.judging.models import Call, Judge, Sitting
from glenhail.server.studies.models import Patch
from tests.browser.base import BrowserTest
from tests.server.test_hostile_calls import JSON

PAIRS = 6
PHONE: dict[str, Any] = {
    "viewport": {"width": 390, "height": 844},
    "device_scale_factor": 3,
    "has_touch": True,
    "is_mobile": True,
}
NAMES = re.compile(
    rb"Sedgewash|Keenfold|out_|smooth|double|roofs|Sky|\"[AB]\"|letter|contender|sha256", re.I
)


class SittingWalk(BrowserTest):
    def test_two_people_and_a_phone_sit_blind_and_what_they_chose_is_told_at_the_end(self) -> None:
        study = self.study_with_outputs(Sedgewash="smooth", Keenfold="double")
        page = self.sign_in()
        self.draw_patch(study)
        sitting = self.compose(study)
        address = page.url
        self.sit_by_keys(page)
        page.goto(address)
        link = self.guest_link()
        second = self.sign_in("editor", self.open_page())
        second.goto(address)
        self.sit_by_keys(second)
        self.sit_on_a_phone(link)
        page.reload()
        expect(page.get_by_text("3 judges, 3 finished, 18 answers")).to_be_visible()
        self.assert_accessible("an open sitting")
        page.get_by_role("button", name="Close the sitting").click()
        page.get_by_role("dialog").get_by_role("button", name="Close").click()
        # The whole says so, and the patch by itself.
        expect(page.get_by_text("B was chosen over A").first).to_be_visible()
        expect(
            page.get_by_text("for these 3 judges on what was shown, not for others")
        ).to_be_visible()
        table = page.get_by_role("region", name="Chosen").get_by_role("table")
        expect(table.get_by_role("row").nth(1)).to_contain_text("B")
        judges = page.get_by_role("region", name="Judges").get_by_role("table")
        expect(judges.get_by_role("row")).to_have_count(4)
        expect(judges).to_contain_text("Wren (guest)")
        expect(page.get_by_role("link", name="All answers as CSV")).to_be_visible()
        self.assert_accessible("what came of it")
        page.get_by_role("link", name="Judge", exact=True).first.click()
        expect(page.get_by_role("region", name="Sittings")).to_contain_text("B was chosen over A")
        page.goto(f"{self.live_server_url}/studies/{study}/answers")
        chosen = page.get_by_role("region", name="Chosen blind")
        expect(chosen).to_contain_text("Which is cleaner? B was chosen over A")
        self.assertEqual(Sitting.objects.get(pk=sitting).judges.count(), 3)
        self.call_with_names(study)
        self.conclude(study)
        self.assertEqual(self.errors, [])

    def call_with_names(self, study: int) -> None:
        """By key: on the wall and in the close look; the same key again takes it back."""
        page = self.page
        page.goto(f"{self.live_server_url}/studies/{study}/compare")
        crop = page.get_by_role("link", name="Look closer: Sky, A")
        cell = page.locator(".cell", has=crop)
        crop.focus()
        page.keyboard.press("Alt+ArrowDown")
        expect(cell).to_contain_text("called worse")
        page.keyboard.press("Alt+ArrowDown")
        expect(cell).not_to_contain_text("called")
        page.keyboard.press("Alt+ArrowUp")
        expect(cell).to_contain_text("called better")
        self.assert_accessible("the wall with a call")
        patch = Patch.objects.get(study=study).pk
        page.goto(f"{self.live_server_url}/studies/{study}/look?patch={patch}&panes=B,U")
        pane = page.get_by_role("region", name="Pane with B")
        expect(pane.locator("canvas").first).to_have_attribute("data-complete", "true")
        page.keyboard.press("Alt+Enter")
        expect(pane).to_contain_text("called the same")

    def conclude(self, study: int) -> None:
        """A verdict with marks and what it rests on; one against its evidence is asked
        about, and kept.
        """
        page = self.page
        page.goto(f"{self.live_server_url}/studies/{study}/judge")
        page.get_by_role("button", name="Judge blind what was called").click()
        dialog = page.get_by_role("dialog", name="Compose a sitting")
        expect(dialog.get_by_label("Question to the judges")).to_have_value("Which is better?")
        dialog.get_by_role("button", name="Cancel").click()
        expect(dialog).to_have_count(0)
        page.get_by_role("button", name="Add verdict").click()
        page.get_by_label("Use", exact=True).fill("Large print")
        page.get_by_label("Verdict", exact=True).fill("B for both.")
        marks = page.get_by_role("group", name="A against U")
        marks.get_by_role("button", name="Worse").click()
        page.get_by_text("Called with names seen, 0 of 2").click()
        page.get_by_role("checkbox", name="A against U, seen with names: better once").check()
        expect(page.get_by_text("Rests on one thing")).to_be_visible()
        self.assert_accessible("a verdict that is written")
        page.get_by_role("button", name="Save verdicts").click()
        expect(page.get_by_text("A is marked worse than U, but:")).to_be_visible()
        row = page.get_by_role("row", name="Large print")
        expect(row).to_contain_text("Against U: A worse")
        self.assert_accessible("a verdict that is asked about")

    def draw_patch(self, study: int) -> None:
        """By the API: patches have a walk of their own."""
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        frame = client.get(f"/api/studies/{study}").json()["frames"][0]["id"]
        place = {"frame": frame, "name": "Sky", "role": "flat", "x": 40, "y": 40, "w": 200}
        client.post(f"/api/studies/{study}/patches", {**place, "h": 150}, JSON)
        self.idle()

    def compose(self, study: int) -> int:
        page = self.page
        page.goto(f"{self.live_server_url}/studies/{study}/judge")
        self.assert_accessible("no sitting yet")
        page.get_by_role("button", name="Compose a sitting").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Question to the judges").fill("Which is cleaner?")
        dialog.get_by_label("Pairs a judge").fill(str(PAIRS))
        dialog.get_by_label("Judges expected").fill("3")
        expect(dialog.get_by_text("3 judges give 18 answers")).to_be_visible()
        expect(dialog.get_by_text("It takes 72 decisive answers")).to_be_visible()
        self.assert_accessible("composing a sitting")
        dialog.get_by_role("button", name="Begin the sitting").click()
        expect(page.get_by_role("button", name="Sit", exact=True)).to_be_visible()
        return int(page.url.rpartition("/")[2])

    def sit_by_keys(self, page: Page) -> None:
        """Choosing B; going back once, reloading once, and losing the connection once."""
        heard = self.listen(page)
        page.get_by_role("button", name="Sit", exact=True).click()
        expect(page.get_by_role("heading", name="Your screen")).to_be_visible()
        self.assert_accessible("the check of the screen", page)
        page.get_by_label("On black").fill("7")
        page.get_by_role("button", name="Begin").click()
        self.at(page, 1)
        judge = self.judge_of(page)
        self.answer(page, judge, 0)
        self.at(page, 2)
        page.keyboard.press("Backspace")
        self.at(page, 1)
        expect(page.get_by_role("button", pressed=True)).to_have_count(1)
        self.answer(page, judge, 0)
        self.at(page, 2)
        self.hold(page)
        self.answer(page, judge, 1)
        self.at(page, 3)
        page.reload()
        self.at(page, 3)
        page.context.set_offline(True)
        self.answer(page, judge, 2)
        expect(page.get_by_text("1 answer waits for the connection")).to_be_visible()
        page.context.set_offline(False)
        for at in range(3, PAIRS):
            self.at(page, at + 1)
            self.answer(page, judge, at)
        expect(page.get_by_role("heading", name="That was all. Thank you.")).to_be_visible()
        self.assertEqual(Call.objects.filter(judge=judge).count(), PAIRS)
        self.no_names(page, heard)

    def hold(self, page: Page) -> None:
        """The right one in the left one's place, to the pixel, while a key is held."""
        left, right = page.get_by_alt_text("Left"), page.get_by_alt_text("Right")
        before = left.bounding_box()
        page.keyboard.down(" ")
        expect(left).not_to_be_visible()
        self.assertEqual(right.bounding_box(), before)
        page.keyboard.up(" ")
        expect(left).to_be_visible()
        self.assertEqual(left.bounding_box(), before)

    def sit_on_a_phone(self, link: str) -> None:
        phone = self.open_page_for(PHONE)
        heard = self.listen(phone)
        phone.goto(link)
        phone.get_by_label("Nickname, if you like").fill("Wren")
        self.assert_accessible("an invitation on a phone", phone)
        phone.get_by_role("button", name="Take a seat").tap()
        phone.get_by_role("button", name="Begin").tap()
        self.at(phone, 1)
        self.assert_accessible("a sitting on a phone", phone)
        self.assertLessEqual(phone.evaluate("document.documentElement.scrollWidth"), 390)
        judge = self.judge_of(phone)
        for at in range(PAIRS):
            self.at(phone, at + 1)
            names = {"ArrowLeft": "Left", "ArrowRight": "Right", "ArrowDown": "No difference"}
            answers = phone.get_by_role("group", name="Your answer")
            answers.get_by_role("button", name=names[self.key_for(judge, at)]).tap()
        expect(phone.get_by_role("heading", name="That was all. Thank you.")).to_be_visible()
        self.no_names(phone, heard)
        # The bench stays behind its door.
        phone.goto(f"{self.live_server_url}/studies")
        expect(phone.get_by_role("button", name="Sign in")).to_be_visible()

    def open_page_for(self, device: dict[str, Any]) -> Page:
        context = self.browser.new_context(**device)
        self.addCleanup(context.close)
        page = context.new_page()
        page.set_default_timeout(30_000)
        return page

    def guest_link(self) -> str:
        page = self.page
        guests = page.get_by_role("region", name="Guests")
        guests.get_by_label("For whom").fill("Readers")
        guests.get_by_role("button", name="Add link").click()
        cell = guests.get_by_role("row", name=re.compile("Readers")).get_by_role("cell").nth(1)
        return cell.inner_text()

    def at(self, page: Page, number: int) -> None:
        expect(page.get_by_text(f"pair {number} of {PAIRS}")).to_be_visible()
        left = page.get_by_role("group", name="Your answer").get_by_role("button").first
        expect(left).to_be_enabled()

    def judge_of(self, page: Page) -> Judge:
        return Judge.objects.get(pk=int(page.url.rpartition("/")[2].split("-")[0]))

    def key_for(self, judge: Judge, place: int) -> str:
        letters = judge.places[place]["letters"]
        if letters[0] == letters[1]:
            return "ArrowDown"
        return "ArrowLeft" if letters[0] == "B" else "ArrowRight"

    def answer(self, page: Page, judge: Judge, place: int) -> None:
        page.keyboard.press(self.key_for(judge, place))

    def listen(self, page: Page) -> list[Response]:
        heard: list[Response] = []
        page.on("response", lambda response: heard.append(response))
        return heard

    def no_names(self, page: Page, heard: list[Response]) -> None:
        """Neither in the page nor in anything that came over the wire while it was shown."""
        self.assertIsNone(NAMES.search(page.content().split("<body", 1)[1].encode()))
        told = [r for r in heard if "/api/seats/" in r.url or "/api/invitations/" in r.url]
        lengths: set[int] = set()
        for answer in told:
            self.assertIsNone(NAMES.search(answer.url.encode()), answer.url)
            headers = answer.all_headers()
            self.assertIsNone(NAMES.search(repr(sorted(headers.items())).encode()))
            self.assertNotIn("etag", headers)
            self.assertNotIn("last-modified", headers)
            if answer.url.endswith(".png") and answer.ok:
                self.assertEqual(headers["cache-control"], "no-store")
                lengths.add(int(headers["content-length"]))
            elif answer.ok and answer.request.method == "GET":
                again = page.request.get(answer.url)
                self.assertIsNone(NAMES.search(again.body()), answer.url)
        self.assertEqual(len(lengths), 1, "every picture of a sitting has one length")
        others = {urlsplit(r.url).path for r in heard if "/api/" in r.url} - {
            urlsplit(r.url).path for r in told
        }
        if "invited" in heard[0].url:
            self.assertEqual(others, {"/api/session"})
