"""JSON that can be kept: no text that a database refuses, nothing nested without end."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import IO, Any

from rest_framework.exceptions import ParseError
from rest_framework.parsers import JSONParser

MOST_BYTES = 10_000_000
DEEPEST = 50


class KeepableJSON(JSONParser):
    """JSON as RFC 8259 has it, less what no text may hold:

    NUL, and halves of surrogate pairs.
    """

    def parse(
        self,
        stream: IO[bytes],
        media_type: str | None = None,
        parser_context: Mapping[str, Any] | None = None,
    ) -> Any:
        raw = stream.read(MOST_BYTES + 1)
        if len(raw) > MOST_BYTES:
            raise ParseError(f"The request is larger than {MOST_BYTES:,} bytes.")
        try:
            found = json.loads(raw, parse_constant=_refuse)
        except RecursionError as error:
            raise ParseError("The request is nested too deeply.") from error
        except ValueError as error:
            raise ParseError(f"The request is no JSON: {error}") from error
        _check(found, 0)
        return found


def _refuse(name: str) -> None:
    raise ValueError(f"{name} is no number")


def _check(value: Any, depth: int) -> None:
    if depth > DEEPEST:
        raise ParseError("The request is nested too deeply.")
    if isinstance(value, str):
        _check_text(value)
    elif isinstance(value, dict):
        for key, part in value.items():
            _check_text(key)
            _check(part, depth + 1)
    elif isinstance(value, list):
        for part in value:
            _check(part, depth + 1)


def _check_text(text: str) -> None:
    if "\0" in text or (not text.isascii() and any("\ud800" <= c <= "\udfff" for c in text)):
        raise ParseError("A text holds a character that no text may hold.")
