"""Testing again with another release: the same frames, patches and settings."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from django.core.files.storage import storages

from glenhail.server.outputs.models import Output
from glenhail.server.publishing.models import Edition
from glenhail.server.tools.models import Release
from tests.server.base import upload, work
from tests.server.test_runs import COPY, JSON, RunsTest
from tests.server.test_tools import COMMAND, allow


class Retests(RunsTest):
    def setUp(self) -> None:
        super().setUp()
        self.old = Release.objects.get(tool__name="Sedgewash", name="3.0")
        self.new = Release.objects.create(tool=self.old.tool, name="3.1", released="2026-11-20")
        self.first = self.study.contenders.get(letter="A")

    def again(self, client: Any = None, status: int = 201, **told: Any) -> dict[str, Any]:
        body = {"release": self.new.pk, "contenders": [self.first.pk], **told}
        answer = (client or self.owner).post(f"{self.base}/retests", body, JSON)
        self.assertEqual(answer.status_code, status, answer.content)
        return dict(answer.json())

    def proposals(self, title: str = "Sedgewash 3.1") -> list[dict[str, Any]]:
        told = self.owner.get(f"{self.base}/retests").json()
        return list(next(r["proposals"] for r in told if r["title"] == title))

    def test_the_release_before_is_offered_too_but_never_the_one_in_use(self) -> None:
        Release.objects.create(tool=self.old.tool, name="2.4", released="2025-01-01")
        told = self.owner.get(f"{self.base}/retests").json()
        self.assertEqual([r["title"] for r in told], ["Sedgewash 3.1", "Sedgewash 2.4"])
        self.assertEqual(told[0]["proposals"][0]["manner"], "strength 60 %")

    def test_outputs_are_made_where_they_can_be_and_asked_for_elsewhere(self) -> None:
        told = self.again()
        self.assertEqual(told["letters"], ["B"])
        self.assertEqual(told["asked"]["queued"], 0)
        self.assertIn("can not be run here", told["asked"]["by_hand"][0])
        allow("lift", COPY)
        self.owner.put(f"/api/releases/{self.old.pk}/command", COMMAND, JSON)
        made = self.study.contenders.get(letter="B")
        self.assertEqual((made.follows, made.treatment.told.title), (self.first, "Sedgewash 3.1"))
        # And the other way round: what follows can itself be followed, and runs here.
        back = self.again(release=self.old.pk, contenders=[made.pk], status=400)
        self.assertIn("entered with these settings already", back["detail"])
        self.owner.delete(f"/api/contenders/{self.first.pk}")
        back = self.again(release=self.old.pk, contenders=[made.pk])
        self.assertEqual(back["asked"]["queued"], 1)
        work()
        self.assertTrue(
            Output.objects.filter(
                contender__letter=back["letters"][0], picture__isnull=False
            ).exists()
        )

    def test_what_cannot_be_taken_over_is_asked_about(self) -> None:
        self.new.modes, self.new.strength = ["fine", "coarse"], False
        self.new.save()
        (told,) = self.proposals()
        self.assertEqual(told["asked"], ["Sedgewash 3.1 has no strength; 60 % is left out."])
        self.again()
        self.assertEqual(self.study.contenders.get(letter="B").treatment.told.manner, "")
        self.assertEqual(self.proposals()[0]["there"], "B")

    def test_without_keeping_them_the_old_ones_go(self) -> None:
        self.assertEqual(self.again(keep=False, run=False)["letters"], ["B"])
        letters = set(self.study.contenders.values_list("letter", flat=True))
        self.assertEqual(letters & {"A", "B"}, {"B"})

    def test_nonsense_and_strangers_are_refused_and_nothing_is_entered(self) -> None:
        for told in ({"contenders": []}, {"contenders": [10**6]}, {"release": self.old.pk}):
            with self.subTest(told):
                self.assertIn("Choose contenders", self.again(status=400, **told)["detail"])
        self.again(status=404, release=10**6)
        self.again(self.client_of("viewer"), 403)
        self.again(self.client_of("stranger"), 404)
        self.assertFalse(self.study.contenders.filter(letter="B").exists())

    def test_the_next_edition_says_what_the_release_changed(self) -> None:
        self.owner.post(f"{self.base}/editions", {"note": ""}, JSON)
        work()
        self.again()
        made = self.study.contenders.get(letter="B")
        frame = self.frame.pk
        # As noisy as the frame itself: worse than the first, which smooths.
        self.owner.post(f"/api/contenders/{made.pk}/outputs/{frame}", upload("frame", "x_B.tif"))
        work()
        answer = self.owner.post(f"{self.base}/editions", {"note": "3.1."}, JSON)
        self.assertEqual(answer.status_code, 202, answer.content)
        work()
        folder = Path(storages["editions"].path(Edition.objects.latest("number").folder))
        (told,) = json.loads((folder / "edition.json").read_text())["succession"]
        self.assertEqual((told["later"], told["earlier"]), ("B", "A"))
        noise = next(r for r in told["rows"] if r["measure"] == "Brightness noise")
        self.assertEqual(noise["worse"], ["Sky, frame"])
        page = (folder / "index.html").read_text()
        self.assertIn('id="releases"', page)
        self.assertIn(told["text"], page)
        first = json.loads((folder.parent / "1" / "edition.json").read_text())
        self.assertEqual(first["succession"], [])
