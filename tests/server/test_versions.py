"""Two who edit the same thing: the later one is refused, sees what is there, and can
still choose.
"""

from __future__ import annotations

from typing import Any

from django.test import Client

from tests.server.base import ServerTest, work

JSON = "application/json"


RELEASE = {
    "name": "1",
    "released": "2026-11-27",
    "news": "",
    "modes": [],
    "raw_modes": [],
    "strength": True,
    "settings": [],
}


class Together(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        self.tool = self.owner.post("/api/tools", self.facts("Tarnlift"), JSON).json()["id"]
        self.release = self.owner.post(f"/api/tools/{self.tool}/releases", RELEASE, JSON).json()[
            "id"
        ]

    def facts(self, name: str) -> dict[str, Any]:
        known = self.owner.get("/api/tools").json()
        told = (
            {k: v for k, v in known[0].items() if k not in ("id", "releases", "used", "version")}
            if known
            else {}
        )
        return {**told, "name": name}

    def test_the_second_of_two_editors_does_not_overwrite_the_first(self) -> None:
        home, patch = f"/api/studies/{self.study.pk}", self.study.patches.get()
        box = {"role": "flat", "x": 20, "y": 20, "w": 90, "h": 60}
        cases: dict[str, tuple[str, Any, Any]] = {
            "report": (
                f"{home}/report",
                *({"summary": s, "method": "", "disclosure": ""} for s in ("first", "second")),
            ),
            "verdicts": (
                f"{home}/verdicts",
                *({"verdicts": [{"use": "web", "text": s}]} for s in ("first", "second")),
            ),
            "patch": (
                f"/api/patches/{patch.pk}",
                *({**box, "name": s} for s in ("first", "second")),
            ),
            "tool": (f"/api/tools/{self.tool}", *(self.facts(s) for s in ("first", "second"))),
            "release": (
                f"/api/releases/{self.release}",
                *({**RELEASE, "news": s} for s in ("first", "second")),
            ),
        }
        for name, (address, first, second) in cases.items():
            with self.subTest(name):
                began = self.version(address)
                self.assertEqual(
                    self.put(self.client_of("editor"), address, first, began).status_code, 200
                )
                late = self.put(self.owner, address, second, began)
                self.assertEqual(late.status_code, 412)
                self.assertIn("first", str(late.json()["current"]))
                self.assertEqual(late.json()["tag"], late["ETag"])
                # Having seen it, the second can put theirs in its place; who names no version is
                # not asked.
                self.assertEqual(
                    self.put(self.owner, address, second, late["ETag"]).status_code, 200
                )
                self.assertEqual(self.put(self.owner, address, first, "").status_code, 200)
                self.assertEqual(self.put(self.owner, address, second, "*").status_code, 200)

    def version(self, address: str) -> str:
        if "/patches/" in address:
            return str(
                self.owner.get(f"/api/studies/{self.study.pk}").json()["patches"][0]["version"]
            )
        if "/releases/" in address:
            releases = self.owner.get(f"/api/tools/{self.tool}").json()["releases"]
            return str(releases[0]["version"])
        answer = self.owner.get(address)
        if "/tools/" in address:
            self.assertEqual(answer["ETag"], answer.json()["version"])
        return str(answer["ETag"])

    def put(self, client: Client, address: str, body: Any, version: str) -> Any:
        headers = {"If-Match": version} if version else {}
        return client.put(address, body, JSON, headers=headers)
