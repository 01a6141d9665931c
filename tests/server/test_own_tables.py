"""Tables, charts, replies and readings within texts, from the report to the edition."""

from __future__ import annotations

import json
import re
import tempfile
from pathlib import Path
from typing import Any

from django.core.files.storage import storages
from jsonschema import Draft202012Validator

from glenhail.core.checking.bundle import Bundle
from glenhail.core.checking.chosen import values_again
from glenhail.core.checking.page import page_again
from glenhail.core.checking.verify import verify
from glenhail.server.material.models import Frame
from glenhail.server.measuring.models import Reading
from glenhail.server.publishing.bundle import stream_bundle
from glenhail.server.publishing.models import Edition, Report
from tests.server.base import TERMS, ServerTest, work

JSON = "application/json"
TEXTS = {"summary": "", "method": "", "disclosure": ""}
REPLY_ANCHOR = "own-3"
HTML = "<p>A has {A brightness noise, Sky} and <strong>U</strong> {U brightness noise, sky}.</p>"
REPLY = {"kind": "reply", "by": "The makers, 3 Dec 2026", "text": "<p>We <em>agree</em>.</p>"}


class OwnTables(ServerTest):
    paper = True

    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        self.patch = self.study.patches.get()
        self.home = f"/api/studies/{self.study.pk}/report"
        place = {"frame": self.patch.frame_id, "patch": self.patch.pk}
        self.table = {
            "measures": ["noise_luma", "snr"],
            "places": [place, {"frame": self.patch.frame_id, "patch": None}],
            "letters": ["U", "A"],
        }

    def write(self, *blocks: dict[str, Any], **texts: str) -> Any:
        body = TEXTS | texts | {"blocks": list(blocks)}
        return self.client_of("editor").put(self.home, body, JSON)

    def print_it(self) -> tuple[Edition, dict[str, Any], str]:
        self.owner.post(f"/api/studies/{self.study.pk}/editions", {"note": "Tables."}, JSON)
        work()
        edition = Edition.objects.latest("number")
        folder = Path(storages["editions"].path(edition.folder))
        page = (folder / "index.html").read_text()
        return edition, json.loads((folder / "edition.json").read_text()), page

    def test_chosen_readings_stand_in_the_edition_lead_to_their_rows_and_are_checked(self) -> None:
        Frame.objects.update(**TERMS)
        table = {"kind": "table", "text": "Noise  of the sky", "table": self.table}
        chart = {"kind": "chart", "table": self.table | {"letters": ["A"]}}
        answer = self.write(table, chart, REPLY, {"kind": "verdicts"}, {"kind": "figures"})
        self.assertEqual(answer.status_code, 200, answer.content)
        edition, document, page = self.print_it()
        schema = json.loads(
            Path(storages["editions"].path(f"{edition.folder}/edition.schema.json")).read_text()
        )
        self.assertEqual(list(Draft202012Validator(schema).iter_errors(document)), [])
        first, second, reply, *_ = document["blocks"]
        rows = [(r["patch"], r["measure"]) for r in first["rows"]]
        self.assertEqual(rows[0], (0, "noise_luma"))
        self.assertEqual(first["letters"], ["U", "A"])
        self.assertEqual(first["text"], "Noise of the sky")
        self.assertTrue(second["text"].startswith("Brightness noise"))
        self.assertEqual(reply["title"], "Reply: The makers, 3 Dec 2026")
        self.assertIn("Table 1. Noise of the sky.", page)
        self.assertIn("<em>agree</em>", page)
        # What leads to a full table leads to a row that is there.
        targets = set(re.findall(r'href="#(p\d+-\w+|f\d+-\w+)"', page))
        self.assertTrue(targets)
        for target in targets:
            self.assertEqual(page.count(f'id="{target}"'), 1, target)
        checks = self.checked(edition)
        self.assertEqual([c for c in checks if c.state == "differing"], [])
        whats = {c.what for c in checks}
        self.assertLessEqual({"numbers of table 1", "numbers of chart 1"}, whats)

        self.assert_changes_are_found(document, page)

    def test_what_is_seen_among_the_numbers_becomes_a_block(self) -> None:
        self.write({"kind": "heading", "text": "Mine"}, {"kind": "numbers"})
        path = f"{self.home}/tables"

        def take(kind: str, who: str = "editor", **other: Any) -> Any:
            body = {"kind": kind, "table": self.table | other}
            return self.client_of(who).post(path, body, JSON)

        for kind in ("chart", "table"):
            answer = take(kind)
            self.assertEqual(answer.status_code, 201, answer.content)
            self.assertEqual(answer.json()["table"], self.table)
        kinds = [b["kind"] for b in Report.objects.get().blocks]
        self.assertEqual(kinds[:4], ["heading", "chart", "table", "numbers"])
        cases = [
            (take("figure"), 400, "as a table or as a chart"),
            (take("table", measures=["length"]), 400, "no measure 'length'"),
            (take("table", letters=[]), 400, "no number"),
            (take("table", letters=["Q"]), 400, "no contender Q"),
            (take("table", matched=True), 400, "no matched readings"),
            (take("table", who="viewer"), 403, "editor"),
            (take("table", who="stranger"), 404, ""),
        ]
        for answer, status, words in cases:
            self.assertEqual(answer.status_code, status)
            self.assertIn(words, answer.json()["detail"])
        self.assertEqual(len(Report.objects.get().blocks), len(kinds))

    def assert_changes_are_found(self, document: dict[str, Any], page: str) -> None:
        """Whatever is other in the author's own numbers and words."""
        for part, name in (("table", "numbers of table 1"), ("chart", "numbers of chart 1")):
            at = page.index(f'id="{part}-1"')
            number = re.search(r">(\d+\.\d+) <span", page[at:])
            assert number is not None
            changed = page[:at] + page[at:].replace(number.group(1), "9.99", 1)
            self.assertEqual(self.differing(document, changed), [name])
        changed = page.replace("Noise of the sky", "Noise of the sea")
        self.assertEqual(self.differing(document, changed), ["caption of table 1"])
        changed = page.replace("<em>agree</em>", "<em>do not</em>")
        self.assertEqual(self.differing(document, changed), [f"the reply {REPLY_ANCHOR}"])

    def differing(self, document: dict[str, Any], page: str) -> list[str]:
        return [c.what for c in page_again(document, page) if c.state == "differing"]

    def checked(self, edition: Edition) -> list[Any]:
        path = Path(self.enterContext(tempfile.TemporaryDirectory())) / "x.zip"
        path.write_bytes(b"".join(stream_bundle(edition)))
        with Bundle(path) as bundle:
            return list(verify(bundle))

    def test_readings_in_texts_are_live_until_they_are_published(self) -> None:
        self.study.verdicts.create(use="Web", text="At {A brightness noise, sky} it will do.")
        answer = self.write(
            {"kind": "text", "text": HTML},
            {"kind": "figures"},
            summary="Only {A brightness noise, sky = 0}.",
        ).json()
        told = {(row["where"], row["block"]): row["text"] for row in answer["values"]}
        self.assertEqual(set(told), {("summary", None), ("verdict for Web", None), ("text", 0)})
        live = told["verdict for Web", None]
        # The author's own number is not what was read, and readers would ask.
        (wrong,) = [q["text"] for q in answer["asked"] if q["id"] == "otherwise"]
        self.assertIn(f"it is {live}", wrong)
        self.assertEqual(answer["missing"], "")
        _, document, page = self.print_it()
        self.assertNotIn("{", document["summary"] + document["verdicts"][0]["text"])
        self.assertEqual(document["verdicts"][0]["text"], f"At {live} it will do.")
        self.assertIn(f'<a href="#p0-noise_luma" rel="noopener noreferrer">{live}</a>', page)
        self.assertEqual([v["letter"] for v in document["values"]], ["A", "A", "A", "U"])
        document["values"][-1]["reading"] = "9.99 ±0.01"
        wrong = [c.what for c in values_again(document) if c.state == "differing"]
        self.assertEqual(wrong, ["U brightness noise, sky in the text"])
        # The report goes on asking, and the edition does not.
        self.assertIn("{A brightness noise", Report.objects.get().summary)
        Reading.objects.filter(measure="noise_luma").update(value=7, low=6.5, high=7.5)
        now = self.owner.get(self.home).json()["values"]
        self.assertTrue(all("7.00 ±0.50" in row["text"] for row in now if row["block"] == 0))

    def test_what_can_not_be_found_keeps_a_report_from_being_published(self) -> None:
        for text, why in (
            ("<p>{A noise, sky}</p>", "more than one measure"),
            ("<p>{Q brightness noise, sky}</p>", "no contender Q"),
            ("<p>{A brightness noise, sea}</p>", "no place “sea”"),
            ("<p>{A <em>brightness</em> noise, sky}</p>", "without bold"),
        ):
            with self.subTest(text):
                self.assertIn(why, self.write({"kind": "text", "text": text}).json()["missing"])
                asked = self.owner.post(
                    f"/api/studies/{self.study.pk}/editions", {"note": ""}, JSON
                )
                self.assertEqual(asked.status_code, 400)
                self.assertIn(why, asked.json()["detail"])

    def test_what_is_no_choice_is_refused_and_what_is_gone_is_left_out(self) -> None:
        place = self.table["places"][0]
        for change, why in (
            ({"measures": ["warmth"]}, "no measure"),
            ({"places": [{"frame": place["frame"], "patch": 9999}]}, "not in this study"),
            ({"places": [{"frame": 9999, "patch": None}]}, "not in this study"),
            ({"letters": ["Q"]}, "no contender Q"),
            ({"places": [place] * 70}, "at most 120 rows"),
        ):
            with self.subTest(change):
                answer = self.write({"kind": "table", "table": self.table | change})
                self.assertEqual(answer.status_code, 400)
                self.assertIn(why, answer.json()["detail"])
        for kind in ("table", "chart"):
            self.assertEqual(self.write({"kind": kind, "table": None}).status_code, 200)
        blocks = [{"kind": kind, "table": self.table} for kind in ("table", "chart")]
        self.write(*blocks, {"kind": "table", "table": self.table | {"measures": ["psnr"]}})
        self.study.patches.all().delete()
        # It can be saved as it is, and an edition has what is left of it.
        self.assertEqual(self.write(*Report.objects.get().blocks).status_code, 200)
        self.study.patches.create(
            frame_id=place["frame"], name="Sea", role="flat", x=10, y=10, w=64, h=64
        )
        work()
        _, document, _ = self.print_it()
        kinds = [b["kind"] for b in document["blocks"]]
        for block in document["blocks"]:
            self.assertTrue(all(r["patch"] is None for r in block.get("rows", ())))
        self.assertLessEqual(kinds.count("table"), 1)
