"""Shop: one list in the order of the aisles, in packs, for one batch or several."""

from __future__ import annotations

import re
from decimal import Decimal

from playwright.sync_api import Locator, expect

from tests.browser.case import BrowserCase
from tests.kitchens import CHICKEN, planned
from tests.support import database
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.pantry.reference import reference_id


class Shop(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_own_plan()

    def item(self, name: str) -> Locator:
        return self.page.get_by_role("listitem", name=name, exact=True)

    def test_from_the_plan_to_the_list_and_back(self) -> None:
        page = self.page
        packs = [PackInput(name="tray", grams=400, price=3.1)]
        save_supply(database(), self.who, reference_id(CHICKEN), SupplyInput(packs=packs))
        page.get_by_role("button", name="Shop").click()
        expect(page.get_by_role("heading", name="Shop for Bowls", level=1)).to_be_visible()
        chicken = self.item("Chicken thigh, skinless")
        expect(chicken).to_contain_text("× tray 400 g")
        expect(page.get_by_text("without 4 foods of which no price is known")).to_be_visible()
        expect(page.get_by_role("region", name="meat")).to_contain_text("Chicken thigh, skinless")
        expect(page.get_by_role("region", name="look in the cupboard first")).to_contain_text("Salt, table")
        chicken.get_by_label("Chicken thigh, skinless, needed: where this comes from").click()
        expect(page.get_by_role("dialog").get_by_role("rowheader", name="Chicken")).to_be_visible()
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Brief").click()
        expect(page.get_by_label("The scale’s step")).to_be_visible()

    def test_it_is_copied_and_downloaded(self) -> None:
        page = self.page
        page.context.grant_permissions(["clipboard-read", "clipboard-write"])
        page.get_by_role("button", name="Shop").click()
        page.get_by_role("button", name="Copy as text").click()
        expect(page.get_by_text("The list is copied as text.")).to_be_visible()
        copied = page.evaluate("navigator.clipboard.readText()")
        self.assertRegex(copied, r"^Shop for Bowls\n\nDry goods\n- [\d,]+ g Bulgur wheat, dry\n")
        with page.expect_download() as download:
            page.get_by_role("link", name="CSV").click()
        text = download.value.path().read_text(encoding="utf-8")
        self.assertTrue(text.startswith("aisle,food,state,needed_g,in_house_g,to_buy_g,packs,left_g,cost,for\n"))

    def test_two_batches_in_one_trip(self) -> None:
        page = self.page
        planned(self.who)
        page.goto(f"/batches/{self.batch_id}/shop")
        bulgur = self.item("Bulgur wheat").get_by_label("Bulgur wheat, needed: where this comes from")
        expect(bulgur).to_be_visible()
        alone = bulgur.inner_text()
        page.get_by_role("checkbox", name="Bowls, Sun 29 November").check()
        expect(page.get_by_role("heading", name="Shop for Bowls and Bowls", level=1)).to_be_visible()
        expect(bulgur).not_to_have_text(alone)
        # The trip stands in the address: a reload opens the same.
        page.reload()
        expect(page.get_by_role("checkbox", name="Bowls, Sun 29 November")).to_be_checked()
        page.get_by_role("checkbox", name="Bowls, Sun 29 November").uncheck()
        expect(bulgur).to_have_text(alone)

    def test_what_it_costs_adds_up_and_stands_in_the_plan(self) -> None:
        page = self.page
        for food in (CHICKEN, "bulgur-wheat-dry"):
            packs = [PackInput(name="bag", grams=400, price=3.1)]
            save_supply(database(), self.who, reference_id(food), SupplyInput(packs=packs))
        page.goto(f"/batches/{self.batch_id}/shop")
        costs = page.get_by_role("region", name="What it costs")
        expect(costs.get_by_role("rowheader", name="Packs to buy")).to_be_visible()
        sums = costs.get_by_role("table", name="From packs to containers").get_by_role("row")
        figures = [row.get_by_role("cell").inner_text().replace("\u2212", "-") for row in sums.all()]
        paid, left, house, cooked, spare, held = (Decimal(figure) for figure in figures)
        self.assertEqual((paid + left + house, cooked + spare), (cooked, held))
        costs.get_by_label("What do you say a container costs?").fill("99")
        expect(costs.get_by_text("more than that")).to_be_visible()
        costs.get_by_role("button", name="What would make it cheaper?").click()
        expect(costs.get_by_text("No cheaper food")).to_be_visible()
        page.goto(f"/batches/{self.batch_id}?costs=true")
        expect(page.get_by_label("What they cost")).to_be_checked()
        expect(page.get_by_role("row", name="Ada Vance").first).to_contain_text(re.compile(r"\d\.\d\d"))

    def test_with_or_without_what_is_not_for_the_pots(self) -> None:
        page = self.page
        page.goto(f"/batches/{self.batch_id}/shop")
        expect(page.get_by_label("With what is added at eating")).to_be_checked()
        page.get_by_label("With what is added at eating").uncheck()
        page.get_by_label("With the extras of the clients’ days").check()
        page.reload()
        expect(page.get_by_label("With what is added at eating")).not_to_be_checked()
        expect(page.get_by_label("With the extras of the clients’ days")).to_be_checked()
