"""Every call of the OpenAPI document as every role: who may, who may not, and who must
not even learn that it is there.
"""

from __future__ import annotations

import json
import re
import uuid
from datetime import timedelta
from typing import Any

from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.utils import timezone

from glenhail.core.plans.plan import Plan, as_toml
from glenhail.server.accounts.models import Role, Token
from glenhail.server.accounts.permissions import ORDER
from glenhail.server.hooks.models import Event, Hook
from glenhail.server.jobs.models import Job, State
from glenhail.server.judging.keys import LINK, SEAT, key_of
from glenhail.server.judging.models import Judge, Remark, Sitting, SittingLink
from glenhail.server.material.models import Body, Scene, Target
from glenhail.server.measuring.models import Reading
from glenhail.server.outputs.models import Folder, FolderFile, Output, StudyPlan
from glenhail.server.publishing.models import Comment, Correction, Edition, Report, ReportVersion
from glenhail.server.storage.models import Upload
from glenhail.server.studies.models import OwnUse
from glenhail.server.tools.models import Tool, Treatment
from tests.server.base import ServerTest, tiff, work
from tests.server.test_hostile_calls import DOCUMENT, JSON, operations

OURS = (
    "accounts",
    "jobs",
    "storage",
    "material",
    "tools",
    "studies",
    "outputs",
    "measuring",
    "sensors",
    "inquiries",
    "audit",
    "judging",
    "publishing",
)
# Where a body that fits the document's shapes alone makes no sense.
STEPS = [{"tool": "Sedgewash", "release": "3.0", "mode": "", "strength": 50, "settings": []}]
TREATMENT = {"steps": STEPS, "feed": "16-bit TIFF"}
RECIPE = {
    "recipe": {"steps": [{"kind": "gaussian_blur", "sigma": 1.0, "light": "linear"}], "seed": 1}
}
SHEET = {"name": "Wall", "sheet": {"width": 900, "height": 640, "fields": [{"kind": "edges"}]}}
TOOL = {
    "name": "Sedgewash",
    "kind": "denoise",
    "maker": "",
    "licence": "",
    "platforms": [],
    "ways": [],
    "takes": "any",
    "largest": None,
    "batch": None,
    "notes": "",
    "disclosure": "",
    "prices": [],
}
BODIES: dict[str, Any] = {
    "correction_add": {"edition": 1, "block": "answer", "text": "It was B."},
    "contender_change": TREATMENT,
    "contender_enter": TREATMENT,
    "treatment_keep": {"name": "Softer", "treatment": TREATMENT},
    "family_enter": {
        "treatment": TREATMENT,
        "kind": "sweep",
        "step": 0,
        "name": "strength",
        "values": [20, 40],
    },
    "frame_degrade": RECIPE,
    "degrade_preview": RECIPE | {"x": 9, "y": 9},
    "target_make": SHEET,
    "target_preview": SHEET,
    "hook_add": {"address": "https://build.example.org/x", "events": ["readings ready"]},
    "tool_write": TOOL | {"name": "Keenfold"},
    "tool_change": TOOL,
}
EMPTY = {"summary": "", "method": "", "disclosure": "", "blocks": []}
QUERIES = {
    "standings_list": {"measure": "psnr"},
    "tradeoff_read": {"x": "psnr", "y": "ssim"},
    "summary_list": {"by": "role", "measure": "psnr"},
}
ANYONE = {
    "invitation_read",
    "invitation_take",
    "join",
    "password_reset",
    # A seat's key is all it takes.
    "seat_answer",
    "seat_picture",
    "seat_place",
    "seat_read",
    "seat_screen",
    "session_begin",
    "session_end",
    "session_read",
}
# What takes more than looking, apart from reading; calls that only read or compute take a viewer.
OWNERS = {
    "command_set",
    "command_take_away",
    # Of somebody else's.
    "comment_remove",
    "edition_publish",
    "edition_withdraw",
    "hook_add",
    "hook_remove",
    "hook_try",
    "hooks_list",
    "people_list",
    "person_change",
    "person_invite",
    "person_offer_password",
    "person_shut_out",
    "storage_read",
    "study_remove",
    "trail_read",
}
VIEWERS = {
    "degrade_preview",
    "target_preview",
    "password_change",
    "session_end_other",
    "sitting_seat",
    "token_end",
    "token_make",
}
OFFSET = "application/offset+octet-stream"
# What the protocol of uploads wants in its headers; others do not look.
TUS = {
    "Tus-Resumable": "1.0.0",
    "Upload-Offset": "0",
    "Upload-Length": "9",
    "Upload-Metadata": "filename eA==,delivery eyJraW5kIjogImZyYW1lIn0=",
}
# One's own, which nobody else has, whatever the role.
OWN = {
    "session_end_other",
    "token_end",
    "upload_discard",
    "upload_finish",
    "tus_piece",
    "tus_discard",
}


def least(name: str, method: str) -> Role | None:
    """The role that a call takes; None for none."""
    if name in ANYONE:
        return None
    if name in OWNERS:
        return Role.OWNER
    return Role.VIEWER if method == "get" or name in VIEWERS else Role.EDITOR


def plain(shape: dict[str, Any], known: dict[str, Any], name: str = "") -> Any:
    """The plainest value that fits a shape."""
    if "$ref" in shape:
        return plain(
            DOCUMENT["components"]["schemas"][shape["$ref"].rpartition("/")[2]], known, name
        )
    for key in ("allOf", "oneOf", "anyOf"):
        if key in shape:
            return plain(shape[key][0], known, name)
    if "enum" in shape:
        return shape["enum"][0]
    kind = shape.get("type", "object")
    if kind == "object":
        return {k: plain(v, known, k) for k, v in shape.get("properties", {}).items()}
    if kind == "array":
        return [plain(shape["items"], known, name)] * shape.get("minItems", 1)
    if kind in ("integer", "number"):
        of = {"frames": "frame", "base": "frame"}.get(name, name)
        return known.get(f"{of}_id", 60)
    if kind == "boolean":
        return True
    words = {
        "date": "2026-11-27",
        "date-time": "2030-01-01T00:00:00Z",
        "email": "a@example.org",
    }.get(shape.get("format", ""), "words")
    return words[: shape.get("maxLength")]


class EveryCall(ServerTest):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.make_study()
        work()
        self.known = self.everything_there_is()

    def everything_there_is(self) -> dict[str, Any]:
        """One of everything that an address can name, all of the owner's bench."""
        frame = self.study.study_frames.get().frame
        contender = self.study.contenders.get(letter="A")
        output = Output.objects.get(contender=contender)
        tool = Tool.objects.filter(bench=self.bench).exclude(releases__method__gt="").first()
        assert tool is not None
        folder = Folder.objects.create(study=self.study, name="Outputs")
        file = FolderFile.objects.create(folder=folder, path="a.tif", picture=output.picture)
        owner = self.users["owner"]
        upload = Upload.objects.create(
            id=uuid.uuid4(),
            bench=self.bench,
            actor=owner,
            name="a.tif",
            size=9,
            delivery={"kind": "frame"},
        )
        job = Job.objects.create(
            kind="measure",
            key="x",
            label="x",
            bench=self.bench,
            arguments={"output": output.pk},
            state=State.FAILED,
        )
        token = Token.objects.create(
            bench=self.bench, user=owner, name="t", scope=Role.OWNER, token_hash="x"
        )
        treatment = Treatment.objects.create(bench=self.bench, saved_as="Soft")
        found = {
            "study": self.study,
            "frame": frame,
            "contender": contender,
            "other": contender,
            "output": output,
            "one": output,
            "two": output,
            "remark": Remark.objects.create(
                study=self.study, frame=frame, number=1, x=9, y=9, kind="halo", of_all=True
            ),
            "use": OwnUse.objects.create(
                bench=self.bench, name="Poster", width=99, height=99, ppi=99, distance_cm=99
            ),
            "tool": tool,
            "patch": self.study.patches.get(),
            "reading": Reading.objects.filter(output=output).first(),
            "folder": folder,
            "file": file,
            "upload": upload,
            "job": job,
            "token": token,
            "hook": Hook.objects.create(
                bench=self.bench, address="https://build.example.org/y", events=[Event.READINGS]
            ),
            "treatment": treatment,
            "picture": output.picture,
            "body": Body.objects.create(
                bench=self.bench,
                name="Quill",
                width_mm=36,
                height_mm=24,
                width=6000,
                height=4000,
                cfa="RGGB",
            ),
            "scene": Scene.objects.create(bench=self.bench, name="Yard"),
            "release": tool.releases.get(),
            "user": self.users["viewer"],
            "target": Target.objects.create(
                bench=self.bench,
                name="Sheet",
                number=1,
                sheet={"width": 800, "height": 800, "fields": [{"kind": "edges"}]},
            ),
        }
        sitting = Sitting.objects.create(
            study=self.study,
            number=1,
            question="Which?",
            kind="pairs",
            state="closed",
            count=1,
            seed=1,
            contenders=[],
            spots=[],
            showing={"zoom": 1, "use_name": "", "beside": "", "matched": False},
        )
        ends = timezone.now() + timedelta(days=1)
        link = SittingLink.objects.create(sitting=sitting, most=1, ends=ends)
        seat = Judge.objects.create(sitting=sitting, number=1, link=link, places=[])
        found |= {"sitting": sitting, "sitting_link": link}
        report = Report.objects.create(study=self.study, slug="walked")
        wrong = Correction.objects.create(report=report, edition=1, where="Answer", text="x")
        StudyPlan.objects.create(study=self.study, text=as_toml(Plan("Again?")), name="plan.toml")
        comment = Comment.objects.create(report=report, text="x", author=owner)
        version = ReportVersion.objects.create(report=report, texts=EMPTY)
        # One number in an address names either.
        Edition.objects.create(report=report, number=wrong.pk)
        ids = {f"{name}_id": row.pk for name, row in found.items() if row is not None}
        return {
            **ids,
            "session_id": "none",
            "key": "0" * 20,
            "seat_key": key_of(SEAT, seat.pk),
            "link_key": key_of(LINK, link.pk),
            "place": 0,
            "spot": 0,
            "letter": "A",
            "which": "0",
            "x": 0,
            "y": 0,
            "w": 9,
            "h": 9,
            "level": 0,
            "column": 0,
            "row": 0,
            "ending": "tif",
            "finding": "exposure",
            "offset": 0,
            "number": wrong.pk,
            "name": "report.css",
            "shown": "map",
            "version_id": version.pk,
            "comment_id": comment.pk,
        }

    def send(self, client: Client, path: str, method: str, operation: dict[str, Any]) -> Any:
        address = re.sub(r"\{(\w+)\}", lambda m: str(self.known[m.group(1)]), path)
        content = operation.get("requestBody", {}).get("content", {})
        body: dict[str, Any] = {}
        if JSON in content:
            told = BODIES.get(operation["operationId"]) or plain(
                content[JSON]["schema"], self.known
            )
            body = {"data": json.dumps(told, default=str), "content_type": JSON}
        elif OFFSET in content:
            body = {"data": b"123456789", "content_type": OFFSET}
        elif "multipart/form-data" in content:
            file = SimpleUploadedFile("a.tif", tiff("other"))
            if operation["operationId"] == "plan_take":
                file = SimpleUploadedFile("plan.toml", as_toml(Plan("Again?")).encode())
            body = {"data": {"file": file}}
            if method == "put":
                body = {"data": b"", "content_type": "multipart/form-data; boundary=x"}
        query = QUERIES.get(operation["operationId"])
        return getattr(client, method)(
            address, headers=TUS, **({"query_params": query} if query else {}), **body
        )

    def ways(self) -> dict[str, Client]:
        """Everybody who may come: by session, and by an owner's token of each scope."""
        found = {"nobody": Client(), "stranger": self.client_of("stranger")}
        for role in ORDER:
            found[role.value] = self.client_of(role.value)
        return found

    def test_who_may_do_what(self) -> None:
        calls = operations()
        # What takes things away last, so that others find them.
        calls.sort(
            key=lambda c: (
                c[1] == "delete",
                c[0].count("/"),
                c[2]["operationId"] in ("session_end", "password_change"),
            )
        )
        names = {operation["operationId"] for _, _, operation in calls}
        self.assertLessEqual(ANYONE | OWNERS | VIEWERS | OWN | set(BODIES) | set(QUERIES), names)
        for who, client in self.ways().items():
            for path, method, operation in calls:
                name = operation["operationId"]
                if name == "session_end" or (name == "person_shut_out" and who == "owner"):
                    continue  # each would end this walk
                with self.subTest(f"{name} by {who}"):
                    answer = self.send(client, path, method, operation)
                    self.assertIn(
                        answer.status_code,
                        self.allowed(name, method, "{" in path, who),
                        getattr(answer, "content", b"")[:300],
                    )

    def allowed(self, name: str, method: str, of_bench: bool, who: str) -> range | tuple[int, ...]:
        """What a call may be answered with."""
        needed = least(name, method)
        fine = (200, 201, 202, 204, 400, 404, 405, 409, 412, 503)
        if needed is None:
            return (*fine, 403, 429)  # a wrong password, and too many of them
        if who == "nobody":
            return (401,)
        if who == "stranger":
            # Of another bench, where they are an owner: what is named by a number is not there; the
            # rest is about their own.
            return (404,) if of_bench and name != "upload_begin" else fine
        if name in OWN and who != "owner":
            return (404,)
        if ORDER.index(Role(who)) < ORDER.index(needed):
            return (403,)
        return fine

    def test_what_may_not_be_done_changes_nothing(self) -> None:
        before = self.picture_of_everything()
        for who in ("nobody", "stranger", "viewer"):
            client = self.ways()[who]
            for path, method, operation in operations():
                needed = least(operation["operationId"], method)
                below = (
                    who == "nobody"
                    or (who == "viewer" and needed in (Role.EDITOR, Role.OWNER))
                    or (who == "stranger" and "{" in path)
                )
                if method != "get" and needed is not None and below:
                    self.send(client, path, method, operation)
        self.assertEqual(self.picture_of_everything(), before)

    def picture_of_everything(self) -> dict[str, list[dict[str, Any]]]:
        return {
            m._meta.label: list(m._base_manager.order_by("pk").values())
            for m in apps.get_models()
            if m._meta.app_label in OURS
        }

    def test_a_token_reaches_as_far_as_its_scope(self) -> None:
        for scope in ORDER:
            text = self.owner.post("/api/tokens", {"name": "t", "scope": scope}, JSON).json()[
                "token"
            ]
            client = Client(headers={"Authorization": f"Bearer {text}"})
            for path, method, operation in operations():
                name = operation["operationId"]
                needed = least(name, method)
                if (
                    needed is None
                    or method == "delete"
                    or ORDER.index(needed) <= ORDER.index(scope)
                ):
                    continue
                with self.subTest(f"{name} with {scope}"):
                    self.assertEqual(self.send(client, path, method, operation).status_code, 403)
