"""Outputs as they are seen in uses, and along a line: what the close look shows is held
against encoders and pixels.
"""

from __future__ import annotations

import io
import re
from urllib.parse import unquote

import numpy as np
from django.contrib.auth.models import User
from django.test import Client
from PIL import Image
from playwright.sync_api import expect

from glenhail.core.colour import srgb
from glenhail.core.uses.seen import as_seen
from glenhail.core.uses.table import USES
from tests.browser.test_looking import CENTRE, READ, SIZE, LookingTest
from tests.seeds import drawn
from tests.server.test_hostile_calls import JSON

LABEL = "frame of A"


class OneOutput(LookingTest):
    """One is enough to be seen in a use, or along a line."""

    OUTPUTS = {"Smooth": "smooth"}


class Seen(OneOutput):
    def test_a_post_is_what_its_jpeg_leaves(self) -> None:
        page = self.look("", "A,U")
        self.choose_option("Seen as", USES["post"].name)
        expect(page.get_by_label("Pane with U").locator("footer")).to_contain_text("640 × 427 px")
        self.drawn()
        for letter, kind in (("A", "treatment"), ("U", "unprocessed")):
            held = io.BytesIO()
            codes = Image.fromarray(srgb.to_display(self.light(kind)))
            codes.save(held, "JPEG", quality=80, subsampling="4:2:0")
            size = f"{len(held.getvalue()) / 1000:.1f}"
            self.assert_shows(f"frame of {letter}", np.asarray(Image.open(held)).astype(float))
            foot = page.get_by_label(f"Pane with {letter}").locator("footer")
            expect(foot).to_contain_text(f"{size} kB")
        self.assert_accessible("close look, in a use")
        # In the address, and gone where a difference is shown; by key to the next and back.
        expect(page).to_have_url(re.compile("use=post"))
        page.keyboard.press("$")
        expect(page).not_to_have_url(re.compile("use="))
        self.drawn()
        self.assert_shows(LABEL, 255 * self.encoded("treatment"))
        self.assertEqual(self.errors, [])

    def test_video_is_the_middle_frame_of_its_pan(self) -> None:
        page = self.look("scale=own", "A,U", zoom=1)
        self.choose_option("Seen as", USES["video-8"].name)
        foot = page.get_by_label("Pane with A").locator("footer")
        # Two panes' videos are encoded, on whatever else the machine does.
        expect(foot).to_contain_text("1920 × 1080 px", timeout=180_000)
        self.drawn()
        want = as_seen(self.light("treatment"), USES["video-8"])
        # Pixel for pixel: one of the video is one of the screen.
        width, height = page.evaluate(SIZE, LABEL)
        # The frame is smaller than the pane, and stands in its middle.
        left = width / 2 - (320 - want.part.x) * want.scale
        top = height / 2 - (213.5 - want.part.y) * want.scale
        for _, rng in drawn(1):
            places = rng.integers((4, 4), (width - 4, height - 4), (20, 2)).tolist()
            shown = np.asarray(page.evaluate(READ, [LABEL, places]), dtype=int)
            # A tile's edge in the middle of a pixel may be rounded either way.
            off = [
                np.abs(shown - [want.codes[y - row, x - column] for x, y in places]).max()
                for column in (int(np.floor(left)), int(np.ceil(left)))
                for row in (int(np.floor(top)), int(np.ceil(top)))
            ]
            self.assertLessEqual(min(off), 1)

    def test_a_print_of_ones_own_is_shown_as_large_as_it_is(self) -> None:
        page = self.look("", "A,U")
        page.get_by_role("button", name="More", exact=True).click()
        page.get_by_role("button", name="Uses of your own", exact=True).click()
        dialog = page.get_by_role("dialog")
        for label, value in (
            ("Name", "Postcard"),
            ("Width, cm", "14.8"),
            ("Height, cm", "10.5"),
            ("Printed at, ppi", "120"),
        ):
            dialog.get_by_label(label).fill(value)
        dialog.get_by_label("Printed at, ppi").press("Tab")
        expect(dialog).to_contain_text("699 × 496 px")
        self.assert_accessible("uses of one's own")
        dialog.get_by_role("button", name="Add", exact=True).click()
        expect(dialog.get_by_role("listitem")).to_contain_text("Postcard")
        dialog.get_by_role("button", name="Close").click()
        self.choose_option("Seen as", "Postcard")
        foot = page.get_by_label("Pane with A").locator("footer")
        expect(foot).to_contain_text("px a degree from 50 cm")
        self.drawn()
        # The screen is told by a card, once.
        page.get_by_role("button", name="Life size").click()
        dialog = page.get_by_role("dialog")
        expect(dialog).to_contain_text("96 ppi")
        self.assert_accessible("card against the screen")
        dialog.get_by_role("button", name="It fits").click()
        # 96 screen pixels are an inch, and so are 120 of the print, which is wider than 640 px.
        zoom = 699 / 640 * 96 / 120
        expect(page).to_have_url(re.compile(f"zoom={zoom:.4f}"))
        self.drawn()
        self.choose_option("At", "100 %")
        page.keyboard.press("'")
        expect(page).to_have_url(re.compile(f"zoom={zoom:.4f}"))
        self.assertEqual(self.errors, [])


class Along(OneOutput):
    def test_a_line_tells_every_panes_values_and_follows_a_drag(self) -> None:
        page = self.look("line=200.5,150.5,260.5,150.5", "A,T")
        chart = page.get_by_label("Values along the line")
        link = chart.get_by_role("link", name=re.compile("CSV"))
        expect(link).to_be_visible()
        expect(chart.get_by_text("Full-depth values are being read")).to_have_count(0)
        rows = unquote((link.get_attribute("href") or "").partition(",")[2]).splitlines()
        for letter, kind in (("A", "treatment"), ("T", "truth")):
            told = [row.split(",")[1:] for row in rows if row.startswith(f'"{letter}"')]
            found = np.asarray(told, dtype=float)
            np.testing.assert_allclose(found[:, 0], np.arange(61), atol=1e-9)
            want = 255 * (self.encoded(kind)[150, 200:261] @ srgb.LUMA)
            np.testing.assert_allclose(found[:, 1], want, atol=0.02)
        # Drawn anew by a drag, which moves nothing.
        box = page.get_by_label("Pane with A").locator(".ground").bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 60, y + 80, steps=4)
        page.mouse.up()
        expect(chart).to_contain_text("50 px of the frame")
        # The middle stayed where it was.
        expect(page).to_have_url(re.compile(r"x=320(\.0)?&y=213(\.0)?&.*line=320,213,350,253"))
        self.assert_accessible("measuring line")
        page.keyboard.press("_")
        expect(chart).to_have_count(0)
        expect(page).not_to_have_url(re.compile("line="))
        self.assertEqual(self.errors, [])

    def test_the_loupe_shows_the_pointers_pixel_in_every_pane(self) -> None:
        page = self.look("", "A,T", zoom=1)
        page.keyboard.press("&")
        box = page.get_by_label("Pane with A").locator(".ground").bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + box["width"] / 2 - 40, box["y"] + box["height"] / 2 + 30)
        expect(page.get_by_label("Loupe of A")).to_be_visible()
        self.drawn()
        fx, fy = CENTRE[0] - 40, CENTRE[1] + 30
        for letter, kind in (("A", "treatment"), ("T", "truth")):
            width, height = page.evaluate(SIZE, f"Loupe of {letter}")
            shown = page.evaluate(READ, [f"Loupe of {letter}", [[width // 2 + 3, height // 2 + 3]]])
            want = 255 * self.encoded(kind)[fy - 1 : fy + 2, fx - 1 : fx + 2].reshape(-1, 3)
            off = np.abs(want - np.asarray(shown[0])).max(axis=1)
            self.assertLessEqual(off.min(), 1)
        # A picture of the view is of the panes alone.
        width, height = page.evaluate(SIZE, LABEL)
        with page.expect_download() as saved:
            self.choose_from_menu("Take", "Save as picture")
        picture = Image.open(saved.value.path()).convert("RGB")
        x, y = 3 * width // 4, height // 2
        wanted = page.evaluate(READ, [LABEL, [[x, y]]])[0]
        self.assertEqual(list(picture.getpixel((16 + x, 16 + 40 + 30 + y))), wanted)


class Sheets(OneOutput):
    """The wall, or a row of it, as one picture."""

    def test_a_row_is_taken_as_a_sheet_of_whole_pixels(self) -> None:
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        frame = client.get(f"/api/studies/{self.study}").json()["frames"][0]["id"]
        for name, x in (("Gable", 120), ("Sky", 300)):
            body = {"frame": frame, "name": name, "role": "texture", "x": x, "y": 100}
            client.post(f"/api/studies/{self.study}/patches", body | {"w": 90, "h": 70}, JSON)
        self.idle()
        page = self.page
        page.goto(f"{self.live_server_url}/studies/{self.study}/compare?lift=1")
        # A wall that still takes its readings in lays itself out anew.
        expect(page.locator(".wall canvas[data-complete=true]")).to_have_count(6)
        page.get_by_role("button", name="Sheet", exact=True).click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_alt_text("The sheet")).to_be_visible()
        self.assert_accessible("contact sheet")
        self.assertEqual(self.saved().size, (1920, 1080))
        # Whole crops, enlarged: each pixel is a square. (The wall behind has one of this name.)
        zoom = dialog.get_by_role("combobox", name="Subject at", exact=True)
        self.choose_option(zoom, "400 %")
        before = self.saved().tobytes()
        self.choose_option(zoom, "200 %")
        self.until(lambda: self.saved().tobytes() != before)
        sheet = self.saved()
        codes = np.asarray(sheet.convert("RGB")).astype(int)
        lifted = np.clip(255 * srgb.encode(self.light("unprocessed") * 2), 0, 255)
        box, times = self.found(codes, lifted[100:170, 120:210])
        self.assertEqual(times, 2)
        want = lifted[100:170, 120:210].repeat(times, axis=0).repeat(times, axis=1)
        top, left = box
        shown = codes[top : top + want.shape[0], left : left + want.shape[1]]
        self.assertLessEqual(np.abs(shown - want).max(), 1.01)
        # In print, and all rows.
        self.choose_option("Size", "print, A4 at 300 ppi")
        self.choose_option("Rows", "all 2 rows")
        expect(dialog.get_by_alt_text("The sheet")).to_be_visible()
        self.until(lambda: self.saved().size == (3508, 2480))
        self.assertAlmostEqual(self.saved().info["dpi"][0], 300, delta=0.1)
        self.choose_option(zoom, "100 %")
        dialog.get_by_label("With readings").uncheck()
        self.until(lambda: (np.asarray(self.saved().convert("L")) < 200).mean() < 0.1)
        self.assertEqual(self.errors, [])

    def saved(self) -> Image.Image:
        with self.page.expect_download() as saved:
            self.page.get_by_role("button", name="Save", exact=True).click()
        return Image.open(saved.value.path())

    def found(self, codes: np.ndarray, crop: np.ndarray) -> tuple[tuple[int, int], int]:
        """Where a crop stands, by its first pixels, and how large."""
        first = crop[:2, :2]
        for zoom in (8, 7, 6, 5, 4, 3, 2):
            at = zoom // 2
            want = [first[0, 0], first[0, 1], first[1, 0], first[1, 1]]
            steps = [(at, at), (at, at + zoom), (at + zoom, at), (at + zoom, at + zoom)]
            height, width = codes.shape[0] - 3 * zoom, codes.shape[1] - 3 * zoom
            off = np.zeros((height, width))
            for (dy, dx), value in zip(steps, want, strict=True):
                part = codes[dy : dy + height, dx : dx + width]
                off = np.maximum(off, np.abs(part - value).max(axis=-1))
            hits = np.argwhere(off <= 1.01)
            for top, left in hits:
                whole = codes[top : top + 70 * zoom : zoom, left : left + 90 * zoom : zoom]
                if whole.shape == crop.shape and np.abs(whole - crop).max() <= 1.01:
                    return (int(top), int(left)), zoom
        raise AssertionError("the crop is not on the sheet")
