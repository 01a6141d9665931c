"""``manage.py push_site``: the public site, to where readers get it."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from glenhail.server.common.errors import ActionError
from glenhail.server.publishing.site.push import push_site


class Command(BaseCommand):
    help = (
        "Exports the public site and brings what changed to GLENHAIL_PUSH: s3://BUCKET/BEGINNING,"
        " or a place as rsync has them. Editions do that by themselves; run this after an embargo."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--to", default="", help="another place than GLENHAIL_PUSH")

    def handle(self, *args: Any, **options: Any) -> None:
        target = options["to"] or settings.PUSH
        if not target:
            raise CommandError("Set GLENHAIL_PUSH to where the site belongs, or name it: --to.")
        try:
            done = push_site(
                target, lambda share, what: self.stdout.write(f"{100 * share:3.0f} %  {what}")
            )
        except (ActionError, OSError, ValueError) as error:
            raise CommandError(str(error)) from error
        counted = f"{done.sent} files sent, {done.kept} there, {done.removed} removed."
        self.stdout.write(counted if target.startswith("s3://") else "Done.")
