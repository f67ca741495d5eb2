"""Who can eat what: asked, followed while workers answer, sorted, stopped."""

from __future__ import annotations

import re
import threading

from playwright.sync_api import expect
from sqlalchemy import text

from tests.browser.case import BrowserCase, choose
from tests.kitchens import planned
from tests.support import PASSWORD, database, settings
from yantai.jobs import worker


class WhoCanEat(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        with database().engine.begin() as connection:
            connection.execute(text("DELETE FROM procrastinate_jobs"))

    def ask(self) -> None:
        email = self.own_kitchen()
        planned(self.who)
        self.signed_in(email, PASSWORD)
        self.page.goto("/recipes")
        self.page.get_by_role("link", name="Who can eat what").click()
        expect(self.page.get_by_text("Not asked yet")).to_be_visible()
        self.page.get_by_role("button", name="Ask", exact=True).click()
        expect(self.page.get_by_role("progressbar", name="0 of 1 recipe answered")).to_be_visible()

    def work(self) -> None:
        """A worker until nothing waits, on a thread that Playwright does not use."""
        thread = threading.Thread(target=worker.run, args=(settings(),), kwargs={"until_empty": True})
        thread.start()
        thread.join()

    def test_asked_answered_and_sorted(self) -> None:
        self.ask()
        self.work()
        rows = self.page.get_by_role("row")
        expect(rows).to_have_count(1 + 3)
        expect(self.page.get_by_role("progressbar")).to_be_hidden()
        expect(rows.filter(has_text="Milo Brandt")).to_contain_text("without Sauce")
        expect(rows.filter(has_text="dinner")).to_contain_text("fits")
        self.page.get_by_role("button", name="Container").click()
        expect(self.page.get_by_role("columnheader", name="Container")).to_have_attribute("aria-sort", "ascending")
        expect(rows.nth(1)).to_contain_text("Ada Vance")
        choose(self.page, "Client", "Milo Brandt")
        expect(rows).to_have_count(1 + 1)
        # What is shown stands in the address.
        self.page.reload()
        expect(rows).to_have_count(1 + 1)
        expect(rows.nth(1)).to_contain_text("Milo Brandt")

    def test_clients_by_recipes(self) -> None:
        self.ask()
        self.work()
        expect(self.page.get_by_role("progressbar")).to_be_hidden()
        choose(self.page, "Shown as", "clients by recipes")
        # Ada's dinner is met by the bowl, her lunch is not; Milo's goes without the sauce.
        rows = self.page.get_by_role("row")
        expect(rows).to_have_count(1 + 2)
        ada = self.page.get_by_role("button", name=re.compile(r"Ada Vance, Chicken bowl: fits \d of 2$"))
        expect(ada).to_be_visible()
        milo = self.page.get_by_role("button", name=re.compile("Milo Brandt, Chicken bowl: fits . of 1, something"))
        milo.click()
        expect(rows).to_have_count(1 + 1)
        expect(rows.nth(1)).to_contain_text("without Sauce")

    def test_stopped(self) -> None:
        self.ask()
        self.page.get_by_role("button", name="Stop").click()
        expect(self.page.get_by_text("0 of 1 recipe answered before.")).to_be_visible()
        self.work()
        self.page.get_by_role("button", name="Ask anew").click()
        expect(self.page.get_by_role("progressbar")).to_be_visible()

    def test_the_demo_has_a_reason_for_each_no(self) -> None:
        self.signed_in()
        self.page.goto("/recipes/who-can-eat?show=not")
        cells = self.page.get_by_role("row").locator("td:last-child")
        expect(cells.first).to_contain_text(": ")
        for words in cells.all_inner_texts():
            self.assertRegex(words, r"\d (g|kcal|mg) (short|over).*: .+\.")
