"""``manage.py purge``: clears away what nothing needs."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from glenhail.server.operations.purge import GRACE, LEFT_BEHIND, purge


class Command(BaseCommand):
    help = "Clears away originals that nothing uses any more and what killed work left behind."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--dry-run", action="store_true", help="only tell what would go")
        parser.add_argument(
            "--days",
            type=float,
            default=GRACE.days,
            help="that an original is kept unused (%(default)s)",
        )

    def handle(self, *args: Any, **options: Any) -> None:
        cleared = purge(options["dry_run"], timedelta(days=options["days"]), LEFT_BEHIND)
        for kind, count in cleared.files.items():
            self.stdout.write(f"{count} {kind}, {cleared.bytes[kind] / 1e6:,.1f} MB")
        if not cleared.files:
            self.stdout.write("There is nothing to clear away.")
        elif options["dry_run"]:
            self.stdout.write("Nothing was touched.")
