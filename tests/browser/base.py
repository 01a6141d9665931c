"""The real interface in headless Chromium, with a worker beside it."""

from __future__ import annotations

import contextlib
import re
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any, ClassVar

from django.contrib.auth.models import User
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.db import connections, transaction
from django.db.models.signals import post_save
from django.test import Client
from playwright.sync_api import (
    Browser,
    ConsoleMessage,
    Locator,
    Page,
    Playwright,
    expect,
    sync_playwright,
)

from glenhail.server.accounts.actions.members import add_member
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.jobs.models import Job, State
from glenhail.server.jobs.tasks import run_job
from tests.browser.chromium import opened
from tests.emptying import Emptied
from tests.server.base import TERMS, upload
from tests.server.test_hostile_calls import JSON

ROOT = Path(__file__).resolve().parents[2]
AXE = ROOT / "web/node_modules/axe-core/axe.min.js"


# Native controls of the application that no component of the platform has around them.
RAW = """() => !document.querySelector('.v-application') ? [] : Object.entries({
  'button': '.v-btn', 'select': '.v-select', 'input, textarea': '.v-input',
  'table': '.v-table', 'dialog': '.v-overlay',
}).flatMap(([raw, around]) => [...document.querySelectorAll(raw)]
  .filter(e => !e.closest(around)).map(e => e.outerHTML.slice(0, 160)))"""


class Worker(threading.Thread):
    """Does queued jobs one after the other, as the worker process does."""

    def __init__(self) -> None:
        super().__init__(daemon=True)
        self.stopping = threading.Event()
        self.queued = threading.Event()

    def run(self) -> None:
        post_save.connect(self._saved, sender=Job)
        while not self.stopping.is_set():
            self.queued.clear()
            job = Job.objects.filter(state=State.QUEUED).order_by("pk").first()
            if job is not None:
                run_job(job.pk)
            else:
                # What was queued by no save of a row is looked for now and then.
                self.queued.wait(0.5)
        post_save.disconnect(self._saved, sender=Job)
        connections.close_all()

    def _saved(self, **_: Any) -> None:
        transaction.on_commit(self.queued.set)

    def stop(self) -> None:
        self.stopping.set()
        self.queued.set()
        self.join(60)


class BrowserTest(Emptied, StaticLiveServerTestCase):
    """One browser for a class, one page and one bench for a test."""

    playwright: ClassVar[Playwright]
    browser: ClassVar[Browser]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.playwright = sync_playwright().start()
        cls.browser = opened(cls.playwright)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.browser.close()
        cls.playwright.stop()
        super().tearDownClass()

    def setUp(self) -> None:
        self.bench = Bench.objects.create(name="Bench")
        for role in Role:
            add_member(self.bench, role.value, "secret-words", role)
        self.worker = Worker()
        self.worker.start()
        self.addCleanup(self.worker.stop)
        self.page = self.open_page()

    def open_page(self, **options: Any) -> Page:
        context = self.browser.new_context(viewport={"width": 1280, "height": 800}, **options)
        self.addCleanup(context.close)
        page = context.new_page()
        page.set_default_timeout(30_000)
        expect.set_options(timeout=30_000)
        self.errors: list[str] = []
        self.lost: list[str] = []
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        page.on("console", self._heard)
        page.on("requestfailed", lambda r: self.lost.append(f"{r.url}: {r.failure}"))
        page.on(
            "response",
            lambda r: self.lost.append(f"{r.url}: {r.status}") if r.status >= 500 else None,
        )
        self.addCleanup(self._tell_of, page)
        return page

    def _tell_of(self, page: Page) -> None:
        """Where a test failed, what its page was, for whoever reads it elsewhere."""
        result = self._outcome.result  # type: ignore[attr-defined]
        if all(test is not self for test, _ in (*result.failures, *result.errors)):
            return
        print(
            f"the page of {self.id()} was {page.url}; errors {self.errors}; lost {self.lost[-5:]}"
        )

    def _heard(self, message: ConsoleMessage) -> None:
        """What goes wrong while a page is drawn is caught, and told on the console."""
        if message.type == "error" and "Error: " in message.text:
            self.errors.append(message.text)

    def sign_in(self, name: str = "owner", page: Page | None = None) -> Page:
        page = page or self.page
        page.goto(f"{self.live_server_url}/studies")
        page.get_by_label("Name").fill(name)
        page.get_by_label("Password").fill("secret-words")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Studies")).to_be_visible()
        return page

    def study_with_outputs(self, **tools: str) -> int:
        """A study of one frame with its truth, and an output of each tool: its id."""
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        question = {"question": "Which is better?", "factor": "tool"}
        study: int = client.post("/api/studies", question, JSON).json()["id"]
        frame = client.post("/api/frames", upload("frame", "roofs.tif")).json()["id"]
        client.post(f"/api/frames/{frame}/truth", upload("truth"))
        client.post("/api/frames/terms", {"frames": [frame], **TERMS}, JSON)
        client.post(f"/api/studies/{study}/frames", {"frame": frame}, JSON)
        for tool, kind in tools.items():
            steps = [{"tool": tool, "release": "1", "mode": "", "strength": 60, "settings": []}]
            entered = client.post(f"/api/studies/{study}/contenders", {"steps": steps}, JSON).json()
            client.post(f"/api/contenders/{entered['id']}/outputs/{frame}", upload(kind))
        self.idle()
        return study

    def go_to_stage(self, name: str) -> None:
        """Along the ruler of a study."""
        stages = self.page.get_by_role("navigation", name="Stages of the study")
        stages.get_by_role("link", name=name).click()

    def choose_option(self, field: Locator | str, option: str | re.Pattern[str]) -> None:
        """Open a list of choices, by the field or its label, and take one."""
        if isinstance(field, str):
            field = self.page.get_by_role("combobox", name=field, exact=True)
        field.first.press("ArrowDown")
        wanted = self.page.get_by_role("option", name=option, exact=isinstance(option, str))
        expect(self.page.get_by_role("option").first).to_be_visible()
        # Long lists draw what is in sight.
        for _ in range(40):
            if wanted.count():
                break
            self.page.get_by_role("listbox").evaluate("e => e.scrollBy(0, 150)")
            self.page.wait_for_timeout(50)
        self.take_option(wanted)

    def take_option(self, wanted: Locator) -> None:
        """Click until its list is gone: a list that lays itself out anew between press
        and release loses the click, as it would lose a hand's.
        """
        listbox = self.page.get_by_role("listbox")
        for _ in range(4):
            wanted.click()
            with contextlib.suppress(AssertionError):
                expect(listbox).to_have_count(0, timeout=6_000)
                return
        expect(listbox).to_have_count(0)

    def tick_options(self, field: str, *options: str | re.Pattern[str]) -> None:
        """Take several of a list that stays open, and close it."""
        self.page.get_by_role("combobox", name=field, exact=True).press("ArrowDown")
        for option in options:
            wanted = self.page.get_by_role("option", name=option, exact=isinstance(option, str))
            wanted.click()
            expect(wanted).to_have_attribute("aria-selected", "true")
        self.page.get_by_role("combobox", name=field, exact=True).press("Tab")
        expect(self.page.get_by_role("listbox")).to_have_count(0)

    def choose_from_menu(self, button: str, item: str | re.Pattern[str]) -> None:
        """Open a menu and take one of its items; as `take_option`, until it is gone."""
        self.page.get_by_role("button", name=button, exact=True).first.click()
        items = self.page.locator(".v-overlay--active .v-list-item")
        for _ in range(4):
            items.filter(has_text=item).first.click()
            with contextlib.suppress(AssertionError):
                expect(items).to_have_count(0, timeout=6_000)
                return
        expect(items).to_have_count(0)

    def add_block(self, kind: str) -> None:
        """Add one to the report: a menu that moves under the pointer is closed by a click
        beside it, as by a hand's, and opened again.
        """
        lines = self.page.get_by_role("list", name="Blocks of the report").locator(".line")
        expect(lines.first).to_be_visible()
        wanted = lines.count() + 1
        for _ in range(4):
            self.choose_from_menu("Add block", re.compile(f"^{kind}$"))
            with contextlib.suppress(AssertionError):
                expect(lines).to_have_count(wanted, timeout=6_000)
                return
        expect(lines).to_have_count(wanted)

    def undo(self, words: str) -> None:
        """By the notice with these words; the one before it may still be fading."""
        notice = self.page.get_by_role("status").filter(has_text=words)
        notice.get_by_role("button", name="Undo").click()

    def until(self, holds: Callable[[], bool], seconds: float = 30) -> None:
        """Wait for what no page shows."""
        end = time.monotonic() + seconds
        while not holds():
            self.assertLess(time.monotonic(), end, "it did not come true")
            self.page.wait_for_timeout(50)

    def idle(self, seconds: float = 240) -> None:
        """Until all work is done."""
        end = time.monotonic() + seconds
        while Job.objects.filter(state__in=[State.QUEUED, State.RUNNING]).exists():
            self.assertLess(time.monotonic(), end, "the work does not end")
            time.sleep(0.1)

    def assert_accessible(self, where: str, page: Page | None = None) -> None:
        """Axe finds nothing against WCAG 2.2 A and AA."""
        page = page or self.page
        # What fades in has its contrast only once it is there.
        still = (
            "() => document.getAnimations().every(a => a.playState !== 'running' ||"
            " a.effect.getComputedTiming().endTime === Infinity)"
        )
        page.wait_for_function(still)
        page.evaluate(AXE.read_text())
        tags = ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]
        found = page.evaluate("tags => axe.run(document, { runOnly: tags })", tags)
        said = [
            f"{v['id']}: {v['nodes'][0]['html'][:160]} {v['nodes'][0]['failureSummary'][:200]}"
            for v in found["violations"]
        ]
        self.assertEqual(said, [], where)
        self.assert_own_controls(where, page)

    def assert_own_controls(self, where: str, page: Page) -> None:
        """Every control is the platform's, in our look: none stands there raw."""
        raw = page.evaluate(RAW)
        self.assertEqual(raw, [], where)
