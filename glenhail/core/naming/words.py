"""Names taken apart into words, and how near a word of a file's name is to one that it
may stand for.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from difflib import SequenceMatcher
from pathlib import PurePosixPath

# "LoomTableKF51Thread" is five words, "sw3" and "s60" are two each.
PIECE = re.compile(r"[A-Z]+(?![a-z])|[A-Z]?[a-z]+|\d+")
PREVIEW = {"preview", "screen", "screenshot", "capture", "grab", "onscreen"}
# Words that say nothing of which file it is.
NOISE = {
    "tif",
    "tiff",
    "png",
    "jpg",
    "jpeg",
    "final",
    "export",
    "out",
    "output",
    "outputs",
    "copy",
    "edit",
    "edited",
    "result",
    "results",
    "img",
}
TYPO = 0.8  # share of letters alike


def pieces(name: str) -> list[str]:
    """The words and numbers of a name, in lower case, in order.

    Parameters
    ----------
    name : str
        By which it is known.
    """
    return [p.lower() for p in PIECE.findall(name)]


def compact(name: str) -> str:
    """Letters and digits alone, in lower case.

    Parameters
    ----------
    name : str
        By which it is known.
    """
    return "".join(pieces(name))


def path_pieces(path: str) -> list[str]:
    """The pieces of a path's folders and of its name without the ending.

    Parameters
    ----------
    path : str
        A path with forward slashes.
    """
    pure = PurePosixPath(path.replace("\\", "/"))
    return [p for part in (*pure.parts[:-1], pure.stem) for p in pieces(part)]


def stands_for(piece: str, word: str) -> float:
    """How likely a piece of a name stands for a word, 0..1: the word itself, its
    beginning, a typo, a few of its letters.

    Parameters
    ----------
    piece : str
        A piece of a file's name.
    word : str
        A word of a contender or a setting.
    """
    if piece == word:
        return 1.0
    if piece.isdigit() or word.isdigit() or len(piece) < 2:
        return 0.0
    if len(piece) >= 3 and word.startswith(piece):
        return 0.9
    if len(piece) >= 5 and SequenceMatcher(a=piece, b=word, autojunk=False).ratio() >= TYPO:
        return 0.8
    if len(piece) <= 4 and piece[0] == word[0] and _in_order(piece, word):
        return 0.5 if len(piece) > 2 else 0.4
    return 0.0


def _in_order(piece: str, word: str) -> bool:
    letters = iter(word)
    return all(letter in letters for letter in piece)


def best(pieces_: Iterable[str], word: str) -> float:
    """The likeliest that any of the pieces stands for the word.

    Parameters
    ----------
    pieces_ : iterable of str
        Pieces of a file's name.
    word : str
        A word of a contender or a setting.
    """
    return max((stands_for(p, word) for p in pieces_), default=0.0)
