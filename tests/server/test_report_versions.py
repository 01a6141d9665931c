"""Earlier states of a report: what is kept, as how many versions, and what they say."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.test import Client
from django.utils import timezone

from glenhail.server.accounts.models import Trail
from glenhail.server.publishing.models import Report, ReportVersion
from glenhail.server.publishing.versions import MOST_VERSIONS, SPAN
from tests.server.base import ServerTest, work

JSON = "application/json"


class Versions(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        self.home = f"/api/studies/{self.study.pk}/report"
        self.editor = self.client_of("editor")

    def write(self, summary: str, auto: bool = False, client: Client | None = None) -> None:
        body = {"summary": summary, "method": "", "disclosure": "", "auto": auto}
        answer = (client or self.editor).put(self.home, body, JSON)
        self.assertEqual(answer.status_code, 200, answer.content)

    def told(self) -> list[tuple[str, str, bool]]:
        """Oldest first: who, which summary, whether by itself."""
        rows = self.editor.get(f"{self.home}/versions").json()
        return [
            (r["author"], self.of(r["id"]).json()["summary"], r["auto"]) for r in reversed(rows)
        ]

    def of(self, pk: int, client: Client | None = None) -> Any:
        return (client or self.editor).get(f"{self.home}/versions/{pk}")

    def test_what_a_page_saves_by_itself_is_one_version_until_somebody_else_writes(self) -> None:
        for summary, auto, client in (
            ("a", True, None),
            ("ab", True, None),
            ("abc", True, None),
            ("abc", True, None),
            ("abcd", False, None),
            ("abcd", False, None),
            ("abcde", True, None),
            ("theirs", True, self.owner),
            ("mine", True, None),
        ):
            self.write(summary, auto, client)
        wanted = [
            ("editor", "abc", True),
            ("editor", "abcd", False),
            ("editor", "abcde", True),
            ("owner", "theirs", True),
            ("editor", "mine", True),
        ]
        self.assertEqual(self.told(), wanted)

    def test_after_a_while_another_begins_and_the_oldest_of_very_many_go(self) -> None:
        self.write("first", auto=True)
        ReportVersion.objects.update(created=timezone.now() - SPAN - timedelta(seconds=1))
        self.write("second", auto=True)
        self.assertEqual([text for _, text, _ in self.told()], ["first", "second"])
        report = Report.objects.get()
        ReportVersion.objects.bulk_create(
            ReportVersion(report=report, texts={"summary": str(n)}) for n in range(MOST_VERSIONS)
        )
        self.write("last")
        self.assertEqual(report.versions.count(), MOST_VERSIONS)
        self.assertEqual(report.versions.first().texts["summary"], "last")
        self.assertFalse(report.versions.filter(texts__summary="second").exists())

    def test_what_stood_before_versions_were_kept_is_the_first_and_a_figure_makes_one(self) -> None:
        Report.objects.create(study=self.study, slug="old", summary="from before")
        self.write("now")
        self.assertEqual([t for _, t, _ in self.told()], ["from before", "now"])
        work()
        frame = self.study.study_frames.get().frame_id
        figure = {"frame": frame, "x": 0, "y": 0, "w": 64, "h": 64, "letters": ["U"]}
        answer = self.editor.post(f"{self.home}/figures", figure, JSON)
        self.assertEqual(answer.status_code, 201, answer.content)
        newest = self.editor.get(f"{self.home}/versions").json()[0]
        blocks = self.of(newest["id"]).json()["blocks"]
        self.assertIn("figure", [b["kind"] for b in blocks])
        # It can be written again as it was, figure and all.
        texts = self.of(newest["id"]).json()
        self.assertEqual(self.editor.put(self.home, texts, JSON).status_code, 200)

    def test_the_trail_names_each_version_once_and_strangers_see_none(self) -> None:
        before = Trail.objects.filter(action="write report").count()
        for n in range(5):
            self.write(f"typing {n}", auto=True)
        self.assertEqual(Trail.objects.filter(action="write report").count(), before + 1)
        (row,) = self.editor.get(f"{self.home}/versions").json()
        stranger = self.client_of("stranger")
        self.assertEqual(stranger.get(f"{self.home}/versions").status_code, 404)
        self.assertEqual(self.of(row["id"], stranger).status_code, 404)
        self.assertEqual(self.of(row["id"] + 1).status_code, 404)
        self.assertEqual(self.of(row["id"], self.client_of("viewer")).status_code, 200)
