"""Sittings through the API: composed, frozen, answered blind by members and guests, ended,
and what came of them.
"""

from __future__ import annotations

import csv
import io
import json
from datetime import timedelta
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np
from django.core.cache import cache
from django.core.files.storage import storages
from django.test import Client
from django.utils import timezone
from jsonschema import Draft202012Validator
from PIL import Image

from glenhail.core.checking.checks import DIFFERS, EQUAL
from glenhail.core.checking.judged import sittings_again
from glenhail.server.judging.keys import SEAT, key_of
from glenhail.server.judging.models import Call, Judge, Sitting, SittingCrop
from glenhail.server.material.models import Frame, Scene
from glenhail.server.measuring import jobs
from glenhail.server.operations.purge import purge
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.models import Edition
from tests.server.base import ServerTest, upload, work

JSON = "application/json"


class SittingTest(ServerTest):
    """A study of two outputs that are lined up; readings are taken only where a test
    asks for them, since they take most of the time.
    """

    measured = False

    def setUp(self) -> None:
        super().setUp()
        if not self.measured:
            self.enterContext(mock.patch.object(jobs, "missing_tasks", return_value=[]))
        cache.clear()
        self.study = self.make_study()
        step = {"tool": "Keenfold", "release": "2.1", "mode": "", "strength": 40, "settings": []}
        entered = self.owner.post(
            f"/api/studies/{self.study.pk}/contenders", {"steps": [step]}, JSON
        ).json()
        frame = self.study.study_frames.get().frame_id
        self.owner.post(
            f"/api/contenders/{entered['id']}/outputs/{frame}", upload("double", "out_B.tif")
        )
        work()
        self.patch = self.study.patches.get()
        self.frame = frame
        self.guest = Client()

    def compose(self, **other: Any) -> dict[str, Any]:
        body = {
            "question": "Which shows the thread better?",
            "letters": ["A", "B"],
            "patches": [self.patch.pk],
            "count": 20,
            **other,
        }
        answer = self.owner.post(f"/api/studies/{self.study.pk}/sittings", body, JSON)
        self.assertEqual(answer.status_code, 201, answer.content)
        work()
        found: dict[str, Any] = self.owner.get(f"/api/sittings/{answer.json()['id']}").json()
        return found

    def seat(self, sitting: dict[str, Any], who: str = "owner") -> str:
        answer = self.client_of(who).post(f"/api/sittings/{sitting['id']}/seat")
        self.assertEqual(answer.status_code, 201, answer.content)
        key: str = answer.json()["key"]
        return key

    def link(self, sitting: dict[str, Any], **other: Any) -> dict[str, Any]:
        ends = (timezone.now() + timedelta(days=2)).isoformat()
        body = {"name": "Readers", "most": 2, "ends": ends, **other}
        found: dict[str, Any] = self.owner.post(
            f"/api/sittings/{sitting['id']}/links", body, JSON
        ).json()
        return found

    def answer(self, key: str, place: int, answer: object, **other: Any) -> Any:
        body = json.dumps({"answer": answer, "took_ms": 1500, **other})
        return self.guest.put(f"/api/seats/{key}/places/{place}", body, JSON)

    def sit(self, key: str, prefers: str = "B") -> None:
        """All of it: the preferred one, where it is shown."""
        judge = Judge.objects.get(pk=int(key.split("-", maxsplit=1)[0]))
        for at, place in enumerate(judge.places):
            letters = place["letters"]
            said = "no difference"
            if len(set(letters)) == 2:
                said = "left" if letters[0] == prefers else "right"
            answer = self.answer(key, at, {"said": said}, kinds=["smeared"])
            self.assertEqual(answer.status_code, 200, answer.content)


class Weighed(SittingTest):
    measured = True

    def test_a_sitting_is_frozen_judged_blind_closed_and_says_what_came_of_it(self) -> None:
        sitting = self.compose(obvious=["T", "U"], beside="T")
        self.assertEqual((sitting["state"], sitting["number"]), ("open", 1))
        crops = SittingCrop.objects.filter(sitting=sitting["id"])
        self.assertEqual({c.letter for c in crops}, {"A", "B", "T", "U"})
        # One size and one length, also of an output twice as large.
        self.assertEqual(len({(c.width, c.height, c.file.size) for c in crops}), 1)
        key = self.seat(sitting)
        self.assertEqual(self.seat(sitting), key)
        self.sit(key)
        told = self.guest.get(f"/api/seats/{key}").json()
        self.assertEqual((told["answered"], told["places"], told["seconds_left"]), (20, 20, 0))
        refused = self.owner.get(f"/api/sittings/{sitting['id']}/outcome")
        self.assertEqual(refused.status_code, 409)
        closed = self.owner.post(f"/api/sittings/{sitting['id']}/close").json()
        self.assertEqual((closed["state"], closed["done"], closed["answers"]), ("closed", 1, 20))
        self.assertIn("B was chosen over A", closed["said"])
        outcome = self.owner.get(f"/api/sittings/{sitting['id']}/outcome").json()
        self.assertEqual(outcome["overall"]["standings"][0]["contender"], "B")
        (judge,) = outcome["judges"]
        self.assertEqual((judge["name"], judge["repeats"]["value"]), ("owner", 1.0))
        self.assertEqual(judge["equal"]["value"], 1.0)
        self.assertTrue({"psnr", "ssim"} & {row["measure"] for row in outcome["beside"]})
        self.assertEqual(outcome["reasons"][0]["kind"], "smeared")
        self.assertEqual(self.answer(key, 0, {"said": "left"}).status_code, 409)
        spot = self.owner.get(f"/api/sittings/{sitting['id']}/outcome/0").json()
        self.assertEqual(spot["results"]["standings"][0]["contender"], "B")
        nowhere = self.owner.get(f"/api/sittings/{sitting['id']}/outcome/7").json()
        self.assertIsNone(nowhere["results"])


class Sittings(SittingTest):
    def test_raw_answers_have_no_nicknames(self) -> None:
        sitting = self.compose()
        link = self.link(sitting)
        key = self.guest.post(
            f"/api/invitations/{link['key']}/seats", {"nickname": "Wren"}, JSON
        ).json()["key"]
        self.sit(key)
        self.owner.post(f"/api/sittings/{sitting['id']}/close")
        text = self.owner.get(f"/api/sittings/{sitting['id']}/calls.csv").content.decode()
        rows = list(csv.DictReader(io.StringIO(text)))
        self.assertEqual(len(rows), 20)
        self.assertNotIn("Wren", text)
        self.assertEqual({r["answer"] for r in rows}, {"left", "right", "no difference"})
        outcome = self.owner.get(f"/api/sittings/{sitting['id']}/outcome").json()
        self.assertEqual([j["name"] for j in outcome["judges"]], ["Wren"])

    def test_what_judges_saw_is_shown_to_members_once_it_is_closed(self) -> None:
        sitting = self.compose(count=4)
        address = f"/api/sittings/{sitting['id']}/crops/0/A.png"
        self.assertEqual(self.owner.get(address).status_code, 409)
        self.owner.post(f"/api/sittings/{sitting['id']}/close")
        answer = self.client_of("viewer").get(address)
        self.assertEqual(answer["Content-Type"], "image/png")
        crop = SittingCrop.objects.get(sitting=sitting["id"], spot=0, letter="A")
        with Image.open(io.BytesIO(answer.content)) as shown:
            self.assertEqual(shown.size, (crop.width, crop.height))
        for other in ("0/Q.png", "7/A.png"):
            self.assertEqual(
                self.owner.get(f"/api/sittings/{sitting['id']}/crops/{other}").status_code, 404
            )

    def test_choices_are_told_by_kind_of_scene_where_spots_differ_in_it(self) -> None:
        sitting = self.compose(frames=[self.frame], count=12)
        spots = sitting["spots"]
        self.sit(self.seat(sitting), "B")
        self.owner.post(f"/api/sittings/{sitting['id']}/close")
        address = f"/api/sittings/{sitting['id']}/outcome"
        self.assertEqual(self.owner.get(address).json()["by_scene"], [])
        # Of one frame every spot is of the same kinds: a second frame is told apart.
        row = Sitting.objects.get(pk=sitting["id"])
        other = self.owner.post("/api/frames", upload("smooth", "yard.tif")).json()["id"]
        yard = Scene.objects.create(bench=self.study.bench, name="Yard", kinds=["moving"])
        Frame.objects.filter(pk=other).update(scene=yard)
        row.spots = [spots[0], {**spots[1], "frame": other}]
        row.save(update_fields=["spots"])
        (by,) = self.owner.get(address).json()["by_scene"]
        self.assertEqual(by["scene"], "moving")
        self.assertLess(by["results"]["answers"], 12)
        self.assertEqual(by["results"]["standings"][0]["contender"], "B")

    def test_an_adaptive_sitting_asks_most_about_what_is_least_known(self) -> None:
        sitting = self.compose(letters=["A", "B", "U"], adaptive=True, count=40)
        self.assertIn("by what is least known (D-optimum)", sitting["how"])
        key = self.seat(sitting)
        judge = Judge.objects.get(pk=int(key.split("-", maxsplit=1)[0]))
        before = judge.places
        for at in range(9):
            # Whoever is shown beside U is chosen: less and less is left to be learnt of U.
            letters = judge.places[at]["letters"]
            said = "left" if letters[-1] == "U" else "right" if letters[0] == "U" else "left"
            self.answer(key, at, {"said": said})
            judge.refresh_from_db()
        self.assertEqual(judge.places[:10], before[:10])
        self.assertEqual([p["spot"] for p in judge.places], [p["spot"] for p in before])
        self.assertNotEqual(judge.places, before)
        # An answer that is sent again changes nothing.
        now = judge.places
        self.answer(key, 7, {"said": "left"})
        judge.refresh_from_db()
        self.assertEqual(judge.places, now)

    def test_pictures_tell_nothing_but_what_is_seen(self) -> None:
        sitting = self.compose(count=12)
        key = self.seat(sitting)
        place = self.guest.get(f"/api/seats/{key}/places/0")
        text = place.content.decode()
        for name in ("A", "B", "Sedgewash", "Keenfold", "out_", "Sky", "letter", "spot", "sha"):
            self.assertNotIn(f'"{name}', text)
        heads = []
        for side in (0, 1):
            picture = self.guest.get(f"/api/seats/{key}/places/0/{side}.png")
            self.assertEqual(picture["Cache-Control"], "no-store")
            heads.append({k: v for k, v in picture.headers.items() if k != "X-Request-ID"})
            with Image.open(io.BytesIO(picture.content)) as image:
                self.assertEqual(image.size, (place.json()["width"], place.json()["height"]))
                self.assertEqual(image.info, {})
        self.assertEqual(heads[0], heads[1])
        self.assertNotIn("ETag", heads[0])
        for gone in ("2.png", "beside.png", "A.png"):
            self.assertEqual(self.guest.get(f"/api/seats/{key}/places/0/{gone}").status_code, 404)
        # The next may be fetched ahead, no later one.
        self.assertEqual(self.guest.get(f"/api/seats/{key}/places/1").status_code, 200)
        self.assertEqual(self.guest.get(f"/api/seats/{key}/places/2").status_code, 404)

    def test_what_is_shown_is_what_the_output_holds_pixel_by_pixel(self) -> None:
        sitting = self.compose(zoom=3, count=1)
        crop = SittingCrop.objects.get(sitting=sitting["id"], letter="A")
        with storages["originals"].open(crop.file.path) as file, Image.open(file) as image:
            shown = np.asarray(image)
        output = Output.objects.get(contender__letter="A")
        picture = output.picture
        assert picture is not None
        p = self.patch
        part = self.owner.get(
            f"/api/pictures/{picture.pk}/part.png?x={p.x:g}&y={p.y:g}&w={p.w:g}&h={p.h:g}"
        )
        self.assertEqual(shown.shape, (180, 270, 3))
        if part.status_code == 200:
            with Image.open(io.BytesIO(part.content)) as image:
                own = np.asarray(image.convert("RGB"))
            np.testing.assert_array_equal(shown[1::3, 1::3], own)
        np.testing.assert_array_equal(shown[::3], shown[1::3])

    def test_later_changes_change_nothing_that_was_shown(self) -> None:
        sitting = self.compose(count=6)
        key = self.seat(sitting)
        before = self.guest.get(f"/api/seats/{key}/places/0/0.png").content
        self.owner.delete(f"/api/patches/{self.patch.pk}")
        contender = self.study.contenders.get(letter="A")
        self.owner.post(
            f"/api/contenders/{contender.pk}/outputs/{self.frame}", upload("frame", "new.tif")
        )
        work()
        for grace in (timedelta(0), timedelta(0)):
            purge(grace=grace)
        self.assertEqual(self.guest.get(f"/api/seats/{key}/places/0/0.png").content, before)
        files = [c.file.pk for c in SittingCrop.objects.all()]
        self.owner.delete(f"/api/sittings/{sitting['id']}")
        purge(grace=timedelta(0))
        purge(grace=timedelta(0))
        self.assertFalse(any(storages["originals"].exists(f"{f[:2]}/{f[2:4]}/{f}") for f in files))

    def test_an_answer_is_kept_once_corrected_by_another_and_none_is_passed_over(self) -> None:
        key = self.seat(self.compose(count=4))
        for _ in range(3):
            told = self.answer(key, 0, {"said": "left"}, kinds=["halo", "halo", "nonsense"]).json()
        self.assertEqual((told["answered"], Call.objects.count()), (1, 1))
        self.assertEqual(self.answer(key, 0, {"said": "right"}).status_code, 200)
        self.assertEqual(Call.objects.get().answer, {"said": "right"})
        back = self.guest.get(f"/api/seats/{key}/places/0").json()
        self.assertEqual(back["answer"], {"said": "right"})
        self.assertEqual(self.answer(key, 3, {"said": "left"}).status_code, 409)
        for bad in ({"said": "A"}, {}, "left", {"grade": 1}):
            self.assertEqual(self.answer(key, 1, bad).status_code, 400, bad)
        self.assertEqual(self.answer(key, 99, {"said": "left"}).status_code, 400)

    def test_a_check_of_the_screen_is_kept_with_the_answers(self) -> None:
        key = self.seat(self.compose(count=2))
        address = f"/api/seats/{key}/screen"
        told = {"dark_steps": 5, "light_steps": 4, "ppi": 110, "distance_cm": 60}
        answer = self.guest.put(address, json.dumps({"told": told}), JSON)
        self.assertEqual(answer.json()["screen"], told)
        for bad in ({"colour": 1}, {"ppi": 9000}, {"ppi": "x"}, {"ppi": -1}):
            refused = self.guest.put(address, json.dumps({"told": bad}), JSON)
            self.assertEqual(refused.status_code, 400)

    def test_grades_and_orders_come_out_as_what_they_are(self) -> None:
        graded = self.compose(kind="single")
        key = self.seat(graded)
        judge = Judge.objects.get()
        for at, place in enumerate(judge.places):
            self.answer(key, at, {"grade": 5 if place["letters"] == ["B"] else 2})
        closed = self.owner.post(f"/api/sittings/{graded['id']}/close").json()
        self.assertIn("B 5.0", closed["said"])
        ordered = self.compose(kind="order")
        key = self.seat(ordered)
        for at, place in enumerate(Judge.objects.latest("pk").places):
            order = sorted(range(2), key=lambda i: place["letters"][i] != "A")
            self.answer(key, at, {"order": order})
        self.owner.post(f"/api/sittings/{ordered['id']}/close")
        outcome = self.owner.get(f"/api/sittings/{ordered['id']}/outcome").json()
        self.assertEqual(outcome["overall"]["standings"][0]["contender"], "A")
        grades = self.owner.get(f"/api/sittings/{graded['id']}/outcome?judges=screened").json()
        self.assertEqual([g["letter"] for g in grades["grades"]], ["B", "A"])

    def test_uses_whole_frames_and_matched_brightness_are_shown(self) -> None:
        frames = {"patches": [], "frames": [self.frame]}
        post = self.compose(use="post", zoom=1, **frames)
        whole = self.compose(zoom=1, matched=True, **frames)
        for sitting, most in ((post, 1200), (whole, 1200)):
            self.assertEqual(sitting["state"], "open", sitting["problem"])
            sizes = {(c.width, c.height) for c in SittingCrop.objects.filter(sitting=sitting["id"])}
            ((width, height),) = sizes
            self.assertTrue(300 < width <= most and height <= 600)
        self.assertIn("as seen in use: post, 1080 px, JPEG 80", post["how"])

    def test_what_can_not_be_asked_is_refused_with_a_reason(self) -> None:
        body = {"question": "Q?", "letters": ["A", "B"], "patches": [self.patch.pk]}
        for other, word in (
            ({"letters": ["A"]}, "two contenders"),
            ({"letters": ["A", "Z"]}, "no contender Z"),
            ({"patches": []}, "patch or whole frame"),
            ({"patches": [999]}, "not of this study"),
            ({"question": " "}, "blank"),
            ({"zoom": 5}, "shown at"),
            ({"use": "nonsense"}, "no such use"),
            ({"use": "post", "matched": True}, "not of a use"),
            ({"obvious": ["A", "A"]}, "two contenders"),
            ({"count": 0}, "count"),
        ):
            answer = self.owner.post(
                f"/api/studies/{self.study.pk}/sittings", {**body, **other}, JSON
            )
            self.assertIn(answer.status_code, (400, 404))
            self.assertIn(word, answer.json()["detail"], other)
        Output.objects.filter(contender__letter="B").delete()
        answer = self.owner.post(f"/api/studies/{self.study.pk}/sittings", body, JSON)
        self.assertEqual(answer.status_code, 409)
        self.assertIn("B has no output", answer.json()["detail"])

    def test_an_output_that_goes_while_it_is_prepared_is_named(self) -> None:
        body = {"question": "Q?", "letters": ["A", "B"], "patches": [self.patch.pk]}
        made = self.owner.post(f"/api/studies/{self.study.pk}/sittings", body, JSON).json()
        Output.objects.filter(contender__letter="B").delete()
        work()
        told = self.owner.get(f"/api/sittings/{made['id']}").json()
        self.assertEqual(told["state"], "failed")
        self.assertIn("B: an output that it shows was removed", told["problem"])
        self.assertEqual(self.owner.post(f"/api/sittings/{made['id']}/seat").status_code, 409)

    def test_what_so_many_answers_tell_is_said_beforehand(self) -> None:
        told = self.owner.get(
            "/api/sitting-prospect?kind=pairs&contenders=2&spots=6&count=50&judges=2&obvious=yes"
        ).json()
        self.assertEqual((told["answers"], told["needed_67"]), (100, 72))
        self.assertLess(told["tells"], 0.75)
        self.assertEqual(told["seconds"], 400)


class InEditions(SittingTest):
    paper = True

    def test_an_edition_says_what_was_chosen_and_its_answers_are_weighed_again(self) -> None:
        sitting = self.compose(count=16)
        self.sit(self.seat(sitting))
        self.owner.post(f"/api/sittings/{sitting['id']}/close")
        self.compose()  # an open one is none of an edition's
        self.owner.post(f"/api/studies/{self.study.pk}/editions", {"note": ""}, JSON)
        work()
        folder = Path(storages["editions"].path(Edition.objects.get().folder))
        document = json.loads((folder / "edition.json").read_text())
        validator = Draft202012Validator(json.loads((folder / "edition.schema.json").read_text()))
        self.assertEqual([e.message for e in validator.iter_errors(document)], [])
        (told,) = document["sittings"]
        page = (folder / "index.html").read_text()
        for words in ("Judged blind", "Which shows the thread better?", told["file"]):
            self.assertIn(words, page)
        rows = list(csv.DictReader(io.StringIO((folder / told["file"]).read_text())))
        self.assertEqual(len(rows), 16)
        self.assertNotIn("owner", json.dumps(told))
        self.assertEqual({c["letter"] for c in told["crops"]}, {"A", "B"})
        again = list(sittings_again(document))
        self.assertEqual({c.state for c in again}, {EQUAL})
        asked = next(a for a in told["answers"] if a[2] == "asked")
        asked[8] = "no difference" if asked[8] != "no difference" else "left"
        self.assertIn(DIFFERS, {c.state for c in sittings_again(document)})
        asked[8] = "nonsense"
        self.assertEqual({c.state for c in sittings_again(document)}, {DIFFERS})


class Guests(SittingTest):
    def setUp(self) -> None:
        super().setUp()
        self.sitting = self.compose(count=4)

    def test_a_guest_sees_the_sitting_and_nothing_else(self) -> None:
        link = self.link(self.sitting)
        told = self.guest.get(f"/api/invitations/{link['key']}").json()
        self.assertEqual((told["question"], told["problem"]), (self.sitting["question"], ""))
        key = self.guest.post(f"/api/invitations/{link['key']}/seats", {}, JSON).json()["key"]
        self.sit(key)
        for address in (
            f"/api/studies/{self.study.pk}",
            f"/api/sittings/{self.sitting['id']}",
            f"/api/sittings/{self.sitting['id']}/outcome",
            f"/api/studies/{self.study.pk}/sittings",
            f"/api/pictures/{Output.objects.first().picture_id}/tiles/0/0_0.png",  # type: ignore[union-attr]
        ):
            self.assertIn(self.guest.get(address).status_code, (401, 403, 404), address)

    def test_keys_can_not_be_guessed_and_open_only_what_they_are_of(self) -> None:
        link = self.link(self.sitting)
        key = self.seat(self.sitting)
        number, mark = key.split("-")
        for wrong in (number, f"{number}-", f"{int(number) + 1}-{mark}", f"x-{mark}", link["key"]):
            self.assertEqual(self.guest.get(f"/api/seats/{wrong}").status_code, 404, wrong)
        self.assertEqual(self.guest.get(f"/api/invitations/{key}").status_code, 404)
        self.assertEqual(key, key_of(SEAT, int(number)))

    def test_a_link_ends_by_its_limit_its_date_and_by_hand(self) -> None:
        link = self.link(self.sitting, most=1)
        address = f"/api/invitations/{link['key']}"
        first = self.guest.post(f"{address}/seats", {}, JSON)
        self.assertEqual(self.guest.post(f"{address}/seats", {}, JSON).status_code, 409)
        self.assertIn("have sat", self.guest.get(address).json()["problem"])
        key = first.json()["key"]
        self.assertEqual(self.answer(key, 0, {"said": "left"}).status_code, 200)
        self.assertEqual(self.owner.delete(f"/api/sitting-links/{link['id']}").status_code, 204)
        self.assertEqual(self.answer(key, 1, {"said": "left"}).status_code, 409)
        self.assertIn("ended", self.guest.get(f"/api/seats/{key}").json()["problem"])
        past = (timezone.now() - timedelta(hours=1)).isoformat()
        refused = self.owner.post(
            f"/api/sittings/{self.sitting['id']}/links", {"ends": past, "most": 1}, JSON
        )
        self.assertEqual(refused.status_code, 400)
        late = self.link(self.sitting)
        Sitting.objects.get().links.filter(pk=late["id"]).update(ends=timezone.now())
        refused = self.guest.post(f"/api/invitations/{late['key']}/seats", {}, JSON)
        self.assertEqual(refused.status_code, 409)

    def test_a_closed_sitting_takes_nobody(self) -> None:
        link = self.link(self.sitting)
        self.owner.post(f"/api/sittings/{self.sitting['id']}/close")
        refused = self.guest.post(f"/api/invitations/{link['key']}/seats", {}, JSON)
        self.assertEqual(refused.status_code, 409)
        self.assertEqual(
            self.owner.post(f"/api/sittings/{self.sitting['id']}/seat").status_code, 409
        )
        self.assertEqual(
            self.owner.get(f"/api/sittings/{self.sitting['id']}").json()["said"],
            "Nobody has answered.",
        )

    def test_one_address_can_not_take_seats_without_end(self) -> None:
        link = self.link(self.sitting, most=500)
        codes = {
            self.guest.post(f"/api/invitations/{link['key']}/seats", {}, JSON).status_code
            for _ in range(62)
        }
        self.assertEqual(codes, {201, 429})
