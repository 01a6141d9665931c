"""Words that sentences of every kind share."""

from __future__ import annotations

from collections.abc import Sequence


def listed(names: Sequence[str], last: str = "and") -> str:
    """“A”, “A and B”, “A, B and C”.

    Parameters
    ----------
    names : sequence of str
        Of none, nothing is said.
    last : str
        What stands before the last one.
    """
    return f" {last} ".join(filter(None, [", ".join(names[:-1]), *names[-1:]]))
