"""An edition says what was wrong in an earlier one, at the very place, and so does that."""

from __future__ import annotations

import contextlib
import io
import json
import tempfile
from pathlib import Path
from typing import Any

from django.core.files.storage import storages
from pdfminer.high_level import extract_text

from glenhail.core.__main__ import main
from glenhail.server.publishing.models import Correction, Edition
from tests.server.base import ServerTest, stream_of, work

JSON = "application/json"


class Corrections(ServerTest):
    paper = True

    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        self.home = f"/api/studies/{self.study.pk}"
        self.patch = self.study.patches.get()
        self.first = self.publish("")

    def publish(self, note: str) -> Edition:
        answer = self.owner.post(f"{self.home}/editions", {"note": note}, JSON)
        self.assertEqual(answer.status_code, 202, answer.content)
        work()
        return Edition.objects.latest("number")

    def add(self, client: Any = None, **told: Any) -> Any:
        body = {"edition": 1, "text": "It was B.", **told}
        return (client or self.owner).post(f"{self.home}/corrections", body, JSON)

    def page(self, edition: Edition) -> str:
        return Path(storages["editions"].path(f"{edition.folder}/index.html")).read_text()

    def test_marks_stand_at_the_figure_the_number_and_the_text_and_the_old_page_knows(self) -> None:
        document = json.loads(
            Path(storages["editions"].path(f"{self.first.folder}/edition.json")).read_text()
        )
        row = next(r for r in document["patches"][0]["table"] if r["cells"])
        for told in (
            {"patch": self.patch.pk, "text": "The crop <b>was</b> old."},
            {"patch": self.patch.pk, "measure": row["id"], "letter": "A"},
            {"block": "method", "text": "Strength was 60."},
        ):
            answer = self.add(**told)
            self.assertEqual(answer.status_code, 201, answer.content)
        self.assertEqual(self.read_list(self.first)["corrections"], [])
        second = self.publish("Corrected.")
        page = self.page(second)
        self.assertIn('id="corrections"', page)
        self.assertIn("The crop &lt;b&gt;was&lt;/b&gt; old.", page)
        figure = page[page.index('<figure class="patch"') : page.index("</figure>")]
        self.assertIn("Corrected in edition 2: The crop", figure)
        self.assertEqual(page.count(">corrected</a>"), 1)
        method = page[page.index('id="method"') :]
        self.assertIn(
            "Corrected in edition 2: Strength was 60.", method[: method.index("</section>")]
        )
        told = self.read_list(self.first)["corrections"]
        self.assertEqual([c["corrected_in"] for c in told], [2, 2, 2])
        self.assertEqual([c["anchor"] for c in told], ["figure-1", "figure-1", "method"])
        self.assertEqual(self.read_list(second)["corrections"], [])
        pdf = Path(storages["editions"].path(f"{second.folder}/edition.pdf"))
        self.assertIn("Strength was 60.", " ".join(extract_text(str(pdf)).split()))
        self.check_bundle(second)
        # What was put right stays said, in the edition's own words, in all that follow.
        third = self.publish("More.")
        self.assertIn("Corrected in edition 2: Strength was 60.", self.page(third))

    def read_list(self, edition: Edition) -> dict[str, Any]:
        return dict(self.owner.get(f"{edition.address}editions.json").json())

    def check_bundle(self, edition: Edition) -> None:
        """The marks are part of what a check knows; an altered one is found."""
        data = stream_of(self.owner.get(f"{edition.address}everything.zip")).getvalue()
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "b.zip"
            for altered, wanted in (
                (data, 0),
                (data.replace(b"Strength was 60", b"Strength was 40"), 1),
            ):
                path.write_bytes(altered)
                out = io.StringIO()
                with contextlib.redirect_stdout(out):
                    status = main(["verify", str(path), "--json"])
                self.assertEqual(bool(status), bool(wanted), out.getvalue()[-400:])

    def test_what_no_edition_has_is_taken_back_and_what_one_has_stays(self) -> None:
        pk = self.add(block="answer").json()["id"]
        address = f"{self.home}/corrections/{pk}"
        for who, status in (("viewer", 403), ("stranger", 404)):
            self.assertEqual(self.client_of(who).delete(address).status_code, status)
        self.assertEqual(self.owner.delete(address).status_code, 204)
        self.assertEqual(self.owner.delete(address).status_code, 404)
        kept = self.add(block="answer").json()["id"]
        self.owner.post(f"{self.home}/editions", {"note": "Two."}, JSON)
        self.assertEqual(self.owner.delete(f"{self.home}/corrections/{kept}").status_code, 409)
        late = self.add(block="files", text="Too late for this one.").json()["id"]
        work()
        self.assertEqual(self.owner.delete(f"{self.home}/corrections/{kept}").status_code, 409)
        found = dict(Correction.objects.values_list("pk", "corrected_in"))
        self.assertEqual(found, {kept: 2, late: None})

    def test_a_place_that_no_edition_has_is_refused_with_words(self) -> None:
        wrong = {
            "no edition": ({"edition": 9, "block": "answer"}, "There is no edition 9"),
            "no place": ({}, "Choose what was wrong"),
            "own words": ({"block": "text"}, "Choose what was wrong"),
            "no patch": ({"patch": 10**6}, "no such patch"),
            "no reading": (
                {"patch": self.patch.pk, "measure": "psnr", "letter": "Z"},
                "no such reading of Sky",
            ),
            "half a reading": ({"patch": self.patch.pk, "measure": "psnr"}, "no such reading"),
            "nothing said": ({"block": "answer", "text": "  "}, ""),
        }
        for name, (told, words) in wrong.items():
            with self.subTest(name):
                answer = self.add(**told)
                self.assertEqual(answer.status_code, 400)
                self.assertIn(words, answer.json()["detail"])
        self.assertEqual(self.add(self.client_of("viewer"), block="answer").status_code, 403)
        self.assertFalse(Correction.objects.exists())
        patch = {"frame": self.patch.frame_id, "name": "New", "role": "flat", "x": 9, "y": 9}
        new = self.owner.post(f"{self.home}/patches", {**patch, "w": 50, "h": 50}, JSON).json()
        work()
        answer = self.add(patch=new["id"])
        self.assertIn("Edition 1 has no figure of New", answer.json()["detail"])

    def test_a_patch_that_went_leaves_its_correction_in_words(self) -> None:
        self.add(patch=self.patch.pk)
        place = {"frame": self.patch.frame_id, "name": "Other", "role": "flat", "x": 9, "y": 9}
        self.owner.post(f"{self.home}/patches", {**place, "w": 60, "h": 60}, JSON)
        self.owner.delete(f"/api/patches/{self.patch.pk}")
        work()
        page = self.page(self.publish("Without it."))
        self.assertIn("Edition 1, Sky, frame: It was B.", page)
