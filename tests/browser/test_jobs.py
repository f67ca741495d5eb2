"""Jobs of a coach from end to end, through the interface, with what it takes of clicks and keys."""

from __future__ import annotations

import re
from datetime import date

from playwright.sync_api import Locator, expect

from tests.browser.case import CHANGE, BrowserCase
from tests.kitchens import bowl, eaters, from_parts, planned
from tests.support import PASSWORD, database
from yantai.demo.sunday import egg_bake, lentil_pot, more_clients
from yantai.work.batches.inputs import BatchInput, DishInput, EaterInput
from yantai.work.batches.make import create_batch
from yantai.work.batches.views import PlanView
from yantai.work.clients.clients import save_client
from yantai.work.clients.inputs import ClientInput, TargetInput
from yantai.work.clients.views import TargetView
from yantai.work.recipes.inputs import RecipeInput
from yantai.work.recipes.recipes import save_recipe


class JobCase(BrowserCase):
    """Every click and every key counts: a field that is clicked into costs one, and each figure typed."""

    def setUp(self) -> None:
        super().setUp()
        email = self.own_kitchen()
        self.made = {"clicks": 0, "keys": 0}
        self.signed_in(email, PASSWORD)

    def click(self, what: Locator) -> None:
        self.made["clicks"] += 1
        what.click()

    def press(self, key: str) -> None:
        self.made["keys"] += 1
        self.page.keyboard.press(key)

    def type(self, into: Locator, text: str) -> None:
        """Click into a field and type over what stands there."""
        self.click(into)
        into.select_text()
        self.made["keys"] += len(text)
        self.page.keyboard.type(text)

    def choose(self, within: Locator, label: str, option: str) -> None:
        self.click(within.get_by_role("combobox", name=label, exact=True))
        self.click(self.page.get_by_role("option", name=option, exact=True))

    def button(self, name: str | re.Pattern[str], *, exact: bool = True) -> Locator:
        return self.page.get_by_role("button", name=name, exact=exact)

    def done_in(self, clicks: int, keys: int) -> None:
        self.assertLessEqual(self.made["clicks"], clicks, self.made)
        self.assertLessEqual(self.made["keys"], keys, self.made)
        self.assertGreater(self.made["clicks"], 0)

    def region(self, name: str) -> Locator:
        return self.page.get_by_role("region", name=name, exact=True)

    @property
    def main(self) -> Locator:
        return self.page.get_by_role("main")

    # What a kitchen has before a job begins.

    def client(self, given: ClientInput) -> list[TargetView]:
        return save_client(database(), self.who, given, None).targets

    def recipe(self, given: RecipeInput) -> DishInput:
        saved = save_recipe(database(), self.who, given, None)
        assert saved.id is not None
        return DishInput(recipe_id=saved.id, eaters=[])

    def two_dishes(self) -> PlanView:
        """The bowl for five lunches, and the same once more for three dinners: with two pots of everything."""
        lunch, dinner = self.client(eaters()[0])
        dish = self.recipe(bowl())
        dishes = [
            dish.model_copy(update={"eaters": [EaterInput(target_id=target.id, count=count)], "name": name})
            for target, count, name in ((lunch, 5, "Noon"), (dinner, 3, "Night"))
        ]
        plan = create_batch(database(), self.who, BatchInput(name="Two", cook_on=date(2026, 11, 29), dishes=dishes))
        self.page.goto(f"/batches/{plan.batch.id}")
        expect(self.page.get_by_role("heading", name="Two", exact=True)).to_be_visible()
        return plan


class FromNothing(JobCase):
    def test_four_equal_boxes(self) -> None:
        """A client, a recipe of three lines and a batch: grams and macros of four boxes."""
        page = self.page
        page.goto("/clients/new")
        self.type(page.get_by_label("Name", exact=True), "Runa")
        for label, figure in (("Protein", "45"), ("Carbohydrate", "55"), ("Fat", "16")):
            self.type(page.get_by_label(label, exact=True), figure)
        self.click(self.button("Save client"))
        expect(page.get_by_text("Runa is saved.")).to_be_visible()
        self.click(page.get_by_role("link", name="Recipes"))
        self.click(page.get_by_role("link", name="New recipe"))
        self.type(page.get_by_label("Name", exact=True), "Chicken and bulgur")
        for index, (name, method, words) in enumerate(
            [("Chicken", "roasted", "1200 g chicken thigh"), ("Bulgur", "boiled", "300 g bulgur")]
        ):
            if index:
                self.click(self.button("Add a component"))
            card = page.locator("main ol > li").nth(index)
            self.type(card.get_by_label("Component", exact=True), name)
            self.choose(card, "Cooked", method)
            self.type(card.get_by_label(f"Write an ingredient of {name}"), words)
            self.press("Enter")
            expect(card.get_by_role("listitem").get_by_role("button", name=CHANGE)).to_have_count(1)
        self.click(self.button("Save recipe"))
        expect(page.get_by_text("Chicken and bulgur is saved.")).to_be_visible()
        self.click(page.get_by_role("link", name="Batches"))
        self.click(page.get_by_role("link", name="Plan a batch"))
        self.type(page.get_by_label("Containers for Runa, lunch"), "4")
        self.click(self.button("Make the plan"))
        expect(page.get_by_role("heading", level=1, name="Chicken and bulgur")).to_be_visible()
        expect(self.cell(0, 1)).to_contain_text(re.compile(r"\d"))
        self.done_in(35, 150)


class Planning(JobCase):
    def test_bowls_for_a_week_for_two(self) -> None:
        """Two clients with two days' kinds of bowl, choices spread by the plan."""
        page = self.page
        for client in eaters():
            self.client(client)
        self.recipe(from_parts())
        page.goto("/batches/new")
        for who in ("Ada Vance, lunch", "Milo Brandt, lunch"):
            self.type(page.get_by_label(f"Containers for {who}"), "7")
        self.click(self.button("Make the plan"))
        expect(page.get_by_role("heading", level=1, name="Bowls from parts")).to_be_visible()
        self.click(self.button("Spread them").first)
        self.click(self.button("Spread the choices"))
        expect(page.get_by_text("not chosen")).to_have_count(0)
        self.done_in(90, 60)

    def test_three_dishes_for_nine_people(self) -> None:
        page = self.page
        lunch = TargetInput(slot="lunch", protein_g=40, carbohydrate_g=50, fat_g=16)
        nine = [*more_clients(), *(ClientInput(name=f"Rower {n}", targets=[lunch]) for n in "ABCDEF")]
        for client in nine:
            self.client(client)
        for recipe in (bowl(), egg_bake(), lentil_pot()):
            self.recipe(recipe)
        page.goto("/batches/new")
        table = page.get_by_role("table")
        self.choose(table, "Recipe", "Chicken bowl")
        self.click(self.button("Another dish"))
        self.choose(table, "Recipe of dish 2", "Egg and spinach tray")
        self.click(self.button("Another dish"))
        self.choose(table, "Recipe of dish 3", "Lentil pot")
        for name in "ABCDEF":
            self.type(page.get_by_label(f"Containers for Rower {name}, lunch"), "4")
        self.type(page.get_by_label("Containers for Ottilie Senn, lunch"), "5")
        for name in ("Runa Castellane", "Odell Marsh"):
            self.type(page.get_by_label(f"Containers of Egg and spinach tray for {name}, breakfast"), "4")
            self.type(page.get_by_label(f"Containers of Lentil pot for {name}, dinner"), "5")
        self.click(self.button("Make the plan"))
        expect(page.get_by_text("47 containers").first).to_be_visible()
        for dish in ("Chicken bowl", "Egg and spinach tray", "Lentil pot"):
            expect(self.button(f"Fold {dish}")).to_be_visible()
        self.done_in(120, 40)

    def test_last_week_again(self) -> None:
        planned(self.who)
        self.page.goto("/batches")
        self.click(self.page.get_by_role("link", name="Bowls"))
        self.click(self.button("Brief", exact=False))
        again = self.page.get_by_label("Again on")
        self.assertEqual(again.input_value(), "2026-12-06")
        self.click(self.button("Plan it again"))
        expect(self.page.get_by_text(re.compile("6 December")).first).to_be_visible()
        expect(self.cell(0, 1)).to_contain_text(re.compile(r"\d"))
        self.done_in(15, 0)


class Growing(JobCase):
    def test_one_of_five_in_a_smaller_box(self) -> None:
        self.two_dishes()
        self.click(self.button("Ada Vance, lunch", exact=False))
        self.click(self.page.get_by_text("Split, put together, take out"))
        self.type(self.page.get_by_label("Make a line of its own of"), "1")
        self.press("Enter")
        lines = self.button("Ada Vance, lunch", exact=False)
        expect(lines).to_have_count(2)
        expect(self.cell(1, 0)).to_contain_text("4")
        expect(self.cell(2, 0)).to_contain_text("1")
        self.click(lines.nth(1))
        self.type(self.region("Ada Vance").get_by_label("The container holds"), "300")
        self.press("Enter")
        expect(self.cell(2, 0)).to_contain_text("1")
        self.click(self.button("Undo"))
        self.click(self.button("Undo"))
        expect(lines).to_have_count(1)
        self.done_in(15, 10)

    def test_one_pot_for_two_dishes(self) -> None:
        self.two_dishes()
        offer = self.region("Cook in one pot?")
        expect(offer.get_by_role("button")).to_have_count(3)
        self.click(offer.get_by_role("listitem").filter(has_text="Bulgur").get_by_role("button"))
        expect(offer.get_by_role("button")).to_have_count(2)
        shared = self.page.get_by_role("columnheader").filter(has_text=re.compile("shared .* g"))
        expect(shared).to_have_count(2)
        expect(self.region("Pots").get_by_text(re.compile(r"^2 dishes: Noon .* g, Night .* g$"))).to_be_visible()
        self.done_in(3, 0)

    def test_cook_this_one_apart(self) -> None:
        ada, milo = eaters()
        (first, _), (second,) = self.client(ada), self.client(milo)
        dish = self.recipe(bowl())
        counts = [EaterInput(target_id=target.id, count=2) for target in (first, second)]
        plan = create_batch(
            database(),
            self.who,
            BatchInput(name="Apart", cook_on=date(2026, 11, 29), dishes=[dish.model_copy(update={"eaters": counts})]),
        )
        self.page.goto(f"/batches/{plan.batch.id}")
        self.click(self.button("Milo Brandt, lunch", exact=False))
        self.click(self.button("Cook Sauce apart for Milo Brandt"))
        expect(self.page.get_by_role("columnheader", name="for Milo Brandt")).to_be_visible()
        self.done_in(4, 0)

    def test_one_more_dish(self) -> None:
        self.two_dishes()
        self.recipe(lentil_pot())
        self.page.reload()
        self.click(self.button("Add a dish"))
        panel = self.region("Add a dish")
        self.choose(panel, "Recipe", "Lentil pot")
        self.click(panel.get_by_role("button", name="Add it"))
        dish = self.region("Lentil pot")
        self.click(dish.get_by_text("Add people"))
        self.type(dish.get_by_label("Ada Vance, dinner"), "2")
        self.press("Enter")
        expect(self.button("Ada Vance, dinner", exact=False)).to_have_count(2)
        self.done_in(8, 3)

    def test_a_client_cancels(self) -> None:
        self.two_dishes()
        self.click(self.button("Ada Vance, lunch", exact=False))
        self.click(self.page.get_by_text("Split, put together, take out"))
        self.click(self.button("Cancel all 2 lines of Ada Vance"))
        expect(self.button("Ada Vance, lunch", exact=False)).to_have_count(0)
        self.click(self.button("Undo"))
        expect(self.button("Ada Vance, lunch", exact=False)).to_have_count(1)
        expect(self.button("Ada Vance, dinner", exact=False)).to_have_count(1)
        self.done_in(5, 0)

    def test_deleted_and_brought_back(self) -> None:
        self.two_dishes()
        self.click(self.button("Brief", exact=False))
        self.click(self.button("Delete the batch"))
        expect(self.page.get_by_text("Two is deleted.")).to_be_visible()
        self.click(self.button("Open it"))
        self.click(self.button("Bring it back"))
        self.click(self.page.get_by_role("link", name="Batches"))
        expect(self.page.get_by_role("link", name="Two")).to_be_visible()
        self.done_in(6, 0)
