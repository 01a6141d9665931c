"""The report as its next edition would look, held against that edition once it is printed."""

from __future__ import annotations

import io
import re
from html.parser import HTMLParser
from pathlib import Path
from typing import Any
from unittest import mock

import html5lib
import numpy as np
from django.core.files.storage import storages
from PIL import Image

from glenhail.server.material.models import Frame
from glenhail.server.measuring.models import LineUp
from glenhail.server.publishing.models import Edition, Proof, Report
from glenhail.server.viewing import shots
from tests.server.base import ServerTest, work

JSON = "application/json"
PLACE = {"x": 20, "y": 20, "w": 100, "h": 64}


class Texts(HTMLParser):
    """What is read, and the pictures in their order."""

    def __init__(self, html: str) -> None:
        super().__init__()
        self.words: list[str] = []
        self.pictures: list[str] = []
        self._skip = False
        self.feed(html)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self._skip = tag in ("script", "style")
        if tag == "img":
            self.pictures.append(dict(attrs)["src"] or "")

    def handle_endtag(self, tag: str) -> None:
        self._skip = False

    def handle_data(self, data: str) -> None:
        if not self._skip and data.strip():
            self.words.append(" ".join(data.split()))


class Preview(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        self.home = f"/api/studies/{self.study.pk}/report"
        figure = {"frame": Frame.objects.get().pk, **PLACE, "letters": ["A", "U"]}
        self.owner.post(f"{self.home}/figures", {**figure, "lift": 1}, JSON)
        differs = {"against": "U", "kind": "de00", "gain": 4}
        self.owner.post(f"{self.home}/figures", {**figure, **differs}, JSON)

    def codes(self, data: bytes) -> np.ndarray:
        return np.asarray(Image.open(io.BytesIO(data)).convert("RGB"))

    def shown(self, **asked: Any) -> Any:
        return self.client_of("editor").get(f"{self.home}/preview/", asked)

    def test_it_reads_and_looks_as_the_edition_does(self) -> None:
        before = Texts(self.shown().content.decode())
        self.assertEqual(Proof.objects.count(), 0)
        self.owner.post(f"/api/studies/{self.study.pk}/editions", {"note": ""}, JSON)
        work()
        edition = Edition.objects.get()
        folder = Path(storages["editions"].path(edition.folder))
        after = Texts((folder / "index.html").read_text())
        # Files, their sizes and each figure as one picture come with the edition; the
        # rest is the same, word for word.
        ours = [w for w in before.words if not w.startswith("Nothing of this")]
        files = next(i for i, w in enumerate(ours) if w == "Check it yourself" and i > 40)
        theirs = [w for w in after.words if w != "As one picture"]
        self.assertEqual(ours[:files], theirs[:files])
        self.assertEqual(len(before.pictures), len(after.pictures))
        self.assertGreater(len(before.pictures), 5)
        for asked, printed in zip(before.pictures, after.pictures, strict=True):
            with self.subTest(printed):
                answer = self.owner.get(asked)
                self.assertEqual(answer.status_code, 200, asked)
                want = self.codes((folder / printed).read_bytes())
                np.testing.assert_array_equal(self.codes(answer.content), want)

    def test_a_report_that_nobody_wrote_yet_can_be_seen_too(self) -> None:
        Report.objects.all().delete()
        page = self.shown()
        self.assertEqual(page.status_code, 200)
        self.assertIn("The author wrote no method.", page.content.decode())
        self.assertFalse(Report.objects.exists())

    def test_it_brings_its_style_and_is_framed_by_this_site_alone(self) -> None:
        page = self.shown(way="print")
        self.assertEqual(page["X-Frame-Options"], "SAMEORIGIN")
        self.assertIn("no-store", page["Cache-Control"])
        self.assertIn('href="print.css"', page.content.decode())
        style = self.owner.get(f"{self.home}/preview/print.css").content.decode()
        self.assertNotIn("@media print", style)
        for name in set(re.findall(r"url\(\"?([^)\"]+)", style)):
            self.assertEqual(self.owner.get(f"{self.home}/preview/{name}").status_code, 200, name)
        for odd in ("edition.json", "..%2Fapps.py", "%2e%2e", "nothing.css"):
            answer = self.owner.get(f"{self.home}/preview/{odd}")
            self.assertEqual(answer.status_code, 404, odd)

    def test_a_crop_that_a_browser_has_is_not_drawn_again(self) -> None:
        pictures = Texts(self.shown().content.decode()).pictures
        differing = next(p for p in pictures if "kind=de00" in p)
        for address in (pictures[0], differing):
            first = self.owner.get(address)
            self.assertIn("no-cache", first["Cache-Control"])
            again = {"If-None-Match": first["ETag"]}
            with mock.patch.object(shots, "decoded", side_effect=AssertionError):
                second = self.owner.get(address, headers=again)
            self.assertEqual((second.status_code, second.content), (304, b""))
        # Another line-up gives another picture.
        for row in list(LineUp.objects.all()):
            LineUp.objects.filter(pk=row.pk).delete()
            row.pk = None
            row.save()
        self.assertEqual(self.owner.get(address, headers=again).status_code, 200)

    def test_a_page_is_composed_without_decoding_a_picture(self) -> None:
        with mock.patch.object(shots, "decoded", side_effect=AssertionError):
            self.assertEqual(self.shown().status_code, 200)

    def test_footnotes_are_numbered_through_the_report(self) -> None:
        told = self.owner.get(self.home).json()
        texts = ["<p>One[^ of <strong>three</strong>].</p>", "<p>Two[^ and] three[^ last].</p>"]
        blocks = [*told["blocks"], *({"kind": "text", "text": text} for text in texts)]
        body = {k: told[k] for k in ("summary", "method", "disclosure")} | {"blocks": blocks}
        self.assertEqual(self.owner.put(self.home, body, JSON).status_code, 200)
        page = self.shown().content.decode()
        self.assertIn(
            '<sup id="ref-3"><a href="#note-3" rel="noopener noreferrer">3</a></sup>', page
        )
        self.assertIn('<li id="note-1">of <strong>three</strong> <a href="#ref-1"', page)
        self.assertIn('<ol class="notes" start="2"><li id="note-2">and ', page)
        html5lib.HTMLParser(strict=True).parse(page)

    def test_it_is_for_those_of_the_bench(self) -> None:
        address = Texts(self.shown().content.decode()).pictures[0]
        stranger = self.client_of("stranger")
        for path in (f"{self.home}/preview/", f"{self.home}/preview/report.css", address):
            self.assertEqual(stranger.get(path).status_code, 404, path)
            self.assertEqual(self.client.get(path).status_code, 401, path)
        part, _, _ = address.partition("?")
        outside = part.rpartition("/")[0] + "/600_400_90_90.png"
        self.assertEqual(self.owner.get(outside).status_code, 404)
        for odd in ({"lift": "7"}, {"kind": "hue"}, {"kind": "de00"}, {"gain": "3"}):
            self.assertEqual(self.owner.get(part, odd).status_code, 400, odd)
        self.assertEqual(self.shown(way="film").status_code, 400)
