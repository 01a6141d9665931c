"""Accounts: who is let in, with what, and for how long."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.contrib.auth.models import User
from django.db import connections
from django.test import Client
from django.utils import timezone

from glenhail.server.accounts.models import Link, Membership, Role, Trail
from tests.server.base import ServerTest

JSON = "application/json"
GOOD = "loom-and-shuttle"


class People(ServerTest):
    def invite(self, role: str = "editor") -> str:
        answer = self.owner.post("/api/invitations", {"role": role}, JSON)
        self.assertEqual(answer.status_code, 201, answer.content)
        return str(answer.json()["address"]).rpartition("#")[2]

    def join(self, token: str, name: str = "ada", password: str = GOOD) -> Any:
        return Client().post(
            "/api/join", {"token": token, "username": name, "password": password}, JSON
        )

    def test_an_invitation_lets_one_person_in_with_its_role_once_and_not_for_ever(self) -> None:
        token = self.invite("viewer")
        self.assertNotIn(token, str(Link.objects.values()))
        made = self.join(token)
        self.assertEqual((made.status_code, made.json()["role"]), (201, "viewer"))
        self.assertTrue(
            Client()
            .post("/api/session", {"username": "ada", "password": GOOD}, JSON)
            .json()["signed_in"]
        )
        self.assertEqual(self.join(token, "bo").status_code, 404)
        stale = self.invite()
        Link.objects.filter(used=None).update(expires=timezone.now() - timedelta(seconds=1))
        self.assertEqual(self.join(stale, "bo").status_code, 404)
        self.assertEqual(self.join("made-up", "bo").status_code, 404)

    def test_weak_passwords_and_taken_names_are_refused_and_the_link_still_holds(self) -> None:
        token = self.invite()
        for name, password, words in (
            ("bo", "short", "at least 10"),
            ("bo", "1234567890123", "numeric"),
            ("bo", "password123", "common"),
            ("borromeo", "borromeo12", "similar"),
            ("owner", GOOD, "taken"),
            ("a b", GOOD, "signs"),
        ):
            with self.subTest(words):
                answer = self.join(token, name, password)
                self.assertEqual(
                    (answer.status_code, words in answer.json()["detail"]),
                    (400, True),
                    answer.content,
                )
        self.assertEqual(self.join(token, "bo").status_code, 201)

    def test_roles_are_given_and_taken_but_a_bench_keeps_an_owner(self) -> None:
        people = {p["name"]: p["id"] for p in self.owner.get("/api/people").json()}
        self.assertEqual(set(people), {"owner", "editor", "viewer"})
        self.assertEqual(
            self.owner.patch(
                f"/api/people/{people['owner']}", {"role": "viewer"}, JSON
            ).status_code,
            409,
        )
        self.assertEqual(self.owner.delete(f"/api/people/{people['owner']}").status_code, 409)
        self.assertEqual(
            self.owner.patch(f"/api/people/{people['editor']}", {"role": "owner"}, JSON).json()[
                "role"
            ],
            "owner",
        )
        self.assertEqual(
            self.client_of("editor")
            .patch(f"/api/people/{people['owner']}", {"role": "viewer"}, JSON)
            .status_code,
            200,
        )
        self.assertEqual(self.owner.get("/api/people").status_code, 403)
        self.assertEqual(
            self.client_of("editor").delete(f"/api/people/{self.users['stranger'].pk}").status_code,
            404,
        )
        self.assertTrue(Trail.objects.filter(action="change role").exists())

    def test_who_is_shut_out_is_out_at_once(self) -> None:
        editor = self.client_of("editor")
        self.assertEqual(editor.get("/api/studies").status_code, 200)
        self.owner.delete(f"/api/people/{self.users['editor'].pk}")
        self.assertEqual(editor.get("/api/studies").status_code, 401)
        self.assertFalse(Membership.objects.filter(user=self.users["editor"]).exists())
        self.assertTrue(User.objects.filter(username="editor").exists())

    def test_a_password_is_changed_by_who_knows_it_and_ends_all_other_sessions(self) -> None:
        here, there = (self.client_of("editor") for _ in range(2))
        change = {"old": "secret-words", "new": GOOD}
        self.assertEqual(
            here.put("/api/password", {**change, "old": "guess"}, JSON).status_code, 400
        )
        self.assertEqual(
            here.put("/api/password", {**change, "new": "short"}, JSON).status_code, 400
        )
        self.assertEqual(here.put("/api/password", change, JSON).status_code, 204)
        self.assertEqual(
            (here.get("/api/studies").status_code, there.get("/api/studies").status_code),
            (200, 401),
        )

    def test_an_owner_hands_over_a_link_for_a_forgotten_password(self) -> None:
        before = self.client_of("editor")
        address = self.owner.post(f"/api/people/{self.users['editor'].pk}/new-password").json()[
            "address"
        ]
        token = address.rpartition("#")[2]
        self.assertEqual(
            Client()
            .post("/api/new-password", {"token": token, "password": "weak"}, JSON)
            .status_code,
            400,
        )
        self.assertEqual(
            Client()
            .post("/api/new-password", {"token": token, "password": GOOD}, JSON)
            .status_code,
            204,
        )
        self.assertEqual(before.get("/api/studies").status_code, 401)
        self.assertEqual(
            Client()
            .post("/api/new-password", {"token": token, "password": GOOD}, JSON)
            .status_code,
            404,
        )
        signed_in = Client().post("/api/session", {"username": "editor", "password": GOOD}, JSON)
        self.assertTrue(signed_in.json()["signed_in"])

    def test_ones_own_sessions_are_listed_and_ended(self) -> None:
        here, there = (self.client_of("editor") for _ in range(2))
        listed = here.get("/api/sessions").json()
        self.assertEqual(sorted(s["this"] for s in listed), [False, True])
        other = next(s["id"] for s in listed if not s["this"])
        self.assertEqual(self.client_of("viewer").delete(f"/api/sessions/{other}").status_code, 404)
        self.assertEqual(here.delete(f"/api/sessions/{other}").status_code, 204)
        self.assertEqual(
            (here.get("/api/studies").status_code, there.get("/api/studies").status_code),
            (200, 401),
        )

    def test_guessing_is_stopped_for_the_name_and_the_place_it_comes_from(self) -> None:
        def sign_in(password: str, name: str = "editor", place: str = "10.0.0.1") -> int:
            return (
                Client(REMOTE_ADDR=place)
                .post("/api/session", {"username": name, "password": password}, JSON)
                .status_code
            )

        self.assertEqual([sign_in(f"guess {i}") for i in range(4)], [403] * 4)
        self.assertEqual((sign_in("guess 5"), sign_in("secret-words")), (429, 429))
        # Others, and the same person elsewhere, are not kept out by it.
        self.assertEqual(
            (sign_in("secret-words", "viewer"), sign_in("secret-words", place="10.0.0.2")),
            (200, 200),
        )

    def test_the_trail_is_for_owners_and_goes_on_from_an_entry(self) -> None:
        self.make_study()
        first = self.owner.get("/api/trail").json()
        self.assertIn("create study", {t["action"] for t in first})
        rest = self.owner.get("/api/trail", {"before": first[1]["id"]}).json()
        self.assertEqual([t["id"] for t in rest], [t["id"] for t in first[2:]])
        for role in (Role.EDITOR, Role.VIEWER):
            self.assertEqual(self.client_of(role.value).get("/api/trail").status_code, 403)


class Storage(ServerTest):
    def test_what_lies_on_the_disk_is_told_to_owners(self) -> None:
        self.make_study()
        kept = {a["kind"]: a for a in self.owner.get("/api/storage").json()["kept"]}
        self.assertEqual(set(kept), {"originals", "derived", "editions"})
        self.assertGreater(kept["originals"]["bytes"], 100_000)
        self.assertEqual(self.client_of("editor").get("/api/storage").status_code, 403)

    def test_health_tells_what_is_not_well_and_nothing_else(self) -> None:
        answer = Client().get("/healthy")
        body = answer.json()
        # No worker runs in a test.
        self.assertEqual(
            (answer.status_code, body["well"], body["checks"]["workers"]["well"]),
            (503, False, False),
        )
        self.assertEqual({n for n, c in body["checks"].items() if not c["well"]}, {"workers"})
        self.assertNotIn("/tmp", answer.content.decode())

    def test_a_database_that_is_away_is_told_as_such_and_to_be_asked_again(self) -> None:
        database = connections["default"]
        kept = database.settings_dict["PORT"]
        database.close()
        database.settings_dict["PORT"] = "1"
        try:
            for address in ("/api/studies", "/reports/a/1/"):
                answer = self.owner.get(address)
                self.assertEqual((answer.status_code, answer["Retry-After"]), (503, "2"), address)
            self.assertFalse(Client().get("/healthy").json()["checks"]["database"]["well"])
        finally:
            database.close()
            database.settings_dict["PORT"] = kept
        self.assertEqual(self.owner.get("/api/studies").status_code, 200)
