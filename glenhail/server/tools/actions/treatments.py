"""Writing treatments down, and keeping some for reuse."""

from __future__ import annotations

from dataclasses import asdict, replace

from django.db import transaction

from glenhail.core.errors import BadRequest
from glenhail.core.methods.catalogue import method_of
from glenhail.core.treatments import step as core
from glenhail.core.treatments.release import fit
from glenhail.server.accounts.models import Bench, Role
from glenhail.server.accounts.permissions import Actor, record, require
from glenhail.server.common.errors import ActionError, Missing
from glenhail.server.tools.models import Release, Step, Tool, Treatment


@transaction.atomic
def write_treatment(bench: Bench, told: core.Treatment, row: Treatment | None = None) -> Treatment:
    """Make a treatment, or give one other steps; tools and releases not known yet are
    added.

    The caller has checked the actor's role.

    Raises
    ------
    ActionError
        If a mode or setting is none that its release has, where those are written down.
    """
    steps = _fitted(bench, told)
    row = row or Treatment(bench=bench)
    row.feed = told.feed
    row.save()
    row.steps.all().delete()
    for order, (step, release) in enumerate(steps):
        Step.objects.create(
            treatment=row,
            order=order,
            release=release,
            mode=step.mode,
            settings=[asdict(s) for s in step.settings],
            strength=step.strength,
            automatic=step.automatic,
            limit=step.limit,
            part=asdict(step.part) if step.part else None,
        )
    return Treatment.objects.prefetch_related("steps__release__tool").get(pk=row.pk)


def fit_treatment(bench: Bench, told: core.Treatment) -> core.Treatment:
    """A treatment as it would be written down: each setting checked, those not told at
    their usual values.
    """
    return replace(told, steps=tuple(step for step, _ in _fitted(bench, told)))


def _fitted(bench: Bench, told: core.Treatment) -> list[tuple[core.Step, Release]]:
    found = []
    for step in told.steps:
        release = _release_of(bench, step)
        try:
            found.append((replace(fit(step, release.facts), tool=release.tool.name), release))
        except BadRequest as error:
            raise ActionError(str(error)) from error
    return found


def _release_of(bench: Bench, step: core.Step) -> Release:
    """The release that a step names; a built-in method is a tool of its title, with a
    release without a name.
    """
    if step.method:
        return builtin(bench, step.method)
    tool, _ = Tool.objects.get_or_create(bench=bench, name=step.tool)
    known = list(tool.releases.values_list("name", flat=True))
    if not step.release and known and "" not in known:
        raise ActionError(f"{tool}: say which release it is; {', '.join(known)} are written down.")
    release, _ = Release.objects.get_or_create(tool=tool, name=step.release)
    return release


_KINDS = {"resample": "enlarge", "deconvolve": "sharpen", "tone": "develop"}


def builtin(bench: Bench, method_id: str) -> Release:
    """A bench's release of a built-in method."""
    try:
        method = method_of(method_id)
    except BadRequest as error:
        raise ActionError(str(error)) from error
    kind = _KINDS.get(method.family, method.family)
    facts = {
        "kind": kind,
        "licence": "free",
        "maker": "a published method, built in",
        "ways": ["command line"],
        "batch": True,
    }
    tool, _ = Tool.objects.get_or_create(bench=bench, name=method.title, defaults=facts)
    resizes = method.work is None
    release, _ = Release.objects.update_or_create(
        tool=tool, name="", defaults={"method": method.id, "strength": not resizes}
    )
    return release


@transaction.atomic
def save_for_reuse(actor: Actor, bench: Bench, name: str, told: core.Treatment) -> Treatment:
    """Keep a treatment under a name; another of that name is replaced."""
    require(actor, bench, Role.EDITOR)
    name = " ".join(name.split())[:80]
    if not name:
        raise ActionError("A treatment that is kept needs a name.")
    row = Treatment.objects.filter(bench=bench, saved_as=name).first() or Treatment(
        bench=bench, saved_as=name
    )
    record(actor, bench, "keep treatment", name)
    return write_treatment(bench, told, row)


@transaction.atomic
def forget_saved(actor: Actor, bench: Bench, treatment_id: int) -> None:
    """Let go of a kept treatment; contenders made from it are not touched."""
    require(actor, bench, Role.EDITOR)
    row = Treatment.objects.filter(bench=bench, pk=treatment_id).exclude(saved_as="").first()
    if row is None:
        raise Missing("There is no such treatment, or it was let go.")
    record(actor, bench, "let treatment go", row.saved_as)
    row.delete()
