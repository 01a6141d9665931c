"""A study that is begun by another bench's plan."""

from __future__ import annotations

from playwright.sync_api import expect

from glenhail.core.picture import Rect
from glenhail.core.plans.plan import Plan, PlannedContender, PlannedFrame, PlannedPatch, as_toml
from glenhail.core.treatments.step import Step, Treatment
from tests.browser.base import BrowserTest


class Plans(BrowserTest):
    def test_a_plan_leads_to_a_study_that_says_what_the_bench_lacks(self) -> None:
        self.study_with_outputs(Sedgewash="smooth")
        patches = (PlannedPatch("Sky", "flat", Rect(20, 20, 90, 60)),)
        frame = PlannedFrame("Weaving loft", "ab" * 32, "loft.tif", patches=patches)
        step = Step("Sedgewash", "3.0", strength=40.0)
        contenders = (PlannedContender("K", Treatment((step,)), (None,)),)
        plan = as_toml(Plan("Which keeps the weave?", frames=(frame,), contenders=contenders))
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/studies")
        files = page.get_by_label("Begin from a plan")
        files.set_input_files({"name": "x.toml", "mimeType": "text/plain", "buffer": b"= no"})
        expect(page.get_by_role("status").filter(has_text="x.toml").first).to_be_visible()
        told = {"name": "mill.toml", "mimeType": "text/plain", "buffer": plan.encode()}
        files.set_input_files(told)
        lacking = page.get_by_role("region", name="Plan")
        expect(lacking).to_contain_text("mill.toml")
        self.idle()
        expect(lacking).to_contain_text("Weaving loft (loft.tif)")
        expect(page.get_by_label("Question the study answers")).to_have_value(
            "Which keeps the weave?"
        )
        expect(page.get_by_text("Sedgewash 3.0").first).to_be_visible()
        self.assert_accessible("a study begun by a plan")
        lacking.get_by_role("button", name="Look again").click()
        expect(lacking).to_contain_text("being looked for")
        self.idle()
        expect(lacking).to_contain_text("Not on this bench")
        with page.expect_download() as saved:
            page.get_by_role("link", name="the method of this study as a file").click()
        self.assertEqual(saved.value.suggested_filename, "method.toml")
        self.assertEqual([e for e in self.errors if "400" not in e], [])
