"""Holding a row while what was read of it is compared with what is written."""

from __future__ import annotations

from typing import TypeVar

from django.db.models import Model

M = TypeVar("M", bound=Model)


def locked(row: M) -> M:
    """The row as it is now, locked until the transaction around it ends."""
    return type(row)._default_manager.select_for_update().get(pk=row.pk)
