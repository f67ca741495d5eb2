"""Whatever is typed is saved, or waits where it can be seen: through lost connections, refusals and reloads."""

from __future__ import annotations

import re
from json import dumps

from playwright.sync_api import Route, expect
from sqlalchemy import delete, select

from tests.browser.case import MANY, OwnKitchen
from tests.kitchens import apply, planned, weigh
from tests.support import PASSWORD, database
from yantai.store import tables
from yantai.work.batches.inputs import SetPacked
from yantai.work.batches.reading import read_plan


class LostConnection(OwnKitchen):
    def test_a_change_waits_until_the_server_answers_again(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        expect(self.cell(0, 1)).to_be_visible()
        self.expected_refusals += 1
        page.context.set_offline(True)
        self.cell(0, 1).focus()
        page.keyboard.type("123")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="No connection")).to_be_visible()
        page.context.set_offline(False)
        page.get_by_role("button", name="Send again").click()
        expect(self.cell(0, 1)).to_contain_text("123")
        expect(page.get_by_role("heading", name="No connection")).to_have_count(0)

    def test_every_figure_typed_meanwhile_waits_in_order_and_survives_a_reload(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        self.expected_refusals += MANY  # it is tried again and again
        page.route("**/changes", lambda route: route.abort())
        for column, grams in ((1, "123"), (2, "77"), (1, "140")):
            self.cell(0, column).focus()
            page.keyboard.type(grams)
            page.keyboard.press("Enter")
            expect(page.get_by_role("listitem").filter(has_text=f": {grams} g")).to_be_visible()
        page.reload()
        waiting = page.get_by_role("alert").get_by_role("listitem")
        expect(waiting).to_have_text(
            [
                "Ada Vance, lunch, Chicken: 123 g",
                "Ada Vance, lunch, Bulgur: 77 g",
                "Ada Vance, lunch, Chicken: 140 g",
            ]
        )
        page.unroute("**/changes")
        page.get_by_role("button", name="Send again").click()
        expect(page.get_by_role("heading", name="No connection")).to_have_count(0)
        expect(self.cell(0, 1)).to_contain_text("140")
        expect(self.cell(0, 2)).to_contain_text("77")

    def test_an_answer_that_was_lost_counts_once(self) -> None:
        """The server made the change; only its answer did not arrive."""
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        self.expected_refusals += 1

        def lose(route: Route) -> None:
            route.fetch()
            route.abort()

        page.route("**/changes", lose, times=1)
        page.get_by_role("button", name="Chicken").first.click()
        panel = page.get_by_role("region", name="Chicken", exact=True)
        panel.get_by_label("On the scale").fill(str(round(plan.components[0].cooked_g)))
        panel.get_by_role("button", name="Record the weight").click()
        page.get_by_role("button", name="Send again").click()
        expect(panel.get_by_role("button", name="Take it back")).to_be_visible()
        with database().workspace(self.who.workspace_id) as session:
            self.assertEqual(len(session.scalars(select(tables.Weighing)).all()), 1)


class Refusals(OwnKitchen):
    def test_a_session_that_ended_is_taken_up_on_the_spot(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        expect(self.cell(0, 1)).to_be_visible()
        with database().workspace(self.who.workspace_id) as session:
            session.execute(delete(tables.LoginSession))
        self.expected_refusals += 3
        self.cell(0, 1).focus()
        page.keyboard.type("111")
        page.keyboard.press("Enter")
        dialog = page.get_by_role("dialog", name="Sign in again")
        expect(dialog.get_by_label("E-mail address")).to_have_value(self.email)
        dialog.get_by_label("Password").fill(PASSWORD)
        dialog.get_by_role("button", name="Sign in").click()
        expect(self.cell(0, 1)).to_contain_text("111")
        expect(dialog).to_have_count(0)

    def test_signing_in_in_another_tab_breaks_no_save(self) -> None:
        page = self.page
        page.goto("/clients/new")
        page.get_by_label("Name", exact=True).fill("Ida Moss")
        page.get_by_label("Energy, if aimed at").fill("500")
        other = page.context.new_page()
        self.expected_refusals += 2
        self.sign_in(self.email, PASSWORD, other)
        page.get_by_role("button", name="Save client").click()
        expect(page.get_by_text("Ida Moss is saved.")).to_be_visible()

    def test_what_another_window_closed_is_told(self) -> None:
        """A change to a batch that was packed meanwhile says so, and is not kept for ever."""
        plan = planned(self.who)
        page = self.page
        self.without_push()
        page.goto(f"/batches/{plan.batch.id}")
        expect(self.cell(0, 1)).to_be_visible()
        for index, component in enumerate(plan.components):
            plan = apply(self.who, plan, weigh(plan, index, component.cooked_g), confirmed=True)
        apply(self.who, plan, SetPacked(packed=True))
        self.expected_refusals += 3
        self.cell(0, 1).focus()
        page.keyboard.type("111")
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Apply mine to the newest").click()
        notice = page.get_by_role("alert")
        expect(notice).to_contain_text("This batch is packed.")
        expect(notice).to_contain_text("Ada Vance, lunch, Chicken: 111 g")
        notice.get_by_role("button", name="Understood").click()
        expect(notice).to_have_count(0)
        expect(page.get_by_role("button", name="Open it again")).to_be_visible()

    def test_a_minus_is_read_and_refused_where_it_was_typed(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        self.expected_refusals += 2
        for column, words in ((0, "from 0"), (1, "from 0")):
            self.cell(0, column).focus()
            page.keyboard.type("-3")
            page.keyboard.press("Enter")
            expect(page.get_by_text(words)).to_be_visible()
            page.keyboard.press("Escape")


class Drafts(OwnKitchen):
    """What was typed is there again after a reload, and after leaving and coming back."""

    def test_at_the_scale(self) -> None:
        plan = planned(self.who)
        page = self.page
        for again in (page.reload, lambda: (page.goto("/pantry"), page.goto(f"/batches/{plan.batch.id}"))):
            page.goto(f"/batches/{plan.batch.id}")
            page.get_by_role("button", name="Chicken").first.click()
            panel = page.get_by_role("region", name="Chicken", exact=True)
            panel.get_by_label("On the scale").fill("1220")
            panel.get_by_label("Empty vessel").fill("300")
            again()
            page.get_by_role("button", name="Chicken").first.click()
            expect(panel.get_by_label("On the scale")).to_have_value("1220")
            expect(panel.get_by_label("Empty vessel")).to_have_value("300")

    def test_in_a_cell_and_in_a_panel_of_the_plan(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        self.cell(0, 1).focus()
        page.keyboard.type("137")
        page.reload()
        typed = page.get_by_label("Ada Vance, grams of Chicken")
        expect(typed).to_have_value("137")
        expect(typed).to_be_focused()
        page.keyboard.press("Enter")
        expect(self.cell(0, 1)).to_contain_text("137")
        page.reload()
        expect(self.cell(0, 1)).to_contain_text("137")
        expect(typed).to_have_count(0)

        page.get_by_role("button", name="Chicken").first.click()
        panel = page.get_by_role("region", name="Chicken", exact=True)
        panel.get_by_label("At most").fill("210")
        page.reload()
        page.get_by_role("button", name="Chicken").first.click()
        expect(panel.get_by_label("At most")).to_have_value("210")
        panel.get_by_label("At most").press("Escape")
        expect(panel.get_by_label("At most")).to_have_value("300")
        page.reload()
        page.get_by_role("button", name="Chicken").first.click()
        expect(panel.get_by_label("At most")).to_have_value("300")

    def test_in_forms(self) -> None:
        planned(self.who)
        page = self.page
        page.on("dialog", lambda dialog: dialog.accept())
        for path, label in (
            ("/clients/new", "Name"),
            ("/recipes/new", "Name"),
            ("/pantry/new", "Name"),
            ("/batches/new", "Name of the batch"),
        ):
            with self.subTest(path=path):
                field = page.get_by_label(label, exact=True)
                page.goto(path)
                field.fill("Half typed")
                page.reload()
                expect(field).to_have_value("Half typed")
                page.get_by_role("link", name="Yields").click()
                expect(page.get_by_role("heading", name="Yields")).to_be_visible()
                page.go_back()
                expect(field).to_have_value("Half typed")

    def test_what_was_saved_is_no_draft(self) -> None:
        page = self.page
        page.goto("/clients/new")
        page.get_by_label("Name", exact=True).fill("Ida Moss")
        page.get_by_label("Energy, if aimed at").fill("500")
        page.keyboard.press("Control+s")
        expect(page.get_by_text("Ida Moss is saved.")).to_be_visible()
        page.goto("/clients/new")
        expect(page.get_by_label("Name", exact=True)).to_have_value("")

    def test_nobody_else_finds_it(self) -> None:
        page = self.page
        page.on("dialog", lambda dialog: dialog.accept())
        page.goto("/clients/new")
        page.get_by_label("Name", exact=True).fill("Half typed")
        self.sign_in(self.own_kitchen(), PASSWORD)
        page.goto("/clients/new")
        expect(page.get_by_label("Name", exact=True)).to_have_value("")


class PanelFields(OwnKitchen):
    def test_undo_in_a_field_that_is_saved_takes_the_change_back(self) -> None:
        """The browser's own undo would bring the old text back, and leaving the field would save that as new."""
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        page.get_by_role("button", name="Bulgur").first.click()
        field = page.get_by_role("region", name="Bulgur", exact=True).get_by_label("At most")
        field.fill("100")
        field.press("Enter")
        expect(self.cell(0, 2)).to_contain_text("at most")
        field.press("Control+z")
        expect(field).to_have_value("400")
        expect(page.get_by_role("button", name="Redo")).to_be_enabled()
        field.press("Tab")
        expect(page.get_by_role("button", name="Redo")).to_be_enabled()
        self.assertEqual(read_plan(database(), self.who, plan.batch.id).dishes[0].parts[1].maximum_g, 400)

    def test_a_closed_panel_gives_the_focus_back(self) -> None:
        plan = planned(self.who)
        page = self.page
        page.goto(f"/batches/{plan.batch.id}")
        opener = page.get_by_role("button", name="Bulgur").first
        opener.click()
        page.get_by_role("button", name="Close Bulgur").click()
        expect(opener).to_be_focused()

    def test_an_added_component_is_typed_into_at_once(self) -> None:
        page = self.page
        page.goto("/recipes/new")
        page.get_by_role("button", name="Add a component").click()
        expect(page.get_by_label("Component", exact=True).last).to_be_focused()


class OlderDrafts(OwnKitchen):
    def test_what_an_older_version_kept_is_taken_over_or_left_alone_and_the_page_opens(self) -> None:
        planned(self.who)
        page = self.page
        for path, key, kept in (
            ("/batches/new", "new-batch", {"name": "Kept", "recipeId": "x", "counts": {"y": "3"}}),
            ("/clients/new", "/clients/new", {"name": "Kept"}),
            ("/recipes/new", "/recipes/new", {"name": "Kept", "components": [{"name": "Rice"}]}),
        ):
            with self.subTest(path=path):
                page.goto("/clients")
                expect(page.get_by_role("link", name="Ada Vance")).to_be_visible()
                keep = "([key, kept]) => sessionStorage.setItem('yantai/draft/' + key, kept)"
                page.evaluate(keep, [key, dumps(kept)])
                page.goto(path)
                expect(page.get_by_role("heading", level=1)).to_be_visible()
                name = page.get_by_label(re.compile("^Name")).first
                expect(name).to_have_value("" if "components" in kept else "Kept")
