"""The kinds of inquiries: how each is answered, and what its answer depends on."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from glenhail.server.inquiries.models import About
from glenhail.server.jobs.registry import Progress
from glenhail.server.studies.models import Study

Found = dict[str, Any]


@dataclass(frozen=True)
class InquiryKind:
    """How a kind of inquiry is answered.

    ``title`` names the work in the queue; ``version`` is of what an answer holds, one
    of another version is asked for anew; ``check`` raises an ActionError where a
    subject can not be asked about; ``key`` names all that its answer depends on;
    ``answer`` is handed what was found before, of which it may keep what still holds.
    """

    title: str
    version: str
    check: Callable[[Study, str], None]
    key: Callable[[Study, str], str]
    answer: Callable[[Progress, Study, str, Found | None], Found]


KINDS: dict[About, InquiryKind] = {}
