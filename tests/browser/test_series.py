"""A sensor tester's way: raw series dropped, bodies chosen, spots drawn, who is ahead read
off, and the bodies' sensors measured.
"""

from __future__ import annotations

import re
import tempfile
from pathlib import Path

from django.contrib.auth.models import User
from django.test import Client
from playwright.sync_api import expect

from glenhail.server.studies.models import Study
from tests.browser.base import BrowserTest
from tests.server.test_hostile_calls import JSON
from tests.server.test_series import ISOS, SPOTS, raw

BODIES = ("quill24", "quill33", "lull2")


class Series(BrowserTest):
    def files(self) -> list[Path]:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        made = []
        for body in BODIES:
            for iso in ISOS:
                for number in range(2):
                    path = folder / f"{body}-{iso}-{number}.dng"
                    path.write_bytes(raw(body, iso, number))
                    made.append(path)
        return made

    def meter_a_spot(self) -> None:
        page = self.page
        speed = page.get_by_role("region", name="Saturation-based speed")
        expect(speed).to_contain_text("Not known")
        speed.get_by_role("button", name="Enter luminance").click()
        expect(speed.get_by_role("button", name="Save")).to_be_disabled()
        for label, value in (("Its luminance", "250"), ("T-number, Corvane Quill 24", "4.2")):
            speed.get_by_label(label).fill(value)
            expect(speed.get_by_label(label)).to_have_value(value)
        speed.get_by_role("button", name="Save").click()
        expect(speed).to_contain_text("Corvane Quill 24. Its saturation-based speed lies")
        expect(speed).to_contain_text("Corvane Quill 33. No T-number of its lens is given.")
        expect(speed.get_by_role("rowheader")).to_have_text(["400", "1,600", "6,400"])
        self.assert_accessible("a metered spot")
        speed.get_by_role("button", name="Change luminance").click()
        expect(speed.get_by_label("Its luminance")).to_have_value("250")
        speed.get_by_role("button", name="Remove").click()
        expect(speed).to_contain_text("Not known")

    def test_from_raw_files_to_who_is_ahead_and_what_the_sensors_are(self) -> None:
        page = self.sign_in()
        page.get_by_role("button", name="Add study").click()
        page.get_by_label("Question the study answers").fill("Which body is better in the dark?")
        self.choose_option("What varies", "body")
        page.get_by_role("button", name="Add", exact=True).click()
        self.go_to_stage("Set up")
        bodies = page.get_by_role("region", name="Bodies over ISO")
        expect(bodies.get_by_text("Name the scene first")).to_be_visible()
        page.get_by_label("Scene of the files to come").fill("China")
        page.get_by_label("Scene of the files to come").press("Enter")
        page.locator('input[aria-label="Add raw files"]').set_input_files(self.files())
        expect(bodies.get_by_role("row").filter(has_text="Corvane Quill 33")).to_contain_text(
            "400, 1,600, 6,400"
        )
        self.idle()
        page.reload()
        expect(bodies.get_by_role("row")).to_have_count(4)
        self.assert_accessible("bodies over ISO")
        bodies.get_by_role("button", name="Compare 3 bodies").click()
        expect(page.get_by_text("are lined up; draw a lit and a dark patch")).to_be_visible()
        study = Study.objects.get()
        client = Client()
        client.force_login(User.objects.get(username="owner"))
        frame = study.study_frames.order_by("order")[0].frame_id
        for name, role, *place in SPOTS:
            told = dict(zip(("x", "y", "w", "h"), place, strict=True))
            patch = {"frame": frame, "name": name, "role": role, **told}
            client.post(f"/api/studies/{study.pk}/patches", patch, JSON)
        self.idle()
        page.goto(f"{self.live_server_url}/studies/{study.pk}/compare")
        page.get_by_role("tab", name="Series over ISO").click()
        answer = page.get_by_role("region", name="Answer")
        expect(answer).to_contain_text("Sky.")
        expect(answer).to_contain_text("Corvane Quill")
        expect(page.get_by_role("img", name="Signal to noise: dB over ISO")).to_be_visible()
        crops = page.get_by_role("region", name="Crops by body and ISO")
        expect(crops.get_by_text("ISO 1,600")).to_have_count(3)
        # Each body against each of the others.
        advantage = page.get_by_role("img", name="Advantage: stops over ISO")
        for pair in ("A over B", "A over C", "B over C"):
            expect(advantage.get_by_text(pair)).to_be_visible()
        # As they were shot instead, at the same noise; all of it is in the address.
        page.get_by_role("button", name="As shot").click()
        page.get_by_role("button", name="same noise").click()
        expect(crops.get_by_text("as noisy at").first).to_be_visible()
        self.assertIn("counts=as-shot", page.url)
        self.assertIn("beside=noise", page.url)
        page.get_by_text("What this was read from").click()
        expect(page.get_by_text("quill33-1600-0.dng, quill33-1600-1.dng")).to_be_visible()
        self.assert_accessible("series over ISO")
        self.meter_a_spot()
        crops.get_by_role("link").first.click()
        expect(page).to_have_url(re.compile("/look"))
        page.go_back()
        expect(answer).to_contain_text("Sky.")

        page.get_by_role("link", name="Cameras").click()
        page.get_by_role("button", name="Add Corvane Quill 24").click()
        # The dialog puts the focus into its first field once it is in sight.
        expect(page.get_by_label("Name, as its files state it")).to_be_focused()
        for label, value in (
            ("Sensor width", "36"),
            ("Sensor height", "24"),
            ("Pixels across", "6000"),
            ("Pixels down", "4000"),
        ):
            page.get_by_label(label).fill(value)
            expect(page.get_by_label(label)).to_have_value(value)
        page.get_by_role("button", name="Save").click()
        measured = page.get_by_role("region", name="Measured of Corvane Quill 24")
        measured.get_by_role("button", name="Measure Corvane Quill 24").click()
        expect(measured.get_by_role("columnheader", name="Gain")).to_be_visible()
        expect(measured.get_by_role("rowheader")).to_have_text(["400", "1,600", "6,400"])
        self.assert_accessible("cameras")
        with page.expect_download() as download:
            measured.get_by_role("link", name="as CSV").click()
        self.assertEqual(download.value.suggested_filename, "Corvane Quill 24, measured.csv")
        self.assertEqual(self.errors, [])
