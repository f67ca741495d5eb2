"""Takes the pictures of docs/screenshots from the demo data: `./yantai screenshots`."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import Page

from tests.browser.case import DEMO_DAY, DESK, browser, server
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD

FOLDER = Path(__file__).parents[2] / "docs" / "screenshots"


def main() -> None:
    context = browser().new_context(viewport={"width": DESK[0], "height": DESK[1]}, base_url=server())
    page = context.new_page()
    page.clock.set_fixed_time(datetime.combine(DEMO_DAY, datetime.min.time(), UTC).replace(hour=9))
    take(page, "sign-in", "Sign in", lambda: page.goto("/sign-in"))
    page.get_by_label("E-mail address").fill(DEMO_EMAIL)
    page.get_by_label("Password").fill(DEMO_PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Today").wait_for()
    take(page, "today", "Today", lambda: page.goto("/"))
    take(page, "clients", "Clients", lambda: page.goto("/clients"))
    take(page, "client", "Ines Haverkamp", lambda: page.get_by_role("link", name="Ines Haverkamp").click())
    take(page, "recipes", "Recipes", lambda: page.goto("/recipes"))
    take(page, "recipe", "Turkey kofta tray", lambda: page.get_by_role("link", name="Turkey kofta tray").click())
    page.goto("/pantry?text=turkey")
    take(
        page,
        "pantry",
        "Yields to expect",
        lambda: page.get_by_role("button", name="Ground turkey, 93% lean raw").click(),
        level=3,
    )
    take(page, "batches", "Batches", lambda: page.goto("/batches"))
    take(page, "new-batch", "Plan a batch", lambda: page.goto("/batches/new"))
    page.goto("/batches")
    take(page, "plan", "Kofta Sunday", lambda: page.get_by_role("link", name="Kofta Sunday").click())
    take(
        page,
        "plan-weigh-in",
        "Weigh what came out",
        lambda: page.get_by_role("button", name="Turkey kofta").first.click(),
        level=3,
    )
    page.get_by_role("button", name="Close Turkey kofta").click()
    take(page, "plan-what-moved", "Kofta Sunday", lambda: change_a_target(page))
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Do again").and_(page.locator(":enabled")).wait_for()
    page.goto("/batches")
    take(
        page, "plan-packed", "Bean stew Wednesday", lambda: page.get_by_role("link", name="Bean stew Wednesday").click()
    )
    page.get_by_role("button", name="Tamsin Reyes").click()
    page.get_by_role("menuitem", name="Dark kitchen theme").click()
    page.goto("/batches")
    take(page, "plan-kitchen-theme", "Kofta Sunday", lambda: page.get_by_role("link", name="Kofta Sunday").click())


def change_a_target(page: Page) -> None:
    page.locator('[data-place="0:5"]').focus()
    page.keyboard.type("52")
    page.keyboard.press("Enter")
    page.get_by_text("was").first.wait_for()


def take(page: Page, name: str, shows: str, go: Callable[[], object], *, level: int = 1) -> None:
    """One picture, once this heading is there and nothing moves any more."""
    go()
    page.get_by_role("heading", name=shows, exact=True, level=level).wait_for()
    page.wait_for_load_state("networkidle")
    page.mouse.move(0, 0)
    page.screenshot(path=FOLDER / f"{name}.png")
    print(f"  {name}.png", flush=True)


if __name__ == "__main__":
    main()
