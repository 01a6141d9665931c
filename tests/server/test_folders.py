"""A folder of outputs from elsewhere: proposed, corrected, confirmed, undone; and
previews beside exports.
"""

from __future__ import annotations

import io
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from django.contrib.auth.models import User

from glenhail.core.files.encoding import write_png
from glenhail.core.filters.resample import resample
from glenhail.core.picture import Rect
from glenhail.server.outputs.actions import folders, previews
from glenhail.server.outputs.models import Folder, Output
from glenhail.server.studies.models import Contender, Study
from tests.pictures import noisy, photograph
from tests.server.base import ServerTest, tiff, work

JSON = "application/json"


class Folders(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study: Study = self.make_study()
        self.base = f"/api/studies/{self.study.pk}"
        other = (
            self.client_of("owner").post("/api/frames", {"file": io.BytesIO(tiff("other"))}).json()
        )
        self.owner.post(f"{self.base}/frames", {"frame": other["id"]}, JSON)
        for tool in ("Keenfold", "Mossgate"):
            self.owner.post(
                f"{self.base}/contenders", {"steps": [{"tool": tool, "release": "5"}]}, JSON
            )
        work()
        self.frames = [sf.frame for sf in self.study.study_frames.order_by("pk")]
        self.contenders = list(self.study.contenders.exclude(treatment=None).order_by("order"))
        self.user = User.objects.get(username="owner")

    def bring(self, files: dict[str, bytes]) -> Folder:
        made = self.owner.post(f"{self.base}/folders", {"name": "desk"}, JSON).json()
        folder = Folder.objects.get(pk=made["id"])
        for path, content in files.items():
            folders.add_file(self.user, folder, io.BytesIO(content), path)
        work()
        return folder

    def files(self, folder: Folder) -> dict[str, dict[str, object]]:
        return {
            f["path"]: f for f in self.owner.get(f"/api/folders/{folder.pk}").json()["all_files"]
        }

    def test_files_are_placed_by_name_and_content_corrected_confirmed_and_undone(self) -> None:
        before = Output.objects.get(contender=self.contenders[0], frame=self.frames[0])
        folder = self.bring(
            {
                "d/kf 1.tif": tiff("smooth"),
                "d/mg 1.tif": tiff("double"),
                "d/sw 2.tif": tiff("other") + b"\0",
            }
        )
        told = self.files(folder)
        places = {path: (f["frame"], f["contender"]) for path, f in told.items()}
        a, b, c = (x.pk for x in self.contenders)
        self.assertEqual(
            places,
            {
                "d/kf 1.tif": (self.frames[0].pk, b),
                "d/mg 1.tif": (self.frames[0].pk, c),
                "d/sw 2.tif": (self.frames[1].pk, a),
            },
        )
        tile = f"/api/pictures/{told['d/sw 2.tif']['picture']['id']}/tiles/0/0_0.png"  # type: ignore[index]
        self.assertEqual(
            [self.client_of(n).get(tile).status_code for n in ("viewer", "stranger")], [200, 404]
        )
        # The reviewer knows better: the first one is Sedgewash's, and the second is to be left out.
        move = {"use": "export", "frame": self.frames[0].pk, "contender": a}
        self.assertEqual(
            self.owner.put(f"/api/folder-files/{told['d/kf 1.tif']['id']}", move, JSON).json()[
                "by_hand"
            ],
            True,
        )
        self.owner.put(
            f"/api/folder-files/{told['d/mg 1.tif']['id']}",
            {"use": "none", "frame": None, "contender": None},
            JSON,
        )
        self.assertEqual(
            self.owner.post(f"/api/folders/{folder.pk}/confirm", {}, JSON).json(), {"count": 2}
        )
        self.assertEqual(
            Output.objects.get(contender_id=a, frame=self.frames[0]).file_name, "kf 1.tif"
        )
        self.assertEqual(
            self.owner.put(f"/api/folder-files/{told['d/kf 1.tif']['id']}", move, JSON).status_code,
            409,
        )
        self.assertEqual(
            self.owner.delete(f"/api/folders/{folder.pk}/confirm").json(), {"count": 2}
        )
        back = Output.objects.get(contender_id=a, frame=self.frames[0])
        self.assertEqual((back.file_name, back.picture_id), ("out_A.tif", before.picture_id))
        self.assertFalse(Output.objects.filter(contender_id=a, frame=self.frames[1]).exists())
        self.assertEqual(self.files(folder)["d/kf 1.tif"]["contender"], a)

    def test_what_was_confirmed_once_is_known_the_next_time(self) -> None:
        folder = self.bring(
            {"x/frame_zz.tif": tiff("smooth"), "x/other_zz.tif": tiff("other") + b"\0"}
        )
        for path, frame in (("x/frame_zz.tif", 0), ("x/other_zz.tif", 1)):
            place = {
                "use": "export",
                "frame": self.frames[frame].pk,
                "contender": self.contenders[2].pk,
            }
            self.owner.put(f"/api/folder-files/{self.files(folder)[path]['id']}", place, JSON)
        self.owner.post(f"/api/folders/{folder.pk}/confirm", {"keep_pattern": True}, JSON)
        again = self.files(self.bring({"y/frame_zz.tif": tiff("double")}))["y/frame_zz.tif"]
        self.assertEqual(again["contender"], self.contenders[2].pk)
        self.assertIn("named as in a folder before", again["why"])

    def test_a_file_put_into_a_taken_cell_sends_the_other_away_and_a_broken_one_harms_nothing(
        self,
    ) -> None:
        folder = self.bring(
            {"kf frame.tif": tiff("smooth"), "mg frame.tif": tiff("double"), "notes.txt": b"hello"}
        )
        told = self.files(folder)
        self.assertEqual(told["notes.txt"]["picture"]["state"], "refused")  # type: ignore[index]
        place = {"use": "export", "frame": self.frames[0].pk, "contender": self.contenders[1].pk}
        self.owner.put(f"/api/folder-files/{told['mg frame.tif']['id']}", place, JSON)
        self.assertIsNone(self.files(folder)["kf frame.tif"]["contender"])
        self.assertEqual(
            self.client_of("viewer")
            .put(f"/api/folder-files/{told['mg frame.tif']['id']}", place, JSON)
            .status_code,
            403,
        )
        self.assertEqual(
            self.client_of("stranger").get(f"/api/folders/{folder.pk}").status_code, 404
        )

    def test_a_preview_is_compared_with_the_export_beside_it(self) -> None:
        frame = noisy(photograph("china"), 900)
        half = np.clip(
            resample(frame, Rect(0, 0, frame.shape[1], frame.shape[0]), 320, 214, "area") * 1.19,
            0,
            1,
        )
        packed = io.BytesIO()
        with TemporaryDirectory() as place:
            write_png(Path(place) / "p.png", half, 8)
            packed.write((Path(place) / "p.png").read_bytes())
        contender: Contender = self.contenders[0]
        previews.attach_file(self.user, contender, self.frames[0], packed, "preview.png")
        work()
        told = Output.objects.get(contender=contender, frame=self.frames[0]).preview_told
        assert told is not None
        self.assertAlmostEqual(told["scale"], 0.5, delta=0.01)
        self.assertAlmostEqual(told["exposure_ev"], 0.25, delta=0.06)  # log2 1.19
        self.assertGreater(
            told["sharpness"], 1.05
        )  # the export was smoothed, what was shown was not
        # A folder's preview takes its place, and undoing the folder gives it back with what was
        # found of it.
        folder = self.bring({"sw frame preview.png": packed.getvalue() + b"\0"})
        place = {"use": "preview", "frame": self.frames[0].pk, "contender": contender.pk}
        self.owner.put(
            f"/api/folder-files/{self.files(folder)['sw frame preview.png']['id']}", place, JSON
        )
        self.owner.post(f"/api/folders/{folder.pk}/confirm", {}, JSON)
        self.assertEqual(
            Output.objects.get(contender=contender, frame=self.frames[0]).preview_name,
            "sw frame preview.png",
        )
        self.owner.delete(f"/api/folders/{folder.pk}/confirm")
        back = Output.objects.get(contender=contender, frame=self.frames[0])
        self.assertEqual((back.preview_name, back.preview_told), ("preview.png", told))
        self.assertEqual(
            self.owner.delete(
                f"/api/contenders/{contender.pk}/outputs/{self.frames[0].pk}/preview"
            ).status_code,
            204,
        )
