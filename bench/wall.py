"""What scrolling a large wall costs: 40 patches of 20 contenders, in headless Chromium
without a graphics processor.

Wanted: under 16 ms of the page's own thread for a step of the wheel, and under 400 MB
for the page's process.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
import psutil
from playwright.sync_api import CDPSession, Page, sync_playwright

from bench.setting import noisy, served, set_up_server, signed_in, work_off
from tests.browser.chromium import opened

PORT, CONTENDERS, PATCHES, STEPS = 8479, 20, 40, 60
WIDTH, HEIGHT = 1500, 1000
JSON = "application/json"
NOTCH = 100  # CSS px
FRAMES = "() => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)))"
# What the page's thread does, of Chromium's own counters, s.
PARTS = ("TaskDuration", "ScriptDuration", "LayoutDuration", "RecalcStyleDuration")


def main() -> None:
    """Print what a step takes, and what the page holds."""
    folder = set_up_server()
    study, cookie = _prepare(folder)
    with served(PORT) as address, sync_playwright() as playwright:
        browser = opened(playwright)
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        context.add_cookies([{"name": "sessionid", "value": cookie, "url": address}])
        page = context.new_page()
        page.goto(f"{address}/studies/{study}/compare")
        page.locator(".wall canvas").first.wait_for()
        page.wait_for_load_state("networkidle")
        for name in ("first time", "back", "again"):
            _scroll(page, name, -NOTCH if name == "back" else NOTCH)
        print(
            f"  drawn at one time: {page.locator('.wall canvas').count()} of"
            f" {CONTENDERS * PATCHES + 2 * PATCHES} crops"
        )
        browser.close()


def _prepare(folder: Path) -> tuple[int, str]:
    from django.test import Client

    from glenhail.core.files.encoding import write_tiff
    from glenhail.server.accounts.actions.members import add_member
    from glenhail.server.accounts.models import Bench, Role

    owner = add_member(Bench.objects.create(name="Bench"), "owner", "secret-words", Role.OWNER)
    client = Client(SERVER_NAME="localhost")
    client.force_login(owner)
    told = {"question": "Q?", "factor": "tool"}
    study: int = client.post("/api/studies", told, JSON).json()["id"]
    rng = np.random.default_rng(1)
    coarse = rng.random((HEIGHT // 25, WIDTH // 25, 3)).astype(np.float32)
    scene = np.clip(0.2 + 0.5 * coarse.repeat(25, axis=0).repeat(25, axis=1), 0, 1)
    path = folder / "picture.tif"
    write_tiff(path, noisy(scene, 400, 0))
    with path.open("rb") as file:
        frame: int = client.post("/api/frames", {"file": file}).json()["id"]
    client.post(f"/api/studies/{study}/frames", {"frame": frame}, JSON)
    for i in range(1, CONTENDERS + 1):
        step = {"tool": f"Tool {i}", "release": "1", "mode": "", "strength": 50, "settings": []}
        entered = client.post(f"/api/studies/{study}/contenders", {"steps": [step]}, JSON).json()
        write_tiff(path, noisy(scene, 400, i))
        with path.open("rb") as file:
            client.post(f"/api/contenders/{entered['id']}/outputs/{frame}", {"file": file})
    for i in range(PATCHES):
        x, y = 20 + 180 * (i % 8), 20 + 180 * (i // 8)
        body = {"frame": frame, "name": f"Patch {i}", "role": "flat", "w": 120, "h": 100}
        client.post(f"/api/studies/{study}/patches", body | {"x": x, "y": y}, JSON)
    work_off()
    return study, signed_in(owner)


def _scroll(page: Page, name: str, by: int) -> None:
    session = page.context.new_cdp_session(page)
    session.send("Performance.enable")
    page.mouse.move(640, 500)
    took = []
    for _ in range(STEPS):
        before = _counters(session)
        page.mouse.wheel(0, by)
        page.evaluate(FRAMES)
        took.append([1000 * v for v in _counters(session) - before])
    middle, high = np.quantile(took, (0.5, 0.95), axis=0)
    parts = ", ".join(
        f"{part.removesuffix('Duration').lower()} {m:.1f} / {h:.1f}"
        for part, m, h in zip(PARTS, middle, high, strict=True)
    )
    session.send("HeapProfiler.collectGarbage")
    told = {m["name"]: m["value"] for m in session.send("Performance.getMetrics")["metrics"]}
    print(
        f"  {name:12}{parts} ms (median / 95 %); page's process {_held():.0f} MB, of which"
        f" scripts {told['JSHeapUsedSize'] / 1e6:.0f}, {told['Nodes']:.0f} nodes"
    )
    session.detach()


def _counters(session: CDPSession) -> np.ndarray:
    told = {m["name"]: m["value"] for m in session.send("Performance.getMetrics")["metrics"]}
    return np.array([told[part] for part in PARTS])


def _held() -> float:
    """What the largest page process holds in memory, MB."""
    held = [0.0]
    for process in psutil.process_iter(["cmdline", "memory_info"]):
        if "--type=renderer" in (process.info["cmdline"] or []):
            held.append(process.info["memory_info"].rss / 1e6)
    return max(held)


if __name__ == "__main__":
    main()
