"""Takes the pictures of docs/screenshots from the demo data: `./yantai screenshots`."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import Page

from tests.browser.case import DESK, browser, choose, server
from tests.support import DEMO_DAY
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD

FOLDER = Path(__file__).parents[2] / "docs" / "screenshots"


def main() -> None:
    context = browser().new_context(
        viewport={"width": DESK[0], "height": DESK[1]}, base_url=server(), service_workers="block"
    )
    page = context.new_page()
    # An open stream of events would never let the network be idle.
    page.route("**/events", lambda route: route.fulfill(status=204))
    page.clock.set_fixed_time(datetime.combine(DEMO_DAY, datetime.min.time(), UTC).replace(hour=9))
    page.goto("/sign-in")
    page.get_by_label("E-mail address").fill(DEMO_EMAIL)
    page.get_by_label("Password").fill(DEMO_PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Today").wait_for()
    take(page, "today", "Today", lambda: page.goto("/"))
    take(page, "clients", "Clients", lambda: page.goto("/clients"))
    take(page, "client", "Ines Haverkamp", lambda: look_at_days(page))
    take(page, "recipes", "Recipes", lambda: page.goto("/recipes"))
    take(page, "recipe", "Turkey kofta tray", lambda: page.get_by_role("link", name="Turkey kofta tray").click())
    take(page, "recipe-asks", "Weeknight pan", lambda: write_a_recipe(page))
    take(page, "who-can-eat", "Who can eat what", lambda: page.goto("/recipes/who-can-eat"))
    take(page, "yields", "Yields", lambda: page.goto("/yields"))
    take(page, "settings", "Settings", lambda: look_at_a_switch(page))
    page.goto("/pantry?text=turkey")
    take(
        page,
        "pantry",
        "Yields to expect",
        lambda: page.get_by_role("button", name="Ground turkey, 93% lean raw").click(),
        level=3,
    )
    take(page, "batches", "Batches", lambda: page.goto("/batches"))
    page.goto("/batches")
    take(page, "plan", "Kofta Sunday", lambda: page.get_by_role("link", name="Kofta Sunday").click())
    take(page, "plan-ways-out", "Ways out", lambda: look_for_ways_out(page), level=3)
    page.get_by_role("button", name="Reach map").click()
    take(page, "plan-reach-map", "Reach map", lambda: page.get_by_text("lies inside").wait_for(), level=2)
    page.get_by_role("button", name="History").click()
    page.get_by_role("list", name="Changes").wait_for()
    take(page, "plan-days", "Ines Haverkamp, training day", lambda: view(page, "Whole days"), level=2)
    page.goto("/batches")
    sunday = "Sunday at the boathouse"
    take(page, "plan-dishes", sunday, lambda: page.get_by_role("link", name=sunday).click())
    take(page, "shop", f"Shop for {sunday}", lambda: page.get_by_role("button", name="Shop").click())
    page.goto("/batches")
    page.get_by_role("link", name="Kofta to go").click()
    take(page, "plan-beside", "Kofta to go", lambda: view(page, "Beside another batch"))
    page.goto("/batches")
    page.get_by_role("button", name="Tamsin Reyes").click()
    page.get_by_role("menuitem", name="Dark kitchen theme").click()
    page.goto("/batches")
    take(page, "plan-kitchen-theme", "Kofta Sunday", lambda: page.get_by_role("link", name="Kofta Sunday").click())


def write_a_recipe(page: Page) -> None:
    page.goto("/recipes/new")
    page.get_by_label("Name", exact=True).fill("Weeknight pan")
    page.get_by_label("Component", exact=True).fill("Turkey")
    choose(page, "Cooked", "pan-fried")
    lines = "2 onions, chopped\n1 cup (300 g) basmati rice\n1.2 kg turkey mince"
    page.get_by_label("Write an ingredient of Turkey").fill(lines)
    page.keyboard.press("Enter")
    page.get_by_text("Which food is it?").wait_for()
    page.get_by_text("Look here").first.wait_for()
    page.get_by_role("button", name="Leave it out").scroll_into_view_if_needed()


def look_at_days(page: Page) -> None:
    page.get_by_role("link", name="Ines Haverkamp").click()
    page.get_by_text("The day shall hold").first.wait_for()


def look_at_a_switch(page: Page) -> None:
    page.goto("/settings")
    choose(page, "Energy", "4/9/4 with fibre at 2 and polyols at 2.4")
    page.get_by_text("Before and after").wait_for()


def view(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name).click()
    page.get_by_role("table").first.wait_for()


def look_for_ways_out(page: Page) -> None:
    page.get_by_role("button", name="Ways out").first.click()
    page.get_by_role("region", name="Ways out").get_by_role("button").first.wait_for()


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
