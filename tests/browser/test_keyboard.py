"""The whole job by keyboard alone: nothing is clicked, and all that is used is reached by Tab."""

from __future__ import annotations

import re
import tempfile
from pathlib import Path

from playwright.sync_api import Locator, TimeoutError, expect

from glenhail.server.publishing.models import Edition
from glenhail.server.studies.models import Patch
from tests.browser.base import BrowserTest
from tests.server.base import tiff

MOST_STEPS = 90  # of Tab until something is reached, on the longest page
ON_IT = "e => e === document.activeElement || e.contains(document.activeElement)"
SEEN = """() => {
  const e = document.activeElement;
  if (!e || e === document.body) return true;
  const outline = (x) => x && getComputedStyle(x).outlineStyle !== 'none';
  return outline(e) || !!e.closest('.v-field--focused, .v-selection-control--focus-visible')
    || !!e.closest('.v-field');
}"""


class Keyboard(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        for kind, name in (("frame", "mill.tif"), ("truth", "truth.tif"), ("smooth", "mill_A.tif")):
            (self.folder / name).write_bytes(tiff(kind))

    def reach(self, wanted: Locator) -> None:
        """Go on by Tab until it has the focus, which is seen wherever it is."""
        expect(wanted).to_be_visible()
        expect(wanted).to_be_enabled()
        for _ in range(MOST_STEPS):
            if wanted.evaluate(ON_IT):
                self.assertTrue(self.page.evaluate(SEEN), f"{wanted}: its focus is not seen")
                return
            self.page.keyboard.press("Tab")
        self.fail(f"{wanted} is not reached by Tab")

    def press(self, wanted: Locator, key: str = "Enter") -> None:
        self.reach(wanted)
        self.page.keyboard.press(key)

    def button(self, name: str, exact: bool = True) -> Locator:
        return self.page.get_by_role("button", name=name, exact=exact)

    def write(self, field: str, text: str) -> None:
        # A field's open list of choices has its name too.
        fields = self.page.get_by_label(field, exact=True)
        box = fields.and_(self.page.locator("input, textarea"))
        # A text can be read before it can be written: until its saved state has come.
        expect(box).to_be_editable()
        self.reach(box)
        self.page.keyboard.press("ControlOrMeta+a")
        self.page.keyboard.type(text)

    def send(self, button: str, file: str) -> None:
        """Through the browser's own choice of files; a page that has just come may take the
        focus once more.
        """
        for _ in range(3):
            try:
                with self.page.expect_file_chooser(timeout=5000) as chooser:
                    self.press(self.button(button).first)
            except TimeoutError:
                continue
            chooser.value.set_files(self.folder / file)
            return
        self.fail(f"{button} lets nobody choose a file")

    def tab(self, name: str) -> None:
        """Along a list of tabs by the arrows, as such lists go."""
        self.reach(self.page.get_by_role("tab", selected=True).first)
        wanted = self.page.get_by_role("tab", name=name, exact=True)
        for _ in range(8):
            if wanted.evaluate(ON_IT):
                break
            self.page.keyboard.press("ArrowRight")
        self.press(wanted)

    def stage(self, name: str) -> None:
        stages = self.page.get_by_role("navigation", name="Stages of the study")
        self.press(stages.get_by_role("link", name=name))

    def test_from_signing_in_to_a_published_edition(self) -> None:
        page = self.page
        page.goto(f"{self.live_server_url}/studies")
        self.write("Name", "owner")
        self.write("Password", "secret-words")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Studies")).to_be_visible()
        self.set_up()
        self.bring_in()
        self.compare()
        self.judge_and_publish()
        self.assertEqual(self.errors, [])

    def set_up(self) -> None:
        page = self.page
        self.press(self.button("Add study"))
        self.write("Question the study answers", "Which keeps the tiles?")
        page.keyboard.press("Enter")
        expect(page.get_by_text("no frame yet", exact=True)).to_be_visible()
        self.send("Add frames", "mill.tif")
        expect(page.get_by_text("640 × 427 px, 16 bit TIFF")).to_be_visible()
        self.send("Add truth", "truth.tif")
        expect(page.get_by_text("truth.tif").first).to_be_visible()
        self.press(self.button("Add contender"))
        self.write("Tool or method", "Sedgewash")
        self.write("Release", "3.0")
        page.keyboard.press("Tab")
        self.press(page.get_by_role("button", name="Add", exact=True))
        expect(self.button("Remove Sedgewash 3.0")).to_be_visible()

    def bring_in(self) -> None:
        self.stage("Bring in")
        self.send("Add output", "mill_A.tif")
        expect(self.button("Remove A on mill")).to_be_visible()
        self.idle()

    def compare(self) -> None:
        page = self.page
        self.stage("Compare")
        self.tab("Patches")
        self.press(self.button("Add patch"))
        expect(page.get_by_label(re.compile("Name of"))).to_be_visible()
        before = Patch.objects.get()
        board = page.get_by_role("application")
        self.reach(board)
        page.keyboard.press("Shift+ArrowRight")
        self.until(lambda: Patch.objects.get().x == before.x + 10)
        self.idle()
        self.tab("Wall")
        expect(page.locator(".wall canvas[data-complete=true]")).to_have_count(3)
        self.press(page.get_by_role("link", name=re.compile("Look closer: .*, A")))
        expect(page.locator("section.pane canvas[data-complete=true]")).to_have_count(3)
        page.keyboard.press("+")
        expect(page).to_have_url(re.compile("zoom="))
        page.keyboard.press("Escape")
        expect(page.locator(".wall")).to_be_visible()

    def judge_and_publish(self) -> None:
        page = self.page
        self.stage("Judge")
        self.press(self.button("Add verdict"))
        self.write("Use", "Large print")
        self.write("Verdict", "A keeps them.")
        self.press(self.button("Save verdicts"))
        expect(page.get_by_text("1 verdict", exact=True)).to_be_visible()
        self.stage("Publish")
        self.write("Summary", "A short one.")
        self.press(self.button("Save"))
        self.press(self.button("Publish edition 1"))
        self.press(self.button("Publish for good"))
        link = page.get_by_role("link", name="Edition 1", exact=True)
        expect(link).to_be_visible()
        self.assertEqual(Edition.objects.get().number, 1)
        self.press(link)
        expect(page.get_by_text("A keeps them.")).to_be_visible()
