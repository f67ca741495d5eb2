"""The cook day on a tablet: the order of work, a whole day in fast time, two tablets, no network, timers, cold meat."""

from __future__ import annotations

import re
from datetime import UTC, datetime, timedelta
from typing import Any

from playwright.sync_api import Locator, Page, expect

from tests.browser.case import BrowserCase, application, server
from tests.kitchens import apply, planned
from tests.support import PASSWORD, database, new_email, second_coach
from yantai.api.access import COOKIE, get_now
from yantai.core.schedule.kitchen import Kind
from yantai.work.accounts import sessions
from yantai.work.batches.inputs import SetSteps
from yantai.work.common.who import SignedIn
from yantai.work.cook.facts import note_fact
from yantai.work.cook.inputs import CookFactInput, KitchenInput, KitchenItemInput, KitchenPersonInput
from yantai.work.cook.kitchens import save_kitchen
from yantai.work.cook.shown import read_cooking
from yantai.work.recipes.inputs import StepInput

IS_NOTED = """async ([address, key]) => {
    const { order } = await (await fetch(address)).json();
    return !order.prompts.some((one) => one.key === key);
}"""
MIDNIGHT = datetime(2026, 11, 29, tzinfo=UTC)


def kitchen(who: SignedIn) -> None:
    """What two people cook on."""
    save_kitchen(
        database(),
        who,
        KitchenInput(
            name="Galley",
            items=[
                KitchenItemInput(kind=Kind.OVEN, name="Oven", places=2, most_c=250),
                KitchenItemInput(kind=Kind.TRAY, name="Tray", count=2, meat_g=4000, vegetables_g=4000),
                KitchenItemInput(kind=Kind.HOB, name="Hob", places=4),
                KitchenItemInput(kind=Kind.POT, name="Pot", capacity_l=10, grain_g=3000, meat_g=4000),
                KitchenItemInput(kind=Kind.BOARD, name="Board"),
            ],
            people=[KitchenPersonInput(name="Ada"), KitchenPersonInput(name="Ben")],
        ),
        None,
    )


class Cooking(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.own_kitchen()
        kitchen(self.who)
        plan = planned(self.who)
        self.batch_id = plan.batch.id
        chicken, bulgur = plan.components[0].id, plan.components[1].id
        roast = StepInput(
            text="Roast the chicken.", hands_on_min=2, unattended_min=30, temperature_c=200, equipment="oven"
        )
        plan = apply(
            self.who,
            plan,
            SetSteps(
                component_id=chicken,
                steps=[
                    StepInput(text="Salt the chicken.", hands_on_min=6, growth="fixed"),
                    roast,
                ],
            ),
        )
        apply(
            self.who,
            plan,
            SetSteps(
                component_id=bulgur,
                steps=[
                    StepInput(text="Simmer the bulgur.", hands_on_min=1, unattended_min=14, equipment="pot"),
                ],
            ),
        )
        self.moment = MIDNIGHT + timedelta(hours=9)
        application().dependency_overrides[get_now] = lambda: self.moment
        self.addCleanup(application().dependency_overrides.clear)
        self.enter(self.page, self.email)
        self.page.goto(f"/batches/{self.batch_id}/cook")

    def enter(self, page: Page, email: str) -> None:
        token, _ = sessions.sign_in(database(), email, PASSWORD, self.moment)
        page.context.add_cookies([{"name": COOKIE, "value": token, "url": server()}])

    def at(self, minute: int) -> None:
        self.moment = MIDNIGHT + timedelta(minutes=minute)

    def begin(self) -> None:
        self.page.get_by_role("button", name="Begin to cook").click()
        expect(self.page.get_by_text(re.compile(r"0 of \d+ steps done"))).to_be_visible()

    def card(self, name: str, page: Page | None = None) -> Locator:
        return (page or self.page).get_by_role("region", name=f"Now, {name}", exact=True)

    def cooking(self) -> dict[str, Any]:
        return dict(self.page.request.get(f"{server()}/api/v1/batches/{self.batch_id}/cooking").json())

    def test_the_order_is_shown_and_printed_before_anything_begins(self) -> None:
        page = self.page
        expect(page.get_by_role("heading", name=re.compile(r"Ready to fill at \d\d:\d\d"))).to_be_visible()
        expect(page.get_by_text("Assumed:")).to_be_visible()
        page.get_by_role("listitem", name="Oven", exact=True).get_by_role(
            "button", name=re.compile("Chicken")
        ).first.click()
        detail = page.get_by_role("region", name="Roast the chicken.")
        expect(detail).to_contain_text("74 °C in the thickest part")
        page.emulate_media(media="print")
        expect(page.get_by_role("region", name="Run sheet")).to_contain_text("Simmer the bulgur.")

    def test_a_whole_day_in_fast_time(self) -> None:
        self.begin()
        page = self.page
        for _ in range(40):
            prompts = self.cooking()["order"]["prompts"]
            if not prompts:
                break
            first = prompts[0]
            self.at(max(first["at_min"] + (first["minutes"] if first["event"] == "done" else 0), self.minute))
            self.mark(first)
        expect(page.get_by_role("heading", name="Everything is done")).to_be_visible()
        live = self.cooking()["live"]
        self.assertEqual(live["steps_done"], live["steps"])
        self.assertTrue(all(one["is_enough"] for one in live["readings"]))
        page.get_by_role("button", name="In the fridge").first.click()
        expect(page.get_by_role("list", name="To be cooled").get_by_role("listitem")).to_have_count(
            len(live["cooling"]) - 1
        )

    @property
    def minute(self) -> int:
        return int((self.moment - MIDNIGHT).total_seconds() // 60)

    def mark(self, prompt: dict[str, Any]) -> None:
        """Press Done where this is asked for, and say how hot it is where that is asked."""
        page = self.page
        page.reload()
        says = page.get_by_role("heading", name=prompt["says"], exact=True)
        of_card = page.get_by_role("region", name=re.compile("^Now, ")).filter(has=says)
        in_list = page.get_by_role("list", name="Next").get_by_role("listitem").filter(has_text=prompt["says"])

        of_card.or_(in_list).first.get_by_role("button", name=re.compile("^Done")).click()
        if prompt["event"] == "done" and prompt["core_c"]:
            page.get_by_label("Core temperature").fill("76")
            page.get_by_role("button", name="Note it, done").click()
        address = f"/api/v1/batches/{self.batch_id}/cooking"
        page.wait_for_function(IS_NOTED, arg=[address, prompt["key"]])

    def test_two_tablets_agree_within_a_moment_and_after_a_reload(self) -> None:
        self.begin()
        other = self.new_page()
        email = new_email()
        second_coach(self.who, "Ben Osei", email)
        self.enter(other, email)
        other.goto(self.page.url)
        before = self.card("Ada").get_by_role("heading").inner_text()
        expect(self.card("Ada", other).get_by_role("heading")).to_have_text(before)
        self.card("Ada").get_by_role("button", name=re.compile("^Done")).click()
        expect(self.card("Ada").get_by_role("heading")).not_to_have_text(before)
        now = self.card("Ada").get_by_role("heading").inner_text()
        expect(self.card("Ada", other).get_by_role("heading")).to_have_text(now)
        self.page.reload()
        expect(self.card("Ada").get_by_role("heading")).to_have_text(now)

    def test_without_a_network_the_day_goes_on_and_is_handed_in_later(self) -> None:
        self.begin()
        page = self.page
        before = self.card("Ada").get_by_role("heading").inner_text()
        self.expected_refusals += 40
        page.context.set_offline(True)
        self.card("Ada").get_by_role("button", name=re.compile("^Done")).click()
        expect(self.card("Ada").get_by_role("heading")).not_to_have_text(before)
        expect(page.get_by_text("noted here until the server answers")).to_be_visible()
        self.assertEqual(self.noted_on_server(), 0)
        page.context.set_offline(False)
        expect(page.get_by_text("noted here until the server answers")).to_have_count(0)
        self.assertEqual(self.noted_on_server(), 1)

    def noted_on_server(self) -> int:
        """How many steps the server knows to have begun."""
        order = read_cooking(database(), self.who, self.batch_id, self.moment).order
        assert order is not None
        return sum(step.begun_min is not None for step in order.steps)

    def test_a_timer_rings_until_it_is_heard(self) -> None:
        self.begin()
        page = self.page
        page.keyboard.press("t")
        page.get_by_label("What for").fill("stock")
        page.get_by_label("Minutes").fill("3")
        page.get_by_role("button", name="Start").click()
        timer = page.get_by_role("listitem", name="Timer: stock")
        expect(timer.get_by_role("timer")).to_contain_text("2:5")
        expect(timer.get_by_role("button", name="Heard")).to_have_count(0)
        self.moment += timedelta(minutes=3, seconds=5)
        page.reload()
        expect(timer.get_by_role("timer")).to_contain_text("−0:")
        expect(page).to_have_title(re.compile("^Now: .*stock"))
        timer.get_by_role("button", name="Heard").click()
        expect(timer.get_by_role("button", name="Heard")).to_have_count(0)
        timer.get_by_role("button", name="+1 min").click()
        expect(timer.get_by_role("timer")).to_contain_text("0:5")
        timer.get_by_role("button", name="Done").click()
        expect(timer).to_have_count(0)

    def test_too_cold_inside_stays_on(self) -> None:
        self.begin()
        page = self.page
        for _ in range(20):
            prompts = self.cooking()["order"]["prompts"]
            first = prompts[0]
            self.at(max(self.minute, first["at_min"] + (first["minutes"] if first["event"] == "done" else 0)))
            if first["core_c"] and first["event"] == "done":
                break
            self.mark(first)
        page.reload()
        card = page.get_by_role("region", name=re.compile("^Now, ")).filter(has_text=first["says"])
        card.get_by_role("button", name=re.compile("^Done")).click()
        page.get_by_label("Core temperature").fill("66")
        expect(page.get_by_role("alert")).to_contain_text("Too cold: it stays on.")
        page.get_by_role("button", name="Note it, 5 more minutes").click()
        expect(page.get_by_role("listitem", name="Timer: Chicken")).to_be_visible()
        step = next(one for one in self.cooking()["order"]["steps"] if one["key"] == first["task"])
        self.assertIsNone(step["done_min"])

    def test_a_block_that_is_dragged_stays_where_it_is_put(self) -> None:
        self.begin()
        page = self.page
        lane = page.get_by_role("listitem", name="Hob", exact=True)
        block = lane.get_by_role("button", name=re.compile("Bulgur"))
        box = block.bounding_box()
        assert box is not None
        before = next(one for one in self.cooking()["order"]["steps"] if one["component"] == "Bulgur")
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] / 2 - 120, box["y"] + box["height"] / 2, steps=4)
        page.mouse.up()
        detail = page.get_by_role("region", name="Simmer the bulgur.")
        expect(detail.get_by_role("button", name="Let it go")).to_be_visible()
        held = next(one for one in self.cooking()["order"]["steps"] if one["component"] == "Bulgur")
        self.assertTrue(held["is_held"])
        self.assertLess(held["start_min"], before["start_min"] - 5)
        detail.get_by_role("button", name="Let it go").click()
        expect(detail.get_by_role("button", name="Let it go")).to_have_count(0)

    def test_by_keys_alone(self) -> None:
        self.begin()
        page = self.page
        first = page.get_by_role("region", name=re.compile("^Now, ")).first
        before = first.get_by_role("heading").inner_text()
        page.keyboard.press("Space")
        expect(first.get_by_role("heading")).not_to_have_text(before)

    def test_the_scale_beside_the_stove_says_about_when(self) -> None:
        self.begin()
        page = self.page
        step = next(one for one in self.cooking()["order"]["steps"] if one["says"] == "Simmer the bulgur.")
        self.note(event="begun", task=step["key"])
        page.reload()
        row = page.get_by_role("list", name="On the scale").get_by_role("listitem")
        expect(row).to_contain_text("are in it, without the pan")
        self.weigh(step["until_g"] + 900 + 300)
        expect(row).to_contain_text("300 g still to go. Weigh it again in a few minutes.")
        self.at(self.minute + 5)
        self.weigh(step["until_g"] + 900 + 200)
        expect(row).to_contain_text("200 g still to go, about 09:15, in 10 min.")
        self.at(self.minute + 10)
        self.weigh(step["until_g"] + 900)
        expect(row).to_contain_text("It is there.")

    def note(self, **fact: Any) -> None:
        note_fact(database(), self.who, self.batch_id, CookFactInput(**fact), self.moment)

    def weigh(self, grams: float) -> None:
        page = self.page
        page.get_by_role("button", name="Weigh it").click()
        page.get_by_label("The scale shows").fill(f"{grams:.1f}")
        page.get_by_label("Empty pan").fill("900")
        page.get_by_role("button", name="Note it").click()
        expect(page.get_by_role("dialog")).to_have_count(0)

    def test_what_was_marked_is_taken_back_and_a_step_is_added(self) -> None:
        self.begin()
        page = self.page
        before = self.card("Ada").get_by_role("heading").inner_text()
        page.keyboard.press("Space")
        expect(self.card("Ada").get_by_role("heading")).not_to_have_text(before)
        page.keyboard.press("u")
        expect(self.card("Ada").get_by_role("heading")).to_have_text(before)
        page.get_by_role("button", name="Add a step").click()
        page.get_by_label("What for").fill("Wipe the bench")
        page.get_by_role("button", name="Put it into the order").click()
        expect(page.get_by_text("Wipe the bench: added.")).to_be_visible()
        log = page.get_by_role("region", name="The day’s log")
        expect(log.get_by_role("row").filter(has_text="Wipe the bench")).to_have_count(1)
        log.get_by_role("button", name=re.compile("^Take back: Wipe the bench")).click()
        expect(log.get_by_role("row").filter(has_text="Wipe the bench")).to_have_count(0)

    def test_what_is_stopped_goes_on_later(self) -> None:
        self.begin()
        page = self.page
        says = "Salt the chicken."
        task = next(one for one in self.cooking()["order"]["steps"] if one["says"] == says)
        self.at(self.minute + 2)
        page.reload()
        card = page.get_by_role("region", name=re.compile("^Now, ")).filter(has_text=says)
        card.get_by_role("button", name="Stop here, the rest later").click()
        expect(page.get_by_role("region", name="The day’s log")).to_contain_text("stopped, the rest later")
        left = next(one for one in self.cooking()["order"]["steps"] if one["key"] == task["key"])
        self.assertEqual(left["end_min"] - left["start_min"], task["end_min"] - task["start_min"] - 2)
        self.assertGreaterEqual(left["start_min"], self.minute + 5)

    def test_the_steps_of_a_component_are_changed_in_this_batch(self) -> None:
        page = self.page
        page.get_by_role("listitem", name="Hob", exact=True).get_by_role("button", name=re.compile("Bulgur")).click()
        page.get_by_role("button", name="Change the steps of Bulgur").click()
        dialog = page.get_by_role("dialog", name="How Bulgur is made")
        dialog.get_by_text("Simmer the bulgur.").click()
        dialog.get_by_label("Unattended").fill("twenty")
        expect(dialog.get_by_role("button", name="Save the steps")).to_be_disabled()
        dialog.get_by_label("Unattended").fill("24")
        dialog.get_by_role("button", name="Save the steps").click()
        expect(dialog).to_have_count(0)
        expect(page.get_by_role("region", name="Simmer the bulgur.")).to_contain_text("25 min")
