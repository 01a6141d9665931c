"""What a command line gives that is longer than a word."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from glenhail.core.errors import BadRequest


def json_of(given: str, shape: str) -> Any:
    """JSON written out, or read from the file of that name.

    Parameters
    ----------
    given : str
        JSON, or a file's name.
    shape : str
        How it is written, for the message.

    Raises
    ------
    BadRequest
        If it is none; `shape` shows how it is written.
    """
    text = given if given.lstrip().startswith("{") else Path(given).read_text("utf-8")
    try:
        return json.loads(text)
    except ValueError as error:
        raise BadRequest(f"{given}: it is not JSON ({error}). Write it as {shape}.") from error
