"""Own foods, files of foods, settings, what was learned, and unlikely weights."""

from __future__ import annotations

from datetime import date

from playwright.sync_api import expect

from tests.browser.case import BrowserCase, choose, line, step
from tests.kitchens import planned
from tests.support import PASSWORD, database
from yantai.store import tables
from yantai.work.batches.inputs import BatchInput, DishInput, EaterInput
from yantai.work.batches.make import create_batch
from yantai.work.clients.clients import save_client
from yantai.work.clients.inputs import ClientInput, TargetInput
from yantai.work.kitchen.inputs import VesselInput, WorkspaceInput
from yantai.work.kitchen.settings import save_settings
from yantai.work.pantry.inputs import FoodInput, LabelInput
from yantai.work.pantry.own_foods import save_food
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput
from yantai.work.recipes.recipes import save_recipe

CSV = "name;kcal;protein;carbs;fat\nQuark light;60;12,1;3,9;0,2\nWords;10;x;2;3\nOlive oil;884;0;0;100\n"


class Kitchen(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.signed_in(self.own_kitchen(), PASSWORD)


class OwnFoods(Kitchen):
    def test_a_label_becomes_a_food_and_is_changed(self) -> None:
        page = self.page
        page.goto("/pantry")
        page.get_by_role("link", name="New food").click()
        page.get_by_label("Name", exact=True).fill("Quayside harissa")
        for label, figure in (
            ("Energy", "112"),
            ("Fat", "6.2"),
            ("Carbohydrate", "9.1"),
            ("Fibre", "4.1"),
            ("Protein", "2.6"),
            ("Salt", "2.9"),
        ):
            page.get_by_label(label, exact=True).fill(figure)
        outcome = page.get_by_label("What the label comes to")
        expect(outcome.get_by_text("The label agrees with itself")).to_be_visible()
        expect(outcome.get_by_role("row", name="Carbohydrate")).to_contain_text("13.2 g")
        page.get_by_label("Fat", exact=True).fill("16.2")
        expect(outcome.get_by_text("The label disagrees with itself")).to_be_visible()
        page.get_by_label("Fat", exact=True).fill("6.2")
        page.get_by_role("button", name="Add a pack").click()
        page.get_by_label("Pack", exact=True).fill("jar")
        page.get_by_label("Net").fill("180")
        page.get_by_label("Price").fill("2.40")
        page.get_by_role("button", name="Save food").click()
        sheet = page.get_by_label("Chosen food")
        expect(sheet.get_by_text("1.33 per 100 g")).to_be_visible()
        sheet.get_by_role("link", name="Edit").click()
        expect(page.get_by_label("Protein", exact=True)).to_have_value("2.6")

    def test_bad_figures_stay_with_their_reasons(self) -> None:
        page = self.page
        self.expected_refusals += 3
        page.goto("/pantry/new")
        page.get_by_label("Name", exact=True).fill("Impossible")
        for label, figure in (("Fat", "60"), ("Carbohydrate", "60"), ("Protein", "60")):
            page.get_by_label(label, exact=True).fill(figure)
        page.get_by_role("button", name="Save food").click()
        expect(page.get_by_text("check the serving size").first).to_be_visible()
        expect(page.get_by_label("Protein", exact=True)).to_have_value("60")

    def test_a_label_for_a_volume_asks_what_a_millilitre_weighs(self) -> None:
        page = self.page
        self.expected_refusals += 4  # the figures beside it are asked for while it is typed
        page.goto("/pantry/new")
        page.get_by_label("Name", exact=True).fill("Quay cordial")
        page.get_by_role("radio", name="a volume").click()
        for label, figure in (("Fat", "0"), ("Carbohydrate", "26"), ("Protein", "0")):
            page.get_by_label(label, exact=True).fill(figure)
        page.get_by_role("button", name="Save food").click()
        expect(page.get_by_text("1 ml has to be weighed").first).to_be_visible()
        page.get_by_label("1 ml weighs").fill("1.3")
        expect(page.get_by_text("20.0 g")).to_be_visible()  # 26 g in 100 ml of 130 g
        page.get_by_role("button", name="Save food").click()
        expect(page.get_by_label("Chosen food").get_by_role("heading", name="Quay cordial")).to_be_visible()
        page.get_by_label("Chosen food").get_by_role("link", name="Edit").click()
        expect(page.get_by_label("That is")).to_have_value("100")
        expect(page.get_by_label("1 ml weighs")).to_have_value("1.3")

    def test_a_copy_of_a_reference_food_starts_with_its_values(self) -> None:
        page = self.page
        page.goto("/pantry?text=bulgur")
        page.get_by_role("button", name="Bulgur wheat dry").click()
        page.get_by_role("link", name="Copy with own values").click()
        expect(page.get_by_label("Protein", exact=True)).to_have_value("12.29")
        page.get_by_role("button", name="Save food").click()
        expect(page.get_by_label("Chosen food").get_by_role("heading", name="Bulgur wheat, own")).to_be_visible()
        expect(page.get_by_label("Chosen food").get_by_role("heading", name="Yields to expect")).to_be_visible()


class Files(Kitchen):
    def test_bad_lines_are_shown_and_only_the_good_come_in(self) -> None:
        page = self.page
        page.goto("/pantry/import")
        page.locator("input[type=file]").set_input_files(
            {"name": "foods.csv", "mimeType": "text/csv", "buffer": CSV.encode()}
        )
        expect(page.get_by_role("heading", name="1 new food, 1 already here, 1 bad line")).to_be_visible()
        expect(page.get_by_text("“x” is not a number.")).to_be_visible()
        page.get_by_role("button", name="Import the good lines only").click()
        expect(page.get_by_text("1 food imported.")).to_be_visible()

    def test_a_file_that_is_too_large_or_not_utf8_is_told(self) -> None:
        page = self.page
        page.goto("/pantry/import")
        page.locator("input[type=file]").set_input_files(
            {"name": "large.csv", "mimeType": "text/csv", "buffer": b"x" * 13_000_000}
        )
        expect(page.get_by_role("alert")).to_contain_text("Split it in parts")
        text = "name;protein;carbs;fat\nCrème légère;2;4;15\n".encode("windows-1252")
        page.locator("input[type=file]").set_input_files({"name": "old.csv", "mimeType": "text/csv", "buffer": text})
        expect(page.get_by_text("This file is not UTF-8")).to_be_visible()
        expect(page.get_by_text("Crème légère")).to_be_visible()


class Settings(Kitchen):
    def test_a_switch_of_the_energy_rule_shows_what_changes_first(self) -> None:
        planned(self.who)
        page = self.page
        page.goto("/settings")
        choose(page, "Energy", "4/9/4 with fibre at 2 and polyols at 2.4")
        changes = page.get_by_label("What the switch changes")
        expect(changes.get_by_role("row", name="Chicken bowl: Bulgur")).to_be_visible()
        page.get_by_role("button", name="Switch and save").click()
        expect(page.get_by_text("Settings are saved.")).to_be_visible()
        page.goto("/pantry?text=bulgur")
        page.get_by_role("button", name="Bulgur wheat dry").click()
        expect(page.get_by_label("Chosen food").get_by_text("Energy by 4/9/4 with fibre at 2")).to_be_visible()

    def test_ounces_fahrenheit_and_kilojoules_are_shown_and_typed(self) -> None:
        page = self.page
        batch = planned(self.who).batch.id
        page.goto("/settings")
        page.get_by_role("radio", name="ounces").click()
        page.get_by_role("radio", name="Fahrenheit").click()
        page.get_by_role("radio", name="kilojoules").click()
        with page.expect_event("load"):
            page.get_by_role("button", name="Save", exact=True).click()
        page.get_by_role("link", name="Recipes").click()
        page.get_by_role("link", name="Chicken bowl").click()
        # 2,400 g are 84.658 oz, and 200 °C are 392 °F.
        expect(line(page, "Chicken thigh, skinless")).to_contain_text("84.66 oz")
        expect(step(page, 1)).to_contain_text("392 °F")
        expect(page.get_by_role("rowheader", name="kJ").first).to_be_visible()
        page.goto(f"/batches/{batch}")
        self.cell(0, 1).focus()
        page.keyboard.type("5.29")
        page.keyboard.press("Enter")
        expect(self.cell(0, 1)).to_contain_text("pinned")
        with database().workspace(self.who.workspace_id) as session:
            (pin,) = session.query(tables.Pin).all()
        self.assertAlmostEqual(pin.grams, 5.29 * 28.349523125, places=2)


class Learned(Kitchen):
    def test_an_empty_kitchen_says_how_to_begin(self) -> None:
        self.page.goto("/yields")
        expect(self.page.get_by_role("heading", name="Nothing weighed yet")).to_be_visible()

    def test_a_pan_left_on_is_mended_with_one_tap_and_teaches(self) -> None:
        save_settings(database(), self.who, WorkspaceInput(vessels=[VesselInput(name="Roasting tray", empty_g=1312)]))
        plan = planned(self.who)
        right = round(plan.components[0].cooked_g)
        page = self.page
        self.expected_refusals += 1
        page.goto(f"/batches/{plan.batch.id}")
        page.get_by_role("button", name="Chicken").first.click()
        page.get_by_label("On the scale").fill(str(right + 1312))
        page.get_by_role("button", name="Record the weight").click()
        page.get_by_role("button", name="Roasting tray was left on").click()
        expect(page.get_by_text(f"{right:,} g", exact=True).first).to_be_visible()
        expect(page.get_by_text("Weighed by Test Coach")).to_be_visible()
        page.get_by_role("link", name="Yields").click()
        expect(page.get_by_role("heading", name="Chicken thigh, skinless")).to_be_visible()
        expect(page.get_by_role("img", name="1 weighing").first).to_be_visible()

    def test_an_ingredient_added_at_the_stove_is_logged(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        page.get_by_role("button", name="Chicken").first.click()
        page.get_by_role("button", name="Add an ingredient").click()
        page.get_by_placeholder("Type a food").fill("olive oil")
        page.get_by_role("option", name="Olive oil").first.click()
        page.get_by_label("Olive oil, added").fill("12+8")
        page.keyboard.press("Enter")
        expect(page.get_by_text("added at the stove by Test Coach")).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_text("added at the stove by Test Coach")).to_have_count(0)

    def test_fat_poured_off_is_never_more_than_there_was(self) -> None:
        plan = planned(self.who)
        page = self.page
        self.expected_refusals += 1
        page.goto(f"/batches/{plan.batch.id}")
        page.get_by_role("button", name="Chicken").first.click()
        poured = page.get_by_label("Fat poured off, weighed")
        poured.fill("9000")
        poured.press("Enter")
        expect(page.get_by_text("is more than the").first).to_be_visible()
        expect(poured).to_have_value("9000")
        poured.fill("25")
        poured.press("Enter")
        page.get_by_role("button", name="100 g of Chicken: where this comes from").click()
        expect(page.get_by_text("less 25 g of fat poured off")).to_be_visible()

    def test_a_weight_recorded_anyway_keeps_its_causes(self) -> None:
        save_settings(database(), self.who, WorkspaceInput(vessels=[VesselInput(name="Roasting tray", empty_g=1312)]))
        plan = planned(self.who)
        right = round(plan.components[0].cooked_g)
        page = self.page
        self.expected_refusals += 1
        page.goto(f"/batches/{plan.batch.id}")
        page.get_by_role("button", name="Chicken").first.click()
        page.get_by_label("On the scale").fill(str(right + 1312))
        page.get_by_role("button", name="Record the weight").click()
        page.get_by_role("button", name="Record it anyway").click()
        expect(page.get_by_text("Outside what this pan should give")).to_be_visible()
        page.get_by_role("button", name="Record it so").first.click()
        expect(page.get_by_text("Outside what this pan should give")).to_have_count(0)
        expect(page.get_by_text(f"{right + 1312:,} − 1,312")).to_be_visible()

    def test_a_known_vessel_is_taken_off_with_a_tap(self) -> None:
        save_settings(database(), self.who, WorkspaceInput(vessels=[VesselInput(name="Roasting tray", empty_g=1312)]))
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        page.get_by_role("button", name="Chicken").first.click()
        page.get_by_label("On the scale").fill("3004")
        page.get_by_role("button", name="Roasting tray 1,312 g").click()
        expect(page.get_by_label("Empty vessel")).to_have_value("1312")
        expect(page.get_by_text("1,692 g", exact=True)).to_be_visible()


class EditedFoods(Kitchen):
    def test_an_open_batch_keeps_its_figures_until_it_is_planned_anew(self) -> None:
        label = LabelInput(protein_g=2, carbohydrate_g=3, fat_g=6, fibre_g=0, kcal=74)
        food = save_food(
            database(), self.who, FoodInput(name="Harissa", group="own", state="as-sold", label=label), None
        )
        sauce = ComponentInput(
            name="Sauce", role="sauce", lines=[LineInput(food_id=food.food.id, purchased_g=500)], maximum_g=300
        )
        recipe = save_recipe(database(), self.who, RecipeInput(name="Pan", components=[sauce]), None)
        client = ClientInput(name="Ada Vance", targets=[TargetInput(slot="lunch", fat_g=12)])
        (target,) = save_client(database(), self.who, client, None).targets
        assert recipe.id is not None
        eaters = [EaterInput(target_id=target.id, count=2)]
        given = BatchInput(
            name="Pans", cook_on=date(2026, 11, 29), dishes=[DishInput(recipe_id=recipe.id, eaters=eaters)]
        )
        batch = create_batch(database(), self.who, given).batch
        page = self.page
        page.goto(f"/pantry/{food.food.id}")
        page.get_by_label("Fat", exact=True).fill("12")
        page.get_by_role("button", name="Save food").click()
        expect(page.get_by_text("Harissa is saved.")).to_be_visible()
        page.goto(f"/batches/{batch.id}")
        expect(page.get_by_text("This batch counts Harissa by the figures it was planned with")).to_be_visible()
        # 12 g of fat: 200 g of the old sauce, 100 g of the new one.
        expect(self.cell(0, 1)).to_contain_text("200")
        page.get_by_role("button", name="Plan it with the new figures").click()
        expect(self.cell(0, 1)).to_contain_text("100")
        expect(page.get_by_text("Foods were edited")).to_have_count(0)


class KitchenSettings(Kitchen):
    def test_vessels_and_free_foods_are_kept(self) -> None:
        page = self.page
        page.goto("/settings")
        page.get_by_role("button", name="Add a vessel").click()
        page.get_by_label("Vessel", exact=True).fill("Tray")
        page.get_by_label("Empty", exact=True).fill("900+412")
        page.get_by_label("vinegar", exact=True).check()
        page.get_by_role("button", name="Save the kitchen’s settings").click()
        expect(page.get_by_text("Settings are saved.")).to_be_visible()
        page.reload()
        expect(page.get_by_label("Empty", exact=True)).to_have_value("1312")
        expect(page.get_by_label("vinegar", exact=True)).to_be_checked()
        page.goto("/recipes/new")
        page.get_by_label("Component", exact=True).fill("Dressing")
        page.get_by_label("Write an ingredient of Dressing").fill("100 g balsamic vinegar\n100 g honey")
        page.keyboard.press("Enter")
        expect(page.get_by_text("free by your rule")).to_be_visible()
        expect(page.get_by_text("Not counted by your rule")).to_be_visible()

    def test_a_vessel_without_a_weight_stays_with_its_reason(self) -> None:
        page = self.page
        self.expected_refusals += 1
        page.goto("/settings")
        page.get_by_role("button", name="Add a vessel").click()
        page.get_by_label("Vessel", exact=True).fill("Tray")
        page.get_by_role("button", name="Save the kitchen’s settings").click()
        expect(page.get_by_role("alert").filter(has_text="must be from 1")).to_be_visible()
        expect(page.get_by_label("Vessel", exact=True)).to_have_value("Tray")

    def test_own_packs_and_measures_of_a_reference_food(self) -> None:
        page = self.page
        page.goto("/pantry?text=olive oil")
        page.get_by_role("button", name="Olive oil as-sold").click()
        sheet = page.get_by_label("Chosen food")
        sheet.get_by_role("button", name="Own measures and packs").click()
        sheet.get_by_role("button", name="Add a measure").click()
        sheet.get_by_label("Measure 1", exact=True).fill("ladle")
        sheet.get_by_label("Measure 1, weight").fill("55")
        sheet.get_by_role("button", name="Add a pack").click()
        sheet.get_by_label("Pack", exact=True).fill("tin")
        sheet.get_by_label("Net").fill("450")
        sheet.get_by_role("button", name="Save").click()
        expect(sheet.get_by_text("ladle")).to_be_visible()
        page.goto("/recipes/new")
        page.get_by_label("Write an ingredient of this component").fill("2 ladles olive oil")
        page.keyboard.press("Enter")
        expect(line(page, "Olive oil")).to_be_visible()
        page.get_by_role("button", name="Scale", exact=True).click()
        choose(page, "By", "whole packs of a line")
        page.get_by_role("button", name="tin, 450 g").click()
        expect(page.get_by_label("One pack holds")).to_have_value("450")
        page.get_by_role("button", name="Scale it").click()
        expect(line(page, "Olive oil")).to_contain_text("450 g")
