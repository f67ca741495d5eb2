"""The client's own page on a phone: a week, what was eaten and left, swaps, a word, no network, no link."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from gzip import compress

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import BrowserContext, Locator, Page, Request, expect
from sqlalchemy import text

from tests.browser.case import OwnKitchen, browser, server
from tests.kitchens import apply, planned
from tests.support import database
from yantai.api.app import WEB
from yantai.work.batches.inputs import SetBatch
from yantai.work.batches.reading import read_plan
from yantai.work.handover.calendar import make_calendar
from yantai.work.handover.inputs import CalendarInput, LinkInput
from yantai.work.handover.links import make_link, read_client_page, revoke_link
from yantai.work.handover.shown import read_hand_over

PHONE = (390, 844)


class MyCase(OwnKitchen):
    """Cooked yesterday: Milo has four lunches, from today on."""

    def setUp(self) -> None:
        super().setUp()
        now = datetime.now(UTC)
        plan = planned(self.who)
        head = plan.batch
        change = SetBatch(
            name=head.name, cook_on=(now - timedelta(days=1)).date(), step_g=head.step_g, buffer_share=head.buffer_share
        )
        plan = apply(self.who, plan, change)
        self.batch_id = plan.batch.id
        make_calendar(database(), self.who, self.batch_id, CalendarInput(), now)
        week = next(
            one for one in read_hand_over(database(), self.who, self.batch_id).clients if one.client == "Milo Brandt"
        )
        self.eater = week.client_id
        made = make_link(database(), self.who, self.eater, LinkInput(address=server(), days=30), "", now)
        self.link, self.link_id = made.address, made.link.id
        self.asked: list[Request] = []
        self.phone_context = self.new_phone()
        self.phone = self.phone_context.new_page()
        self.phone.set_default_timeout(30_000)
        self.phone.on("request", lambda request: self.asked.append(request))
        self.phone.on("pageerror", lambda error: self.fail(f"page error: {error}"))

    def new_phone(self) -> BrowserContext:
        width, height = PHONE
        context = browser().new_context(
            viewport={"width": width, "height": height}, base_url=server(), has_touch=True, service_workers="allow"
        )
        self.addCleanup(context.close)
        return context

    def open(self, page: Page | None = None) -> Page:
        page = page or self.phone
        page.goto(self.link)
        expect(page.get_by_role("heading", name=re.compile("^Today, "))).to_be_visible()
        return page

    def container(self) -> Locator:
        return self.phone.get_by_role("article", name="Lunch: Chicken bowl").first

    def facts(self) -> list[tuple[str, float | None]]:
        with database().reading(self.who.workspace_id) as session:
            rows = session.execute(text("SELECT event, left_g FROM eating_fact ORDER BY number")).all()
        return [(row.event, None if row.left_g is None else float(row.left_g)) for row in rows]

    @contextmanager
    def offline(self) -> Iterator[None]:
        # A page just loaded may ask before the browser knows that it is offline: nothing gets through then either.
        self.phone_context.set_offline(True)
        self.phone.route("**/api/**", lambda route: route.abort())
        yield
        self.phone.unroute("**/api/**")
        self.phone_context.set_offline(False)


class Week(MyCase):
    def test_today_tomorrow_and_the_days_to_come(self) -> None:
        phone = self.open()
        expect(phone.get_by_text("For Milo Brandt, from Test Coach")).to_be_visible()
        expect(self.container().get_by_role("heading", name="Chicken bowl, 1 of 4")).to_be_visible()
        expect(self.container()).to_contain_text("hot all through (74 °C), once only")
        expect(phone.get_by_text(re.compile("^Tomorrow, "))).to_be_visible()
        self.container().get_by_text("What is in it").click()
        expect(self.container()).to_contain_text("Contains GLUTEN.")
        # Everything is where a thumb reaches it, and nothing sticks out.
        self.assertLessEqual(phone.evaluate("document.documentElement.scrollWidth"), PHONE[0])
        heights = phone.get_by_role("button").evaluate_all("all => all.map(one => one.getBoundingClientRect().height)")
        self.assertGreaterEqual(min(heights), 44)
        found = Axe().run(phone).response["violations"]
        self.assertEqual([one["id"] for one in found if one["impact"] in ("serious", "critical")], [])

    def test_it_asks_nobody_but_its_server_and_is_small(self) -> None:
        self.open()
        self.phone.wait_for_load_state("networkidle")
        self.assertGreater(len(self.asked), 3)
        for request in self.asked:
            self.assertTrue(request.url.startswith((server(), "data:", "blob:")), request.url)
            # The secret stands in no address that is asked for, and is told to no other page.
            self.assertNotIn(self.link.partition("#")[2], request.url)
            self.assertNotIn("referer", {name for name, value in request.headers.items() if "#" in value})
        loaded = [request.url for request in self.asked if re.search(r"/assets/.*\.(js|css)$", request.url)]
        weight = sum(len(compress((WEB / url[url.index("assets/") :]).read_bytes())) for url in set(loaded))
        self.assertTrue(0 < weight < 60_000, weight)
        self.assertIn("noindex", self.phone.locator("meta[name=robots]").get_attribute("content") or "")

    def test_macros_are_hidden_by_wish(self) -> None:
        phone = self.open()
        expect(self.container().get_by_text("Protein")).to_be_visible()
        phone.get_by_role("button", name="Hide the macros").click()
        expect(phone.get_by_text("Protein")).to_have_count(0)
        phone.reload()
        expect(phone.get_by_role("button", name="Show the macros")).to_be_visible()
        expect(phone.get_by_text("kcal")).to_have_count(0)


class Told(MyCase):
    def test_eaten_left_some_and_taken_back(self) -> None:
        self.open()
        one = self.container()
        one.get_by_role("button", name="Eaten").click()
        expect(one.get_by_role("status")).to_contain_text("Eaten")
        one.get_by_role("button", name="Take back").click()
        one.get_by_role("button", name="Left some").click()
        one.get_by_label("Grams that were left").fill("some")
        expect(one.get_by_text("Grams are a number, as 80.")).to_be_visible()
        one.get_by_label("Grams that were left").fill("80")
        one.get_by_role("button", name="Save").click()
        expect(one.get_by_role("status")).to_contain_text("Left 80 g")
        one.get_by_role("button", name="Take back").click()
        one.get_by_role("button", name="Left some").click()
        one.get_by_role("button", name="half").click()
        expect(one.get_by_role("status")).to_contain_text("Left half")
        self.phone.reload()
        expect(self.container().get_by_role("status")).to_contain_text("Left half")
        expect(self.phone.get_by_text("to be handed in")).to_have_count(0)
        self.assertEqual([event for event, _ in self.facts()], ["eaten", "taken back", "left", "taken back", "left"])

    def test_another_one_is_eaten_instead(self) -> None:
        self.open()
        one = self.container()
        one.get_by_text("Eat another one instead").click()
        one.get_by_role("button", name=re.compile("Chicken bowl, ")).last.click()
        expect(self.container().get_by_role("heading", name="Chicken bowl, 3 of 4")).to_be_visible()
        week = read_hand_over(database(), self.who, self.batch_id)
        moved = {
            one.number: one.by_hand
            for client in week.clients
            if client.client == "Milo Brandt"
            for day in client.days
            for one in day.containers
        }
        self.assertEqual(moved, {1: True, 2: False, 3: True, 4: False})

    def test_a_word_to_the_coach(self) -> None:
        phone, page = self.open(), self.page
        phone.get_by_label("A word to your coach").fill("Less bulgur, please")
        phone.get_by_role("button", name="Send it").click()
        expect(phone.get_by_text("It is on its way.")).to_be_visible()
        page.goto(f"/batches/{self.batch_id}/hand-over?client={self.eater}")
        page.get_by_role("button", name="Their page").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("Less bulgur, please")).to_be_visible()
        dialog.get_by_role("button", name="Read", exact=True).click()
        expect(dialog.get_by_role("button", name="Read", exact=True)).to_have_count(0)


class Kitchen(MyCase):
    def test_one_weighed_pan_becomes_grams_for_each_container(self) -> None:
        phone = self.open()
        phone.get_by_text("I cook it myself").click()
        pan = phone.get_by_role("region", name="Chicken")
        expect(pan).to_contain_text("Cook to 74 °C in the thickest part (poultry)")
        plan = read_plan(database(), self.who, self.batch_id)
        row = next(row for row in plan.rows if row.client == "Milo Brandt")
        chicken = next(one for one in plan.components if one.name == "Chicken")
        grams = next(cell.grams for cell in row.cells if cell.component_id == chicken.id)
        expect(pan).to_contain_text(f"Expected about {4 * grams:,.0f} g.")
        pan.get_by_label("What Chicken weighs").fill("1000")
        # Four containers share it alike, whatever it weighs.
        expect(pan.get_by_role("status")).to_contain_text("250 g")
        pan.get_by_label("What Chicken weighs").fill("a lot")
        expect(pan).to_contain_text("Grams are a number, as 880.")
        expect(pan.get_by_role("status")).not_to_contain_text("250 g")
        with self.offline():
            pan.get_by_label("What Chicken weighs").fill("900")
            expect(pan.get_by_role("status")).to_contain_text("There is no network")


class Away(MyCase):
    def kept(self) -> None:
        """The page was opened once, and the phone has kept it."""
        self.open()
        self.phone.evaluate("navigator.serviceWorker.ready.then(() => undefined)")

    def test_without_a_network_it_opens_and_what_is_told_waits(self) -> None:
        self.kept()
        with self.offline():
            self.phone.goto(f"{server()}/my")
            expect(self.container().get_by_role("heading", name="Chicken bowl, 1 of 4")).to_be_visible()
            expect(self.phone.get_by_text("No network: this is as it was on")).to_be_visible()
            self.container().get_by_role("button", name="Eaten").click()
            expect(self.container().get_by_role("status")).to_contain_text("Eaten")
            expect(self.phone.get_by_text("1 thing waits to be handed in.")).to_be_visible()
            self.phone.reload()
            expect(self.container().get_by_role("status")).to_contain_text("Eaten")
            self.assertEqual(self.facts(), [])
        self.phone.reload()
        expect(self.phone.get_by_text("to be handed in")).to_have_count(0)
        expect(self.container().get_by_role("status")).to_contain_text("Eaten")
        self.assertEqual(self.facts(), [("eaten", None)])

    def test_without_a_network_the_day_goes_on(self) -> None:
        self.kept()
        self.phone.clock.set_fixed_time(datetime.now(UTC) + timedelta(days=1))
        with self.offline():
            self.phone.reload()
            tomorrow = datetime.now(UTC) + timedelta(days=1)
            expect(self.phone.get_by_role("heading", name=f"Today, {tomorrow:%A}")).to_be_visible()
            expect(self.container().get_by_role("heading", name="Chicken bowl, 2 of 4")).to_be_visible()

    def test_a_link_that_is_revoked_shows_nothing_any_more(self) -> None:
        self.kept()
        revoke_link(database(), self.who, self.eater, self.link_id, datetime.now(UTC))
        self.phone.reload()
        expect(self.phone.get_by_role("status")).to_contain_text("Ask your coach for a new one")
        expect(self.phone.get_by_text("Chicken bowl")).to_have_count(0)
        with self.offline():
            self.phone.reload()
            expect(self.phone.get_by_text("Chicken bowl")).to_have_count(0)
            expect(self.phone.get_by_text("Milo")).to_have_count(0)

    def test_another_link_on_the_same_phone_shows_nobody_else(self) -> None:
        self.kept()
        clients = read_hand_over(database(), self.who, self.batch_id).clients
        ada = next(one.client_id for one in clients if one.client == "Ada Vance")
        other = make_link(database(), self.who, ada, LinkInput(address=server(), days=3), "", datetime.now(UTC))
        self.phone.goto("about:blank")
        self.phone.goto(other.address)
        expect(self.phone.get_by_text("For Ada Vance")).to_be_visible()
        expect(self.phone.get_by_text("Milo")).to_have_count(0)

    def test_without_a_link_it_says_where_to_get_one(self) -> None:
        page = self.new_phone().new_page()
        page.goto("/my")
        expect(page.get_by_role("status")).to_have_text("Open this page by the link that your coach sent you.")
        page.goto("about:blank")
        page.goto("/my#nonsense")
        expect(page.get_by_role("status")).to_contain_text("This link does not work, or no longer")


class Coach(MyCase):
    def test_a_link_is_made_counted_and_revoked(self) -> None:
        page = self.page
        page.goto(f"/batches/{self.batch_id}/hand-over?client={self.eater}")
        page.get_by_role("button", name="Their page").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Works for").fill("400")
        self.expected_refusals += 1
        dialog.get_by_role("button", name="Make another link").click()
        expect(dialog.get_by_text("it must be from 1 to 366 days")).to_be_visible()
        dialog.get_by_label("Works for").fill("7")
        dialog.get_by_role("button", name="Make another link").click()
        self.link = dialog.get_by_test_id("link").inner_text()
        expect(dialog.get_by_role("img", name="The link as a code to scan")).to_be_visible()
        found = Axe().run(page).response["violations"]
        self.assertEqual([one["id"] for one in found if one["impact"] in ("serious", "critical")], [])
        self.open()
        opened = [one.opened for one in read_client_page(database(), self.who, self.eater, datetime.now(UTC)).links]
        self.assertEqual(opened, [1, 0])
        dialog.get_by_role("button", name=re.compile("Revoke the link")).first.click()
        expect(dialog.get_by_text(re.compile("^Revoked "))).to_be_visible()
        self.phone.reload()
        expect(self.phone.get_by_role("status")).to_contain_text("Ask your coach for a new one")
