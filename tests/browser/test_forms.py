"""A form by link on a phone: agreed to, half-filled, gone on with, handed in; and the coach who takes it over."""

from __future__ import annotations

import re
from datetime import UTC, datetime

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, Request, expect

from tests.browser.case import OwnKitchen, browser, server
from tests.support import database
from yantai.work.clients.clients import list_clients
from yantai.work.forms.inputs import FormInput
from yantai.work.forms.made import list_forms, make_form, revoke_form

PHONE = (390, 844)


class FormCase(OwnKitchen):
    def setUp(self) -> None:
        super().setUp()
        given = FormInput(name="Nova", days=30, address=server())
        made = make_form(database(), self.who, given, "", datetime.now(UTC))
        self.link, self.form_id = made.address, made.form.id
        self.phone = self.new_phone()
        self.asked: list[Request] = []
        self.phone.on("request", lambda request: self.asked.append(request))

    def new_phone(self) -> Page:
        width, height = PHONE
        context = browser().new_context(viewport={"width": width, "height": height}, base_url=server(), has_touch=True)
        self.addCleanup(context.close)
        page = context.new_page()
        page.set_default_timeout(30_000)
        page.on("pageerror", lambda error: self.fail(f"page error: {error}"))
        return page

    def open(self, page: Page) -> Page:
        page.goto(self.link)
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        return page

    def agree(self) -> None:
        self.phone.get_by_role("checkbox", name=re.compile("^I agree")).check()
        expect(self.phone.get_by_label("Your name")).to_be_visible()

    def kept(self, page: Page | None = None) -> None:
        expect((page or self.phone).get_by_role("status")).to_have_text("What you typed is kept.")


class FillingIn(FormCase):
    def test_from_the_form_to_the_client(self) -> None:
        phone = self.open(self.phone)
        expect(phone.get_by_label("Your name")).to_have_count(0)
        self.agree()
        phone.get_by_label("Your name").fill("Nova Lind")
        phone.get_by_label("What you do not like").fill("mushrooms, olives")
        phone.get_by_label("milk").check()
        phone.get_by_label("What you must not eat, 1").fill("pork")
        phone.get_by_label("Why, 1").select_option("belief or conviction")
        phone.get_by_label("lunch").check()
        with phone.expect_response(lambda answer: "container_ml" in (answer.request.post_data or "")):
            phone.get_by_label("Size of your containers").fill("900")
        self.kept()
        # Another day, another phone: what was answered is there, and goes on.
        other = self.open(self.new_phone())
        expect(other.get_by_label("Your name")).to_have_value("Nova Lind")
        expect(other.get_by_label("milk")).to_be_checked()
        other.get_by_label("What do you want to reach?").fill("The spring regatta")
        other.get_by_role("button", name="Hand it in").click()
        expect(other.get_by_role("status")).to_contain_text("Handed in")

        self.page.goto("/clients")
        self.page.get_by_role("link", name="Forms").click()
        expect(self.page.get_by_text("1 form to be read")).to_be_visible()
        self.page.get_by_role("link", name="Read the form of Nova").click()
        self.page.get_by_label("Does not like, as it is taken").fill("mushrooms")
        self.page.get_by_label("Take meals and containers").uncheck()
        self.page.get_by_role("button", name=re.compile("^Take 6 fields into a new client")).click()
        self.page.get_by_role("link", name="Nova Lind").click()
        expect(self.page.get_by_label("Does not like")).to_have_value("mushrooms")
        expect(self.page.get_by_label("Goals")).to_have_value("The spring regatta")
        expect(self.page.get_by_label("Health")).to_have_value("pork: belief or conviction")
        (client,) = list_clients(database(), self.who)
        self.assertEqual((client.allergens, client.exclusions, client.targets), (["milk"], ["pork"], []))
        phone.reload()
        expect(phone.get_by_text("has read your answers")).to_be_visible()

    def test_one_wrong_answer_keeps_no_other_from_being_kept(self) -> None:
        phone = self.open(self.phone)
        self.agree()
        phone.get_by_label("I want a suggestion").check()
        phone.get_by_label("Birthday").fill("2099-01-01")
        phone.get_by_label("What you like").fill("salmon")
        phone.get_by_label("Height").fill("tall")
        expect(phone.get_by_text("This day is yet to come; check the year.")).to_be_visible()
        expect(phone.get_by_text("Write a number here")).to_be_visible()
        expect(self.open(self.new_phone()).get_by_label("What you like")).to_have_value("salmon")
        phone.get_by_role("button", name="Hand it in").click()
        expect(phone.get_by_role("status")).to_contain_text("makes no sense yet")
        self.assertIsNone(list_forms(database(), self.who, datetime.now(UTC))[0].handed_in_at)
        phone.get_by_label("Birthday").fill("1996-05-10")
        self.kept()

    def test_without_a_network_nothing_typed_is_lost(self) -> None:
        phone = self.open(self.phone)
        self.agree()
        self.kept()
        phone.route("**/api/**", lambda route: route.abort())
        phone.get_by_label("Your name").fill("Nova")
        expect(phone.get_by_role("status")).to_contain_text("kept on this phone")
        phone.unroute("**/api/**")
        phone.reload()
        expect(phone.get_by_label("Your name")).to_have_value("Nova")
        self.kept()
        expect(self.open(self.new_phone()).get_by_label("Your name")).to_have_value("Nova")

    def test_agreement_taken_back(self) -> None:
        phone = self.open(self.phone)
        self.agree()
        phone.get_by_label("Your name").fill("Nova")
        self.kept()
        phone.once("dialog", lambda dialog: dialog.accept())
        phone.get_by_role("checkbox", name=re.compile("^I agree")).uncheck()
        expect(phone.get_by_label("Your name")).to_have_count(0)
        expect(phone.get_by_role("status")).to_have_text("Nothing is kept yet.")
        self.assertEqual(list_forms(database(), self.who, datetime.now(UTC))[0].answered, 0)

    def test_a_link_that_works_no_more(self) -> None:
        revoke_form(database(), self.who, self.form_id, datetime.now(UTC))
        phone = self.open(self.phone)
        expect(phone.get_by_role("status")).to_contain_text("Ask your coach for a new link")
        made = make_form(database(), self.who, FormInput(name="Ana", address=server()), "", datetime.now(UTC))
        phone.goto(made.address)
        expect(phone.get_by_role("heading", name="Hello Ana")).to_be_visible()

    def test_thumbs_readers_of_screens_and_strangers(self) -> None:
        phone = self.open(self.phone)
        self.agree()
        self.kept()
        self.assertLessEqual(phone.evaluate("document.documentElement.scrollWidth"), PHONE[0])
        found = Axe().run(phone).response["violations"]
        self.assertEqual([one["id"] for one in found if one["impact"] in ("serious", "critical")], [])
        token = self.link.partition("#")[2]
        for request in self.asked:
            self.assertTrue(request.url.startswith((server(), "data:")), request.url)
            self.assertNotIn(token, request.url.partition("#")[0])


class HowWasIt(OwnKitchen):
    def test_a_coach_asks(self) -> None:
        self.page.goto("/clients/new")
        self.page.get_by_label("Name").fill("Ada Vance")
        self.page.get_by_role("button", name="Save client").click()
        self.page.get_by_role("link", name="Ask by a form").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("radio", name="How it was, three questions").click()
        dialog.get_by_role("button", name="Make the form").click()
        link = dialog.get_by_test_id("link").inner_text()
        self.page.goto(link)
        self.page.get_by_role("checkbox", name=re.compile("^I agree")).check()
        self.page.get_by_label("Was it enough?").select_option("too little")
        self.page.get_by_role("button", name="Hand it in").click()
        expect(self.page.get_by_role("status")).to_contain_text("Handed in")
        self.page.goto("/clients/forms")
        self.page.get_by_role("link", name="Read the form of Ada Vance").click()
        expect(self.page.get_by_role("list", name="Answers")).to_contain_text("too little")
        self.page.get_by_role("button", name="Put it away as read").click()
        expect(self.page.get_by_text(re.compile("^taken "))).to_be_visible()
