"""What a reviewer does from the first question to the first edition, with files of
their own.
"""

from __future__ import annotations

import re
import tempfile
from pathlib import Path

from playwright.sync_api import Locator, Page, expect

from glenhail.server.studies.models import Patch, Study
from tests.browser.base import BrowserTest
from tests.server.base import tiff


class Walk(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        for kind, name in {
            "frame": "mill.tif",
            "truth": "mill-truth.tif",
            "smooth": "mill_A.tif",
            "double": "mill_B2x.tif",
            "other": "wrong.tif",
        }.items():
            (self.folder / name).write_bytes(tiff(kind))

    def choose(self, label: str, file: str) -> None:
        """Choose a file where it says `label`; the first such place if there are
        several.
        """
        self.page.locator(f'input[aria-label="{label}"]').first.set_input_files(self.folder / file)

    def test_from_a_question_to_a_published_edition(self) -> None:
        page = self.sign_in()
        self.ask("Which keeps the roof tiles?")
        self.add_frame()
        self.enter("Sedgewash", "3.0")
        self.enter("Tarnlift", "1.8")
        self.bring_in()
        self.draw_patches()
        self.see_wall_and_numbers()
        self.look_closely()
        self.publish(page)
        self.assertEqual(self.errors, [])

    def ask(self, question: str) -> None:
        page = self.page
        page.get_by_role("button", name="Add study").click()
        page.get_by_label("Question the study answers").fill(question)
        page.get_by_role("button", name="Add", exact=True).click()
        expect(page.get_by_role("heading", name=question)).to_be_visible()
        expect(page.get_by_text("no frame yet", exact=True)).to_be_visible()

    def add_frame(self) -> None:
        page = self.page
        self.choose("Add frames", "mill.tif")
        expect(page.get_by_text("640 × 427 px, 16 bit TIFF")).to_be_visible()
        self.choose("Add truth", "mill-truth.tif")
        expect(page.get_by_text("mill-truth.tif").first).to_be_visible()
        self.choose_option("Scene", "Add scene …")
        page.get_by_label("What was photographed").fill("Roofs at noon")
        page.get_by_label("hard edges").check()
        page.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("button", name="Edit scene")).to_be_visible()
        expect(page.get_by_text("Roofs at noon").first).to_be_visible()
        expect(page.get_by_text("hard edges", exact=True)).to_be_visible()
        self.assert_accessible("set up")

    def enter(self, tool: str, release: str) -> None:
        page = self.page
        page.get_by_role("button", name="Add contender").click()
        page.get_by_role("combobox", name="Tool or method").fill(tool)
        page.get_by_role("combobox", name="Release").fill(release)
        page.get_by_label("Strength", exact=True).fill("60")
        page.get_by_role("button", name="Add", exact=True).click()
        expect(page.get_by_role("button", name=f"Remove {tool} {release}")).to_be_visible()

    def bring_in(self) -> None:
        page = self.page
        self.go_to_stage("Bring in")
        self.choose("Add output", "mill_A.tif")
        expect(page.get_by_role("button", name="Remove A on mill")).to_be_visible()
        self.choose("Add output", "wrong.tif")
        expect(page.get_by_role("alert")).to_contain_text(
            "wrong.tif: it does not show the same picture"
        )
        self.choose("Add another file", "mill_B2x.tif")
        expect(page.get_by_text("scale 2×")).to_be_visible()
        self.assert_accessible("bring in")

    def draw_patches(self) -> None:
        page = self.page
        self.go_to_stage("Compare")
        expect(page.get_by_text("No patches yet")).to_be_visible()
        page.get_by_role("tab", name="Patches", exact=True).click()
        board = page.get_by_role("application")
        expect(board.locator("canvas[data-complete=true]")).to_be_visible()
        # The pointer draws one ...
        self.choose_option("Patch type", "flat")
        self.drag(board, (0.06, 0.06), (0.21, 0.18))
        expect(page.get_by_label("Name of Flat 1")).to_be_visible()
        drawn = Patch.objects.get()
        self.assertTrue(80 < drawn.w < 115, drawn.w)
        # ... and the keyboard alone draws, moves and names another.
        self.choose_option("Patch type", "texture")
        page.get_by_role("button", name="Add patch").press("Enter")
        expect(page.get_by_label("Name of Texture 1")).to_be_visible()
        before = Patch.objects.get(role="texture").x
        board.focus()
        board.press("Shift+ArrowLeft")
        self.until(lambda: Patch.objects.get(role="texture").x == before - 10)
        name = page.get_by_label("Name of Texture 1")
        name.fill("Roof")
        name.press("Enter")
        expect(page.get_by_label("Name of Roof")).to_be_visible()
        self.assert_accessible("patches")
        self.idle()

    def drag(self, board: Locator, start: tuple[float, float], end: tuple[float, float]) -> None:
        """Drag between two places given as shares of the frame as it lies on the board."""
        box = board.bounding_box()
        assert box
        scale = min(box["width"] / 640, box["height"] / 427)
        left, top = (
            box["x"] + (box["width"] - 640 * scale) / 2,
            box["y"] + (box["height"] - 427 * scale) / 2,
        )
        at = [(left + x * 640 * scale, top + y * 427 * scale) for x, y in (start, end)]
        self.page.mouse.move(*at[0])
        self.page.mouse.down()
        self.page.mouse.move(*at[1], steps=5)
        self.page.mouse.up()

    def see_wall_and_numbers(self) -> None:
        page = self.page
        page.get_by_role("tab", name="Wall", exact=True).click()
        # Two patches, four columns: truth, unprocessed, A, B.
        expect(page.locator(".wall canvas[data-complete=true]")).to_have_count(8)
        expect(page.locator(".wall").get_by_text("1st").first).to_be_visible()
        self.choose_option("Subject at", "400 %")
        expect(page).to_have_url(re.compile("zoom=4"))
        self.assert_accessible("wall")
        page.get_by_role("tab", name="Numbers", exact=True).click()
        expect(page.get_by_role("heading", name="Roof texture, mill")).to_be_visible()
        expect(page.get_by_text("this is the truth itself").first).to_be_visible()
        page.get_by_role("row", name=re.compile("Brightness noise")).locator(".value").first.click()
        expect(page.get_by_role("dialog")).to_contain_text("95 % interval")
        self.assert_accessible("numbers")
        page.get_by_role("button", name="Close").click()

    def look_closely(self) -> None:
        page = self.page
        page.get_by_role("tab", name="Wall", exact=True).click()
        self.choose_option("Subject at", "200 %")
        page.get_by_role("link", name="Look closer: Roof, B").press("Enter")
        # The enlargement at 100 % stands beside the frame at 200 %.
        # What was clicked stands first, then the frame as it was, then its truth.
        expect(page.locator("section.pane")).to_have_count(3)
        letters = page.locator("section.pane").evaluate_all(
            "panes => panes.map((p) => p.getAttribute('aria-label').slice(-1))"
        )
        self.assertEqual(letters, ["B", "U", "T"])
        expect(page.get_by_label("Pane with U")).to_contain_text("200 %, output = frame")
        expect(page.get_by_label("Pane with B")).to_contain_text("100 % of output = 200 % of frame")
        expect(page.locator("canvas[data-complete=true]")).to_have_count(3)
        self.assert_same_detail(page)
        page.keyboard.down(" ")
        expect(page.get_by_label("Pane with U")).to_have_count(2)
        page.keyboard.up(" ")
        expect(page.get_by_label("Pane with B")).to_have_count(1)
        # A letter shows its contender; a pinned pane stays as it is.
        page.keyboard.press("a")
        expect(page.get_by_label("Pane with A")).to_have_count(1)
        page.keyboard.press(";")
        page.keyboard.press("b")
        expect(page.get_by_label("Pane with B")).to_have_count(1)
        expect(page.get_by_label("Pane with A")).to_have_count(1)
        expect(page.get_by_label("Pane with U")).to_have_count(0)
        # Each output's own pixels at one size, and back.
        page.keyboard.press(",")
        expect(page.get_by_label("Pane with B")).to_contain_text("200 % of output = 400 % of frame")
        page.keyboard.press(",")
        for _ in range(3):
            page.keyboard.press("]")
        expect(page.locator("section.pane")).to_have_count(6)
        tops = page.locator("section.pane").evaluate_all(
            "panes => panes.map((p) => Math.round(p.getBoundingClientRect().top))"
        )
        self.assertEqual(len(set(tops)), 2)
        for _ in range(3):
            page.keyboard.press("[")
        expect(page.locator("section.pane")).to_have_count(3)
        page.keyboard.press("+")
        expect(page).to_have_url(re.compile(r"zoom=4"))
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_contain_text("While held")
        page.keyboard.press("Escape")
        self.assert_accessible("close look")
        url = page.url
        page.reload()
        expect(page.locator("section.pane")).to_have_count(3)
        self.assertEqual(page.url, url)
        page.keyboard.press("Escape")
        expect(page.locator(".wall")).to_be_visible()

    def assert_same_detail(self, page: Page) -> None:
        """The same frame point lies under the same place of both panes: their middles
        correlate without a shift.
        """
        best = page.evaluate("""() => {
              const planes = [...document.querySelectorAll("section.pane canvas")].map((c) => {
                const s = 160, left = (c.width - s) / 2, top = (c.height - s) / 2;
                const d = c.getContext("2d").getImageData(left, top, s, s).data;
                const sum = (_, i) => d[4 * i] + d[4 * i + 1] + d[4 * i + 2];
                return Float32Array.from({ length: s * s }, sum);
              });
              const [a, b] = planes, s = 160, m = 12;
              let best = [Infinity, 0, 0];
              for (let dy = -8; dy <= 8; dy++) for (let dx = -8; dx <= 8; dx++) {
                let sum = 0;
                for (let y = m; y < s - m; y++) for (let x = m; x < s - m; x++)
                  sum += (a[y * s + x] - b[(y + dy) * s + x + dx]) ** 2;
                if (sum < best[0]) best = [sum, dx, dy];
              }
              return best.slice(1);
            }""")
        # At 200 % a frame pixel is two screen pixels; nearest and smooth enlargement differ by half
        # of that.
        self.assertLessEqual(max(abs(v) for v in best), 1, best)

    def publish(self, page: Page) -> None:
        self.go_to_stage("Judge")
        page.get_by_role("button", name="Add verdict").click()
        page.get_by_label("Use", exact=True).fill("Large print")
        page.get_by_label("Verdict", exact=True).fill("B keeps the tiles.")
        page.get_by_role("button", name="Save verdicts").click()
        expect(page.get_by_text("1 verdict", exact=True)).to_be_visible()
        self.assert_accessible("judge")
        self.go_to_stage("Publish")
        page.get_by_label("Summary", exact=True).fill("A short one.")
        self.write_blocks()
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_text("Report saved.")).to_be_visible()
        asked = page.get_by_label("What readers would ask")
        expect(asked).to_contain_text("There is no method")
        expect(asked).to_contain_text("There is no disclosure")
        expect(asked).not_to_contain_text("no summary")
        page.get_by_role("button", name="Publish edition 1").click()
        expect(page.get_by_role("dialog")).to_contain_text("stays for ever")
        self.assert_accessible("publish, asked once")
        page.get_by_role("button", name="Publish for good").click()
        link = page.get_by_role("link", name="Edition 1", exact=True)
        expect(link).to_be_visible()
        self.assert_accessible("publish")
        self.read(page.url.split("/studies")[0] + str(link.get_attribute("href")))

    def write_blocks(self) -> None:
        """A heading and a text of one's own, moved to the top by keys; a block removed
        and brought back.
        """
        page = self.page
        order = page.get_by_role("list", name="Blocks of the report")
        lines = order.locator(".line")
        count = lines.count()
        for kind in ("Heading", "Text"):
            self.add_block(kind)
        expect(lines).to_have_count(count + 2)
        page.get_by_role("textbox", name=f"Heading, block {count + 1}").fill("Why the roof")
        page.get_by_role("textbox", name=f"Text, block {count + 2}").click()
        page.keyboard.type("Tiles are the first ")
        bold = page.get_by_role("button", name="Bold", exact=True)
        bold.click()
        # The text has the keys again a moment after the button was pressed.
        expect(bold).to_have_attribute("aria-pressed", "true")
        expect(page.get_by_role("textbox", name=f"Text, block {count + 2}")).to_be_focused()
        page.keyboard.type("to go")
        expect(page.locator("strong", has_text="to go")).to_be_visible()
        self.assert_accessible("publish, writing")
        grip = order.get_by_role("button", name=re.compile("^Move Heading"))
        for _ in range(count):
            grip.press("ArrowUp")
        expect(lines.first).to_contain_text("Heading")
        remarks = order.get_by_role("button", name=re.compile("^Remove Remarks"))
        remarks.click()
        expect(lines).to_have_count(count + 1)
        self.undo("Remarks removed from the report.")
        expect(lines).to_have_count(count + 2)

    def read(self, address: str) -> None:
        """A reader without an account, on a phone."""
        page = self.open_page(is_mobile=True, has_touch=True)
        page.set_viewport_size({"width": 390, "height": 800})
        page.goto(address)
        expect(page.get_by_role("heading", name="Which keeps the roof tiles?")).to_be_visible()
        expect(page.get_by_text("B keeps the tiles.")).to_be_visible()
        self.assertFalse(
            page.evaluate("document.documentElement.scrollWidth > innerWidth + 1"),
            "nothing may stick out",
        )
        self.assert_accessible("edition", page)
        expect(page.get_by_role("heading", name="Why the roof")).to_be_visible()
        expect(page.locator("strong", has_text="to go")).to_be_visible()
        # One crop at a time, another by its letter; what is folded opens.
        figure = page.locator("#figure-1")
        crops = figure.locator(".one")
        self.assertEqual(self.in_sight(crops), [0])
        figure.locator(".strip a").nth(1).click()
        self.until(lambda: self.in_sight(crops) == [1])
        figure.get_by_text("All readings of").click()
        expect(figure.get_by_role("table").first).to_be_visible()
        self.assert_read_without_scripts(address)
        page.get_by_role("button", name="Flick in place").first.click()
        self.assertEqual(figure.locator(".one:visible").count(), 1)
        page.keyboard.press("ArrowRight")
        expect(crops.nth(1)).to_be_visible()
        expect(crops.nth(0)).not_to_be_visible()
        page.get_by_role("button", name="Side by side").click()
        page.get_by_role("button", name="Look closer").first.click()
        dialog = page.get_by_role("dialog")
        page.set_viewport_size({"width": 1280, "height": 800})
        tops = {round(b["y"]) for s in page.locator(".stage").all() if (b := s.bounding_box())}
        self.assertEqual(len(tops), 1, "the same detail must lie at the same height in both panes")
        expect(dialog).to_contain_text("of output = 200 % of frame")
        page.keyboard.press("+")
        expect(dialog).to_contain_text("of output = 400 % of frame")
        self.assert_accessible("edition, looking closer", page)

    def in_sight(self, crops: Locator) -> list[int]:
        """Which crops lie within their figure's width."""
        return [
            i
            for i, box in enumerate(crop.bounding_box() for crop in crops.all())
            if box is not None and box["x"] >= 0 and box["x"] + box["width"] <= 391
        ]

    def assert_read_without_scripts(self, address: str) -> None:
        """Text, tables and crops are all there, on paper too."""
        context = self.browser.new_context(java_script_enabled=False)
        page = context.new_page()
        page.goto(address)
        expect(page.get_by_text("B keeps the tiles.")).to_be_visible()
        table = page.locator("#figure-1 table").first
        expect(table).not_to_be_visible()
        page.locator("#figure-1 summary").click()
        expect(table).to_be_visible()
        page.reload()
        page.emulate_media(media="print")
        expect(table).to_be_visible()
        expect(page.get_by_role("button", name="Look closer").first).not_to_be_visible()
        context.close()


class Viewer(BrowserTest):
    def test_a_viewer_sees_no_control_that_would_be_refused(self) -> None:
        from django.contrib.auth.models import User

        from glenhail.server.studies.actions.study import create_study

        study: Study = create_study(
            User.objects.get(username="owner"), self.bench, "What is there to see?", "tool"
        )
        page = self.sign_in("viewer")
        expect(page.get_by_role("button", name="Add study")).to_have_count(0)
        for stage in ("set-up", "bring-in", "compare", "patches", "numbers", "judge", "publish"):
            page.goto(f"{self.live_server_url}/studies/{study.pk}/{stage}")
            expect(page.get_by_role("heading", name="What is there to see?")).to_be_visible()
            for name in (
                "Add contender",
                "Add frames",
                "Save",
                "Publish edition 1",
                "Add verdict",
            ):
                expect(page.get_by_role("button", name=name)).to_have_count(0)
        self.assertEqual(self.errors, [])


class States(BrowserTest):
    def test_empty_pages_say_what_to_do_next(self) -> None:
        page = self.sign_in()
        expect(page.get_by_text("A study starts with a question")).to_be_visible()
        self.assert_accessible("no study")
        for path, words in {
            "/frames": "No frames yet",
            "/published": "Nothing published yet",
            "/queue": "Nothing is waiting",
            "/nonsense": "There is no such page",
            "/studies/999/compare": "There is no such study",
        }.items():
            page.goto(self.live_server_url + path)
            expect(page.get_by_text(words)).to_be_visible()

    def test_a_bad_file_is_told_where_it_was_dropped_and_in_the_queue(self) -> None:
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/frames")
        with tempfile.TemporaryDirectory() as folder:
            bad = Path(folder) / "notes.tif"
            bad.write_text("this is not a picture")
            page.locator('input[aria-label="Add frames"]').set_input_files(bad)
            expect(page.get_by_text("notes.tif: it is named like a TIFF")).to_be_visible()
        page.goto(f"{self.live_server_url}/queue")
        expect(page.get_by_role("button", name="Retry Reading notes.tif")).to_be_visible()
        self.assert_accessible("queue with a failure")
