"""Gathering frames: raw files, scenes, and frames whose truth is known because they were made worse on purpose."""

from __future__ import annotations

import re
import tempfile
from pathlib import Path

from playwright.sync_api import expect

from glenhail.standins.camera import BODIES, expose, write_dng
from tests.browser.base import BrowserTest
from tests.pictures import photograph
from tests.server.base import tiff


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
        expect(page.get_by_text("Corvane M33, ISO 1600, 1/60 s")).to_be_visible()
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
