"""Recipes as they are written: typed, pasted, asked about, mended, scaled."""

from __future__ import annotations

import json

from playwright.sync_api import Locator, Route, expect

from tests.browser.case import BrowserCase, choose, line, line_field, step
from tests.kitchens import bowl
from tests.support import PASSWORD, database
from yantai.work.recipes.recipes import list_recipes, read_recipe, save_recipe
from yantai.work.recipes.views import RecipeView


class Writing(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.signed_in(self.own_kitchen(), PASSWORD)
        self.page.goto("/recipes/new")
        self.page.get_by_label("Name", exact=True).fill("Weeknight pan")
        self.card = self.page.locator("main ol > li").first
        self.card.get_by_label("Component", exact=True).fill("Turkey")

    def field(self) -> Locator:
        return self.card.get_by_label("Write an ingredient of Turkey")

    def write(self, text: str) -> None:
        self.field().fill(text)
        self.field().press("Enter")

    def saved(self) -> RecipeView:
        self.page.get_by_role("button", name="Save recipe").click()
        expect(self.page.get_by_text("Weeknight pan is saved.")).to_be_visible()
        (brief,) = list_recipes(database(), self.who)
        return read_recipe(database(), self.who, brief.id)

    def test_line_after_line_without_the_mouse(self) -> None:
        self.field().focus()
        for text in ("1.2 kg turkey mince, 93 % lean", "2 onions, chopped", "812 - 764 g olive oil"):
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")
            expect(self.field()).to_have_value("")
        expect(line(self.card, "Ground turkey, 93% lean")).to_contain_text("1,200 g")
        expect(line(self.card, "Onion")).to_contain_text("220 g")
        # As it was written, and the food it was taken for.
        expect(line(self.card, "Onion")).to_contain_text("2 onions, chopped Onion")
        expect(line(self.card, "Olive oil")).to_contain_text("48 g")
        expect(self.card.get_by_label("protein in 100 g: where this comes from")).to_be_visible()
        lines = self.saved().components[0].lines
        self.assertEqual(lines[0].text, "1.2 kg turkey mince, 93 % lean")

    def test_who_types_on_while_a_line_is_read_loses_nothing(self) -> None:
        held: list[Route] = []
        reading = "**/api/v1/recipes/read"
        self.page.route(reading, lambda route: held.append(route), times=1)
        with self.page.expect_request(reading):
            self.write("1.2 kg turkey mince")
        for text in ("2 onions, chopped", "48 g olive oil"):
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")
        self.page.keyboard.type("250 g")
        held[0].continue_()
        expect(line(self.card, "Onion")).to_contain_text("220 g")
        expect(line(self.card, "Olive oil")).to_contain_text("48 g")
        expect(self.card.get_by_text("“1.2 kg turkey mince”")).to_be_visible()
        expect(self.field()).to_have_value("250 g")
        expect(self.field()).to_be_focused()

    def test_what_is_unclear_is_asked_by_keyboard_and_remembered(self) -> None:
        self.write("1.2 kg turkey mince")
        expect(self.card.get_by_text("Which food is it?")).to_be_visible()
        first = self.card.get_by_label("Lines to answer").get_by_role("button", name="Ground turkey, 93% lean raw")
        expect(first).to_be_focused()
        self.page.keyboard.press("Enter")
        expect(line(self.card, "Ground turkey, 93% lean")).to_contain_text("1,200 g")
        expect(self.field()).to_be_focused()
        self.write("300 g turkey mince")
        expect(line(self.card, "Ground turkey, 93% lean")).to_have_count(2)

    def test_a_number_with_two_readings_is_taken_with_enter_or_typed(self) -> None:
        self.write("1.500 g potatoes")
        expect(self.card.get_by_text("this can be 1500 g or 1.5 g", exact=False)).to_be_visible()
        weight = self.card.get_by_label("Lines to answer").get_by_role("textbox")
        expect(weight).to_be_focused()
        expect(weight).to_have_value("1500")
        weight.press("Enter")
        expect(line(self.card, "Potato, with skin")).to_contain_text("1,500 g")

    def test_what_goes_off_is_offered_where_the_line_has_it(self) -> None:
        self.write("1.5 kg chicken thighs, bone in, skin on")
        expect(self.field()).to_have_value("")
        self.write("600 g salmon fillet")
        thigh = "Chicken thigh, with skin"
        expect(self.card.get_by_text("25 % goes off.")).to_be_visible()
        expect(line(self.card, "Salmon, Atlantic, farmed")).to_contain_text("600 g")
        self.card.get_by_role("button", name="Take it off").click()
        expect(line(self.card, thigh)).to_contain_text("25 % off")
        expect(self.card.get_by_text("goes off")).to_have_count(0)

    def test_another_food_for_a_line_weighs_it_anew(self) -> None:
        """Three cups of rice are not three cups of oats."""
        self.write("3 cups rice")
        rice = line_field(self.card, "Rice, white, long-grain")
        expect(rice).to_have_value("586.5")
        self.card.get_by_role("button", name="Rice, white, long-grain: more").click()
        self.card.get_by_role("button", name="Another food for this line").click()
        self.page.get_by_role("dialog").get_by_role("combobox").fill("rolled oats")
        self.page.get_by_role("option", name="Oats, rolled").first.click()
        expect(self.card.get_by_label("Oats, rolled, bought")).not_to_have_value("586.5")
        grams = float(line_field(self.card, "Oats, rolled").input_value())
        self.assertTrue(240 < grams < 320, grams)

    def save_by_keys(self) -> None:
        """And what it said before is gone, so that what is seen is what it says now."""
        expect(self.page.locator("[data-sonner-toast]")).to_have_count(0)
        self.page.keyboard.press("Control+s")

    def test_a_line_that_waits_for_its_answer_is_not_lost(self) -> None:
        self.write("200 g bulgur")
        expect(line(self.card, "Bulgur wheat")).to_contain_text("200 g")
        self.write("1 dragonfruit")
        waiting = self.card.get_by_text("“1 dragonfruit”")
        expect(waiting).to_be_visible()
        # The figures beside it do not look final.
        expect(self.card.get_by_text("without 1 line that waits for its answer")).to_be_visible()
        self.page.get_by_role("button", name="Scale", exact=True).click()
        self.page.get_by_role("button", name="Scale it").click()
        expect(line(self.card, "Bulgur wheat")).to_contain_text("400 g")
        expect(waiting).to_be_visible()
        for save in (self.page.get_by_role("button", name="Save recipe").click, self.save_by_keys):
            save()
            told = self.page.get_by_text("1 written line to answer first, or to leave out.")
            expect(told.first).to_be_visible()
            expect(waiting).to_be_visible()
            self.assertEqual(list_recipes(database(), self.who), [])
        self.card.get_by_role("button", name="Leave it out").click()
        self.assertEqual(len(self.saved().components[0].lines), 1)

    def test_a_missing_measure_asks_for_the_grams(self) -> None:
        self.write("2 handfuls bulgur")
        expect(self.card.get_by_text("How much Bulgur wheat is it?")).to_be_visible()
        self.card.get_by_label("Bulgur wheat, weight").fill("60+60")
        self.page.keyboard.press("Enter")
        expect(line(self.card, "Bulgur wheat")).to_be_visible()
        self.assertEqual(self.saved().components[0].lines[0].purchased_g, 120)

    def test_a_pasted_page_brings_lines_and_steps(self) -> None:
        recipe = {
            "@type": "Recipe",
            "recipeIngredient": ["500 g turkey mince, 93 % lean", "1 <b>dragonfruit</b>"],
            "recipeInstructions": [{"@type": "HowToStep", "text": "Bake at 400 F for 20 minutes"}],
        }
        self.field().fill(json.dumps(recipe))
        self.field().press("Enter")
        expect(line(self.card, "Ground turkey, 93% lean")).to_contain_text("500 g")
        expect(self.card.get_by_text("“1 dragonfruit”")).to_be_visible()
        self.card.get_by_role("button", name="Leave it out").click()
        step(self.page, 1).click()
        expect(self.page.get_by_label("Oven")).to_have_value("204.4")
        expect(self.page.get_by_label("Unattended")).to_have_value("20")
        self.assertAlmostEqual(self.saved().steps[0].temperature_c or 0, 204.44, places=1)

    def test_a_mistake_stands_beside_its_line_with_mends(self) -> None:
        self.write("1 cup (300 g) basmati rice")
        finding = self.card.locator("[data-finding=stated-twice]")
        # A cup of 250 ml holds 195 g of it.
        expect(finding).to_contain_text("35 % apart")
        finding.get_by_role("button", name="Take 1 cup (195 g)").click()
        expect(line(self.card, "Rice, white, basmati (long-grain values)")).to_contain_text("195.5 g")
        expect(finding).to_have_count(0)

    def test_a_reason_to_put_it_aside_is_kept(self) -> None:
        choose(self.card, "Cooked", "pan-fried")
        self.write("500 g turkey mince, 93 % lean")
        finding = self.card.locator("[data-finding=oil-forgotten]")
        finding.get_by_role("button", name="It is right").click()
        finding.get_by_label("Why it is right").fill("dry, coated pan")
        self.page.keyboard.press("Enter")
        expect(self.card.get_by_text("“dry, coated pan”")).to_be_visible()
        self.assertEqual(self.saved().components[0].dismissed, {"oil-forgotten": "dry, coated pan"})
        self.page.reload()
        expect(self.card.get_by_text("“dry, coated pan”")).to_be_visible()

    def test_sums_in_a_weight_field_come_to_grams(self) -> None:
        self.write("500 g turkey mince, 93 % lean")
        weight = line_field(self.card, "Ground turkey, 93% lean")
        weight.fill("412+380-35")
        weight.blur()
        expect(weight).to_have_value("757")
        expect(self.card.get_by_text("= 412+380-35")).to_be_visible()

    def test_undo_brings_back_a_removed_line(self) -> None:
        self.write("500 g turkey mince, 93 % lean")
        line_field(self.card, "Ground turkey, 93% lean")
        self.card.get_by_role("button", name="Remove Ground turkey").click()
        expect(line(self.card, "Ground turkey, 93% lean")).to_have_count(0)
        self.page.get_by_role("button", name="Undo").click()
        expect(line(self.card, "Ground turkey, 93% lean")).to_contain_text("500 g")
        line_field(self.card, "Ground turkey, 93% lean")
        self.card.get_by_role("button", name="Remove Ground turkey").click()
        self.page.keyboard.press("Control+z")
        expect(line(self.card, "Ground turkey, 93% lean")).to_contain_text("500 g")

    def test_a_recipe_file_is_opened_with_its_components_and_questions(self) -> None:
        text = (
            "recipe,component,role,method,kind,text,food,state,grams\n"
            "Stew,Beans,mixed,simmered,ingredient,2 x 400 g tins beans,Olive oil,as-sold,30\n"
            "Stew,Greens,vegetable,sauteed,ingredient,1 dragonfruit,,,\n"
            "Stew,Beans,,,step,Simmer 35 min,,,\n"
        )
        self.page.get_by_label("Recipe file").set_input_files(
            {"name": "stew.csv", "mimeType": "text/csv", "buffer": text.encode()}
        )
        expect(self.page.get_by_label("Name", exact=True)).to_have_value("Stew")
        cards = self.page.locator("main ol > li")
        expect(line(cards.nth(0), "Olive oil")).to_contain_text("30 g")
        expect(cards.nth(1).get_by_text("“1 dragonfruit”")).to_be_visible()
        expect(step(self.page, 1)).to_contain_text("Simmer 35 min")

    def test_unreadable_text_stays_with_its_reason(self) -> None:
        self.expected_refusals += 1
        self.write('{"@type": "Recipe", ')
        expect(self.card.get_by_role("alert")).to_contain_text("not valid JSON")
        expect(self.field()).to_have_value('{"@type": "Recipe", ')


class Depth(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.signed_in(self.own_kitchen(), PASSWORD)
        self.recipe = save_recipe(database(), self.who, bowl(), None)
        self.page.goto(f"/recipes/{self.recipe.id}")
        expect(self.page.get_by_role("heading", name="Chicken bowl")).to_be_visible()

    def card(self, index: int) -> Locator:
        return self.page.locator("main ol > li").nth(index)

    def test_a_figure_opens_to_its_chain(self) -> None:
        self.card(0).get_by_label("protein in 100 g: where this comes from").click()
        chain = self.page.get_by_role("dialog", name="Where protein in 100 g comes from")
        expect(chain).to_contain_text("Chicken thigh, skinless")
        expect(chain).to_contain_text("FDC")
        expect(chain).to_contain_text("Macros stay in the pan")
        self.page.keyboard.press("Escape")
        self.card(0).get_by_label("Chicken thigh, skinless, cooked: where this comes from").click()
        expect(self.page.get_by_role("dialog")).to_contain_text("2,400 g bought − 6 % off = 2,256 g edible")

    def test_both_books_open_with_the_line(self) -> None:
        line_field(self.card(0), "Chicken thigh, skinless")
        self.card(0).get_by_role("button", name="Chicken thigh, skinless: more").click()
        expect(self.card(0).get_by_text("100 g cooked, by two books")).to_be_visible()

    def test_everything_scales_and_a_sauce_left_behind_is_told(self) -> None:
        page = self.page
        line_field(self.card(0), "Chicken thigh, skinless").fill("3600")
        line_field(self.card(0), "Olive oil").fill("45")
        for index in (1, 2):
            finding = self.card(index).locator("[data-finding=scaled-alone]")
            finding.get_by_role("button", name="Make it 1.5 times").click()
        expect(line(self.card(2), "Greek yogurt, plain, nonfat")).to_contain_text("750 g")
        page.get_by_role("button", name="Scale", exact=True).click()
        choose(page, "By", "whole packs of a line")
        page.get_by_label("One pack holds").fill("1000")
        page.get_by_role("button", name="Scale it").click()
        # Four packs of chicken: 4,000 g, and the sauce by the same factor.
        expect(line(self.card(0), "Chicken thigh, skinless")).to_contain_text("4,000 g")
        expect(line(self.card(2), "Greek yogurt, plain, nonfat")).to_contain_text("833.3 g")

    def test_a_component_is_made_of_another(self) -> None:
        self.card(2).get_by_role("button", name="Add an ingredient to Sauce").click()
        choose(self.card(2), "Or made of another component", "Bulgur (this recipe)")
        line_field(self.card(2), "Bulgur").fill("200")
        self.page.get_by_role("button", name="Save recipe").click()
        expect(self.page.get_by_text("Chicken bowl is saved.")).to_be_visible()
        assert self.recipe.id is not None
        lines = read_recipe(database(), self.who, self.recipe.id).components[2].lines
        self.assertEqual([line.source.name for line in lines if line.source], ["Bulgur"])


class Steps(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.signed_in(self.own_kitchen(), PASSWORD)
        self.recipe = save_recipe(database(), self.who, bowl(), None)
        self.page.goto(f"/recipes/{self.recipe.id}")
        expect(step(self.page, 1)).to_contain_text("Roast the chicken at 200 °C for 35 minutes.")
        # The figures have come, and what stands below them stays in its place.
        expect(self.page.get_by_text("About, by this recipe")).to_have_count(3)

    def read(self) -> RecipeView:
        self.page.get_by_role("button", name="Save recipe").click()
        expect(self.page.get_by_text("not saved yet")).to_have_count(0)
        assert self.recipe.id is not None
        return read_recipe(database(), self.who, self.recipe.id)

    def test_steps_are_added_moved_and_removed(self) -> None:
        page = self.page
        page.get_by_role("button", name="Add a step").click()
        page.get_by_label("Step 2", exact=True).fill("Soak the bulgur.")
        page.get_by_label("Ahead", exact=True).fill("30")
        choose(page, "Of", "Bulgur")
        page.get_by_role("button", name="Step 2 up").click()
        expect(page.get_by_label("Step 1", exact=True)).to_have_value("Soak the bulgur.")
        steps = self.read().steps
        self.assertEqual(
            [(step.text[:4], step.component, step.lead_min) for step in steps],
            [("Soak", "Bulgur", 30), ("Roas", "", None)],
        )
        step(page, 2).click()
        page.get_by_role("button", name="Remove step 2").click()
        self.assertEqual(len(self.read().steps), 1)

    def test_a_step_without_words_or_beyond_the_oven_stays_with_its_reason(self) -> None:
        page = self.page
        self.expected_refusals += 2
        step(page, 1).click()
        page.get_by_label("Step 1", exact=True).fill("")
        page.get_by_label("Oven").fill("900")
        page.get_by_role("button", name="Save recipe").click()
        expect(page.get_by_text("Give what to do in this step.")).to_be_visible()
        expect(page.get_by_text("must be from -30 to 500 °C")).to_be_visible()
        page.get_by_label("Step 1", exact=True).fill("Roast.")
        page.get_by_label("Oven").fill("210")
        self.assertEqual(self.read().steps[0].temperature_c, 210)

    def test_a_recipe_goes_out_as_files(self) -> None:
        for name, words in (("JSON-LD", '"@type": "Recipe"'), ("CSV", "recipe,component,role")):
            with self.page.expect_download() as download:
                self.page.get_by_role("link", name=name).click()
            path = download.value.path()
            self.assertIn(words, path.read_text(encoding="utf-8"))
