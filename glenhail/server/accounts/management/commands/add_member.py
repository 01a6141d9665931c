"""``manage.py add_member NAME --role editor``: an account for one more person."""

from __future__ import annotations

import getpass
from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser

from glenhail.server.accounts.actions.members import add_member
from glenhail.server.accounts.actions.people import check_password
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.common.errors import ActionError


class Command(BaseCommand):
    help = "Adds a member to the bench, or changes role and password of one."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("username")
        parser.add_argument("--role", choices=Role.values, default=Role.EDITOR)
        parser.add_argument(
            "--bench", default="Bench", help="name of the bench, made if there is none"
        )
        parser.add_argument("--password", help="asked for when left out")

    def handle(self, *args: Any, **options: Any) -> None:
        password = options["password"] or getpass.getpass(f"Password for {options['username']}: ")
        try:
            check_password(password, User(username=options["username"]))
        except ActionError as error:
            raise CommandError(str(error)) from error
        bench = Bench.objects.order_by("pk").first() or Bench.objects.create(name=options["bench"])
        add_member(bench, options["username"], password, Role(options["role"]))
        self.stdout.write(f"{options['username']} is now {options['role']} of {bench}.")
