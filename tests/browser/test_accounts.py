"""Who works at a bench, by its own pages: invited, given a role, helped to a new
password, removed; tokens, storage, trail.
"""

from __future__ import annotations

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import Page, expect

from glenhail.server.accounts.models import Membership, Token
from tests.browser.base import BrowserTest

GOOD = "loom-and-shuttle"


class Accounts(BrowserTest):
    def link(self, page: Page) -> str:
        """The link that is shown, to be handed over."""
        dialog = page.get_by_role("dialog")
        address = dialog.get_by_label("Link", exact=True).input_value()
        dialog.get_by_role("button", name="Close").click()
        expect(dialog).not_to_be_visible()
        return address

    def test_somebody_is_invited_joins_is_given_another_role_and_removed(self) -> None:
        page = self.sign_in()
        page.get_by_role("button", name="owner", exact=True).click()
        page.get_by_role("link", name="Bench", exact=True).click()
        expect(page.get_by_role("cell", name="owner (you)")).to_be_visible()
        self.assert_accessible("people")
        page.get_by_role("button", name="Create invitation link").click()
        expect(page.get_by_text("One person can join with it as editor")).to_be_visible()
        self.assert_accessible("invitation link")
        address = self.link(page)
        joining = self.open_page()
        joining.goto(address)
        self.assert_accessible("join", joining)
        joining.get_by_label("Name").fill("ada")
        joining.get_by_label("New password").fill("short")
        joining.get_by_role("button", name="Join the bench").click()
        expect(joining.get_by_role("alert").filter(has_text="at least 10")).to_be_visible()
        joining.get_by_label("New password").fill(GOOD)
        joining.get_by_role("button", name="Join the bench").click()
        expect(joining.get_by_role("button", name="ada", exact=True)).to_be_visible()
        # The link let one person in.
        late = self.open_page()
        late.goto(address)
        late.get_by_label("Name").fill("bo")
        late.get_by_label("New password").fill(GOOD)
        late.get_by_role("button", name="Join the bench").click()
        expect(
            late.get_by_role("alert").filter(has_text="Ask an owner of the bench for another")
        ).to_be_visible()
        page.reload()
        page.get_by_role("combobox", name="Role of ada").press("ArrowDown")
        page.get_by_role("option", name="viewer").click()
        expect(page.get_by_text("Role changed.")).to_be_visible()
        self.assertEqual(Membership.objects.get(user__username="ada").role, "viewer")
        page.get_by_role("button", name="Remove ada").click()
        page.get_by_role("dialog").get_by_role("button", name="Remove", exact=True).click()
        expect(page.get_by_role("cell", name="ada", exact=True)).not_to_be_visible()
        joining.reload()
        expect(joining.get_by_role("button", name="Sign in")).to_be_visible()
        page.get_by_role("tab", name="Trail").click()
        expect(
            page.get_by_role("row").filter(has_text="shut out").filter(has_text="ada")
        ).to_be_visible()
        self.assert_accessible("trail")
        page.get_by_role("tab", name="Storage").click()
        expect(page.get_by_text("Nothing: everything on the disk is needed.")).to_be_visible()
        self.assert_accessible("storage")

    def test_the_only_owner_can_not_step_down_and_is_told_so(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/bench/people")
        page.get_by_role("combobox", name="Role of owner").press("ArrowDown")
        page.get_by_role("option", name="viewer").click()
        expect(page.get_by_text("This is the only owner.")).to_be_visible()
        expect(page.get_by_role("button", name="owner", exact=True)).to_be_visible()

    def test_a_forgotten_password_is_set_by_a_link_that_an_owner_hands_over(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/bench/people")
        page.get_by_role("button", name="New password for editor").click()
        expect(page.get_by_text("editor can set a new password with it")).to_be_visible()
        other = self.open_page()
        other.goto(self.link(page))
        other.get_by_label("New password").fill(GOOD)
        other.get_by_role("button", name="Set a new password").click()
        # What is filled in before the page has changed is lost with it.
        expect(other.get_by_label("New password")).to_have_count(0)
        other.get_by_label("Name").fill("editor")
        other.get_by_label("Password").fill(GOOD)
        expect(other.get_by_label("Name")).to_have_value("editor")
        other.get_by_role("button", name="Sign in").click()
        other.get_by_role("button", name="editor", exact=True).click()
        expect(other.get_by_role("link", name="Account")).to_be_visible()
        expect(other.get_by_role("link", name="Bench", exact=True)).not_to_be_visible()
        other.goto(f"{self.live_server_url}/bench/people")
        expect(other.get_by_text("managed by owners")).to_be_visible()
        other.goto(f"{self.live_server_url}/join")
        expect(other.get_by_role("alert").filter(has_text="not complete")).to_be_visible()

    def test_ones_own_password_sessions_and_tokens(self) -> None:
        elsewhere = self.sign_in(page=self.open_page())
        page = self.sign_in()
        page.get_by_role("button", name="owner", exact=True).click()
        page.get_by_role("link", name="Account").click()
        expect(page.get_by_text("This browser")).to_be_visible()
        self.assert_accessible("account")
        page.get_by_label("Name of the token").fill("Nightly")
        page.get_by_role("button", name="Add token").click()
        dialog = page.get_by_role("dialog")
        text = dialog.get_by_label("Token", exact=True).input_value()
        dialog.get_by_role("button", name="Close").click()
        expect(
            page.get_by_role("row").filter(has_text="Nightly").filter(has_text="viewer")
        ).to_be_visible()
        script = Client(headers={"Authorization": f"Bearer {text}"})
        self.assertEqual(script.get("/api/studies").status_code, 200)
        page.get_by_role("button", name="Remove token Nightly").click()
        expect(page.get_by_role("cell", name="Nightly", exact=True)).not_to_be_visible()
        self.assertEqual((script.get("/api/studies").status_code, Token.objects.count()), (401, 0))
        page.get_by_role("button", name="End session").click()
        expect(page.get_by_text("Another browser")).not_to_be_visible()
        elsewhere.reload()
        expect(elsewhere.get_by_role("button", name="Sign in")).to_be_visible()
        for old, new, words in (
            ("wrong", GOOD, "another one"),
            ("secret-words", "1234567890", "too common"),
        ):
            page.get_by_label("Current password").fill(old)
            page.get_by_label("New password").fill(new)
            page.get_by_role("button", name="Change password").click()
            expect(page.get_by_role("alert").filter(has_text=words)).to_be_visible()
        page.get_by_label("New password").fill(GOOD)
        page.get_by_role("button", name="Change password").click()
        expect(page.get_by_text("Password changed.")).to_be_visible()
        self.assertTrue(User.objects.get(username="owner").check_password(GOOD))
