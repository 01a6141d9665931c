"""The one way a browser is opened: for tests, for benches of pages, for the README's
pictures.
"""

from __future__ import annotations

import os

from playwright.sync_api import Browser, Playwright

FLAGS = [
    "--no-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


def opened(playwright: Playwright, *flags: str) -> Browser:
    """Headless Chromium, the system's own, with further flags; another one by CHROMIUM."""
    path = os.environ.get("CHROMIUM", "/usr/bin/chromium")
    return playwright.chromium.launch(executable_path=path, args=[*FLAGS, *flags])
