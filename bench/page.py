"""Browser benchmarks against a running demo: first page, and a keystroke to new figures.

Run ./yantai start in one terminal, then: PYTHONPATH=src python -m bench.page [ADDRESS]
"""

from __future__ import annotations

import gzip
import statistics
import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from yantai.launcher.system import CHROMIUM

ADDRESS = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8420"
ASSETS = Path(__file__).parents[1] / "src" / "yantai" / "web" / "assets"

KEY_TO_FIGURES = """() => new Promise((done) => {
  const cell = document.querySelector('[data-place="0:1"]');
  const grams = cell.querySelector('.figures').textContent;
  const started = performance.now();
  const seen = new MutationObserver(() => {
    if (document.querySelector('[data-place="0:1"] .figures')?.textContent === grams) return;
    seen.disconnect();
    requestAnimationFrame(() => done(performance.now() - started));
  });
  seen.observe(document.querySelector('main'), { subtree: true, childList: true, characterData: true });
  cell.dispatchEvent(new KeyboardEvent('keydown', { key: ']', bubbles: true }));
})"""


def first_page(page: Page) -> float:
    """Milliseconds from the request of Today, with an empty cache, to its heading on screen."""
    page.goto(ADDRESS)
    page.get_by_role("heading", name="Today").wait_for()
    return float(page.evaluate("performance.now()"))


def main() -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=["--no-sandbox", "--disable-gpu"])
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        page = context.new_page()
        page.goto(f"{ADDRESS}/sign-in")
        page.get_by_role("button", name="Fill these in").click()
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("heading", name="Today").wait_for()
        cookies = context.cookies()
        loads = []
        for _ in range(7):
            fresh = browser.new_context(viewport={"width": 1280, "height": 800})
            fresh.add_cookies(cookies)  # type: ignore[arg-type]
            loads.append(first_page(fresh.new_page()))
            fresh.close()
        print(f"first page, empty cache: median {statistics.median(loads):.0f} ms, worst {max(loads):.0f} ms")
        # An open stream of events would never let the network be idle.
        page.route("**/events", lambda route: route.fulfill(status=204))
        page.get_by_role("link", name="Open the plan").first.click()
        page.locator('[data-place="0:1"]').focus()
        keys = [page.evaluate(KEY_TO_FIGURES) for _ in range(30)]
        keys.sort()
        print(f"keystroke in a cell to its own figure: median {statistics.median(keys):.0f} ms, p95 {keys[28]:.0f} ms")
        for _ in range(30):
            page.get_by_role("button", name="Undo").click()
            page.wait_for_load_state("networkidle")
        browser.close()
    first = list(ASSETS.glob("index-*.js"))
    size = sum(len(gzip.compress(file.read_bytes())) for file in first)
    print(f"first JavaScript: {size / 1000:.0f} kB gzipped")


if __name__ == "__main__":
    main()
