"""A client's data: given as one file, and erased after its effect was read."""

from __future__ import annotations

import zipfile

from playwright.sync_api import expect

from tests.browser.case import OwnKitchen
from tests.kitchens import planned
from tests.support import database
from yantai.work.clients.clients import list_clients, save_client
from yantai.work.clients.inputs import ClientInput


class Records(OwnKitchen):
    def test_everything_as_one_file_and_then_erased(self) -> None:
        given = ClientInput(name="Nova Lind", health="asthma", email="nova@port-alder.example")
        client = save_client(database(), self.who, given, None)
        self.page.goto(f"/clients/{client.id}")
        with self.page.expect_download() as downloading:
            self.page.get_by_role("link", name="Everything as one file").click()
        with zipfile.ZipFile(downloading.value.path()) as file:
            self.assertIn("asthma", file.read("client.json").decode())
        self.page.get_by_role("button", name="Erase Nova Lind").click()
        dialog = self.page.get_by_role("dialog")
        expect(dialog.get_by_role("list", name="Gone, here and on the post office")).to_contain_text("health")
        erase = dialog.get_by_role("button", name="Erase for good")
        expect(erase).to_be_disabled()
        dialog.get_by_label("Type “Nova Lind” to erase them").fill("Nova Lind")
        erase.click()
        expect(self.page.get_by_text("They are erased.")).to_be_visible()
        expect(self.page.get_by_role("heading", name="Clients")).to_be_visible()
        self.assertEqual(list_clients(database(), self.who), [])
        self.page.go_back()
        expect(self.page.get_by_label("Name", exact=True)).to_have_value("Former client 1")
        expect(self.page.get_by_label("Health")).to_have_value("")

    def test_what_is_in_the_way(self) -> None:
        planned(self.who)
        client = next(one for one in list_clients(database(), self.who) if one.name == "Ada Vance")
        self.page.goto(f"/clients/{client.id}")
        self.page.get_by_role("button", name="Erase Ada Vance").click()
        dialog = self.page.get_by_role("dialog")
        expect(dialog).to_contain_text("They have containers in “Bowls”")
        expect(dialog.get_by_role("button", name="Erase for good")).to_have_count(0)
