"""Takes the pictures of docs/screenshots from the demo data: `./yantai screenshots`."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import Page

from tests.browser.case import CONTROLLED, DESK, TABLET, application, browser, server
from tests.support import DEMO_DAY
from yantai.api.access import get_now
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD

PHONE = (390, 844)
FOLDER = Path(__file__).parents[2] / "docs" / "screenshots"


def main() -> None:
    morning = datetime.combine(DEMO_DAY, datetime.min.time(), UTC).replace(hour=9)
    # The server has the day of the demo too, so that a picture is the same whenever it is taken.
    application().dependency_overrides[get_now] = lambda: morning
    context = browser().new_context(viewport={"width": DESK[0], "height": DESK[1]}, base_url=server())
    page = context.new_page()
    # An open stream of events would never let the network be idle.
    page.route("**/events", lambda route: route.fulfill(status=204))
    page.clock.set_fixed_time(morning)
    page.goto("/sign-in")
    page.get_by_label("E-mail address").fill(DEMO_EMAIL)
    page.get_by_label("Password").fill(DEMO_PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Today").wait_for()
    page.evaluate(CONTROLLED)
    take(page, "today", "Today", lambda: page.goto("/"))
    take(page, "clients", "Clients", lambda: page.goto("/clients"))
    take(page, "client", "Ines Haverkamp", lambda: look_at_days(page))
    take(page, "weeks", "Weeks of Wilf Tanaka", lambda: look_at_weeks(page))
    take_a_form(page)
    take(page, "recipes", "Recipes", lambda: page.goto("/recipes"))
    take(page, "recipe", "Turkey kofta tray", lambda: open_a_recipe(page))
    take(page, "who-can-eat", "Who can eat what", lambda: page.goto("/recipes/who-can-eat"))
    take(page, "yields", "Yields", lambda: page.goto("/yields"))
    page.goto("/pantry?text=turkey")
    take(
        page,
        "pantry",
        "Yields to expect",
        lambda: page.get_by_role("button", name="Ground turkey, 93% lean raw").click(),
        level=3,
    )
    take(page, "house", "In the house", lambda: page.goto("/house"))
    page.goto("/batches")
    take(page, "plan", "Kofta Sunday", lambda: page.get_by_role("link", name="Kofta Sunday").click())
    page.goto("/batches")
    sunday = "Sunday at the boathouse"
    page.get_by_role("link", name=sunday).click()
    take(page, "shop", f"Shop for {sunday}", lambda: page.get_by_role("button", name="Shop").click())
    take(page, "trip", f"Shopping for {sunday}", lambda: walk_a_list(page))
    page.set_viewport_size({"width": DESK[0], "height": DESK[1]})
    page.goto("/batches")
    page.get_by_role("link", name=sunday).click()
    take(page, "cook", re.compile("^Ready to fill at"), lambda: order_of_work(page), level=2)
    take(page, "weigh", f"Weigh {sunday}", lambda: weigh_a_pot(page))
    take(page, "hand-over", "Odell Marsh", lambda: hand_over(page), level=2)
    take_my_page(page)
    page.set_viewport_size({"width": TABLET[0], "height": TABLET[1]})
    page.get_by_role("button", name="Tamsin Reyes").click()
    page.get_by_role("menuitem", name="Dark kitchen theme").click()
    take(page, "fill", "Turkey kofta", lambda: fill_a_container(page), level=2)


def open_a_recipe(page: Page) -> None:
    """With the figures that follow from it."""
    page.get_by_role("link", name="Turkey kofta tray").click()
    page.get_by_text("About, by this recipe").first.wait_for()


def order_of_work(page: Page) -> None:
    """Of a day that has not begun."""
    stage(page, "Cook")


def stage(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Stages of this batch").get_by_role("button", name=name).click()


def weigh_a_pot(page: Page) -> None:
    """With what its weight would change, before it is recorded."""
    stage(page, "Weigh")
    page.get_by_role("list", name="Pots").get_by_role("button", name=re.compile("^Turkey kofta")).click()
    page.get_by_label("On the scale", exact=True).fill("2884")
    page.get_by_role("button", name="Roasting tray, large").click()
    page.get_by_text("What this weight changes").wait_for()


def hand_over(page: Page) -> None:
    """With a day for every container."""
    stage(page, "Hand over")
    page.get_by_role("button", name="Give every container its day").click()
    page.get_by_role("navigation", name="Clients").get_by_role("button", name="Odell Marsh").click()
    page.get_by_role("region", name=re.compile("^Mon 7 December")).wait_for()


def look_at_weeks(page: Page) -> None:
    page.goto("/clients")
    page.get_by_role("link", name="Wilf Tanaka").click()
    page.get_by_role("link", name="Weeks").click()


def take_a_form(page: Page) -> None:
    """The form of a newcomer as the coach takes it over."""
    page.goto("/clients/forms")
    read = page.get_by_role("link", name="Read the form of Nova Lind")
    take(page, "intake", "Form of Nova Lind", lambda: read.click())


def take_my_page(page: Page) -> None:
    """The client's own page on their phone, on the first day that they eat of it."""
    page.get_by_role("button", name="Their page").click()
    page.get_by_role("button", name="Make a link").click()
    address = page.get_by_test_id("link").inner_text()
    page.keyboard.press("Escape")
    context = browser().new_context(viewport={"width": PHONE[0], "height": PHONE[1]}, base_url=server())
    phone = context.new_page()
    take(phone, "my-page", re.compile("^Today, "), lambda: phone.goto(address))
    context.close()


def fill_a_container(page: Page) -> None:
    """On the tablet, in the kitchen theme, a spoonful before it is enough."""
    stage(page, "Fill")
    page.get_by_role("navigation", name="Containers").get_by_role("button").nth(5).click()
    page.get_by_label("Type what went in").fill("92")


def walk_a_list(page: Page) -> None:
    """On a phone, with two things in the basket."""
    page.set_viewport_size({"width": PHONE[0], "height": PHONE[1]})
    page.get_by_role("button", name="Go shopping").click()
    for food in ("Arugula", "Broccoli"):
        page.get_by_role("checkbox", name=f"{food} in the basket").check()
    page.get_by_text("2 of").wait_for()


def look_at_days(page: Page) -> None:
    page.get_by_role("link", name="Ines Haverkamp").click()
    page.get_by_text("The day shall hold").first.wait_for()


def take(page: Page, name: str, shows: str | re.Pattern[str], go: Callable[[], object], *, level: int = 1) -> None:
    """One picture, once this heading is there and nothing moves any more."""
    go()
    page.get_by_role("heading", name=shows, exact=isinstance(shows, str), level=level).wait_for()
    page.wait_for_load_state("networkidle")
    page.mouse.move(0, 0)
    page.screenshot(path=FOLDER / f"{name}.png")
    print(f"  {name}.png", flush=True)


if __name__ == "__main__":
    main()
