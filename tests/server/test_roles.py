"""Who may do what."""

from __future__ import annotations

from django.test import Client

from glenhail.server.accounts.models import Trail
from tests.server.base import ServerTest, upload, work


class Roles(ServerTest):
    def test_each_role_reaches_as_far_as_it_should(self) -> None:
        study = self.make_study()
        work()
        frame, contender, patch = study.study_frames.get().frame, study.contenders.get(letter="A"), study.patches.get()
        picture = frame.picture
        json = "application/json"
        box = {"name": "Sky", "role": "flat", "x": 20, "y": 20, "w": 90, "h": 60}
        # Each call, and its answer to viewer, editor and owner; people of other benches must not learn that it exists.
        calls = {
            "read the study": (lambda c: c.get(f"/api/studies/{study.pk}"), (200, 200, 200)),
            "read readings": (lambda c: c.get(f"/api/studies/{study.pk}/readings"), (200, 200, 200)),
            "see a tile": (lambda c: c.get(f"/api/pictures/{picture.pk}/tiles/0/0_0.png"), (200, 200, 200)),
            "change the question": (lambda c: c.patch(f"/api/studies/{study.pk}", {"question": "Q?", "factor": "tool"}, json), (403, 200, 200)),
            "move a patch": (lambda c: c.put(f"/api/patches/{patch.pk}", box, json), (403, 200, 200)),
            "bring in an output": (lambda c: c.post(f"/api/contenders/{contender.pk}/outputs/{frame.pk}", upload("smooth")), (403, 204, 204)),
            "name a frame": (lambda c: c.patch(f"/api/frames/{frame.pk}", {"name": "N"}, json), (403, 200, 200)),
            "write verdicts": (lambda c: c.put(f"/api/studies/{study.pk}/verdicts", {"verdicts": []}, json), (403, 200, 200)),
            "write the report": (lambda c: c.put(f"/api/studies/{study.pk}/report", {"summary": "", "method": "", "disclosure": ""}, json), (403, 200, 200)),
            "publish": (lambda c: (work(), c.post(f"/api/studies/{study.pk}/editions", {"note": "n"}, json))[1], (403, 403, 202)),
        }  # fmt: skip
        for name, (call, wanted) in calls.items():
            for role, want in zip(("viewer", "editor", "owner"), wanted, strict=True):
                with self.subTest(name, role=role):
                    self.assertEqual(call(self.client_of(role)).status_code, want)
            with self.subTest(name, role="stranger"):
                self.assertEqual(call(self.client_of("stranger")).status_code, 404)
            with self.subTest(name, role="nobody"):
                self.assertIn(call(Client()).status_code, (401, 403))

    def test_what_was_done_is_written_down_with_who(self) -> None:
        self.make_study(self.client_of("editor"))
        done = set(Trail.objects.filter(actor__username="editor").values_list("action", flat=True))
        self.assertTrue({"create study", "add frame", "set truth", "enter contender", "draw patch"} <= done, done)

    def test_signing_in_takes_the_right_password_and_a_token(self) -> None:
        client = Client(enforce_csrf_checks=True)
        token = client.get("/api/session").json()["csrf"]
        wrong = {"username": "owner", "password": "guess"}
        self.assertEqual(client.post("/api/session", wrong, "application/json").status_code, 403)
        right = {"username": "owner", "password": "secret-words"}
        answer = client.post("/api/session", right, "application/json", headers={"X-CSRFToken": token})
        self.assertEqual((answer.json()["user"], answer.json()["role"]), ("owner", "owner"))
        self.assertEqual(client.post("/api/studies", {"question": "Q", "factor": "tool"}, "application/json").status_code, 403)

    def test_only_editions_are_public_and_their_paths_can_not_be_left(self) -> None:
        for path in ("/api/studies", "/api/frames", "/api/queue", "/api/reports", "/api/tools"):
            self.assertEqual(Client().get(path).status_code, 403, path)
        for path in ("/reports/none/", "/reports/none/1/", "/reports/none/1/..%2f..%2fsecret"):
            self.assertEqual(Client().get(path).status_code, 404, path)
