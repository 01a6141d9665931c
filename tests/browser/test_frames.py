"""Gathering frames: raw files, scenes, and frames whose truth is known because they were made worse on purpose."""

from __future__ import annotations

import io
import re
import tempfile
from pathlib import Path

import numpy as np
import tifffile
from playwright.sync_api import Page, Route, expect

from glenhail.server.material.models import Frame
from glenhail.standins.camera import BODIES, expose, write_dng
from tests.browser.base import BrowserTest
from tests.pictures import photograph
from tests.server.base import tiff


def small_tiff(level: int) -> bytes:
    """A 40 x 30 picture of its own."""
    packed = io.BytesIO()
    rng = np.random.default_rng(level)
    tifffile.imwrite(packed, rng.integers(0, 65536, (30, 40, 3), dtype=np.uint16), photometric="rgb")
    return packed.getvalue()


class Gathering(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        (self.folder / "clean.tif").write_bytes(tiff("truth"))
        body = BODIES["m33"]
        write_dng(self.folder / "raw.dng", expose(photograph("flower"), body, 1600, 1), body, {"iso": 1600, "shutter_s": 1 / 60})

    def test_a_raw_file_tells_how_it_was_developed_and_a_series_is_made_of_a_clean_frame(self) -> None:
        page = self.sign_in()
        page.get_by_role("link", name="Frames").click()
        page.locator('input[aria-label="Add frames"]').set_input_files([self.folder / "clean.tif", self.folder / "raw.dng"])
        expect(page.get_by_text("Corvane M33, ISO 1,600, 1/60 s")).to_be_visible()
        expect(page.get_by_text("Developed: LibRaw: camera white balance")).to_be_visible()
        page.get_by_role("link", name="Degrade clean").click()
        page.get_by_label("Add a step").select_option("Gaussian blur")
        page.get_by_label("Add a step").select_option("Sensor noise")
        preview = page.get_by_role("img", name="clean, degraded")
        expect(preview).to_be_visible()
        first = preview.get_attribute("src")
        page.get_by_role("spinbutton", name="sigma px").fill("99")
        expect(page.get_by_role("alert")).to_contain_text("sigma is a number from 0.2 to 30")
        expect(page.get_by_role("button", name="Make the frame")).to_be_disabled()
        page.get_by_role("spinbutton", name="sigma px").fill("3")
        expect(preview).to_be_visible()
        self.assertNotEqual(preview.get_attribute("src"), first)
        self.assert_accessible("degrade")
        page.get_by_label("Make a series of").select_option("2. Sensor noise: ISO")
        page.get_by_label("Values of the series").fill("400, 3200")
        page.get_by_role("button", name="Make 2 frames").click()
        expect(page).to_have_url(re.compile("/frames$"))
        self.idle()
        page.reload()
        page.get_by_label("Find").fill("iso 3,200")
        expect(page.get_by_role("status").filter(has_text="1 of 4")).to_be_visible()
        made = page.locator("article")
        expect(made).to_contain_text("Made by: Gaussian blur, sigma 3 px, on values linear; then Sensor noise, ISO 3,200")
        expect(made).to_contain_text("clean.tif")
        self.assert_accessible("frames")
        self.assertEqual(self.errors, [])

    def test_a_batch_survives_a_lost_connection_and_a_reload_and_tells_of_each_file(self) -> None:
        batch = []
        for i in range(24):
            batch.append(self.folder / f"shot-{i:02}.tif")
            batch[-1].write_bytes(small_tiff(i))
        batch[7].write_bytes(b"not a picture at all")
        (self.folder / "empty.tif").write_bytes(b"")
        page = self.sign_in()
        page.get_by_role("link", name="Frames").click()
        lost: list[str] = []

        def lose(route: Route) -> None:
            """The way breaks off now and then: before the bytes arrive, or before the answer does."""
            lost.append(route.request.url)
            if len(lost) % 5 == 2:
                route.abort()
            else:
                route.continue_()

        page.route("**/api/uploads/*/**", lose)
        page.locator('input[aria-label="Add frames"]').set_input_files([*batch, self.folder / "empty.tif"])
        expect(page.get_by_role("status").filter(has_text=re.compile(r"[3-9] of 25 files"))).to_be_visible()
        page.reload()
        expect(page.locator("article")).to_have_count(24, timeout=60_000)
        self.idle()
        self.assertEqual(Frame.objects.count(), 24)
        self.assertEqual(Frame.objects.filter(picture__state="ready").count(), 23)
        self.assertIn("shot-07.tif", Frame.objects.get(picture__state="refused").picture.problem)
        self.assertGreater(len(lost), 48)
        # The same again under another name, pasted anywhere: recognised.
        page.unroute("**/api/uploads/*/**")
        self._paste(page, "again.tif", small_tiff(3))
        page.get_by_role("button", name="Show each").click()
        expect(page.get_by_text("on the bench already, as shot-03")).to_be_visible()
        self.assert_accessible("files on their way")
        self.assertEqual(self.errors, [])

    def _paste(self, page: Page, name: str, raw: bytes) -> None:
        page.evaluate(
            """([name, raw]) => {
                const data = new DataTransfer();
                data.items.add(new File([Uint8Array.from(raw)], name, { type: "image/tiff" }));
                window.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));
            }""",
            [name, list(raw)],
        )
