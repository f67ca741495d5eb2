"""Every portioning school on the screen, who goes short, what cannot be met, and the other direction."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from tests.browser.case import BrowserCase, choose
from tests.support import database
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.pantry.reference import reference_id


class DemoCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.signed_in()

    def cell(self, row: int, column: int) -> Locator:
        return self.page.locator(f'[data-place="{row}:{column}"]')

    def aside(self, name: str) -> Locator:
        return self.page.get_by_role("region", name=name)


class Schools(DemoCase):
    """The worked demo of each school."""

    def test_pieces_are_counted_and_leaves_are_by_eye(self) -> None:
        self.open_demo_batch("Egg bakes Monday")
        expect(self.cell(0, 1)).to_contain_text("piece")
        expect(self.cell(0, 4)).to_contain_text("~25")
        expect(self.cell(0, 4)).to_contain_text("by eye")

    def test_one_pot_shows_the_mixture(self) -> None:
        self.open_demo_batch("Dhal Tuesday")
        expect(self.cell(0, 1)).to_contain_text(re.compile(r"of \d+ g mixed"))

    def test_built_raw_has_no_yield(self) -> None:
        self.open_demo_batch("Wraps Wednesday")
        self.page.get_by_role("columnheader", name="Wrap").get_by_role("button").click()
        panel = self.aside("Wrap")
        expect(panel.get_by_label("How it is portioned")).to_contain_text("Built raw")
        expect(panel.get_by_text("no yield", exact=False).first).to_be_visible()
        expect(panel.get_by_text(re.compile(r"\d+ units? of 215 g each: 60 g Tortilla"))).to_be_visible()
        expect(self.cell(0, 1)).to_contain_text("unit")

    def test_plate_shares_are_in_quarters(self) -> None:
        self.open_demo_batch("Salmon plates Thursday")
        grams = [int(self.cell(0, column).inner_text().split()[0]) for column in (1, 2, 3)]
        self.assertAlmostEqual(grams[2], grams[0] + grams[1], delta=10)

    def test_scoops_and_an_equal_split(self) -> None:
        self.open_demo_batch("Porridge Friday")
        expect(self.cell(0, 1)).to_contain_text("scoop")
        for row in range(3):
            expect(self.cell(row, 3)).to_contain_text("80")


class OwnPlan(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_own_plan()
        supply = SupplyInput(packs=[PackInput(name="tray", grams=900)])
        save_supply(database(), self.who, reference_id("chicken-thigh-skinless-raw"), supply)
        self.page.reload()
        expect(self.page.get_by_role("heading", name="Bowls")).to_be_visible()

    def aside(self, name: str) -> Locator:
        return self.page.get_by_role("region", name=name)

    def test_a_school_is_chosen_and_taken_back(self) -> None:
        """By component: grams by macros. Then pieces, which wait for their number, and undo."""
        before = self.cell(0, 1).inner_text().split()[0]
        self.page.get_by_role("columnheader", name="Chicken").get_by_role("button").click()
        panel = self.aside("Chicken")
        choose(panel, "How it is portioned", "Pieces")
        expect(self.cell(0, 1)).not_to_contain_text("piece")
        panel.get_by_label("Makes").fill("24")
        panel.get_by_label("Makes").press("Enter")
        expect(self.cell(0, 1)).to_contain_text("piece")
        self.page.get_by_role("button", name="Undo").click()
        expect(self.cell(0, 1)).to_contain_text(before)
        expect(self.cell(0, 1)).not_to_contain_text("piece")

    def test_typed_pieces_are_pieces(self) -> None:
        self.page.get_by_role("columnheader", name="Chicken").get_by_role("button").click()
        panel = self.aside("Chicken")
        choose(panel, "How it is portioned", "Fixed measure")
        panel.get_by_label("One scoop").fill("60")
        panel.get_by_label("One scoop").press("Enter")
        expect(self.cell(0, 1)).to_contain_text("scoop")
        self.cell(0, 1).focus()
        self.page.keyboard.type("3")
        self.page.keyboard.press("Enter")
        expect(self.cell(0, 1)).to_contain_text("180 g")
        expect(self.cell(0, 1)).to_contain_text("pinned")

    def test_a_target_out_of_reach_and_an_accepted_way_out(self) -> None:
        self.cell(0, 6).focus()  # fat
        self.page.keyboard.type("30")
        self.page.keyboard.press("Enter")
        self.page.get_by_role("button", name="Ways out").first.click()
        ways = self.page.get_by_role("region", name="Ways out")
        ways.get_by_role("button", name=re.compile("^Add ")).first.click()
        expect(self.page.get_by_role("heading", name="Ways out")).to_be_hidden()
        expect(self.page.get_by_text("all targets met")).to_be_visible()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_text("1 thing to settle")).to_be_visible()

    def test_an_allergen_in_the_shared_pot_stays_out_and_is_told(self) -> None:
        expect(self.cell(2, 3)).to_contain_text("no milk")
        expect(self.cell(2, 3)).to_contain_text("left out")
        expect(self.page.get_by_text("Milo Brandt must avoid milk")).to_be_visible()

    def test_a_pot_that_came_out_short_is_shared(self) -> None:
        self.page.get_by_role("columnheader", name="Chicken").get_by_role("button").click()
        panel = self.aside("Chicken")
        raw = panel.get_by_label("Chicken thigh, skinless, raw")
        raw.fill("900")
        raw.press("Enter")
        expect(self.page.get_by_text("fixed", exact=False).first).to_be_visible()
        panel.get_by_label("On the scale").fill("640")
        panel.get_by_role("button", name="Record the weight").click()
        expect(self.cell(0, 1)).to_contain_text("its share of the pot")
        expect(self.page.get_by_role("columnheader", name="Chicken")).not_to_contain_text("short")

    def test_whole_packs_and_how_many_containers_they_fill(self) -> None:
        self.page.get_by_role("columnheader", name="Chicken").get_by_role("button").click()
        self.aside("Chicken").get_by_role("button", name=re.compile(r"Cook \d whole × tray")).click()
        expect(self.page.get_by_role("button", name="Follow the plan again")).to_be_visible()
        self.page.get_by_role("button", name="Brief").click()
        self.page.get_by_role("button", name="How many containers is that?").click()
        filled = self.page.get_by_role("region", name="From what there is")
        expect(filled.get_by_text("Left over")).to_be_visible()
        self.page.get_by_role("button", name="Plan these numbers").click()
        expect(self.page.get_by_role("button", name="Plan these numbers")).to_be_hidden()
        expect(self.page.get_by_text("all targets met")).to_be_visible()

    def test_the_reach_map_says_what_lies_outside(self) -> None:
        self.page.get_by_role("button", name="Reach map").click()
        panel = self.aside("Reach map")
        expect(panel).to_contain_text("lies inside")
        self.cell(0, 6).focus()
        self.page.keyboard.type("60")
        self.page.keyboard.press("Enter")
        expect(panel).to_contain_text("1 of 2 targets lies outside")

    def test_leftovers_and_who_goes_first_are_in_the_brief(self) -> None:
        self.page.get_by_role("button", name="Brief").click()
        choose(self.page, "When a pot is short", "Some go first")
        choose(self.page, "What weighed pots have left over", "Fills extra containers")
        self.page.get_by_role("button", name="Save the brief").click()
        expect(self.page.get_by_role("heading", name="Extra containers")).to_be_visible()
        self.page.get_by_role("button", name="Ada Vance, lunch").click()
        served = self.aside("Ada Vance").get_by_label("Served")
        served.fill("2")
        served.press("Enter")
        expect(served).to_have_value("2")


BOXES = 32
"""Containers of Kofta Sunday in the demo."""


class Printed(DemoCase):
    def test_the_fill_sheet_has_a_line_for_each_box_and_who_must_avoid_something_first(self) -> None:
        self.open_demo_batch("Kofta Sunday")
        sheet = self.page.get_by_test_id("fill-sheet")
        expect(sheet).to_be_hidden()
        self.page.emulate_media(media="print")
        expect(sheet).to_be_visible()
        expect(self.cell(0, 1)).to_be_hidden()
        rows = sheet.locator("tbody tr")
        self.assertEqual(rows.count(), BOXES)
        expect(rows.nth(0)).to_contain_text("Petra Nowicka 1 of")
        expect(rows.nth(0)).to_contain_text("NONE (milk)")
        expect(rows.nth(BOXES - 1)).not_to_contain_text("NONE")
        total = 0.0
        for cell in rows.nth(BOXES - 1).locator("td").all():
            shows = re.search(r"shows ([\d.,]+)", text := cell.inner_text())
            if shows:
                total += float(text.split("\n")[0])
                self.assertAlmostEqual(float(shows[1].replace(",", "")), total)
        self.assertGreater(total, 0)
        expect(sheet).to_contain_text("Petra Nowicka must avoid milk")
        size = (
            rows.nth(BOXES - 1).locator("td span").first.evaluate("node => parseFloat(getComputedStyle(node).fontSize)")
        )
        self.assertGreaterEqual(size, 28)


class SuggestedTargets(DemoCase):
    def suggest(self, **figures: str) -> None:
        self.page.goto("/clients/new")
        self.page.get_by_text("Suggest the figures of a day").click()
        for label, value in {"Age": "30", "Height": "170", "Weight": "65", **figures}.items():
            self.page.get_by_label(label, exact=True).fill(value)
        self.page.get_by_role("button", name="Suggest", exact=True).click()

    def test_a_suggestion_shows_its_formulas_and_becomes_a_target(self) -> None:
        self.suggest()
        expect(self.page.get_by_text("Mifflin-St Jeor 1990")).to_be_visible()
        self.page.get_by_role("button", name="Add this container as a target").click()
        # It takes the place of the target that held nothing yet.
        expect(self.page.get_by_label("Meal")).to_have_count(1)
        expect(self.page.get_by_label("Protein", exact=True)).to_have_value("41")  # 35 % of 117 g

    def test_a_referral_instead_of_figures(self) -> None:
        self.suggest(Age="16")
        expect(self.page.get_by_text("doctor or a registered dietitian", exact=False).first).to_be_visible()
        expect(self.page.get_by_role("button", name="Add this container as a target")).to_be_hidden()
