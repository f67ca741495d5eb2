"""Weighing on a tablet: from the scale, with vessels by name, in parts, what it changes before it is accepted."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from tests.browser.case import TABLET, BrowserCase, application
from tests.kitchens import planned
from tests.support import PASSWORD, database
from yantai.devices.device import Connection
from yantai.devices.simulated import Pan
from yantai.work.batches.reading import read_plan
from yantai.work.instruments.inputs import InstrumentInput
from yantai.work.instruments.instruments import read_instrument, save_instrument
from yantai.work.kitchen.inputs import VesselInput, WorkspaceInput
from yantai.work.kitchen.settings import save_settings


class Weighing(BrowserCase):
    size = TABLET

    def setUp(self) -> None:
        super().setUp()
        self.own_kitchen()
        self.batch_id = planned(self.who).batch.id
        vessels = [VesselInput(name="Tray", empty_g=1312), VesselInput(name="Foil", empty_g=18)]
        save_settings(database(), self.who, WorkspaceInput(vessels=vessels))
        bench = save_instrument(
            database(), self.who, InstrumentInput(name="bench", connection=Connection.SIMULATED), None
        )
        self.scale_id = bench.id
        self.signed_in(self.email, PASSWORD)
        self.page.add_init_script(f"localStorage.setItem('yantai/scale', '{bench.id}')")
        self.page.goto(f"/batches/{self.batch_id}/weigh")
        expect(self.pot("Chicken")).to_be_visible()

    def pot(self, name: str) -> Locator:
        return self.page.get_by_role("region", name=name, exact=True)

    def put(self, grams: float) -> None:
        hub = application().state.readings.hub
        _, settings = read_instrument(database(), self.who, self.scale_id)
        hub.put(self.scale_id, settings, Pan(things={"pot": grams} if grams else {}))

    def cooked(self, name: str) -> float | None:
        plan = read_plan(database(), self.who, self.batch_id)
        weighing = next(one for one in plan.components if one.name == name).weighing
        return None if weighing is None else weighing.cooked_g

    def test_from_the_scale_with_its_tray_and_foil_taken_off(self) -> None:
        chicken = self.pot("Chicken")
        self.put(1312 + 18 + 1600)
        chicken.get_by_role("button", name="Full: 2,930 g").click()
        chicken.get_by_role("button", name="Tray").click()
        chicken.get_by_role("button", name="Foil").click()
        expect(chicken.get_by_label("Empty vessel")).to_have_value("1330")
        # What it changes is told before it is accepted.
        changes = chicken.get_by_text("What this weight changes")
        expect(changes).to_be_visible()
        expect(chicken.get_by_text(re.compile("inside their bands"))).to_be_visible()
        self.assertIsNone(self.cooked("Chicken"))
        chicken.get_by_role("button", name="Record the weight").click()
        expect(self.page.get_by_role("button", name=re.compile("^Chicken 1,600 g.* weighed by"))).to_be_visible()
        self.assertEqual(self.cooked("Chicken"), 1600)
        # The next one that is to be weighed is open.
        self.page.get_by_role("button", name=re.compile("^Bulgur")).click()
        expect(self.pot("Bulgur")).to_be_visible()

    def test_one_tray_now_and_the_other_later_on_another_tablet(self) -> None:
        chicken = self.pot("Chicken")
        chicken.get_by_label("On the scale", exact=True).fill("2104")
        chicken.get_by_role("button", name="Tray").click()
        chicken.get_by_role("button", name="A part of it: the rest comes later").click()
        card = self.page.get_by_role("button", name=re.compile("^Chicken"))
        expect(card).to_contain_text("792 g weighed so far, the rest to come")
        self.assertIsNone(self.cooked("Chicken"))
        other = self.new_page()
        other.context.add_cookies(self.page.context.cookies())  # type: ignore[arg-type]
        other.goto(f"/batches/{self.batch_id}/weigh")
        there = other.get_by_role("region", name="Chicken", exact=True)
        expect(there.get_by_role("region", name="Weighed so far")).to_contain_text("792 g")
        there.get_by_label("On the scale", exact=True).fill("812")
        expect(there.get_by_text("1,604 g")).to_be_visible()
        there.get_by_role("button", name="Record the weight").click()
        expect(card).to_contain_text("weighed by")
        self.assertEqual(self.cooked("Chicken"), 1604)

    def test_the_empty_pot_first_and_in_two_parts_with_the_page_loaded_anew_between(self) -> None:
        chicken = self.pot("Chicken")
        self.put(900)
        chicken.get_by_role("button", name="Empty: 900 g").click()
        self.put(900 + 1000)
        chicken.get_by_role("button", name="Full: 1,900 g").click()
        self.page.reload()
        expect(chicken.get_by_label("On the scale", exact=True)).to_have_value("1900")
        chicken.get_by_role("button", name="Another vessel").click()
        self.put(1312 + 610)
        chicken.get_by_role("button", name="Full: 1,922 g").click()
        chicken.get_by_role("button", name="Tray").click()
        expect(chicken.get_by_text("1,610 g", exact=True)).to_be_visible()
        chicken.get_by_role("button", name="Record the weight").click()
        expect(self.page.get_by_role("button", name=re.compile("^Chicken 1,610 g.* weighed by"))).to_be_visible()
        self.assertEqual(self.cooked("Chicken"), 1610)

    def test_an_unlikely_weight_is_asked_about_with_its_causes(self) -> None:
        chicken = self.pot("Chicken")
        chicken.get_by_label("On the scale", exact=True).fill("2912")
        chicken.get_by_role("button", name="Record the weight").click()
        asked = self.page.get_by_role("alertdialog")
        expect(asked).to_contain_text("Tray")
        asked.get_by_role("list", name="Ways to correct it").get_by_role("button").first.click()
        expect(self.page.get_by_role("button", name=re.compile("^Chicken 1,600 g.* weighed by"))).to_be_visible()
        self.expected_refusals += 1

    def test_two_pots_by_two_people_at_once(self) -> None:
        other = self.page.context.new_page()
        other.goto(f"/batches/{self.batch_id}/weigh")
        other.get_by_role("button", name=re.compile("^Bulgur")).click()
        bulgur = other.get_by_role("region", name="Bulgur", exact=True)
        bulgur.get_by_label("On the scale", exact=True).fill("2500")
        chicken = self.pot("Chicken")
        chicken.get_by_label("On the scale", exact=True).fill("1600")
        bulgur.get_by_role("button", name="Record the weight").click()
        chicken.get_by_role("button", name="Record the weight").click()
        for page in (self.page, other):
            expect(page.get_by_role("button", name=re.compile("^Chicken 1,600 g"))).to_be_visible()
            expect(page.get_by_role("button", name=re.compile("^Bulgur 2,500 g"))).to_be_visible()
