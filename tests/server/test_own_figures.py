"""Figures that an author took into the report, from the view to the edition's files."""

from __future__ import annotations

import base64
import io
import json
import re
import tempfile
import zipfile
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np
from django.core.files.storage import storages
from jsonschema import Draft202012Validator
from PIL import Image

from glenhail.core.checking.bundle import Bundle
from glenhail.core.checking.crops import crops_again
from glenhail.core.checking.verify import verify
from glenhail.core.colour import srgb
from glenhail.core.files.decoding import read_picture
from glenhail.core.looking.light import MIDDLE
from glenhail.server.material.models import Frame
from glenhail.server.publishing.api import preview
from glenhail.server.publishing.bundle import stream_bundle
from glenhail.server.publishing.models import Edition, Report
from glenhail.server.studies.models import Study
from tests.server.base import ServerTest, tiff, work

JSON = "application/json"
PLACE = {"x": 20, "y": 20, "w": 100, "h": 64}
LIFTED = {"letters": ["A", "U"], "lift": 2, "zoom": 1}
DIFFERING = {"letters": ["A", "U"], "against": "U", "kind": "brightness", "gain": 8}
NOISE = {"letters": ["A", "U"], "plane": "noise", "gain": 4}
POSTED = {"letters": ["A"], "seen_as": "post", "centre": [0.25, 0.5]}
OVER = {"letters": ["A", "U"], "over": 0.4}
MARKED = {"letters": ["U"], "marked": True}
EVERY = {
    "lifted by 2 EV": LIFTED,
    "brightness less that of U, 8 times": DIFFERING,
    "noise left, 4 times": NOISE,
    "as seen in use: post, 1080 px, JPEG 80": POSTED,
    "A left of the line, U right of it": OVER,
    "Marked: 1 Sky": MARKED,
}


def document_patch(study: Study) -> list[float]:
    """The place of a study's one patch, px."""
    patch = study.patches.get()
    return [patch.x, patch.y, patch.w, patch.h]


class OwnFigures(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        self.frame = Frame.objects.get()

    def take(self, client: str = "editor", **told: Any) -> Any:
        body = {"frame": self.frame.pk, **PLACE, **told}
        path = f"/api/studies/{self.study.pk}/report/figures"
        return self.client_of(client).post(path, body, JSON)

    def printed(self) -> tuple[Edition, dict[str, Any]]:
        self.owner.post(f"/api/studies/{self.study.pk}/editions", {"note": "Figures."}, JSON)
        work()
        edition = Edition.objects.latest("number")
        return edition, json.loads(self.read(edition, "edition.json"))

    def read(self, edition: Edition, name: str) -> bytes:
        return Path(storages["editions"].path(f"{edition.folder}/{name}")).read_bytes()

    def codes(self, edition: Edition, name: str) -> np.ndarray:
        return np.asarray(Image.open(io.BytesIO(self.read(edition, name))).convert("RGB"))

    def pixels(self, kind: str) -> np.ndarray:
        path = Path(self.enterContext(tempfile.TemporaryDirectory())) / "x.tif"
        path.write_bytes(tiff(kind))
        return read_picture(path, "x.tif").pixels

    def test_a_figure_can_be_carried_by_any_site_and_asks_nobody(self) -> None:
        self.study.question = "A</title><script>alert(1)</script>?"
        self.study.save()
        self.take(**LIFTED)
        edition, document = self.printed()
        for figure in (document["patches"][0], document["figures"][0]):
            told = figure["embed"]
            answer = self.client.get(edition.address + told["file"])
            page = b"".join(answer.streaming_content).decode()
            self.assertNotIn("X-Frame-Options", answer)
            self.assertIn("frame-ancestors *", answer["Content-Security-Policy"])
            self.assertIn("default-src 'none'", answer["Content-Security-Policy"])
            # Other pages of an edition are framed by nobody else.
            self.assertEqual(self.client.get(edition.address)["X-Frame-Options"], "DENY")
            self.assertNotIn("<script", page)
            outside = re.findall(r"""(?:src|href)="(?!data:)[^"]*|url\(|@import""", page)
            self.assertEqual(outside, [])
            data = re.findall(r'src="data:image/png;base64,([^"]+)"', page)
            crops = [self.read(edition, crop["file"]) for crop in figure["crops"]]
            self.assertEqual([base64.b64decode(d) for d in data], crops)
            self.assertGreater(told["height"], figure["rect"][3] * figure["magnification"])

    def test_a_view_becomes_a_block_before_what_is_side_by_side(self) -> None:
        taken = self.take(**LIFTED)
        self.assertEqual(taken.status_code, 201, taken.content)
        # The patch that lies within it is what it shows.
        self.assertEqual(taken.json()["text"], "Sky")
        self.take(**DIFFERING, x=300, y=200)
        blocks = Report.objects.get().blocks
        kinds = [b["kind"] for b in blocks]
        at = kinds.index("figure")
        self.assertEqual(kinds[at : at + 3], ["figure", "figure", "figures"])
        self.assertEqual(blocks[at + 1]["text"], "Part of frame")
        self.assertEqual(blocks[at + 1]["figure"]["letters"], ["A"])

    def test_a_close_look_is_trimmed_to_what_stands_whole_and_what_is_kept_stays(self) -> None:
        view = {"x": -100, "y": -100, "w": 900, "h": 900, "letters": ["A", "U"], "zoom": 2}
        figure = self.take(**view, trim=True).json()["figure"]
        self.assertEqual([figure[k] for k in "xywh"], [226, 262, 247, 165])
        # Whatever becomes of a contender or a frame, the rest can be written and taken.
        self.owner.delete(f"/api/contenders/{self.study.contenders.get(letter='A').pk}")
        path = f"/api/studies/{self.study.pk}/report"
        report = self.owner.get(path).json()
        texts = {k: report[k] for k in ("method", "disclosure", "blocks")}
        answer = self.owner.put(path, {"summary": "Still here.", **texts}, JSON)
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertEqual(self.take(letters=["U"]).status_code, 201)
        self.assertEqual([b["kind"] for b in Report.objects.get().blocks].count("figure"), 2)

    def test_what_can_be_no_figure_is_refused_with_words(self) -> None:
        for words, told in (
            ("beyond the edge of frame", {"x": 600}),
            ("There is no contender Q", {"letters": ["A", "Q"]}),
            ("at least 8 by 8 px", {"w": 3}),
            ("1 to 12 contenders", {"letters": ["U"], "against": "U", "kind": "de00"}),
            ("lifted by one of", {"lift": 9}),
            ("A valid number", {"x": "nan"}),
            ("A valid number", {"w": "inf"}),
            ("A valid number", {"zoom": "nan"}),
            ("no more", {"frame": 10**6}),
            ("not in this study", {"frame": 10**6}),
            ("shows another part", {"seen_as": "fifth", "centre": [1, 1]}),
            ("neither lifted nor", {"seen_as": "post", "lift": 1}),
            ("of all planes", {"against": "U", "kind": "de00", "plane": "red"}),
            ("takes two contenders", {"over": 0.5}),
            ("at a share of the width", {"letters": ["A", "U"], "over": 1}),
            ("of one contender, as made", {"letters": ["A", "U"], "marked": True}),
        ):
            with self.subTest(words):
                answer = self.take(**{"letters": ["A"], **told})
                self.assertEqual(answer.status_code, 400, answer.content)
                if words != "no more":
                    self.assertIn(words, answer.json()["detail"])
        self.assertEqual(self.take(letters=["A"], seen_as="mural").status_code, 404)
        self.assertEqual(self.take("viewer", letters=["A"]).status_code, 403)
        self.assertEqual(self.take("stranger", letters=["A"]).status_code, 404)
        report = self.owner.get(f"/api/studies/{self.study.pk}/report").json()
        without = {"kind": "figure", "text": "Nothing"}
        texts = {k: report[k] for k in ("summary", "method", "disclosure")}
        body = {**texts, "blocks": [without]}
        answer = self.owner.put(f"/api/studies/{self.study.pk}/report", body, JSON)
        self.assertIn("Into the report", answer.json()["detail"])

    def test_an_edition_shows_them_and_their_pixels_are_the_outputs(self) -> None:
        self.take(**LIFTED)
        self.take(**DIFFERING)
        edition, document = self.printed()
        schema = json.loads(self.read(edition, "edition.schema.json"))
        self.assertEqual(list(Draft202012Validator(schema).iter_errors(document)), [])
        lifted, differing = document["figures"]
        numbers = [lifted["figure"], differing["figure"]]
        self.assertEqual(numbers, [2, 3])  # after what is at a glance
        self.assertEqual([c["letter"] for c in lifted["crops"]], ["A", "U"])
        self.assertEqual((lifted["percent"], lifted["shown"]), ("100 %", "lifted by 2 EV"))

        page = self.read(edition, "index.html").decode()
        self.assertIn("Figure 2. Sky, frame", page)
        self.assertIn("brightness less that of U, 8 times", page)
        x, y, w, h = (PLACE[k] for k in "xywh")
        part = np.s_[y : y + h, x : x + w]
        frame, smooth = self.pixels("frame")[part], self.pixels("smooth")[part]
        for crop, pixels in zip(lifted["crops"], (smooth, frame), strict=True):
            want = srgb.to_display(pixels * 4)
            np.testing.assert_array_equal(self.codes(edition, crop["file"]), want)
        # ITU-R BT.709-6 luma of IEC 61966-2-1 values, about the middle.
        apart = (srgb.encode(smooth) - srgb.encode(frame)) @ np.array([0.2126, 0.7152, 0.0722])
        want = np.clip(np.rint(MIDDLE + 8 * 255 * apart), 0, 255)
        found = self.codes(edition, differing["crops"][0]["file"])
        self.assertLessEqual(np.abs(found[..., 0] - want).max(), 1)

    def test_each_way_of_showing_is_told_drawn_and_checked_like_all_else(self) -> None:
        for words, told in EVERY.items():
            self.assertEqual(self.take(**told).status_code, 201, words)
        edition, document = self.printed()
        schema = json.loads(self.read(edition, "edition.schema.json"))
        self.assertEqual(list(Draft202012Validator(schema).iter_errors(document)), [])
        page = self.read(edition, "index.html").decode()
        for words in EVERY:
            self.assertEqual(page.count(words), 1, words)
        self._is_as_in_use(edition, document["figures"][3])
        self._is_the_whole_frame(edition, document["figures"][5])
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        path = folder / "bundle.zip"
        path.write_bytes(b"".join(stream_bundle(edition)))
        with Bundle(path) as bundle:
            told = list(verify(bundle))
        wrong = [c for c in told if c.state != "equal"]
        self.assertEqual([(c.what, c.why) for c in wrong], [])
        captions = [c.what for c in told if c.what.startswith("caption of figure")]
        self.assertEqual(len(captions), 1 + len(EVERY))
        crops = [c for c in told if c.kind == "crop" and "lifted" not in c.what]
        self.assertGreater(len(crops), 6)

        # One code other by more than rounding is found, in lifted light and in differences.
        pictures = {
            o["letter"]: p
            for o, p in (
                (o, read_picture(self.original(path, folder, o["file"]), "x.tif"))
                for o in document["frames"][0]["outputs"]
            )
        }
        from glenhail.core.checking.readings import laid_again

        outputs = {o["letter"]: o for o in document["frames"][0]["outputs"]}
        for figure in document["figures"]:
            name = figure["crops"][0]["file"]
            codes = self.codes(edition, name).copy()
            codes[5, 5, 1] = 255 - codes[5, 5, 1]
            out = io.BytesIO()
            Image.fromarray(codes).save(out, "PNG")

            def read(asked: str, name: str = name, data: bytes = out.getvalue()) -> bytes:
                return data if asked == f"report/{name}" else self.read(edition, asked[7:])

            found = [
                c.what
                for c in crops_again(
                    document,
                    0,
                    lambda o: pictures[o["letter"]],
                    lambda x: laid_again(pictures["U"], pictures[x], outputs[x]),
                    read,
                )
                if c.state != "equal"
            ]
            self.assertEqual(len(found), 1, found)
            self.assertIn(name, found[0])

    def _is_as_in_use(self, edition: Edition, figure: dict[str, Any]) -> None:
        """Pillow's own JPEG of the whole output, at the size that it has already."""
        x, y, w, h = (PLACE[k] for k in "xywh")
        held = io.BytesIO()
        whole = Image.fromarray(srgb.to_display(self.pixels("smooth")))
        whole.save(held, "JPEG", quality=80, subsampling="4:2:0")
        back = np.asarray(Image.open(held).convert("RGB"))[y : y + h, x : x + w]
        crop = figure["crops"][0]
        np.testing.assert_array_equal(self.codes(edition, crop["file"]), back)

    def _is_the_whole_frame(self, edition: Edition, figure: dict[str, Any]) -> None:
        """Every patch is outlined where it is, on paper and in pictures for posts too."""
        height, width = self.pixels("frame").shape[:2]
        self.assertEqual(figure["rect"], [0, 0, width, height])
        mark, crop = figure["marks"][0], figure["crops"][0]
        self.assertEqual(crop["around"], "")
        patch = document_patch(self.study)
        self.assertEqual(mark["rect"], patch)
        self.assertEqual(mark["css"]["left"], f"{100 * patch[0] / width:.4f}%")
        plain, marked = (self.codes(edition, crop[k]) for k in ("file", "marked"))
        changed = np.argwhere((plain != marked).any(axis=2))
        scale = plain.shape[1] / width
        corner, end = changed.min(axis=0) / scale, changed.max(axis=0) / scale
        near = 2.5 / scale
        carried = self.read(edition, figure["embed"]["file"]).decode()
        self.assertIn("Marked: 1 Sky.", carried)
        data = base64.b64encode(self.read(edition, crop["marked"])).decode()
        self.assertIn(data, carried)
        self._is_previewed(crop["place"], plain)
        np.testing.assert_allclose(corner, patch[1::-1], atol=near)
        np.testing.assert_allclose(end, (patch[1] + patch[3], patch[0] + patch[2]), atol=near)

    def _is_previewed(self, place: list[int], printed: np.ndarray) -> None:
        """Of a large frame from its display copy: near to what is printed."""
        output = self.study.contenders.get(letter="U").outputs.get()
        part = "_".join(map(str, place))
        # Averages are of light: codes of fewer pixels have another mean.
        wanted = srgb.decode(printed.astype(np.float32) / 255).mean(axis=(0, 1))
        with mock.patch.object(preview, "AT_ONCE", 1):
            for across in (printed.shape[1] - 1, 100, 1):
                path = f"/api/outputs/{output.pk}/shown/{part}.png?across={across}"
                answer = self.owner.get(path)
                self.assertEqual(answer.status_code, 200)
                shown = Image.open(io.BytesIO(answer.content)).convert("RGB")
                self.assertEqual(shown.size[0], across)
                light = srgb.decode(np.asarray(shown, dtype=np.float32) / 255)
                self.assertLess(np.abs(light.mean(axis=(0, 1)) - wanted).max(), 0.02)

    def original(self, path: Path, folder: Path, name: str) -> Path:
        with zipfile.ZipFile(path) as pack:
            return Path(pack.extract(f"originals/{name}", folder))

    def test_what_can_not_be_shown_any_more_is_left_out_and_what_changed_says_so(self) -> None:
        self.take(**LIFTED)
        self.printed()
        report = self.owner.get(f"/api/studies/{self.study.pk}/report").json()
        blocks = [b for b in report["blocks"] if b["kind"] != "figure"]
        texts = {k: report[k] for k in ("summary", "method", "disclosure")}
        path = f"/api/studies/{self.study.pk}/report"
        self.owner.put(path, {**texts, "blocks": blocks}, JSON)
        self.take(**DIFFERING)
        contender = self.study.contenders.get(letter="A")
        told = self.printed()[1]["changes"]["material"]
        self.assertIn("figure Sky, lifted by 2 EV: gone", told)
        self.owner.delete(f"/api/contenders/{contender.pk}")
        self.assertEqual(Report.objects.get().blocks[0]["kind"], "answer")
        self.assertEqual(self.owner.get(path).status_code, 200)
