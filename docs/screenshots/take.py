"""Takes every picture of this folder anew from a running `./run demo`, at 1280 x 800;
names in its arguments take only these.
"""

from __future__ import annotations

import os
import sys
from pathlib import Path
from typing import Any

from PIL import Image
from playwright.sync_api import Page, sync_playwright

from tests.browser.chromium import opened

ADDRESS = f"http://localhost:{os.environ.get('GLENHAIL_PORT', '8400')}"
FOLDER = Path(os.environ.get("SCREENSHOTS", Path(__file__).resolve().parent))
DRAWN = """() => [...document.querySelectorAll('canvas[data-complete]')].every(c => {
  const r = c.getBoundingClientRect();
  return r.bottom < 0 || r.top > innerHeight || c.dataset.complete === 'true';
}) && !document.querySelector('[aria-busy=true]')
  && !/being (measured|read|taken in|examined)|Comparing …/.test(document.body.innerText)"""
SETTLE_MS = 1200  # charts and fonts that come in softly
# What the user guide shows of them, smaller.
GUIDE = {
    "set-up": "set-up",
    "frame": "frame",
    "bring-in": "outputs",
    "like-for-like": "like-for-like",
    "wall": "wall",
    "publish": "publish",
}
GUIDE_FOLDER = FOLDER.parent / "guide"
GUIDE_SIZE, GUIDE_COLOURS = (960, 600), 160


def places(page: Page) -> dict[str, str]:
    """Each picture's address, by the sample studies' questions."""

    def get(path: str) -> Any:
        return page.evaluate("path => fetch(path).then(r => r.json())", path)

    studies = {s["question"]: s["id"] for s in get("/api/studies")}

    def study(words: str) -> int:
        return int(next(pk for question, pk in studies.items() if words in question))

    words = ("single threads", "before or after", "archive print", "33 MP body", "40 % of")
    main, order, enlarging, bodies, strength = (study(w) for w in words)
    whole = get(f"/api/studies/{main}")
    frame = whole["frames"][0]
    patch = next(p["id"] for p in whole["patches"] if p["role"] == "texture")
    reports = get("/api/reports")
    # The oldest report is the study that the other views show.
    edition = max(reports[-1]["editions"], key=lambda e: e["number"])
    return {
        "studies": "/studies",
        "set-up": f"/studies/{main}/set-up",
        "bring-in": f"/studies/{order}/bring-in",
        "like-for-like": f"/studies/{main}/audit",
        "wall": f"/studies/{main}/compare",
        "numbers": f"/studies/{main}/numbers",
        "series": f"/studies/{bodies}/series",
        "questions": f"/studies/{strength}/questions/strength",
        "answers": f"/studies/{enlarging}/answers",
        "close-look": f"/studies/{main}/look?patch={patch}&panes=U,A,B,T&zoom=2",
        "judge": f"/studies/{main}/judge",
        "sitting": _seat(page, get(f"/api/studies/{main}/sittings")),
        "publish": f"/studies/{main}/publish",
        "edition": edition["address"],
        "frames": "/frames",
        "frame": f"/frames/{frame['id']}",
        "tools": "/tools",
        "cameras": "/cameras",
        "targets": "/targets",
    }


def _seat(page: Page, sittings: Any) -> str:
    """The reviewer's seat in the open sitting, its screen checked."""
    sitting = next(s["id"] for s in sittings if s["state"] == "open")
    send = """([path, method, body]) => fetch(path, {method, body: JSON.stringify(body), headers: {
      "Content-Type": "application/json",
      "X-CSRFToken": document.cookie.match(/csrftoken=([^;]+)/)[1]}}).then(r => r.json())"""
    key = page.evaluate(send, [f"/api/sittings/{sitting}/seat", "POST", {}])["key"]
    page.evaluate(send, [f"/api/seats/{key}/screen", "PUT", {"told": {"dark_steps": 8}}])
    return f"/sit/{key}"


def main() -> None:
    """Sign in as the sample reviewer and take them."""
    wanted = set(sys.argv[1:])
    with sync_playwright() as playwright:
        browser = opened(playwright)
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.goto(f"{ADDRESS}/studies")
        page.get_by_label("Name").fill("reviewer")
        page.get_by_label("Password").fill("harrowbeck")
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("heading", name="Studies").wait_for()
        for name, path in places(page).items():
            if wanted and name not in wanted:
                continue
            page.goto(f"{ADDRESS}{path}")
            page.wait_for_load_state("networkidle" if name == "edition" else "load")
            page.wait_for_timeout(SETTLE_MS)
            page.wait_for_function(DRAWN, timeout=60_000)
            page.wait_for_timeout(SETTLE_MS)
            page.screenshot(path=FOLDER / f"{name}.png")
            if name in GUIDE:
                _for_the_guide(name)
            print(name, page.url, flush=True)
        browser.close()


def _for_the_guide(name: str) -> None:
    small = Image.open(FOLDER / f"{name}.png").convert("RGB").resize(GUIDE_SIZE, Image.LANCZOS)
    few = small.quantize(GUIDE_COLOURS, method=Image.Quantize.MEDIANCUT, dither=Image.Dither.NONE)
    few.save(GUIDE_FOLDER / f"{GUIDE[name]}.png", optimize=True)


if __name__ == "__main__":
    main()
