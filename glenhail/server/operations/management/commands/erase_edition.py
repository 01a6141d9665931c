"""``manage.py erase_edition``: deletes a withdrawn edition's bytes, since the law asks."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser

from glenhail.server.common.errors import ActionError, Missing, NotAllowed
from glenhail.server.publishing.actions.editions import erase
from glenhail.server.publishing.models import Edition


class Command(BaseCommand):
    help = "Deletes every file of a withdrawn edition; the trail keeps who asked and why."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("address", help="as in the edition's address: which-is-better/2")
        parser.add_argument("--by", required=True, help="an owner of the bench")
        parser.add_argument("--reason", required=True, help="the demand that is met")

    def handle(self, *args: Any, **options: Any) -> None:
        slug, _, number = options["address"].strip("/").partition("/")
        edition = (
            Edition.objects.select_related("report__study__bench")
            .filter(report__slug=slug, number=int(number) if number.isdigit() else 0)
            .first()
        )
        if edition is None:
            raise CommandError(f"There is no edition {options['address']!r}.")
        owner = User.objects.filter(username=options["by"]).first()
        if owner is None:
            raise CommandError(f"There is no account {options['by']!r}.")
        try:
            count = erase(owner, edition, options["reason"])
        except (ActionError, Missing, NotAllowed) as error:
            raise CommandError(str(error)) from error
        self.stdout.write(f"{count} files of {edition} are gone.")
