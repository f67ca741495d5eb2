"""Shop: one list in the order of the aisles, in packs, for one batch or several."""

from __future__ import annotations

import re
from decimal import Decimal

from playwright.sync_api import Locator, expect
from pypdf import PdfReader

from tests.browser.case import BrowserCase
from tests.kitchens import CHICKEN, planned
from tests.support import database
from yantai.core.shopping.packs import Sold
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

    def test_as_a_pdf(self) -> None:
        self.page.get_by_role("button", name="Shop").click()
        with self.page.expect_download() as download:
            self.page.get_by_role("link", name="PDF").click()
        words = " ".join(PdfReader(download.value.path()).pages[0].extract_text().split())
        self.assertIn("Shop for Bowls", words)
        self.assertIn("Bulgur wheat", words)

    def test_pieces_and_what_is_weighed_at_the_counter(self) -> None:
        page = self.page
        packs = [PackInput(name="at the counter", grams=1000, price=8.9, sold=Sold.WEIGHT)]
        save_supply(database(), self.who, reference_id(CHICKEN), SupplyInput(packs=packs))
        page.goto(f"/batches/{self.batch_id}/shop")
        expect(self.item("Chicken thigh, skinless")).to_contain_text(re.compile(r"[\d,]+ g at the counter"))
        page.get_by_role("button", name="Go shopping").click()
        page.get_by_role("button", name="Chicken thigh, skinless: more").click()
        dialog = page.get_by_role("dialog", name="Chicken thigh, skinless")
        # The price follows what the scale at the counter says, until another is typed.
        dialog.get_by_label("In each").fill("2000")
        expect(dialog.get_by_label("Price of one")).to_have_value("17.8")
        dialog.get_by_role("button", name="Into the basket").click()
        expect(page.get_by_role("listitem", name="Chicken thigh, skinless")).to_contain_text(
            "In the basket: 2,000 g at the counter"
        )

    def test_a_cheaper_way_is_taken_and_undone(self) -> None:
        page = self.page
        dear = [PackInput(name="tray", grams=400, price=9.1)]
        save_supply(database(), self.who, reference_id(CHICKEN), SupplyInput(packs=dear))
        cheap = [PackInput(name="tray", grams=500, price=2)]
        save_supply(database(), self.who, reference_id("ground-turkey-93-lean-raw"), SupplyInput(packs=cheap))
        page.goto(f"/batches/{self.batch_id}/shop")
        page.get_by_role("button", name="What would make it cheaper?").click()
        way = (
            page.get_by_role("list", name="Cheaper ways")
            .get_by_role("listitem")
            .filter(has_text="Ground turkey, 93% lean instead of Chicken thigh, skinless")
        )
        way.get_by_role("button", name="Take it").click()
        expect(self.item("Ground turkey, 93% lean")).to_be_visible()
        expect(self.item("Chicken thigh, skinless")).to_have_count(0)
        page.goto(f"/batches/{self.batch_id}")
        page.get_by_role("button", name="Undo").click()
        page.goto(f"/batches/{self.batch_id}/shop")
        expect(self.item("Chicken thigh, skinless")).to_be_visible()

    def test_a_budget_in_the_brief_stands_in_the_plan_and_has_ways_out(self) -> None:
        page = self.page
        packs = [PackInput(name="tray", grams=400, price=9.1)]
        save_supply(database(), self.who, reference_id(CHICKEN), SupplyInput(packs=packs))
        page.goto(f"/batches/{self.batch_id}")
        page.get_by_role("button", name="Brief").click()
        page.get_by_label("A container costs at most").fill("nothing")
        page.get_by_role("button", name="Save the brief").click()
        expect(page.get_by_text("“nothing” is not a number")).to_be_visible()
        page.get_by_label("A container costs at most").fill("0.90")
        page.get_by_role("button", name="Save the brief").click()
        row = page.get_by_role("row", name="Ada Vance").first
        expect(row).to_contain_text(re.compile(r"\d\.\d\d"))
        row.get_by_role("button", name="Ada Vance, lunch: what is in this container").click()
        panel = page.get_by_role("complementary")
        expect(panel.get_by_text(re.compile(r"A container costs .* of at most 0\.90, .* over"))).to_be_visible()
        panel.get_by_role("button", name=re.compile(r"A budget of \d+\.\d\d a container instead of 0\.90")).click()
        expect(panel.get_by_text(re.compile("over"))).to_have_count(0)

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
