"""Treatments made, run and brought in without a file touched by hand, and a folder from
elsewhere that finds its place.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

from playwright.sync_api import expect

from glenhail.server.outputs.models import Output
from glenhail.server.studies.models import Contender, Study
from glenhail.server.tools.models import Release
from tests.browser.base import BrowserTest
from tests.server.base import tiff
from tests.server.test_runs import COPY
from tests.server.test_tools import COMMAND, allow


def set_command(release: Release) -> None:
    release.command = COMMAND
    release.save()


class Runs(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def begin(self) -> None:
        """A study with two frames."""
        page = self.page
        page.get_by_role("button", name="Add study").click()
        page.get_by_label("Question the study answers").fill("In which order?")
        page.get_by_role("button", name="Add", exact=True).click()
        for count, (kind, name) in enumerate((("frame", "china.tif"), ("other", "flower.tif")), 1):
            (self.folder / name).write_bytes(tiff(kind))
            page.locator('input[aria-label="Add frames"]').first.set_input_files(self.folder / name)
            expect(page.get_by_label("Name of the frame")).to_have_count(count)
        self.idle()

    def test_a_tool_is_written_down_run_and_timed_beside_a_family_of_built_in_methods(self) -> None:
        allow("lift", COPY)
        page = self.sign_in()
        page.get_by_role("link", name="Tools").click()
        # An empty page offers it twice.
        page.get_by_role("link", name="Add tool").first.click()
        page.get_by_label("Name", exact=True).fill("Tarnlift")
        page.get_by_label("Windows").check()
        page.get_by_role("button", name="Add price").click()
        page.get_by_label("Amount", exact=True).fill("65.00")
        page.get_by_role("button", name="Save", exact=True).click()
        page.get_by_role("button", name="Add release").click()
        page.get_by_label("Number", exact=True).fill("1.8")
        page.get_by_role("button", name="Add setting").click()
        page.get_by_role("group", name="Setting 1").get_by_label("Name").fill("detail")
        page.locator("article").get_by_role("button", name="Save", exact=True).click()
        page.get_by_role("button", name="Edit Tarnlift 1.8").click()
        self.choose_option("Program", "lift")
        page.get_by_label("Arguments, one per line").fill("{input}\n{output}\n--detail={detail}")
        page.get_by_role("button", name="Save command").click()
        expect(page.get_by_text("Command saved.")).to_be_visible()
        self.assert_accessible("tool")
        page.get_by_role("heading").get_by_role("link", name="Tools").click()
        expect(page.get_by_role("cell", name="65.00 EUR for licence")).to_be_visible()
        self.assert_accessible("tools")

        page.get_by_role("link", name="Studies").click()
        self.begin()
        page.get_by_role("button", name="Add contender").click()
        page.get_by_role("combobox", name="Tool or method").fill("Tarnlift")
        page.get_by_role("combobox", name="Tool or method").press("Tab")
        expect(page.get_by_label("detail", exact=True)).to_have_value("50")
        page.get_by_role("button", name="Add step").click()
        second = page.get_by_role("group", name="Step 2")
        second.get_by_role("combobox", name="Tool or method").fill("Median")
        second.get_by_role("combobox", name="Tool or method").press("Tab")
        expect(second.get_by_text("the middle value of a square")).to_be_visible()
        page.get_by_role("button", name="Add a series of settings").click()
        expect(
            page.get_by_role("listitem").filter(
                has_text="Median, luma 3 px, colour 5 px, then Tarnlift 1.8"
            )
        ).to_be_visible()
        self.assert_accessible("family")
        page.get_by_role("button", name="Add 2 contenders").click()
        expect(
            page.get_by_role("cell", name="Tarnlift, then Median")
        ).to_be_visible()  # what differs between A and B

        self.go_to_stage("Bring in")
        page.get_by_role("button", name="Make 4 missing outputs").click()
        for letter in "AB":
            for frame in ("china", "flower"):
                expect(page.get_by_role("button", name=f"{letter} on {frame}: made")).to_be_visible(
                    timeout=60_000
                )
        self.assertEqual(Output.objects.filter(made_with__isnull=False).count(), 4)
        page.get_by_role("button", name="A on china: made").click()
        page.get_by_role("button", name="Command and messages").click()
        expect(page.get_by_role("dialog").get_by_text("working")).to_be_visible()
        self.assert_accessible("cell")
        page.get_by_role("dialog").get_by_role("button", name="Close", exact=True).click()
        expect(page.get_by_role("region", name="Times").get_by_role("row")).to_have_count(3)
        self.assert_accessible("bring in")
        self.assertEqual(self.errors, [])

    def test_a_tool_that_fails_says_why_and_is_tried_again_once_it_is_mended(self) -> None:
        allow("lift", "#!/bin/sh\necho 'the licence has run out' >&2\nexit 7\n")
        page = self.sign_in()
        self.begin()
        page.get_by_role("button", name="Add contender").click()
        page.get_by_role("combobox", name="Tool or method").fill("Tarnlift")
        page.get_by_role("combobox", name="Tool or method").press("Tab")
        page.get_by_role("button", name="Add", exact=True).click()
        self.go_to_stage("Bring in")
        expect(
            page.get_by_role("button", name="Missing outputs cannot be made here")
        ).to_be_disabled()
        page.get_by_role("button", name="Open hot folder").click()
        expect(page.get_by_text("2 inputs in")).to_be_visible()
        page.get_by_role("button", name="Close hot folder").click()
        expect(page.get_by_role("button", name="Open hot folder")).to_be_visible()
        set_command(self.bench.tools.get().releases.get())
        page.reload()
        page.get_by_role("button", name="Make 2 missing outputs").click()
        expect(page.get_by_role("button", name="A on china: failed")).to_be_visible()
        page.get_by_role("button", name="A on china: failed").click()
        expect(
            page.get_by_text("exit code 7. Its last words: the licence has run out").first
        ).to_be_visible()
        self.assert_accessible("failed cell")
        page.get_by_role("dialog").get_by_role("button", name="Close", exact=True).click()
        expect(page.get_by_role("button", name="A on flower: failed")).to_be_visible()
        allow("lift", COPY)
        page.get_by_role("button", name="Retry 2 failed runs").click()
        for frame in ("china", "flower"):
            expect(page.get_by_role("button", name=f"A on {frame}: made")).to_be_visible()
        self.assertEqual(self.errors, [])

    def test_a_folder_from_elsewhere_finds_its_place_is_corrected_by_keyboard_confirmed_and_undone(
        self,
    ) -> None:
        page = self.sign_in()
        self.begin()
        for tool in ("Sedgewash", "Keenfold"):
            page.get_by_role("button", name="Add contender").click()
            page.get_by_role("combobox", name="Tool or method").fill(tool)
            page.get_by_role("combobox", name="Tool or method").press("Tab")
            page.get_by_role("button", name="Add", exact=True).click()
            expect(page.get_by_role("button", name=f"Remove {tool}")).to_be_visible()
        desk = self.folder / "desk"
        desk.mkdir()
        for kind, name in (
            ("smooth", "china_sw.tif"),
            ("double", "china_kf.tif"),
            ("other", "flower_sw.tif"),
        ):
            (desk / name).write_bytes(tiff(kind) + name.encode())
        self.go_to_stage("Bring in")
        page.locator('input[aria-label="Choose folder"]').set_input_files(desk)
        expect(page.get_by_role("heading", name="desk")).to_be_visible()
        expect(page.get_by_role("button", name="Add 3 outputs")).to_be_enabled(timeout=60_000)
        board = page.get_by_role("region", name="Files in their cells")
        rows = board.get_by_role("row")
        expect(
            rows.filter(has_text="Sedgewash").get_by_role("button", name="china_sw.tif")
        ).to_be_visible()
        expect(
            rows.filter(has_text="Keenfold").get_by_role("button", name="china_kf.tif")
        ).to_be_visible()
        # The last one was Keenfold's after all.
        board.get_by_role("button", name="flower_sw.tif").focus()
        page.keyboard.press("Alt+ArrowDown")
        expect(
            rows.filter(has_text="Keenfold").get_by_role("button", name="flower_sw.tif, by hand")
        ).to_be_visible()
        board.get_by_role("button", name="flower_sw.tif").click()
        expect(
            page.get_by_label("Selected file").locator(".v-select", has_text="Contender")
        ).to_contain_text("Keenfold")
        self.assert_accessible("folder")
        page.get_by_role("button", name="Add 3 outputs").click()
        expect(page.get_by_text("Added. These files are in their cells.")).to_be_visible()
        keenfold = Contender.objects.get(study=Study.objects.get(), letter="B")
        self.assertEqual(
            set(keenfold.outputs.values_list("file_name", flat=True)),
            {"china_kf.tif", "flower_sw.tif"},
        )
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("button", name="Add 3 outputs")).to_be_visible()
        self.assertFalse(Output.objects.filter(contender=keenfold).exists())
        self.assertEqual(self.errors, [])
