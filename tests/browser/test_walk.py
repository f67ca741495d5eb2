from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.browser.case import BrowserCase, choose, line
from tests.support import PASSWORD


class Walk(BrowserCase):
    def test_a_coach_starts_from_nothing_and_ends_with_grams(self) -> None:
        """Sign in, new client, new recipe, new batch, plan, pin, undo, weigh-in, pack; all from empty."""
        page = self.page
        email = self.own_kitchen()
        self.expected_refusals += 2  # the plan before signing in, and a wrong password
        page.goto("/clients")
        page.get_by_label("E-mail address").fill(email)
        page.get_by_label("Password").fill("not this one")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_text("do not belong together")).to_be_visible()
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="No client yet")).to_be_visible()

        page.get_by_role("link", name="New client").click()
        page.get_by_label("Name", exact=True).fill("Runa Castell")
        page.get_by_label("Protein", exact=True).fill("45")
        page.get_by_label("Carbohydrate", exact=True).fill("55")
        page.get_by_label("Fat", exact=True).fill("16")
        page.get_by_role("button", name="Save client").click()
        expect(page.get_by_text("Runa Castell is saved.")).to_be_visible()

        page.get_by_role("link", name="Recipes").click()
        page.get_by_role("link", name="New recipe").click()
        page.get_by_label("Name", exact=True).fill("Chicken and bulgur")
        self.add_component(0, "Chicken", "roasted", [("chicken thigh", "Chicken thigh, skinless", "2400")])
        page.get_by_role("button", name="Add a component").click()
        grains = [("bulgur", "Bulgur wheat", "600"), ("water", "Water", "1150")]
        self.add_component(1, "Bulgur", "boiled", grains)
        expect(page.get_by_text("100 g cooked hold about")).to_have_count(2)
        page.get_by_role("button", name="Save recipe").click()
        expect(page.get_by_text("Chicken and bulgur is saved.")).to_be_visible()

        page.get_by_role("link", name="Batches").click()
        page.get_by_role("link", name="Plan a batch").click()
        page.get_by_label("Name of the batch").fill("First batch")
        page.get_by_label("Containers for Runa Castell, lunch").fill("4")
        page.get_by_role("button", name="Make the plan").click()
        expect(page.get_by_role("heading", name="First batch")).to_be_visible()

        before = self.cell(0, 1).inner_text()
        self.cell(0, 1).focus()
        page.keyboard.type("150")
        page.keyboard.press("Enter")
        expect(self.cell(0, 1)).to_contain_text("pinned")
        expect(self.cell(0, 1)).to_contain_text("150")
        page.keyboard.press("Control+z")
        expect(self.cell(0, 1)).not_to_contain_text("pinned")
        self.assertEqual(self.cell(0, 1).inner_text().split("\n")[0], before.split("\n")[0])

        stages = page.get_by_role("navigation", name="Stages of this batch")
        stages.get_by_role("button", name="Weigh").click()
        for name in ("Chicken", "Bulgur"):
            card = page.get_by_role("list", name="Pots").get_by_role("button", name=re.compile(f"^{name}"))
            card.click()
            grams = int(re.search(r"~([\d,]+) g", card.inner_text())[1].replace(",", ""))  # type: ignore[index]
            pot = page.get_by_role("region", name=name, exact=True)
            pot.get_by_label("On the scale").fill(str(grams + 900))
            pot.get_by_label("Empty vessel").fill("900")
            pot.get_by_role("button", name="Record the weight").click()
            expect(card).to_contain_text("weighed by Test Coach")
        stages.get_by_role("button", name="Plan").click()
        page.get_by_role("button", name="Mark as packed").click()
        expect(page.get_by_role("button", name="Open it again")).to_be_visible()
        page.get_by_role("link", name="Today").click()
        expect(page.get_by_role("link", name="First batch")).to_be_visible()

    def add_component(self, index: int, name: str, method: str, lines: list[tuple[str, str, str]]) -> None:
        page = self.page
        card = page.locator("main ol > li").nth(index)
        card.get_by_label("Component", exact=True).fill(name)
        choose(card, "Cooked", method)
        for text, food, grams in lines:
            card.get_by_label(f"Write an ingredient of {name}").fill(f"{grams} g {text}")
            page.keyboard.press("Enter")
            expect(line(card, food)).to_contain_text(f"{float(grams):,.0f} g")
