"""``manage.py restore DIR``: the bench as it was at a backup."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from glenhail.server.operations.backup import read_backup, restore


class Command(BaseCommand):
    help = (
        "Puts the bench back to a backup's moment: the one in a folder, or the newest of a folder"
        " of backups."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("folder", type=Path)
        parser.add_argument(
            "--replace", action="store_true", help="give up what the bench holds now"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        backup = read_backup(options["folder"])
        if not options["replace"] and self._in_use():
            raise CommandError(
                "This bench holds something already. Add --replace to give that up for the backup."
            )
        restore(backup, self.stdout.write)
        connection.close()
        call_command("prepare")
        self.stdout.write(
            f"The bench is as it was at {backup.told['made']}. Display copies are made again as"
            " they are asked for."
        )

    def _in_use(self) -> bool:
        with connection.cursor() as cursor:
            if "storage_storedfile" not in connection.introspection.table_names(cursor):
                return False
            cursor.execute("SELECT EXISTS (SELECT 1 FROM storage_storedfile)")
            return bool(cursor.fetchone()[0])
