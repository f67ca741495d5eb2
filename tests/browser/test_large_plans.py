"""A plan of sixty clients: drawn where it is looked at, folded, narrowed; figures dragged; other views of a plan."""

from __future__ import annotations

from datetime import date
from pathlib import Path

from playwright.sync_api import FilePayload, Locator, expect

from tests.browser.case import BrowserCase, choose
from tests.kitchens import bowl, planned
from tests.support import PASSWORD, database
from yantai.work.batches.inputs import BatchInput, DishInput, EaterInput
from yantai.work.batches.make import create_batch
from yantai.work.clients.clients import save_client
from yantai.work.clients.inputs import ClientInput, TargetInput
from yantai.work.recipes.recipes import save_recipe

CLIENTS = 60


class SixtyClients(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        email = self.own_kitchen()
        recipe = save_recipe(database(), self.who, bowl(), None)
        eaters = []
        for number in range(CLIENTS):
            lunch = TargetInput(slot="lunch", protein_g=40 + number % 7, carbohydrate_g=50, fat_g=18)
            # Every tenth dinner asks for more protein than three hundred grams of chicken hold.
            dinner = TargetInput(slot="dinner", protein_g=45 if number % 10 else 140, carbohydrate_g=60)
            given = ClientInput(name=f"Client {number:02}", targets=[lunch, dinner])
            eaters += [
                EaterInput(target_id=target.id, count=1)
                for target in save_client(database(), self.who, given, None).targets
            ]
        assert recipe.id is not None
        batch = BatchInput(
            name="Everyone", cook_on=date(2026, 11, 29), dishes=[DishInput(recipe_id=recipe.id, eaters=eaters)]
        )
        plan = create_batch(database(), self.who, batch)
        self.signed_in(email, PASSWORD)
        self.page.goto(f"/batches/{plan.batch.id}")
        expect(self.page.get_by_role("heading", name="Everyone")).to_be_visible()

    def lines(self) -> Locator:
        return self.page.locator("tr[data-index]")

    def test_lines_are_drawn_where_they_are_looked_at(self) -> None:
        page = self.page
        expect(page.get_by_role("table").first).to_have_attribute("aria-rowcount", str(2 * CLIENTS + 2))
        self.assertLess(self.lines().count(), 40)
        expect(page.get_by_text("×120")).to_be_visible()
        self.cell(0, 1).focus()
        for _ in range(70):
            page.keyboard.press("ArrowDown")
        expect(self.cell(70, 1)).to_be_focused()
        expect(self.cell(0, 1)).to_have_count(0)
        page.keyboard.type("155")
        page.keyboard.press("Enter")
        expect(self.cell(70, 1)).to_contain_text("155")
        expect(self.cell(70, 1)).to_contain_text("pinned")
        expect(self.cell(70, 1)).to_be_focused()

    def test_clients_are_folded_one_by_one_and_all_at_once(self) -> None:
        page = self.page
        self.cell(0, 1).focus()
        page.keyboard.press("f")
        folded = page.get_by_role("button", name="Client 00", exact=True)
        expect(folded).to_be_focused()
        expect(page.get_by_role("row", name="Client 00 2 lines")).to_contain_text("2 lines, 2 containers")
        expect(page.get_by_role("row", name="Client 00 2 lines")).to_contain_text("1 off the target")
        page.keyboard.press("ArrowDown")
        expect(self.cell(1, 1)).to_be_focused()
        page.keyboard.press("ArrowUp")
        page.keyboard.press("f")
        expect(self.cell(0, 1)).to_be_focused()
        page.get_by_role("button", name="Fold all clients").click()
        expect(page.get_by_role("table").first).to_have_attribute("aria-rowcount", str(CLIENTS + 2))
        page.get_by_role("button", name="Unfold all clients").click()
        expect(page.get_by_role("table").first).to_have_attribute("aria-rowcount", str(2 * CLIENTS + 2))

    def test_only_what_is_off_its_target(self) -> None:
        self.page.get_by_label("Only what is off its target (6)").check()
        expect(self.lines()).to_have_count(6)
        expect(self.lines().first).to_contain_text("Client 00")
        expect(self.lines().last).to_contain_text("Client 50")


class Dragged(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        email = self.own_kitchen()
        self.batch_id = planned(self.who).batch.id
        self.signed_in(email, PASSWORD)
        self.page.goto(f"/batches/{self.batch_id}")
        expect(self.page.get_by_role("heading", name="Bowls")).to_be_visible()

    def test_grams_follow_the_hand_and_one_undo_takes_them_back(self) -> None:
        page = self.page
        before = self.cell(0, 1).inner_text()
        sauce = self.cell(0, 3).inner_text()
        box = self.cell(0, 1).locator("[data-drag]").bounding_box()
        assert box is not None
        # The chicken goes from 0 to 300 g along its track: two thirds of it are 200 g.
        page.mouse.move(box["x"] + box["width"] / 3, box["y"] + 10)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 10)
        with page.expect_response("**/preview"):
            page.mouse.move(box["x"] + box["width"] * 2 / 3, box["y"] + 10)
        expect(self.cell(0, 1)).to_contain_text("200")
        # The rest of the plan is already solved anew, and says what was before; nothing is kept yet.
        expect(page.get_by_text("was").first).to_be_visible()
        expect(page.get_by_role("button", name="Undo")).to_be_disabled()
        page.mouse.up()
        expect(page.get_by_role("button", name="Undo")).to_be_enabled()
        expect(self.cell(0, 1)).to_contain_text("pinned")
        page.get_by_role("button", name="Undo").click()
        expect(self.cell(0, 1)).not_to_contain_text("pinned")
        expect(self.cell(0, 1)).to_contain_text(before.split()[0])
        expect(self.cell(0, 3)).to_contain_text(sauce.split()[0])
        expect(page.get_by_role("button", name="Undo")).to_be_disabled()


class OtherViews(BrowserCase):
    def test_whole_days_count_the_containers_of_this_batch(self) -> None:
        self.signed_in()
        self.open_demo_batch("Kofta Sunday")
        self.page.get_by_role("tab", name="Whole days").click()
        day = self.page.get_by_role("table", name="The training day of Ines Haverkamp")
        expect(day.get_by_role("row", name="lunch")).to_contain_text("in a container")
        expect(day.get_by_role("row", name="dinner")).to_contain_text("as targeted")
        expect(day.get_by_role("img", name="protein 137 of 137 g, inside")).to_be_visible()
        # The view stands in the address.
        self.page.reload()
        expect(day.get_by_role("row", name="dinner")).to_be_visible()

    def test_a_batch_without_whole_days_says_where_they_are_set(self) -> None:
        self.open_own_plan()
        self.page.get_by_role("tab", name="Whole days").click()
        expect(self.page.get_by_role("heading", name="No whole day is set")).to_be_visible()
        self.page.get_by_role("tab", name="Beside another batch").click()
        expect(self.page.get_by_role("heading", name="There is no other batch")).to_be_visible()

    def test_two_plans_side_by_side(self) -> None:
        self.signed_in()
        self.open_demo_batch("Kofta to go")
        self.page.get_by_role("tab", name="Beside another batch").click()
        # The last one of the same recipe is chosen at once.
        expect(self.page.get_by_label("Beside", exact=True)).to_contain_text("Kofta Sunday")
        safiya = self.page.get_by_role("row", name="Safiya Lund, lunch")
        expect(safiya).to_contain_text("×2 (×5)")
        expect(safiya.get_by_role("cell").nth(3)).to_contain_text("30")
        choose(self.page, "Beside", "Bean stew Wednesday, Smoky tofu and white bean stew, Wed 18 November")
        expect(self.page.get_by_role("columnheader", name="Smoky tofu")).to_be_visible()
        expect(self.page.get_by_text("as it was packed")).to_be_visible()


class PlanDocuments(BrowserCase):
    def test_a_document_comes_in_with_what_to_know_of_it(self) -> None:
        self.signed_in(self.own_kitchen(), PASSWORD)
        self.page.goto("/batches")
        example = Path(__file__).parents[1] / "data" / "example_c.json"
        self.page.get_by_label("Plan document").set_input_files(example)
        expect(self.page.get_by_text("New in your pantry", exact=False)).to_be_visible()
        self.page.get_by_role("link", name="Open its plan").click()
        expect(self.page.locator("tr[data-index]")).not_to_have_count(0)

    def test_a_bad_one_is_told_by_its_places(self) -> None:
        self.signed_in(self.own_kitchen(), PASSWORD)
        self.page.goto("/batches")
        self.expected_refusals += 1
        bad = FilePayload(
            name="bad.json", mimeType="application/json", buffer=b'{"format": "yantai-plan", "version": 1, "step_g": 0}'
        )
        self.page.get_by_label("Plan document").set_input_files(bad)
        expect(self.page.get_by_role("alert")).to_contain_text("/step_g: Input should be greater")
        expect(self.page.get_by_role("alert")).to_contain_text("/components: Field required")
