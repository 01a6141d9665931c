"""Looking deeper than a display copy: light, planes, differences, one over the other;
values read back from the canvas are held against the formulas and the core.
"""

from __future__ import annotations

import re
from typing import Any

import numpy as np
from django.contrib.auth.models import User
from django.test import Client
from PIL import Image
from playwright.sync_api import Page, expect

from glenhail.core.colour import srgb
from glenhail.core.looking.differences import Kind, difference
from glenhail.core.looking.planes import finest_octave
from glenhail.server.material.decoded import decoded
from glenhail.server.outputs.models import Output
from tests.browser.base import BrowserTest
from tests.browser.chromium import opened
from tests.seeds import drawn

#: 8-bit levels of one canvas at places of it.
READ = """([label, places]) => {
  const canvas = document.querySelector(`canvas[aria-label="${label}"]`);
  const pen = canvas.getContext("2d");
  return places.map(([x, y]) => [...pen.getImageData(x, y, 1, 1).data].slice(0, 3));
}"""
SIZE = """label => {
  const canvas = document.querySelector(`canvas[aria-label="${label}"]`);
  return [canvas.width, canvas.height];
}"""
CENTRE = (320, 213)


def place(at: int, room: int, middle: float, zoom: int = 2) -> int:
    """The frame pixel under a canvas pixel: pictures begin on whole ones."""
    return int(np.floor((at + 0.5 - np.floor(room / 2 - zoom * middle + 0.5)) / zoom))


class LookingTest(BrowserTest):
    """A study that is looked at, and what its canvases show."""

    OUTPUTS = {"Smooth": "smooth", "Large": "double"}

    def setUp(self) -> None:
        super().setUp()
        self.study = self.study_with_outputs(**self.OUTPUTS)
        self.sign_in()

    def look(self, query: str, panes: str = "A,U,T", zoom: int = 2) -> Page:
        """At the frame's middle, under what `query` says, once all of it is drawn."""
        x, y = CENTRE
        frame = Output.objects.first()
        assert frame is not None
        self.page.goto(
            f"{self.live_server_url}/studies/{self.study}/look"
            f"?frame={frame.frame_id}&panes={panes}&x={x}&y={y}&zoom={zoom}&{query}"
        )
        self.drawn()
        return self.page

    def drawn(self) -> None:
        expect(self.page.locator("canvas").first).to_be_visible()
        expect(self.page.locator("canvas:not([data-complete=true])")).to_have_count(0)

    def encoded(self, kind: str) -> np.ndarray:
        return srgb.encode(self.light(kind))

    def light(self, kind: str) -> np.ndarray:
        output = Output.objects.filter(contender__kind=kind).order_by("contender__order").first()
        assert output is not None
        return decoded(output.picture).pixels

    def assert_shows(self, label: str, wanted: np.ndarray, zoom: int = 2) -> None:
        """Twenty places of a canvas, drawn by chance, show `wanted` (frame px, 0..255)."""
        width, height = self.page.evaluate(SIZE, label)
        for name, rng in drawn(1):
            places = rng.integers((4, 4), (width - 4, height - 4), (20, 2)).tolist()
            shown = self.page.evaluate(READ, [label, places])
            for (x, y), found in zip(places, shown, strict=True):
                fx = place(x, width, CENTRE[0], zoom)
                fy = place(y, height, CENTRE[1], zoom)
                want = np.clip(wanted[fy, fx], 0, 255)
                off = np.abs(np.asarray(found) - want).max()
                self.assertLessEqual(off, 1.01, f"{name}: {label} at {fx}, {fy}")


class Looking(LookingTest):
    def test_shadows_are_lifted_from_full_depth(self) -> None:
        page = self.look("lift=4")
        lifted = 255 * srgb.encode(self.light("unprocessed") * 16)
        self.assert_shows("frame of U", lifted)
        expect(page.get_by_label("Pane with U")).to_contain_text("+4 EV")
        # By key, and in the address; the list tells it as well.
        page.keyboard.press("<")
        expect(page).to_have_url(re.compile("lift=3"))
        self.drawn()
        self.assert_shows("frame of T", 255 * srgb.encode(self.light("truth") * 8))
        self.choose_option("Light", "as made")
        expect(page).not_to_have_url(re.compile("lift="))
        self.drawn()
        self.assert_shows("frame of U", 255 * self.encoded("unprocessed"))
        self.assertEqual(self.errors, [])

    def test_dense_and_wide_screens_show_the_same_values(self) -> None:
        lifted = 255 * srgb.encode(self.light("unprocessed") * 8)
        for ratio, profile in ((1.5, "srgb"), (3, "srgb"), (1, "display-p3-d65")):
            with self.subTest(ratio=ratio, profile=profile):
                browser = opened(self.playwright, f"--force-color-profile={profile}")
                self.addCleanup(browser.close)
                context = browser.new_context(
                    viewport={"width": 1280, "height": 800}, device_scale_factor=ratio
                )
                self.page = context.new_page()
                self.page.set_default_timeout(30_000)
                self.sign_in(page=self.page)
                # Pixels stay pixels: one of the frame is eight by eight of the screen's own.
                self.look("lift=3", "U", zoom=8)
                self.assert_shows("frame of U", lifted, zoom=8)
                space = 'label => document.querySelector(`canvas[aria-label="${label}"]`)'
                space += ".getContext('2d').getContextAttributes().colorSpace"
                self.assertEqual(self.page.evaluate(space, "frame of U"), "srgb")
                browser.close()

    def test_what_is_cut_off_is_marked_and_counted(self) -> None:
        page = self.look("marked=clipped-beyond", "U,T")
        light = self.light("unprocessed")
        width, height = page.evaluate(SIZE, "frame of U")
        # Device pixels are half a frame's: those of the part in view.
        xs = [place(x, width, CENTRE[0]) for x in range(width)]
        ys = [place(y, height, CENTRE[1]) for y in range(height)]
        part = light[min(ys) : max(ys) + 1, min(xs) : max(xs) + 1]
        bottom = 100 * ((part <= 1e-5).any(axis=-1) & (part < 0.9999).all(axis=-1)).mean()
        foot = page.get_by_label("Pane with U").locator("footer .shares")
        expect(foot).to_contain_text("beyond sRGB none")
        told = re.search(r"bottom ([\d.]+) %", foot.inner_text())
        assert told is not None, foot.inner_text()
        self.assertAlmostEqual(float(told[1]), bottom, delta=0.06 * bottom + 0.02)
        page.keyboard.press("!")
        expect(foot).not_to_contain_text("bottom")

    def test_planes_are_what_they_are_called(self) -> None:
        page = self.look("plane=brightness")
        encoded = self.encoded("treatment")
        luma = (encoded @ srgb.LUMA)[..., None].repeat(3, axis=-1)
        self.assert_shows("frame of A", 255 * luma)
        page.keyboard.press(")")
        self.drawn()
        self.assert_shows("frame of A", 119 + 2 * 255 * (encoded - luma))
        page.keyboard.press("*")
        self.drawn()
        self.assert_shows("frame of A", 119 + 4 * 255 * (encoded - luma))
        self.choose_option("Plane", "finest octave")
        self.drawn()
        self.assert_shows("frame of A", 119 + 4 * 255 * finest_octave(encoded))
        expect(page.get_by_label("Pane with A")).to_contain_text("finest octave, × 4")
        self.assert_accessible("close look, finest octave")

    def test_differences_and_their_numbers_are_the_cores(self) -> None:
        page = self.look("as=difference&against=T&gain=8&kind=brightness", "A,T")
        label = "Difference of A from T"
        apart = difference(self.light("treatment"), self.light("truth"), Kind.BRIGHTNESS)
        self.assert_shows(label, (119 + 8 * apart)[..., None].repeat(3, axis=-1))
        self.assert_numbers(label, apart)
        self.choose_option("Of", "CIEDE2000")
        self.drawn()
        apart = difference(self.light("treatment"), self.light("truth"), Kind.DE00)
        self.assert_numbers(label, apart)
        self.choose_option("Of", "channels")
        self.drawn()
        apart = difference(self.light("treatment"), self.light("truth"), Kind.ABSOLUTE)
        self.assert_shows(label, 8 * apart)
        # What it differs from is seen as it is.
        self.assert_shows("frame of T", 255 * self.encoded("truth"))
        page.get_by_label("Pane with A").press("/")
        expect(page).to_have_url(re.compile("gain=4"))
        self.assert_accessible("close look, difference")

    def assert_numbers(self, label: str, apart: np.ndarray) -> None:
        width, height = self.page.evaluate(SIZE, label)
        left, top = (
            int(np.ceil(c - s / 4 - 0.5)) for c, s in zip(CENTRE, (width, height), strict=True)
        )
        right, bottom = (
            int(np.ceil(c + s / 4 - 0.5)) for c, s in zip(CENTRE, (width, height), strict=True)
        )
        seen = np.abs(apart[max(0, top) : bottom, max(0, left) : right])
        foot = self.page.get_by_label("Pane with A").locator("footer")
        expect(foot).to_contain_text("99 % within")

        def told() -> bool:
            found = re.search(r"mean ([\d.]+) .*within ([\d.]+)", foot.inner_text())
            if found is None:
                return False
            mean, p99 = (float(v) for v in found.groups())
            return abs(mean - seen.mean()) < 0.1 and abs(p99 - np.percentile(seen, 99)) < 0.1

        self.until(told)

    def test_one_is_revealed_under_the_other_by_pointer_and_keys(self) -> None:
        page = self.look("as=reveal&against=T", "A,U")
        expect(page.locator("section.pane")).to_have_count(1)
        self.assert_shows("frame of A", 255 * self.encoded("treatment"))
        self.assert_shows("frame of T", 255 * self.encoded("truth"))
        under = page.locator(".under")
        box = page.locator(".ground").bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + box["width"] / 4, box["y"] + 50)
        expect(under).to_have_css("clip-path", "inset(0px 0px 0px 25%)")
        page.keyboard.press("ArrowRight")
        expect(under).to_have_css("clip-path", "inset(0px 0px 0px 27%)")
        self.assert_accessible("close look, reveal")

    def test_in_place_they_take_turns_without_moving_or_loading(self) -> None:
        page = self.look("as=in-place", "A,B,T")
        asked: list[str] = []
        page.on("request", lambda request: asked.append(request.url))
        self.assertEqual(self.in_sight(), ["A"])
        page.keyboard.down(" ")
        self.until(lambda: self.in_sight() == ["B"])
        page.keyboard.up(" ")
        self.until(lambda: self.in_sight() == ["A"])
        page.keyboard.press("t")
        self.until(lambda: self.in_sight() == ["T"])
        boxes = page.locator("section.pane canvas").evaluate_all(
            "all => all.map((c) => JSON.stringify(c.getBoundingClientRect()))"
        )
        self.assertEqual(len(set(boxes)), 1)
        # At a rate they take turns by themselves.
        page.get_by_role("button", name="More").click()
        self.choose_option("In place, turns", "4 a second")
        for letter in "ABT":
            self.until(lambda letter=letter: self.in_sight() == [letter])
        self.assertEqual([url for url in asked if "/pictures/" in url], [])

    def in_sight(self) -> list[Any]:
        return list(
            self.page.locator("section.pane").evaluate_all(
                """all => all.filter((p) => getComputedStyle(p).visibility === "visible")
                             .map((p) => p.getAttribute("aria-label").slice(-1))"""
            )
        )

    def test_the_read_out_tells_full_depth_values_of_every_pane(self) -> None:
        page = self.look("", "A,T")
        box = page.get_by_label("Pane with A").locator(".ground").bounding_box()
        assert box is not None
        x, y = box["width"] / 2 + 31, box["height"] / 2 - 21
        page.mouse.move(box["x"] + x, box["y"] + y)
        fx, fy = int(CENTRE[0] + 31 / 2), int(np.floor(CENTRE[1] - 21 / 2))
        for letter, kind in (("A", "treatment"), ("T", "truth")):
            square = self.light(kind)[fy - 2 : fy + 3, fx - 2 : fx + 3]
            mean = 255 * srgb.encode(square.mean(axis=(0, 1), keepdims=True))[0, 0]
            foot = page.get_by_label(f"Pane with {letter}").locator("footer .value")
            expect(foot).to_have_text(" ".join(f"{v:.1f}" for v in mean))


class Remarking(LookingTest):
    """A remark from the click to the list, and back by its address."""

    def test_a_click_places_a_remark_that_is_listed_changed_and_linked(self) -> None:
        page = self.look("", "A,U")
        pane = page.get_by_label("Pane with A")
        box = pane.locator(".ground").bounding_box()
        assert box is not None
        page.mouse.click(box["x"] + 200, box["y"] + 80)
        dialog = page.get_by_role("dialog")
        self.choose_option("What is seen", "plastic")
        dialog.get_by_label("More, if you like").fill("the tiles")
        self.assert_accessible("add remark")
        dialog.get_by_role("button", name="Add", exact=True).click()
        number = pane.get_by_role("button", name="Remark 1: plastic: the tiles")
        expect(number).to_be_visible()
        # It is of A alone; over the picture it stands only while it is asked for.
        expect(page.get_by_label("Pane with U").get_by_label("Remark 1")).to_have_count(0)
        expect(page.locator(".spot")).to_have_count(0)
        page.keyboard.down("#")
        spot = pane.locator(".spot").bounding_box()
        page.keyboard.up("#")
        assert spot is not None
        # The margin took some of the panes' room; the view's middle stayed where it was.
        now = pane.locator(".ground").bounding_box()
        assert now is not None
        self.assertAlmostEqual(spot["x"] + spot["width"] / 2, now["x"] + 200, delta=2)
        wanted = now["y"] + now["height"] / 2 + 80 - box["height"] / 2
        self.assertAlmostEqual(spot["y"] + spot["height"] / 2, wanted, delta=2)
        # In the middle by key, for all; then in the list, where its words are changed.
        page.mouse.move(5, 5)
        page.reload()
        self.drawn()
        page.keyboard.press("Enter")
        page.get_by_role("dialog").get_by_label("A, Smooth").press("Enter")
        page.get_by_role("dialog").get_by_role("button", name="Add", exact=True).click()
        expect(page.locator(".number", has_text="2")).to_have_count(2)
        page.goto(f"{self.live_server_url}/studies/{self.study}/judge")
        remarks = page.get_by_role("region", name="Remarks")
        expect(remarks.get_by_role("row", name=re.compile("^2 smeared all"))).to_be_visible()
        remarks.get_by_role("button", name="Edit remark 1").click()
        page.get_by_role("dialog").get_by_label("More, if you like").fill("all tiles")
        page.get_by_role("dialog").get_by_role("button", name="Save", exact=True).click()
        row = remarks.get_by_role("row", name=re.compile("^1 plastic: all tiles"))
        expect(row).to_be_visible()
        self.assert_accessible("judge, with remarks")
        row.get_by_role("link").click()
        # Its spot is in the middle of the pane.
        expect(page.get_by_label("Pane with A").locator(".spot")).to_be_visible()
        box = page.get_by_label("Pane with A").locator(".ground").bounding_box()
        spot = page.get_by_label("Pane with A").locator(".spot").bounding_box()
        assert box is not None and spot is not None
        self.assertAlmostEqual(spot["x"] + 11, box["x"] + box["width"] / 2, delta=3)
        # Removed, and had back.
        page.get_by_role("button", name="Remark 2").first.click()
        page.get_by_role("dialog").get_by_role("button", name="Remove").click()
        expect(page.locator(".number", has_text="2")).to_have_count(0)
        self.undo("Remark 2 removed")
        expect(page.locator(".number", has_text="2").first).to_be_visible()
        self.assertEqual(self.errors, [])

    def test_a_view_is_taken_along_as_link_and_picture(self) -> None:
        page = self.look("as=difference&against=T&gain=8", "A,T")
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        self.choose_from_menu("Take", "Copy link")
        self.until(lambda: page.evaluate("navigator.clipboard.readText()") == page.url)
        # The same by key.
        page.evaluate("navigator.clipboard.writeText('')")
        page.keyboard.press("@")
        self.until(lambda: page.evaluate("navigator.clipboard.readText()") == page.url)
        page.keyboard.press('"')
        kinds = "navigator.clipboard.read().then((all) => all[0].types.join())"
        self.until(lambda: page.evaluate(kinds) == "image/png")
        with page.expect_download() as saved:
            self.choose_from_menu("Take", "Save as picture")
        picture = Image.open(saved.value.path())
        width, height = page.evaluate(SIZE, "frame of T")
        self.assertEqual(picture.width, 16 + 2 * (width + 16))
        self.assertEqual(picture.height, 16 + 40 + 30 + height + 16)
        # The panes' own pixels: the middle of the second.
        x, y = width // 2, height // 2
        shown = page.evaluate(READ, ["frame of T", [[x, y]]])[0]
        at = (16 + width + 16 + x, 16 + 40 + 30 + y)
        self.assertEqual(list(picture.convert("RGB").getpixel(at)), shown)


class Wall(LookingTest):
    """Columns and rows arranged, crops chosen and looked at; what is out of sight is not drawn."""

    def setUp(self) -> None:
        super().setUp()
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        frame = client.get(f"/api/studies/{self.study}").json()["frames"][0]["id"]
        for i in range(16):
            patch = {"frame": frame, "name": f"Spot {i}", "role": "flat" if i % 2 else "texture"}
            box = {"x": 10 + 36 * i, "y": 20 + 18 * i, "w": 60, "h": 60}
            client.post(f"/api/studies/{self.study}/patches", patch | box, "application/json")
        self.idle()
        self.page.goto(f"{self.live_server_url}/studies/{self.study}/compare")
        expect(self.page.locator(".wall canvas").first).to_be_visible()

    def heads(self) -> str:
        return "".join(self.page.locator(".column .letter").all_inner_texts())

    def test_columns_are_held_moved_hidden_and_sorted(self) -> None:
        page = self.page
        self.assertEqual(self.heads(), "TUAB")
        self.choose_from_menu("Column A, Smooth 1", "Move left")
        self.until(lambda: self.heads() == "TAUB")
        self.choose_from_menu("Column B, Large 1", "Hold at the left")
        self.until(lambda: self.heads() == "BTAU")
        self.choose_from_menu("Column T, Truth", "Hide")
        self.until(lambda: self.heads() == "BAU")
        # All of it in the address, and undone from the menu.
        page.reload()
        expect(page.locator(".wall canvas").first).to_be_visible()
        self.assertEqual(self.heads(), "BAU")
        page.get_by_role("button", name=re.compile("^Arrange")).click()
        page.get_by_role("button", name="Show column T", exact=True).click()
        self.until(lambda: self.heads() == "BTAU")
        self.assert_accessible("wall, arranging")
        # By one measure, whatever is told under the crops.
        self.choose_option("Order of columns", "by PSNR, best first")
        expect(page).to_have_url(re.compile("order=psnr"))
        self.choose_option("Order of columns", "as entered")
        page.get_by_role("button", name="Reset", exact=True).click()
        page.keyboard.press("Escape")
        # By hand: one head dropped on another.
        heads = page.locator(".column .head")
        heads.nth(3).drag_to(heads.nth(0))
        self.until(lambda: self.heads() == "BTUA")

    def test_rows_are_filtered_and_turned_and_lit(self) -> None:
        page = self.page
        page.get_by_role("button", name=re.compile("^Arrange")).click()
        self.choose_option("Patch types", "texture")
        expect(page.locator(".what")).to_have_count(8)
        self.choose_option("Light of crops", "+3 EV")
        page.get_by_label("Contenders in rows").check()
        expect(page.locator(".what")).to_have_count(4)
        page.keyboard.press("Escape")
        self.assert_accessible("wall, turned")
        expect(page).to_have_url(re.compile(r"role=texture.*"))
        crop = page.locator('canvas[aria-label="Spot 0 of U"]')
        expect(crop).to_have_attribute("data-complete", "true")
        width, height = page.evaluate(SIZE, "Spot 0 of U")
        lifted = 255 * srgb.encode(self.light("unprocessed") * 8)
        # The patch's middle is 40, 50.
        x, y = place(width // 2, width, 40), place(height // 2, height, 50)
        shown = page.evaluate(READ, ["Spot 0 of U", [[width // 2, height // 2]]])[0]
        self.assertLessEqual(np.abs(np.clip(lifted[y, x], 0, 255) - shown).max(), 1.01)
        page.get_by_role("link", name="Look closer: Spot 0, A").press("Enter")
        expect(page).to_have_url(re.compile("lift=3"))

    def test_crops_are_chosen_by_key_and_opened_side_by_side(self) -> None:
        page = self.page
        page.get_by_role("link", name="Look closer: Spot 0, B").press(" ")
        page.get_by_role("link", name="Look closer: Spot 0, T").click(modifiers=["Shift"])
        expect(page.get_by_role("link", name="Look closer: Spot 0, T, chosen")).to_be_visible()
        # Another spot's crop begins anew.
        page.get_by_role("link", name="Look closer: Spot 1, A").press(" ")
        expect(page.get_by_role("link", name="Look at 1")).to_be_visible()
        page.get_by_role("link", name="Look closer: Spot 1, B").press(" ")
        page.get_by_role("link", name="Look at 2").click()
        letters = page.locator("section.pane")
        expect(letters).to_have_count(2)
        expect(page).to_have_url(re.compile("panes=A,B|panes=A%2CB"))

    def test_only_what_is_in_sight_is_drawn(self) -> None:
        page = self.page
        self.assertLess(page.locator(".wall canvas").count(), 16 * 4)
        page.locator(".wall-scroll").evaluate("e => e.scrollTo(0, e.scrollHeight)")
        expect(page.locator('canvas[aria-label="Spot 15 of A"]')).to_have_attribute(
            "data-complete", "true"
        )
