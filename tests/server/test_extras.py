"""Clips and layers that an edition comes with where its owner asked for them."""

from __future__ import annotations

import io
import json
import zipfile
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np
from django.core.files.storage import storages
from jsonschema import Draft202012Validator
from PIL import Image

from glenhail.core.articles.licences import NO_TERMS, NOT_CHANGED
from glenhail.core.files.encoding import encoded_codes
from glenhail.server.material.decoded import decoded
from glenhail.server.material.models import Frame
from glenhail.server.publishing import clips
from glenhail.server.publishing.bundle import stream_bundle
from glenhail.server.publishing.models import Edition
from tests.server.base import TERMS, ServerTest, work

JSON = "application/json"


class Extras(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        self.enterContext(mock.patch.object(clips, "SIZES", ((640, 360),)))

    def printed(self, **asked: Any) -> tuple[Edition, dict[str, Any]]:
        path, body = f"/api/studies/{self.study.pk}/editions", {"note": "Anew.", **asked}
        self.assertEqual(self.owner.post(path, body, JSON).status_code, 202)
        work()
        edition = Edition.objects.latest("number")
        schema = json.loads(self.read(edition, "edition.schema.json"))
        document = json.loads(self.read(edition, "edition.json"))
        Draft202012Validator(schema).validate(document)
        return edition, document

    def read(self, edition: Edition, name: str) -> bytes:
        return Path(storages["editions"].path(f"{edition.folder}/{name}")).read_bytes()

    def figures(self, document: dict[str, Any]) -> list[dict[str, Any]]:
        return [*document["patches"], *document["figures"]]

    def test_nothing_is_made_that_nobody_asked_for(self) -> None:
        edition, document = self.printed()
        self.assertEqual(document["extras"], {"clips": "none", "layers": False})
        self.assertNotIn("layers", document)
        self.assertFalse([f for f in self.figures(document) if f.get("clips")])
        self.assertFalse([f for f in edition.files if f["name"].startswith(("clips", "layers"))])
        path, body = f"/api/studies/{self.study.pk}/editions", {"note": "x", "clips": "every"}
        self.assertEqual(self.owner.post(path, body, JSON).status_code, 400)

    def test_clips_are_of_the_figures_that_were_chosen(self) -> None:
        two = [{"letter": "A"}, {"letter": "U"}]
        first = {"figure": 1, "crops": two}
        own = {"figure": 2, "crops": two, "showing": {}}
        alone = {"figure": 3, "crops": two[:1], "showing": {}}
        for choice, wanted in (
            ("none", [False, False, False]),
            ("first", [True, False, False]),
            ("own", [False, True, False]),
            ("all", [True, True, False]),
        ):
            document = {"extras": {"clips": choice}}
            found = [clips.clips_wanted(document, figure) for figure in (first, own, alone)]
            self.assertEqual(found, wanted, choice)

    def test_clips_are_files_of_the_edition_that_anybody_may_have(self) -> None:
        edition, document = self.printed(clips="first")
        (figure,) = [f for f in self.figures(document) if f.get("clips")]
        self.assertEqual(figure["figure"], 1)
        kinds = [(c["kind"], c["file"].rpartition(".")[2]) for c in figure["clips"]]
        self.assertEqual(kinds[:2], [("flick", "webp"), ("flick", "mp4")])
        page = self.read(edition, "index.html").decode()
        names = {f["name"]: f for f in edition.files}
        for clip in figure["clips"]:
            self.assertEqual(names[clip["file"]]["size"], clip["size"])
            self.assertIn(f'href="{clip["file"]}"', page)
            answer = self.client.get(edition.address + clip["file"])
            self.assertIn(answer["Content-Type"], ("image/webp", "video/mp4"))
            self.assertEqual(len(b"".join(answer.streaming_content)), clip["size"])
        # The crop as it is printed, every pixel of it magnified as a whole.
        first = figure["crops"][0]
        codes = np.asarray(Image.open(io.BytesIO(self.read(edition, first["file"]))).convert("RGB"))
        with Image.open(io.BytesIO(self.read(edition, figure["clips"][0]["file"]))) as made:
            self.assertEqual(made.n_frames, len(figure["crops"]))
            shown = np.asarray(made.convert("RGB"))
        middle = codes.shape[0] // 2
        row = codes[middle, codes.shape[1] // 2 - 8 : codes.shape[1] // 2 + 8]
        self.assertTrue(any(self.found(shown, row.repeat(n, axis=0)) for n in (2, 4, 8)))

    def found(self, shown: np.ndarray, row: np.ndarray) -> bool:
        wide = len(row)
        across = range(0, shown.shape[1] - wide, 2)
        return any((shown[:, x : x + wide] == row).all(axis=(1, 2)).any() for x in across)

    def test_without_the_program_for_videos_the_animation_is_there(self) -> None:
        with mock.patch.object(clips, "why_no_video", return_value="It is not there."):
            _, document = self.printed(clips="all")
        made = [c for f in self.figures(document) for c in f.get("clips", [])]
        self.assertTrue(made)
        self.assertEqual({Path(c["file"]).suffix for c in made}, {".webp"})

    def test_layers_have_the_pixels_of_what_was_measured(self) -> None:
        edition, document = self.printed(layers=True)
        (told,) = document["layers"]
        letters = [c["letter"] for c in document["contenders"]]
        self.assertEqual(sorted(told["layers"]), sorted(letters))
        self.assertEqual(told["left_out"], [])
        with zipfile.ZipFile(io.BytesIO(self.read(edition, told["file"]))) as pack:
            self.assertEqual(pack.namelist()[0], "mimetype")
            lowest = np.asarray(Image.open(io.BytesIO(pack.read("data/layer000.png"))))
        frame = Frame.objects.get().picture
        want = encoded_codes(decoded(frame).pixels, 16)
        np.testing.assert_allclose(lowest.astype(int), want // 256, atol=1)
        bundle = zipfile.ZipFile(io.BytesIO(b"".join(stream_bundle(edition))))
        self.assertIn(f"report/{told['file']}", bundle.namelist())
        self.assertIn(f'href="{told["file"]}"', self.read(edition, "index.html").decode())

    def test_layers_pass_on_nothing_that_its_licence_keeps_back(self) -> None:
        frame = Frame.objects.get()
        self.study.contenders.filter(letter="A").update(licence="LicenseRef-shown")
        edition, document = self.printed(layers=True)
        (told,) = document["layers"]
        self.assertEqual(told["left_out"], ["A"])
        with zipfile.ZipFile(io.BytesIO(self.read(edition, told["file"]))) as pack:
            self.assertNotIn('name="A', pack.read("stack.xml").decode())
        cases = [({"credit": " "}, NO_TERMS), ({"licence": "CC-BY-ND-4.0"}, NOT_CHANGED)]
        for terms, why in cases:
            with self.subTest(why=why):
                self.owner.post("/api/frames/terms", {"frames": [frame.pk], **TERMS, **terms}, JSON)
                edition, document = self.printed(layers=True)
                self.assertEqual(document["layers"], [{"frame": frame.name, "withheld": why}])
                self.assertFalse([f for f in edition.files if f["name"].startswith("layers")])
                self.assertIn(why, self.read(edition, "index.html").decode())
