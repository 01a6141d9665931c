"""``manage.py take_plan``: a study from the plan of another bench, or of an edition."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser

from glenhail.core.errors import CoreError
from glenhail.server.accounts.permissions import membership
from glenhail.server.common.errors import ActionError
from glenhail.server.outputs.actions.plans import take_plan


class Command(BaseCommand):
    help = (
        "Makes a study from a plan: question, patches, treatments, and those of its frames that"
        " the bench has, whatever they are called there."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("plan", type=Path)
        parser.add_argument("--by", required=True, help="an editor or owner of the bench")

    def handle(self, *args: Any, **options: Any) -> None:
        path: Path = options["plan"]
        actor = User.objects.filter(username=options["by"]).first()
        if actor is None:
            raise CommandError(f"There is no account {options['by']!r}.")
        try:
            data, bench = path.read_bytes(), membership(actor).bench
            made = take_plan(actor, bench, data, path.name, self.stdout.write)
        except (CoreError, ActionError, OSError) as error:
            raise CommandError(str(error)) from error
        for name in made.missing:
            self.stdout.write(f"not on this bench: {name}")
        for name in made.other_truth:
            self.stdout.write(f"another truth, or none: {name}")
        letters = made.study.contenders.filter(treatment__isnull=False).count()
        self.stdout.write(
            f"Study {made.study.pk}, “{made.study}”: {made.study.study_frames.count()} frames,"
            f" {made.study.patches.count()} patches, {letters} contenders."
        )
