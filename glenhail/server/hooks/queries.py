"""Looking up addresses and what was told them."""

from __future__ import annotations

from glenhail.server.accounts.models import Bench
from glenhail.server.hooks.models import Hook, Telling

NEWEST = 10


def find_hooks(bench: Bench) -> list[Hook]:
    """All addresses of a bench, each with its newest tellings as ``newest``."""
    found = list(bench.hooks.all())
    for hook in found:
        hook.newest = list(Telling.objects.filter(hook=hook)[:NEWEST])  # type: ignore[attr-defined]
    return found
