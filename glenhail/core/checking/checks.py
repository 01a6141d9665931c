"""What a check found, and how many of each."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

EQUAL, DIFFERS, UNCHECKED = "equal", "differing", "not checkable"
STATES = (EQUAL, DIFFERS, UNCHECKED)


@dataclass(frozen=True)
class Check:
    """One thing that was compared: a file, a reading, a crop, a caption; ``why`` tells
    what differs, or why it can not be checked.
    """

    kind: str
    what: str
    state: str
    why: str = ""


def check(kind: str, what: str, same: bool, why: str) -> Check:
    """A comparison with its outcome.

    Parameters
    ----------
    kind, what : str
        What was compared.
    same : bool
        Whether it is what it should be.
    why : str
        What differs, if it does.
    """
    return Check(kind, what, EQUAL if same else DIFFERS, "" if same else why)


def counts(checks: Sequence[Check]) -> dict[str, int]:
    """How many are in each state.

    Parameters
    ----------
    checks : sequence of Check
        What was compared.
    """
    found = Counter(c.state for c in checks)
    return {state: found[state] for state in STATES}


def passes(checks: Sequence[Check], allow_missing: bool) -> bool:
    """Whether an edition is what it says it is.

    Parameters
    ----------
    checks : sequence of Check
        What was compared.
    allow_missing : bool
        Whether what can not be checked is forgiven.
    """
    found = counts(checks)
    return bool(checks) and not found[DIFFERS] and (allow_missing or not found[UNCHECKED])
