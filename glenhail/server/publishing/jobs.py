"""Printing an edition."""

from __future__ import annotations

import shutil
import tempfile
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.storage import storages

from glenhail.server.common.errors import Conflict
from glenhail.server.jobs.registry import Progress, does
from glenhail.server.publishing.document import compile_document
from glenhail.server.publishing.models import Edition, Report
from glenhail.server.publishing.press import manifest_of, print_edition
from glenhail.server.storage.durable import sha256_of
from glenhail.server.storage.files import put
from glenhail.server.studies.queries import ranked_readings
from glenhail.server.studies.tables import readings_csv


@does("publish")
def publish(progress: Progress, arguments: dict[str, Any]) -> None:
    """Freeze a report into its next edition: all files first, the edition's row last.

    Work that died leaves files of a number that no edition has; the next try replaces them.
    """
    report = Report.objects.select_related("study__bench").get(pk=arguments["report"])
    number = arguments["number"]
    if report.editions.filter(number=number).exists():
        return
    progress.tell(0.02, "compiling")
    folder = Path(tempfile.mkdtemp(dir=settings.FILE_UPLOAD_TEMP_DIR))
    try:
        document = compile_document(report, number, arguments["note"])
        print_edition(document, folder, readings_csv(ranked_readings(report.study)), progress.tell)
        progress.tell(0.95, "setting it in place")
        edition = Edition(report=report, number=number, note=arguments["note"], publisher_id=arguments["actor"])
        edition.manifest = manifest_of(report.study_id)
        for made in [p for p in sorted(folder.rglob("*")) if p.is_file()]:
            name, size = str(made.relative_to(folder)), made.stat().st_size
            edition.files.append({"name": name, "sha256": sha256_of(made), "size": size})
            put(storages["editions"], f"{edition.folder}/{name}", made)
        with progress.settling():
            if Report.objects.select_for_update().get(pk=report.pk).editions.filter(number__gte=number).exists():
                raise Conflict(f"Edition {number} was published meanwhile.")
            edition.save()
    finally:
        shutil.rmtree(folder, ignore_errors=True)
