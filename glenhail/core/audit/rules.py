"""All rules for one output: what its line-up and its picture must keep to be compared
like for like.
"""

from __future__ import annotations

from glenhail.core.audit.finding import RuleBreach
from glenhail.core.audit.line_up_rules import LINE_UP
from glenhail.core.audit.output_rule import AuditedOutput, OutputRule
from glenhail.core.audit.tone_rules import TONE
from glenhail.core.audit.work_rules import WORK

OUTPUT_RULES = LINE_UP + TONE + WORK


def check_output(seen: AuditedOutput) -> list[RuleBreach]:
    """Everything that one output does not keep to.

    Parameters
    ----------
    seen : AuditedOutput
        All that the rules may ask for.
    """
    told = [(r, r.check(seen)) for r in _applying(seen)]
    return [mark for _, mark in told if mark is not None]


def _applying(seen: AuditedOutput) -> tuple[OutputRule, ...]:
    if seen.refused:
        return LINE_UP[:1]
    # Another body's noise and sharpness are what is compared.
    return LINE_UP + TONE if seen.another_shot else OUTPUT_RULES
