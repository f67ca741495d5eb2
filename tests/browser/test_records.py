"""Clients, recipes, the pantry and the shell, as a coach uses them."""

from __future__ import annotations

import re
from datetime import UTC, datetime

from playwright.sync_api import Route, expect

from tests.browser.case import CHANGE, BrowserCase, OwnKitchen, choose, line, line_field
from tests.kitchens import bowl, eaters, planned
from tests.support import database
from yantai.work.clients.clients import list_clients, save_client
from yantai.work.recipes.recipes import list_recipes, read_recipe, save_recipe


class EmptyViews(OwnKitchen):
    def test_every_list_says_what_to_do_first(self) -> None:
        for path, words in [
            ("/", "Nothing is waiting"),
            ("/clients", "No client yet"),
            ("/recipes", "No recipe yet"),
            ("/batches", "No batch yet"),
            ("/batches/new", "A batch needs a recipe and a client with a target"),
        ]:
            with self.subTest(path=path):
                self.page.goto(path)
                expect(self.page.get_by_role("heading", name=words)).to_be_visible()

    def test_an_address_that_leads_nowhere_says_so(self) -> None:
        self.page.goto("/nowhere")
        expect(self.page.get_by_role("heading", name="There is no such page")).to_be_visible()

    def test_a_client_who_is_not_there_says_so(self) -> None:
        self.expected_refusals += 1
        self.page.goto("/clients/00000000-0000-0000-0000-000000000000")
        expect(self.page.get_by_text("There is no such client.")).to_be_visible()


class Clients(OwnKitchen):
    def test_a_changed_target_is_saved(self) -> None:
        self.open_client()
        protein = self.page.get_by_label("Protein", exact=True).first
        expect(protein).to_have_value("45")
        protein.fill("47.5")
        expect(self.page.get_by_text("not saved yet")).to_be_visible()
        self.page.get_by_role("button", name="Save client").click()
        expect(self.page.get_by_text("Ada Vance is saved.")).to_be_visible()
        expect(self.page.get_by_text("not saved yet")).to_have_count(0)
        (client,) = list_clients(database(), self.who)
        self.assertEqual(client.targets[0].protein_g, 47.5)

    def test_an_emptied_figure_is_saved_as_not_aimed_at(self) -> None:
        self.open_client()
        self.page.get_by_label("Energy, if aimed at").nth(1).fill("")
        self.page.get_by_role("button", name="Save client").click()
        expect(self.page.get_by_text("Ada Vance is saved.")).to_be_visible()
        (client,) = list_clients(database(), self.who)
        self.assertEqual((client.targets[1].kcal, client.targets[1].protein_g), (None, 40))

    def test_targets_are_added_and_removed(self) -> None:
        self.open_client()
        self.page.get_by_role("button", name="Remove the target for dinner").click()
        self.page.get_by_role("button", name="Add a target").click()
        self.page.get_by_label("Meal").nth(1).fill("snack")
        self.page.get_by_label("Kind of day").nth(1).fill("rest")
        self.page.get_by_label("Energy, if aimed at").nth(1).fill("300")
        self.page.get_by_role("button", name="Save client").click()
        expect(self.page.get_by_text("Ada Vance is saved.")).to_be_visible()
        (client,) = list_clients(database(), self.who)
        self.assertEqual([(t.slot, t.day_type, t.kcal) for t in client.targets][1:], [("snack", "rest", 300)])

    def test_kcal_at_odds_with_the_macros_are_explained(self) -> None:
        self.open_client()
        self.page.get_by_label("Energy, if aimed at").first.fill("900")
        self.page.get_by_role("button", name="Save client").click()
        expect(self.page.get_by_text("338 kcal more than these macros give")).to_be_visible()  # 562 by 4/4/9

    def test_allergens_and_dislikes_show_in_the_list(self) -> None:
        self.open_client()
        self.page.get_by_role("checkbox", name="milk").check()
        self.page.get_by_label("Does not like").fill("okra, liver")
        self.page.get_by_role("button", name="Save client").click()
        expect(self.page.get_by_text("Ada Vance is saved.")).to_be_visible()
        self.page.get_by_role("link", name="Clients").click()
        expect(self.page.get_by_text("No milk")).to_be_visible()
        expect(self.page.get_by_text("not fond of okra, liver")).to_be_visible()

    def test_what_is_typed_while_the_answer_is_on_its_way_stays(self) -> None:
        self.open_client()
        held: list[Route] = []
        self.page.route("**/api/v1/clients/*", lambda route: held.append(route))
        self.page.get_by_label("Name", exact=True).fill("Ada V.")
        with self.page.expect_request("**/api/v1/clients/*"):
            self.page.get_by_role("button", name="Save client").click()
        self.page.get_by_label("Note").fill("typed meanwhile")
        held[0].continue_()
        expect(self.page.get_by_text("Ada V. is saved.")).to_be_visible()
        expect(self.page.get_by_label("Note")).to_have_value("typed meanwhile")
        expect(self.page.get_by_text("not saved yet")).to_be_visible()
        self.page.unroute("**/api/v1/clients/*")
        # It is saved on top of the answer, not refused as something stale.
        self.page.get_by_role("button", name="Save client").click()
        expect(self.page.get_by_text("not saved yet")).to_have_count(0)
        (client,) = list_clients(database(), self.who)
        self.assertEqual((client.name, client.note), ("Ada V.", "typed meanwhile"))

    def test_off_the_lists_and_back_by_undo(self) -> None:
        self.open_client()
        self.page.get_by_role("button", name="Archive").click()
        expect(self.page.get_by_role("heading", name="No client yet")).to_be_visible()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_role("link", name="Ada Vance")).to_be_visible()

    def test_a_change_in_another_window_is_not_overwritten(self) -> None:
        self.open_client()
        self.expected_refusals += 1
        (client,) = list_clients(database(), self.who)
        elsewhere = eaters()[0]
        save_client(database(), self.who, type(elsewhere)(name="Ada V.", version=client.version), client.id)
        self.page.get_by_label("Note").fill("typed here")
        self.page.get_by_role("button", name="Save client").click()
        expect(self.page.get_by_text("changed in another window since you opened this page")).to_be_visible()
        expect(self.page.get_by_label("Note")).to_have_value("typed here")


class Recipes(OwnKitchen):
    def card(self, index: int):
        return self.page.locator("main ol > li").nth(index)

    def test_figures_follow_the_typing(self) -> None:
        self.open_recipe()
        sauce = self.card(2)
        expect(sauce.get_by_role("figure")).to_have_attribute("aria-label", re.compile("^500 g in, about 500 g out"))
        line_field(sauce, "Greek yogurt, plain, nonfat").fill("800")
        expect(sauce.get_by_role("figure")).to_have_attribute("aria-label", re.compile("^800 g in, about 800 g out"))

    def test_an_own_yield_of_a_line_replaces_the_sources(self) -> None:
        self.open_recipe()
        chicken = self.card(0)
        figure = chicken.get_by_role("figure")
        expect(figure).to_have_attribute("aria-label", re.compile("^2,256 g in"))
        line_field(chicken, "Chicken thigh, skinless", "yield").fill("0.5")
        # 2,256 g × 0.5 and 30 g of oil.
        expect(figure).to_have_attribute("aria-label", re.compile("about 1,158 g out"))
        expect(chicken.get_by_text("set by the coach")).to_be_visible()

    def test_enter_goes_down_the_weights(self) -> None:
        self.open_recipe()
        bulgur = self.card(1)
        first = line_field(bulgur, "Bulgur wheat")
        first.focus()
        first.press("Enter")
        expect(bulgur.get_by_label("Water, bought")).to_be_focused()

    def test_what_reads_turns_into_fields_and_back_by_keyboard(self) -> None:
        self.open_recipe()
        page, bulgur = self.page, self.card(1)
        read = line(bulgur, "Bulgur wheat").get_by_role("button", name=CHANGE)
        read.focus()
        page.keyboard.press("Enter")
        weight = bulgur.get_by_label("Bulgur wheat, bought")
        expect(weight).to_be_focused()
        # What stands there is selected: the next figure replaces it.
        page.keyboard.type("650")
        page.keyboard.press("Escape")
        expect(weight).to_have_count(0)
        expect(line(bulgur, "Bulgur wheat")).to_contain_text("650 g")
        expect(read).to_be_focused()
        page.get_by_role("button", name="Bulgur: change").press("Enter")
        expect(bulgur.get_by_label("Component", exact=True)).to_be_focused()
        choose(bulgur, "How it is portioned", "By eye")
        bulgur.get_by_label("About", exact=True).fill("180")
        bulgur.get_by_role("button", name="Done").click()
        expect(bulgur.get_by_text("About 180 g, at most 400 g.")).to_be_visible()
        expect(page.get_by_role("button", name="Bulgur: change")).to_be_focused()

    def test_what_has_to_be_mended_stays_in_its_field(self) -> None:
        self.open_recipe()
        line_field(self.card(1), "Bulgur wheat").fill("half a bag")
        line_field(self.card(0), "Olive oil").fill("30")
        expect(self.page.get_by_text("“half a bag” is not a weight.")).to_be_visible()
        line_field(self.card(1), "Bulgur wheat").fill("600")
        line_field(self.card(0), "Olive oil", "trimmed off").fill("99")
        line_field(self.card(2), "Greek yogurt, plain, nonfat")
        expect(self.card(0).get_by_label("Olive oil, bought")).to_have_count(0)
        self.expected_refusals += 2
        self.page.get_by_role("button", name="Save recipe").click()
        # What the server refused stands in its field again.
        expect(self.card(0).get_by_label("Olive oil, trimmed off")).to_have_value("99")
        expect(self.card(0).get_by_role("alert")).to_contain_text("must be from 0 to")

    def test_text_in_a_weight_is_told_and_stops_saving(self) -> None:
        self.open_recipe()
        line_field(self.card(1), "Bulgur wheat").fill("half a bag")
        expect(self.page.get_by_text("“half a bag” is not a weight.")).to_be_visible()
        expect(self.page.get_by_role("button", name="Save recipe")).to_be_disabled()
        line_field(self.card(1), "Bulgur wheat").fill("1,250")
        self.page.get_by_role("button", name="Save recipe").click()
        expect(self.page.get_by_text("Chicken bowl is saved.")).to_be_visible()
        (brief,) = list_recipes(database(), self.who)
        recipe = read_recipe(database(), self.who, brief.id)
        self.assertEqual(recipe.components[1].lines[0].purchased_g, 1250)

    def test_lines_and_components_are_removed(self) -> None:
        self.open_recipe()
        line_field(self.card(0), "Olive oil")
        self.card(0).get_by_role("button", name="Remove Olive oil").click()
        self.page.get_by_role("button", name="Sauce: change").click()
        self.page.get_by_role("button", name="Remove Sauce").click()
        self.page.get_by_role("button", name="Save recipe").click()
        expect(self.page.get_by_text("Chicken bowl is saved.")).to_be_visible()
        (brief,) = list_recipes(database(), self.who)
        recipe = read_recipe(database(), self.who, brief.id)
        self.assertEqual([len(component.lines) for component in recipe.components], [1, 3])

    def test_the_core_temperature_stands_where_raw_poultry_is_cooked(self) -> None:
        self.open_recipe()
        expect(self.card(0).get_by_text("Cook to 74 °C")).to_be_visible()
        expect(self.card(1).get_by_text("Cook to")).to_have_count(0)


class Batches(OwnKitchen):
    def test_an_allergen_of_the_recipe_is_told_where_clients_are_chosen(self) -> None:
        save_recipe(database(), self.who, bowl(), None)
        save_client(database(), self.who, eaters()[1], None)
        self.page.goto("/batches/new")
        expect(self.page.get_by_text("avoids milk: components with it are left out")).to_be_visible()

    def test_bad_values_stay_with_their_reasons(self) -> None:
        planned(self.who)
        self.expected_refusals += 1
        page = self.page
        page.goto("/batches/new")
        # A name is proposed from the recipe and the day, until one is typed.
        expect(page.get_by_label("Name of the batch")).to_have_value("Chicken bowl, Wed 25 November")
        page.get_by_label("Name of the batch").fill(" ")
        page.get_by_label("Containers for Ada Vance, lunch").fill("several")
        expect(page.get_by_text("“several” is not a number.")).to_be_visible()
        expect(page.get_by_role("button", name="Make the plan")).to_be_disabled()
        for count in ("-3", "900"):
            self.expected_refusals += 1
            page.get_by_label("Containers for Ada Vance, lunch").fill(count)
            page.get_by_role("button", name="Make the plan").click()
            expect(page.get_by_text(f"{count} containers; it must be from 1 to 100")).to_have_count(1)
        expect(page.get_by_text("Give the batch's name.")).to_be_visible()
        expect(page.get_by_label("Containers for Ada Vance, lunch")).to_have_value("900")

    def test_a_recipe_that_moved_on_is_offered(self) -> None:
        plan = planned(self.who)
        given = bowl()
        recipe = read_recipe(database(), self.who, plan.dishes[0].recipe_id)
        shorter = type(given)(name="Chicken bowl", components=given.components[:2], version=recipe.version)
        save_recipe(database(), self.who, shorter, recipe.id)
        self.page.goto(f"/batches/{plan.batch.id}")
        expect(self.page.get_by_role("columnheader", name="Sauce")).to_be_visible()
        self.page.get_by_role("button", name="Take the recipe as it is now").click()
        expect(self.page.get_by_role("columnheader", name="Sauce")).to_have_count(0)

    def test_the_brief_changes_the_step_of_the_scale(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        page.get_by_role("button", name="Brief").click()
        page.get_by_label("The scale’s step").fill("25")
        page.get_by_role("button", name="Save the brief").click()
        expect(self.cell(0, 1)).to_contain_text(re.compile(r"^\d*(25|50|75|00)"))
        page.get_by_role("button", name="Undo").click()
        expect(self.cell(0, 1)).to_contain_text(f"{plan.rows[0].cells[0].grams:g}")

    def test_a_container_shows_where_its_macros_come_from(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        page.get_by_role("button", name="Ada Vance, lunch").click()
        panel = page.get_by_role("region", name="Ada Vance")
        chicken = plan.rows[0].cells[0]
        row = panel.get_by_role("row", name=re.compile("^Chicken"))
        expect(row).to_contain_text(f"{chicken.grams:g} g")
        expect(row).to_contain_text(f"{chicken.amounts.protein_g:.1f}")
        panel.get_by_label("The container holds").fill("300")
        panel.get_by_label("The container holds").press("Enter")
        expect(page.get_by_text("the container is full at 300 ml")).to_have_count(0)  # this panel is open
        panel.get_by_role("button", name="Close Ada Vance").click()
        expect(page.get_by_text("the container is full at 300 ml").first).to_be_visible()

    def test_bounds_hold_in_every_container(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        page.get_by_role("button", name="Bulgur").first.click()
        panel = page.get_by_role("region", name="Bulgur", exact=True)
        panel.get_by_label("At most").fill("100")
        panel.get_by_label("At most").press("Enter")
        expect(self.cell(0, 2)).to_contain_text("at most")
        expect(self.cell(0, 2)).to_contain_text("100")


class Pantry(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.signed_in()
        self.page.goto("/pantry")

    def test_search_and_filters_live_in_the_address(self) -> None:
        page = self.page
        page.get_by_label("Food", exact=True).fill("chiken")
        expect(page.get_by_role("button", name="Chicken liver raw")).to_be_visible()
        choose(page, "State", re.compile("^cooked"))
        expect(page.get_by_role("button", name="Chicken liver raw")).to_have_count(0)
        self.assertIn("text=chiken", page.url)
        self.assertIn("state=cooked", page.url)
        page.reload()
        expect(page.get_by_label("Food", exact=True)).to_have_value("chiken")

    def test_nothing_found_says_what_to_try(self) -> None:
        self.page.get_by_label("Food", exact=True).fill("qqqq")
        expect(self.page.get_by_role("heading", name="No food fits")).to_be_visible()

    def test_more_foods_on_request(self) -> None:
        rows = self.page.locator("main tbody tr")
        expect(rows).to_have_count(60)
        self.page.get_by_role("button", name=re.compile("^Show more of 8[0-9][0-9]$")).click()
        expect(rows).to_have_count(260)

    def test_a_food_opens_its_other_states(self) -> None:
        page = self.page
        page.get_by_label("Food", exact=True).fill("bulgur")
        page.get_by_role("button", name="Bulgur wheat dry").click()
        expect(page.get_by_role("heading", name="Yields to expect")).to_be_visible()
        page.get_by_role("button", name="Bulgur wheat, cooked, boiled").click()
        expect(page.get_by_text("cooked, boiled; grains-pasta")).to_be_visible()
        expect(page.get_by_role("heading", name="Yields to expect")).to_have_count(0)

    def test_weak_figures_are_marked(self) -> None:
        self.page.get_by_label("Food", exact=True).fill("halloumi")
        expect(self.page.get_by_text("weak figures")).to_be_visible()
        self.page.get_by_role("button", name="Halloumi").click()
        expect(self.page.get_by_text("Replace them by the pack’s label.")).to_be_visible()


class Shell(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.signed_in()
        self.page.goto("/")
        expect(self.page.get_by_role("heading", name="Today")).to_be_visible()

    def find(self, text: str) -> None:
        self.page.keyboard.press("/")
        self.page.get_by_placeholder("A client, recipe, batch, food or page").fill(text)

    def test_anything_is_found_by_keys_alone(self) -> None:
        for text, heading in [
            ("ines", "Ines Haverkamp"),
            ("kofta tray", "Turkey kofta tray"),
            ("sunday", "Kofta Sunday"),
            ("plan a b", "Plan a batch"),
        ]:
            with self.subTest(text=text):
                self.find(text)
                expect(self.page.get_by_role("option", name=heading)).to_be_visible()
                self.page.keyboard.press("Enter")
                expect(self.page.get_by_role("heading", name=heading, level=1)).to_be_visible()
                self.page.get_by_role("link", name="Today").click()
                expect(self.page.get_by_role("heading", name="Today")).to_be_visible()

    def test_a_slash_typed_into_a_field_stays_there(self) -> None:
        self.page.goto("/pantry")
        field = self.page.get_by_label("Food", exact=True)
        field.fill("")
        field.press("/")
        expect(field).to_have_value("/")
        expect(self.page.get_by_role("dialog")).to_have_count(0)

    def test_keys_are_those_of_the_view(self) -> None:
        self.page.keyboard.press("?")
        dialog = self.page.get_by_role("dialog")
        expect(dialog.get_by_text("find anything")).to_be_visible()
        expect(dialog.get_by_text("In the plan", exact=True)).to_have_count(0)
        self.page.keyboard.press("Escape")
        self.open_demo_batch("Kofta Sunday")
        self.page.keyboard.press("?")
        expect(dialog.get_by_text("In the plan", exact=True)).to_be_visible()

    def test_the_kitchen_theme_is_remembered(self) -> None:
        self.page.get_by_role("button", name="Tamsin Reyes").click()
        self.page.get_by_role("menuitem", name="Dark kitchen theme").click()
        self.page.reload()
        expect(self.page.locator("html")).to_have_attribute("data-theme", "kitchen")

    def test_today_leads_with_what_is_next(self) -> None:
        page = self.page
        expect(page.get_by_role("heading", name="Weigh 2 more of 4 components")).to_be_visible()
        expect(page.get_by_text("Today, Kofta before the regatta", exact=False)).to_be_visible()
        after = page.locator("section", has=page.get_by_role("heading", name="After that")).get_by_role("link")
        expect(after.nth(0)).to_contain_text("Thu 26 November")
        expect(after.nth(1)).to_contain_text("Sun 29 November")
        expect(after.nth(1)).to_contain_text("Settle 1 thing in the plan")
        to_buy = page.locator("section", has=page.get_by_role("heading", name="To buy")).get_by_role("link")
        expect(to_buy).to_contain_text("by tomorrow")
        expect(to_buy).to_contain_text("Kofta to go")
        # The chicken is salted the evening before it is roasted.
        salted = after.filter(has_text="Salt the chicken")
        expect(salted).to_contain_text("Sat 5 December")
        expect(salted).to_contain_text("8 hours ahead")
        # Something is weighed already: what comes next is done at the scale.
        page.get_by_role("link", name="Weigh", exact=True).click()
        expect(page.get_by_role("heading", name="Weigh Kofta before the regatta")).to_be_visible()

    def test_what_was_due_stays_until_it_is_done(self) -> None:
        page = self.page
        page.clock.set_fixed_time(datetime(2026, 11, 30, 9, tzinfo=UTC))
        page.reload()
        expect(page.get_by_text("Was due Tue 24 November", exact=False)).to_be_visible()
        lines = page.locator("section", has=page.get_by_role("heading", name="After that")).get_by_role("listitem")
        expect(lines.nth(0)).to_contain_text("was due Thu 26 November")
        expect(lines.nth(1)).to_contain_text("was due yesterday")
        expect(lines.nth(2)).to_contain_text("today")
        expect(lines.nth(3)).to_contain_text("tomorrow")

    def test_the_demo_shows_its_cautions(self) -> None:
        self.open_demo_batch("Kofta Sunday")
        expect(self.page.get_by_text("Petra Nowicka must avoid milk")).to_be_visible()
        self.page.get_by_role("button", name="Turkey kofta").first.click()
        expect(self.page.get_by_text("Cook to 74 °C in the thickest part")).to_be_visible()

    def test_a_packed_batch_is_only_read(self) -> None:
        self.open_demo_batch("Bean stew Wednesday")
        before = self.cell(0, 1).inner_text()
        self.cell(0, 1).focus()
        self.page.keyboard.type("5")
        self.page.keyboard.press("p")
        self.assertEqual(self.cell(0, 1).inner_text(), before)
        expect(self.page.get_by_role("button", name="Open it again")).to_be_visible()
