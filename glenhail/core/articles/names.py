"""Names of things as parts of file names and addresses."""

from __future__ import annotations

import re
from collections.abc import Iterable

LONGEST = 40


def file_part(name: str) -> str:
    """A name as part of a file name and an address.

    Parameters
    ----------
    name : str
        Of whatever script; "x" stands where nothing is left of it.
    """
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:LONGEST] or "x"


def file_parts(names: Iterable[str]) -> list[str]:
    """Names as parts of file names, no two alike.

    Parameters
    ----------
    names : iterable of str
        What would be the same is counted from 2 on.
    """
    made: list[str] = []
    for name in names:
        part, count = file_part(name), 2
        unique = part
        while unique in made:
            unique, count = f"{part}-{count}", count + 1
        made.append(unique)
    return made


def inline(name: str) -> str:
    """A name as it stands within a sentence.

    Parameters
    ----------
    name : str
        With a capital; abbreviations stay as they are.
    """
    return name if name[1:2].isupper() else name[:1].lower() + name[1:]
