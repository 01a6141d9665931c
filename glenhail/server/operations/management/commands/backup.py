"""``manage.py backup DIR``: database and files of one moment, while the bench is used."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from glenhail.server.operations.backup import back_up


class Command(BaseCommand):
    help = "Writes a backup of one moment into a folder, beside earlier ones, and reads it back."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("folder", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        made = back_up(options["folder"], self.stdout.write)
        self.stdout.write(
            f"{made.folder}: the database and {len(made.files)} files, read back and found whole."
        )
