"""What came back: a coach weighs what was left, sees the weeks, and bounds what is left again and again."""

from __future__ import annotations

import re
from datetime import UTC, datetime, timedelta

from playwright.sync_api import Locator, expect

from tests.browser.test_my_page import MyCase
from tests.kitchens import apply
from tests.support import database
from yantai.work.batches.inputs import SetBatch
from yantai.work.batches.reading import read_plan
from yantai.work.clients.clients import read_client
from yantai.work.handover.calendar import make_calendar
from yantai.work.handover.inputs import CalendarInput


class Weeks(MyCase):
    """Cooked five days ago: Milo's four lunches are over."""

    def setUp(self) -> None:
        super().setUp()
        now = datetime.now(UTC)
        plan = read_plan(database(), self.who, self.batch_id)
        head = plan.batch
        cook_on = (now - timedelta(days=5)).date()
        apply(
            self.who,
            plan,
            SetBatch(name=head.name, cook_on=cook_on, step_g=head.step_g, buffer_share=head.buffer_share),
        )
        make_calendar(database(), self.who, self.batch_id, CalendarInput(keep_by_hand=False), now)

    def containers(self) -> Locator:
        return self.page.get_by_role("list", name="Containers").get_by_role("listitem")

    def leave(self, number: int, grams: str) -> None:
        self.page.get_by_role("button", name=re.compile(f"^What was left of Chicken bowl, {number} of 4")).click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label(re.compile("^Bulgur, of ")).fill(grams)
        dialog.get_by_role("button", name="Save what was left").click()
        expect(dialog).to_have_count(0)
        expect(self.containers().filter(has_text=f"{number} of 4")).to_contain_text(f"{grams} g bulgur), noted here.")

    def test_from_what_was_left_to_a_bound(self) -> None:
        self.page.goto(f"/clients/{self.eater}")
        self.page.get_by_role("link", name="Weeks").click()
        expect(self.containers()).to_have_count(4)
        expect(self.containers().first).to_contain_text("Not told.")
        for number, grams in ((1, "60"), (2, "55"), (3, "70")):
            self.leave(number, grams)
        self.page.get_by_role("button", name=re.compile("^What was left of Chicken bowl, 4 of 4")).click()
        self.page.get_by_role("dialog").get_by_role("button", name="All was eaten").click()
        expect(self.page.get_by_text("Milo Brandt leaves the bulgur in 3 of 4 boxes.")).to_be_visible()
        plot = self.page.get_by_role("region", name="protein by day").get_by_role("img")
        expect(plot).to_have_accessible_name(re.compile(r"eaten \d+ g, target \d+ g"))
        offer = self.page.get_by_role("button", name=re.compile("^At most"))
        grams = re.findall(r"\d+", offer.inner_text())[0]
        offer.click()
        expect(self.page.get_by_text(f"They have at most {grams} g of it already.")).to_be_visible()
        bound = read_client(database(), self.who, self.eater).bounds[0]
        self.assertEqual((bound.word, bound.maximum_g), ("Bulgur", float(grams)))
        self.page.get_by_role("link", name="Client", exact=True).click()
        expect(self.page.get_by_label("Called")).to_have_value("Bulgur")

    def test_more_than_there_was_is_refused_and_stays_typed(self) -> None:
        self.expected_refusals = 1
        self.page.goto(f"/clients/{self.eater}/weeks")
        self.page.get_by_role("button", name=re.compile("^What was left of Chicken bowl, 1 of 4")).click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label(re.compile("^Bulgur, of ")).fill("4900")
        dialog.get_by_role("button", name="Save what was left").click()
        expect(dialog.get_by_role("alert")).to_contain_text("More of it is left than there was.")
        expect(dialog.get_by_label(re.compile("^Bulgur, of "))).to_have_value("4900")

    def test_by_the_client_part_by_part(self) -> None:
        phone = self.phone
        phone.goto(self.link)
        phone.get_by_text(re.compile("^Yesterday, ")).click()
        one = phone.get_by_role("article", name="Lunch: Chicken bowl").first
        one.get_by_role("button", name="Left some").click()
        one.get_by_text("Part by part").click()
        one.get_by_label("Grams of Bulgur that were left").fill("45")
        one.get_by_role("button", name="Save these").click()
        expect(one).to_contain_text("Left 45 g")
        self.page.goto(f"/clients/{self.eater}/weeks")
        expect(self.containers().first).to_contain_text("45 g bulgur), told by them.")
