"""``manage.py verify``: reads all originals and editions against their hashes."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from glenhail.server.operations.verify import set_aside, verify


class Command(BaseCommand):
    help = (
        "Reads all originals and editions against their hashes, and says what to do about each that"
        " is damaged or gone."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--quick", action="store_true", help="compare sizes alone")
        parser.add_argument(
            "--set-aside",
            action="store_true",
            help="take damaged files out of their places, to be sent again",
        )

    def handle(self, *args: Any, **options: Any) -> None:
        count = faults = 0
        for expected, fault in verify(options["quick"]):
            count += 1
            if fault is None:
                continue
            faults += 1
            self.stdout.write(str(fault))
            if options["set_aside"]:
                set_aside(expected)
        if faults:
            raise CommandError(f"{faults} of {count} files are damaged or gone.")
        self.stdout.write(f"{count} files are as they were written.")
