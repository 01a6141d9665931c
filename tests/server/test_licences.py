"""Who may have the files of an edition: those whose licence, source and credit are told."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from django.core.files.storage import storages

from glenhail.core.articles.licences import NO_TERMS, NOT_CHANGED, NOT_PASSED_ON
from glenhail.server.accounts.models import Trail
from glenhail.server.material.models import Frame
from glenhail.server.publishing.models import Edition
from glenhail.server.studies.models import Contender
from tests.server.base import TERMS, ServerTest, work

JSON = "application/json"
UNCHANGED = {**TERMS, "licence": "CC-BY-ND-4.0"}


class Licences(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        self.frame = Frame.objects.get()
        self.contender = self.study.contenders.get(letter="A")

    def tell(self, **terms: str) -> int:
        body = {"frames": [self.frame.pk], **TERMS, **terms}
        return int(self.owner.post("/api/frames/terms", body, JSON).status_code)

    def asked(self) -> dict[str, str]:
        report = self.owner.get(f"/api/studies/{self.study.pk}/report").json()
        return {q["id"]: q["text"] for q in report["asked"]}

    def published(self) -> Edition:
        body = {"note": "Other terms."}
        self.owner.post(f"/api/studies/{self.study.pk}/editions", body, JSON)
        work()
        return Edition.objects.latest("number")

    def kept_back(self, edition: Edition) -> dict[str, str]:
        return {e["name"][-9:]: e["withheld"] for e in edition.manifest if "withheld" in e}

    def page(self, edition: Edition, name: str = "index.html") -> str:
        return Path(storages["editions"].path(f"{edition.folder}/{name}")).read_text()

    def test_a_file_is_offered_only_where_its_terms_let_it_be(self) -> None:
        work()
        self.assertNotIn("licences", self.asked())
        first = self.published()
        self.assertEqual(self.kept_back(first), {})
        self.assertIn("CC0 1.0: no rights reserved", self.page(first))

        self.assertEqual(self.tell(credit=" "), 204)
        self.assertIn("readers get none of their files", self.asked()["licences"])
        second = self.published()
        self.assertEqual(set(self.kept_back(second).values()), {NO_TERMS})
        self.assertEqual(len(second.manifest), len(first.manifest))
        # What nobody told may not be had by its address either.
        name = first.manifest[0]["name"]
        got = [self.client.get(f"{e.address}originals/{name}").status_code for e in (first, second)]
        self.assertEqual(got, [200, 404])
        self.assertIn(NO_TERMS, self.page(second))

        self.tell(**UNCHANGED)
        third = self.published()
        self.assertEqual(self.kept_back(third), {"out_A.tif": NOT_CHANGED})
        told = json.loads(self.page(third, "edition.json"))
        self.assertEqual(
            told["frames"][0]["terms"],
            {
                "licence": "CC-BY-ND-4.0",
                "title": "CC BY-ND 4.0: with credit, unchanged",
                "address": "https://creativecommons.org/licenses/by-nd/4.0/",
                "source": "Made here",
                "credit": "the bench",
            },
        )

    def test_outputs_may_have_terms_of_their_own(self) -> None:
        work()
        path = f"/api/contenders/{self.contender.pk}/terms"
        own = {"licence": "LicenseRef-shown", "source": "Sent by its maker", "credit": ""}
        answer = self.owner.put(path, own, JSON)
        self.assertEqual((answer.status_code, answer.json()["terms"]), (200, own))
        # Told in part: a reader would ask, and what may be shown only is kept back first of all.
        self.assertIn("the outputs of A", self.asked()["licences"])
        edition = self.published()
        self.assertEqual(self.kept_back(edition), {"out_A.tif": NOT_PASSED_ON})
        self.assertIn("Sent by its maker", self.page(edition))

    def test_who_tells_them_is_written_down_and_what_is_none_is_refused(self) -> None:
        answer = self.owner.post(
            "/api/frames/terms",
            {"frames": [self.frame.pk], **TERMS, "licence": "none-such"},
            JSON,
        )
        self.assertEqual(answer.status_code, 400)
        self.assertIn("CC0-1.0", answer.json()["detail"])
        self.assertEqual(self.tell(source="  the   mill "), 204)
        self.frame.refresh_from_db()
        self.assertEqual(self.frame.source, "the mill")
        self.assertTrue(Trail.objects.filter(action="tell licence").exists())
        listed: list[dict[str, Any]] = self.owner.get("/api/licences").json()
        self.assertEqual([x["passed_on"] for x in listed].count(False), 1)
        truth = self.study.contenders.get(kind="truth")
        refused = self.owner.put(f"/api/contenders/{truth.pk}/terms", TERMS, JSON)
        self.assertEqual(refused.status_code, 409)
        stranger = self.client_of("stranger")
        body = {"frames": [self.frame.pk], **TERMS}
        self.assertEqual(stranger.post("/api/frames/terms", body, JSON).status_code, 404)

    def test_a_copy_of_a_study_and_a_made_frame_have_them_too(self) -> None:
        own = {"licence": "CC-BY-4.0", "source": "its maker", "credit": "its maker"}
        self.owner.put(f"/api/contenders/{self.contender.pk}/terms", own, JSON)
        copy = self.owner.post(f"/api/studies/{self.study.pk}/copies").json()["id"]
        made = Contender.objects.get(study=copy, letter="A")
        self.assertEqual(made.licence, "CC-BY-4.0")
        work()
        blur = {"kind": "gaussian_blur", "sigma": 1.0, "light": "linear"}
        self.owner.post(
            f"/api/frames/{self.frame.pk}/degradations",
            {"recipe": {"steps": [blur], "seed": 1}},
            JSON,
        )
        work()
        self.assertEqual(Frame.objects.latest("pk").licence, "CC0-1.0")
