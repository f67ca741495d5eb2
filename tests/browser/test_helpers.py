"""A helper's phone, the order of the aisles, whole packs, and prices over time: what else stands around a list."""

from __future__ import annotations

import re
import uuid
from datetime import UTC, datetime

from playwright.sync_api import expect

from tests.browser.case import CONTROLLED, TABLET, BrowserCase
from tests.browser.test_cook import kitchen
from tests.kitchens import CHICKEN, planned
from tests.support import database
from yantai.core.rights import Right
from yantai.work.accounts.inputs import PairingInput
from yantai.work.accounts.pairing import start_pairing
from yantai.work.batches.reading import read_plan
from yantai.work.common.who import SignedIn
from yantai.work.cook.shown import read_cooking
from yantai.work.fill.shown import read_filling
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.pantry.reference import reference_id


class Tablets(BrowserCase):
    """A tablet in the kitchen that was paired to cook, weigh and fill."""

    size = TABLET
    service_workers = "allow"

    def setUp(self) -> None:
        super().setUp()
        self.own_kitchen()
        kitchen(self.who)
        self.batch_id = planned(self.who).batch.id
        asked = PairingInput(helper="Ravi", address="http://127.0.0.1", rights=[Right.COOK])
        self.code = start_pairing(database(), self.who, asked, "", datetime.now(UTC)).code
        self.page.goto(f"/pair?code={self.code}")
        self.page.get_by_role("button", name="Use this device to help").click()
        expect(self.page.get_by_role("heading", name="Cooking", level=1)).to_be_visible()

    def test_it_cooks_weighs_and_fills_and_leads_nowhere_else(self) -> None:
        page = self.page
        expect(page.get_by_role("navigation", name="Main").get_by_role("link")).to_have_text(["Cooking"])
        page.get_by_role("link", name="Bowls").click()
        page.get_by_role("button", name="Begin to cook").click()
        expect(page.get_by_role("button", name="Print the log")).to_be_visible()
        stages = page.get_by_role("navigation", name="Stages of this batch")
        expect(stages.get_by_role("listitem")).to_have_count(3)
        stages.get_by_role("button", name="Weigh").click()
        chicken = page.get_by_role("region", name="Chicken", exact=True)
        chicken.get_by_label("On the scale", exact=True).fill("1600")
        chicken.get_by_role("button", name="Record the weight").click()
        expect(page.get_by_role("button", name=re.compile("^Chicken 1,600 g"))).to_contain_text("weighed by Ravi")
        stages.get_by_role("button", name="Fill").click()
        page.get_by_role("navigation", name="Containers").get_by_role("button").nth(4).click()
        page.keyboard.press("e")
        expect(page.get_by_text("All handed in")).to_be_visible()
        self.assertEqual(noted_by(self.who, self.batch_id), {"Ravi"})
        for address in ("/clients", "/settings", f"/batches/{self.batch_id}", f"/batches/{self.batch_id}/shop"):
            page.goto(address)
            expect(page.get_by_role("heading", name="Cooking", level=1)).to_be_visible()

    def test_what_was_opened_once_goes_on_without_a_network_through_a_restart(self) -> None:
        page, context = self.page, self.page.context
        page.evaluate(CONTROLLED)
        for stage, heading in (("cook", "Cook Bowls"), ("weigh", "Weigh Bowls"), ("fill", "Fill Bowls")):
            page.goto(f"/batches/{self.batch_id}/{stage}")
            expect(page.get_by_role("heading", name=heading, level=1)).to_be_visible()
            page.wait_for_load_state("load")
        expect(page.get_by_test_id("still")).to_be_visible()
        self.expected_refusals += 400
        context.set_offline(True)
        page.close()
        page = self.page = context.new_page()
        page.goto(f"/batches/{self.batch_id}/cook")
        page.get_by_role("button", name="Begin to cook").click()
        expect(page.get_by_role("button", name="1 note waits to be handed in")).to_be_visible()
        page.goto(f"/batches/{self.batch_id}/weigh")
        chicken = page.get_by_role("region", name="Chicken", exact=True)
        chicken.get_by_label("On the scale", exact=True).fill("1600")
        chicken.get_by_role("button", name="Record the weight").click()
        card = page.get_by_role("button", name=re.compile("^Chicken 1,600 g"))
        expect(card).to_contain_text("waits to be handed in")
        page.reload()
        expect(card).to_contain_text("waits to be handed in")
        # The next pot is open: nobody weighs the same twice.
        expect(page.get_by_role("region", name="Bulgur", exact=True)).to_be_visible()
        page.goto(f"/batches/{self.batch_id}/fill")
        page.get_by_role("navigation", name="Containers").get_by_role("button").nth(4).click()
        page.keyboard.press("e")
        expect(page.get_by_role("button", name="1 note, 1 weight and 1 fill wait to be handed in")).to_be_visible()
        context.set_offline(False)
        expect(page.get_by_text("All handed in")).to_be_visible()
        expect(page.get_by_role("button", name="to be handed in")).to_have_count(0)
        plan = read_plan(database(), self.who, self.batch_id)
        weighing = next(one for one in plan.components if one.name == "Chicken").weighing
        assert weighing is not None
        self.assertEqual((weighing.cooked_g, weighing.weighed_by), (1600, "Ravi"))
        self.assertEqual(noted_by(self.who, self.batch_id), {"Ravi"})
        live = read_cooking(database(), self.who, self.batch_id, datetime.now(UTC)).live
        self.assertIsNotNone(live)


def noted_by(who: SignedIn, batch_id: uuid.UUID) -> set[str]:
    """Who noted what is in the containers of a batch."""
    found = read_filling(database(), who, batch_id)
    return {part.filled.made_by for box in found.containers for part in box.parts if part.filled is not None}


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
        expect(devices.get_by_role("button", name="Show a code")).to_be_disabled()
        devices.get_by_label("Walk the shopping list").check()
        devices.get_by_role("button", name="Show a code").click()
        expect(devices.get_by_role("img", name="Code to scan for Ravi")).to_be_visible()
        code = devices.locator("p.figures").inner_text()

        phone = self.new_page()
        phone.set_viewport_size({"width": 390, "height": 844})
        phone.goto(f"/pair?code={code}")
        phone.get_by_role("button", name="Use this device to help").click()
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
        page.get_by_role("button", name="Use this device to help").click()
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
