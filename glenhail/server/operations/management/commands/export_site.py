"""``manage.py export_site``: all editions and the site around them as static files."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from glenhail.server.publishing.site.export import export_site


class Command(BaseCommand):
    help = (
        "Brings a folder to the state of the public site: editions, index, pages of tools and"
        " bodies, feed. Any web server carries it; run it again after each edition, and copy the"
        " folder with rsync --delete."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("folder", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        def tell(share: float, what: str) -> None:
            self.stdout.write(f"{100 * share:3.0f} %  {what}")

        try:
            made = export_site(options["folder"], tell)
        except (ValueError, OSError) as error:
            raise CommandError(str(error)) from error
        self.stdout.write(
            f"{len(made.written)} files written, {made.kept} as they were,"
            f" {len(made.removed)} removed."
        )
