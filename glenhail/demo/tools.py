"""The invented tools written down on the sample bench: facts, releases, settings, and
the programs that run them.
"""

from __future__ import annotations

from datetime import date
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User

from glenhail.server.accounts.models import Bench
from glenhail.server.tools.actions.tools import save_release, save_tool, set_command
from glenhail.server.tools.models import Tool
from glenhail.standins.catalogue import TOOLS, install


def write_tools(actor: User, bench: Bench) -> None:
    """All of them, once; what is written down already is left as it is."""
    install(settings.TOOLS_DIR)
    for told in TOOLS:
        if not Tool.objects.filter(bench=bench, name=told["name"], releases__isnull=False).exists():
            _write(actor, bench, told)


def _write(actor: User, bench: Bench, told: dict[str, Any]) -> None:
    facts = {k: v for k, v in told.items() if k not in ("prices", "releases")}
    prices = [{**p, "checked": date.fromisoformat(p["checked"])} for p in told["prices"]]
    tool = save_tool(
        actor, bench, facts, prices, Tool.objects.filter(bench=bench, name=told["name"]).first()
    )
    for release in told["releases"]:
        known = {k: v for k, v in release.items() if k != "command"} | {
            "released": date.fromisoformat(release["released"])
        }
        set_command(actor, save_release(actor, tool, known), release["command"])
