"""Tokens for scripts: what they may do, and when they end."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.core import mail
from django.test import Client, override_settings
from django.utils import timezone

from glenhail.server.accounts.models import Link, Membership, Role, Token, Trail
from tests.server.base import ServerTest, upload, work

JSON = "application/json"


class Tokens(ServerTest):
    def make(self, scope: str = "editor", who: str = "owner", **more: object) -> dict[str, Any]:
        answer = self.client_of(who).post(
            "/api/tokens", {"name": "Nightly", "scope": scope, **more}, JSON
        )
        self.assertEqual(answer.status_code, 201, answer.content)
        return dict(answer.json())

    def script(self, token: str) -> Client:
        return Client(enforce_csrf_checks=True, headers={"Authorization": f"Bearer {token}"})

    def test_a_script_does_a_reviewers_work_without_a_session(self) -> None:
        made = self.make()
        self.assertNotIn(made["token"], str(Token.objects.values()))
        script = self.script(made["token"])
        study = self.make_study(script)
        work()
        readings = script.get(f"/api/studies/{study.pk}/readings")
        self.assertEqual(readings.status_code, 200)
        self.assertTrue(readings.json())
        (listed,) = self.owner.get("/api/tokens").json()
        self.assertEqual(
            {k: listed[k] for k in ("name", "scope")}, {"name": "Nightly", "scope": "editor"}
        )
        self.assertIsNotNone(listed["used"])
        self.assertNotIn("token", listed)

    def test_scope_and_role_both_bound_what_it_may_do(self) -> None:
        study = self.make_study()
        work()
        calls = {
            Role.VIEWER: lambda c: c.get(f"/api/studies/{study.pk}"),
            Role.EDITOR: lambda c: c.patch(
                f"/api/studies/{study.pk}", {"question": "Which?", "factor": "tool"}, JSON
            ),
            Role.OWNER: lambda c: c.post(f"/api/studies/{study.pk}/editions", {"note": ""}, JSON),
        }
        order = list(calls)
        for scope in order:
            script = self.script(self.make(scope)["token"])
            for least, call in calls.items():
                with self.subTest(scope, call=least):
                    answer = call(script)
                    allowed = order.index(scope) >= order.index(least)
                    self.assertEqual(answer.status_code < 400, allowed, answer.content)
                    if not allowed:
                        self.assertIn(
                            f"This token's scope is {scope.value}", answer.json()["detail"]
                        )
        # Beyond one's own role there is none, and a role that is taken takes it from the tokens
        # too.
        self.assertEqual(
            self.client_of("viewer")
            .post("/api/tokens", {"name": "n", "scope": "editor"}, JSON)
            .status_code,
            403,
        )
        script = self.script(self.make(Role.EDITOR, "editor")["token"])
        self.assertEqual(calls[Role.EDITOR](script).status_code, 200)
        Membership.objects.filter(user=self.users["editor"]).update(role=Role.VIEWER)
        self.assertEqual(calls[Role.EDITOR](script).status_code, 403)
        self.assertEqual(calls[Role.VIEWER](script).status_code, 200)

    def test_it_reaches_no_other_bench(self) -> None:
        study = self.make_study()
        script = self.script(self.make(Role.OWNER, "stranger")["token"])
        self.assertEqual(script.get(f"/api/studies/{study.pk}").status_code, 404)

    def test_passwords_people_and_tokens_are_not_for_scripts(self) -> None:
        script = self.script(self.make(Role.OWNER)["token"])
        person = self.users["editor"].pk
        calls: dict[str, Any] = {
            "make a token": lambda: script.post(
                "/api/tokens", {"name": "more", "scope": "owner"}, JSON
            ),
            "list tokens": lambda: script.get("/api/tokens"),
            "list sessions": lambda: script.get("/api/sessions"),
            "invite": lambda: script.post("/api/invitations", {"role": "owner"}, JSON),
            "offer a password": lambda: script.post(f"/api/people/{person}/new-password", {}, JSON),
            "set a password": lambda: script.put(
                "/api/password", {"old": "secret-words", "new": "loom-and-shuttle"}, JSON
            ),
            "change a role": lambda: script.patch(f"/api/people/{person}", {"role": "owner"}, JSON),
            "shut out": lambda: script.delete(f"/api/people/{person}"),
        }
        for what, call in calls.items():
            with self.subTest(what):
                self.assertIn(call().status_code, (403, 405))
        self.assertEqual(Membership.objects.get(user_id=person).role, Role.EDITOR)

    def test_ended_run_out_and_made_up_tokens_let_nobody_in_and_say_so(self) -> None:
        soon = (timezone.now() + timedelta(hours=1)).isoformat()
        ended, stale, shut, reset = (
            self.make(expires=soon),
            self.make(expires=soon),
            self.make("viewer", "viewer"),
            self.make("editor", "editor"),
        )
        for made in (ended, stale, shut, reset):
            self.assertEqual(self.script(made["token"]).get("/api/studies").status_code, 200)
        self.assertEqual(self.owner.delete(f"/api/tokens/{ended['id']}").status_code, 204)
        self.assertEqual(self.owner.delete(f"/api/tokens/{shut['id']}").status_code, 404)
        Token.objects.filter(pk=stale["id"]).update(expires=timezone.now())
        self.owner.delete(f"/api/people/{self.users['viewer'].pk}")
        link = self.owner.post(
            f"/api/people/{self.users['editor'].pk}/new-password", {}, JSON
        ).json()["address"]
        Client().post(
            "/api/new-password",
            {"token": link.rpartition("#")[2], "password": "loom-and-shuttle"},
            JSON,
        )
        texts = [made["token"] for made in (ended, stale, shut, reset)] + [
            "",
            "made-up",
            "glenhail_",
            ended["token"][:-1],
        ]
        for text in texts:
            with self.subTest(text):
                answer = self.script(text).get("/api/studies")
                self.assertEqual(
                    (answer.status_code, answer.headers["WWW-Authenticate"]), (401, "Bearer")
                )
                self.assertIn("ended, has run out", answer.json()["detail"])
        self.assertEqual(self.script("x").post("/api/frames", upload("frame")).status_code, 401)

    def test_a_token_that_makes_no_sense_is_not_made(self) -> None:
        past = (timezone.now() - timedelta(seconds=1)).isoformat()
        for told in (
            {"name": "", "scope": "viewer"},
            {"name": "n", "scope": "all"},
            {"name": "n", "scope": "viewer", "expires": past},
        ):
            with self.subTest(told):
                self.assertEqual(self.owner.post("/api/tokens", told, JSON).status_code, 400)
        self.assertFalse(Token.objects.exists())
        self.make()
        self.assertEqual(Trail.objects.first().action, "make token")  # type: ignore[union-attr]


class Mail(ServerTest):
    def test_a_link_is_sent_where_a_mail_server_is_set(self) -> None:
        person = self.users["editor"].pk
        with override_settings(EMAIL_HOST="mail.example", DEFAULT_FROM_EMAIL="bench@example.org"):
            for call in ("/api/invitations", f"/api/people/{person}/new-password"):
                told = {"role": "viewer", "mail": "ada@example.org"}
                address = self.owner.post(call, told, JSON).json()["address"]
                sent = mail.outbox[-1]
                self.assertEqual(
                    (sent.to, sent.from_email), (["ada@example.org"], "bench@example.org")
                )
                self.assertIn(f"http://testserver{address}", sent.body)

    def test_without_one_the_link_is_not_made_and_the_remedy_told(self) -> None:
        answer = self.owner.post(
            "/api/invitations", {"role": "viewer", "mail": "ada@example.org"}, JSON
        )
        self.assertEqual(answer.status_code, 400)
        self.assertIn("hand the link over", answer.json()["detail"])
        with override_settings(
            EMAIL_HOST="mail.example", EMAIL_BACKEND="tests.server.test_tokens.Refusing"
        ):
            answer = self.owner.post(
                "/api/invitations", {"role": "viewer", "mail": "ada@example.org"}, JSON
            )
        self.assertIn("did not take", answer.json()["detail"])
        self.assertEqual((Link.objects.count(), len(mail.outbox)), (0, 0))


class Refusing:
    """A mail server that is not there."""

    def __init__(self, **_: object) -> None:
        pass

    def send_messages(self, _: object) -> int:
        raise ConnectionRefusedError
