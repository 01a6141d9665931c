"""One uploaded file in a request."""

from __future__ import annotations

from typing import IO, Any, cast

from rest_framework import serializers
from rest_framework.request import Request

from glenhail.server.common.errors import ActionError


class FileForm(serializers.Serializer[Any]):
    """For the schema: a multipart form with one file."""

    file = serializers.FileField()


def uploaded(request: Request) -> tuple[IO[bytes], str]:
    """The stream and the name of the form's file.

    Raises
    ------
    ActionError
        If the form holds none.
    """
    file = request.FILES.get("file")
    if file is None:
        raise ActionError("The form holds no file. Choose one and send it again.")
    return cast("IO[bytes]", file.file), file.name or "unnamed"
