"""Gathering frames: raw files, scenes, and frames whose truth is known because they
were made worse on purpose.
"""

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
    tifffile.imwrite(
        packed, rng.integers(0, 65536, (30, 40, 3), dtype=np.uint16), photometric="rgb"
    )
    return packed.getvalue()


class Gathering(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        (self.folder / "clean.tif").write_bytes(tiff("truth"))
        body = BODIES["quill33"]
        write_dng(
            self.folder / "raw.dng",
            expose(photograph("flower"), body, 1600, 1),
            body,
            {"iso": 1600, "shutter_s": 1 / 60},
        )

    def test_a_raw_file_tells_how_it_was_developed_and_a_series_is_made_of_a_clean_frame(
        self,
    ) -> None:
        page = self.sign_in()
        page.get_by_role("link", name="Frames").click()
        page.locator('input[aria-label="Add frames"]').set_input_files(
            [self.folder / "clean.tif", self.folder / "raw.dng"]
        )
        expect(page.get_by_text("Corvane Quill 33, ISO 1,600, 1/60 s")).to_be_visible()
        page.get_by_role("link", name="raw", exact=True).click()
        expect(
            page.get_by_text("Glenhail neutral rendering 1: camera white balance")
        ).to_be_visible()
        page.get_by_role("link", name="Frames").first.click()
        page.get_by_role("link", name="Degrade clean").click()
        self.choose_from_menu("Add step", "Gaussian blur")
        self.choose_from_menu("Add step", "Sensor noise")
        preview = page.get_by_role("img", name="clean, degraded")
        expect(preview).to_be_visible()
        first = preview.get_attribute("src")
        page.get_by_label("sigma", exact=True).fill("99")
        expect(page.get_by_role("alert")).to_contain_text("sigma is a number from 0.2 to 30")
        expect(page.get_by_role("button", name="Make frame")).to_be_disabled()
        page.get_by_label("sigma", exact=True).fill("3")
        expect(preview).to_be_visible()
        self.assertNotEqual(preview.get_attribute("src"), first)
        self.assert_accessible("degrade")
        self.choose_option("Series over", "2. Sensor noise: ISO")
        page.get_by_label("Values of the series").fill("400, 3200")
        page.get_by_role("button", name="Make 2 frames").click()
        expect(page).to_have_url(re.compile("/frames$"))
        self.idle()
        page.reload()
        page.get_by_label("Search").fill("iso 3,200")
        expect(page.get_by_role("status").filter(has_text="1 of 4")).to_be_visible()
        made = page.locator("article")
        expect(made).to_contain_text(
            "made by: Gaussian blur, sigma 3 px, on values linear; then Sensor noise, ISO 3,200"
        )
        made.get_by_role("link").last.click()
        expect(page.get_by_text("The frame was made from it by: Gaussian blur")).to_be_visible()
        expect(page.get_by_text("clean.tif")).to_be_visible()
        page.go_back()
        self.assert_accessible("frames")
        self.assertEqual(self.errors, [])

    def test_a_body_is_described_a_series_gets_its_truth_and_a_frame_is_looked_into(self) -> None:
        body = BODIES["quill33"]
        for iso in (100, 6400):
            scene = photograph("china") * np.float32(0.8)
            write_dng(
                self.folder / f"iso{iso}.dng",
                expose(scene, body, iso, iso),
                body,
                {"iso": iso, "shutter_s": 1 / iso},
            )
        page = self.sign_in()
        page.get_by_role("link", name="Frames").click()
        page.locator('input[aria-label="Add frames"]').set_input_files(
            [self.folder / "iso100.dng", self.folder / "iso6400.dng"]
        )
        expect(page.locator("article")).to_have_count(2)
        self.idle()
        page.get_by_role("link", name="Cameras").click()
        page.get_by_role("button", name="Add Corvane Quill 33").click()
        # The dialog puts the focus into its first field once it is in sight.
        expect(page.get_by_label("Name, as its files state it")).to_be_focused()
        sizes = (
            ("Sensor width", "35.9"),
            ("Sensor height", "23.9"),
            ("Pixels across", "7020"),
            ("Pixels down", "4680"),
        )
        for label, value in sizes:
            page.get_by_label(label).fill(value)
        for label, value in sizes:
            expect(page.get_by_label(label)).to_have_value(value)
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_text("5.11 µm")).to_be_visible()
        self.assert_accessible("cameras")
        page.get_by_role("link", name="Frames").click()
        page.get_by_label("Select iso100").check()
        expect(page.get_by_role("button", name="Use base-ISO twin as truth")).to_be_disabled()
        page.get_by_label("Select iso6400").check()
        page.get_by_role("button", name="Use iso100 as truth of the others").click()
        self.idle()
        page.get_by_role("link", name="iso6400", exact=True).click()
        expect(
            page.get_by_text(re.compile(r"Base-ISO twin: iso100, lined up to 0\.\d\d px"))
        ).to_be_visible()
        expect(page.get_by_role("img", name="iso6400")).to_have_attribute("data-complete", "true")
        ground = page.get_by_role("application")
        ground.focus()
        page.get_by_role("button", name="400 %").click()
        ground.hover(position={"x": 200, "y": 200})
        expect(page.locator("output")).to_have_text(re.compile(r"\d+, \d+ px: \d+ \d+ \d+"))
        page.keyboard.down("t")
        expect(page.get_by_role("img", name="iso6400, truth")).to_be_visible()
        page.keyboard.up("t")
        expect(page).to_have_url(re.compile(r"at=[\d.%C]+"))
        self.assert_accessible("frame")
        self.assertEqual(self.errors, [])

    def test_a_target_is_made_found_in_its_degraded_likeness_and_measured_there(self) -> None:
        page = self.sign_in()
        page.get_by_role("link", name="Targets").click()
        page.get_by_role("link", name="Add target").click()
        expect(page.get_by_role("img", name="The target as it will be painted")).to_be_visible()
        page.get_by_label("Width", exact=True).fill("900")
        page.get_by_label("Height", exact=True).fill("620")
        page.get_by_label("Name of the target").fill("Wall target")
        for field in ("Dead leaves", "Siemens star", "Fine lines", "Points of light"):
            page.get_by_role("button", name=re.compile(f"Remove step .*{field}")).click()
        self.assert_accessible("target maker")
        page.get_by_role("button", name="Paint target").click()
        expect(page.get_by_role("heading", name="Wall target")).to_be_visible()
        self.idle()
        page.reload()
        expect(page.get_by_text("found in 1 frame")).to_be_visible()
        self.assert_accessible("targets")
        page.get_by_role("link", name="Open its frame").click()
        page.get_by_role("link", name="Degrade").click()
        self.choose_from_menu("Add step", "Gaussian blur")
        page.get_by_role("button", name="Make frame").click()
        expect(page).to_have_url(re.compile("/frames$"))
        self.idle()
        page.reload()
        page.get_by_role("link", name="Wall target, gaussian blur 1", exact=True).click()
        row = page.locator("tr", has_text="MTF50, right edge")
        expect(row).to_contain_text("cycles/px")
        # Two Gaussians, 0.6 and 1 px: 0.18739 / 1.166.
        expect(row).to_contain_text(re.compile(r"0\.1(59|60|61|62)"))
        self.assert_accessible("a frame with a target")
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
            """The way breaks off now and then: before the bytes arrive, or before the
            answer does.
            """
            lost.append(route.request.url)
            if len(lost) % 5 == 2:
                route.abort()
            else:
                route.continue_()

        page.route("**/api/uploads/*/**", lose)
        page.locator('input[aria-label="Add frames"]').set_input_files(
            [*batch, self.folder / "empty.tif"]
        )
        expect(
            page.get_by_role("status").filter(has_text=re.compile(r"[3-9] of 25 files"))
        ).to_be_visible()
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
        page.get_by_role("button", name="Show files").click()
        expect(page.get_by_text("on the bench already, as shot-03")).to_be_visible()
        self.assert_accessible("files on their way")
        self.assertEqual(self.errors, [])

    def _paste(self, page: Page, name: str, raw: bytes) -> None:
        page.evaluate(
            """([name, raw]) => {
                const data = new DataTransfer();
                data.items.add(new File([Uint8Array.from(raw)], name, { type: "image/tiff" }));
                const given = { clipboardData: data, bubbles: true };
                window.dispatchEvent(new ClipboardEvent("paste", given));
            }""",
            [name, list(raw)],
        )
