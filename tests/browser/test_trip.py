"""Walking a list: ticked on a phone, without a network, by two people; what is not there; the till."""

from __future__ import annotations

import re
import uuid
from datetime import UTC, datetime

from playwright.sync_api import Locator, Page, Route, ViewportSize, expect

from tests.browser.case import BrowserCase
from tests.kitchens import CHICKEN
from tests.support import PASSWORD, database, new_email, second_coach
from yantai.core.shopping.trip import TripEvent
from yantai.store import tables
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.pantry.reference import reference_id

CHICKEN_NAME = "Chicken thigh, skinless"
PHONE: ViewportSize = {"width": 390, "height": 844}


def basket(page: Page, food: str = CHICKEN_NAME) -> Locator:
    return page.get_by_role("checkbox", name=f"{food} in the basket")


class Trip(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_own_plan()
        packs = [PackInput(name="tray", grams=400, price=3.1)]
        save_supply(database(), self.who, reference_id(CHICKEN), SupplyInput(packs=packs))
        self.page.goto(f"/batches/{self.batch_id}/shop")
        self.page.get_by_role("button", name="Go shopping").click()
        expect(self.page.get_by_role("heading", name="Shopping for Bowls", level=1)).to_be_visible()

    def test_ticked_on_the_phone_and_taken_out_again(self) -> None:
        page = self.page
        page.set_viewport_size(PHONE)
        expect(page.get_by_text("0 of 5")).to_be_visible()
        basket(page).check()
        expect(page.get_by_text("1 of 5")).to_be_visible()
        item = page.get_by_role("listitem", name=CHICKEN_NAME)
        expect(item).to_contain_text("In the basket:")
        page.reload()
        expect(basket(page)).to_be_checked()
        # What the browser finds out about itself stands above the list, and moves it once.
        expect(page.get_by_role("heading", name="Before you go")).to_be_visible()
        page.get_by_role("checkbox", name="Only what is left").check()
        expect(item).to_have_count(0)
        page.get_by_role("checkbox", name="Only what is left").uncheck()
        basket(page).uncheck()
        expect(page.get_by_text("0 of 5")).to_be_visible()
        page.get_by_role("radio", name="Component").click()
        expect(page.get_by_role("region", name="Chicken")).to_contain_text(CHICKEN_NAME)

    def test_a_tick_stays_while_the_list_is_asked_for_anew(self) -> None:
        page, held = self.page, list[Route]()
        expect(page.get_by_text("0 of 5")).to_be_visible()
        asked = re.compile(r"/api/v1/trips/[0-9a-f-]{36}$")
        page.route(asked, lambda route: held.append(route))
        with page.expect_request(asked):
            basket(page).check()
        self.assertTrue(basket(page).is_checked())
        while held:
            held.pop().continue_()
        page.unroute(asked)
        expect(page.get_by_text("1 of 5")).to_be_visible()
        expect(basket(page)).to_be_checked()

    def test_two_phones_without_a_network_agree_when_they_are_back(self) -> None:
        page, other = self.page, self.new_page()
        email = new_email()
        second_coach(self.who, "Ana Prieto", email)
        self.sign_in(email, PASSWORD, other)
        other.goto(page.url)
        expect(basket(other)).to_be_visible()
        self.expected_refusals += 60
        for one in (page, other):
            one.set_viewport_size(PHONE)
            one.context.set_offline(True)
        basket(page).check()
        basket(other, "Bulgur wheat").check()
        basket(other).check()
        expect(page.get_by_text("1 tick kept here until the server answers")).to_be_visible()
        expect(other.get_by_text("2 ticks kept here until the server answers")).to_be_visible()
        for one in (page, other):
            one.context.set_offline(False)
        for one in (page, other):
            expect(one.get_by_text("until the server answers")).to_have_count(0)
            expect(basket(one)).to_be_checked()
            expect(basket(one, "Bulgur wheat")).to_be_checked()
            expect(one.get_by_text("2 of 5")).to_be_visible()
            # Both put the same into their baskets: that is told to both.
            expect(one.get_by_text("Two of you have this in the basket")).to_have_count(1)

    def test_what_is_not_there_is_replaced_by_what_was_tried(self) -> None:
        page = self.page
        page.get_by_role("button", name=f"{CHICKEN_NAME}: more").click()
        dialog = page.get_by_role("dialog", name=CHICKEN_NAME)
        dialog.get_by_role("button", name="It is not there").click()
        first = dialog.get_by_role("list", name="Instead of it").get_by_role("button").first
        name = first.inner_text().split("\n")[0].rsplit(" ", 1)[0]
        first.click()
        expect(page.get_by_text(f"“Bowls” is planned with {name}")).to_be_visible()
        expect(basket(page, name)).to_be_checked()
        expect(basket(page)).to_have_count(0)

    def test_bought_otherwise_by_hand_and_the_till(self) -> None:
        page = self.page
        page.get_by_role("button", name=f"{CHICKEN_NAME}: more").click()
        dialog = page.get_by_role("dialog", name=CHICKEN_NAME)
        dialog.get_by_label("Packs").fill("2")
        dialog.get_by_label("In each").fill("1150")
        dialog.get_by_label("Called").fill("heavy tray")
        dialog.get_by_label("Price of one").fill("8.20")
        dialog.get_by_role("button", name="Into the basket").click()
        expect(page.get_by_role("listitem", name=CHICKEN_NAME)).to_contain_text("2 × heavy tray 1,150 g")
        page.get_by_placeholder("kitchen roll, a birthday cake").fill("kitchen roll")
        page.get_by_role("button", name="Add", exact=True).click()
        expect(page.get_by_role("region", name="Added by hand").get_by_text("kitchen roll")).to_be_visible()
        till = page.get_by_role("region", name="At the till")
        till.get_by_label("Paid in all").fill("20")
        expect(till.get_by_text("The items come to 16.40, 3.60 less than was paid")).to_be_visible()
        till.get_by_label(f"{CHICKEN_NAME}, paid").fill("17")
        page.reload()
        expect(till.get_by_label("Paid in all")).to_have_value("20")
        till.get_by_role("button", name="Done: 1 food into the house").click()
        expect(till.get_by_role("row", name=f"{CHICKEN_NAME}: 17.00 instead of 16.40")).to_contain_text("+0.60")
        expect(till.get_by_role("row", name="Not explained by the items")).to_contain_text("+3.00")
        page.get_by_role("link", name="in the house").click()
        expect(page.get_by_role("button", name=f"{CHICKEN_NAME}, 2 × 1,150 g")).to_be_visible()

    def test_four_thousand_items(self) -> None:
        """The page stands, the last of them is ticked, and the first is still there."""
        trip = uuid.UUID(self.page.url.rsplit("/", 1)[1])
        now = datetime.now(UTC)
        of_trip = {"workspace_id": self.who.workspace_id, "trip_id": trip, "made_by": "Coach"}
        when = {"happened_at": now, "made_at": now}
        with database().workspace(self.who.workspace_id) as session:
            session.add_all(
                tables.TripEntry(item=uuid.uuid4(), event=TripEvent.ADDED, text=f"item {n}", **of_trip, **when)
                for n in range(1, 4001)
            )
        self.page.reload()
        rows = self.page.get_by_role("region", name="Added by hand").get_by_role("listitem")
        expect(rows).to_have_count(4000)
        basket(self.page, "item 4000").check()
        expect(rows.last).to_contain_text("item 4000")
        self.page.reload()
        expect(basket(self.page, "item 4000")).to_be_checked()
        expect(basket(self.page, "item 1")).not_to_be_checked()

    def test_it_is_found_again_and_opened_again(self) -> None:
        page = self.page
        basket(page).check()
        expect(page.get_by_text("1 of 5")).to_be_visible()
        page.goto(f"/batches/{self.batch_id}/shop")
        page.get_by_role("link", name="Go on shopping").click()
        expect(basket(page)).to_be_checked()
        page.get_by_role("button", name="Done: 1 food into the house").click()
        expect(basket(page)).to_be_disabled()
        page.get_by_role("button", name="Open the trip again").click()
        expect(basket(page)).to_be_enabled()
