"""Containers of the house: written down, given out and back; a plan that has more portions; packed another day."""

from __future__ import annotations

import re

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Locator, expect

from tests.browser.case import choose
from tests.browser.test_fill import FillCase
from tests.kitchens import apply
from tests.support import NOW, database
from yantai.work.batches.inputs import SetContainers
from yantai.work.batches.reading import read_plan
from yantai.work.containers.inputs import ContainerKindInput
from yantai.work.containers.kinds import list_kinds, save_kind
from yantai.work.fill.shown import read_filling


class House(FillCase):
    def test_a_kind_is_written_down_given_out_and_comes_back(self) -> None:
        page = self.page
        page.goto("/containers")
        expect(page.get_by_text("No container is written down yet")).to_be_visible()
        page.get_by_role("button", name="Add a kind").click()
        form = page.get_by_role("dialog")
        form.get_by_label("Name").fill("Meal box")
        self.expected_refusals += 1
        form.get_by_role("button", name="Save").click()
        # What makes no sense is told at its field, and what was typed stays.
        expect(form.get_by_label("Holds")).to_have_attribute("aria-invalid", "true")
        expect(form.get_by_label("Name")).to_have_value("Meal box")
        form.get_by_label("Holds").fill("900")
        form.get_by_label("How many there are in all").fill("20")
        form.get_by_label("Weighs empty").fill("86")
        form.get_by_label("Freezer").check()
        form.get_by_role("button", name="Save").click()
        box = page.get_by_role("listitem", name="Meal box")
        expect(box).to_contain_text("20 of 20 empty")
        expect(box).to_contain_text("900 ml, 86 g empty, for freezer")
        box.get_by_role("button", name="Give out").click()
        choose(form, "With whom", "Ada Vance")
        form.get_by_label("How many").fill("7")
        form.get_by_role("button", name="Write it down").click()
        expect(box).to_contain_text("13 of 20 empty")
        expect(box).to_contain_text("7 out with Ada Vance")
        box.get_by_label("How many of Ada Vance’s").fill("5")
        box.get_by_role("button", name="Came back").click()
        expect(box).to_contain_text("18 of 20 empty")
        found = Axe().run(page).response["violations"]
        self.assertEqual([one["id"] for one in found if one["impact"] in ("serious", "critical")], [])


class TooFew(FillCase):
    def setUp(self) -> None:
        super().setUp()
        for row in self.batch.rows:
            self.batch = apply(self.who, self.batch, SetContainers(row_id=row.id, count=row.count, capacity_ml=900))
        save_kind(database(), self.who, ContainerKindInput(name="Meal box", ml=900, owned=9, empty_g=86), None, NOW)
        save_kind(database(), self.who, ContainerKindInput(name="Glass box", ml=1200, owned=6), None, NOW)

    @property
    def notice(self) -> Locator:
        return self.page.get_by_role("complementary").get_by_text(re.compile("3 containers too few"))

    def open_plan(self) -> None:
        self.page.goto(f"/batches/{self.batch_id}")
        expect(self.notice).to_be_visible()

    def test_another_size_is_taken_with_one_press(self) -> None:
        self.open_plan()
        self.page.get_by_role("button", name="Take Glass box, 1,200 ml: 6 are free").click()
        expect(self.notice).to_have_count(0)
        sizes = {row.capacity_ml for row in read_plan(database(), self.who, self.batch_id).rows}
        self.assertEqual(sizes, {900, 1200})

    def test_the_rest_is_packed_another_day(self) -> None:
        page = self.page
        self.open_plan()
        page.get_by_role("button", name=re.compile("now, keep the rest in bulk")).click()
        expect(self.notice).to_have_count(0)
        expect(page.get_by_text("3 containers packed another day")).to_be_visible()
        self.open(scale=False)
        later = page.get_by_role("navigation", name="Containers").get_by_role("button", name="another day")
        expect(later).to_have_count(3)
        page.get_by_role("button", name="3 containers another day").click()
        days = page.get_by_role("dialog", name="Today and another day")
        expect(days.get_by_role("region", name="In bulk")).to_contain_text("3 days from cooking")
        expect(days).to_contain_text("in the fridge within 90 minutes")
        # The next day one more is packed; the bulk was weighed again before, as the dialog asks.
        days.get_by_role("button", name=re.compile("^One more today")).and_(
            days.locator("button:enabled")
        ).first.click()
        days.get_by_role("button", name="Done").click()
        expect(later).to_have_count(2)
        expect(page.get_by_text("All handed in")).to_be_visible()
        boxes = read_filling(database(), self.who, self.batch_id).containers
        self.assertEqual(sum(box.is_in_bulk for box in boxes), 2)

    def test_what_is_later_is_passed_over_until_its_day(self) -> None:
        page = self.page
        self.open_plan()
        page.get_by_role("button", name=re.compile("now, keep the rest in bulk")).click()
        expect(self.notice).to_have_count(0)
        self.open(scale=False)
        # By eye through all of today: what follows the last part of today is no container of another day.
        boxes = read_filling(database(), self.who, self.batch_id).containers
        today = [box for box in boxes if not box.is_in_bulk]
        for box in today:
            for part in box.parts:
                expect(self.part(part.name)).to_be_visible()
                page.keyboard.press("e")
        expect(page.get_by_text("9 of 12 containers closed")).to_be_visible()
        self.assertIsNone(read_plan(database(), self.who, self.batch_id).batch.packed_at)

    def test_they_leave_the_kitchen_and_are_out(self) -> None:
        save_kind(database(), self.who, ContainerKindInput(name="Box", ml=900, owned=12), None, NOW)
        page = self.page
        self.open(scale=False)
        for box in read_filling(database(), self.who, self.batch_id).containers:
            for part in box.parts:
                expect(self.part(part.name)).to_be_visible()
                page.keyboard.press("e")
        page.get_by_role("button", name="They left the kitchen").click()
        expect(page.get_by_text("12 containers left the kitchen")).to_be_visible()
        out = {one.client: one.count for kind in list_kinds(database(), self.who) for one in kind.out}
        self.assertEqual(sum(one.count for kind in list_kinds(database(), self.who) for one in kind.out), 12)
        self.assertEqual(set(out), {"Ada Vance", "Milo Brandt"})
