"""Tools with their facts, releases with typed settings, and who may say how one is run."""

from __future__ import annotations

from pathlib import Path

from django.conf import settings

from tests.server.base import ServerTest

JSON = "application/json"
FACTS = {
    "name": "Tarnlift",
    "kind": "enlarge",
    "maker": "T. Arnlift",
    "licence": "trial",
    "platforms": ["Windows"],
    "ways": ["alone", "web page"],
    "takes": "any",
    "largest": 5,
    "batch": True,
    "notes": "",
    "disclosure": "lent",
    "prices": [{"what": "licence", "amount": "65.00", "currency": "EUR", "checked": "2026-11-02"}],
}
RELEASE = {
    "name": "1.8",
    "released": "2026-02-04",
    "news": "Faster.",
    "modes": ["plain", "print"],
    "raw_modes": [],
    "strength": False,
    "settings": [
        {"kind": "number", "name": "scale", "unit": "x", "low": 1, "high": 8, "usual": 2},
        {"kind": "choice", "name": "texture", "among": ["none", "some"]},
        {"kind": "switch", "name": "faces"},
    ],
}
COMMAND = {
    "program": "lift",
    "arguments": ["{input}", "{output}"],
    "ending": ".tif",
    "seconds": 5,
    "memory_mb": 900,
    "output_mb": 50,
}


def allow(name: str, script: str) -> None:
    """Put a program into the directory of allowed ones."""
    settings.TOOLS_DIR.mkdir(parents=True, exist_ok=True)
    path = Path(settings.TOOLS_DIR) / name
    path.write_text(script)
    path.chmod(0o755)


class Tools(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.tool = self.owner.post("/api/tools", FACTS, JSON).json()
        self.release = self.owner.post(
            f"/api/tools/{self.tool['id']}/releases", RELEASE, JSON
        ).json()
        study = self.owner.post(
            "/api/studies", {"question": "Which?", "factor": "tool"}, JSON
        ).json()
        self.contenders = f"/api/studies/{study['id']}/contenders"

    def step(self, *values: tuple[str, object], **more: object) -> dict[str, object]:
        told = [
            {"name": name, "value": value, "automatic": value is None} for name, value in values
        ]
        return {"tool": "Tarnlift", "release": "1.8", "settings": told, **more}

    def test_facts_stand_side_by_side_and_what_is_not_known_is_said(self) -> None:
        other = self.owner.post(
            "/api/tools",
            FACTS | {"name": "Bareheath", "prices": [], "largest": None, "takes": "raw only"},
            JSON,
        ).json()
        table = self.owner.get(
            f"/api/tools/comparison?tools={other['id']},{self.tool['id']}"
        ).json()
        self.assertEqual(table["tools"], ["Bareheath", "Tarnlift"])
        rows = {r["fact"]: r["told"] for r in table["rows"]}
        self.assertEqual(rows["Price"], ["not known", "65.00 EUR for licence (checked 2 Nov 2026)"])
        self.assertEqual(rows["Largest enlargement"], ["not known", "5×"])
        self.assertEqual(rows["Takes"], ["raw files only", "any file"])
        self.assertIn(
            'Newest release,not known,"1.8, 4 Feb 2026"',
            self.owner.get(
                f"/api/tools/comparison.csv?tools={other['id']},{self.tool['id']}"
            ).content.decode(),
        )

    def test_settings_are_checked_by_their_types_and_take_their_usual_values(self) -> None:
        made = self.owner.post(self.contenders, {"steps": [self.step(("scale", 4))]}, JSON).json()
        self.assertEqual(made["manner"], "scale 4 x, texture none, faces off")
        automatic = self.owner.post(
            self.contenders, {"steps": [self.step(("scale", None))]}, JSON
        ).json()
        self.assertEqual(automatic["manner"], "scale automatic, texture none, faces off")
        for wrong, words in (
            (self.step(("scale", 9)), "from 1 to 8 x"),
            (self.step(("texture", "much")), "none, some"),
            (self.step(("faces", 1)), "on or off"),
            (self.step(("size", 2)), "it has scale, texture, faces"),
            (self.step(strength=50), "no strength"),
            (self.step(mode="art"), "plain, print"),
            (self.step(part={"x": 0, "y": 0, "w": 50, "h": 50}), "built-in"),
            (self.step(release=""), "say which release"),
            ({"tool": "", "steps": []}, ""),
        ):
            answer = self.owner.post(self.contenders, {"steps": [wrong]}, JSON)
            self.assertEqual(answer.status_code, 400, wrong)
            self.assertIn(words, answer.content.decode())

    def test_only_an_owner_says_how_a_release_is_run_and_only_by_an_allowed_program(self) -> None:
        address = f"/api/releases/{self.release['id']}/command"
        answer = self.owner.put(address, COMMAND | {"program": "not-there"}, JSON)
        self.assertEqual(answer.status_code, 400)
        self.assertIn("not among the allowed programs", answer.json()["detail"])
        allow("lift", "#!/bin/sh\n")
        self.assertEqual(self.client_of("editor").put(address, COMMAND, JSON).status_code, 403)
        self.assertTrue(self.owner.put(address, COMMAND, JSON).json()["runs"])
        self.assertEqual(
            self.owner.put(address, COMMAND | {"program": "../lift"}, JSON).status_code, 400
        )
        self.assertIn("lift", self.owner.get("/api/programs").json()["programs"])

    def test_what_is_used_stays_and_names_are_given_once(self) -> None:
        self.owner.post(self.contenders, {"steps": [self.step()]}, JSON)
        self.assertEqual(self.owner.delete(f"/api/tools/{self.tool['id']}").status_code, 409)
        self.assertEqual(self.owner.delete(f"/api/releases/{self.release['id']}").status_code, 409)
        self.assertEqual(self.owner.post("/api/tools", FACTS, JSON).status_code, 409)
        self.assertEqual(
            self.client_of("stranger").get(f"/api/tools/{self.tool['id']}").status_code, 404
        )

    def test_a_treatment_is_kept_for_reuse_and_replaced_under_its_name(self) -> None:
        for scale in (2, 4):
            told = {
                "name": " Big  print ",
                "treatment": {
                    "steps": [self.step(("scale", scale)), {"tool": "", "method": "unsharp"}]
                },
            }
            answer = self.owner.post("/api/treatments", told, JSON)
            self.assertEqual(answer.status_code, 400)  # a step without a tool's name
            told["treatment"]["steps"][1]["tool"] = "Unsharp mask"
            self.owner.post("/api/treatments", told, JSON)
        (kept,) = self.owner.get("/api/treatments").json()
        self.assertEqual(kept["name"], "Big print")
        self.assertTrue(
            kept["words"].startswith(
                "Tarnlift 1.8, scale 4 x, texture none, faces off, then Unsharp mask, gain 1 x"
            )
        )
        self.assertEqual(self.owner.delete(f"/api/treatments/{kept['id']}").status_code, 204)
        self.assertEqual(self.owner.get("/api/treatments").json(), [])

    def test_a_family_is_entered_in_one_go_once(self) -> None:
        study = self.contenders.removesuffix("/contenders")
        sweep = {
            "treatment": {"steps": [self.step()]},
            "kind": "sweep",
            "step": 0,
            "name": "scale",
            "values": [2, 3, 4],
        }
        self.assertEqual(
            len(self.owner.post(f"{study}/families", sweep | {"dry": True}, JSON).json()["words"]),
            3,
        )
        first = self.owner.post(f"{study}/families", sweep, JSON).json()["entered"]
        self.assertEqual(len(first), 3)
        self.assertEqual(self.owner.post(f"{study}/families", sweep, JSON).json()["entered"], [])
        told = self.owner.get(f"/api/contenders/{first[0]}/against/{first[2]}").json()
        self.assertEqual(told, [{"where": "", "what": "scale", "left": "2 x", "right": "4 x"}])
        out_of_bounds = self.owner.post(f"{study}/families", sweep | {"values": [2, 20]}, JSON)
        self.assertEqual(out_of_bounds.status_code, 400)
        self.assertEqual(len(self.owner.get(study).json()["contenders"]), 5)
