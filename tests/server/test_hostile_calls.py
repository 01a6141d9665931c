"""Whatever is sent to any call of the OpenAPI document, by whomever, the server
answers: nothing it did not foresee.
"""

from __future__ import annotations

import json
import re
import uuid
from pathlib import Path
from typing import Any

import numpy as np
import yaml
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from glenhail.server.material.models import Frame
from tests.seeds import drawn
from tests.server.base import ServerTest, work

DOCUMENT = yaml.safe_load((Path(__file__).resolve().parents[2] / "openapi.yaml").read_text())
JSON = "application/json"
OFFSET = "application/offset+octet-stream"
METHODS = ("get", "post", "put", "patch", "delete")
STRANGE_TEXTS = (
    "",
    " ",
    "²",
    "None",
    "-1",
    "0",
    "1e999",
    "../../etc/passwd",
    "=1+1",
    "a" * 5000,
    "\u202e",
    "💡",
    "'; DROP TABLE x; --",
    "\r\nX: y",
    "--output=/tmp/x",
    "%s%n",
    "a\x00b",
    "\ud800",
    "<script>",
    "{}",
    "NaN",
    "∞",
)
STRANGE_NUMBERS = (0, -1, 1, 2**31, 2**63, 2**64, -(2**63), 10**30, 0.5, 1e308, -1e-308)
STRANGE: tuple[Any, ...] = (
    *STRANGE_TEXTS,
    *STRANGE_NUMBERS,
    None,
    True,
    [],
    {},
    [[]],
    [None],
    {"": {}},
    [[[[[[]]]]]],
)
RAW = (
    b"",
    b"[",
    b'{"a":',
    b"\xff\xfe",
    b"[" * 100_000,
    b"NaN",
    b"[1e999]",
    b'"\\ud800"',
    b'"\\u0000"',
    b"null",
    b"[]",
    b"1",
)


def operations() -> list[tuple[str, str, dict[str, Any]]]:
    return [
        (path, m, op)
        for path, item in DOCUMENT["paths"].items()
        for m, op in item.items()
        if m in METHODS
    ]


class Hostile:
    """Values by the document's shapes, some of them as they should be and some as they
    should not.
    """

    def __init__(self, rng: np.random.Generator, known: dict[str, int]) -> None:
        self.rng, self.known = rng, known

    def one(self, values: Any) -> Any:
        return values[int(self.rng.integers(len(values)))]

    def address(self, path: str) -> str:
        def filled(match: re.Match[str]) -> str:
            name = match.group(1)
            if "upload" in name:
                return str(uuid.uuid4())
            if self.rng.random() < 0.8 and name in self.known:
                return str(self.known[name])
            return str(self.one((0, 99_999, 2**63, 2**80)))

        return re.sub(r"\{(\w+)\}", filled, path)

    def value(self, shape: dict[str, Any], name: str = "", depth: int = 0) -> Any:
        if self.rng.random() < 0.12 or depth > 6:
            return self.one(STRANGE)
        if "$ref" in shape:
            return self.value(
                DOCUMENT["components"]["schemas"][shape["$ref"].rpartition("/")[2]], name, depth + 1
            )
        for key in ("allOf", "oneOf", "anyOf"):
            if key in shape:
                return self.value(self.one(shape[key]), name, depth + 1)
        if "enum" in shape:
            return self.one(shape["enum"])
        kind = shape.get("type", "object")
        if kind == "object":
            told = {
                k: self.value(v, k, depth + 1)
                for k, v in shape.get("properties", {}).items()
                if self.rng.random() < 0.9
            }
            return told if self.rng.random() < 0.95 else {**told, self.one(STRANGE_TEXTS): 1}
        if kind == "array":
            return [
                self.value(shape.get("items", {}), name, depth + 1)
                for _ in range(int(self.rng.integers(0, 4)))
            ]
        if kind in ("integer", "number"):
            known = self.known.get(name, self.known.get(f"{name}_id"))
            return (
                known
                if known is not None and self.rng.random() < 0.7
                else self.one((1, 20, 60, *STRANGE_NUMBERS))
            )
        if kind == "boolean":
            return bool(self.rng.integers(2))
        return self.one(("Sky", "flat", "tool", "1.0", "psnr", *STRANGE_TEXTS))

    def body(self, operation: dict[str, Any]) -> dict[str, Any]:
        """How Django's client is to send it."""
        content = operation.get("requestBody", {}).get("content", {})
        if "multipart/form-data" in content:
            data = self.one(
                (b"x", b"II*\0", self.rng.bytes(3000), b"\x89PNG\r\n\x1a\n" + self.rng.bytes(200))
            )
            name = self.one(
                ("a.tif", "../../a.tif", "a\x00.tif", "=1.tif", "x" * 400, "💡.png", "-rf.jpg")
            )
            return {"data": {"file": SimpleUploadedFile(name, data)}}
        if OFFSET in content:
            return {"data": self.rng.bytes(100), "content_type": OFFSET}
        if JSON not in content:
            return {}
        if self.rng.random() < 0.15:
            return {"data": self.one(RAW), "content_type": JSON}
        return {
            "data": json.dumps(self.value(content[JSON]["schema"])).encode(),
            "content_type": JSON,
        }


class HostileCalls(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()

    def known(self) -> dict[str, int]:
        contender = self.study.contenders.filter(letter="A").first()
        patch, frame = self.study.patches.first(), Frame.objects.first()
        found = {
            "study_id": self.study.pk,
            "frame_id": frame.pk if frame else 0,
            "contender_id": contender.pk if contender else 0,
            "patch_id": patch.pk if patch else 0,
            "picture_id": frame.picture_id if frame else 0,
            "level": 0,
            "column": 0,
            "row": 0,
        }
        return {**found, **{k.removesuffix("_id"): v for k, v in found.items()}}

    def send(
        self, client: Client, hostile: Hostile, path: str, method: str, operation: dict[str, Any]
    ) -> int:
        texts = [
            t for t in STRANGE_TEXTS if "\ud800" not in t
        ]  # no address can be written with one
        query = {
            p["name"]: str(hostile.one(texts))
            for p in operation.get("parameters", [])
            if p["in"] == "query"
        }
        address = hostile.address(path)
        if method == "get":
            return client.get(address, query).status_code
        call = getattr(client, method)
        return int(
            call(
                address, **hostile.body(operation), **({"query_params": query} if query else {})
            ).status_code
        )

    def test_nothing_is_unforeseen(self) -> None:
        clients = {
            name: self.client_of(name) for name in ("owner", "editor", "viewer", "stranger")
        } | {"nobody": Client()}
        for client in clients.values():
            client.raise_request_exception = False
        for label, rng in drawn(4):
            hostile = Hostile(rng, self.known())
            for path, method, operation in operations():
                name = str(rng.choice(list(clients), p=[0.6, 0.1, 0.1, 0.1, 0.1]))
                with self.subTest(f"{method} {path} by {name}, {label}"):
                    status = self.send(clients[name], hostile, path, method, operation)
                    self.assertTrue(status < 500 or status in (503, 507), status)

    def test_calls_that_once_broke_are_answered(self) -> None:
        deep, study = b"[" * 100_000 + b"]" * 100_000, f"/api/studies/{self.study.pk}"
        step = {"tool": "A", "release": "1", "mode": "", "strength": 60, "settings": []}
        family = {
            "treatment": {"steps": [step]},
            "kind": "setting",
            "step": 0,
            "name": "strength",
            "values": [[]],
        }
        self.owner.raise_request_exception = False
        calls = {
            "a digit that is none": lambda: self.owner.get("/api/tools/comparison", {"tools": "²"}),
            "NUL in an edition's address": lambda: self.owner.get("/reports/a/1/%00"),
            "a list as a setting": lambda: self.owner.post(f"{study}/families", family, JSON),
            "half a surrogate pair": lambda: self.owner.patch(
                study, b'{"question": "\\ud800", "factor": "tool"}', JSON
            ),
            "nested without end": lambda: self.owner.post("/api/studies", deep, JSON),
            "a number beyond all": lambda: self.owner.post(
                f"{study}/frames", {"frame": 10**30}, JSON
            ),
            "an upload given up twice": lambda: self.owner.delete(f"/api/uploads/{uuid.uuid4()}"),
        }
        for name, call in calls.items():
            with self.subTest(name):
                answer = call()
                self.assertIn(answer.status_code, (200, 400, 404), answer.content[:200])
