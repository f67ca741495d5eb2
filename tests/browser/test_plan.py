from __future__ import annotations

import re
from itertools import count

from playwright.sync_api import Dialog, Route, expect

from tests.browser.case import BrowserCase
from tests.kitchens import apply
from tests.support import PASSWORD, database
from yantai.work.batches.inputs import SetPin
from yantai.work.batches.reading import read_plan


class Keyboard(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_own_plan()

    def grams(self, row: int, column: int) -> float:
        return float(self.cell(row, column).inner_text().split("\n")[0])

    def test_arrows_move_and_stop_at_the_edges(self) -> None:
        self.cell(0, 1).focus()
        for key, row, column in [
            ("ArrowRight", 0, 2),
            ("ArrowDown", 1, 2),
            ("ArrowLeft", 1, 1),
            ("Home", 1, 0),
            ("ArrowLeft", 1, 0),
            ("ArrowUp", 0, 0),
            ("ArrowUp", 0, 0),
            ("End", 0, 7),
        ]:
            self.page.keyboard.press(key)
            expect(self.cell(row, column)).to_be_focused()

    def test_brackets_nudge_by_the_scales_step_however_quickly_they_come(self) -> None:
        before = self.grams(0, 2)
        self.cell(0, 2).focus()
        for _ in range(4):
            self.page.keyboard.press("]")
        self.page.keyboard.press("[")
        expect(self.cell(0, 2)).to_contain_text(f"{before + 15:g}")
        expect(self.cell(0, 2)).to_contain_text("pinned")
        expect(self.cell(0, 2)).to_contain_text(f"was {before + 20:g}")

    def test_a_nudged_cell_does_not_wait_for_the_server(self) -> None:
        held: list[Route] = []
        answering = False
        before = self.grams(0, 1)
        self.cell(0, 1).focus()
        self.page.route("**/changes", lambda route: route.continue_() if answering else held.append(route))
        for _ in range(3):
            self.page.keyboard.press("]")
        expect(self.cell(0, 1)).to_contain_text(f"{before + 15:g}")
        expect(self.page.get_by_role("button", name="Undo")).to_be_disabled()
        answering = True
        answers = count(1)
        with self.page.expect_response(lambda answer: answer.url.endswith("/changes") and next(answers) == 3):
            held[0].continue_()
        expect(self.page.get_by_role("button", name="Undo")).to_be_enabled()
        expect(self.cell(0, 1)).to_contain_text(f"{before + 15:g}")
        self.page.reload()
        expect(self.cell(0, 1)).to_contain_text(f"{before + 15:g}")

    def test_p_pins_and_frees(self) -> None:
        before = self.grams(0, 1)
        self.cell(0, 1).focus()
        self.page.keyboard.press("p")
        expect(self.cell(0, 1)).to_contain_text("pinned")
        self.assertEqual(self.grams(0, 1), before)
        self.page.keyboard.press("p")
        expect(self.cell(0, 1)).not_to_contain_text("pinned")

    def test_escape_leaves_the_cell_as_it_was(self) -> None:
        before = self.cell(0, 1).inner_text()
        self.cell(0, 1).focus()
        self.page.keyboard.type("7")
        self.page.keyboard.press("Escape")
        expect(self.cell(0, 1)).to_be_focused()
        self.assertEqual(self.cell(0, 1).inner_text(), before)

    def test_undo_and_do_again(self) -> None:
        before = self.grams(0, 1)
        self.cell(0, 1).focus()
        self.page.keyboard.type("99")
        self.page.keyboard.press("Enter")
        expect(self.cell(0, 1)).to_contain_text("99")
        self.page.get_by_role("button", name="Undo").click()
        expect(self.cell(0, 1)).to_contain_text(f"{before:g}")
        expect(self.cell(0, 1)).not_to_contain_text("pinned")
        self.page.get_by_role("button", name="Redo").click()
        expect(self.cell(0, 1)).to_contain_text("pinned")

    def test_a_new_target_moves_the_grams_and_shows_what_moved(self) -> None:
        before = self.grams(0, 2)
        self.cell(0, 5).focus()  # carbohydrate
        self.page.keyboard.type("75")
        self.page.keyboard.press("Enter")
        expect(self.cell(0, 2)).to_contain_text(f"was {before:g}")
        self.assertGreater(self.grams(0, 2), before)
        gauge = self.cell(0, 5).get_by_role("img")
        expect(gauge).to_have_attribute("aria-label", re.compile(r"carbohydrate 7\d of 75 g, inside"))


class BadInput(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_own_plan()

    def test_a_refused_figure_stays_in_its_cell_with_the_reason(self) -> None:
        self.expected_refusals += 1
        self.cell(0, 1).focus()
        self.page.keyboard.type("9000")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("give from 0 to 2,000 g")).to_be_visible()
        editor = self.page.get_by_label("Ada Vance, grams of Chicken")
        expect(editor).to_have_value("9000")
        editor.fill("12x")
        editor.press("Enter")
        expect(self.page.get_by_text("“12x” is not a weight.")).to_be_visible()
        editor.fill("120")
        editor.press("Enter")
        expect(self.cell(0, 1)).to_contain_text("120")

    def test_a_left_out_component_cannot_be_typed_into(self) -> None:
        self.cell(2, 3).focus()
        self.page.keyboard.type("40")
        expect(self.cell(2, 3)).to_contain_text("no milk")
        expect(self.page.get_by_label("Milo Brandt, grams of Sauce")).to_have_count(0)

    def test_an_unlikely_weight_is_asked_about(self) -> None:
        self.expected_refusals += 1
        page = self.page
        page.get_by_role("button", name="Chicken").first.click()
        panel = page.get_by_role("region", name="Chicken", exact=True)
        panel.get_by_label("On the scale").fill("3500")
        panel.get_by_role("button", name="Record the weight").click()
        dialog = page.get_by_role("alertdialog")
        expect(dialog).to_contain_text("The pan was not taken off")
        dialog.get_by_role("button", name="Correct it").click()
        expect(panel.get_by_label("On the scale")).to_have_value("3500")
        panel.get_by_role("button", name="Record the weight").click()
        self.expected_refusals += 1
        dialog.get_by_role("button", name="Record it anyway").click()
        expect(panel.get_by_text("Weighed by Test Coach")).to_be_visible()
        panel.get_by_role("button", name="Take it back").click()
        expect(panel.get_by_role("heading", name="Weigh what came out")).to_be_visible()

    def test_a_weight_ten_times_the_raw_is_refused_at_its_field(self) -> None:
        self.expected_refusals += 1
        self.page.get_by_role("button", name="Chicken").first.click()
        panel = self.page.get_by_role("region", name="Chicken", exact=True)
        panel.get_by_label("On the scale").fill("99999")
        panel.get_by_label("On the scale").press("Enter")
        expect(panel.get_by_role("alert")).to_contain_text("nothing takes up that much water")
        expect(panel.get_by_label("On the scale")).to_have_value("99999")

    def test_a_changed_raw_amount_flows_on_and_can_follow_again(self) -> None:
        self.page.get_by_role("button", name="Sauce").first.click()
        panel = self.page.get_by_role("region", name="Sauce", exact=True)
        raw = panel.get_by_label("Greek yogurt, plain, nonfat, raw")
        raw.fill("100")
        raw.press("Enter")
        expect(panel.get_by_text("Fixed: they do not follow the plan.")).to_be_visible()
        expect(panel.locator("dt", has_text="Short")).to_be_visible()
        panel.get_by_role("button", name="Follow the plan again").click()
        expect(panel.locator("dt", has_text="Left over")).to_be_visible()


class TwoTabs(BrowserCase):
    def test_a_change_of_another_window_appears_by_itself(self) -> None:
        self.open_own_plan()
        plan = read_plan(database(), self.who, self.batch_id)
        elsewhere = SetPin(row_id=plan.rows[1].id, component_id=plan.components[0].id, grams=70)
        apply(self.who, plan, elsewhere)
        expect(self.cell(1, 1)).to_contain_text("70")
        expect(self.cell(1, 1)).to_contain_text("was")
        expect(self.page.get_by_text("Changed in another window")).to_be_visible()
        self.cell(0, 1).focus()
        self.page.keyboard.type("111")
        self.page.keyboard.press("Enter")
        expect(self.cell(0, 1)).to_contain_text("111")
        expect(self.page.get_by_text("Changed in another window")).to_have_count(0)

    def test_nothing_is_overwritten_and_nothing_typed_is_lost(self) -> None:
        """Where no push comes through, a change on an older plan is refused and kept."""
        self.without_push()
        self.open_own_plan()
        self.expected_refusals += 1
        plan = read_plan(database(), self.who, self.batch_id)
        elsewhere = SetPin(row_id=plan.rows[1].id, component_id=plan.components[0].id, grams=70)
        apply(self.who, plan, elsewhere)
        self.cell(0, 1).focus()
        self.page.keyboard.type("111")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("Your change is not saved yet")).to_be_visible()
        self.page.get_by_role("button", name="Apply mine to the newest").click()
        expect(self.cell(0, 1)).to_contain_text("111")
        expect(self.cell(1, 1)).to_contain_text("70")
        expect(self.page.get_by_text("Your change is not saved yet")).to_have_count(0)


class Forms(BrowserCase):
    def test_what_was_typed_survives_a_refusal(self) -> None:
        self.signed_in(self.own_kitchen(), PASSWORD)
        self.expected_refusals += 1
        page = self.page
        page.goto("/clients/new")
        page.get_by_label("Note").fill("rows on Sundays")
        page.get_by_label("Energy, if aimed at").fill("40000")
        page.get_by_role("button", name="Save client").click()
        expect(page.get_by_text("Give the client's name.")).to_be_visible()
        expect(page.get_by_text("it must be from 0 to 4,000 kcal")).to_be_visible()
        expect(page.get_by_label("Note")).to_have_value("rows on Sundays")
        page.get_by_label("Energy, if aimed at").fill("many")
        expect(page.get_by_text("“many” is not a number.")).to_be_visible()
        expect(page.get_by_role("button", name="Save client")).to_be_disabled()

    def test_leaving_with_something_unsaved_is_asked_about(self) -> None:
        self.signed_in(self.own_kitchen(), PASSWORD)
        page = self.page
        page.goto("/clients/new")
        page.get_by_label("Name", exact=True).fill("Half typed")
        asked: list[str] = []

        def answer(dialog: Dialog) -> None:
            asked.append(dialog.message)
            dialog.dismiss()

        page.once("dialog", answer)
        page.get_by_role("link", name="Pantry").click()
        expect(page.get_by_label("Name", exact=True)).to_have_value("Half typed")
        self.assertEqual(asked, ["Leave without saving? What you typed waits here until you come back."])

    def test_a_recipe_without_components_says_what_to_add(self) -> None:
        self.signed_in(self.own_kitchen(), PASSWORD)
        self.expected_refusals += 1
        page = self.page
        page.goto("/recipes/new")
        page.get_by_label("Name", exact=True).fill("Empty")
        page.get_by_role("button", name="Remove this component").click()
        page.get_by_role("button", name="Save recipe").click()
        expect(page.get_by_text("A recipe needs at least one component")).to_be_visible()

    def test_signing_out_closes_the_door(self) -> None:
        self.signed_in(self.own_kitchen(), PASSWORD)
        self.page.goto("/")
        self.expected_refusals += 2
        self.page.get_by_role("button", name="Test Coach").click()
        self.page.get_by_role("menuitem", name="Sign out").click()
        expect(self.page.get_by_role("heading", name="Sign in")).to_be_visible()
        self.page.goto("/clients")
        expect(self.page.get_by_role("heading", name="Sign in")).to_be_visible()
