"""Messages to clients: written from templates, read before, sent, and what arrived at the simulated post office."""

from __future__ import annotations

import re
import tempfile
import threading
from pathlib import Path

from playwright.sync_api import Locator, expect
from sqlalchemy import text

from tests.browser.case import OwnKitchen, application
from tests.kitchens import planned
from tests.support import NOW, database, settings
from yantai.api.access import get_settings
from yantai.devices.post_office import PostOffice
from yantai.jobs import worker
from yantai.launcher.postgres import free_port
from yantai.work.handover.calendar import make_calendar
from yantai.work.handover.inputs import CalendarInput


class Messages(OwnKitchen):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "post"
        self.open_post_office()
        application().dependency_overrides[get_settings] = lambda: self.settings
        self.addCleanup(lambda: application().dependency_overrides.pop(get_settings))
        self.batch_id = planned(self.who).batch.id
        make_calendar(database(), self.who, self.batch_id, CalendarInput(), NOW)
        with database().engine.begin() as connection:
            connection.execute(text("DELETE FROM procrastinate_jobs"))
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text("UPDATE client SET email = 'ada@port-alder.example' WHERE name = 'Ada Vance'"))

    def open_post_office(self) -> None:
        self.office = PostOffice(self.folder, free_port())
        self.office.open()
        self.addCleanup(self.office.close)
        self.settings = settings(demo=True).model_copy(
            update={"mail_url": self.office.url, "post_office": str(self.folder)}
        )

    def work(self) -> None:
        """A worker until nothing waits, on a thread that Playwright does not use."""
        thread = threading.Thread(target=worker.run, args=(self.settings,), kwargs={"until_empty": True})
        thread.start()
        thread.join()

    def write(self) -> Locator:
        self.page.goto(f"/batches/{self.batch_id}/hand-over")
        self.page.get_by_role("link", name="Write to them").click()
        dialog = self.page.get_by_role("dialog")
        expect(dialog.get_by_role("list", name="Messages to send")).to_be_visible()
        return dialog

    def messages(self) -> Locator:
        return self.page.get_by_role("list", name="Messages", exact=True).get_by_role("listitem")

    def test_from_hand_over_to_the_post_office(self) -> None:
        dialog = self.write()
        expect(dialog.get_by_text("There is no e-mail address of them")).to_be_visible()
        dialog.get_by_text("Your containers, Mon 30 Nov to").click()
        expect(dialog.get_by_label("Text")).to_have_value(re.compile("- 5 x Chicken bowl, lunch"))
        dialog.get_by_label("Subject").fill("Bowls for you")
        dialog.get_by_role("button", name="Send 1 message").click()
        expect(self.messages()).to_contain_text("To ada@port-alder.example, on its way.")
        self.work()
        expect(self.messages()).to_contain_text("sent ")
        self.page.get_by_role("link", name="Post office").click()
        arrived = self.page.get_by_role("list", name="Arrived").get_by_role("listitem")
        expect(arrived).to_have_count(1)
        expect(arrived).to_contain_text("Bowls for you")
        link = re.findall(r"http\S+/my#\S+", arrived.inner_text())[0]
        self.page.goto(link)
        expect(self.page.get_by_text("For Ada Vance, from Test Coach")).to_be_visible()
        # Written once more, it is not ticked: it went to them already.
        dialog = self.write()
        expect(dialog.get_by_text("This went to them")).to_be_visible()
        expect(dialog.get_by_role("button", name="Nothing to send")).to_be_disabled()

    def test_a_post_office_that_is_closed(self) -> None:
        self.office.close()
        self.write().get_by_role("button", name="Send 1 message").click()
        self.work()
        expect(self.messages()).to_contain_text("tried 1 time: The mail server cannot be reached.")
        self.open_post_office()
        self.page.get_by_role("button", name="Send the message to Ada Vance now").click()
        expect(self.messages()).to_contain_text("on its way")
        self.work()
        expect(self.messages()).to_contain_text("sent ")

    def test_templates(self) -> None:
        self.expected_refusals = 1
        self.page.goto("/outbox")
        expect(self.page.get_by_text("Nothing was sent yet")).to_be_visible()
        self.page.get_by_role("button", name="Templates").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("Text").fill("Ahoy {clint}")
        dialog.get_by_role("button", name="Save the template").click()
        expect(dialog.get_by_text("“{clint}” is filled by nothing")).to_be_visible()
        expect(dialog.get_by_label("Text")).to_have_value("Ahoy {clint}")
        dialog.get_by_label("Text").fill("Ahoy {client}")
        dialog.get_by_role("button", name="Save the template").click()
        expect(dialog.get_by_role("button", name="The standard words again")).to_be_visible()
        self.page.keyboard.press("Escape")
        self.write().get_by_text("Your containers, Mon 30 Nov to").click()
        expect(self.page.get_by_label("Text")).to_have_value("Ahoy Ada Vance")
