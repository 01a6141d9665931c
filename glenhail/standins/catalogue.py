"""What a made-up maker would tell of each stand-in, and the programs by which they are
run.
"""

from __future__ import annotations

import shlex
import sys
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[2]
# Program: the module that does the work, and the release it is to be.
PROGRAMS = {
    "sedgewash-2.4": ("sedgewash", "2.4"),
    "sedgewash-3.0": ("sedgewash", "3.0"),
    "keenfold-5.1": ("keenfold", "5.1"),
    "tarnlift-1.8": ("tarnlift", "1.8"),
    "mossgate-11": ("mossgate", "11"),
}


def install(folder: Path) -> None:
    """Put a starter for each program into a directory of allowed programs; those there
    already are left alone.
    """
    folder.mkdir(parents=True, exist_ok=True)
    for name, (module, release) in PROGRAMS.items():
        starter = folder / name
        text = (
            f"#!/bin/sh\nPYTHONPATH={shlex.quote(str(ROOT))} exec {shlex.quote(sys.executable)} -m"
            f" glenhail.standins.{module} "
            f'--release {release} "$@"\n'
        )
        if not starter.exists() or starter.read_text() != text:
            starter.write_text(text)
            starter.chmod(0o755)


def _number(
    name: str, title: str, unit: str, low: float, high: float, usual: float
) -> dict[str, Any]:
    return {
        "kind": "number",
        "name": name,
        "title": title,
        "unit": unit,
        "low": low,
        "high": high,
        "usual": usual,
    }


def _command(program: str, *more: str, ending: str = ".tif") -> dict[str, Any]:
    arguments = ["{input}", "{output}", "--strength={strength}", "--mode={mode}", *more]
    return {
        "program": program,
        "arguments": arguments,
        "ending": ending,
        "seconds": 600,
        "memory_mb": 6000,
        "output_mb": 2000,
    }


EVERYWHERE = ["Linux", "macOS", "Windows"]
# Tools with their releases, in the words of the application's own facts.
TOOLS: list[dict[str, Any]] = [
    {
        "name": "Sedgewash",
        "kind": "denoise",
        "maker": "Sedge & Daughters, a workshop of three",
        "licence": "one-off",
        "platforms": EVERYWHERE,
        "ways": ["alone", "command line"],
        "takes": "any",
        "largest": None,
        "batch": True,
        "notes": "The raw-only mode takes nothing but raw files.",
        "disclosure": "bought",
        "prices": [
            {"what": "licence", "amount": "49.00", "currency": "EUR", "checked": "2026-11-02"}
        ],
        "releases": [
            {
                "name": "2.4",
                "released": "2025-03-18",
                "news": "",
                "modes": ["standard", "raw-only"],
                "strength": True,
                "settings": [],
                "raw_modes": ["raw-only"],
                "command": _command("sedgewash-2.4"),
            },
            {
                "name": "3.0",
                "released": "2026-09-30",
                "news": "“Quieter shadows, and an even touch at every strength.”",
                "modes": ["standard", "raw-only"],
                "strength": True,
                "settings": [],
                "raw_modes": ["raw-only"],
                "command": _command("sedgewash-3.0"),
            },
        ],
    },
    {
        "name": "Keenfold",
        "kind": "sharpen",
        "maker": "Keenfold Optics",
        "licence": "subscription",
        "platforms": ["macOS", "Windows"],
        "ways": ["alone", "from another program", "command line"],
        "takes": "any",
        "largest": None,
        "batch": True,
        "notes": "",
        "disclosure": "lent",
        "prices": [
            {"what": "a month", "amount": "7.90", "currency": "EUR", "checked": "2026-11-02"},
            {"what": "a year", "amount": "79.00", "currency": "EUR", "checked": "2026-11-02"},
        ],
        "releases": [
            {
                "name": "5.1",
                "released": "2026-05-12",
                "news": "For shaken pictures.",
                "modes": ["thread", "broad", "sideways"],
                "strength": True,
                "settings": [],
                "raw_modes": [],
                "command": _command("keenfold-5.1"),
            },
        ],
    },
    {
        "name": "Mossgate",
        "kind": "several",
        "maker": "Mossgate House",
        "licence": "subscription",
        "platforms": EVERYWHERE,
        "ways": ["alone"],
        "takes": "any",
        "largest": None,
        "batch": False,
        "notes": "Works on a file while it opens it, so that its export looks quick.",
        "disclosure": "given",
        "prices": [
            {"what": "a month", "amount": "11.50", "currency": "EUR", "checked": "2026-10-28"}
        ],
        "releases": [
            {
                "name": "11",
                "released": "2026-08-21",
                "news": "",
                "modes": ["everything", "gentle"],
                "strength": True,
                "settings": [],
                "raw_modes": [],
                "command": _command("mossgate-11", ending=".png"),
            },
        ],
    },
    {
        "name": "Tarnlift",
        "kind": "enlarge",
        "maker": "T. Arnlift and friends",
        "licence": "trial",
        "platforms": ["Windows"],
        "ways": ["alone", "command line", "web page"],
        "takes": "any",
        "largest": 5,
        "batch": True,
        "notes": "The trial enlarges without limits for 14 days.",
        "disclosure": "bought",
        "prices": [
            {"what": "licence", "amount": "65.00", "currency": "EUR", "checked": "2026-11-02"}
        ],
        "releases": [
            {
                "name": "1.8",
                "released": "2026-02-04",
                "news": "",
                "modes": [],
                "strength": False,
                "raw_modes": [],
                "settings": [
                    _number("scale", "scale", "x", 1, 6, 2),
                    _number("detail", "detail", "%", 0, 100, 30),
                ],
                "command": {
                    "program": "tarnlift-1.8",
                    "arguments": ["{input}", "{output}", "--scale={scale}", "--detail={detail}"],
                    "ending": ".tif",
                    "seconds": 600,
                    "memory_mb": 6000,
                    "output_mb": 2000,
                },
            },
        ],
    },
]
