"""What lies on the disk, what of it could go, and whether all is well."""

from __future__ import annotations

from typing import Any

from django.core.files.storage import storages
from django.http import HttpRequest, JsonResponse
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from glenhail.server.accounts.models import Role
from glenhail.server.accounts.permissions import membership, require
from glenhail.server.operations.health import look
from glenhail.server.operations.purge import Cleared, purge
from glenhail.server.publishing.queries import edition_sizes
from glenhail.server.storage.files import root_of
from glenhail.server.storage.queries import originals


def healthy(request: HttpRequest) -> JsonResponse:
    """For whoever watches the server:

    200 while all is well, 503 else, with what is not. Needs no session, tells no path.
    """
    checks = look()
    well = all(c.well for c in checks)
    body = {"well": well, "checks": {c.name: {"well": c.well, "words": c.words} for c in checks}}
    return JsonResponse(body, status=200 if well else 503, headers={"Cache-Control": "no-store"})


class AmountOut(serializers.Serializer[Any]):
    kind = serializers.CharField()
    files = serializers.IntegerField()
    bytes = serializers.IntegerField()


class StorageOut(serializers.Serializer[Any]):
    """Files and bytes of each kind;

    ``removable`` is what nothing needs, some of it still within its time of grace.
    """

    kept = AmountOut(many=True)
    removable = AmountOut(many=True)


class StorageView(APIView):
    """What lies on the disk; for owners."""

    @extend_schema(operation_id="storage_read", responses=StorageOut)
    def get(self, request: Request) -> Response:
        require(request.user, membership(request.user).bench, Role.OWNER)
        return Response(
            StorageOut(
                {
                    "kept": [_originals(), _derived(), _editions()],
                    "removable": _listed(purge(dry_run=True)),
                }
            ).data
        )


def _originals() -> dict[str, Any]:
    return {"kind": "originals", **originals()}


def _derived() -> dict[str, Any]:
    """The one store of which no row tells."""
    root = root_of(storages["derived"])
    sizes = (
        [p.stat().st_size for p in root.rglob("*") if p.is_file()] if root and root.exists() else []
    )
    return {"kind": "derived", "files": len(sizes), "bytes": sum(sizes)}


def _editions() -> dict[str, Any]:
    sizes = edition_sizes()
    return {"kind": "editions", "files": len(sizes), "bytes": sum(sizes)}


def _listed(cleared: Cleared) -> list[dict[str, Any]]:
    return [
        {"kind": kind, "files": n, "bytes": cleared.bytes[kind]}
        for kind, n in cleared.files.items()
    ]
