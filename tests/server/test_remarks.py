"""Remarks at spots: placed, changed, removed, and printed with their crops."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

import numpy as np
from PIL import Image

from glenhail.core.colour import srgb
from glenhail.server.judging.models import Remark
from glenhail.server.material.decoded import decoded
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.models import Edition
from tests.server.base import ServerTest, stream_of, work
from tests.server.test_hostile_calls import JSON


class Remarks(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        self.frame = self.study.study_frames.get().frame_id
        self.a = self.study.contenders.get(kind="treatment").pk
        self.base = f"/api/studies/{self.study.pk}/remarks"
        work()

    def place(self, client: Any = None, **told: Any) -> Any:
        body = {"frame": self.frame, "x": 200.5, "y": 150.25, "kind": "smeared", **told}
        return (client or self.owner).post(self.base, body, JSON)

    def test_a_remark_is_numbered_and_says_who_saw_what_where_and_in_which(self) -> None:
        first = self.place(contenders=[self.a], text="  the tiles run together ")
        self.assertEqual(first.status_code, 201, first.content)
        self.place(kind="halo")
        told = self.owner.get(self.base).json()
        self.assertEqual([r["number"] for r in told], [1, 2])
        one = told[0]
        self.assertEqual((one["x"], one["y"], one["frame"]), (200.5, 150.25, self.frame))
        self.assertEqual((one["kind"], one["text"]), ("smeared", "the tiles run together"))
        self.assertEqual(
            (one["contenders"], one["of_all"], one["author"]), ([self.a], False, "owner")
        )
        self.assertEqual((told[1]["contenders"], told[1]["of_all"]), ([], True))

    def test_it_can_say_something_else_and_go_and_its_number_stays_its_own(self) -> None:
        one, two, three = (self.place(kind=k).json() for k in ("halo", "fringe", "streak"))
        changed = self.owner.put(
            f"/api/remarks/{two['id']}",
            {"kind": "own words", "text": "odd", "contenders": [self.a]},
            JSON,
        ).json()
        self.assertEqual((changed["number"], changed["text"], changed["of_all"]), (2, "odd", False))
        self.assertEqual(self.owner.delete(f"/api/remarks/{one['id']}").status_code, 204)
        self.assertEqual(self.place().json()["number"], 4)
        told = self.owner.get(self.base).json()
        self.assertEqual([r["id"] for r in told][:2], [two["id"], three["id"]])

    def test_what_can_not_be_said_is_refused_with_the_reason(self) -> None:
        cases: tuple[tuple[dict[str, Any], int, str], ...] = (
            ({"x": 640.5}, 400, "640 × 427"),
            ({"y": -1}, 400, "not on"),
            ({"kind": "beautiful"}, 400, "beautiful"),
            ({"kind": "own words"}, 400, "Write what you see"),
            ({"contenders": [999999]}, 400, "not of this study"),
            ({"frame": 999999}, 404, "frame"),
            ({"text": "x" * 401}, 400, "400"),
        )
        for told, status, words in cases:
            with self.subTest(told=told):
                answer = self.place(**told)
                self.assertEqual(answer.status_code, status, answer.content)
                self.assertIn(words, answer.content.decode())
        self.assertEqual(Remark.objects.count(), 0)

    def test_a_frame_of_another_study_is_not_remarked_on(self) -> None:
        other = self.make_study()
        self.study.study_frames.all().delete()
        self.assertEqual(self.place().status_code, 400)
        self.assertEqual(other.remarks.count(), 0)

    def test_who_may(self) -> None:
        remark = self.place().json()["id"]
        viewer, stranger = self.client_of("viewer"), self.client_of("stranger")
        self.assertEqual(len(viewer.get(self.base).json()), 1)
        self.assertEqual(self.place(viewer).status_code, 403)
        self.assertEqual(viewer.delete(f"/api/remarks/{remark}").status_code, 403)
        self.assertEqual(stranger.get(self.base).status_code, 404)
        self.assertEqual(stranger.delete(f"/api/remarks/{remark}").status_code, 404)

    def test_one_of_a_contender_that_went_is_not_of_all(self) -> None:
        self.place(contenders=[self.a])
        self.owner.delete(f"/api/contenders/{self.a}")
        told = self.owner.get(self.base).json()[0]
        self.assertEqual((told["contenders"], told["of_all"]), ([], False))

    def test_an_edition_prints_them_with_the_spot_in_the_middle_of_its_crops(self) -> None:
        self.place(x=60.0, y=45.0, contenders=[self.a], text="on the sky")
        self.place(x=2.0, y=300.0, kind="own words", text="<b>at the edge</b>")
        self.owner.put(
            f"/api/studies/{self.study.pk}/report",
            {"summary": "S", "method": "", "disclosure": ""},
            JSON,
        )
        self.owner.post(f"/api/studies/{self.study.pk}/editions", {"note": ""}, JSON)
        work()
        edition = Edition.objects.get()
        page = stream_of(self.client.get(edition.address)).read().decode()
        for words in ("1. Smeared: A", "on the sky", "Sky, frame", "&lt;b&gt;at the edge"):
            self.assertIn(words, page)
        pack = zipfile.ZipFile(stream_of(self.client.get(f"{edition.address}everything.zip")))
        names = {n.rpartition("/")[2]: n for n in pack.namelist()}
        told = json.loads(pack.read(names["edition.json"]))["remarks"]
        # The frame as it was stands beside the one it is of; of all means all of them.
        self.assertEqual([c["letter"] for c in told[0]["crops"]], ["U", "A"])
        self.assertEqual([c["letter"] for c in told[1]["crops"]], ["T", "U", "A"])
        output = Output.objects.get(contender=self.a)
        want = srgb.to_display(decoded(output.picture).pixels[5:85, 20:100])
        shown = np.asarray(Image.open(io.BytesIO(pack.read(names["remark-1-A.png"]))))
        np.testing.assert_array_equal(shown, want)
        edge = Image.open(io.BytesIO(pack.read(names["remark-2-A.png"])))
        self.assertEqual(edge.size, (42, 80))
