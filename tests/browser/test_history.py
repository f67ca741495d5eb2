"""The history of a batch: read, taken back and made again, on any device."""

from __future__ import annotations

from playwright.sync_api import Locator, expect

from tests.browser.case import BrowserCase
from tests.kitchens import apply, weigh
from tests.support import PASSWORD, database, new_email, second_coach
from yantai.work.batches.inputs import SetPin
from yantai.work.batches.reading import read_plan


class History(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_own_plan()

    def pin(self, row: int, column: int, grams: str) -> None:
        self.cell(row, column).focus()
        self.page.keyboard.type(grams)
        self.page.keyboard.press("Enter")
        expect(self.cell(row, column)).to_contain_text(grams)

    def undo(self, name: str = "Undo") -> Locator:
        return self.page.get_by_role("button", name=name, exact=True)

    def test_undo_and_redo_are_there_after_a_reload(self) -> None:
        before = self.cell(0, 1).inner_text()
        self.pin(0, 1, "99")
        self.page.reload()
        self.undo().click()
        expect(self.cell(0, 1)).not_to_contain_text("pinned")
        self.page.reload()
        self.assertEqual(self.cell(0, 1).inner_text(), before)
        expect(self.undo()).to_be_disabled()
        self.undo("Redo").click()
        expect(self.cell(0, 1)).to_contain_text("99")

    def test_somebody_elses_change_is_named_where_it_can_be_taken_back(self) -> None:
        other = second_coach(self.who, "Ana Prieto")
        plan = read_plan(database(), self.who, self.batch_id)
        apply(other, plan, SetPin(row_id=plan.rows[1].id, component_id=plan.components[0].id, grams=70))
        expect(self.cell(1, 1)).to_contain_text("70")
        notice = self.page.get_by_role("complementary", name="Details")
        expect(notice.get_by_text("Ana Prieto changed this batch just now")).to_be_visible()
        expect(notice.get_by_text("pinned at 70 g")).to_be_visible()
        button = self.undo("Undo Ana Prieto’s")
        button.hover()
        expect(self.page.get_by_role("tooltip")).to_contain_text("pinned at 70 g")
        button.click()
        expect(self.cell(1, 1)).not_to_contain_text("pinned")

    def test_the_panel_says_who_did_what_where_and_takes_any_of_it_back(self) -> None:
        self.page.goto("/settings")
        self.page.get_by_label("Called").fill("Tablet at the stove")
        self.page.get_by_role("button", name="Name it").click()
        self.page.goto(f"/batches/{self.batch_id}")
        self.pin(0, 1, "99")
        self.pin(1, 2, "150")
        self.page.get_by_role("button", name="History").click()
        changes = self.page.get_by_role("list", name="Changes").locator("> li")
        expect(changes).to_have_count(3)
        expect(changes.nth(1)).to_contain_text("Test Coach, Tablet at the stove")
        expect(changes.nth(1)).to_contain_text("pinned at 99 g")
        changes.nth(1).get_by_role("button", name="Take number 2 back").click()
        expect(self.cell(0, 1)).not_to_contain_text("pinned")
        expect(self.cell(1, 2)).to_contain_text("150")
        expect(changes).to_have_count(4)
        expect(changes.nth(0)).to_contain_text("Takes number 2 back")
        expect(changes.nth(2)).to_contain_text("Taken back by Test Coach")
        # The panel stands in the address.
        self.page.reload()
        expect(changes).to_have_count(4)

    def test_what_a_later_change_stands_on_is_refused_in_words(self) -> None:
        self.expected_refusals += 1
        self.pin(0, 1, "99")
        self.pin(0, 1, "88")
        self.page.get_by_role("button", name="History").click()
        self.page.get_by_role("button", name="Take number 2 back").click()
        expect(self.page.get_by_text("Test Coach changed this afterwards")).to_be_visible()
        expect(self.cell(0, 1)).to_contain_text("88")

    def test_two_weigh_at_once(self) -> None:
        """Two phones, each with the plan as it was before the other's weight came: both weights count."""
        email = new_email()
        second_coach(self.who, "Ana Prieto", email)
        refusals = self.expected_refusals
        there = self.new_page()
        self.sign_in(email, PASSWORD, there)
        self.expected_refusals += refusals
        plan = read_plan(database(), self.who, self.batch_id)
        for page in (self.page, there):
            page.route("**/events", lambda route: route.fulfill(status=204))
            page.goto(f"/batches/{self.batch_id}")
            expect(page.get_by_role("heading", name="Bowls")).to_be_visible()
        for page, index in ((self.page, 0), (there, 1)):
            component = plan.components[index]
            page.get_by_role("button", name=component.name).first.click()
            panel = page.get_by_role("region", name=component.name, exact=True)
            panel.get_by_label("On the scale").fill(f"{component.cooked_g:.0f}")
            panel.get_by_role("button", name="Record the weight").click()
            expect(panel.get_by_text("Weighed by")).to_be_visible()
        expect(there.get_by_text("Your change is not saved yet")).to_have_count(0)
        read = read_plan(database(), self.who, self.batch_id)
        self.assertEqual([one.weighing is not None for one in read.components][:2], [True, True])
        self.assertEqual({one.weighing.weighed_by for one in read.components if one.weighing},
                         {"Test Coach", "Ana Prieto"})  # fmt: skip

    def test_one_pot_weighed_by_two_asks_which_is_right(self) -> None:
        other = second_coach(self.who, "Ana Prieto")
        plan = read_plan(database(), self.who, self.batch_id)
        grams = round(plan.components[0].cooked_g)
        apply(self.who, plan, weigh(plan, 0, grams))
        apply(other, plan, weigh(plan, 0, grams + 40))
        name = plan.components[0].name
        settle = self.page.get_by_role("complementary", name="Details")
        settle.get_by_role("alert").filter(has_text="weighed more than once").get_by_role("button").click()
        panel = self.page.get_by_role("region", name=name, exact=True)
        expect(panel.get_by_role("list", name="Weights of this pot").locator("li")).to_have_count(2)
        panel.get_by_role("button", name=f"{grams:,} g is right").click()
        expect(panel.get_by_text("Which is right?")).to_have_count(0)
        read = read_plan(database(), self.who, self.batch_id)
        weighing = read.components[0].weighing
        self.assertEqual(weighing and weighing.cooked_g, grams)

    def test_a_weight_from_elsewhere_leaves_what_is_half_typed(self) -> None:
        other = second_coach(self.who, "Ana Prieto")
        plan = read_plan(database(), self.who, self.batch_id)
        chicken, grams = plan.components[0], round(plan.components[0].cooked_g)
        self.page.get_by_role("button", name=chicken.name).first.click()
        panel = self.page.get_by_role("region", name=chicken.name, exact=True)
        panel.get_by_label("On the scale").fill(f"{grams + 30}")
        apply(other, plan, weigh(plan, 0, grams))
        expect(panel.get_by_text(f"Ana Prieto recorded {grams:,} g meanwhile")).to_be_visible()
        expect(panel.get_by_label("On the scale")).to_have_value(f"{grams + 30}")
        panel.get_by_role("button", name="Record the weight").click()
        expect(panel.get_by_role("list", name="Weights of this pot").locator("li")).to_have_count(2)

    def test_what_is_half_typed_can_be_left(self) -> None:
        plan = read_plan(database(), self.who, self.batch_id)
        chicken, grams = plan.components[0], round(plan.components[0].cooked_g)
        self.page.get_by_role("button", name=chicken.name).first.click()
        panel = self.page.get_by_role("region", name=chicken.name, exact=True)
        panel.get_by_label("On the scale").fill("99")
        apply(self.who, plan, weigh(plan, 0, grams))
        panel.get_by_role("button", name="Leave mine").click()
        expect(panel.get_by_text(f"{grams:,} g", exact=True).first).to_be_visible()
        expect(panel.get_by_label("On the scale")).to_have_count(0)
