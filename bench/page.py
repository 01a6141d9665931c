"""How soon the wall of the sample study can be used: all visible crops drawn.

Needs `./run demo` running. Wanted: under 1.5 s.
"""

from __future__ import annotations

import os
import time
import urllib.request

import numpy as np
from playwright.sync_api import Page, sync_playwright

from tests.browser.chromium import opened

ADDRESS = f"http://localhost:{os.environ.get('GLENHAIL_PORT', '8400')}"
RUNS = 7
DRAWN = (
    "() => { const c = [...document.querySelectorAll('.wall canvas')].slice(0, 5); return c.length"
    " === 5 && c.every(e => e.dataset.complete === 'true'); }"
)


def main() -> None:
    """Print the median over several fresh loads."""
    try:
        urllib.request.urlopen(f"{ADDRESS}/healthy", timeout=2)
    except OSError:
        print(f"page: not measured, nothing answers at {ADDRESS}; start ./run demo first")
        return
    with sync_playwright() as playwright:
        browser = opened(playwright)
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        times = [_load(page, _wall(page)) for _ in range(RUNS)]
        browser.close()
    print(
        f"study page usable, first row of crops drawn: median {np.median(times):.2f} s, worst"
        f" {max(times):.2f} s (wanted: under 1.5)"
    )


def _wall(page: Page) -> str:
    """Sign in once, and find the complete sample study."""
    page.goto(f"{ADDRESS}/studies")
    page.get_by_label("Password").or_(page.get_by_role("heading", name="Studies")).first.wait_for()
    if page.get_by_label("Password").count():
        page.get_by_label("Name").fill("reviewer")
        page.get_by_label("Password").fill("harrowbeck")
        page.get_by_role("button", name="Sign in").click()
    link = page.get_by_role("link", name="Which denoiser")
    return ADDRESS + str(link.get_attribute("href"))


def _load(page: Page, address: str) -> float:
    start = time.perf_counter()
    page.goto(address)
    page.wait_for_function(DRAWN)
    return time.perf_counter() - start


if __name__ == "__main__":
    main()
