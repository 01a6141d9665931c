"""Publishing: what an owner asked for is what is printed, whoever does what in between."""

from __future__ import annotations

import hashlib
import io
import json
import tempfile
import zipfile
from datetime import date, timedelta
from pathlib import Path
from typing import Any

import numpy as np
from django.core.files.storage import storages
from django.core.files.uploadedfile import SimpleUploadedFile
from jsonschema import Draft202012Validator
from PIL import Image

from glenhail.core.colour import srgb
from glenhail.core.files.decoding import read_picture
from glenhail.core.files.pixels import pixels_hash
from glenhail.server.jobs.models import Job, State
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.models import Edition, Proof
from tests.server.base import ServerTest, stream_of, tiff, upload, work

JSON = "application/json"
TEXTS = {"summary": "A is softer.", "method": "", "disclosure": "Paid for by us."}


class Publishing(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        self.owner.put(f"/api/studies/{self.study.pk}/report", TEXTS, JSON)
        self.editor = self.client_of("editor")

    def ask(self, note: str = "") -> Job:
        answer = self.owner.post(f"/api/studies/{self.study.pk}/editions", {"note": note}, JSON)
        self.assertEqual(answer.status_code, 202, answer.content)
        return Job.objects.get(pk=answer.json()["id"])

    def printed(self) -> dict[str, Any]:
        edition = Edition.objects.latest("number")
        return dict(
            json.loads(
                Path(storages["editions"].path(f"{edition.folder}/edition.json")).read_text()
            )
        )

    def test_what_is_written_after_an_owner_asked_is_not_published(self) -> None:
        self.ask()
        self.editor.put(
            f"/api/studies/{self.study.pk}/report", {**TEXTS, "summary": "Buy B!"}, JSON
        )
        self.editor.put(
            f"/api/studies/{self.study.pk}/verdicts",
            {"verdicts": [{"use": "web", "text": "Buy B!"}]},
            JSON,
        )
        self.editor.patch(
            f"/api/studies/{self.study.pk}", {"question": "Is B not best?", "factor": "tool"}, JSON
        )
        work()
        self.assertNotIn("Buy B!", json.dumps(self.printed()))
        self.assertEqual(
            (self.printed()["summary"], self.printed()["question"]),
            ("A is softer.", "Which is better?"),
        )

    def test_an_editor_can_neither_cancel_nor_retry_what_only_an_owner_may_ask_for(self) -> None:
        job = self.ask()
        self.assertEqual(self.editor.post(f"/api/jobs/{job.pk}/cancel").status_code, 403)
        self.assertEqual(self.owner.post(f"/api/jobs/{job.pk}/cancel").status_code, 200)
        self.editor.put(
            f"/api/studies/{self.study.pk}/report", {**TEXTS, "summary": "Buy B!"}, JSON
        )
        self.assertEqual(self.editor.post(f"/api/jobs/{job.pk}/retry").status_code, 403)
        work()
        self.assertEqual(Edition.objects.count(), 0)
        # An owner who retries gets what was asked for then.
        self.assertEqual(self.owner.post(f"/api/jobs/{job.pk}/retry").status_code, 200)
        work()
        self.assertEqual(self.printed()["summary"], "A is softer.")

    def test_a_picture_that_changed_since_stops_the_printing_and_is_named(self) -> None:
        contender = self.study.contenders.get(letter="A")
        frame = self.study.study_frames.get().frame
        job = self.ask()
        self.editor.post(f"/api/contenders/{contender.pk}/outputs/{frame.pk}", upload("double"))
        work()
        job.refresh_from_db()
        self.assertEqual(job.state, State.FAILED)
        self.assertIn("A of frame changed after this edition was asked for", job.problem)
        self.assertEqual(Edition.objects.count(), 0)
        self.ask()
        work()
        self.assertEqual(Edition.objects.get().number, 1)

    def test_a_proof_is_hashed_and_the_trail_has_its_hash(self) -> None:
        self.ask()
        proof = Proof.objects.get()
        from glenhail.server.accounts.models import Trail
        from glenhail.server.publishing.proofs import as_text

        self.assertEqual(hashlib.sha256(as_text(proof.document).encode()).hexdigest(), proof.sha256)
        self.assertTrue(
            Trail.objects.filter(action="publish", subject__contains=proof.sha256[:12]).exists()
        )
        self.assertEqual(
            set(map(int, proof.places)),
            set(Output.objects.filter(picture__isnull=False).values_list("pk", flat=True)),
        )

    def test_three_hashes_are_told_of_each_file_and_its_pixels_are_those_of_the_original(
        self,
    ) -> None:
        contender, frame = (
            self.study.contenders.get(letter="A"),
            self.study.study_frames.get().frame,
        )
        planted = tiff("smooth") + b"Zilpzalp sits behind the end"
        self.owner.post(
            f"/api/contenders/{contender.pk}/outputs/{frame.pk}",
            {"file": SimpleUploadedFile("out_A.tif", planted)},
        )
        work()
        self.ask()
        work()
        edition = Edition.objects.get()
        self.assertFalse(any(b"Zilpzalp" in part for part in self.bundle(edition).values()))
        entry = next(e for e in edition.manifest if e["name"].endswith("out_A.tif"))
        self.assertEqual(entry["original"], hashlib.sha256(planted).hexdigest())
        copy = self.bundle(edition)[f"originals/{entry['name']}"]
        self.assertEqual(
            (entry["sha256"], entry["size"]), (hashlib.sha256(copy).hexdigest(), len(copy))
        )
        with tempfile.NamedTemporaryFile(suffix=".tif") as file:
            for raw in (planted, copy):
                file.seek(0)
                file.truncate()
                file.write(raw)
                file.flush()
                self.assertEqual(pixels_hash(read_picture(Path(file.name)).pixels), entry["pixels"])
        self.assertEqual(json.loads(self.bundle(edition)["originals.json"]), edition.manifest)

    def bundle(self, edition: Edition) -> dict[str, bytes]:
        whole = zipfile.ZipFile(stream_of(self.owner.get(f"{edition.address}everything.zip")))
        return {name: whole.read(name) for name in whole.namelist()}

    def test_a_study_whose_report_was_never_published_can_be_removed_and_one_that_was_can_not(
        self,
    ) -> None:
        other = self.make_study()
        self.owner.put(f"/api/studies/{other.pk}/report", TEXTS, JSON)
        self.assertEqual(self.owner.delete(f"/api/studies/{other.pk}").status_code, 204)
        work()
        self.ask()
        work()
        self.assertEqual(self.owner.delete(f"/api/studies/{self.study.pk}").status_code, 400)
        self.assertEqual(Edition.objects.count(), 1)

    def test_what_was_asked_for_in_an_earlier_release_is_asked_for_again(self) -> None:
        job = self.ask()
        proof = Proof.objects.get()
        proof.document["format"] = "glenhail edition 1"
        proof.save()
        work()
        job.refresh_from_db()
        self.assertEqual((job.state, Edition.objects.count()), (State.FAILED, 0))
        self.assertIn("earlier release. Ask for it again.", job.problem)

    def test_the_page_is_made_of_blocks_answer_and_picture_first(self) -> None:
        self.ask()
        work()
        told, page = self.printed(), self.page()
        kinds = [block["kind"] for block in told["blocks"]]
        self.assertEqual(kinds[:2], ["answer", "lead"])
        self.assertEqual(kinds[-1], "files")
        # What has nothing to say is not there, nor in the contents.
        self.assertNotIn("remarks", kinds)
        places = [page.index(f'id="{kind}"') for kind in kinds]
        self.assertEqual(places, sorted(places))
        for kind in kinds:
            self.assertIn(f'<a href="#{kind}">', page)
        numbers = sorted(p["figure"] for p in told["patches"])
        self.assertEqual(numbers, list(range(1, len(numbers) + 1)))

    def test_a_crop_of_the_page_has_the_very_pixels_of_its_patch(self) -> None:
        self.ask()
        work()
        (patch,) = self.printed()["patches"]
        x, y, w, h = (round(v) for v in patch["rect"])
        for letter, kind in (("U", "frame"), ("T", "truth"), ("A", "smooth")):
            with self.subTest(letter):
                crop = next(c for c in patch["crops"] if c["letter"] == letter)
                shown = np.asarray(Image.open(io.BytesIO(self.file(crop["file"]))))
                with tempfile.NamedTemporaryFile(suffix=".tif") as file:
                    file.write(tiff(kind))
                    file.flush()
                    whole = srgb.to_display(read_picture(Path(file.name)).pixels)
                np.testing.assert_array_equal(shown, whole[y : y + h, x : x + w])
                self.assertEqual(
                    crop["css"],
                    {"left": "0.0000%", "top": "0.0000%", "width": "100.0000%"}
                    | {"height": "100.0000%"},
                )
                around = Image.open(io.BytesIO(self.file(crop["around"])))
                self.assertEqual(around.size, (crop["width"], crop["height"]))

    def test_no_text_leaves_its_place_in_the_page(self) -> None:
        evil = 'Is "x" } </style><script>alert(1)</script> {{ d }} \\ better?'
        self.owner.patch(
            f"/api/studies/{self.study.pk}", {"question": evil, "factor": "tool"}, JSON
        )
        for name in ("summary", "method", "disclosure"):
            self.owner.put(
                f"/api/studies/{self.study.pk}/report", {**TEXTS, name: f"{name} {evil}"}, JSON
            )
        self.ask()
        work()
        page = self.page()
        self.assertEqual(page.count("<script>"), 0)
        self.assertEqual(page.count("</style>"), 1)
        style = page[page.index("<style>") : page.index("</style>")]
        self.assertEqual(style.count('"'), 4, style)
        self.assertIn("&lt;script&gt;alert(1)", page)
        self.assertIn("{{ d }}", page)

    def put(self, blocks: list[dict[str, str]], status: int = 200) -> dict[str, Any]:
        answer = self.editor.put(
            f"/api/studies/{self.study.pk}/report", {**TEXTS, "blocks": blocks}, JSON
        )
        self.assertEqual(answer.status_code, status, answer.content)
        return dict(answer.json())

    def test_blocks_are_printed_in_their_order_with_words_of_ones_own(self) -> None:
        kinds = ["files", "figures", "lead", "answer"]
        blocks = [{"kind": k} for k in kinds]
        blocks.insert(1, {"kind": "heading", "text": "  What we  <i>saw</i> "})
        blocks.insert(2, {"kind": "text", "text": "<p>One <strong>two</strong> &amp; three</p>"})
        blocks.append({"kind": "text", "text": " "})
        told = self.put(blocks)["blocks"]
        # What every edition has stands at the end where it was left out.
        self.assertEqual(
            [b["kind"] for b in told][-7:],
            [
                "contenders",
                "changes",
                "corrections",
                "releases",
                "method",
                "fairness",
                "disclosure",
            ],
        )
        self.assertEqual(self.put(told)["blocks"], told)
        self.ask()
        work()
        page = self.page()
        shown = [b["anchor"] for b in self.printed()["blocks"]]
        # The one picture is the lead, and an empty text is none.
        self.assertEqual(shown[:5], ["files", "own-1", "own-2", "lead", "answer"])
        self.assertEqual(
            [page.index(f'id="{a}"') for a in shown], sorted(page.index(f'id="{a}"') for a in shown)
        )
        self.assertIn("<h2>What we &lt;i&gt;saw&lt;/i&gt;</h2>", page)
        self.assertIn("<p>One <strong>two</strong> &amp; three</p>", page)
        self.assertNotIn('id="remarks"', page)

    def test_texts_keep_only_what_a_reader_may_get(self) -> None:
        # After the OWASP cheat sheet on cross-site scripting, and what editors paste.
        cases = {
            "<script>alert(1)</script>safe": "safe",
            "<style>*{display:none}</style>safe": "safe",
            '<img src=x onerror="alert(1)">': "",
            '<p onclick="alert(1)" style="position:fixed" id="main">a</p>': "<p>a</p>",
            '<a href="javascript:alert(1)">a</a>': "a",
            '<a href=" jav&#x09;ascript:alert(1)">a</a>': "a",
            '<a href="data:text/html,<script>">a</a>': "a",
            "<svg><a xlink:href='javascript:alert(1)'>a</a></svg>": "",
            "<math><mi//xlink:href='data:x,<script>alert(4)</script>'>": "",
            '<iframe src="//elsewhere"></iframe><form action="/x"><input></form>': "",
            "<p><em>unclosed": "<p><em>unclosed</em></p>",
            "<!--><script>alert(1)</script-->": "",
            "<h1>large</h1><table><tr><td>x</td></tr></table>": "largex",
        }
        for given, wanted in cases.items():
            with self.subTest(given):
                told = self.put([{"kind": "text", "text": given}])["blocks"][0]["text"]
                self.assertNotRegex(
                    told.lower(), r"javascript:|data:|<script|onerror|onclick|style"
                )
                if "href" in given:
                    self.assertIn(wanted, told)
                else:
                    self.assertEqual(told, wanted)
        link = '<a href="https://mill.example/a?b=1&amp;c=2">there</a>'
        told = self.put([{"kind": "text", "text": link}])["blocks"][0]["text"]
        self.assertIn('href="https://mill.example/a?b=1&amp;c=2"', told)
        self.assertIn('rel="noopener noreferrer"', told)

    def test_blocks_that_are_none_are_refused_and_nothing_is_lost(self) -> None:
        before = self.put([{"kind": "answer"}, {"kind": "heading", "text": "Kept"}])["blocks"]
        for name, blocks, words in (
            ("no kind", [{"kind": "poem"}], "'poem' is no kind of block; there are answer, lead"),
            ("twice", [{"kind": "files"}, {"kind": "files"}], "“Check it yourself” stands"),
            ("a long heading", [{"kind": "heading", "text": "x" * 201}], "at most 200"),
            ("a long text", [{"kind": "text", "text": "x" * 20_001}], "at most 20,000"),
            ("too many", [{"kind": "text", "text": "x"}] * 201, "at most 200 blocks"),
        ):
            with self.subTest(name):
                self.assertIn(words, self.put(blocks, 400)["detail"])
        now = self.editor.get(f"/api/studies/{self.study.pk}/report").json()
        self.assertEqual(now["blocks"], before)
        # Who sends none, as older programs do, changes none.
        self.editor.put(f"/api/studies/{self.study.pk}/report", TEXTS, JSON)
        now = self.editor.get(f"/api/studies/{self.study.pk}/report").json()
        self.assertEqual(now["blocks"], before)

    def test_two_who_write_at_once_see_each_others_order(self) -> None:
        address = f"/api/studies/{self.study.pk}/report"
        tag = self.editor.get(address).headers["ETag"]
        self.put([{"kind": "heading", "text": "Mine"}])
        late = self.owner.put(
            address,
            {**TEXTS, "blocks": [{"kind": "heading", "text": "Yours"}]},
            JSON,
            headers={"If-Match": tag},
        )
        self.assertEqual(late.status_code, 412)
        self.assertEqual(late.json()["current"]["blocks"][0]["text"], "Mine")

    def test_the_next_edition_says_what_changed_since(self) -> None:
        self.ask()
        work()
        self.assertIsNone(self.printed()["changes"])
        self.assertNotIn("What changed since", self.page())
        contender = self.study.contenders.get(letter="A")
        frame = self.study.study_frames.get().frame
        self.editor.post(f"/api/contenders/{contender.pk}/outputs/{frame.pk}", upload("truth"))
        verdicts = {"verdicts": [{"use": "Print", "text": "A is the truth."}]}
        self.owner.put(f"/api/studies/{self.study.pk}/verdicts", verdicts, JSON)
        work()
        self.ask("A was brought in anew.")
        work()
        told, page = self.printed()["changes"], self.page()
        self.assertEqual((told["since"], told["texts"]), (1, ["verdict for Print: new"]))
        self.assertEqual({r["letter"] for r in told["readings"]}, {"A"})
        self.assertTrue(any(r["what"] == "Brightness noise, Sky, frame" for r in told["readings"]))
        # What nobody touched is what it was.
        self.assertGreater(told["same"], 20)
        for words in (
            "What changed since edition 1",
            "A was brought in anew.",
            "Verdict for Print",
        ):
            self.assertIn(words, page)

    def test_what_readers_would_ask_is_told_and_goes_once_it_is_answered(self) -> None:
        report = f"/api/studies/{self.study.pk}/report"

        def asked() -> set[str]:
            return {q["id"] for q in self.editor.get(report).json()["asked"]}

        self.assertLessEqual({"method", "verdicts"}, asked())
        self.assertNotIn("disclosure", asked())
        self.owner.put(report, {**TEXTS, "method": "Alike."}, JSON)
        verdicts = {"verdicts": [{"use": "Print", "text": "Q is best."}]}
        self.owner.put(f"/api/studies/{self.study.pk}/verdicts", verdicts, JSON)
        self.assertTrue({"evidence"} <= asked() and not {"method", "verdicts"} & asked())
        tool = self.bench.tools.get()
        tool.prices.create(
            what="licence", amount=10, currency="EUR", checked=date.today() - timedelta(days=200)
        )
        self.assertIn("price", asked())
        tool.prices.update(checked=date.today())
        self.assertNotIn("price", asked())

    def file(self, name: str) -> bytes:
        edition = Edition.objects.latest("number")
        return Path(storages["editions"].path(f"{edition.folder}/{name}")).read_bytes()

    def page(self) -> str:
        return self.file("index.html").decode()


class AsData(ServerTest):
    """What an edition offers besides its page."""

    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        self.owner.post(f"/api/studies/{self.study.pk}/editions", {"note": ""}, JSON)
        work()
        self.edition = Edition.objects.get()
        self.folder = Path(storages["editions"].path(self.edition.folder))

    def test_its_data_has_the_form_of_its_schema_and_what_has_not_is_told(self) -> None:
        schema = json.loads((self.folder / "edition.schema.json").read_text())
        Draft202012Validator.check_schema(schema)
        validator = Draft202012Validator(schema)
        document = json.loads((self.folder / "edition.json").read_text())
        self.assertEqual([e.message for e in validator.iter_errors(document)], [])
        self.assertEqual(document["$schema"], "edition.schema.json")
        cells = document["patches"][0]["table"][0]["cells"]
        cell = next(c for c in cells if "value" in c)
        wrong: tuple[tuple[dict[str, Any], str, Any], ...] = (
            (document, "format", "another"),
            (document, "number", 0),
            (document, "more", 1),
            (document["contenders"][0], "letter", "AB"),
            (document["patches"][0], "rect", [1, 2, 3]),
            (cell, "value", "12"),
        )
        for where, key, value in wrong:
            before = dict(where)
            where[key] = value
            with self.subTest(key):
                self.assertFalse(validator.is_valid(document))
            where.clear()
            where.update(before)
        del cell["low"]
        self.assertFalse(validator.is_valid(document))

    def test_each_original_is_offered_by_itself_as_a_file_to_save(self) -> None:
        page = (self.folder / "index.html").read_text()
        document = json.loads((self.folder / "edition.json").read_text())
        names = [o["name"] for o in document["originals"]]
        self.assertEqual(names, [e["name"] for e in self.edition.manifest])
        for entry in self.edition.manifest:
            self.assertIn(f'href="originals/{entry["name"]}"', page)
            answer = self.client.get(f"{self.edition.address}originals/{entry['name']}")
            data = stream_of(answer).getvalue()
            self.assertEqual(hashlib.sha256(data).hexdigest(), entry["sha256"])
            self.assertIn("attachment", answer["Content-Disposition"])
            self.assertEqual(answer["X-Content-Type-Options"], "nosniff")
        for name in ("../edition.json", "frame/none.tif", "", "frame%2FA_out_A.tif/x"):
            answer = self.client.get(f"{self.edition.address}originals/{name}")
            self.assertEqual(answer.status_code, 404, name)

    def test_sizes_are_told_beforehand(self) -> None:
        document = json.loads((self.folder / "edition.json").read_text())
        whole = len(stream_of(self.client.get(f"{self.edition.address}everything.zip")).getvalue())
        self.assertLess(abs(document["about_bytes"] / whole - 1), 0.1)
        page = (self.folder / "index.html").read_text()
        self.assertRegex(page, r"in one file, about [\d.]+ (kB|MB)")
