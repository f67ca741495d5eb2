"""Handing over: days by one press, containers dragged and moved by hand and back, weeks, shelf life, labels."""

from __future__ import annotations

import base64
import re
import uuid

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Locator, expect

from tests.browser.case import OwnKitchen, choose
from tests.formats.test_labels import codes_of
from tests.kitchens import planned
from tests.support import database
from yantai.work.handover.printing import read_job, read_printer
from yantai.work.handover.shown import read_hand_over


class HandOverCase(OwnKitchen):
    """Cooked on Sunday the 29th: five lunches and three dinners for Ada, four lunches for Milo."""

    def setUp(self) -> None:
        super().setUp()
        self.batch_id = planned(self.who).batch.id

    def open_days(self, client: str = "Milo Brandt") -> None:
        page = self.page
        page.goto(f"/batches/{self.batch_id}/hand-over")
        page.get_by_role("button", name="Give every container its day").click()
        page.get_by_role("navigation", name="Clients").get_by_role("button", name=client).click()
        expect(self.day("Mon 30")).to_be_visible()

    def day(self, name: str) -> Locator:
        """A day of the calendar, by its heading."""
        return self.page.get_by_role("region").filter(has=self.page.get_by_role("heading", name=name, exact=True)).last

    def card(self, number: int) -> Locator:
        return self.page.get_by_role("button", name=re.compile(rf", {number} of 4: move it"))

    def drag(self, one: Locator, to: Locator) -> None:
        start, end = one.bounding_box(), to.bounding_box()
        assert start is not None and end is not None
        mouse = self.page.mouse
        mouse.move(start["x"] + 20, start["y"] + 10)
        mouse.down()
        mouse.move(end["x"] + end["width"] / 2, end["y"] + 80, steps=8)
        mouse.up()

    def days(self, client: str = "Milo Brandt") -> dict[int, str]:
        """What the server knows: the day of each container."""
        found = read_hand_over(database(), self.who, self.batch_id)
        week = next(one for one in found.clients if one.client == client)
        return {one.number: f"{one.eaten_on:%a %-d} {one.store}" for day in week.days for one in day.containers}


class Days(HandOverCase):
    def test_every_container_gets_its_day_with_one_press(self) -> None:
        page = self.page
        page.goto(f"/batches/{self.batch_id}/hand-over")
        clients = page.get_by_role("navigation", name="Clients")
        expect(clients.get_by_role("button", name="Milo Brandt")).to_contain_text("no days yet")
        page.get_by_role("button", name="Give every container its day").click()
        expect(clients.get_by_role("button", name="Milo Brandt")).to_contain_text("all 4 have a day")
        expect(clients.get_by_role("button", name="Ada Vance")).to_contain_text("2 without a day")
        expect(page.get_by_role("alert")).to_contain_text("Sauce does not freeze. Pack that apart, or cook it twice.")
        clients.get_by_role("button", name="Milo Brandt").click()
        expect(self.day("Wed 2")).to_contain_text("into the fridge to thaw: Chicken bowl, lunch, 4 of 4")
        expect(self.day("Thu 3")).to_contain_text("Freezer, thaw Wed 2 evening")
        found = Axe().run(page).response["violations"]
        self.assertEqual([one["id"] for one in found if one["impact"] in ("serious", "critical")], [])
        # Its address opens the same client again.
        page.reload()
        expect(page.get_by_role("heading", name="Milo Brandt")).to_be_visible()

    def test_one_is_dragged_onto_the_day_of_another_and_they_change_places(self) -> None:
        self.open_days()
        self.drag(self.card(1), self.day("Wed 2"))
        expect(self.day("Wed 2")).to_contain_text("1 of 4, Fridge, until Wed 2, set by hand")
        expect(self.day("Mon 30")).to_contain_text("3 of 4")
        self.assertEqual(self.days(), {3: "Mon 30 fridge", 2: "Tue 1 fridge", 1: "Wed 2 fridge", 4: "Thu 3 freezer"})
        self.page.get_by_role("button", name="Undo").click()
        expect(self.day("Mon 30")).to_contain_text("1 of 4")
        self.assertEqual(self.days()[1], "Mon 30 fridge")
        expect(self.page.get_by_text("set by hand")).to_have_count(0)

    def test_by_the_keyboard_and_what_a_move_breaks_is_told(self) -> None:
        page = self.page
        self.open_days()
        self.card(4).focus()
        page.keyboard.press("Enter")
        form = page.get_by_role("dialog")
        expect(form).to_contain_text("Keeps in the fridge until Wed 2 December")
        choose(form, "Eaten on", re.compile("Fri 4 December: out of the freezer"))
        form.get_by_role("radio", name="in the fridge").click()
        form.get_by_role("button", name="Move it").click()
        expect(self.day("Fri 4")).to_contain_text("1 day past Thu 3 Dec, the customary most")
        expect(self.day("Fri 4")).to_contain_text("Freeze it, or eat it sooner")
        # It stays, and is told in the list of clients, until somebody sets it right.
        page.reload()
        expect(self.day("Fri 4")).to_contain_text("the customary most")
        expect(page.get_by_role("navigation", name="Clients")).to_contain_text("1 to look at")
        page.get_by_role("button", name="All days anew").click()
        expect(page.get_by_text("the customary most")).to_have_count(0)
        self.assertEqual(self.days()[4], "Thu 3 freezer")

    def test_a_day_is_taken_away_and_given_back(self) -> None:
        page = self.page
        self.open_days()
        self.card(2).click()
        page.get_by_role("dialog").get_by_role("button", name="Take its day away").click()
        expect(page.get_by_role("region", name="Without a day")).to_contain_text("2 of 4")
        self.assertNotIn(2, self.days())
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("region", name="Without a day")).to_have_count(0)
        self.assertEqual(self.days()[2], "Tue 1 fridge")

    def test_a_week_and_a_small_fridge(self) -> None:
        page = self.page
        self.open_days()
        page.get_by_role("button", name="Week and fridge").click()
        form = page.get_by_role("dialog")
        form.get_by_label("First day of this batch").fill("2026-11-28")
        self.expected_refusals += 1
        form.get_by_role("button", name="Save").click()
        expect(form.get_by_text("Nothing is eaten before it was cooked")).to_be_visible()
        form.get_by_label("First day of this batch").fill("2026-12-01")
        form.get_by_label("Room in the fridge").fill("2")
        form.get_by_role("button", name="Save").click()
        expect(page.get_by_text("From Tue 1 December; 2.0 l of fridge")).to_be_visible()
        page.get_by_role("button", name="Days anew", exact=True).click()
        expect(self.day("Tue 1")).to_contain_text("1 of 4")
        found = [one.fridge_l for one in read_hand_over(database(), self.who, self.batch_id).clients]
        self.assertEqual(found, [None, 2.0])

    def test_another_row_of_the_table_for_a_component(self) -> None:
        page = self.page
        self.open_days("Ada Vance")
        shelf = page.get_by_role("region", name="How long it keeps")
        expect(shelf.get_by_role("row", name=re.compile("Sauce"))).to_contain_text("yogurt-based dressings and dips")
        page.get_by_role("button", name="Another row for Sauce").click()
        form = page.get_by_role("dialog")
        choose(form, "Row of the table", "tomato sauces")
        expect(form).to_contain_text("3, customary 5 days in the fridge, freezes, 4 months")
        form.get_by_role("button", name="Save").click()
        expect(shelf.get_by_role("row", name=re.compile("Sauce"))).to_contain_text("tomato sauces chosen by")
        page.get_by_role("button", name="Give every container its day").click()
        expect(page.get_by_role("button", name="Ada Vance")).to_contain_text("all 8 have a day")


class Labels(HandOverCase):
    def test_labels_are_looked_at_sent_and_opened_by_their_code(self) -> None:
        page = self.page
        self.open_days()
        page.get_by_role("button", name="Labels", exact=True).click()
        form = page.get_by_role("dialog")
        expect(form.get_by_role("status")).to_have_text(
            "12 labels on 1 page. 12 containers not filled: they say “planned”."
        )
        expect(form.get_by_role("img", name="The first sheet as it is printed")).to_be_visible()
        form.get_by_label("Begin in cell").fill("15")
        expect(form.get_by_role("status")).to_contain_text("12 labels on 2 pages")
        self.expected_refusals += 1
        form.get_by_label("Begin in cell").fill("22")
        expect(form.get_by_text("This sheet has 21 labels; start at one of them.").first).to_be_visible()
        choose(form, "Sheet or roll", "Roll, 50 × 30 mm")
        choose(form, "Whose", "Milo Brandt")
        form.get_by_role("button", name="To the label printer").click()
        expect(page.get_by_text("4 labels printed.")).to_be_visible()
        form.get_by_role("link", name="The label printer").click()
        expect(page.get_by_role("main").get_by_role("listitem").filter(has_text="4 labels")).to_be_visible()
        (job,) = read_printer(database(), self.who).jobs
        code = codes_of(read_job(database(), self.who, job.id))[0]
        page.goto(code[code.index("/c/") :])
        expect(page.get_by_role("heading", name="Milo Brandt")).to_be_visible()
        expect(page.get_by_text("Planned, not weighed.")).to_be_visible()
        found = Axe().run(page).response["violations"]
        self.assertEqual([one["id"] for one in found if one["impact"] in ("serious", "critical")], [])

    def test_a_printer_that_is_off_keeps_what_it_was_sent(self) -> None:
        page = self.page
        page.goto("/label-printer")
        page.get_by_role("button", name="Switch it off").click()
        expect(page.get_by_text("The label printer is off")).to_be_visible()
        self.open_days()
        page.get_by_role("button", name="Labels", exact=True).click()
        page.get_by_role("dialog").get_by_role("button", name="To the label printer").click()
        expect(page.get_by_text("The label printer is off: they wait.")).to_be_visible()
        page.goto("/label-printer")
        expect(page.get_by_text("1 job waits, and is printed when it is switched on.")).to_be_visible()
        page.get_by_role("button", name="Switch it on").click()
        expect(page.get_by_role("listitem").filter(has_text="12 labels")).to_contain_text("Printed")

    def test_a_code_that_is_none_says_so(self) -> None:
        self.expected_refusals += 1
        key = base64.urlsafe_b64encode(uuid.uuid4().bytes).decode().rstrip("=")
        self.page.goto(f"/c/{key}.1")
        expect(self.page.get_by_role("alert")).to_contain_text("no longer in its batch")
