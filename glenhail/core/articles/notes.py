"""Footnotes of a text: written where they belong, as ``[^ what the note says]``, and
printed below it by their numbers.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

OPENS = "[^"
# What an address within a tag has opens and closes nothing.
OPENING = re.compile(r"<[^>]*>|\[\^")
CLOSING = re.compile(r"<[^>]*>|\]")
NAME = re.compile(r"</?\s*([a-zA-Z0-9]+)")
WITHIN = {"a", "em", "strong", "br"}  # tags that a note may have


@dataclass(frozen=True)
class Note:
    """A footnote by its number, and what it says, as HTML."""

    number: int
    text: str


def with_notes(html: str, first: int = 1) -> tuple[str, list[Note]]:
    """A text with the numbers of its notes in their places, each of which leads to
    ``#note-N`` and can be come back to at ``#ref-N``.

    What is no note stays as it is: one that nothing closes, says nothing, or goes over
    the end of its paragraph.

    Parameters
    ----------
    html : str
        Clean rich text.
    first : int
        The number of its first note.
    """
    notes: list[Note] = []
    made: list[str] = []
    at = 0
    while (start := _opening(html, at)) is not None:
        made.append(html[at:start])
        at = start + len(OPENS)
        end = _end(html, at)
        if end is None:
            made.append(OPENS)
            continue
        note = Note(first + len(notes), html[at:end].strip())
        notes.append(note)
        made.append(_reference(note.number))
        at = end + 1
    return "".join([*made, html[at:]]), notes


def _opening(html: str, at: int) -> int | None:
    """Where the next note may begin."""
    return next((m.start() for m in OPENING.finditer(html, at) if m[0] == OPENS), None)


def _end(html: str, at: int) -> int | None:
    """Where a note ends that begins here; None if it is none."""
    within: list[str] = []
    for found in CLOSING.finditer(html, at):
        if found[0] == "]":
            return None if within or not html[at : found.start()].strip() else found.start()
        if not _fits(found[0], within):
            return None
    return None


def _fits(tag: str, within: list[str]) -> bool:
    """Whether a tag may stand in a note, and ends only what began there; keeps what is
    open.
    """
    named = NAME.match(tag)
    name = named[1].lower() if named else ""
    if name not in WITHIN:
        return False
    if tag.startswith("</"):
        return bool(within) and within.pop() == name
    if name != "br":
        within.append(name)
    return True


def _reference(number: int) -> str:
    return f'<sup id="ref-{number}"><a href="#note-{number}">{number}</a></sup>'
