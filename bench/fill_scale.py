"""At the scale: a reading to the figure on screen, accepting to the next part, and 500 fills handed in at once.

YANTAI_TEST_DATABASE_URL=... PYTHONPATH=src:. python -m bench.fill_scale
"""

from __future__ import annotations

import statistics
import time
from collections.abc import Sequence

from playwright.sync_api import Page, expect
from tests.browser.test_fill import FillCase

FILLS = 500
KEPT_WITHIN_MS = 40
HEARD = """
  window.heard = []; window.delays = []; window.steps = [];
  const Plain = window.EventSource;
  window.EventSource = class extends Plain {
    set onmessage(listener) {
      super.onmessage = (event) => { window.heard.push(performance.now()); listener(event); };
    }
  };
  window.watchFigure = () => new MutationObserver(() => {
    const since = window.heard.at(-1);
    requestAnimationFrame(() => window.delays.push(performance.now() - since));
  }).observe(document.querySelector('[data-testid=still]'), { childList: true, characterData: true, subtree: true });
  window.watchStep = () => {
    let pressed = 0;
    addEventListener('keydown', (event) => {
      if (event.key === ' ' || event.key === 'e') pressed = performance.now();
    }, true);
    new MutationObserver(() => {
      if (!pressed) return;
      const since = pressed; pressed = 0;
      requestAnimationFrame(() => window.steps.push(performance.now() - since));
    }).observe(document.querySelector('main'), { childList: true, characterData: true, subtree: true });
  };
"""


class Bench(FillCase):
    """The kitchen of the browser tests, with a scale; run by hand, not by the tests."""

    def run_all(self) -> None:
        page = self.page
        page.add_init_script(HEARD)
        self.open()
        self.take_up(4)
        page.evaluate("window.watchFigure()")
        for grams in range(20, 120, 10):
            self.put(312 + grams)
            page.wait_for_timeout(700)
        tell("a reading to the figure on screen", page.evaluate("window.delays"))
        page.evaluate("window.watchStep()")
        self.put(0)
        for container in range(4, 11):
            self.go_to(container)
            for _ in self.containers()[container].parts:
                page.keyboard.press("e")
                page.wait_for_timeout(250)
        tell("accepting to the next part", page.evaluate("window.steps"))
        expect(page.get_by_text("All handed in")).to_be_visible()
        self.hand_in(page)

    def hand_in(self, page: Page) -> None:
        page.context.set_offline(True)
        self.go_to(11)
        for _ in range(FILLS // 2):
            page.keyboard.press("e")
            # What is pressed before the browser has kept it would be meant for the next part.
            page.wait_for_timeout(KEPT_WITHIN_MS)
            page.keyboard.press("z")
        status = page.get_by_role("status").filter(has_text="handed in")
        expect(status).to_contain_text(f"{FILLS} fills wait to be handed in")
        print("waiting:", status.inner_text())
        began = time.monotonic()
        page.context.set_offline(False)
        page.evaluate("window.dispatchEvent(new Event('online'))")
        page.get_by_text("All handed in").wait_for(timeout=300_000)
        print(f"{FILLS} fills handed in: {time.monotonic() - began:.1f} s")


def tell(what: str, took: Sequence[float]) -> None:
    ordered = sorted(took)
    print(
        f"{what}: median {statistics.median(ordered):.0f} ms, p95 {ordered[int(len(ordered) * 0.95) - 1]:.0f} ms"
        f" ({len(ordered)})"
    )


if __name__ == "__main__":
    case = Bench("run_all")
    case.setUp()
    case.run_all()
