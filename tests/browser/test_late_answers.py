"""Who goes on while an answer is under way keeps what is typed, where it was typed, and the cursor."""

from __future__ import annotations

import re

from playwright.sync_api import Route, expect

from tests.browser.case import OwnKitchen, line, line_field
from tests.kitchens import planned
from tests.support import database
from yantai.work.batches.reading import read_plan


class LateAnswers(OwnKitchen):
    def hold(self, path: str) -> None:
        """Requests to this are answered when the test lets them."""
        self.path, self.held = path, list[Route]()
        self.page.route(path, lambda route: self.held.append(route))

    def let_go(self) -> None:
        while self.held:
            self.held.pop(0).continue_()
        self.page.unroute(self.path)

    def test_a_cell_typed_into_while_another_is_saved(self) -> None:
        batch_id = planned(self.who).batch.id
        page = self.page
        page.goto(f"/batches/{batch_id}")
        self.hold("**/changes")
        self.cell(0, 1).focus()
        page.keyboard.type("123")
        page.keyboard.press("Enter")
        self.cell(1, 2).focus()
        page.keyboard.type("77")
        typed = page.get_by_label("Milo Brandt, grams of Bulgur").or_(page.get_by_label("Ada Vance, grams of Bulgur"))
        expect(typed).to_have_value("77")
        self.let_go()
        expect(self.cell(0, 1)).to_contain_text("123")
        expect(typed).to_have_value("77")
        expect(typed).to_be_focused()
        page.keyboard.press("Enter")
        expect(self.cell(1, 2)).to_contain_text("77")
        expect(self.cell(1, 2)).to_be_focused()
        pins = [
            cell
            for row in read_plan(database(), self.who, batch_id).rows
            for cell in row.cells
            if cell.limit == "pinned"
        ]
        self.assertEqual([cell.grams for cell in pins], [123, 77])

    def test_who_moves_on_while_a_figure_is_saved_is_not_called_back(self) -> None:
        batch_id = planned(self.who).batch.id
        page = self.page
        page.goto(f"/batches/{batch_id}")
        self.hold("**/changes")
        self.cell(0, 1).focus()
        page.keyboard.type("123")
        page.keyboard.press("Enter")
        self.cell(1, 3).focus()
        self.let_go()
        expect(self.cell(0, 1)).to_contain_text("123")
        expect(self.cell(1, 3)).to_be_focused()

    def test_a_figure_of_a_panel_typed_on(self) -> None:
        batch_id = planned(self.who).batch.id
        page = self.page
        page.goto(f"/batches/{batch_id}")
        page.get_by_role("button", name="Bulgur").first.click()
        field = page.get_by_role("region", name="Bulgur", exact=True).get_by_label("At most")
        self.hold("**/changes")
        field.fill("300")
        field.press("Enter")
        field.fill("310")
        self.let_go()
        expect(self.cell(0, 2)).to_be_visible()
        field.press("Enter")
        expect(page.get_by_role("button", name="Undo")).to_be_enabled()
        expect(field).to_have_value("310")
        page.reload()
        expect(field).to_have_value("310")

    def test_a_brief_typed_on_stays_open(self) -> None:
        batch_id = planned(self.who).batch.id
        page = self.page
        page.goto(f"/batches/{batch_id}")
        page.get_by_role("button", name="Brief").click()
        field = page.get_by_role("region", name="Brief").get_by_label("Name")
        self.hold("**/changes")
        field.fill("First name")
        page.get_by_role("button", name="Save the brief").click()
        field.fill("Second name")
        self.let_go()
        expect(page.get_by_role("heading", name="First name")).to_be_visible()
        expect(field).to_have_value("Second name")
        page.get_by_role("button", name="Save the brief").click()
        expect(page.get_by_role("heading", name="Second name")).to_be_visible()
        expect(field).to_have_count(0)

    def test_a_line_exchanged_while_others_are_typed_and_taken_out(self) -> None:
        self.open_recipe()
        page = self.page
        card = page.locator("main ol > li").first
        card.get_by_role("button", name="Add an ingredient to Chicken").click()
        card.get_by_label("Write an ingredient of Chicken").fill("3 cups rice")
        page.keyboard.press("Enter")
        rice = line_field(card, "Rice, white, long-grain")
        expect(rice).to_have_value("586.5")
        card.get_by_role("button", name="Rice, white, long-grain: more").click()
        self.hold("**/recipes/read")
        card.get_by_role("button", name="Another food for this line").click()
        page.get_by_role("dialog").get_by_role("combobox").fill("rolled oats")
        page.get_by_role("option", name="Oats, rolled").first.click()
        line_field(card, "Olive oil").fill("1234")
        page.get_by_role("button", name=re.compile("3 components.*: change")).click()
        name = page.get_by_label("Name", exact=True)
        name.fill("Renamed meanwhile")
        self.let_go()
        expect(name).to_have_value("Renamed meanwhile")
        expect(line(card, "Olive oil")).to_contain_text("1,234 g")
        expect(line_field(card, "Oats, rolled")).not_to_have_value("586.5")

    def test_saving_keeps_the_cursor_in_its_field(self) -> None:
        self.open_client()
        page = self.page
        field = page.get_by_label("Protein", exact=True).nth(1)
        field.fill("41")
        page.keyboard.press("Control+s")
        expect(page.get_by_text("Ada Vance is saved.")).to_be_visible()
        expect(field).to_be_focused()
        page.keyboard.press("End")
        page.keyboard.type(".5")
        expect(field).to_have_value("41.5")
