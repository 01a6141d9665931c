"""Facts of tools, and their releases."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.conf import settings
from django.db import IntegrityError, transaction

from glenhail.core.errors import BadRequest
from glenhail.core.execution.command import command_of, find_program
from glenhail.core.parameters import as_json, parameter_of
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Conflict
from glenhail.server.tools.models import PLATFORMS, WAYS, Price, Release, Step, Tool

Facts = dict[str, Any]
MOST_SETTINGS = 40


@transaction.atomic
def save_tool(
    actor: Actor, bench: Bench, facts: Facts, prices: list[Facts], tool: Tool | None = None
) -> Tool:
    """Write a new tool down, or correct one."""
    require(actor, bench, Role.EDITOR)
    name = " ".join(str(facts["name"]).split())
    if not name:
        raise ActionError("A tool needs a name.")
    for told, known in ((facts["platforms"], PLATFORMS), (facts["ways"], WAYS)):
        if not set(told) <= set(known):
            raise ActionError(f"One of {', '.join(known)} is wanted.")
    tool = tool or Tool(bench=bench)
    for field, value in {**facts, "name": name}.items():
        setattr(tool, field, value)
    try:
        with transaction.atomic():
            tool.save()
    except IntegrityError as error:
        raise Conflict(f"There is a tool named “{name}” already.") from error
    tool.prices.all().delete()
    Price.objects.bulk_create([Price(tool=tool, **p) for p in prices])
    record(actor, bench, "write tool down", tool)
    return tool


@transaction.atomic
def remove_tool(actor: Actor, tool: Tool) -> None:
    """Remove a tool that no treatment uses."""
    require(actor, tool.bench, Role.EDITOR)
    if Step.objects.filter(release__tool=tool).exists():
        raise Conflict(f"{tool} is part of treatments, which stay as they are. It stays with them.")
    record(actor, tool.bench, "remove tool", tool)
    tool.delete()


@transaction.atomic
def save_release(actor: Actor, tool: Tool, facts: Facts, release: Release | None = None) -> Release:
    """Write a release down, or correct one.

    Outputs made before keep what they were made with.

    Raises
    ------
    ActionError
        If a setting makes no sense.
    """
    require(actor, tool.bench, Role.EDITOR)
    if release is not None and release.method:
        raise Conflict(f"{release} is built in. What it asks for is fixed.")
    try:
        parameters = [parameter_of(s) for s in facts["settings"]]
    except BadRequest as error:
        raise ActionError(str(error)) from error
    names = [p.name for p in parameters]
    if len(set(names)) < len(names) or len(names) > MOST_SETTINGS:
        raise ActionError(
            f"Each setting has a name of its own, and there are at most {MOST_SETTINGS}."
        )
    if not set(facts["raw_modes"]) <= set(facts["modes"]):
        raise ActionError("A mode that takes raw files only is one of the release's modes.")
    release = release or Release(tool=tool)
    for field, value in {
        **facts,
        "name": str(facts["name"]).strip(),
        "settings": [as_json(p) for p in parameters],
    }.items():
        setattr(release, field, value)
    try:
        with transaction.atomic():
            release.save()
    except IntegrityError as error:
        raise Conflict(f"{tool} has a release “{facts['name']}” already.") from error
    record(actor, tool.bench, "write release down", release)
    return release


@transaction.atomic
def set_command(actor: Actor, release: Release, told: Facts | None) -> Release:
    """Say by which allowed program a release is run, or that it is run by none.

    Only an owner may: it runs on the bench's machine.

    Raises
    ------
    ActionError
        If the template makes no sense, or the program is not among the allowed ones.
    """
    require(actor, release.tool.bench, Role.OWNER)
    if release.method:
        raise Conflict(f"{release} is built in. It needs no command.")
    try:
        if told is not None:
            find_program(settings.TOOLS_DIR, command_of(told).program)
        release.command = (
            None
            if told is None
            else {**asdict(command_of(told)), "arguments": list(told["arguments"])}
        )
    except BadRequest as error:
        raise ActionError(str(error)) from error
    release.save(update_fields=["command"])
    record(actor, release.tool.bench, "set command", release)
    return release


@transaction.atomic
def remove_release(actor: Actor, release: Release) -> None:
    """Remove a release that no treatment uses."""
    require(actor, release.tool.bench, Role.EDITOR)
    if release.steps.exists():
        raise Conflict(
            f"{release} is part of treatments, which stay as they are. It stays with them."
        )
    record(actor, release.tool.bench, "remove release", release)
    release.delete()
