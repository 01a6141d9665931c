"""An edition's PDF, read back by pikepdf and pdfminer."""

from __future__ import annotations

import io
import json
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pikepdf
from django.core.files.storage import storages
from django.test import override_settings
from pdfminer.high_level import extract_text
from pdfminer.layout import LAParams
from PIL import Image, ImageFile

from glenhail.server.publishing.models import Edition, Proof
from glenhail.server.publishing.paper import BASE, own_file
from tests.server.base import ServerTest, work

JSON = "application/json"
HOSTILE = '<img src="http://elsewhere.invalid/x.png"><script>alert(1)</script>'


class Paper(ServerTest):
    paper = True

    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        blocks = [
            {"kind": kind}
            for kind in ("answer", "lead", "contenders", "figures", "numbers", "method", "files")
        ]
        blocks.insert(3, {"kind": "heading", "text": "What we looked for"})
        blocks.insert(
            4, {"kind": "text", "text": "<p>Threads, <a href='https://a.example/'>so</a>."}
        )
        texts = {
            "summary": f"A keeps “the thread” & 12 < 13. {HOSTILE}",
            "method": "",
            "disclosure": "",
            "blocks": blocks,
        }
        self.owner.put(f"/api/studies/{self.study.pk}/report", texts, JSON)
        with override_settings(ADDRESS="https://bench.example"):
            self.owner.post(f"/api/studies/{self.study.pk}/editions", {"note": ""}, JSON)
        work()
        self.edition = Edition.objects.get()
        self.folder = Path(storages["editions"].path(self.edition.folder))
        self.path = self.folder / "edition.pdf"

    def test_it_is_tagged_has_its_language_title_contents_and_own_fonts(self) -> None:
        with pikepdf.open(self.path) as pdf:
            root = pdf.Root
            self.assertTrue(root.MarkInfo.Marked)
            self.assertEqual((str(root.Lang), root.StructTreeRoot.Type), ("en", "/StructTreeRoot"))
            self.assertTrue(root.ViewerPreferences.DisplayDocTitle)
            with pdf.open_metadata() as told:
                self.assertEqual(told["dc:title"], "Which is better?, edition 1")
                self.assertEqual(told["pdfuaid:part"], "1")
            kinds = set(_kinds(root.StructTreeRoot))
            self.assertLessEqual({"/H1", "/H2", "/Figure", "/Table", "/TH", "/TD", "/Link"}, kinds)
            with pdf.open_outline() as outline:
                titles = [entry.title for entry in outline.root[0].children]
            self.assertEqual(titles[0], "Contenders")
            self.assertIn("All readings of the patches", titles)
            for page in pdf.pages:
                for font in page.resources.get("/Font", {}).values():
                    inner = font.DescendantFonts[0] if "/DescendantFonts" in font else font
                    self.assertTrue({"/FontFile2", "/FontFile3"} & set(inner.FontDescriptor.keys()))

    def test_every_crop_is_there_whole_with_300_pixels_in_an_inch(self) -> None:
        document = json.loads((self.folder / "edition.json").read_text())
        crops = [c for p in document["patches"] for c in p["crops"]]
        with pikepdf.open(self.path) as pdf:
            placed = [one for page in pdf.pages for one in _placed(page)]
            alts = [str(e.Alt) for e in _figures(pdf.Root.StructTreeRoot)]
            self.assertEqual(len(placed), len(crops))
            self.assertEqual(len(alts), len(crops))
            for crop, (image, wide, high) in zip(crops, placed, strict=True):
                codes = np.asarray(pikepdf.PdfImage(image).as_pil_image().convert("RGB"))
                self.assertGreaterEqual(codes.shape[1] / (wide / 72), 300 - 0.5)
                self.assertGreaterEqual(codes.shape[0] / (high / 72), 300 - 0.5)
                with Image.open(self.folder / crop["file"]) as own:
                    pixels = np.asarray(own.convert("RGB"))
                times = codes.shape[1] // pixels.shape[1]
                # Its own pixels, each repeated, and nothing between them.
                again = pixels.repeat(times, axis=0).repeat(times, axis=1)
                np.testing.assert_array_equal(codes, again)

    def test_its_text_comes_in_the_order_of_the_page_and_nothing_is_fetched(self) -> None:
        text = " ".join(extract_text(str(self.path), laparams=LAParams(boxes_flow=None)).split())
        order = [
            "A keeps “the thread” & 12 < 13. <img src",
            "Figure 1. Sky, frame; every crop",
            "What we looked for",
            "The author wrote no method.",
            "Check it yourself",
            "All readings of the patches",
        ]
        at = [text.rindex(words) for words in order]
        self.assertEqual(at, sorted(at))
        self.assertNotRegex(text, r"\{[{%]")
        self.assertRegex(text, r"Edition 1, \d+ \w{3} 20\d\d, https://bench.example/reports/")
        with pikepdf.open(self.path) as pdf:
            links = {
                str(note.A.URI)
                for page in pdf.pages
                for note in page.get("/Annots", [])
                if "/A" in note and "/URI" in note.A
            }
        self.assertIn("https://a.example/", links)
        self.assertFalse([link for link in links if link.startswith(BASE)])

    def test_it_is_offered_on_the_page_and_names_what_it_was_printed_from(self) -> None:
        answer = self.client_of("viewer").get(f"{self.edition.address}edition.pdf")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/pdf"))
        page = self.client_of("viewer").get(self.edition.address)
        self.assertIn(b'href="edition.pdf"', b"".join(page.streaming_content))
        with pikepdf.open(self.path) as pdf:
            self.assertEqual(str(pdf.trailer.ID[0]), Proof.objects.get().sha256)

    def test_printing_leaves_nothing_behind_that_would_take_in_damaged_pictures(self) -> None:
        data = (self.folder / "readings.csv").parent.glob("crops/*-A.png")
        cut = next(data).read_bytes()[:-200]
        self.assertFalse(ImageFile.LOAD_TRUNCATED_IMAGES)
        with self.assertRaises(OSError):
            Image.open(io.BytesIO(cut)).load()

    def test_nothing_but_the_edition_s_own_files_is_read(self) -> None:
        secret = self.folder.parent / "secret.woff2"
        secret.write_bytes(b"kept")
        for url in (
            "file:///etc/passwd",
            "http://elsewhere.invalid/crops/a.png",
            f"{BASE}../secret.woff2",
            f"{BASE}%2e%2e/secret.woff2",
            f"{BASE}crops/%2e%2e/../../secret.woff2",
        ):
            with self.subTest(url=url), self.assertRaises(ValueError):
                own_file(self.folder, url)


def _kinds(root: pikepdf.Object) -> Iterator[str]:
    for element in _elements(root):
        if "/S" in element:
            yield str(element.S)


def _figures(root: pikepdf.Object) -> list[pikepdf.Object]:
    return [e for e in _elements(root) if e.get("/S") == "/Figure" and "/Alt" in e]


def _elements(element: pikepdf.Object) -> Iterator[pikepdf.Object]:
    yield element
    children = element.get("/K", [])
    for child in children if isinstance(children, pikepdf.Array) else [children]:
        if isinstance(child, pikepdf.Dictionary) and "/S" in child:
            yield from _elements(child)


def _placed(page: pikepdf.Page) -> Iterator[tuple[pikepdf.Object, float, float]]:
    """Every picture of a page with the points that it takes, in drawing order."""
    matrix, kept = pikepdf.Matrix(), []
    for told in pikepdf.parse_content_stream(page):
        operator = str(told.operator)
        if operator == "q":
            kept.append(matrix)
        elif operator == "Q":
            matrix = kept.pop()
        elif operator == "cm":
            matrix = pikepdf.Matrix(*map(float, told.operands)) @ matrix
        elif operator == "Do":
            image = page.resources.XObject[str(told.operands[0])]
            if image.Subtype == "/Image":
                yield image, abs(matrix.a), abs(matrix.d)
