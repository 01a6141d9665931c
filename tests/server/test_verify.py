"""An edition's download is checked by whoever has it: one changed pixel, number or
caption is found, though its sums were made anew.
"""

from __future__ import annotations

import contextlib
import csv
import hashlib
import io
import json
import tempfile
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from glenhail.core.__main__ import main
from glenhail.server.publishing.blocks import usual
from glenhail.server.publishing.models import Edition
from tests.server.base import TERMS, ServerTest, stream_of, tiff, upload, work

JSON = "application/json"
Files = dict[str, bytes]


class Verifying(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        self.add_namesake()
        work()
        texts = {"summary": "A is softer.", "method": "Alike.", "disclosure": "None."}
        # Its author left out two blocks: what is not on the page is not missed there.
        blocks = [b for b in usual() if b["kind"] not in ("lead", "findings")]
        blocks.append({"kind": "text", "text": "<p>Cloth[^ by lamps].</p>"})
        report = {**texts, "blocks": blocks}
        self.owner.put(f"/api/studies/{self.study.pk}/report", report, JSON)
        frame = self.study.patches.earliest("pk").frame
        contender = self.study.contenders.get(letter="A")
        remark = {"frame": frame.pk, "x": 60.0, "y": 45.0, "kind": "smeared", "text": "here"}
        answer = self.owner.post(
            f"/api/studies/{self.study.pk}/remarks",
            {**remark, "of_all": False, "contenders": [contender.pk]},
            JSON,
        )
        self.assertEqual(answer.status_code, 201, answer.content)
        self.owner.post(f"/api/studies/{self.study.pk}/editions", {"note": ""}, JSON)
        work()
        edition = Edition.objects.get()
        pack = zipfile.ZipFile(stream_of(self.owner.get(f"{edition.address}everything.zip")))
        self.files = {name: pack.read(name) for name in pack.namelist()}
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "bundle.zip"

    def add_namesake(self) -> None:
        """Another frame with a patch, both named like the first."""
        base = f"/api/studies/{self.study.pk}"
        frame = self.owner.post("/api/frames", upload("other", "frame.tif")).json()["id"]
        self.owner.post("/api/frames/terms", {"frames": [frame], **TERMS}, JSON)
        self.owner.post(f"{base}/frames", {"frame": frame}, JSON)
        contender = self.study.contenders.get(letter="A")
        self.owner.post(f"/api/contenders/{contender.pk}/outputs/{frame}", upload("other", "x.tif"))
        place = {"frame": frame, "name": "Sky", "role": "flat", "x": 200, "y": 150}
        answer = self.owner.post(f"{base}/patches", {**place, "w": 90, "h": 60}, JSON)
        self.assertEqual(answer.status_code, 201, answer.content)

    def verify(self, files: Files, *options: str, sums: bool = True) -> tuple[int, dict[str, Any]]:
        """Pack, with sums made anew, and check: the exit status and what was told."""
        files = {name: data for name, data in files.items() if name != "SHA256SUMS"}
        made = "".join(f"{hashlib.sha256(d).hexdigest()}  {n}\n" for n, d in files.items())
        with zipfile.ZipFile(self.path, "w") as pack:
            for name, data in files.items():
                pack.writestr(name, data)
            pack.writestr("SHA256SUMS", made if sums else self.files["SHA256SUMS"])
        told = io.StringIO()
        with contextlib.redirect_stdout(told):
            status = main(["verify", str(self.path), "--json", *options])
        return status, json.loads(told.getvalue())

    def test_an_edition_is_what_its_files_say_and_what_else_is_told_as_such(self) -> None:
        status, told = self.verify(self.files)
        self.assertEqual((status, told["others"]), (0, []))
        # Of every frame's and patch's readings of three columns, crops and texts.
        self.assertGreater(told["counts"]["equal"], 100)
        originals = {n for n in self.files if n.startswith("originals/")}
        self.assertIn("originals/frame-2/A_x.tif", originals)
        self.only_damaged()
        self.kept_back()
        self.no_bundle()

    def test_whatever_is_changed_is_found(self) -> None:
        changes: dict[str, tuple[str, Callable[[bytes], bytes], str]] = {
            "a pixel of a crop": ("report/crops/01-frame-sky-A.png", _dotted, "crop"),
            "a pixel beside a crop": ("report/around/01-frame-sky-U.png", _dotted, "crop"),
            "a pixel of a remark": ("report/crops/remark-1-A.png", _dotted, "crop"),
            "an original": ("originals/frame/A_out_A.tif", lambda _: tiff("other"), "file"),
            "a printed number": ("report/edition.json", _number("text", "99.9"), "reading"),
            "a number behind it": ("report/edition.json", _number("value", 12.5), "reading"),
            "its interval": ("report/edition.json", _number("high", 1e9), "reading"),
            "a caption": ("report/index.html", _instead(b"% of the subject", b"% of it"), "page"),
            "a name": (
                "report/index.html",
                _instead(b"</span>\n Sedgewash", b"</span>\n B"),
                "page",
            ),
            "a number of a table": ("report/index.html", _instead(b'"half">', b'"half">1'), "page"),
            "a sentence": (
                "report/index.html",
                _instead(b"<p>A is softer", b"<p>A is best"),
                "page",
            ),
            "a footnote": (
                "report/index.html",
                _instead(b'note-1">by lamps', b'note-1">by day'),
                "page",
            ),
            "what machines are told": (
                "report/index.html",
                _instead(b'"reviewBody": "A is', b'"reviewBody": "B is'),
                "page",
            ),
            "the table of readings": ("report/readings.csv", _other(-1, "value"), "table"),
            "an interval in it": ("report/readings.csv", _other(0, "high"), "table"),
            "a column of it": ("report/readings.csv", _instead(b",low,", b",lower,"), "table"),
            "a file too many": ("report/more.txt", lambda _: b"Buy B", "file"),
        }
        for name, (file, change, kind) in changes.items():
            with self.subTest(name):
                before = self.files.get(file, b"")
                after = change(before)
                self.assertTrue(after != before, f"{file} has nothing of it")
                # One too many is found by its absence from the sums.
                status, told = self.verify({**self.files, file: after}, sums=bool(before))
                self.assertEqual(status, 1)
                found = {c["kind"].split()[0] for c in told["others"] if c["state"] == "differing"}
                self.assertIn(kind, found)

    def only_damaged(self) -> None:
        """What was only damaged is told by its sum."""
        name = "report/report.css"
        _, told = self.verify({**self.files, name: b"body { display: none }"}, sums=False)
        self.assertEqual([c["what"] for c in told["others"]], [name])

    def kept_back(self) -> None:
        """What is kept back can not be checked, and that is said."""
        name = "frame/A_out_A.tif"
        listed = json.loads(self.files["originals.json"])
        for entry in listed:
            if entry["name"] == name:
                entry["withheld"] = "kept back"
        files = {**self.files, "originals.json": json.dumps(listed).encode()}
        del files[f"originals/{name}"]
        status, told = self.verify(files)
        self.assertEqual((status, told["counts"]["differing"]), (1, 0))
        self.assertTrue(all(c["state"] == "not checkable" for c in told["others"]))
        self.assertTrue(any(c["kind"] == "reading" for c in told["others"]))
        self.assertEqual(self.verify(files, "--allow-missing")[0], 0)

    def no_bundle(self) -> None:
        """What is no bundle is refused with a remedy."""
        old = json.loads(self.files["report/edition.json"]) | {"format": "glenhail edition 1"}
        for name, files in {
            "an empty one": {},
            "no data": {**self.files, "report/edition.json": b"nothing"},
            "half of its data": {
                **self.files,
                "report/edition.json": json.dumps({"format": old["format"][:-1] + "2"}).encode(),
            },
            "an older form": {**self.files, "report/edition.json": json.dumps(old).encode()},
        }.items():
            with self.subTest(name), zipfile.ZipFile(self.path, "w") as pack:
                for part, data in files.items():
                    pack.writestr(part, data)
            told = io.StringIO()
            with contextlib.redirect_stderr(told):
                self.assertEqual(main(["verify", str(self.path)]), 2)
            self.assertIn("bundle.zip", told.getvalue())
        self.path.write_bytes(b"PK nothing")
        with contextlib.redirect_stderr(io.StringIO()):
            self.assertEqual(main(["verify", str(self.path)]), 2)


def _dotted(png: bytes) -> bytes:
    """A picture with one code of one pixel another."""
    codes = np.array(Image.open(io.BytesIO(png)).convert("RGB"))
    codes[3, 5, 1] ^= 1
    file = io.BytesIO()
    Image.fromarray(codes).save(file, "PNG")
    return file.getvalue()


def _number(what: str, to: object) -> Callable[[bytes], bytes]:
    """The first number of the first patch that has one, told otherwise."""

    def change(data: bytes) -> bytes:
        document = json.loads(data)
        cells = (c for row in document["patches"][0]["table"] for c in row["cells"])
        next(c for c in cells if "value" in c)[what] = to
        return json.dumps(document).encode()

    return change


def _other(row: int, column: str) -> Callable[[bytes], bytes]:
    """Another number in one row of those that have any."""

    def changed(data: bytes) -> bytes:
        told = list(csv.DictReader(io.StringIO(data.decode())))
        numbered = [r for r in told if r["value"] and r["basis"] == "as made"]
        numbered[row][column] = str(float(numbered[row][column]) + 1)
        out = io.StringIO()
        writer = csv.DictWriter(out, list(told[0]), lineterminator="\r\n")
        writer.writeheader()
        writer.writerows(told)
        return out.getvalue().encode()

    return changed


def _instead(words: bytes, others: bytes) -> Callable[[bytes], bytes]:
    return lambda data: data.replace(words, others, 1)
