"""What was held and what was not, as JUnit XML: the form of results that build servers
read (windyroad, "JUnit Schema", which several of them share; from memory).
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from xml.etree import ElementTree as Xml

from glenhail.core.gate.held import BoundHeld, Outcome

# What no XML 1.0 document may hold (W3C, section 2.2).
NO_XML = re.compile("[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")
TYPES = {Outcome.BROKEN: "failure", Outcome.UNTOLD: "error"}


def junit(found: Sequence[BoundHeld], seconds: float) -> bytes:
    """A suite with a case for each rule at each place.

    Parameters
    ----------
    found : sequence of BoundHeld
        Of all frames.
    seconds : float
        What all of it took.
    """
    suite = Xml.Element(
        "testsuite",
        name="glenhail gate",
        tests=str(len(found)),
        failures=str(sum(held.outcome is Outcome.BROKEN for held in found)),
        errors=str(sum(held.outcome is Outcome.UNTOLD for held in found)),
        time=f"{seconds:.1f}",
    )
    for held in found:
        name = _clean(f"{held.rule}: {held.place}")
        case = Xml.SubElement(suite, "testcase", classname=_clean(held.frame), name=name)
        if held.outcome in TYPES:
            said = Xml.SubElement(case, TYPES[held.outcome], message=_clean(held.why))
            said.text = _clean(f"{held.frame}, {held.place}: {held.why}")
    return bytes(Xml.tostring(suite, encoding="utf-8", xml_declaration=True))


def _clean(text: str) -> str:
    return NO_XML.sub("�", text)
