"""``manage.py bring_over``: a bench of the first tables gets today's."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from glenhail.server.operations import bring_over


class Command(BaseCommand):
    help = "Brings a bench of the first tables over; every start does, where there is need."

    def handle(self, *args: Any, **options: Any) -> None:
        if bring_over.is_of_the_first_tables():
            bring_over.bring_over()
            self.stdout.write("The bench was brought over to today's tables.")
