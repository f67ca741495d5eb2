"""After one visit the list works without a network, through reload and restart; a newer version waits to be asked."""

from __future__ import annotations

import re
import shutil
import tempfile
from pathlib import Path
from unittest import mock

from playwright.sync_api import Locator, Page, expect

from tests.browser.case import CONTROLLED, BrowserCase
from yantai.api.app import WEB


def until(holds: str) -> str:
    """Waits in the page until something holds of the `names` of what is kept there."""
    return f"""(async () => {{
        for (let tries = 0; tries < 1000; tries++) {{
            const names = await caches.keys();
            if ({holds}) return;
            await new Promise((done) => setTimeout(done, 20));
        }}
        throw new Error('it never came');
    }})()"""


class WithoutNetwork(BrowserCase):
    service_workers = "allow"

    def setUp(self) -> None:
        super().setUp()
        self.open_own_plan()
        page = self.page
        page.evaluate(CONTROLLED)
        page.goto(f"/batches/{self.batch_id}/shop")
        page.get_by_role("button", name="Go shopping").click()
        expect(page.get_by_role("heading", name="Shopping for Bowls")).to_be_visible()
        expect(page.get_by_text("0 of 5")).to_be_visible()
        self.expected_refusals += 200

    def test_it_opens_again_and_what_is_ticked_arrives_later(self) -> None:
        page, context = self.page, self.page.context
        address = page.url
        context.set_offline(True)
        page.get_by_role("checkbox", name="Bulgur wheat in the basket").check()
        page.reload()
        basket = page.get_by_role("checkbox", name="Bulgur wheat in the basket")
        expect(basket).to_be_checked()
        expect(page.get_by_text("1 tick kept here until the server answers")).to_be_visible()
        # Closed and opened again, as a phone does with what it has no room for.
        page.close()
        again = context.new_page()
        self.page = again
        again.goto(address)
        expect(basket_of(again)).to_be_checked()
        again.get_by_role("checkbox", name="Salt, table in the basket").check()
        context.set_offline(False)
        expect(again.get_by_text(re.compile("kept here"))).to_have_count(0)
        again.reload()
        expect(basket_of(again)).to_be_checked()
        expect(again.get_by_text("2 of 5")).to_be_visible()

    def test_it_says_nothing_where_nothing_can_be_lost(self) -> None:
        expect(self.page.get_by_text("Before you go")).to_have_count(0)

    def test_signing_out_leaves_nothing_to_who_comes_next(self) -> None:
        page = self.page
        self.assertIn("opened", page.evaluate("caches.keys()"))
        page.get_by_role("button", name="Test Coach").click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
        page.evaluate(until("!names.includes('opened')"))

    def test_a_newer_version_waits_until_it_is_asked_for(self) -> None:
        page = self.page
        page.get_by_role("checkbox", name="Bulgur wheat in the basket").check()
        expect(page.get_by_text("1 of 5")).to_be_visible()
        before = page.evaluate("caches.keys()")
        web = Path(self.enterContext(tempfile.TemporaryDirectory())) / "web"
        shutil.copytree(WEB, web)
        worker = web / "sw.js"
        worker.write_text(worker.read_text().replace('"version":"', '"version":"newer-', 1))
        self.enterContext(mock.patch("yantai.api.app.WEB", web))
        page.evaluate("navigator.serviceWorker.getRegistration().then((one) => one.update())")
        expect(page.get_by_text("A new version of Yantai is there.")).to_be_visible()
        self.assertTrue(set(before) <= set(page.evaluate("caches.keys()")))
        page.get_by_role("button", name="Take it now").click()
        expect(page.get_by_text("A new version of Yantai is there.")).to_have_count(0)
        page.evaluate(until("!names.some((name) => name.startsWith('shell-') && !name.startsWith('shell-newer-'))"))
        expect(page.get_by_role("checkbox", name="Bulgur wheat in the basket")).to_be_checked()


def basket_of(page: Page) -> Locator:
    return page.get_by_role("checkbox", name="Bulgur wheat in the basket")
