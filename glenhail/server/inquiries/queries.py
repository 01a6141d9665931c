"""Finding inquiries."""

from __future__ import annotations

from django.db.models import QuerySet

from glenhail.server.inquiries.models import About, Inquiry
from glenhail.server.studies.models import Contender, Study


def find_inquiry(study: Study, about: About, subject: str = "") -> Inquiry | None:
    """What was asked of a study, and found; None before."""
    return Inquiry.objects.filter(study=study, about=about, subject=subject).first()


def inquiries_of(study: Study) -> QuerySet[Inquiry]:
    """All that was answered."""
    return Inquiry.objects.filter(study=study, found__isnull=False)


def has_evidence(study: Study, key: str) -> bool:
    """Whether a picture belongs to an answer of this study."""
    return inquiries_of(study).filter(found__contains={"cells": [{"key": key}]}).exists()


def contender_of(study: Study, letter: str) -> Contender | None:
    """Who contends under a letter."""
    return Contender.objects.filter(study=study, letter=letter).first()
