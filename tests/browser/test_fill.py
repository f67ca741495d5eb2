"""Filling at the scale on a tablet: every way, what slips, two tablets, no network, keys and touch."""

from __future__ import annotations

import re
import uuid
from datetime import UTC, datetime

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Locator, Page, Route, expect

from tests.browser.case import CONTROLLED, TABLET, BrowserCase, application, choose
from tests.kitchens import apply, planned
from tests.support import PASSWORD, database
from yantai.core.filling import FillEvent
from yantai.core.planning.portioning import School
from yantai.devices.device import Connection
from yantai.devices.simulated import Pan
from yantai.work.batches.inputs import AddLine, SetSchool, Vessel, Weigh, Withdraw
from yantai.work.batches.reading import read_plan
from yantai.work.batches.views import PlanView
from yantai.work.fill.facts import note_fact
from yantai.work.fill.inputs import FillFactInput
from yantai.work.fill.shown import read_filling
from yantai.work.fill.views import FillContainerView, FillPartView
from yantai.work.instruments.inputs import InstrumentInput
from yantai.work.instruments.instruments import read_instrument, save_instrument
from yantai.work.pantry.reference import reference_id

CONTAINER_G = 312.0


class FillCase(BrowserCase):
    size = TABLET

    def setUp(self) -> None:
        super().setUp()
        self.own_kitchen()
        self.batch = self.weighed(planned(self.who))
        self.batch_id = self.batch.batch.id
        bench = save_instrument(
            database(), self.who, InstrumentInput(name="bench", connection=Connection.SIMULATED), None
        )
        self.scale_id = bench.id
        self.signed_in(self.email, PASSWORD)

    def weighed(self, plan: PlanView) -> PlanView:
        for component in plan.components:
            vessels = [Vessel(gross_g=round(component.cooked_g) + 800, vessel_g=800)]
            plan = apply(self.who, plan, Weigh(component_id=component.id, vessels=vessels), confirmed=True)
        return plan

    def put(self, grams: float, **how: object) -> None:
        """So much lies on the pan of the scale."""
        hub = application().state.readings.hub
        _, settings = read_instrument(database(), self.who, self.scale_id)
        hub.put(self.scale_id, settings, Pan(things={"all": grams} if grams else {}, **how))  # type: ignore[arg-type]

    def open(self, *, scale: bool = True, page: Page | None = None) -> None:
        page = page or self.page
        if scale:
            page.add_init_script(f"localStorage.setItem('yantai/scale', '{self.scale_id}')")
        page.goto(f"/batches/{self.batch_id}/fill")
        expect(self.still).to_be_visible()

    @property
    def still(self) -> Locator:
        return self.page.get_by_test_id("still")

    def part(self, name: str) -> Locator:
        return self.page.get_by_role("heading", name=name, exact=True, level=2)

    def containers(self) -> list[FillContainerView]:
        return read_filling(database(), self.who, self.batch_id).containers

    def of(self, container: int, name: str) -> FillPartView:
        return next(part for part in self.containers()[container].parts if part.name == name)

    def go_to(self, container: int) -> None:
        self.page.get_by_role("navigation", name="Containers").get_by_role("button").nth(container).click()

    def take_up(self, container: int) -> None:
        """Go to a container that stands on the scale."""
        self.go_to(container)
        self.put(CONTAINER_G)
        expect(self.page.get_by_text("not yet", exact=True)).to_be_visible()

    def filled(self, container: int, name: str, grams: float) -> None:
        """It is in, as far as the server knows."""
        expect(self.page.get_by_text("All handed in")).to_be_visible()
        part = self.of(container, name)
        assert part.filled is not None, part
        self.assertEqual(part.filled.grams, grams)


class AtTheScale(FillCase):
    def test_a_container_through_all_its_parts_by_the_screen_alone(self) -> None:
        self.open()
        self.take_up(4)
        on_it = CONTAINER_G
        for name in ("Chicken", "Bulgur", "Sauce"):
            expect(self.part(name)).to_be_visible()
            wanted = self.of(4, name).grams
            expect(self.still).to_have_text(f"{wanted:g}")
            self.put(on_it + wanted - 10)
            expect(self.still).to_have_text("10")
            on_it += wanted
            self.put(on_it)
            expect(self.still).to_have_text("0")
            expect(self.page.get_by_text("enough: stop")).to_be_visible()
            self.page.keyboard.press(" ")
        expect(self.page.get_by_text("1 of 12 containers closed").first).to_be_visible()
        expect(self.page.get_by_text("Put the container on the scale")).to_be_visible()
        expect(self.page.get_by_text("All handed in")).to_be_visible()
        self.assertTrue(self.containers()[4].is_closed)
        self.page.get_by_role("button", name="Scale: bench").click()
        self.page.get_by_role("button", name="How near it came").click()
        parts = self.page.get_by_role("table", name="By part")
        expect(parts.get_by_role("row", name="Chicken")).to_contain_text("1 fill")
        self.page.get_by_role("button", name="Done").click()
        self.page.get_by_role("button", name="Scale: bench").click()
        self.page.get_by_role("button", name="What was noted").click()
        notes = self.page.get_by_role("list", name="Notes").get_by_role("listitem")
        expect(notes).to_have_count(3)
        expect(notes.first).to_contain_text(re.compile(r"Sauce, Ada Vance, lunch, 1: filled, .*asked.*Test Coach"))
        self.page.get_by_role("button", name="Done").click()
        self.page.emulate_media(media="print")
        expect(self.page.get_by_test_id("fill-sheet").get_by_text(re.compile("filled$"))).to_have_count(3)

    def test_what_was_noted_last_is_taken_back_after_a_reload_too(self) -> None:
        self.open(scale=False)
        self.go_to(4)
        for name in ("Chicken", "Bulgur"):
            expect(self.part(name)).to_be_visible()
            self.page.keyboard.press("e")
        expect(self.page.get_by_text("All handed in")).to_be_visible()
        self.page.reload()
        expect(self.still).to_be_visible()
        self.page.keyboard.press("z")
        expect(self.page.get_by_role("button", name=re.compile("Ada Vance, lunch, 1 of 5: 1 of 3"))).to_be_visible()
        self.page.keyboard.press("z")
        expect(self.page.get_by_role("button", name=re.compile("Ada Vance, lunch, 1 of 5: 0 of 3"))).to_be_visible()
        expect(self.page.get_by_text("All handed in")).to_be_visible()
        self.assertEqual([part.filled for part in self.containers()[4].parts], [None] * 3)

    def test_too_much_is_told_accepted_and_made_good(self) -> None:
        self.open()
        self.take_up(4)
        chicken, bulgur = self.of(4, "Chicken").grams, self.of(4, "Bulgur").grams
        self.put(CONTAINER_G + chicken + 60)
        expect(self.still).to_have_text("60")
        self.page.get_by_role("button", name="Next").click()
        expect(self.page.get_by_text("60 g too much", exact=False)).to_be_visible()
        expect(self.page.get_by_text("whatever comes after")).to_be_visible()
        self.page.get_by_role("button", name=f"Accept {chicken + 60:g} g").click()
        self.filled(4, "Chicken", chicken + 60)
        self.assertLess(self.of(4, "Bulgur").grams, bulgur)
        alert = self.page.get_by_role("alert")
        expect(alert).to_contain_text("The rest of it cannot make that good")
        alert.get_by_role("button", name=re.compile("Take out .* Chicken")).click()
        expect(self.part("Chicken")).to_be_visible()
        out = float(self.still.inner_text())
        self.put(CONTAINER_G + chicken + 60 - out)
        expect(self.still).to_have_text("0")
        self.page.keyboard.press(" ")
        self.filled(4, "Chicken", chicken + 60 - out)
        expect(self.page.get_by_role("alert")).to_have_count(0)

    def test_a_pot_that_is_empty_keeps_no_container_open(self) -> None:
        self.open(scale=False)
        page = self.page
        self.go_to(4)
        page.keyboard.press("e")
        expect(self.part("Bulgur")).to_be_visible()
        pots = read_filling(database(), self.who, self.batch_id).pots
        page.get_by_role("textbox", name="Type what went in").fill(
            str(next(pot.left_g for pot in pots if pot.name == "Bulgur"))
        )
        page.keyboard.press("Enter")
        page.get_by_role("button", name=re.compile("^Accept")).click()
        expect(self.part("Sauce")).to_be_visible()
        page.keyboard.press("e")
        expect(page.get_by_text("Ada Vance, lunch, 2 of 5")).to_be_visible()
        page.keyboard.press("e")
        expect(self.part("Bulgur")).to_be_visible()
        expect(self.still).to_have_text("0")
        expect(page.get_by_text("nothing of it goes in: Next")).to_be_visible()
        page.keyboard.press(" ")
        expect(self.part("Sauce")).to_be_visible()
        page.keyboard.press("e")
        expect(page.get_by_text("2 of 12 containers closed").first).to_be_visible()
        self.filled(5, "Bulgur", 0)
        self.assertTrue(self.containers()[5].is_closed)

    def test_what_is_in_stays_in_while_the_batch_is_asked_for_anew(self) -> None:
        self.open(scale=False)
        page, held = self.page, list[Route]()
        self.go_to(4)
        asked = re.compile(r"/filling$")
        page.route(asked, lambda route: held.append(route))
        with page.expect_request(asked):
            page.keyboard.press("e")
        box = page.get_by_role("button", name=re.compile("Ada Vance, lunch, 1 of 5: 1 of 3"))
        self.assertEqual(box.count(), 1)
        while held:
            held.pop().continue_()
        page.unroute(asked)
        self.filled(4, "Chicken", self.of(4, "Chicken").grams)
        expect(box).to_be_visible()

    def test_it_goes_on_by_itself_where_that_is_set(self) -> None:
        self.page.add_init_script("localStorage.setItem('yantai/fill/auto', 'on')")
        self.open()
        self.take_up(4)
        chicken = self.of(4, "Chicken").grams
        self.put(CONTAINER_G + chicken)
        expect(self.part("Bulgur")).to_be_visible()
        self.filled(4, "Chicken", chicken)

    def test_a_scale_that_is_pulled_out_and_typing_goes_on(self) -> None:
        self.open()
        self.take_up(4)
        self.put(CONTAINER_G, is_silent=True)
        expect(self.page.get_by_text("The scale says nothing")).to_be_visible()
        self.page.get_by_label("Type what went in").fill("131")
        self.page.get_by_label("Type what went in").press("Enter")
        expect(self.part("Bulgur")).to_be_visible()
        self.filled(4, "Chicken", 131)
        self.put(CONTAINER_G + 131)
        expect(self.page.get_by_text("The scale says nothing")).to_have_count(0)

    def test_what_slips_at_the_scale_is_said(self) -> None:
        self.open()
        self.take_up(4)
        self.put(0)
        expect(self.page.get_by_text("The container was lifted off")).to_be_visible()
        self.put(CONTAINER_G)
        expect(self.page.get_by_text("The container was lifted off")).to_have_count(0)
        self.put(6000)
        expect(self.page.get_by_text("Too heavy for this scale")).to_be_visible()
        self.put(CONTAINER_G, hand_g=900, noise_g=3)
        expect(self.page.get_by_text("A hand on the scale?")).to_be_visible()
        self.put(CONTAINER_G)
        expect(self.page.get_by_text("A hand on the scale?")).to_have_count(0)
        self.assertEqual(read_filling(database(), self.who, self.batch_id).facts, 0)

    def test_keys_tare_take_back_by_eye_and_the_arrows(self) -> None:
        self.open()
        self.take_up(4)
        keys = self.page.keyboard
        self.put(CONTAINER_G + 30)
        chicken = self.of(4, "Chicken").grams
        expect(self.still).to_have_text(f"{chicken - 30:g}")
        keys.press("t")
        expect(self.still).to_have_text(f"{chicken:g}")
        keys.press("e")
        expect(self.part("Bulgur")).to_be_visible()
        self.filled(4, "Chicken", chicken)
        self.assertEqual(self.of(4, "Chicken").filled.unsure_g, round(0.15 * chicken, 1))  # type: ignore[union-attr]
        keys.press("z")
        keys.press("ArrowLeft")
        expect(self.part("Chicken")).to_be_visible()
        expect(self.page.get_by_text("All handed in")).to_be_visible()
        self.assertIsNone(self.of(4, "Chicken").filled)
        keys.press("ArrowDown")
        expect(self.page.get_by_text("Ada Vance, lunch, 2 of 5")).to_be_visible()
        keys.press("ArrowUp")
        keys.press("ArrowRight")
        expect(self.part("Bulgur")).to_be_visible()


class Ways(FillCase):
    def way(self, name: str) -> None:
        self.page.get_by_role("button", name=re.compile("^(Scale:|No scale)")).click()
        choose(self.page, "How Chicken is measured", name)
        self.page.get_by_role("button", name="Done").click()

    def test_a_running_total_without_tare(self) -> None:
        self.open(scale=False)
        self.go_to(4)
        chicken, bulgur = self.of(4, "Chicken").grams, self.of(4, "Bulgur").grams
        self.page.get_by_label("Type what went in").fill(f"{chicken:g}")
        self.page.keyboard.press("Enter")
        expect(self.part("Bulgur")).to_be_visible()
        self.page.get_by_role("button", name="No scale").click()
        choose(self.page, "How Bulgur is measured", "running total, without tare")
        self.page.get_by_role("button", name="Done").click()
        expect(self.page.get_by_text(f"the scale then shows {chicken + bulgur:g}")).to_be_visible()
        self.page.get_by_label("Type what the scale shows").fill(f"{chicken + bulgur:g}")
        self.page.keyboard.press("Enter")
        self.filled(4, "Bulgur", bulgur)

    def test_a_minus_reading_off_the_bulk(self) -> None:
        self.open()
        self.go_to(4)
        self.way("minus reading: the bulk stands on the scale")
        self.put(2400)
        expect(self.page.get_by_text("not yet", exact=True)).to_be_visible()
        chicken = self.of(4, "Chicken").grams
        self.put(2400 - chicken)
        expect(self.still).to_have_text("0")
        self.page.keyboard.press(" ")
        self.filled(4, "Chicken", chicken)
        part = self.of(4, "Chicken").filled
        self.assertEqual(part.way, "minus reading")  # type: ignore[union-attr]

    def test_pieces_are_counted_and_scoops_are_unsure(self) -> None:
        chicken = self.batch.components[0].id
        dish = self.batch.dishes[0].id
        plan = apply(
            self.who,
            self.batch,
            SetSchool(dish_id=dish, component_id=chicken, school=School.FIXED_MEASURE, unit_g=40),
            confirmed=True,
        )
        self.assertEqual(plan.batch.id, self.batch_id)
        self.open(scale=False)
        self.go_to(4)
        scoops = round(self.of(4, "Chicken").units or 0)
        expect(self.page.get_by_text(f"{scoops} scoops of 40 g")).to_be_visible()
        self.page.get_by_role("button", name="One more").click()
        expect(self.page.get_by_text(f"{scoops + 1} scoops of 40 g")).to_be_visible()
        self.page.get_by_role("button", name="One less").click()
        self.page.get_by_role("button", name="Next").click()
        self.filled(4, "Chicken", 40 * scoops)
        filled = self.of(4, "Chicken").filled
        assert filled is not None
        self.assertEqual((filled.way, filled.unsure_g), ("scoops", 4 * scoops))
        self.page.keyboard.press("ArrowLeft")
        expect(self.page.get_by_text(re.compile("^in already"))).to_be_visible()
        expect(self.still).to_have_text("0")
        self.page.get_by_role("button", name="Correct it").click()
        self.page.get_by_role("button", name="One more").click()
        expect(self.page.get_by_text(f"{scoops + 1} scoops of 40 g")).to_be_visible()
        expect(self.still).to_have_text("40")
        self.page.get_by_role("button", name="Next").click()
        self.page.get_by_role("button", name=f"Accept {40 * (scoops + 1)} g").click()
        expect(self.part("Bulgur")).to_be_visible()
        self.filled(4, "Chicken", 40 * (scoops + 1))

    def test_halves_of_pieces_are_counted_as_the_plan_cuts_them(self) -> None:
        chicken, dish = self.batch.components[0].id, self.batch.dishes[0].id
        halves = SetSchool(dish_id=dish, component_id=chicken, school=School.PIECES, pieces=30, unit_part=0.5)
        apply(self.who, self.batch, halves, confirmed=True)
        self.open(scale=False)
        self.go_to(4)
        part = self.of(4, "Chicken")
        assert part.units is not None and part.unit_g is not None
        expect(self.page.get_by_text(re.compile(rf"enough: stop: {part.units:g} pieces? of"))).to_be_visible()
        self.page.get_by_role("button", name="One more").click()
        expect(self.page.get_by_text(re.compile(rf"{part.units + 0.5:g} pieces? of"))).to_be_visible()
        self.page.get_by_role("button", name="One less").click()
        self.page.keyboard.press(" ")
        self.filled(4, "Chicken", round(part.units * part.unit_g, 1))

    def test_cups_by_the_bulk_of_what_is_in_them(self) -> None:
        """A metric cup holds 250 ml; what a gram of bulgur fills is assumed, and so is how far a cup may be off."""
        self.open(scale=False)
        self.go_to(4)
        self.page.get_by_role("button", name="No scale").click()
        choose(self.page, "How Chicken is measured", "cups")
        self.page.get_by_role("button", name="Done").click()
        cup_g = self.of(4, "Chicken").cup_g
        cups = round(2 * self.of(4, "Chicken").grams / cup_g) / 2
        expect(self.page.get_by_text(re.compile(rf"{cups:g} cups? of {cup_g:.0f} g"))).to_be_visible()
        expect(self.page.get_by_text("± 10 %, assumed")).to_be_visible()
        self.page.get_by_role("button", name="One more").click()
        expect(self.page.get_by_text(re.compile(rf"{cups + 0.5:g} cups? of"))).to_be_visible()
        self.page.get_by_role("button", name="One less").click()
        self.page.keyboard.press(" ")
        accept = self.page.get_by_role("button", name=re.compile("^Accept"))
        if accept.count():
            accept.click()
        expect(self.page.get_by_text("All handed in")).to_be_visible()
        filled = self.of(4, "Chicken").filled
        assert filled is not None
        self.assertAlmostEqual(filled.grams, round(cups * cup_g, 1), delta=0.11)
        self.assertEqual(filled.way, "cups")

    def test_built_raw_ingredient_by_ingredient(self) -> None:
        sauce = self.batch.components[2].id
        plan = apply(self.who, self.batch, Withdraw(component_id=sauce))
        raw = SetSchool(dish_id=plan.dishes[0].id, component_id=sauce, school=School.BUILT_RAW, pieces=12)
        apply(self.who, plan, raw, confirmed=True)
        oil = AddLine(component_id=sauce, food_id=reference_id("olive-oil"), purchased_g=60)
        apply(self.who, read_plan(database(), self.who, self.batch_id), oil)
        self.open()
        self.take_up(4)
        for name in ("Chicken", "Bulgur"):
            expect(self.part(name)).to_be_visible()
            self.page.keyboard.press("e")
        expect(self.part("Sauce")).to_be_visible()
        part = self.of(4, "Sauce")
        self.assertGreater(len(part.lines), 1)
        self.assertAlmostEqual(part.lines[-1].up_to_g, part.grams)
        ingredients = self.page.get_by_role("region", name="Its ingredients")
        gross = CONTAINER_G
        for line in part.lines:
            expect(ingredients.locator("[aria-current=step]")).to_contain_text(line.name)
            expect(self.still).to_have_text(f"{round(line.grams)}")
            self.put(gross + line.up_to_g)
        expect(self.page.get_by_text("enough: stop")).to_be_visible()
        self.page.keyboard.press(" ")
        expect(self.page.get_by_text("1 of 12 containers closed").first).to_be_visible()

    def test_a_mixture_from_one_pot_is_one_part(self) -> None:
        plan, dish = self.batch, self.batch.dishes[0].id
        for component in plan.components[:2]:
            mixed = SetSchool(dish_id=dish, component_id=component.id, school=School.ONE_POT)
            plan = apply(self.who, plan, mixed, confirmed=True)
        self.open()
        self.take_up(4)
        expect(self.part("Chicken and Bulgur")).to_be_visible()
        wanted = self.of(4, "Chicken and Bulgur").grams
        self.put(CONTAINER_G + round(wanted))
        expect(self.still).to_have_text("0")
        expect(self.page.get_by_text("enough: stop")).to_be_visible()
        before = {pot.name: pot.left_g for pot in read_filling(database(), self.who, self.batch_id).pots}
        self.page.keyboard.press(" ")
        self.filled(4, "Chicken and Bulgur", round(wanted))
        after = {pot.name: pot.left_g for pot in read_filling(database(), self.who, self.batch_id).pots}
        taken = sum(before[name] - after[name] for name in ("Chicken", "Bulgur"))
        self.assertAlmostEqual(taken, round(wanted), places=3)

    def test_what_is_split_equally_is_divided_anew(self) -> None:
        sauce, dish = self.batch.components[2].id, self.batch.dishes[0].id
        split = SetSchool(dish_id=dish, component_id=sauce, school=School.EQUAL_SPLIT)
        apply(self.who, self.batch, split, confirmed=True)
        self.open(scale=False)
        self.go_to(4)
        for name in ("Chicken", "Bulgur"):
            expect(self.part(name)).to_be_visible()
            self.page.keyboard.press("e")
        expect(self.part("Sauce")).to_be_visible()
        more = self.of(4, "Sauce").grams + 80
        before = self.sauce_to_come()
        self.page.get_by_label("Type what went in").fill(f"{more:g}")
        self.page.keyboard.press("Enter")
        accept = self.page.get_by_role("button", name=re.compile("^Accept"))
        expect(accept.or_(self.part("Chicken"))).to_be_visible()
        if accept.count():
            accept.click()
        self.filled(4, "Sauce", more)
        self.assertLess(self.sauce_to_come(), before)

    def sauce_to_come(self) -> float:
        """What of it still goes into the containers but the first of Ada's [g]."""
        return sum(part.grams for box in self.containers()[5:] for part in box.parts if part.name == "Sauce")

    def test_by_eye_and_left_out_on_purpose(self) -> None:
        self.open(scale=False)
        self.go_to(4)
        self.page.get_by_role("button", name="By eye").click()
        self.page.get_by_role("button", name="Leave it out").click()
        self.page.get_by_role("button", name="Leave it out").click()
        expect(self.page.get_by_text("1 of 12 containers closed").first).to_be_visible()
        expect(self.page.get_by_text("All handed in")).to_be_visible()
        self.assertEqual(
            [(one.name, one.filled.is_left_out) for one in self.containers()[4].parts if one.filled],
            [("Chicken", False), ("Bulgur", True), ("Sauce", True)],
        )

    def test_one_part_along_all_containers(self) -> None:
        self.open(scale=False)
        self.page.get_by_role("button", name="No scale").click()
        choose(self.page, "In which order", "one part along all containers")
        self.page.get_by_role("button", name="Done").click()
        for number in (1, 2, 3, 4):
            expect(self.page.get_by_text(f"Milo Brandt, lunch, {number} of 4")).to_be_visible()
            self.page.keyboard.press("e")
        # Those without milk have all their parts before the sauce comes near.
        expect(self.page.get_by_text("Milo Brandt, lunch, 1 of 4")).to_be_visible()
        expect(self.part("Bulgur")).to_be_visible()

    def test_what_is_in_is_corrected_by_typing_what_it_holds_and_by_no_reading_beside_it(self) -> None:
        self.open()
        self.take_up(4)
        wanted = self.of(4, "Chicken").grams
        self.put(CONTAINER_G + wanted)
        expect(self.still).to_have_text("0")
        self.page.keyboard.press(" ")
        expect(self.part("Bulgur")).to_be_visible()
        self.page.keyboard.press("ArrowLeft")
        expect(self.page.get_by_text("in already", exact=True)).to_be_visible()
        self.put(CONTAINER_G + wanted + 60)
        expect(self.page.get_by_text("stands still")).to_have_count(0)
        expect(self.still).to_have_text("0")
        self.page.get_by_label("Type what it holds in all").fill(str(wanted + 60))
        expect(self.still).to_have_text("60")
        self.page.keyboard.press("Enter")
        self.page.get_by_role("button", name=f"Accept {wanted + 60:g} g").click()
        expect(self.part("Bulgur")).to_be_visible()
        self.filled(4, "Chicken", wanted + 60)
        self.page.keyboard.press("ArrowLeft")
        self.page.get_by_label("Type what it holds in all").fill("5")
        self.page.get_by_label("Type what it holds in all").fill("")
        self.page.get_by_role("button", name="Next").click()
        expect(self.part("Bulgur")).to_be_visible()

    def test_a_closed_container_is_corrected_with_a_reason(self) -> None:
        self.open(scale=False)
        self.go_to(4)
        for name in ("Chicken", "Bulgur", "Sauce"):
            expect(self.part(name)).to_be_visible()
            self.page.keyboard.press("e")
        self.go_to(4)
        self.page.get_by_role("button", name="Correct it").click()
        self.page.get_by_label("Type what it holds in all").fill("122")
        self.page.get_by_role("button", name="Next").click()
        expect(self.page.get_by_text("Say why, then press Next again.")).to_be_visible()
        self.page.get_by_label("Why is it corrected?", exact=False).fill("a spoonful fell off")
        self.page.get_by_role("button", name="Next").click()
        expect(self.page.get_by_text("All handed in")).to_be_visible()
        expect(self.page.get_by_text("Ada Vance, lunch, 2 of 5")).to_be_visible()
        self.filled(4, "Chicken", 122)
        filled = self.of(4, "Chicken").filled
        assert filled is not None
        self.assertEqual(filled.text, "a spoonful fell off")


class Pots(FillCase):
    def test_a_pot_is_weighed_again_a_scoop_calibrated_and_a_rest_goes_somewhere(self) -> None:
        self.open()
        page = self.page
        page.get_by_role("button", name="Pots, rests, scoops").click()
        chicken = page.get_by_role("listitem").filter(has_text="Chicken").filter(has_text="still to go in")
        left = next(pot for pot in read_filling(database(), self.who, self.batch_id).pots if pot.name == "Chicken")
        chicken.get_by_role("button", name="Weigh it again").click()
        self.put(left.left_g + 800 - 30)
        page.get_by_role("button", name="Take what the scale shows now").click()
        page.get_by_label("Empty pot").fill("800")
        page.get_by_role("button", name="Note it").click()
        expect(chicken).to_contain_text("it held 30 g less than it should have")
        chicken.get_by_role("button", name="Weigh one scoop").click()
        page.get_by_label("The scale shows").fill("58")
        page.get_by_role("button", name="Note it").click()
        expect(chicken.get_by_role("button", name="A scoop is 58 g")).to_be_visible()
        chicken.get_by_role("button", name="What becomes of the rest").click()
        page.get_by_label("How much of it").fill("10")
        choose(page, "What becomes of it", "for a client")
        expect(page.get_by_role("button", name="Note it")).to_be_disabled()
        choose(page, "For whom", "Ada Vance")
        page.get_by_role("button", name="Note it").click()
        expect(chicken).to_contain_text("10 g for a client (Ada Vance)")
        found = next(pot for pot in read_filling(database(), self.who, self.batch_id).pots if pot.name == "Chicken")
        self.assertEqual((found.left_g, found.scoop_g, len(found.rests)), (left.left_g - 40, 58, 1))

    def test_a_rest_becomes_extra_containers(self) -> None:
        self.open(scale=False)
        page = self.page
        page.get_by_role("button", name="Pots, rests, scoops").click()
        chicken = page.get_by_role("listitem").filter(has_text="Chicken").filter(has_text="still to go in")
        chicken.get_by_role("button", name="What becomes of the rest").click()
        page.get_by_label("How much of it").fill("300")
        choose(page, "What becomes of it", "extra containers")
        page.get_by_label("In how many containers").fill("2")
        expect(page.get_by_text("150 g in each. They belong to nobody yet.")).to_be_visible()
        page.get_by_role("button", name="Note it").click()
        expect(chicken).to_contain_text("300 g in 2 extra containers")


PORT = """
    navigator.__defineGetter__('serial', () => ({
        getPorts: async () => [window.port],
        requestPort: async () => window.port,
    }));
    window.port = {
        open: async () => {
            window.port.readable = new ReadableStream({ start: (controller) => { window.line = controller; } });
        },
        close: async () => undefined,
        readable: null,
        writable: null,
    };
    window.say = (text) => window.line?.enqueue(new TextEncoder().encode(text));
    const line = () => `ST,GS,+${String(window.grams).padStart(8)} g\\r\\n`;
    setInterval(() => window.grams === undefined || window.say(line()), 50);
"""
"""A scale at the tablet: it prints what `grams` says, twenty times a second, as a port of the browser gives it."""


class AtTheTablet(FillCase):
    def test_a_scale_that_is_plugged_into_the_tablet(self) -> None:
        own = InstrumentInput(name="tablet scale", connection=Connection.TABLET)
        self.scale_id = save_instrument(database(), self.who, own, None).id
        self.page.add_init_script(PORT)
        self.open()
        self.go_to(4)
        self.shows(CONTAINER_G)
        expect(self.page.get_by_text("not yet", exact=True)).to_be_visible()
        wanted = self.of(4, "Chicken").grams
        self.shows(CONTAINER_G + wanted - 20)
        expect(self.still).to_have_text("20")
        self.shows(CONTAINER_G + wanted)
        expect(self.page.get_by_text("enough: stop")).to_be_visible()
        self.page.keyboard.press(" ")
        self.filled(4, "Chicken", wanted)
        # The plug is pulled: it is said, and typing goes on.
        self.page.evaluate("() => { window.grams = undefined; window.line.close(); window.port.open = null; }")
        expect(self.page.get_by_text("The scale says nothing: type the weight")).to_be_visible()
        self.page.get_by_label("Type what went in").fill(f"{self.of(4, 'Bulgur').grams:g}")
        self.page.keyboard.press("Enter")
        self.filled(4, "Bulgur", self.of(4, "Bulgur").grams)

    def shows(self, grams: float) -> None:
        self.page.evaluate("grams => { window.grams = grams; }", grams)


class TwoTablets(FillCase):
    def test_what_the_other_one_fills_is_shown_and_two_notes_of_one_part_are_asked_about(self) -> None:
        self.open(scale=False)
        self.go_to(4)
        one = self.containers()[4]
        fact = FillFactInput(
            id=uuid.uuid4(), event=FillEvent.FILLED, row_id=one.row_id, container=one.number,
            component_id=one.parts[1].component_id, grams=222,
        )  # fmt: skip
        note_fact(database(), self.who, self.batch_id, fact, _now())
        expect(self.page.get_by_role("list", name="This container, from the bottom")).to_contain_text("222")
        # Neither knew of the other: the later counts until somebody decides.
        again = fact.model_copy(update={"id": uuid.uuid4(), "grams": 230.0})
        note_fact(database(), self.who, self.batch_id, again, _now())
        alert = self.page.get_by_role("alert").filter(has_text="was noted 2 times")
        expect(alert).to_be_visible()
        alert.get_by_role("button", name="222 g is right").click()
        expect(alert).to_have_count(0)
        self.filled(4, "Bulgur", 222)


class WithoutNetwork(FillCase):
    service_workers = "allow"

    def test_fills_are_kept_through_a_reload_and_handed_in_once(self) -> None:
        self.expected_refusals += 300
        self.open(scale=False)
        self.page.evaluate(CONTROLLED)
        self.page.reload()
        expect(self.still).to_be_visible()
        context = self.page.context
        self.go_to(4)
        context.set_offline(True)
        for name in ("Chicken", "Bulgur"):
            expect(self.part(name)).to_be_visible()
            self.page.keyboard.press("e")
        status = self.page.get_by_role("status").filter(has_text="to be handed in")
        expect(status).to_have_text("2 fills wait to be handed in")
        expect(self.page.get_by_text("taken from the same component, later")).to_be_visible()
        self.page.reload()
        expect(status).to_have_text("2 fills wait to be handed in")
        expect(self.page.get_by_role("button", name="2 fills wait to be handed in")).to_be_visible()
        self.go_to(4)
        expect(self.part("Sauce")).to_be_visible()
        self.page.keyboard.press("e")
        expect(status).to_have_text("3 fills wait to be handed in")
        expect(self.page.get_by_text("1 of 12 containers closed").first).to_be_visible()
        context.set_offline(False)
        expect(self.page.get_by_text("All handed in")).to_be_visible()
        view = read_filling(database(), self.who, self.batch_id)
        self.assertTrue(view.containers[4].is_closed)
        self.assertTrue(all(not part.others for one in view.containers for part in one.parts))


class Accessible(FillCase):
    def test_axe_finds_nothing_serious_and_every_target_is_large(self) -> None:
        self.open()
        self.take_up(4)
        found = Axe().run(self.page).response["violations"]
        self.assertEqual([one["id"] for one in found if one["impact"] in ("serious", "critical")], [])
        small = self.page.locator("main button:visible").evaluate_all(
            "all => all.filter(one => one.getBoundingClientRect().height < 63).map(one => one.innerText)"
        )
        self.assertEqual(small, [])


def _now() -> datetime:

    return datetime.now(UTC)
