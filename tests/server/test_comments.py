"""What editors say to each other about a report: theirs alone, settled, counted."""

from __future__ import annotations

from typing import Any

from glenhail.server.publishing.actions import comments
from glenhail.server.publishing.models import Comment, Edition
from tests.server.base import ServerTest, work

JSON = "application/json"
SECRET = "Is B’s licence ours <b>to pass on</b>?"


class Comments(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        self.base = f"/api/studies/{self.study.pk}"
        self.path = f"{self.base}/report/comments"

    def say(self, who: str, text: str, about: str = "Method") -> Any:
        return self.client_of(who).post(self.path, {"about": about, "text": text}, JSON)

    def asked(self) -> list[str]:
        told = self.owner.get(f"{self.base}/report").json()["asked"]
        return [q["text"] for q in told if q["id"] == "comments"]

    def test_an_editor_says_something_and_another_settles_it(self) -> None:
        first = self.say("editor", SECRET).json()
        self.say("owner", "And its price?", "")
        told = self.client_of("viewer").get(self.path).json()
        self.assertEqual(
            [(c["about"], c["text"], c["author"], c["settled"]) for c in told],
            [("Method", SECRET, "editor", None), ("", "And its price?", "owner", None)],
        )
        self.assertEqual(self.asked(), ["2 comments of editors are not settled."])
        path = f"{self.path}/{first['id']}"
        settled = self.owner.put(path, {"settled": True}, JSON).json()
        self.assertEqual(settled["settled_by"], "owner")
        self.assertEqual(self.asked(), ["1 comment of an editor is not settled."])
        again = self.client_of("editor").put(path, {"settled": False}, JSON).json()
        self.assertEqual((again["settled"], again["settled_by"]), (None, ""))

    def test_who_may_say_and_delete_what(self) -> None:
        self.assertEqual(self.say("viewer", "x").status_code, 403)
        self.assertEqual(self.say("stranger", "x").status_code, 404)
        self.assertEqual(self.say("editor", "  ").status_code, 400)
        mine, theirs = (self.say(who, "x").json()["id"] for who in ("editor", "owner"))
        editor = self.client_of("editor")
        refused = editor.delete(f"{self.path}/{theirs}")
        self.assertEqual(refused.status_code, 403)
        self.assertIn("Settle it", refused.json()["detail"])
        self.assertEqual(editor.delete(f"{self.path}/{mine}").status_code, 204)
        mine = self.say("editor", "y").json()["id"]
        self.assertEqual(self.owner.delete(f"{self.path}/{mine}").status_code, 204)
        self.assertEqual(editor.delete(f"{self.path}/{mine}").status_code, 404)
        other = self.owner.post("/api/studies", {"question": "Other?", "factor": "tool"}, JSON)
        elsewhere = f"/api/studies/{other.json()['id']}/report/comments/{theirs}"
        self.assertEqual(self.owner.delete(elsewhere).status_code, 404)
        self.assertEqual(list(Comment.objects.values_list("pk", flat=True)), [theirs])

    def test_there_is_an_end_to_it(self) -> None:
        self.addCleanup(setattr, comments, "MOST", comments.MOST)
        comments.MOST = 1
        self.say("editor", "x")
        refused = self.say("editor", "y")
        self.assertEqual(refused.status_code, 400)
        self.assertIn("Delete some", refused.json()["detail"])

    def test_readers_see_none_of_it(self) -> None:
        work()
        self.say("editor", SECRET)
        self.owner.post(f"{self.base}/editions", {"note": ""}, JSON)
        work()
        edition = Edition.objects.get()
        for name in ("", "edition.json", "plan.toml"):
            answer = self.client.get(f"{edition.address}{name}")
            text = b"".join(answer.streaming_content).decode("utf-8", "replace")
            self.assertNotIn("to pass on", text)
