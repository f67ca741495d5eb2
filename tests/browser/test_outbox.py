"""Every write waits in this browser until the server has it: through lost answers, closed tabs and other people."""

from __future__ import annotations

from playwright.sync_api import Dialog, Page, Route, expect
from sqlalchemy import delete, select

from tests.browser.case import MANY, OwnKitchen
from tests.kitchens import planned
from tests.support import PASSWORD, database, new_email, new_kitchen
from yantai.store import tables
from yantai.work.batches.reading import read_plan
from yantai.work.pantry.reference import reference_id


class Away(OwnKitchen):
    def setUp(self) -> None:
        super().setUp()
        self.expected_refusals += MANY

    def cut(self, page: Page | None = None) -> None:
        """Nothing that is written arrives."""
        self._routed(page, lambda route: route.abort())

    def lose_answers(self) -> None:
        """What is written arrives, and no answer comes back."""

        def lose(route: Route) -> None:
            route.fetch()
            route.abort()

        self._routed(None, lose)

    def _routed(self, page: Page | None, how) -> None:
        def handle(route: Route) -> None:
            how(route) if route.request.method in ("POST", "PUT") else route.fallback()

        (page or self.page).route("**/api/v1/**", handle)

    def mend(self, page: Page | None = None) -> None:
        """The server answers again, and what waits is sent."""
        page = page or self.page
        page.unroute("**/api/v1/**")
        page.evaluate("window.dispatchEvent(new Event('online'))")
        expect(page.get_by_role("button", name="to be handed in")).to_have_count(0)

    def new_client(self, name: str, page: Page | None = None) -> None:
        page = page or self.page
        page.goto("/clients/new")
        page.get_by_label("Name", exact=True).fill(name)
        page.get_by_label("Energy, if aimed at").fill("500")
        page.get_by_role("button", name="Save client").click()

    def names(self) -> list[str]:
        with database().workspace(self.who.workspace_id) as session:
            return list(session.scalars(select(tables.Client.name).order_by(tables.Client.name)))

    def test_a_client_whose_answer_was_lost_is_one_client(self) -> None:
        self.lose_answers()
        self.new_client("Ida Moss")
        expect(self.page.get_by_role("button", name="1 change waits to be handed in")).to_be_visible()
        expect(self.page.get_by_role("button", name="Waits for the server")).to_be_disabled()
        self.assertEqual(self.names(), ["Ida Moss"])
        self.mend()
        expect(self.page.get_by_text("Ida Moss is saved.")).to_be_visible()
        self.assertEqual(self.names(), ["Ida Moss"])

    def test_it_says_what_waits_and_sends_it_from_any_page(self) -> None:
        self.cut()
        self.new_client("Ida Moss")
        self.page.get_by_role("link", name="Yields").click()
        self.page.get_by_role("button", name="1 change waits to be handed in").click()
        dialog = self.page.get_by_role("dialog", name="1 change waits to be handed in")
        expect(dialog.get_by_role("listitem")).to_contain_text("Client Ida Moss")
        expect(dialog.get_by_role("listitem")).to_contain_text("Waits for the server.")
        self.page.keyboard.press("Escape")
        self.mend()
        # Whoever is at something else by then is left there.
        expect(self.page.get_by_text("Ida Moss is saved.")).to_be_visible()
        expect(self.page.get_by_role("heading", name="Yields", level=1)).to_be_visible()
        self.page.get_by_role("link", name="Clients").click()
        expect(self.page.get_by_role("link", name="Ida Moss")).to_be_visible()

    def test_it_outlives_the_tab(self) -> None:
        self.cut()
        self.new_client("Ida Moss")
        expect(self.page.get_by_role("button", name="1 change waits to be handed in")).to_be_visible()
        context = self.page.context
        self.page.close(run_before_unload=False)
        page = context.new_page()
        page.goto("/clients")
        expect(page.get_by_role("link", name="Ida Moss")).to_be_visible()
        self.assertEqual(self.names(), ["Ida Moss"])

    def test_a_form_that_waits_is_there_after_a_reload_and_goes_on(self) -> None:
        self.cut()
        self.new_client("Ida Moss")
        expect(self.page.get_by_role("button", name="Waits for the server")).to_be_visible()
        self.page.reload()
        expect(self.page.get_by_label("Name", exact=True)).to_have_value("Ida Moss")
        expect(self.page.get_by_role("button", name="Waits for the server")).to_be_visible()
        self.mend()
        expect(self.page.get_by_text("Ida Moss is saved.")).to_be_visible()
        expect(self.page.get_by_role("heading", name="Ida Moss")).to_be_visible()
        expect(self.page.get_by_role("button", name="Archive")).to_be_visible()

    def test_two_figures_of_one_component_stay_two(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        page.get_by_role("button", name="Chicken").first.click()
        self.cut()
        panel = page.get_by_role("region", name="Chicken", exact=True)
        for label, grams in (("At least", "50"), ("At most", "260")):
            panel.get_by_label(label).fill(grams)
            panel.get_by_label(label).press("Enter")
        expect(page.get_by_role("button", name="2 changes wait to be handed in")).to_be_visible()
        self.mend()
        for label in ("At least", "At most"):
            expect(panel.get_by_label(label)).to_have_attribute("data-saved", "")
        chicken = read_plan(database(), self.who, plan.batch.id).dishes[0].parts[0]
        self.assertEqual((chicken.minimum_g, chicken.maximum_g), (50, 260))

    def test_undo_lets_go_of_what_waits(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        self.cut()
        for column, grams in ((1, "123"), (2, "77")):
            self.cell(0, column).focus()
            page.keyboard.type(grams)
            page.keyboard.press("Enter")
            expect(page.get_by_role("listitem").filter(has_text=f": {grams} g")).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("listitem").filter(has_text=": 77 g")).to_have_count(0)
        self.mend()
        expect(self.cell(0, 1)).to_contain_text("123")
        pins = [cell.pinned_g for cell in read_plan(database(), self.who, plan.batch.id).rows[0].cells]
        self.assertEqual(pins, [123, None, None])

    def test_what_the_server_refuses_later_is_mended_where_it_was_typed(self) -> None:
        self.cut()
        self.page.goto("/clients/new")
        self.page.get_by_label("Name", exact=True).fill("x" * 201)
        self.page.get_by_role("button", name="Save client").click()
        expect(self.page.get_by_role("button", name="1 change waits to be handed in")).to_be_visible()
        context = self.page.context
        self.page.close(run_before_unload=False)
        self.page = page = context.new_page()
        page.goto("/yields")
        page.get_by_role("button", name="1 not saved").click()
        entry = page.get_by_role("dialog").get_by_role("listitem")
        expect(entry).to_contain_text("201 characters")
        entry.get_by_role("link", name="Mend it").click()
        name = page.get_by_label("Name", exact=True)
        expect(name).to_have_value("x" * 201)
        expect(page.get_by_text("201 characters").first).to_be_visible()
        name.fill("Ida Moss")
        page.get_by_role("button", name="Save client").click()
        expect(page.get_by_text("Ida Moss is saved.")).to_be_visible()
        expect(page.get_by_role("button", name="not saved")).to_have_count(0)
        self.assertEqual(self.names(), ["Ida Moss"])

    def test_what_was_let_go_of_can_be_kept_after_all(self) -> None:
        self.cut()
        self.new_client("Ida Moss")
        self.page.get_by_role("button", name="1 change waits to be handed in").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Let go of it").click()
        self.page.get_by_role("button", name="Keep it").click()
        expect(self.page.get_by_role("button", name="1 change waits to be handed in")).to_be_visible()
        self.mend()
        self.page.on("dialog", lambda dialog: dialog.accept())
        self.page.goto("/clients")
        expect(self.page.get_by_role("link", name="Ida Moss")).to_be_visible()
        self.assertEqual(self.names(), ["Ida Moss"])

    def test_a_page_with_a_question_in_its_address_is_found(self) -> None:
        """Packs of a food are mended on its sheet, which stands in the address."""
        self.page.goto("/pantry?text=olive+oil&food=" + str(reference_id("olive-oil")))
        expect(self.page.get_by_role("heading", name="Olive oil")).to_be_visible()
        self.cut()
        self.page.get_by_role("button", name="Own measures and packs").click()
        self.page.get_by_role("button", name="Add a pack").click()
        self.page.get_by_label("Pack", exact=True).fill("bottle")
        self.page.get_by_label("Net").fill("920")
        self.page.get_by_role("button", name="Save", exact=True).click()
        self.page.get_by_role("link", name="Yields", exact=True).click()
        self.page.get_by_role("button", name="1 change waits to be handed in").click()
        self.page.get_by_role("dialog").get_by_role("link", name="Look at it").click()
        expect(self.page.get_by_role("heading", name="Olive oil")).to_be_visible()
        self.mend()

    def test_what_is_let_go_is_gone(self) -> None:
        self.cut()
        self.new_client("Ida Moss")
        self.page.get_by_role("button", name="1 change waits to be handed in").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Let go of it").click()
        expect(self.page.get_by_role("button", name="to be handed in")).to_have_count(0)
        self.page.unroute("**/api/v1/**")
        self.page.on("dialog", lambda dialog: dialog.accept())
        self.page.goto("/clients")
        expect(self.page.get_by_role("heading", name="Clients")).to_be_visible()
        self.assertEqual(self.names(), [])

    def test_the_settings_and_a_new_batch_wait_too(self) -> None:
        planned(self.who)
        page = self.page
        page.goto("/settings")
        expect(page.get_by_role("button", name="Add a vessel")).to_be_visible()
        self.cut()
        page.get_by_role("button", name="Add a vessel").click()
        page.get_by_label("Vessel", exact=True).fill("Tray")
        page.get_by_label("Empty").fill("900")
        page.get_by_role("button", name="Save the kitchen’s settings").click()
        expect(page.get_by_role("button", name="1 change waits to be handed in")).to_be_visible()
        page.get_by_role("link", name="Batches").click()
        page.get_by_role("link", name="Plan a batch").first.click()
        page.get_by_label("Name of the batch").fill("Second")
        page.get_by_label("Containers for Ada Vance, lunch").fill("2")
        page.get_by_role("button", name="Make the plan").click()
        expect(page.get_by_role("button", name="2 changes wait to be handed in")).to_be_visible()
        self.mend()
        expect(page.get_by_role("heading", name="Second")).to_be_visible()
        with database().workspace(self.who.workspace_id) as session:
            self.assertEqual(session.scalars(select(tables.Vessel.name)).all(), ["Tray"])
            self.assertEqual(session.scalars(select(tables.Batch.name).order_by(tables.Batch.name)).all(),
                             ["Bowls", "Second"])  # fmt: skip


class People(OwnKitchen):
    """One browser, several people: nothing of one is seen or sent by another."""

    def setUp(self) -> None:
        super().setUp()
        self.expected_refusals += MANY

    def test_a_session_that_ended_is_signed_into_later_and_nothing_is_lost(self) -> None:
        page = self.page
        page.goto("/clients/new")
        page.get_by_label("Name", exact=True).fill("Ida Moss")
        page.get_by_label("Energy, if aimed at").fill("500")
        # All that the page asks for is there, so it is the saving that finds the session ended.
        expect(page.get_by_role("checkbox").first).to_be_visible()
        with database().workspace(self.who.workspace_id) as session:
            session.execute(delete(tables.LoginSession))
        page.get_by_role("button", name="Save client").click()
        dialog = page.get_by_role("dialog", name="Sign in again")
        dialog.get_by_role("button", name="Not now").click()
        expect(page.get_by_label("Name", exact=True)).to_have_value("Ida Moss")
        page.get_by_role("button", name="1 change waits to be handed in").click()
        page.get_by_role("button", name="Send now").click()
        dialog.get_by_label("Password").fill(PASSWORD)
        dialog.get_by_role("button", name="Sign in").click()
        expect(page.get_by_text("Ida Moss is saved.")).to_be_visible()

    def test_another_person_in_another_tab_empties_this_one_at_once(self) -> None:
        planned(self.who)
        page = self.page
        page.goto("/clients")
        expect(page.get_by_role("link", name="Ada Vance")).to_be_visible()
        email = new_email()
        new_kitchen(email)
        other = page.context.new_page()
        self.sign_in(email, PASSWORD, other)
        expect(page.get_by_role("heading", name="Today")).to_be_visible()
        expect(page.get_by_text("Ada Vance")).to_have_count(0)
        page.get_by_role("link", name="Clients").click()
        expect(
            page.get_by_text("No clients yet").or_(page.get_by_role("link", name="New client")).first
        ).to_be_visible()
        expect(page.get_by_text("Ada Vance")).to_have_count(0)

    def test_signing_out_in_another_tab_leaves_no_name_on_this_one(self) -> None:
        planned(self.who)
        page = self.page
        page.goto("/clients")
        expect(page.get_by_role("link", name="Ada Vance")).to_be_visible()
        other = page.context.new_page()
        other.goto("/")
        other.get_by_role("button", name="Test Coach").click()
        other.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_role("button", name="Sign in")).to_be_visible()
        expect(page.get_by_text("Ada Vance")).to_have_count(0)

    def test_what_one_person_wished_is_sent_as_theirs_or_not_at_all(self) -> None:
        page, first, who = self.page, self.email, self.who
        page.route(
            "**/api/v1/clients", lambda route: route.abort() if route.request.method == "POST" else route.fallback()
        )
        page.goto("/clients/new")
        page.get_by_label("Name", exact=True).fill("Ida Moss")
        page.get_by_label("Energy, if aimed at").fill("500")
        page.get_by_role("button", name="Save client").click()
        expect(page.get_by_role("button", name="1 change waits to be handed in")).to_be_visible()
        asked: list[str] = []

        def agree(dialog: Dialog) -> None:
            asked.append(dialog.message)
            dialog.accept()

        page.on("dialog", agree)
        page.get_by_role("button", name="Test Coach").click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_role("button", name="Sign in")).to_be_visible()
        self.assertIn("1 change not saved yet", asked[0])
        page.unroute("**/api/v1/clients")
        self.sign_in(self.own_kitchen(), PASSWORD)
        expect(page.get_by_role("button", name="to be handed in")).to_have_count(0)
        page.goto("/clients")
        expect(page.get_by_text("Ida Moss")).to_have_count(0)
        page.get_by_role("button", name="Test Coach").click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_role("button", name="Sign in")).to_be_visible()
        self.sign_in(first, PASSWORD)
        page.goto("/clients")
        expect(page.get_by_role("link", name="Ida Moss")).to_be_visible()
        with database().workspace(who.workspace_id) as session:
            self.assertEqual(session.scalars(select(tables.Client.name)).all(), ["Ida Moss"])
