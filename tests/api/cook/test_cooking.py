"""The order of work of a batch, through the API: kitchens, days, what follows from the plan, what cannot be."""

from __future__ import annotations

import unittest
import unittest.mock
from itertools import pairwise
from typing import Any

from tests.api.case import ApiCase
from tests.kitchens import planned

EQUIPMENT = ("oven-2-shelves", "tray-baking-45x37", "hob-4-rings", "pan-frying-28", "pot-8", "board", "board-raw")


class CookCase(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.batch_id = str(planned(self.who).batch.id)

    def kitchen(self, *keys: str, people: list[dict[str, Any]] | None = None, **more: Any) -> dict[str, Any]:
        usual = {one["key"]: one for one in self.get("/equipment")}
        fields = ("kind", "name", "places", "capacity_l", "meat_g", "vegetables_g", "grain_g", "most_c")
        items = [{field: usual[key][field] for field in fields} for key in keys]
        sent = {"name": "Galley", "items": items, "people": people or [{"name": "Ada"}], **more}
        return dict(self.send("POST", "/kitchens", sent, status=201))

    def cooking(self) -> dict[str, Any]:
        return dict(self.get(f"/batches/{self.batch_id}/cooking"))

    def set_day(self, kitchen: dict[str, Any], **more: Any) -> None:
        there = [{"person_id": person["id"], "start_min": 540, "end_min": 1260} for person in kitchen["people"]]
        sent = {"kitchen_id": kitchen["id"], "start_min": 540, "there": there, **more}
        self.send("PUT", f"/batches/{self.batch_id}/cooking/day", sent, status=204)

    def steps(self, component: str, *steps: dict[str, Any]) -> None:
        plan = self.get(f"/batches/{self.batch_id}/plan")
        of = next(one["id"] for one in plan["components"] if one["name"] == component)
        self.change(plan, {"kind": "steps", "component_id": of, "steps": list(steps)})


class Kitchens(CookCase):
    def test_one_is_made_changed_and_archived(self) -> None:
        made = self.kitchen(*EQUIPMENT)
        self.assertEqual([one["name"] for one in self.get("/kitchens")], ["Galley"])
        changed = {"name": "Pier", "items": made["items"], "people": made["people"], "version": made["version"]}
        after = self.send("PUT", f"/kitchens/{made['id']}", changed)
        self.assertEqual((after["name"], after["version"]), ("Pier", 2))
        self.assertEqual([one["id"] for one in after["items"]], [one["id"] for one in made["items"]])
        self.send("PUT", f"/kitchens/{made['id']}", changed, status=409)
        self.send("PUT", f"/kitchens/{made['id']}/archived?archived=true", status=204)
        self.assertEqual(self.get("/kitchens"), [])

    def test_what_cannot_be_is_told_at_its_field(self) -> None:
        sent = {
            "name": " ",
            "items": [{"kind": "hob", "name": "Hob", "places": 0}],
            "people": [{"name": "", "does": []}],
        }
        told = self.send("POST", "/kitchens", sent, status=422)
        pointers = {one["pointer"] for one in told["errors"]}
        self.assertLessEqual({"/name", "/items/0/places", "/people/0/name", "/people/0/does"}, pointers)


class Days(CookCase):
    def test_without_a_kitchen_there_is_no_order_and_no_day(self) -> None:
        found = self.cooking()
        self.assertIsNone(found["day"])
        self.assertIsNone(found["order"])

    def test_what_nobody_set_is_told_as_assumed_until_somebody_does(self) -> None:
        kitchen = self.kitchen(*EQUIPMENT)
        self.assertTrue(self.cooking()["day"]["assumed"])
        self.set_day(kitchen)
        (zone,) = self.cooking()["day"]["assumed"]
        self.assertIn("Times are in UTC", zone)
        settings = self.get("/settings")
        sent = {name: value for name, value in settings.items() if name not in ("workspace", "free_kinds")}
        self.send("PUT", "/settings", {**sent, "time_zone": "Atlantic/Azores"})
        self.assertEqual(self.cooking()["day"]["assumed"], [])

    def test_a_day_that_cannot_be(self) -> None:
        kitchen = self.kitchen(*EQUIPMENT)
        person = kitchen["people"][0]["id"]
        there = [
            {"person_id": person, "start_min": 700, "end_min": 600},
            {"person_id": person, "start_min": 540, "end_min": 800},
            {"person_id": person, "start_min": 700, "end_min": 900},
        ]
        sent = {"kitchen_id": kitchen["id"], "start_min": 540, "ready_by_min": 500, "there": there}
        told = self.send("PUT", f"/batches/{self.batch_id}/cooking/day", sent, status=422)
        self.assertEqual(
            {one["pointer"] for one in told["errors"]}, {"/ready_by_min", "/there/0/end_min", "/there/2/start_min"}
        )

    def test_set_by_two_windows_the_second_is_told(self) -> None:
        kitchen = self.kitchen(*EQUIPMENT)
        self.set_day(kitchen)
        there = [{"person_id": kitchen["people"][0]["id"], "start_min": 540, "end_min": 900}]
        sent = {"kitchen_id": kitchen["id"], "start_min": 540, "there": there, "version": None}
        self.send("PUT", f"/batches/{self.batch_id}/cooking/day", sent, status=409)


class Orders(CookCase):
    def test_steps_that_nobody_wrote_are_proposed_and_say_so(self) -> None:
        self.kitchen(*EQUIPMENT)
        steps = self.cooking()["order"]["steps"]
        proposed = {step["component"]: bool(step["proposed"]) for step in steps}
        # The recipe says how the chicken is roasted, and nothing of the bulgur.
        self.assertEqual(proposed, {"Chicken": False, "Bulgur": True})

    def test_written_steps_take_their_place_and_grow_with_the_amount(self) -> None:
        """30 minutes for the recipe's 2,430 g: as many times longer as there is more of it."""
        self.kitchen(*EQUIPMENT)
        plan = self.get(f"/batches/{self.batch_id}/plan")
        chicken = next(one for one in plan["components"] if one["name"] == "Chicken")
        self.steps("Chicken", {"text": "Cut it.", "hands_on_min": 30})
        step = next(one for one in self.cooking()["order"]["steps"] if one["component"] == "Chicken")
        self.assertEqual(step["proposed"], "")
        factor = chicken["purchased_g"] / 2430
        self.assertAlmostEqual(step["end_min"] - step["start_min"], 30 * factor, delta=1)

    def test_a_step_that_says_no_time_is_asked(self) -> None:
        self.kitchen(*EQUIPMENT)
        self.steps("Chicken", {"text": "Season it."})
        found = self.cooking()
        self.assertIn("Chicken: how long does “Season it.” take?", found["asks"])
        step = next(one for one in found["order"]["steps"] if one["component"] == "Chicken")
        self.assertIn("nobody said how long", step["assumed"][0])

    def test_the_middle_of_a_range_is_planned_and_told(self) -> None:
        self.kitchen(*EQUIPMENT)
        roast = {"text": "Roast for 25-30 min.", "unattended_min": 27.5, "temperature_c": 200, "equipment": "oven"}
        self.steps("Chicken", roast)
        step = next(one for one in self.cooking()["order"]["steps"] if one["component"] == "Chicken")
        self.assertIn("25 to 30 min are said, the middle is planned", step["assumed"])

    def test_the_same_is_not_found_twice(self) -> None:
        self.kitchen(*EQUIPMENT)
        once = self.cooking()
        with unittest.mock.patch("yantai.work.cook.order.best_order", side_effect=AssertionError("found anew")):
            again = self.cooking()
        self.assertEqual({**again, "now_s": 0}, {**once, "now_s": 0})

    def test_what_is_weighed_is_not_cooked_again(self) -> None:
        self.kitchen(*EQUIPMENT)
        plan = self.get(f"/batches/{self.batch_id}/plan")
        chicken = next(one for one in plan["components"] if one["name"] == "Chicken")
        weighed = {"kind": "weigh", "component_id": chicken["id"], "vessels": [{"gross_g": chicken["cooked_g"]}]}
        self.change(plan, weighed)
        self.assertNotIn("Chicken", {step["component"] for step in self.cooking()["order"]["steps"]})

    def test_a_kitchen_without_an_oven_says_what_cannot_be_done_and_what_to_do(self) -> None:
        self.kitchen("hob-2-rings", "pot-8", "pan-frying-28", "board")
        self.steps("Chicken", {"text": "Roast it.", "unattended_min": 25, "temperature_c": 200, "equipment": "oven"})
        told = self.cooking()["impossible"]
        self.assertIn("wants an oven, and the kitchen has none", told[0])
        self.assertIn("cook it on the hob", told[0])

    def test_one_ring_gives_an_honest_plan_one_after_the_other(self) -> None:
        kitchen = self.kitchen("pot-8", "pan-frying-28", "board")
        hob = {"kind": "hob", "name": "One ring", "places": 1}
        sent = {"name": "Bothy", "items": [*kitchen["items"], hob], "people": kitchen["people"], "version": 1}
        self.send("PUT", f"/kitchens/{kitchen['id']}", sent)
        for name in ("Chicken", "Bulgur"):
            self.steps(name, {"text": "Simmer it.", "unattended_min": 20, "equipment": "pot"})
        steps = [one for one in self.cooking()["order"]["steps"] if one["says"] == "Simmer it."]
        spans = sorted((one["start_min"], one["end_min"]) for one in steps)
        self.assertGreater(len(spans), 1)
        for (_, ended), (begun, _) in pairwise(spans):
            self.assertLessEqual(ended, begun)

    def test_ready_by_a_time_that_is_too_early_has_no_order(self) -> None:
        kitchen = self.kitchen(*EQUIPMENT)
        self.set_day(kitchen, ready_by_min=541)
        found = self.cooking()
        self.assertIsNone(found["order"])
        self.assertIn("cannot be ready by then", found["trouble"])

    def test_what_is_begun_long_ahead_is_in_the_evening_before(self) -> None:
        self.kitchen(*EQUIPMENT, "fridge-space")
        marinate = {"text": "Marinate it.", "lead_min": 480, "lead_most_min": 1000, "equipment": "fridge"}
        self.steps("Chicken", marinate, {"text": "Fry it.", "hands_on_min": 20, "equipment": "pan"})
        steps = self.cooking()["order"]["steps"]
        ahead = next(one for one in steps if one["says"] == "Marinate it.")
        self.assertTrue(ahead["is_ahead"])
        self.assertLess(ahead["start_min"], 0)
        self.assertIn("used marinade is boiled hard or thrown away", " ".join(ahead["cautions"]))

    def test_a_helper_is_tried_by_computing(self) -> None:
        self.kitchen(*EQUIPMENT)
        for name in ("Chicken", "Bulgur"):
            self.steps(name, {"text": "Work on it.", "hands_on_min": 40, "growth": "fixed"})
        alone = self.cooking()["order"]["ready_min"]
        help_view = self.get(f"/batches/{self.batch_id}/cooking/helper")
        self.assertEqual(help_view["saves_min"], alone - help_view["ready_min"])
        self.assertGreater(help_view["saves_min"], 0)

    def test_raw_meat_is_done_at_its_temperature_and_says_so_last(self) -> None:
        self.kitchen(*EQUIPMENT)
        cautions = {
            step["says"]: " ".join(step["cautions"])
            for step in self.cooking()["order"]["steps"]
            if step["component"] == "Chicken"
        }
        self.assertTrue(any("Done at 74 °C" in words for words in cautions.values()))


class PotSteps(CookCase):
    def steps_of(self, component: str) -> dict[str, Any]:
        plan = self.get(f"/batches/{self.batch_id}/plan")
        of = next(one["id"] for one in plan["components"] if one["name"] == component)
        return dict(self.get(f"/batches/{self.batch_id}/components/{of}/steps"))

    def test_what_is_proposed_and_then_written_down_makes_the_same_order(self) -> None:
        """Proposed for the day's amount, told for the recipe's, and grown again: the same minutes, to a rounding."""
        self.kitchen(*EQUIPMENT)
        before = self.cooking()["order"]["steps"]
        found = self.steps_of("Bulgur")
        self.assertTrue(found["is_proposed"])
        self.steps("Bulgur", *({name: one[name] for name in SENT} for one in found["steps"]))
        self.assertFalse(self.steps_of("Bulgur")["is_proposed"])
        after = self.cooking()["order"]["steps"]
        lasts = [
            sorted(
                (one["says"], one["end_min"] - one["start_min"])
                for one in steps
                if one["component"] == "Bulgur" and "rest" not in one["says"]
            )
            for steps in (before, after)
        ]
        self.assertEqual(len(lasts[0]), len(lasts[1]))
        for (_, one), (_, other) in zip(*lasts, strict=True):
            self.assertAlmostEqual(one, other, delta=1)

    def test_what_was_written_is_told_as_it_was(self) -> None:
        self.steps("Chicken", {"text": "Fry it.", "hands_on_min": 12, "equipment": "pan", "after": []})
        found = self.steps_of("Chicken")
        self.assertEqual(
            [(one["text"], one["hands_on_min"], one["after"]) for one in found["steps"]], [("Fry it.", 12, [])]
        )

    def test_a_step_that_waits_for_itself_is_told(self) -> None:
        self.kitchen(*EQUIPMENT)
        first, second = "5f0c3f5e-0000-4000-8000-000000000001", "5f0c3f5e-0000-4000-8000-000000000002"
        self.steps(
            "Chicken",
            {"id": first, "text": "Fry it.", "hands_on_min": 12, "after": [second]},
            {"id": second, "text": "Cut it.", "hands_on_min": 5, "after": [first]},
        )
        found = self.cooking()
        self.assertIsNone(found["order"])
        self.assertIn("Fry it", found["trouble"])


SENT = (
    "id", "text", "hands_on_min", "unattended_min", "every_min", "temperature_c", "equipment", "growth", "load_g",
    "lead_min", "lead_most_min", "core_c", "done_when", "after",
)  # fmt: skip
