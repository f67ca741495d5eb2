"""A helper's phone, the order of the aisles, whole packs, and prices over time: what else stands around a list."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.case import BrowserCase
from tests.kitchens import CHICKEN
from tests.support import database
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.pantry.reference import reference_id


class Helpers(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_own_plan()

    def test_a_phone_is_paired_walks_the_list_and_is_ended(self) -> None:
        page = self.page
        page.goto(f"/batches/{self.batch_id}/shop")
        page.get_by_role("button", name="Go shopping").click()
        expect(page.get_by_role("heading", name="Shopping for Bowls")).to_be_visible()
        page.goto("/settings")
        devices = page.get_by_role("region", name="Phones and tablets")
        devices.get_by_label("Who helps").fill("Ravi")
        devices.get_by_role("button", name="Show a code").click()
        expect(devices.get_by_role("img", name="Code to scan for Ravi")).to_be_visible()
        code = devices.locator("p.figures").inner_text()

        phone = self.new_page()
        phone.set_viewport_size({"width": 390, "height": 844})
        phone.goto(f"/pair?code={code}")
        phone.get_by_role("button", name="Use this phone for shopping").click()
        phone.get_by_role("link", name="Bowls").click()
        basket = phone.get_by_role("checkbox", name="Bulgur wheat in the basket")
        basket.check()
        expect(phone.get_by_text("1 of 5")).to_be_visible()
        expect(phone.get_by_role("link", name="Clients")).to_have_count(0)
        # Another page of the application leads a helper back to the lists.
        phone.goto("/clients")
        expect(phone.get_by_role("heading", name="Shopping", level=1)).to_be_visible()

        page.reload()
        devices.get_by_role("button", name="Sign Ravi out").click()
        expect(page.get_by_text("Ravi is signed out.")).to_be_visible()
        self.expected_refusals += 4
        phone.reload()
        expect(phone.get_by_role("heading", name="Sign in")).to_be_visible()

    def test_a_wrong_code_is_told_and_what_was_typed_stays(self) -> None:
        page = self.page
        page.goto("/pair")
        page.get_by_label("Code from the coach").fill("ABCDE-FGHJK")
        self.expected_refusals += 1
        page.get_by_role("button", name="Use this phone for shopping").click()
        expect(page.get_by_text("Ask for a new one")).to_be_visible()
        expect(page.get_by_label("Code from the coach")).to_have_value("ABCDE-FGHJK")

    def test_the_aisles_in_the_order_of_this_coach(self) -> None:
        page = self.page
        page.goto(f"/batches/{self.batch_id}/shop")
        headings = page.get_by_role("main").get_by_role("heading", level=2)
        expect(headings.first).to_have_text("dry goods")
        page.get_by_role("button", name="Order of the aisles").click()
        dialog = page.get_by_role("dialog", name="The order of the aisles")
        up = dialog.get_by_role("button", name="meat earlier")
        while up.is_enabled():
            up.click()
        dialog.get_by_role("button", name="Save").click()
        expect(headings.first).to_have_text("meat")

    def test_whole_packs_decide_the_plan(self) -> None:
        packs = [PackInput(name="tray", grams=1150, price=6.9)]
        save_supply(database(), self.who, reference_id(CHICKEN), SupplyInput(packs=packs))
        page = self.page
        page.goto(f"/batches/{self.batch_id}/shop")
        chicken = page.get_by_role("listitem", name="Chicken thigh, skinless", exact=True)
        expect(chicken).to_contain_text("enough")
        chicken.get_by_role("button", name="Cook all of them").click()
        expect(chicken).to_contain_text("2,300 g needed")
        expect(chicken.get_by_role("button", name="Cook all of them")).to_have_count(0)

    def test_prices_and_amounts(self) -> None:
        page = self.page
        page.goto("/house/history")
        expect(page.get_by_role("heading", name="Nothing was bought yet")).to_be_visible()
        page.goto("/house")
        page.get_by_label("What came into the house").fill("1 kg bulgur, paid 2.70")
        page.get_by_role("button", name="Read").click()
        page.get_by_role("button", name="in the house").click()
        expect(page.get_by_text("noted.")).to_be_visible()
        page.get_by_role("link", name="Prices and amounts").click()
        expect(page.get_by_role("listitem", name="Bulgur wheat")).to_contain_text("1,000 g came in")
        expect(page.get_by_role("table", name="By year")).to_contain_text("2.70")
