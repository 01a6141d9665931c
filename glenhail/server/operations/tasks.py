"""What is done by itself every night."""

from __future__ import annotations

import logging

from asgiref.sync import sync_to_async
from procrastinate.contrib.django import app

from glenhail.server.operations.purge import purge

log = logging.getLogger(__name__)


@app.periodic(cron="43 * * * *")
@app.task(name="glenhail.purge", queue="work", queueing_lock="purge")
async def clear_away(timestamp: int) -> None:
    """Clear away what nothing needs, after its time of grace."""
    cleared = await sync_to_async(purge)()
    for kind, count in cleared.files.items():
        log.warning("cleared away %s %s, %.1f MB", count, kind, cleared.bytes[kind] / 1e6)
