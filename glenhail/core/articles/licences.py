"""Under which terms pictures are passed on: their licence, where they come from, and
whom to credit.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True)
class Licence:
    """A licence by its identifier.

    ``passed_on`` and ``changed`` tell whether others may be given the file, and
    what was made from it.
    """

    id: str
    title: str
    address: str = ""
    passed_on: bool = True
    changed: bool = True


_CC = "https://creativecommons.org"
# Identifiers and addresses as the SPDX licence list has them (from memory); LicenseRef- is what
# SPDX keeps for one's own.
LICENCES = {
    licence.id: licence
    for licence in (
        Licence("CC0-1.0", "CC0 1.0: no rights reserved", f"{_CC}/publicdomain/zero/1.0/"),
        Licence("CC-BY-4.0", "CC BY 4.0: with credit", f"{_CC}/licenses/by/4.0/"),
        Licence("CC-BY-SA-4.0", "CC BY-SA 4.0: with credit, alike", f"{_CC}/licenses/by-sa/4.0/"),
        Licence(
            "CC-BY-NC-4.0", "CC BY-NC 4.0: with credit, no trade", f"{_CC}/licenses/by-nc/4.0/"
        ),
        Licence(
            "CC-BY-NC-SA-4.0",
            "CC BY-NC-SA 4.0: with credit, no trade, alike",
            f"{_CC}/licenses/by-nc-sa/4.0/",
        ),
        Licence(
            "CC-BY-ND-4.0",
            "CC BY-ND 4.0: with credit, unchanged",
            f"{_CC}/licenses/by-nd/4.0/",
            changed=False,
        ),
        Licence(
            "CC-BY-NC-ND-4.0",
            "CC BY-NC-ND 4.0: with credit, no trade, unchanged",
            f"{_CC}/licenses/by-nc-nd/4.0/",
            changed=False,
        ),
        Licence("LicenseRef-to-check", "By permission: to check this report, nothing else"),
        Licence("LicenseRef-shown", "Shown in the report only: no file is passed on", "", False),
    )
}
NO_TERMS = "licence, source or credit of its frame are not told"
OWN_TERMS = "licence, source or credit of what was made are told in part"
NOT_PASSED_ON = "its licence does not let the file be passed on"
NOT_CHANGED = "the licence of its frame lets nobody pass on what was made from it"


@dataclass(frozen=True)
class Terms:
    """Licence (an identifier of ``LICENCES``), source and credit of a picture; empty
    where nobody told them.
    """

    licence: str = ""
    source: str = ""
    credit: str = ""

    @property
    def told(self) -> bool:
        """Whether anything of them is."""
        return bool(self.licence or self.source or self.credit)

    @property
    def complete(self) -> bool:
        """Whether all three are told."""
        return self.licence in LICENCES and bool(self.source.strip() and self.credit.strip())

    def as_json(self) -> dict[str, Any]:
        """For data that leaves: with the licence's title and address."""
        known = LICENCES.get(self.licence)
        return {
            "licence": self.licence,
            "title": known.title if known else "",
            "address": known.address if known else "",
            "source": self.source,
            "credit": self.credit,
        }


def why_kept_back(frame: Terms, own: Terms | None = None) -> str:
    """Why a file is not offered; empty where it may be.

    Parameters
    ----------
    frame : Terms
        Of the frame.
    own : Terms, optional
        Of what was made from it, which needs the frame's as well; None for the frame
        itself and its truth. Where nothing is told of it, the frame's hold; what is
        told in part is not enough.
    """
    if not frame.complete:
        return NO_TERMS
    terms = LICENCES[frame.licence]
    if not terms.passed_on:
        return NOT_PASSED_ON
    return "" if own is None else _why_made_kept_back(terms, own)


def _why_made_kept_back(frame: Licence, own: Terms) -> str:
    if not frame.changed:
        return NOT_CHANGED
    if not own.told:
        return ""
    theirs = LICENCES.get(own.licence)
    if theirs is not None and not theirs.passed_on:
        return NOT_PASSED_ON
    return "" if own.complete else OWN_TERMS


def licences_table(document: dict[str, Any]) -> list[dict[str, Any]]:
    """Terms of an edition's files, each once, with what they are of in words.

    Parameters
    ----------
    document : dict
        The edition.
    """
    rows: list[tuple[str, dict[str, Any]]] = []
    # Editions of earlier releases tell of none.
    frames = [f for f in document["frames"] if "terms" in f]
    for i, frame in enumerate(frames):
        terms = frame["terms"]
        if any(f["terms"] == terms for f in frames[:i]):
            continue
        names = [f["name"] for f in frames if f["terms"] == terms]
        whole = len(frames) > 1 and len(names) == len(frames)
        rows.append(("All frames" if whole else ", ".join(names), terms))
    told = [{"of": f"{of}, and what was made from {_it(of)}", **terms} for of, terms in rows]
    own = [c for c in document["contenders"] if c.get("terms")]
    return told + [{"of": f"Outputs of {c['letter']} as well", **c["terms"]} for c in own]


def _it(names: str) -> str:
    return "them" if "," in names or names == "All frames" else "it"
