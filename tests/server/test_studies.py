"""Studies as a whole: their list in a fixed number of queries, duplicated, archived, removed; and
signals that lead upwards.
"""

from __future__ import annotations

import json
from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext

from glenhail.server.jobs.models import Job
from glenhail.server.measuring.models import Reading
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.models import Report
from glenhail.server.studies.models import Contender, Patch, Study
from tests.server.base import ServerTest, work
from tests.server.test_hostile_calls import JSON


class Studies(ServerTest):
    def get(self, path: str, client: Any = None) -> Any:
        answer = (client or self.owner).get(f"/api/studies{path}")
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def queries(self, path: str) -> int:
        self.owner.get(path)  # sessions and permissions are looked up once before
        with CaptureQueriesContext(
            connection,
        ) as seen:
            self.owner.get(path)
        return len(seen)

    def test_the_list_costs_a_fixed_number_of_queries_whatever_its_length(self) -> None:
        self.make_study()
        few = self.queries("/api/studies")
        for i in range(6):
            body = {"question": f"Question {i}", "factor": "tool"}
            study = self.owner.post("/api/studies", body, JSON).json()["id"]
            for release in ("1", "2", "3"):
                steps = {"steps": [{"tool": "Keenfold", "release": release}]}
                self.owner.post(f"/api/studies/{study}/contenders", steps, JSON)
        self.assertLessEqual(self.queries("/api/studies"), few)
        self.assertEqual(len(self.get("")), 7)

    def test_a_study_and_its_readings_cost_a_fixed_number_of_queries(self) -> None:
        study = self.make_study()
        work()
        paths = [f"/api/studies/{study.pk}{p}" for p in ("", "/readings", "/audit", "/coverage")]
        few = [self.queries(path) for path in paths]
        frame = study.study_frames.get().frame_id
        for i in range(5):
            patch = {"frame": frame, "name": f"P{i}", "role": "flat", "x": 20 + 90 * i, "y": 90}
            body = {**patch, "w": 80, "h": 60}
            self.owner.post(f"/api/studies/{study.pk}/patches", body, JSON)
        work()
        for path, count in zip(paths, few, strict=True):
            with self.subTest(path):
                self.assertLessEqual(self.queries(path), count)

    def test_the_row_of_a_study_counts_what_belongs_to_it(self) -> None:
        first = self.make_study()
        body = {"question": "Another?", "factor": "mode"}
        second = self.owner.post("/api/studies", body, JSON).json()["id"]
        rows = {row["id"]: row for row in self.get("")}
        row = rows[first.pk]
        told = [row[k] for k in ("frames", "patches", "outputs_there", "outputs_wanted")]
        self.assertEqual(told, [1, 1, 1, 1])
        self.assertEqual((row["edition"], row["slug"], row["archived"]), (None, "", False))
        empty = rows[second]
        told = [empty[k] for k in ("frames", "patches", "outputs_there", "outputs_wanted")]
        self.assertEqual(told, [0, 0, 0, 0])
        self.assertIsNone(empty["cover"])

    def test_a_duplicate_has_the_set_up_and_the_patches_and_no_output(self) -> None:
        study = self.make_study()
        work()
        answer = self.owner.post(f"/api/studies/{study.pk}/copies")
        self.assertEqual(answer.status_code, 201)
        copy = Study.objects.get(pk=answer.json()["id"])
        self.assertEqual(copy.question, "Which is better? (copy)")
        self.assertEqual(copy.factor, study.factor)
        self.assertEqual([c.letter for c in copy.contenders.order_by("letter")], ["A", "T", "U"])
        mine, other = (s.contenders.get(letter="A") for s in (study, copy))
        assert mine.treatment is not None and other.treatment is not None
        self.assertEqual(other.treatment.told, mine.treatment.told)
        self.assertNotEqual(other.treatment_id, mine.treatment_id)
        self.assertEqual(
            [p.drawn for p in copy.patches.all()], [p.drawn for p in study.patches.all()]
        )
        self.assertFalse(Output.objects.filter(contender=other).exists())
        # Truth and unprocessed are the frame's own, and are there from the start.
        self.assertEqual(Output.objects.filter(contender__study=copy).count(), 2)
        # What is done to the copy does not reach the original.
        copy.patches.all().delete()
        self.assertEqual(Patch.objects.filter(study=study).count(), 1)
        self.assertTrue(Reading.objects.filter(output__contender=mine).exists())

    def test_a_question_of_the_greatest_length_can_be_duplicated(self) -> None:
        body = {"question": "x" * 200, "factor": "tool"}
        study = self.owner.post("/api/studies", body, JSON).json()["id"]
        copy = self.owner.post(f"/api/studies/{study}/copies")
        self.assertEqual(copy.status_code, 201)
        self.assertLessEqual(len(copy.json()["question"]), 200)

    def test_an_archived_study_stays_as_it_is_and_comes_back(self) -> None:
        study = self.make_study()
        path = f"/api/studies/{study.pk}/archived"
        for archived in (True, False):
            answer = self.owner.put(path, json.dumps({"archived": archived}), JSON)
            self.assertEqual(answer.status_code, 200)
            self.assertEqual(self.get("")[0]["archived"], archived)
        self.assertEqual(len(self.get(f"/{study.pk}")["patches"]), 1)

    def test_a_viewer_neither_archives_nor_duplicates(self) -> None:
        study = self.make_study()
        viewer = self.client_of("viewer")
        body = json.dumps({"archived": True})
        put = viewer.put(f"/api/studies/{study.pk}/archived", body, JSON)
        post = viewer.post(f"/api/studies/{study.pk}/copies")
        self.assertEqual((put.status_code, post.status_code), (403, 403))
        self.assertEqual(Study.objects.filter(archived__isnull=True).count(), 1)

    def test_a_study_goes_with_its_unpublished_report_and_all_that_hangs_on_it(self) -> None:
        study = self.make_study()
        work()
        text = {"summary": "A.", "method": "", "disclosure": ""}
        self.owner.put(f"/api/studies/{study.pk}/report", json.dumps(text), JSON)
        self.assertTrue(Report.objects.exists())
        self.assertEqual(self.owner.delete(f"/api/studies/{study.pk}").status_code, 204)
        for model in (Study, Contender, Output, Patch, Reading, Report):
            self.assertFalse(model.objects.exists(), model)

    def test_removing_a_frame_takes_its_outputs_and_patches_in_this_study_alone(self) -> None:
        study = self.make_study()
        frame = study.study_frames.get().frame_id
        copy = self.owner.post(f"/api/studies/{study.pk}/copies").json()["id"]
        self.owner.delete(f"/api/studies/{study.pk}/frames/{frame}")
        self.assertFalse(Output.objects.filter(contender__study=study).exists())
        self.assertFalse(study.patches.exists())
        self.assertEqual(Output.objects.filter(contender__study=copy).count(), 2)
        self.assertEqual(Patch.objects.filter(study=copy).count(), 1)

    def test_taking_a_frame_again_neither_doubles_nor_measures_anything(self) -> None:
        study = self.make_study()
        work()
        frame = study.study_frames.get().frame_id
        before = Job.objects.count()
        body = {"frame": frame}
        self.assertEqual(
            self.owner.post(f"/api/studies/{study.pk}/frames", body, JSON).status_code, 204
        )
        self.assertEqual((study.study_frames.count(), Job.objects.count()), (1, before))

    def test_a_patch_that_moves_is_read_anew_and_the_others_are_not(self) -> None:
        study = self.make_study()
        work()
        patch = study.patches.get()
        whole = set(Reading.objects.filter(patch=None).values_list("pk", flat=True))
        body = {"name": "Sky", "role": "flat", "x": 40, "y": 20, "w": 90, "h": 60}
        self.owner.put(f"/api/patches/{patch.pk}", json.dumps(body), JSON)
        self.assertFalse(Reading.objects.filter(patch=patch).exists())
        self.assertTrue(Job.objects.filter(kind="measure", state="queued").exists())
        work()
        self.assertTrue(Reading.objects.filter(patch=patch).exists())
        kept = set(Reading.objects.filter(patch=None).values_list("pk", flat=True))
        self.assertTrue(whole & kept)

    def test_another_name_alone_measures_nothing(self) -> None:
        study = self.make_study()
        work()
        patch = study.patches.get()
        before = Job.objects.count()
        body = {"name": "Upper sky", "role": "flat", "x": 20, "y": 20, "w": 90, "h": 60}
        self.owner.put(f"/api/patches/{patch.pk}", json.dumps(body), JSON)
        self.assertEqual(Job.objects.count(), before)
        self.assertTrue(Reading.objects.filter(patch=patch).exists())
