"""The scale beside the stove, and what a kitchen learns of its minutes, through the API."""

from __future__ import annotations

import uuid
from typing import Any

from tests.api.cook.test_live import LiveCase


class AtTheStove(LiveCase):
    def setUp(self) -> None:
        super().setUp()
        self.steps("Bulgur", {"text": "Simmer it.", "unattended_min": 30, "equipment": "pot", "growth": "fixed"})
        found = self.begin()
        step = next(one for one in found["order"]["steps"] if one["says"] == "Simmer it.")
        self.task, self.until_g, self.rounds = step["key"], step["until_g"], step["rounds"]

    def weigh(self, grams: float, **more: Any) -> None:
        self.note("weighed", task=self.task, grams=grams, vessel_g=800, vessel="large pot", **more)

    def scale(self) -> dict[str, Any]:
        return dict(self.cooking()["live"]["scales"][0])

    def test_until_pan_and_all_show_what_the_plan_expects(self) -> None:
        """The pot of the plan, in rounds of the same size; the scale is to show that and the empty pot."""
        plan = self.get(f"/batches/{self.batch_id}/plan")
        bulgur = next(one for one in plan["components"] if one["name"] == "Bulgur")
        self.assertAlmostEqual(self.until_g * self.rounds, bulgur["cooked_g"], places=3)
        self.assertEqual(self.cooking()["live"]["scales"], [])
        self.note("begun", task=self.task)
        self.assertAlmostEqual(self.scale()["net_g"], self.until_g, places=6)
        self.assertIsNone(self.scale()["left_g"])

    def test_after_two_readings_it_says_about_when(self) -> None:
        """600 g above at 9:10, 400 g above at 9:15: 40 g a minute, so 400 g take until 9:25."""
        self.note("begun", task=self.task)
        wanted = self.until_g + 800
        self.at(550)
        self.weigh(wanted + 600)
        one = self.scale()
        self.assertAlmostEqual(one["left_g"], 600, places=2)
        self.assertIsNone(one["about_min"])
        self.at(555)
        self.weigh(wanted + 400)
        two = self.scale()
        self.assertAlmostEqual(two["left_g"], 400, places=2)
        self.assertAlmostEqual(two["per_min_g"], 40, places=2)
        self.assertEqual(two["about_min"], 565)
        self.assertEqual((two["vessel"], two["vessel_g"]), ("large pot", 800))
        self.at(566)
        self.weigh(wanted + 5)
        self.assertTrue(self.scale()["is_there"])

    def test_a_reading_that_was_taken_back_or_cannot_be_tells_nothing(self) -> None:
        self.note("begun", task=self.task)
        fact = str(uuid.uuid4())
        self.weigh(5000, id=fact)
        self.weigh(700)
        self.assertEqual(len(self.scale()["readings"]), 1)
        self.note("taken back", task=fact)
        self.assertIsNone(self.scale()["left_g"])

    def test_it_is_in_the_log(self) -> None:
        self.weigh(4000)
        entry = self.get(f"/batches/{self.batch_id}/cooking/log")["entries"][-1]
        self.assertEqual((entry["what"], entry["grams"], entry["vessel_g"]), ("on the scale", 4000, 800))
        text = self.client.get(f"/api/v1/batches/{self.batch_id}/cooking/log.csv").text
        self.assertIn(",4000,800,", text)

    def test_what_the_scale_shows_has_to_be_said(self) -> None:
        sent = {"event": "weighed", "task": self.task}
        told = self.send("POST", f"/batches/{self.batch_id}/cooking/facts", sent, status=422)
        self.assertEqual([one["pointer"] for one in told["errors"]], ["/grams"])


class Learned(LiveCase):
    def day_of(self, minutes: int, person: str | None = None) -> None:
        """A day on which cutting the chicken, 20 minutes as stated, took so many."""
        self.at(540)
        self.steps("Chicken", {"text": "Cut it.", "hands_on_min": 20, "growth": "fixed"})
        self.begin()
        task = self.cutting()["key"]
        self.at(540 + minutes)
        self.note("done", task=task, minutes=minutes, person_id=person or self.people()["Ada"])
        self.cooking()

    def people(self) -> dict[str, str]:
        return {one["name"]: one["id"] for one in self.get("/kitchens")[0]["people"]}

    def cutting(self) -> dict[str, Any]:
        return next(one for one in self.cooking()["order"]["steps"] if one["says"] == "Cut it.")

    def another_batch(self) -> None:
        """The same dishes for the same people, on the same day."""
        sent = {"name": "Again", "cook_on": "2026-11-29"}
        self.batch_id = self.send("POST", f"/batches/{self.batch_id}/copies", sent, status=201)["batch"]["id"]

    def test_the_next_day_is_planned_as_long_as_it_took(self) -> None:
        for minutes in (30, 30, 30):
            self.day_of(minutes)
            self.another_batch()
        self.at(540)
        self.steps("Chicken", {"text": "Cut it.", "hands_on_min": 20, "growth": "fixed"})
        step = self.cutting()
        # ln 1.5 = 0.405, three times, split between the step and Ada, who is the first: 25 to 29 minutes.
        self.assertGreaterEqual(step["end_min"] - step["start_min"], 25)
        self.assertLessEqual(step["end_min"] - step["start_min"], 29)
        self.assertTrue(any("learned from what it took here 3 times" in words for words in step["assumed"]))

    def test_a_day_does_not_learn_from_itself(self) -> None:
        self.day_of(35)
        self.assertFalse(any("learned" in words for words in self.cutting()["assumed"]))

    def test_what_was_taken_back_is_not_learned(self) -> None:
        self.at(540)
        self.steps("Chicken", {"text": "Cut it.", "hands_on_min": 20, "growth": "fixed"})
        self.begin()
        self.at(580)
        fact = str(uuid.uuid4())
        self.note("done", task=self.cutting()["key"], id=fact, minutes=40, person_id=self.people()["Ada"])
        self.cooking()
        self.assertEqual([one["says"] for one in self.get("/learned-times")["steps"]], ["Cut it."])
        self.note("taken back", task=fact)
        self.cooking()
        self.assertEqual(self.get("/learned-times")["steps"], [])

    def test_what_was_learned_is_told_with_every_day(self) -> None:
        self.day_of(30)
        told = self.get("/learned-times")
        step = told["steps"][0]
        self.assertEqual((step["says"], [one["took_min"] for one in step["took"]]), ("Cut it.", [30]))
        self.assertGreater(step["factor"], 1)
        self.assertEqual([one["name"] for one in told["people"]], ["Ada"])

    def test_another_workspace_learns_nothing_of_it(self) -> None:
        self.day_of(30)
        other = LiveCase("setUp")
        other.setUp()
        self.addCleanup(other.doCleanups)
        self.assertEqual(other.get("/learned-times")["steps"], [])


class Afterwards(LiveCase):
    def test_what_a_helper_would_have_saved_counts_the_minutes_it_took(self) -> None:
        """Two of 40 minutes side by side; one took 80, so a helper saves more than was planned."""
        self.kitchens_of_one()
        for name in ("Chicken", "Bulgur"):
            self.steps(name, {"text": f"Work on {name}.", "hands_on_min": 40, "growth": "fixed"})
        self.assertEqual(self.get(f"/batches/{self.batch_id}/cooking/helper")["saves_min"], 40)
        found = self.begin()
        first = next(one for one in found["order"]["prompts"] if one["event"] == "done")
        self.at(540 + 50)
        self.note("done", task=first["task"], minutes=50, person_id=first["person_id"])
        # 90 minutes alone; 50 with somebody who does the other 40 meanwhile.
        self.assertEqual(self.get(f"/batches/{self.batch_id}/cooking/helper")["saves_min"], 40)
        self.assertEqual(self.get(f"/batches/{self.batch_id}/cooking/helper")["ready_min"], 590)

    def kitchens_of_one(self) -> None:
        kitchen = self.get("/kitchens")[0]
        self.set_day({**kitchen, "people": kitchen["people"][:1]})
