"""Reading tools, releases and treatments kept for reuse."""

from __future__ import annotations

from django.db.models import QuerySet

from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, membership, require
from glenhail.server.common.errors import Missing
from glenhail.server.tools.models import Release, Tool, Treatment


def find_tool(actor: Actor, tool_id: int) -> Tool:
    """A tool of a bench the actor may see."""
    tool = Tool.objects.select_related("bench").filter(pk=tool_id).first()
    if tool is None:
        raise Missing("There is no such tool, or it was removed.")
    require(actor, tool.bench, Role.VIEWER)
    return tool


def find_release(actor: Actor, release_id: int) -> Release:
    """A release of a bench the actor may see."""
    release = Release.objects.select_related("tool__bench").filter(pk=release_id).first()
    if release is None:
        raise Missing("There is no such release, or it was removed.")
    require(actor, release.tool.bench, Role.VIEWER)
    return release


def tools_of(bench: Bench) -> QuerySet[Tool]:
    """A bench's tools with everything that is shown of them."""
    return Tool.objects.filter(bench=bench).prefetch_related("releases__steps", "prices")


def saved_treatments(actor: Actor) -> QuerySet[Treatment]:
    """Treatments kept for reuse."""
    rows = Treatment.objects.filter(bench=membership(actor).bench).exclude(saved_as="")
    return rows.order_by("saved_as").prefetch_related("steps__release__tool")
