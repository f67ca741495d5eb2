"""Whole days of a client, another client's portion, and what the targets were."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.case import BrowserCase, choose
from tests.kitchens import planned
from tests.support import PASSWORD


class WholeDays(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        email = self.own_kitchen()
        planned(self.who)
        self.signed_in(email, PASSWORD)
        self.page.goto("/clients")
        self.page.get_by_role("link", name="Ada Vance").click()
        expect(self.page.get_by_role("heading", name="Ada Vance")).to_be_visible()

    def save(self) -> None:
        self.page.get_by_role("button", name="Save client").click()
        expect(self.page.get_by_text("Ada Vance is saved.")).to_be_visible()

    def test_extras_come_off_and_a_meal_takes_its_share(self) -> None:
        page = self.page
        page.get_by_role("button", name="Add a whole day").click()
        page.get_by_label("Protein", exact=True).first.fill("150")
        page.get_by_role("button", name="Add an extra").click()
        page.get_by_placeholder("Type a food").fill("oats rolled")
        page.get_by_role("dialog").get_by_role("option", name="Oats, rolled dry", exact=False).first.click()
        page.get_by_role("list", name="Extras of the any day").get_by_role("textbox").fill("20+20")
        page.get_by_label("Share of the day").first.fill("50")
        # 100 g of these oats hold 13.15 g protein: 5.3 g of the day, and half of the other 144.7 g for lunch.
        day = page.get_by_role("table", name="The any day")
        expect(day.get_by_role("row").nth(1).get_by_role("cell").nth(0)).to_have_text("5.3")
        expected = "72.4"
        expect(page.get_by_label("Protein", exact=True).nth(1)).to_have_value(expected)
        expect(page.get_by_label("Protein", exact=True).nth(1)).to_be_disabled()
        self.save()
        page.reload()
        expect(page.get_by_label("Protein", exact=True).nth(1)).to_have_value(expected)
        history = page.locator("section", has=page.get_by_role("heading", name="What the targets were"))
        expect(history.get_by_text("The any day: 150 g protein; extras 40 g")).to_be_visible()
        expect(history.get_by_text("Lunch: 45 g protein")).to_be_visible()

    def test_what_is_at_hand_is_kept_and_proposed(self) -> None:
        page = self.page
        page.get_by_role("button", name="Add a whole day").click()
        page.get_by_label("Protein", exact=True).first.fill("130")
        page.get_by_role("button", name="Add a food at hand").click()
        page.get_by_placeholder("Type a food").fill("greek yogurt nonfat")
        page.get_by_role("dialog").get_by_role("option", name="Greek yogurt, plain, nonfat", exact=False).first.click()
        at_hand = page.get_by_role("list", name="Foods at hand")
        at_hand.get_by_label("A serving").fill("150")
        at_hand.get_by_label("Most a day").fill("4")
        self.save()
        page.reload()
        expect(at_hand.get_by_label("A serving")).to_have_value("150")
        expect(at_hand.get_by_label("Most a day")).to_have_value("4")
        page.goto("/batches")
        page.get_by_role("link", name="Bowls").click()
        page.get_by_role("tab", name="Whole days").click()
        # 85 g of 130 g protein are in the containers: 3 servings of some 15 g each bring it inside.
        fill_up = page.get_by_role("region", name="What closes the gap")
        expect(fill_up).to_contain_text("450 g Greek yogurt")
        expect(fill_up).to_contain_text("nothing is missed")

    def test_a_share_without_its_day_says_what_to_do(self) -> None:
        page = self.page
        page.get_by_role("button", name="Add a whole day").click()
        page.get_by_label("Protein", exact=True).first.fill("150")
        page.get_by_label("Share of the day").first.fill("50")
        page.get_by_label("Kind of day").first.fill("training")
        self.expected_refusals += 2  # the preview and the save
        page.get_by_role("button", name="Save client").click()
        expect(page.get_by_text("There is no any day to take a share of", exact=False).last).to_be_visible()
        expect(page.get_by_label("Share of the day").first).to_have_value("50")

    def test_half_a_portion_of_somebody_elses_plan(self) -> None:
        page = self.page
        page.get_by_text("Start from another client’s portion").click()
        choose(page, "Whose container", "Milo Brandt, lunch")
        expect(page.get_by_role("row", name="× 0.5")).to_contain_text("27.5")
        page.get_by_label("Times").fill("1.5")
        expect(page.get_by_role("row", name="× 1.5")).to_contain_text("82.5")
        page.get_by_role("button", name="Add it as a target").click()
        expect(page.get_by_label("Carbohydrate", exact=True).last).to_have_value("82.5")
        expect(page.get_by_label("Meal").last).to_have_value("")  # lunch is there already
        page.get_by_label("Meal").last.fill("supper")
        self.save()

    def test_closeness_in_percent_and_what_stays_out(self) -> None:
        page = self.page
        expect(page.get_by_label("Protein ±")).to_have_value("3")
        page.get_by_role("radio", name="% of the target").click()
        expect(page.get_by_label("Protein ±")).to_have_value("5")
        page.get_by_label("Protein ±").fill("10")
        page.get_by_label("Leave out as well").fill("pork, bulgur")
        self.save()
        page.reload()
        expect(page.get_by_role("radio", name="% of the target")).to_be_checked()
        expect(page.get_by_label("Protein ±")).to_have_value("10")
        page.goto("/clients")
        expect(page.get_by_role("row", name="Ada Vance")).to_contain_text("leave out pork, bulgur")
        page.goto("/batches")
        page.get_by_role("link", name="Bowls").click()
        # The bulgur stays out of hers, and the others still get it.
        expect(self.cell(0, 2)).to_contain_text("no bulgur")
        expect(self.cell(2, 2)).not_to_contain_text("no bulgur")

    def test_a_suggested_day_is_taken_whole(self) -> None:
        page = self.page
        page.get_by_text("Suggest the figures of a day").click()
        for label, value in {"Age": "30", "Height": "170", "Weight": "65"}.items():
            page.get_by_label(label, exact=True).fill(value)
        page.get_by_role("button", name="Suggest", exact=True).click()
        page.get_by_role("button", name="Add the whole day").click()
        # 1.8 g of protein for each of 65 kg; her lunch and dinner hold 45 + 40 g of them.
        expect(page.get_by_label("Protein", exact=True).first).to_have_value("117")
        expect(page.get_by_role("table", name="The any day").get_by_role("row", name="Together")).to_contain_text("85")
