"""An owner has a build server told of what happens, and sees what arrived."""

from __future__ import annotations

import threading

from django.test import override_settings
from playwright.sync_api import expect

from glenhail.core.automation.signing import holds
from glenhail.server.hooks.models import Hook
from tests.browser.base import BrowserTest
from tests.server.test_hooks import Program


@override_settings(HOOKS_LOCAL=True)
class Programs(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.program = Program()
        threading.Thread(target=self.program.serve_forever, daemon=True).start()
        self.addCleanup(self.program.server_close)
        self.addCleanup(self.program.shutdown)

    def test_it_is_entered_tried_heard_of_and_removed(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/bench/people")
        page.get_by_role("tab", name="Programs").click()
        expect(page.get_by_role("heading", name="Add a program")).to_be_visible()
        page.get_by_role("textbox", name="Address").fill("build server")
        page.get_by_role("button", name="Add program").click()
        expect(page.get_by_text("an address begins with https")).to_be_visible()
        page.get_by_role("textbox", name="Address").fill(self.program.address)
        page.get_by_role("button", name="Add program").click()
        dialog = page.get_by_role("dialog")
        secret = dialog.get_by_role("textbox", name="Secret").input_value()
        self.assert_accessible("the secret of a program")
        dialog.get_by_role("button", name="Close").click()
        row = page.get_by_role("row").filter(has_text=self.program.address)
        expect(row.get_by_text("nothing was told yet")).to_be_visible()
        self.program.answers = 500
        row.get_by_role("button", name="Try").click()
        expect(row.get_by_text("did not arrive: it answered 500")).to_be_visible()
        self.program.answers = 204
        row.get_by_role("button", name="Try").click()
        expect(row.get_by_text("“readings ready” arrived")).to_be_visible()
        self.assert_accessible("programs that are told")
        (first, second) = self.program.told
        now = int(Hook.objects.get().tellings.all()[0].created.timestamp())
        self.assertTrue(holds(first, secret.encode(), now))
        self.assertTrue(holds(second, secret.encode(), now))
        row.get_by_role("button", name="Remove").click()
        page.get_by_role("dialog").get_by_role("button", name="Remove").click()
        expect(row).to_have_count(0)
        self.assertFalse(Hook.objects.exists())
        self.assertEqual(self.errors, [])
