"""Printing an edition."""

from __future__ import annotations

import shutil
import tempfile
from functools import partial
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.storage import storages

from glenhail.core.articles.about import about
from glenhail.core.plans.edition import plan_of_edition
from glenhail.core.plans.plan import as_toml
from glenhail.server.accounts.models import Role
from glenhail.server.common.errors import Conflict
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.document import FORMAT
from glenhail.server.publishing.layers import write_frames
from glenhail.server.publishing.models import Edition, Proof, Report
from glenhail.server.publishing.press import manifest_of, print_edition
from glenhail.server.publishing.proofs import check
from glenhail.server.publishing.pushing import ask_for_push
from glenhail.server.publishing.site.push import push_site
from glenhail.server.storage.durable import sha256_of
from glenhail.server.storage.files import put

PLAN = "plan.toml"


@does("push", least=Role.OWNER)
def push(progress: Progress, arguments: dict[str, Any]) -> None:
    """Bring the public site to where readers get it."""
    if settings.PUSH:
        push_site(settings.PUSH, progress.tell)


@does("publish", least=Role.OWNER)
def publish(progress: Progress, arguments: dict[str, Any]) -> None:
    """Print a proof as its report's next edition: all files first, the edition's row
    last.

    Work that died leaves files of a number that no edition has; the next try replaces
    them.
    """
    proof = Proof.objects.select_related("report__study__bench").get(pk=arguments["proof"])
    report, number = proof.report, proof.number
    if report.editions.filter(number=number).exists():
        return
    if proof.document.get("format") != FORMAT:
        raise Conflict("This edition was asked for in an earlier release. Ask for it again.")
    progress.tell(0.02, "looking whether anything changed")
    check(proof)
    folder = Path(tempfile.mkdtemp(dir=settings.FILE_UPLOAD_TEMP_DIR))
    try:
        manifest = manifest_of(report.study_id)
        proof.document["originals"] = [
            {k: e[k] for k in ("name", "size", "withheld") if k in e} for e in manifest
        ]
        (folder / PLAN).write_text(as_toml(plan_of_edition(proof.document, manifest)), "utf-8")
        if proof.document.get("extras", {}).get("layers"):
            study, tell = report.study, partial(progress.tell, 0.03)
            proof.document["layers"] = write_frames(study, folder, tell)
        print_edition(proof.document, folder, proof.csv, proof.sha256, progress.tell)
        progress.tell(0.95, "setting it in place")
        edition = Edition(
            report=report,
            number=number,
            note=proof.document["note"],
            publisher_id=proof.asked_by_id,
            public_from=proof.public_from,
            about=about(proof.document),
        )
        edition.manifest = manifest
        for made in [p for p in sorted(folder.rglob("*")) if p.is_file()]:
            name, size = str(made.relative_to(folder)), made.stat().st_size
            edition.files.append({"name": name, "sha256": sha256_of(made), "size": size})
            put(storages["editions"], f"{edition.folder}/{name}", made)
        with progress.settling():
            if (
                Report.objects.select_for_update()
                .get(pk=report.pk)
                .editions.filter(number__gte=number)
                .exists()
            ):
                raise Conflict(f"Edition {number} was published meanwhile.")
            # Nobody replaces an output between this look and the edition's row.
            list(
                Output.objects.select_for_update()
                .filter(contender__study=report.study_id)
                .order_by("pk")
            )
            check(proof)
            edition.save()
            report.corrections.filter(corrected_in=None, created__lte=proof.created).update(
                corrected_in=number
            )
            ask_for_push(report.study.bench)
    finally:
        shutil.rmtree(folder, ignore_errors=True)
