"""A bench of the first tables, brought over to today's apps: rows stay where they are,
tables get the names of the apps that they belong to now.
"""

from __future__ import annotations

from django.core.management.base import CommandError
from django.db import connection, transaction
from django.db.backends.utils import CursorWrapper
from django.db.migrations.recorder import MigrationRecorder

# The last state of the first tables; an older one has to be started once with its own last release.
LAST = (
    ("accounts", "0003_tokens"),
    ("jobs", "0001_initial"),
    ("judging", "0001_initial"),
    ("material", "0006_picture_thumb"),
    ("publishing", "0003_proofs"),
    ("storage", "0004_unused"),
    ("studies", "0007_letters"),
    ("tools", "0003_gain_reach_floor"),
)
# Models of the one app that held them all, by the app that has them now.
MOVED = {
    "outputs": ("output", "run", "hotfolder", "folder", "folderfile", "namingpattern"),
    "measuring": ("lineup", "handpoints", "examined", "reading", "suggested"),
    "audit": ("decision",),
}
NOW = (*dict.fromkeys(app for app, _ in LAST), *MOVED)


def is_of_the_first_tables() -> bool:
    """Whether the database holds a bench that has to be brought over."""
    applied = _applied()
    return ("studies", "0001_initial") in applied and ("outputs", "0001_initial") not in applied


@transaction.atomic
def bring_over() -> None:
    """Rename what moved and take each app's one migration for done; all of it or
    nothing.

    Raises
    ------
    CommandError
        If the bench is of an older state than the last one of the first tables.
    """
    missing = [f"{app}.{name}" for app, name in LAST if (app, name) not in _applied()]
    if missing:
        raise CommandError(
            f"This bench is of an older state ({', '.join(missing)} not applied). Start it once"
            " with the last release before this one, then come back."
        )
    with connection.cursor() as cursor:
        for app, models in MOVED.items():
            for model in models:
                _rename(cursor, f"studies_{model}", f"{app}_{model}")
            cursor.execute(
                "UPDATE django_content_type SET app_label = %s WHERE app_label = 'studies' AND"
                " model = ANY(%s)",
                [app, list(models)],
            )
    recorder = MigrationRecorder(connection)
    recorder.migration_qs.filter(app__in=NOW).delete()
    for app in NOW:
        recorder.record_applied(app, "0001_initial")


def _applied() -> set[tuple[str, str]]:
    return set(MigrationRecorder(connection).applied_migrations())


def _rename(cursor: CursorWrapper, old: str, new: str) -> None:
    """A table with the sequence of its key; both names are of the tables above."""
    quoted = connection.ops.quote_name
    cursor.execute(f"ALTER TABLE {quoted(old)} RENAME TO {quoted(new)}")
    cursor.execute(f"ALTER SEQUENCE {quoted(old + '_id_seq')} RENAME TO {quoted(new + '_id_seq')}")
