"""Files in pieces: whatever breaks them off, they arrive whole, once."""

from __future__ import annotations

import io
import uuid
from datetime import timedelta
from typing import Any

from django.test import Client
from django.utils import timezone

from glenhail.server.accounts.permissions import membership
from glenhail.server.common.errors import ActionError
from glenhail.server.material.models import Frame
from glenhail.server.outputs.models import Output
from glenhail.server.storage import uploads
from glenhail.server.storage.models import StoredFile, Upload
from tests.server.base import ServerTest, tiff, work

JSON = "application/json"
OFFSET = "application/offset+octet-stream"
TUS = {"Tus-Resumable": "1.0.0"}


class BreakingOff(io.BytesIO):
    """A connection that is lost after some bytes."""

    def __init__(self, raw: bytes, after: int) -> None:
        super().__init__(raw[:after])

    def read(self, size: int | None = -1, /) -> bytes:
        piece = super().read(size)
        if not piece:
            raise OSError("connection lost")
        return piece


class Pieces(ServerTest):
    def begin(
        self,
        raw: bytes,
        delivery: dict[str, Any],
        client: Client | None = None,
        name: str = "a.tif",
    ) -> tuple[str, Any]:
        address = f"/api/uploads/{uuid.uuid4()}"
        body = {"name": name, "size": len(raw), "delivery": delivery}
        return address, (client or self.owner).put(address, body, JSON)

    def piece(
        self,
        address: str,
        raw: bytes,
        start: int,
        end: int,
        headers: dict[str, str] | None = None,
    ) -> Any:
        return self.owner.patch(
            f"{address}/bytes",
            raw[start:end],
            OFFSET,
            headers={**TUS, "Upload-Offset": str(start), **(headers or {})},
        )

    def send(self, raw: bytes, delivery: dict[str, Any], name: str = "a.tif") -> dict[str, Any]:
        address, _ = self.begin(raw, delivery, name=name)
        self.piece(address, raw, 0, len(raw))
        return dict(self.owner.post(f"{address}/finish").json())

    def test_a_file_in_pieces_arrives_whole_and_once_whatever_is_asked_twice(self) -> None:
        raw = tiff("frame")
        address, answer = self.begin(raw, {"kind": "frame"})
        self.assertEqual(answer.json()["received"], 0)
        self.assertEqual(self.piece(address, raw, 0, 70_000).headers["Upload-Offset"], "70000")
        out_of_step = self.piece(address, raw, 60_000, 90_000)
        self.assertEqual(
            (out_of_step.status_code, "70,000 bytes have arrived" in out_of_step.json()["detail"]),
            (409, True),
        )
        early = self.owner.post(f"{address}/finish")
        self.assertEqual((early.status_code, "70,000 of" in early.json()["detail"]), (409, True))
        again = self.owner.put(
            address, {"name": "a.tif", "size": len(raw), "delivery": {"kind": "frame"}}, JSON
        )
        self.assertEqual(again.json()["received"], 70_000)
        self.assertEqual([u["received"] for u in self.owner.get("/api/uploads").json()], [70_000])
        self.piece(address, raw, 70_000, len(raw))
        first, second = (self.owner.post(f"{address}/finish").json() for _ in range(2))
        self.assertEqual((first["state"], first["result"]["known"]), ("done", None))
        self.assertEqual(second["result"], first["result"])
        self.assertEqual(StoredFile.objects.get().size, len(raw))
        self.assertFalse(uploads.part_path(Upload.objects.get()).exists())
        work()
        self.assertEqual(Frame.objects.get().picture.state, "ready")
        self.assertEqual(self.send(raw, {"kind": "frame"}, "b.tif")["result"]["known"], "a")

    def test_what_arrived_before_the_connection_was_lost_counts(self) -> None:
        raw = tiff("frame")
        self.begin(raw, {"kind": "frame"})
        upload = Upload.objects.get()
        actor = self.users["owner"]
        upload = uploads.add_piece(actor, upload, 0, BreakingOff(raw, 50_001))
        self.assertEqual(upload.received, 50_001)
        # A server killed between the bytes and the row leaves more on the disk than it wrote down;
        # the piece comes again.
        with uploads.part_path(upload).open("ab") as part:
            part.write(b"torn")
        upload = uploads.add_piece(actor, upload, 50_001, io.BytesIO(raw[50_001:]))
        self.assertEqual(uploads.finish(actor, upload).state, "done")
        self.assertEqual(StoredFile.objects.get().size, len(raw))
        # A lost disk is noticed: the file begins anew.
        self.begin(raw, {"kind": "frame"})
        upload = Upload.objects.get(state="open")
        uploads.add_piece(actor, upload, 0, io.BytesIO(raw[:9000]))
        uploads.part_path(upload).unlink()
        upload.refresh_from_db()
        self.assertEqual(uploads.add_piece(actor, upload, 9000, io.BytesIO(raw[9000:])).received, 0)
        uploads.add_piece(actor, upload, 0, io.BytesIO(raw))
        uploads.part_path(upload).unlink()
        self.assertEqual(self.owner.post(f"/api/uploads/{upload.pk}/finish").status_code, 409)
        upload.refresh_from_db()
        self.assertEqual(upload.received, 0)

    def test_a_file_reaches_what_it_is_for_or_tells_why_not(self) -> None:
        study = self.make_study()
        frame, contender = Frame.objects.get(), study.contenders.get(letter="A")
        self.send(
            tiff("double"),
            {"kind": "output", "contender": contender.pk, "frame": frame.pk},
            "A_2x.tif",
        )
        self.assertEqual(Output.objects.get(contender=contender).file_name, "A_2x.tif")
        self.send(tiff("other"), {"kind": "study frame", "study": study.pk}, "other.tif")
        self.assertEqual(study.study_frames.count(), 2)
        refused = self.send(tiff("frame"), {"kind": "truth", "frame": frame.pk})
        self.assertEqual(
            (refused["state"], "is the frame itself" in refused["problem"]), ("refused", True)
        )
        for size, delivery, words in (
            (0, {"kind": "frame"}, "empty"),
            (5_000_000_000, {"kind": "frame"}, "larger than"),
            (10, {"kind": "truth", "frame": 99_999}, "no such frame"),
            (10, {"kind": "truth"}, "for which frame"),
            (10, {"kind": "gift"}, "kind"),
        ):
            with self.subTest(words):
                body = {"name": "x.tif", "size": size, "delivery": delivery}
                self.assertIn(
                    words,
                    self.owner.put(f"/api/uploads/{uuid.uuid4()}", body, JSON).json()["detail"],
                )
        with self.assertRaisesRegex(ActionError, "more bytes came"):
            uploads.add_piece(self.users["owner"], self._open(b"12345"), 0, io.BytesIO(b"123456"))

    def _open(self, raw: bytes) -> Upload:
        owner = self.users["owner"]
        return uploads.begin(
            owner, membership(owner).bench, uuid.uuid4(), "x.tif", len(raw), {"kind": "frame"}
        )

    def test_uploads_are_their_senders_own_and_unfinished_ones_are_forgotten_after_a_week(
        self,
    ) -> None:
        raw = tiff("frame")
        address, _ = self.begin(raw, {"kind": "frame"}, self.client_of("editor"))
        self.assertEqual(self.piece(address, raw, 0, 10).status_code, 404)
        self.assertEqual(self.owner.delete(address).status_code, 404)
        self.assertEqual(
            self.begin(raw, {"kind": "frame"}, self.client_of("viewer"))[1].status_code, 403
        )
        given_up = self._open(raw)
        self.assertEqual(self.owner.delete(f"/api/uploads/{given_up.pk}").status_code, 204)
        old = self._open(raw)
        uploads.add_piece(self.users["owner"], old, 0, io.BytesIO(raw[:100]))
        Upload.objects.filter(pk=old.pk).update(touched=timezone.now() - timedelta(days=8))
        self.assertEqual(uploads.forget_old(), 1)
        self.assertFalse(uploads.part_path(old).exists())
        self.assertEqual(Upload.objects.count(), 1)
