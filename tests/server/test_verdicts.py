"""Verdicts by use and kind of scene, what they rest on, and calls with names seen."""

from __future__ import annotations

import json
from typing import Any

from glenhail.server.judging.evidence import StudyEvidence
from glenhail.server.material.models import Frame, Scene
from glenhail.server.publishing.asked import asked_of
from glenhail.server.publishing.verdicts import verdicts_table
from tests.server.test_sittings import JSON, SittingTest

DAY = "plain areas"


class VerdictTest(SittingTest):
    measured = True

    def setUp(self) -> None:
        super().setUp()
        self.home = f"/api/studies/{self.study.pk}"
        self.ids = dict(self.study.contenders.values_list("letter", "pk"))
        scene = Scene.objects.create(bench=self.study.bench, name="Hall", kinds=[DAY])
        Frame.objects.filter(pk=self.frame).update(scene=scene)

    def write(self, *verdicts: dict[str, Any], status: int = 200) -> Any:
        body = {"verdicts": [{"use": "web", "text": "Mild.", **v} for v in verdicts]}
        answer = self.owner.put(f"{self.home}/verdicts", body, JSON)
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def evidence(self) -> Any:
        return self.owner.get(f"{self.home}/evidence").json()

    def cell(self, use: str, scene: str) -> Any:
        (cell,) = (c for c in self.evidence()["cells"] if (c["use"], c["scene"]) == (use, scene))
        return cell

    def call(self, letter: str, answer: str | None, who: str = "owner") -> Any:
        body = {"patch": self.patch.pk, "contender": self.ids[letter], "answer": answer}
        return self.client_of(who).put(f"{self.home}/named-calls", json.dumps(body), JSON)


class Evidence(VerdictTest):
    def test_a_verdict_is_proposed_written_with_its_evidence_asked_about_and_published(
        self,
    ) -> None:
        found = self.evidence()
        self.assertEqual((found["reference"], found["scenes"]), ("U", [DAY]))
        read = [e for e in self.cell("", DAY)["evidence"] if e["kind"] == "readings"]
        self.assertEqual({e["letter"] for e in read}, {"A", "B"})
        (of_a,) = (e for e in read if e["letter"] == "A")
        self.assertIn("A", self.cell("", DAY)["proposal"])
        # Whatever the readings say, the opposite is asked about and kept all the same.
        mark = {"better": "worse", "worse": "better"}.get(of_a["says"], "better")
        rests = [of_a["key"], f"patch:{self.patch.pk}"]
        line = {"scene": DAY, "marks": {"A": mark}, "evidence": rests}
        self.assertEqual(self.write(line), [{"use": "web", "text": "Mild.", **line}])
        ((asked,),) = self.evidence()["asked"]
        self.assertTrue(asked.startswith(f"A is marked {mark} than U, but: {of_a['text']}"), asked)
        questions = [q.text for q in asked_of(self.study, [])]
        self.assertIn(f"The verdict for “web”: {asked}", questions)
        (told,) = verdicts_table(self.study)
        self.assertEqual(told["use"], f"web, {DAY}")
        self.assertEqual(told["marked"], f"Against U: A {mark}.")
        self.assertEqual(told["evidence"], [of_a["text"], f"patch “{self.patch.name}”"])
        # What is gone is told no more, and does not stand in the way of saving again.
        self.patch.delete()
        self.write(line)
        self.assertNotIn("patch", str(verdicts_table(self.study)[0]["evidence"]))

    def test_blind_calls_speak_for_the_use_that_was_seen(self) -> None:
        for use in ("", "web"):
            sitting = self.compose(letters=["U", "B"], use=use)
            self.sit(self.seat(sitting), "B")
            self.owner.post(f"/api/sittings/{sitting['id']}/close")
        name = self.owner.get(f"/api/sittings/{sitting['id']}").json()["how"]
        self.assertIn("web picture", name)
        found = self.evidence()
        uses = {c["use"] for c in found["cells"]}
        self.assertEqual(len(uses), 2)
        web = next(u for u in uses if u)
        for use, scene, numbers in (("", "", [1]), (web, "", [1, 2]), (web, DAY, [1, 2])):
            with self.subTest(use=use, scene=scene):
                blind = [e for e in self.cell(use, scene)["evidence"] if e["kind"] == "blind"]
                self.assertEqual([e["sitting"] for e in blind], numbers)
                self.assertEqual({e["says"] for e in blind}, {"better"})
        self.assertIn("Judges who see no names choose B over U", self.cell("", "")["proposal"])
        found_by = StudyEvidence(self.study)
        self.assertEqual(found_by.of(f" {web.upper()}", ""), found_by.of(web, ""))


class Refused(VerdictTest):
    measured = False

    def test_marks_and_evidence_are_of_the_study_and_a_cell_has_one_verdict(self) -> None:
        twice = {"scene": DAY}
        for lines, words in (
            ([{"marks": {"Q": "better"}}], "marks Q, which is not in this study"),
            ([{"evidence": ["patch:0"]}], "names evidence that is not of this study"),
            ([twice, twice], "is there twice"),
        ):
            with self.subTest(words):
                self.assertIn(words, self.write(*lines, status=400)["detail"])
        self.write({"marks": {"A": "splendid"}}, status=400)
        self.assertEqual(self.owner.get(f"{self.home}/verdicts").json(), [])

    def test_what_is_said_of_a_contender_that_is_gone_stands_in_nobodys_way(self) -> None:
        line = {"marks": {"B": "worse"}, "text": "B is worse."}
        self.write(line)
        self.study.contenders.get(letter="B").delete()
        self.write({**line, "text": "B was worse."})
        (told,) = verdicts_table(self.study)
        self.assertEqual((told["marks"], told["marked"]), ({}, ""))
        self.assertEqual(self.evidence()["asked"], [[]])

    def test_a_study_without_readings_proposes_nothing(self) -> None:
        self.assertEqual({c["proposal"] for c in self.evidence()["cells"]}, {""})


class NamedCalls(VerdictTest):
    measured = False

    def test_each_persons_call_is_kept_apart_changed_and_taken_back(self) -> None:
        self.assertEqual(self.call("A", "worse").json()[0]["against"], "U")
        found = self.call("A", "better").json()
        self.assertEqual([(c["answer"], c["mine"]) for c in found], [("better", True)])
        found = self.call("A", "worse", "editor").json()
        self.assertEqual(
            [(c["answer"], c["mine"]) for c in found], [("better", False), ("worse", True)]
        )
        (named,) = (e for e in self.cell("", "")["evidence"] if e["kind"] == "named")
        self.assertEqual((named["letter"], named["says"]), ("A", None))
        found = self.call("A", None, "editor").json()
        self.assertEqual(len(found), 1)
        (named,) = (e for e in self.cell("", DAY)["evidence"] if e["kind"] == "named")
        self.assertEqual(named["says"], "better")

    def test_nobody_calls_the_reference_the_truth_or_what_is_not_there(self) -> None:
        for letter, words in (("U", "is what others are held against"), ("T", "is the truth")):
            with self.subTest(letter):
                answer = self.call(letter, "better")
                self.assertEqual(answer.status_code, 400)
                self.assertIn(words, answer.json()["detail"])
        self.assertEqual(self.call("A", "better", "viewer").status_code, 403)
        self.study.patches.all().delete()
        answer = self.call("A", "better")
        self.assertIn("Reload the page", answer.json()["detail"])
