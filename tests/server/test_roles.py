"""Who may do what."""

from __future__ import annotations

import json

from django.core.files.storage import storages
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from glenhail.server.accounts.models import Trail
from glenhail.server.material.exports import export_path
from glenhail.server.studies.models import LETTERS
from tests.server.base import ServerTest, upload, work


class Roles(ServerTest):
    def test_each_role_reaches_as_far_as_it_should(self) -> None:
        study = self.make_study()
        work()
        frame, contender, patch = (
            study.study_frames.get().frame,
            study.contenders.get(letter="A"),
            study.patches.get(),
        )
        picture = frame.picture
        json = "application/json"
        box = {"name": "Sky", "role": "flat", "x": 20, "y": 20, "w": 90, "h": 60}
        # Each call, and its answer to viewer, editor and owner; people of other benches must not
        # learn that it exists.
        calls = {
            "read the study": (lambda c: c.get(f"/api/studies/{study.pk}"), (200, 200, 200)),
            "read readings": (
                lambda c: c.get(f"/api/studies/{study.pk}/readings"),
                (200, 200, 200),
            ),
            "see a tile": (
                lambda c: c.get(f"/api/pictures/{picture.pk}/tiles/0/0_0.png"),
                (200, 200, 200),
            ),
            "change the question": (
                lambda c: c.patch(
                    f"/api/studies/{study.pk}", {"question": "Q?", "factor": "tool"}, json
                ),
                (403, 200, 200),
            ),
            "move a patch": (
                lambda c: c.put(f"/api/patches/{patch.pk}", box, json),
                (403, 200, 200),
            ),
            "bring in an output": (
                lambda c: c.post(
                    f"/api/contenders/{contender.pk}/outputs/{frame.pk}", upload("smooth")
                ),
                (403, 204, 204),
            ),
            "name a frame": (
                lambda c: c.patch(f"/api/frames/{frame.pk}", {"name": "N"}, json),
                (403, 200, 200),
            ),
            "write verdicts": (
                lambda c: c.put(f"/api/studies/{study.pk}/verdicts", {"verdicts": []}, json),
                (403, 200, 200),
            ),
            "write the report": (
                lambda c: c.put(
                    f"/api/studies/{study.pk}/report",
                    {"summary": "", "method": "", "disclosure": ""},
                    json,
                ),
                (403, 200, 200),
            ),
            "publish": (
                lambda c: (
                    work(),
                    c.post(f"/api/studies/{study.pk}/editions", {"note": "n"}, json),
                )[1],
                (403, 403, 202),
            ),
        }
        for name, (call, wanted) in calls.items():
            for role, want in zip(("viewer", "editor", "owner"), wanted, strict=True):
                with self.subTest(name, role=role):
                    self.assertEqual(call(self.client_of(role)).status_code, want)
            with self.subTest(name, role="stranger"):
                self.assertEqual(call(self.client_of("stranger")).status_code, 404)
            with self.subTest(name, role="nobody"):
                self.assertEqual(call(Client()).status_code, 401)

    def test_what_was_done_is_written_down_with_who(self) -> None:
        self.make_study(self.client_of("editor"))
        done = set(Trail.objects.filter(actor__username="editor").values_list("action", flat=True))
        self.assertTrue(
            {"create study", "add frame", "set truth", "enter contender", "draw patch"} <= done,
            done,
        )

    def test_signing_in_takes_the_right_password_and_a_token(self) -> None:
        client = Client(enforce_csrf_checks=True)
        token = client.get("/api/session").json()["csrf"]
        wrong = {"username": "owner", "password": "guess"}
        self.assertEqual(client.post("/api/session", wrong, "application/json").status_code, 403)
        right = {"username": "owner", "password": "secret-words"}
        answer = client.post(
            "/api/session", right, "application/json", headers={"X-CSRFToken": token}
        )
        self.assertEqual((answer.json()["user"], answer.json()["role"]), ("owner", "owner"))
        self.assertEqual(
            client.post(
                "/api/studies", {"question": "Q", "factor": "tool"}, "application/json"
            ).status_code,
            403,
        )

    def test_only_editions_are_public_and_their_paths_can_not_be_left(self) -> None:
        for path in ("/api/studies", "/api/frames", "/api/queue", "/api/reports", "/api/tools"):
            self.assertEqual(Client().get(path).status_code, 401, path)
        for path in ("/reports/none/", "/reports/none/1/", "/reports/none/1/..%2f..%2fsecret"):
            self.assertEqual(Client().get(path).status_code, 404, path)

    def test_what_a_server_keeps_to_itself_is_not_told_to_those_who_only_look(self) -> None:
        study = self.make_study()
        work()
        contender = study.contenders.get(letter="A")
        self.owner.post(f"/api/contenders/{contender.pk}/hot-folder")
        viewer = self.client_of("viewer")
        self.assertEqual(viewer.get("/api/programs").json()["directory"], "")
        self.assertTrue(self.owner.get("/api/programs").json()["directory"])
        self.assertEqual(
            {f["home"] for f in viewer.get(f"/api/studies/{study.pk}/hot-folders").json()}, {""}
        )
        # Nor can they put anybody to work, where nobody asked for it before.
        asked = study.study_frames.get().frame.picture
        storages["derived"].delete(export_path(asked, "tif"))
        picture = asked.pk
        self.assertEqual(viewer.post(f"/api/pictures/{picture}/as/tif").status_code, 403)
        self.assertEqual(self.owner.post(f"/api/pictures/{picture}/as/tif").status_code, 200)
        work()
        self.assertEqual(viewer.post(f"/api/pictures/{picture}/as/tif").json(), {"ready": True})

    def test_the_same_bytes_at_two_benches_go_by_each_benchs_own_name(self) -> None:
        self.owner.post("/api/frames", upload("frame", "secret-project.tif"))
        stranger = self.client_of("stranger")
        frame = stranger.post("/api/frames", upload("frame", "roofs.tif")).json()
        work()
        for said in (
            json.dumps(stranger.get("/api/frames").json()),
            json.dumps(stranger.get(f"/api/frames/{frame['id']}").json()),
        ):
            self.assertNotIn("secret-project", said)
        self.assertIn(
            "roofs.tif",
            stranger.get(f"/api/pictures/{frame['picture']['id']}/original")["Content-Disposition"],
        )
        # A file that both were refused is told by its own name too.
        self.owner.post("/api/frames", {"file": SimpleUploadedFile("hidden.tif", b"II*\0broken")})
        own = stranger.post(
            "/api/frames", {"file": SimpleUploadedFile("mine.tif", b"II*\0broken")}
        ).json()["id"]
        work()
        problem = stranger.get(f"/api/frames/{own}").json()["picture"]["problem"]
        self.assertTrue(problem.startswith("mine.tif:"), problem)

    def test_letters_of_withdrawn_contenders_come_again_last_but_published_ones_never(
        self,
    ) -> None:
        study = self.make_study()
        work()
        self.owner.post(f"/api/studies/{study.pk}/editions", {"note": ""}, "application/json")
        work()
        steps = [{"tool": "B", "release": "1", "mode": "", "strength": None, "settings": []}]
        self.owner.delete(f"/api/contenders/{study.contenders.get(letter='A').pk}")
        given = []
        for _ in range(2 * len(LETTERS)):
            made = self.owner.post(
                f"/api/studies/{study.pk}/contenders", {"steps": steps}, "application/json"
            )
            self.assertEqual(made.status_code, 201, made.content)
            given.append(made.json()["letter"])
            self.owner.delete(f"/api/contenders/{made.json()['id']}")
        self.assertEqual(set(given), set(LETTERS) - {"A"})
        self.assertEqual(given[: len(LETTERS) - 1], list(LETTERS[1:]))
