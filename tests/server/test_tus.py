"""The tus protocol 1.0.0, as https://tus.io/protocols/resumable-upload tells it, header by
header.
"""

from __future__ import annotations

import base64
import hashlib
import json
import uuid
from typing import Any

from glenhail.server.material.models import Frame
from glenhail.server.storage.models import Upload
from tests.server.base import ServerTest, tiff, work

JSON = "application/json"
OFFSET = "application/offset+octet-stream"
TUS = {"Tus-Resumable": "1.0.0"}


def b64(raw: bytes) -> str:
    return base64.b64encode(raw).decode()


class Tus(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.raw = tiff("frame")

    def created(self, delivery: Any = None, **headers: str) -> Any:
        told = json.dumps(delivery or {"kind": "frame"}).encode()
        meta = f"filename {b64(b'mill.tif')},delivery {b64(told)}"
        asked = {**TUS, "Upload-Length": str(len(self.raw)), "Upload-Metadata": meta, **headers}
        return self.owner.post("/api/uploads/tus", headers=asked)

    def patch(self, address: str, offset: int, piece: bytes, **headers: str) -> Any:
        told = {**TUS, "Upload-Offset": str(offset), **headers}
        return self.owner.patch(address, piece, OFFSET, headers=told)

    def offset(self, address: str) -> str:
        return str(self.owner.head(address, headers=TUS).headers["Upload-Offset"])

    def test_what_the_server_is_able_to_is_told_to_anybody(self) -> None:
        answer = self.client.options("/api/uploads/tus")
        self.assertEqual(answer.status_code, 204)
        self.assertEqual(answer.headers["Tus-Version"], "1.0.0")
        able = set(answer.headers["Tus-Extension"].split(","))
        self.assertEqual(able, {"creation", "checksum", "termination"})
        self.assertIn("sha1", answer.headers["Tus-Checksum-Algorithm"].split(","))

    def test_a_file_is_created_sent_in_pieces_and_taken_in(self) -> None:
        answer = self.created()
        self.assertEqual(answer.status_code, 201)
        address = answer.headers["Location"]
        told = self.owner.head(address, headers=TUS)
        self.assertEqual(told.headers["Upload-Length"], str(len(self.raw)))
        self.assertEqual(told.headers["Cache-Control"], "no-store")
        middle = 100_000
        first = self.patch(address, 0, self.raw[:middle])
        self.assertEqual((first.status_code, first.headers["Upload-Offset"]), (204, str(middle)))
        self.assertEqual(first.headers["Tus-Resumable"], "1.0.0")
        self.assertEqual(self.patch(address, 5, b"x").status_code, 409)
        self.assertEqual(self.offset(address), str(middle))
        self.patch(address, middle, self.raw[middle:])
        finished = self.owner.post(address.replace("/bytes", "/finish")).json()
        self.assertEqual(finished["state"], "done")
        work()
        self.assertEqual(Frame.objects.get().file_name, "mill.tif")

    def test_a_damaged_piece_is_told_and_nothing_of_it_is_kept(self) -> None:
        address = self.created().headers["Location"]
        for kind in ("sha1", "sha256"):
            with self.subTest(kind):
                start = int(self.offset(address))
                piece = self.raw[start : start + 5000]
                right = f"{kind} {b64(hashlib.new(kind, piece).digest())}"
                torn = self.patch(address, start, piece[:-1] + b"?", **{"Upload-Checksum": right})
                self.assertEqual(
                    (torn.status_code, "damaged" in torn.json()["detail"]), (460, True)
                )
                self.assertEqual(self.offset(address), str(start))
                whole = self.patch(address, start, piece, **{"Upload-Checksum": right})
                self.assertEqual(whole.headers["Upload-Offset"], str(start + 5000))

    def test_what_is_asked_wrongly_is_refused_in_words(self) -> None:
        address = self.created().headers["Location"]
        cases: dict[str, tuple[Any, int]] = {
            "another version": (
                self.owner.head(address, headers={"Tus-Resumable": "0.2.2"}),
                412,
            ),
            "no version": (self.owner.head(address), 412),
            "no number": (self.patch(address, 0, b"x", **{"Upload-Offset": "-1"}), 400),
            "no end": (self.patch(address, 0, b"x", **{"Upload-Offset": "9" * 5000}), 400),
            "another sum": (self.patch(address, 0, b"x", **{"Upload-Checksum": "md4 eA=="}), 400),
            "no base64": (self.patch(address, 0, b"x", **{"Upload-Checksum": "sha1 ?"}), 400),
            "another kind": (
                self.owner.patch(
                    address, b"x", "text/plain", headers={**TUS, "Upload-Offset": "0"}
                ),
                415,
            ),
            "more than announced": (self.patch(address, 0, self.raw + b"x"), 400),
            "no length": (self.created(**{"Upload-Length": "many"}), 400),
            "no purpose": (self.created(**{"Upload-Metadata": "filename bWlsbA=="}), 400),
            "no such purpose": (self.created({"kind": "moon"}), 400),
            "odd words": (self.created(**{"Upload-Metadata": "filename ???"}), 400),
        }
        for name, (answer, status) in cases.items():
            with self.subTest(name):
                self.assertEqual(answer.status_code, status)
        self.assertEqual(self.offset(address), "0")

    def test_it_is_its_senders_own_and_can_be_given_up(self) -> None:
        address = self.created().headers["Location"]
        for name, status in (("stranger", 404), ("editor", 404)):
            answer = self.client_of(name).head(address, headers=TUS)
            self.assertEqual(answer.status_code, status, name)
        missing = f"/api/uploads/{uuid.uuid4()}/bytes"
        self.assertEqual(self.owner.head(missing, headers=TUS).status_code, 404)
        self.assertEqual(self.client.head(address, headers=TUS).status_code, 401)
        self.assertEqual(self.owner.delete(address, headers=TUS).status_code, 204)
        self.assertFalse(Upload.objects.filter(state="open").exists())
        meta = "filename eA==,delivery " + b64(json.dumps({"kind": "frame"}).encode())
        asked = {**TUS, "Upload-Length": "5", "Upload-Metadata": meta}
        refused = self.client_of("viewer").post("/api/uploads/tus", headers=asked)
        self.assertEqual(refused.status_code, 403)
