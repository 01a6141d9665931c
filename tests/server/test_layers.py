"""Outputs as named layers of one OpenRaster file, read back by the rules of its layout."""

from __future__ import annotations

import xml.etree.ElementTree as ET
import zipfile

import imagecodecs
import numpy as np

from glenhail.core.files.encoding import encoded_codes
from glenhail.server.jobs.models import Job
from glenhail.server.material.decoded import decoded
from tests.server.base import ServerTest, stream_of, upload, work

JSON = "application/json"


class Layers(ServerTest):
    def test_each_contender_is_a_named_layer_on_the_frames_grid(self) -> None:
        study = self.make_study()
        frame = study.study_frames.get().frame
        steps = [
            {"tool": "Tarnlift", "release": "1.8", "mode": "2x", "settings": [], "automatic": True}
        ]
        second = self.owner.post(
            f"/api/studies/{study.pk}/contenders", {"steps": steps}, JSON
        ).json()
        self.owner.post(
            f"/api/contenders/{second['id']}/outputs/{frame.pk}", upload("double", "B.tif")
        )
        address = f"/api/studies/{study.pk}/frames/{frame.pk}/layers"
        self.assertIn("Nothing of frame is lined up", self.owner.post(address).json()["detail"])
        work()
        self.assertEqual(self.owner.post(address).json(), {"ready": False})
        self.assertEqual(self.owner.get(address).status_code, 404)
        work()
        self.assertEqual(self.client_of("viewer").post(address).json(), {"ready": True})
        self.assertEqual(self.client_of("stranger").post(address).status_code, 404)
        with zipfile.ZipFile(stream_of(self.owner.get(address))) as pack:
            first = pack.infolist()[0]
            self.assertEqual(
                (first.filename, first.compress_type), ("mimetype", zipfile.ZIP_STORED)
            )
            self.assertEqual(pack.read("mimetype"), b"image/openraster")
            image = ET.fromstring(pack.read("stack.xml"))
            self.assertEqual((image.tag, image.get("w"), image.get("h")), ("image", "640", "427"))
            layers = image.findall("./stack/layer")
            names = [layer.get("name") for layer in layers]
            self.assertEqual(
                names,
                [
                    "T Truth",
                    "B Tarnlift 1.8, 2x, automatic",
                    "A Sedgewash 3.0, strength 60 %",
                    "U Unprocessed",
                ],
            )
            self.assertEqual(
                [layer.get("visibility") for layer in layers], ["hidden"] * 3 + ["visible"]
            )
            lowest = imagecodecs.png_decode(pack.read(layers[-1].get("src") or ""))
            np.testing.assert_array_equal(lowest, encoded_codes(decoded(frame.picture).pixels, 16))
            np.testing.assert_array_equal(
                imagecodecs.png_decode(pack.read("mergedimage.png")), lowest
            )
            self.assertLessEqual(
                max(imagecodecs.png_decode(pack.read("Thumbnails/thumbnail.png")).shape[:2]), 256
            )
            self.assertEqual(
                imagecodecs.png_decode(pack.read(layers[1].get("src") or "")).shape, (427, 640, 3)
            )
        self.owner.post(f"{address}?grid=largest")
        work()
        with zipfile.ZipFile(stream_of(self.owner.get(f"{address}?grid=largest"))) as pack:
            self.assertEqual(
                imagecodecs.png_decode(pack.read("mergedimage.png")).shape, (854, 1280, 3)
            )
        self.assertIn(
            "one of frame, largest", self.owner.post(f"{address}?grid=huge").json()["detail"]
        )
        # What changes makes the file out of date.
        self.owner.post(
            f"/api/contenders/{second['id']}/outputs/{frame.pk}", upload("smooth", "B2.tif")
        )
        work()
        self.assertEqual(self.owner.post(address).json(), {"ready": False})

    def test_layers_too_large_for_the_bench_fail_once_and_say_so(self) -> None:
        study = self.make_study()
        frame = study.study_frames.get().frame
        work()
        address = f"/api/studies/{study.pk}/frames/{frame.pk}/layers"
        with self.settings(MOST_LAYER_PIXELS=1000):
            self.owner.post(address)
            work()
            refused = self.owner.post(address)
        self.assertEqual(
            (refused.status_code, "too large" in refused.json()["detail"]), (409, True)
        )
        self.assertEqual(Job.objects.filter(kind="layers").count(), 1)
