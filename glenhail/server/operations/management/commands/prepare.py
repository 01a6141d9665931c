"""``manage.py prepare``: what every start does."""

from __future__ import annotations

import secrets
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management import call_command
from django.core.management.base import BaseCommand

from glenhail.core.measures.catalogue import MEASURES
from glenhail.server.accounts.actions.members import add_member
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.material import display
from glenhail.server.material.models import Picture, PictureState
from glenhail.server.measuring.actions.queueing import queue_output
from glenhail.server.measuring.models import Reading
from glenhail.server.outputs.models import Output
from glenhail.server.publishing.frozen import record_missing


class Command(BaseCommand):
    help = (
        "Migrates, makes the first bench and owner, and queues what is missing: readings by older"
        " measures, display copies."
    )

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("bring_over")
        call_command("migrate", verbosity=0)
        if not User.objects.exists():
            self._first_owner()
        for output in self._outdated():
            queue_output(output)
        self._show_again()
        record_missing()

    def _show_again(self) -> None:
        """Display copies that are gone; derived files may be deleted at any time."""
        bench = Bench.objects.order_by("pk").first()
        for picture in Picture.objects.select_related("file").filter(state=PictureState.READY):
            if bench is not None:
                display.ask_for(bench, picture, at_once=False)

    def _first_owner(self) -> None:
        password = secrets.token_urlsafe(9)
        path = settings.VAR / "first-password"
        path.touch(mode=0o600)
        path.write_text(password + "\n")
        bench = Bench.objects.first() or Bench.objects.create(name="Bench")
        add_member(bench, "owner", password, Role.OWNER)

    def _outdated(self) -> list[Output]:
        """Outputs with a reading that today's measures would take anew."""
        rows = Output.objects.select_related("contender__study__bench", "picture", "frame__picture")
        taken = Reading.objects.values_list("output_id", "measure", "version").distinct()
        stale = {
            pk
            for pk, measure, version in taken
            if measure in MEASURES and version != MEASURES[measure].version
        }
        return list(rows.filter(pk__in=stale))
