"""In the house: lines of what came in, what happens to a lot, and what the shopping list takes off."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from tests.browser.case import BrowserCase
from tests.support import database
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput
from yantai.work.recipes.recipes import save_recipe


class House(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_own_plan()

    def lot(self, name: str) -> Locator:
        return self.page.get_by_role("button", name=name, exact=False)

    def note(self, *lines: str) -> None:
        page = self.page
        page.goto("/house")
        page.get_by_label("What came into the house").fill("\n".join(lines))
        page.get_by_role("button", name="Read").click()
        read = page.get_by_role("list", name="Read, not noted yet").get_by_role("listitem")
        expect(read).to_have_count(len(lines))
        page.get_by_role("button", name="in the house").click()
        expect(page.get_by_text("noted.")).to_be_visible()

    def test_what_came_in_is_taken_off_the_list(self) -> None:
        page = self.page
        self.note("300 g skinless chicken thigh, use by tomorrow, paid 4.20", "700 g bulgur in the pantry")
        expect(page.get_by_text("2 lots, worth 4.20, without 1 of which no price is known")).to_be_visible()
        expect(page.get_by_role("heading", name="Use up soon")).to_be_visible()
        page.get_by_role("link", name="Who can eat Chicken bowl").first.click()
        self.page.wait_for_url("**/recipes/who-can-eat?recipe=*")
        page.goto(f"/batches/{self.batch_id}/shop")
        bulgur = page.get_by_role("listitem", name="Bulgur wheat", exact=True)
        expect(bulgur).to_contain_text("from the cupboard")

    def test_what_hurries_is_offered_to_a_new_batch(self) -> None:
        """To one that is cooked before it expires; the recipe takes the place of a dish that nobody eats yet."""
        page = self.page
        kale = LineInput(food_id=reference_id("kale-raw"), purchased_g=500)
        soup = ComponentInput(name="Soup", maximum_g=900, lines=[kale])
        save_recipe(database(), self.who, RecipeInput(name="A soup", components=[soup]), None)
        self.note("700 g bulgur in the pantry, use by tomorrow")
        page.goto("/batches/new")
        expect(page.get_by_label("Recipe", exact=True)).to_contain_text("A soup")
        hurries = page.get_by_role("listitem").filter(has_text="Bulgur wheat until")
        hurries.get_by_role("button", name="Chicken bowl").click()
        expect(page.get_by_label("Recipe", exact=True)).to_contain_text("Chicken bowl")
        expect(page.get_by_label("Name of the batch")).to_have_value(re.compile("^Chicken bowl"))
        page.get_by_label("Cook on").fill("2030-01-01")
        expect(hurries).to_have_count(0)

    def test_what_was_typed_survives_a_reload(self) -> None:
        page = self.page
        page.goto("/house")
        page.get_by_label("What came into the house").fill("300 g chicken thigh")
        page.reload()
        expect(page.get_by_label("What came into the house")).to_have_value("300 g chicken thigh")
        page.get_by_label("What came into the house").press("Enter")
        read = page.get_by_role("list", name="Read, not noted yet").get_by_role("listitem")
        expect(read).to_have_count(1)
        page.reload()
        expect(read).to_have_count(1)
        expect(read.get_by_label("All of it", exact=True)).to_have_value("300")

    def test_a_count_a_refusal_and_undo(self) -> None:
        page = self.page
        self.note("1 kg bulgur in the cupboard")
        self.lot("Bulgur wheat, 1,000 g").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("radio", name="Used").click()
        dialog.get_by_label("So much of it").fill("2000")
        self.expected_refusals += 1
        dialog.get_by_role("button", name="Note it").click()
        expect(dialog.get_by_role("alert")).to_contain_text("1,000 g of it are written down, less than 2,000 g")
        expect(dialog.get_by_label("So much of it")).to_have_value("2000")
        dialog.get_by_label("So much of it").fill("350+50")
        dialog.get_by_role("button", name="Note it").click()
        expect(dialog.get_by_role("heading", name="Bulgur wheat, 600 g")).to_be_visible()
        used = dialog.get_by_role("listitem").filter(has_text="used")
        used.get_by_role("button", name="Take back").click()
        expect(dialog.get_by_role("heading", name="Bulgur wheat, 1,000 g")).to_be_visible()

    def test_into_bags_for_the_freezer(self) -> None:
        page = self.page
        self.note("2 kg skinless chicken thigh")
        self.lot("Chicken thigh, skinless, 2,000 g").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("radio", name="Into bags").click()
        dialog.get_by_label("Bags", exact=True).fill("3")
        dialog.get_by_label("In each").fill("500")
        dialog.get_by_role("button", name="Note it").click()
        expect(dialog.get_by_role("heading", name="Chicken thigh, skinless, 500 g")).to_be_visible()
        page.keyboard.press("Escape")
        freezer = page.get_by_role("region", name="freezer")
        expect(freezer.get_by_role("button", name="Chicken thigh, skinless, 3 × 500 g")).to_be_visible()
        expect(freezer).to_contain_text("thaw in the fridge the day before")

    def test_another_food_is_another_weight(self) -> None:
        """Three onions of 110 g are 330 g; three courgettes of 196 g are 588 g."""
        page = self.page
        page.goto("/house")
        page.get_by_label("What came into the house").fill("3 onions")
        page.get_by_role("button", name="Read").click()
        row = page.get_by_role("list", name="Read, not noted yet").get_by_role("listitem")
        expect(row.get_by_label("All of it", exact=True)).to_have_value("330")
        row.get_by_role("button", name="Another food").click()
        page.get_by_placeholder("Type a food").fill("zucchini with skin raw")
        page.get_by_role("option", name="Zucchini, with skin").first.click()
        expect(row.get_by_label("All of it", exact=True)).to_have_value("588")
