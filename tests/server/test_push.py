"""The public site on its way to readers: into a store, by rsync, broken off, withdrawn."""

from __future__ import annotations

import io
import shutil
import tempfile
import zipfile
from datetime import timedelta
from pathlib import Path
from typing import Any
from unittest import mock
from urllib.request import urlopen

import boto3
from botocore.exceptions import EndpointConnectionError
from django.conf import settings
from django.core.management import CommandError, call_command
from django.test import override_settings
from django.utils import timezone
from moto.server import ThreadedMotoServer

from glenhail.server.common.errors import ActionError
from glenhail.server.jobs.models import Job
from glenhail.server.publishing.models import Edition
from glenhail.server.publishing.pushing import push_after_embargoes
from glenhail.server.publishing.site import push
from glenhail.server.publishing.site.export import MARK
from glenhail.server.publishing.site.push import LIST, NotPushed, push_site
from tests.server.base import work
from tests.server.test_site import Site

TARGET = "s3://readers/mill"
KEYS = {
    "AWS_ACCESS_KEY_ID": "testing",
    "AWS_SECRET_ACCESS_KEY": "testing",
    "AWS_DEFAULT_REGION": "eu-central-1",
}


def silent(share: float, what: str) -> None:
    """Nobody is told."""


class Store(Site):
    """A store of its own for each test, as a program that talks over the network."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.enterClassContext(mock.patch.dict("os.environ", KEYS))
        cls.store = ThreadedMotoServer(port=0, verbose=False)
        cls.store.start()
        cls.addClassCleanup(cls.store.stop)
        cls.at = f"http://127.0.0.1:{cls.store.get_host_and_port()[1]}"

    def setUp(self) -> None:
        super().setUp()
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(override_settings(PUSH=TARGET, PUSH_S3=self.at, VAR=self.folder))
        urlopen(f"{self.at}/moto-api/reset", data=b"").close()
        self.client_s3 = boto3.client("s3", endpoint_url=self.at)
        self.client_s3.create_bucket(
            Bucket="readers", CreateBucketConfiguration={"LocationConstraint": "eu-central-1"}
        )

    def there(self) -> dict[str, Any]:
        pages = self.client_s3.get_paginator("list_objects_v2").paginate(Bucket="readers")
        return {e["Key"]: e for page in pages for e in page.get("Contents", [])}

    def got(self, name: str) -> Any:
        return self.client_s3.get_object(Bucket="readers", Key=f"mill/{name}")

    def exported(self) -> set[str]:
        site = self.folder / "site"
        return {str(p.relative_to(site)) for p in site.rglob("*") if p.is_file()} - {MARK}

    def test_every_file_gets_there_as_it_is_and_again_only_what_changed(self) -> None:
        edition = self.publish()
        self.assertEqual(self.jobs("push"), ["done"])
        names = self.exported()
        self.assertEqual({k.removeprefix("mill/") for k in self.there()}, {*names, LIST})
        for name in names:
            body = self.got(name)["Body"].read()
            self.assertEqual(body, (self.folder / "site" / name).read_bytes(), name)
        whole = self.got(f"{edition.folder}/everything.zip")["Body"].read()
        self.assertIsNone(zipfile.ZipFile(io.BytesIO(whole)).testzip())
        again = push_site(TARGET, silent)
        self.assertEqual((again.sent, again.kept, again.removed), (0, len(names), 0))
        # What somebody took away or spoilt there comes back.
        self.client_s3.delete_object(Bucket="readers", Key="mill/index.html")
        self.client_s3.put_object(Bucket="readers", Key="mill/feed.xml", Body=b"x")
        self.assertEqual(push_site(TARGET, silent).sent, 2)

    def test_browsers_are_told_what_each_file_is_and_how_long_it_stays(self) -> None:
        edition = self.publish()
        crop = next(f["name"] for f in edition.files if f["name"].startswith("crops/"))
        original = next(e["name"] for e in edition.manifest if "sha256" in e)
        cases = [
            ("index.html", "text/html; charset=utf-8", "no-cache"),
            (f"{edition.folder}/index.html", "text/html; charset=utf-8", "no-cache"),
            (f"{edition.folder}/{crop}", "image/png", "immutable"),
            (f"{edition.folder}/edition.pdf", "application/pdf", "no-cache"),
            (f"{edition.folder}/originals/{original}", "application/octet-stream", "no-cache"),
            ("assets/report.css", "text/css; charset=utf-8", "no-cache"),
        ]
        for name, kind, kept in cases:
            with self.subTest(name=name):
                told = self.got(name)
                self.assertEqual(told["ContentType"], kind)
                self.assertIn(kept, told["CacheControl"])
                self.assertEqual("ContentDisposition" in told, "/originals/" in name)

    def test_a_withdrawn_edition_goes_from_there_by_itself_and_nothing_of_others_does(self) -> None:
        edition = self.publish()
        for key in ("mill/own.html", "elsewhere/index.html"):
            self.client_s3.put_object(Bucket="readers", Key=key, Body=b"ours")
        self.assertEqual(self.withdraw(), 200)
        work()
        left = [k for k in self.there() if k.startswith(f"mill/{edition.folder}/")]
        self.assertEqual(left, [f"mill/{edition.folder}/index.html"])
        page = self.got(f"{edition.folder}/index.html")["Body"].read().decode()
        self.assertIn("The wrong file of A.", page)
        self.assertLessEqual({"mill/own.html", "elsewhere/index.html"}, set(self.there()))

    def test_what_is_broken_off_goes_on_and_no_page_leads_to_what_is_not_there(self) -> None:
        with override_settings(PUSH=""):
            self.publish()
        put, done = push._Store._put, []

        def breaking(store: Any, path: Path, name: str) -> None:
            if len(done) == 20:
                raise EndpointConnectionError(endpoint_url=self.at)
            put(store, path, name)
            done.append(name)

        with (
            mock.patch.object(push._Store, "_put", breaking),
            self.assertRaisesRegex(NotPushed, "Could not connect"),
        ):
            push_site(TARGET, silent)
        self.assertFalse([n for n in done if n.endswith("index.html")])
        after = push_site(TARGET, silent)
        self.assertEqual((after.kept, after.sent), (20, len(self.exported()) - 20))

    def test_a_place_that_can_not_be_reached_is_named(self) -> None:
        with override_settings(PUSH=""):
            self.publish()
        with (
            override_settings(PUSH_S3="http://127.0.0.1:9"),
            mock.patch.object(
                push, "PATIENCE", push.PATIENCE.merge(push.Config(retries={"max_attempts": 0}))
            ),
            self.assertRaisesRegex(NotPushed, "s3://readers/mill: .*127.0.0.1:9"),
        ):
            push_site(TARGET, silent)
        cases = [
            ("s3://nobody-s/x", "bucket does not exist"),
            ("s3:///x", "names no bucket"),
            (str(self.folder / "no" / "such" / "place"), "rsync.*No such file"),
        ]
        for target, why in cases:
            with self.subTest(target=target), self.assertRaisesRegex(NotPushed, why):
                push_site(target, silent)
        with (
            mock.patch.object(push.shutil, "which", return_value=None),
            self.assertRaisesRegex(ActionError, "needs the program rsync"),
        ):
            push_site("host:/srv/site", silent)
        # Asked for by an edition it is a job that says so, and the edition is there all the same.
        with override_settings(PUSH="s3://nobody-s/x"):
            self.publish("Again.")
        self.assertEqual(Edition.objects.count(), 2)
        failed = Job.objects.get(kind="push", state="failed")
        self.assertIn("bucket does not exist", failed.problem)

    def test_rsync_brings_the_same_and_takes_away_what_is_gone(self) -> None:
        to = self.folder / "host"
        with override_settings(PUSH=str(to)):
            edition = self.publish()
            self.assertEqual(self.jobs("push"), ["done"])
            self.assertEqual(self.files(to), self.files(self.folder / "site") - {MARK})
            (to / "their-own.html").write_text("Nothing of ours.")
            same = (to / edition.folder / "edition.json").read_bytes()
            self.assertEqual(
                same, (self.folder / "site" / edition.folder / "edition.json").read_bytes()
            )
            self.withdraw()
            work()
        self.assertEqual(
            {n for n in self.files(to) if n.startswith(edition.folder)},
            {f"{edition.folder}/index.html"},
        )
        self.assertTrue((to / "their-own.html").exists())

    def test_rsync_takes_names_as_they_are(self) -> None:
        site, to = self.folder / "site", self.folder / "host"
        names = ["plain", "a*b", "wh?t [1]", "back\\slash", "x/deep", "# no", "two  words", "ü"]
        export = mock.patch.object(push, "export_site", lambda folder, tell: None)
        for path in (site / name for name in names):
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text("ours")
        with export:
            push_site(str(to), silent)
            self.assertEqual(self.files(to), set(names))
            # What these would mean as patterns, and what lies beside ours.
            theirs = {"aXb", "what 1", "wh?t 1", "x/other"}
            for name in theirs:
                (to / name).write_text("theirs")
            shutil.rmtree(site)
            site.mkdir()
            self.assertEqual(push_site(str(to), silent).removed, len(names))
        self.assertEqual(self.files(to), theirs)

    def test_an_embargo_that_ends_brings_the_site_out_by_itself(self) -> None:
        with override_settings(PUSH=""):
            edition = self.publish()
        for until, wanted in ((timezone.now() + timedelta(hours=1), 0), (timezone.now(), 1)):
            Edition.objects.update(public_from=until)
            # Once it is out there is nothing more to do.
            for _ in range(2):
                push_after_embargoes(0)
                work()
            self.assertEqual(self.jobs("push"), ["done"] * wanted)
            there = f"mill/{edition.folder}/index.html" in self.there()
            self.assertEqual(there, bool(wanted))

    def test_the_command_says_what_it_did_or_what_is_missing(self) -> None:
        with override_settings(PUSH=""):
            self.publish()
            with self.assertRaisesRegex(CommandError, "Set GLENHAIL_PUSH"):
                call_command("push_site")
            self.assertEqual(self.jobs("push"), [])
        said = io.StringIO()
        call_command("push_site", stdout=said)
        self.assertRegex(said.getvalue(), r"\d+ files sent, 0 there, 0 removed\.")
        with self.assertRaisesRegex(CommandError, "bucket does not exist"):
            call_command("push_site", to="s3://nobody-s", stdout=said)
        self.assertEqual(settings.PUSH, TARGET)

    def files(self, folder: Path) -> set[str]:
        return {str(p.relative_to(folder)) for p in folder.rglob("*") if p.is_file()}

    def jobs(self, kind: str) -> list[str]:
        return list(Job.objects.filter(kind=kind).values_list("state", flat=True))
