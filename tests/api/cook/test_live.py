"""A cook day that goes on: through the API, minute by minute, by a clock that the test turns."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from typing import Any

from tests.api.cook.test_cooking import EQUIPMENT, CookCase
from yantai.api.access import get_now

MIDNIGHT = datetime(2026, 11, 29, tzinfo=UTC)


class LiveCase(CookCase):
    def setUp(self) -> None:
        super().setUp()
        self.kitchen(*EQUIPMENT, people=[{"name": "Ada"}, {"name": "Ben"}])
        plan = self.get(f"/batches/{self.batch_id}/plan")
        self.assertEqual(plan["batch"]["cook_on"], date(2026, 11, 29).isoformat())
        self.moment = MIDNIGHT + timedelta(hours=9)
        self.app.dependency_overrides[get_now] = lambda: self.moment
        self.sign_in(self.client, self.email)

    def at(self, minute: int) -> None:
        self.moment = MIDNIGHT + timedelta(minutes=minute)

    @property
    def minute(self) -> int:
        return int((self.moment - MIDNIGHT).total_seconds() // 60)

    def note(self, event: str, **more: Any) -> None:
        self.send("POST", f"/batches/{self.batch_id}/cooking/facts", {"event": event, **more}, status=204)

    def begin(self) -> dict[str, Any]:
        self.note("day begun")
        return self.cooking()

    def take(self, prompt: dict[str, Any], **more: Any) -> None:
        """Note what a prompt asks for."""
        sent = {name: prompt[name] for name in ("task", "touch", "celsius", "person_id") if prompt[name] is not None}
        if prompt["event"] == "done":
            sent["minutes"] = max(0, self.minute - prompt["at_min"])
            sent.pop("touch", None)
        self.note(prompt["event"], **{**sent, **more})


class NotBegun(LiveCase):
    def test_an_order_of_what_is_past_says_so_until_somebody_begins(self) -> None:
        self.assertEqual(self.cooking()["late"], "")
        self.at(10 * 60 + 12)
        self.assertIn("It is 10:12, later than this order begins.", self.cooking()["late"])
        self.at(36 * 60)
        self.assertIn("The day of this batch is over.", self.cooking()["late"])
        self.at(10 * 60 + 12)
        self.assertEqual(self.begin()["late"], "")

    def test_ready_before_now_says_what_to_do(self) -> None:
        self.set_day(self.get("/kitchens")[0], ready_by_min=600 + 300)
        self.at(600 + 301)
        self.assertIn("all was to be ready at 15:00. Set a later time", self.cooking()["late"])


class WholeDay(LiveCase):
    def test_a_day_in_fast_time_is_ready_when_it_was_to_be(self) -> None:
        """Everybody does each thing at the minute it is to be done, and each takes as long as it was to."""
        planned = self.cooking()["order"]["ready_min"]
        found = self.begin()
        taken = 0
        while found["order"]["prompts"]:
            first = min(found["order"]["prompts"], key=lambda one: one["at_min"] + self.lasts(one))
            self.at(max(self.minute, first["at_min"] + self.lasts(first)))
            self.take(first)
            if first["core_c"] is not None and first["event"] == "done":
                self.note("temperature", task=first["component_id"], celsius=first["core_c"])
            taken += 1
            self.assertLess(taken, 200)
            found = self.cooking()
        live = found["live"]
        self.assertEqual(live["steps_done"], live["steps"])
        self.assertEqual(live["planned_ready_min"], planned)
        self.assertLessEqual(self.minute, planned + 5)

    def lasts(self, prompt: dict[str, Any]) -> int:
        """Hands-on work is noted when it is done; what goes in, when it is in."""
        return int(prompt["minutes"]) if prompt["event"] == "done" and prompt["touch"] is None else 0


class Deviations(LiveCase):
    def test_five_more_minutes_move_what_waits_for_it_and_nothing_done(self) -> None:
        self.steps(
            "Chicken",
            {"text": "Roast it.", "hands_on_min": 2, "unattended_min": 30, "temperature_c": 200, "equipment": "oven"},
            {"text": "Carve it.", "hands_on_min": 6, "growth": "fixed"},
        )
        found = self.begin()
        while not any(one["event"] == "begun" and one["says"].startswith("Roast") for one in due(found, self.minute)):
            self.at(self.minute + 1)
            for one in due(found, self.minute):
                if one["event"] in ("done", "heated"):
                    self.take(one)
            found = self.cooking()
        roasts = [one for one in due(found, self.minute) if one["says"].startswith("Roast")]
        self.take(roasts[0])
        before = self.cooking()
        self.note("longer", task=roasts[0]["task"], minutes=15)
        after = self.cooking()
        done = {one["key"]: one for one in before["order"]["steps"] if one["done_min"] is not None}
        self.assertTrue(done)
        for one in after["order"]["steps"]:
            if one["key"] in done:
                self.assertEqual(
                    (one["start_min"], one["end_min"]), (done[one["key"]]["start_min"], done[one["key"]]["end_min"])
                )
        step = next(one for one in after["order"]["steps"] if one["key"] == roasts[0]["task"])
        was = next(one for one in before["order"]["steps"] if one["key"] == roasts[0]["task"])
        self.assertGreaterEqual(step["end_min"], was["end_min"] + 15)

    def test_too_cold_inside_keeps_the_step_open(self) -> None:
        self.steps(
            "Chicken",
            {"text": "Roast it.", "unattended_min": 30, "temperature_c": 200, "equipment": "oven", "growth": "mild"},
        )
        found = self.begin()
        roast = next(one for one in found["order"]["prompts"] if one["event"] == "begun" and "Roast" in one["says"])
        self.assertTrue(roast["task"])
        self.at(self.minute + 20)
        self.take(roast)
        self.at(self.minute + 35)
        self.note("done", task=roast["task"])
        self.note("temperature", task=roast["component_id"], celsius=68)
        found = self.cooking()
        self.assertEqual([one["is_enough"] for one in found["live"]["readings"]], [False])
        step = next(one for one in found["order"]["steps"] if one["key"] == roast["task"])
        self.assertIsNone(step["done_min"])
        self.at(self.minute + 6)
        self.note("done", task=roast["task"])
        self.note("temperature", task=roast["component_id"], celsius=74)
        found = self.cooking()
        self.assertEqual([one["is_enough"] for one in found["live"]["readings"]], [False, True])
        self.assertIsNotNone(next(one for one in found["order"]["steps"] if one["key"] == roast["task"])["done_min"])

    def test_a_colder_reading_after_a_hot_one_is_not_enough(self) -> None:
        component = next(one for one in self.cooking()["order"]["steps"] if one["component"] == "Chicken")[
            "component_id"
        ]
        self.begin()
        for celsius in (76, 66):
            self.at(self.minute + 1)
            self.note("temperature", task=component, celsius=celsius)
        self.assertEqual([one["is_enough"] for one in self.cooking()["live"]["readings"]], [True, False])
        log = self.get(f"/batches/{self.batch_id}/cooking/log")
        self.assertEqual([one["is_enough"] for one in log["entries"] if one["celsius"]], [True, False])

    def test_what_was_put_off_is_at_hand_again_when_its_time_has_come(self) -> None:
        found = self.begin()
        first = next(one for one in found["order"]["prompts"] if one["event"] == "done")
        self.note("later", task=first["task"], minutes=5)
        self.at(548)
        begun = next(one for one in self.cooking()["order"]["steps"] if one["key"] == first["task"])["start_min"]
        self.at(551)
        again = next(one for one in self.cooking()["order"]["steps"] if one["key"] == first["task"])["start_min"]
        self.assertGreaterEqual(begun, 545)
        self.assertEqual(again, begun)

    def test_two_people_mark_the_same_step_and_it_counts_once(self) -> None:
        found = self.begin()
        first = next(one for one in found["order"]["prompts"] if one["event"] == "done")
        self.at(self.minute + 5)
        self.note("done", task=first["task"], minutes=5)
        self.at(self.minute + 3)
        self.note("done", task=first["task"], minutes=2)
        step = next(one for one in self.cooking()["order"]["steps"] if one["key"] == first["task"])
        self.assertEqual((step["begun_min"], step["done_min"]), (540, 545))

    def test_what_was_marked_by_mistake_is_taken_back(self) -> None:
        found = self.begin()
        first = next(one for one in found["order"]["prompts"] if one["event"] == "done")
        fact = "5f0c3f5e-0000-4000-8000-00000000000a"
        self.note("done", id=fact, task=first["task"], minutes=0)
        self.note("taken back", task=fact)
        step = next(one for one in self.cooking()["order"]["steps"] if one["key"] == first["task"])
        self.assertIsNone(step["done_min"])

    def test_skipped_and_added_steps(self) -> None:
        found = self.begin()
        key = next(one for one in found["order"]["prompts"] if one["event"] == "done")["task"]
        self.note("skipped", task=key)
        self.note("added", minutes=4, text="Wipe the bench")
        says = {one["says"]: one["key"] for one in self.cooking()["order"]["steps"]}
        self.assertIn("Wipe the bench", says)
        self.assertNotIn(key, says.values())

    def test_a_clock_that_is_an_hour_off_is_not_believed(self) -> None:
        """The tablet says 8:05, and that it sends at 8:07: it happened two minutes before it came in."""
        found = self.begin()
        first = next(one for one in found["order"]["prompts"] if one["event"] == "done")
        self.at(550)
        wrong = MIDNIGHT + timedelta(hours=8, minutes=5)
        happened, sent = wrong.isoformat(), (wrong + timedelta(minutes=2)).isoformat()
        self.note("done", task=first["task"], minutes=8, happened_at=happened, sent_at=sent)
        step = next(one for one in self.cooking()["order"]["steps"] if one["key"] == first["task"])
        self.assertEqual(step["done_min"], 548)

    def test_timers_of_ones_own_ring_until_they_are_done(self) -> None:
        self.begin()
        self.note("timer", id="5f0c3f5e-0000-4000-8000-00000000000b", minutes=7, text="stock")
        timers = [one for one in self.cooking()["live"]["timers"] if one["is_own"]]
        self.assertEqual([(one["name"], one["at_min"]) for one in timers], [("stock", 547)])
        self.note("longer", task=timers[0]["key"], minutes=1)
        self.assertEqual([one["at_min"] for one in self.cooking()["live"]["timers"] if one["is_own"]], [548])
        self.note("done", task=timers[0]["key"])
        self.assertEqual([one for one in self.cooking()["live"]["timers"] if one["is_own"]], [])

    def test_what_lacks_is_told_at_its_field(self) -> None:
        for sent, pointer in (
            ({"event": "longer", "task": "x"}, "/minutes"),
            ({"event": "temperature", "task": "x"}, "/celsius"),
            ({"event": "timer", "minutes": 3}, "/text"),
            ({"event": "touched", "task": "x"}, "/touch"),
        ):
            told = self.send("POST", f"/batches/{self.batch_id}/cooking/facts", sent, status=422)
            self.assertEqual([one["pointer"] for one in told["errors"]], [pointer])

    def test_nobody_marks_anything_and_the_rest_moves_on(self) -> None:
        before = self.begin()["order"]
        self.at(540 + 45)
        after = self.cooking()["order"]
        self.assertGreater(after["ready_min"], before["ready_min"])
        for one in after["steps"]:
            if one["begun_min"] is None and one["is_hands_on"] is False:
                self.assertGreaterEqual(one["start_min"], 585)


class Logs(LiveCase):
    def test_who_noted_what_and_how_long_it_took(self) -> None:
        """Begun at 9:00, six minutes of hands until 9:06; a core temperature that is no fact of any step."""
        self.steps("Chicken", {"text": "Salt it.", "hands_on_min": 6, "growth": "fixed"})
        self.begin()
        task = next(one["task"] for one in self.cooking()["order"]["prompts"] if one["says"] == "Salt it.")
        self.at(546)
        person = self.get("/kitchens")[0]["people"][0]["id"]
        self.note("done", task=task, minutes=6, person_id=person, device="bench tablet")
        log = self.get(f"/batches/{self.batch_id}/cooking/log")
        self.assertEqual([one["what"] for one in log["entries"]], ["cooking begins", "done"])
        last = log["entries"][-1]
        self.assertEqual(
            (last["component"], last["says"], last["person"], last["device"]),
            ("Chicken", "Salt it.", "Ada", "bench tablet"),
        )
        self.assertEqual((log["took_min"], log["hands_min"], log["planned_hands_min"]), (6, 6, 6))
        self.assertAlmostEqual(log["container_min"], 6 / 12)
        text = self.client.get(f"/api/v1/batches/{self.batch_id}/cooking/log.csv").text
        self.assertIn("Chicken,Salt it.,done,,,,,Ada,", text)

    def test_what_was_taken_back_is_not_in_it(self) -> None:
        self.begin()
        fact = "5f0c3f5e-0000-4000-8000-00000000000c"
        self.note("timer", id=fact, minutes=5, text="stock")
        self.note("taken back", task=fact)
        self.assertEqual(
            [one["what"] for one in self.get(f"/batches/{self.batch_id}/cooking/log")["entries"]], ["cooking begins"]
        )


class TheClockJumps(LiveCase):
    def test_a_soak_over_the_night_of_summer_time_is_as_long_as_it_was_to_be(self) -> None:
        """In Berlin the night to 29 March 2026 is an hour short: 8 hours before 9:00 are 0:00 and not 1:00."""
        plan = self.get(f"/batches/{self.batch_id}/plan")
        batch = plan["batch"]
        changed = {name: batch[name] for name in ("name", "step_g", "buffer_share", "sharing", "leftover")}
        self.change(plan, {"kind": "batch", **changed, "cook_on": "2026-03-29"})
        kitchen = self.get("/kitchens")[0]
        ada = kitchen["people"][0]["id"]
        there = [
            {"person_id": ada, "start_min": -120, "end_min": 60},
            {"person_id": ada, "start_min": 540, "end_min": 1260},
        ]
        sent = {"kitchen_id": kitchen["id"], "start_min": 540, "there": there}
        self.send("PUT", f"/batches/{self.batch_id}/cooking/day", sent, status=204)
        self.steps(
            "Chicken",
            {"text": "Soak it.", "lead_min": 480, "lead_most_min": 480},
            {"text": "Fry it.", "hands_on_min": 5},
        )
        found = self.get(f"/batches/{self.batch_id}/cooking", zone="Europe/Berlin")
        shown = next(one for one in found["order"]["steps"] if one["says"] == "Soak it.")
        self.assertEqual(shown["end_min"] - shown["start_min"], 540)  # on the wall, an hour of which did not pass


def due(found: dict[str, Any], minute: int) -> list[dict[str, Any]]:
    return [one for one in found["order"]["prompts"] if one["at_min"] <= minute]


def span(step: dict[str, Any]) -> tuple[int, int]:
    return step["start_min"], step["end_min"]


class Weighed(LiveCase):
    def test_what_is_weighed_stays_in_the_day_its_log_and_its_cooling(self) -> None:
        """Roasted from 9:00 to 9:31, weighed at 9:40: it is done, named in the log, and still to be cold in time."""
        roast = {"text": "Roast it.", "unattended_min": 30, "temperature_c": 200, "equipment": "oven"}
        self.steps("Chicken", roast)
        self.begin()
        rounds = [one["key"] for one in self.cooking()["order"]["steps"] if one["says"] == "Roast it."]
        for task in rounds:
            self.note("begun", task=task)
        self.at(571)
        for task in rounds:
            self.note("done", task=task)
        before = self.cooking()
        self.at(580)
        plan = self.get(f"/batches/{self.batch_id}/plan")
        chicken = next(one for one in plan["components"] if one["name"] == "Chicken")
        weighed = {"kind": "weigh", "component_id": chicken["id"], "vessels": [{"gross_g": chicken["cooked_g"]}]}
        self.change(plan, weighed)
        after = self.cooking()
        self.assertEqual(after["live"]["steps"], before["live"]["steps"])
        step = next(one for one in after["order"]["steps"] if one["key"] == rounds[0])
        self.assertEqual((step["begun_min"], step["done_min"]), (540, 571))
        self.assertIn(chicken["id"], [one["component_id"] for one in after["live"]["cooling"]])
        log = self.get(f"/batches/{self.batch_id}/cooking/log")
        self.assertEqual(log["entries"][-1]["component"], "Chicken")
        self.assertIn("Roast it.", [one["says"] for one in self.get("/learned-times")["steps"]])

    def test_what_was_weighed_and_never_marked_is_not_asked_for(self) -> None:
        self.begin()
        plan = self.get(f"/batches/{self.batch_id}/plan")
        chicken = next(one for one in plan["components"] if one["name"] == "Chicken")
        weighed = {"kind": "weigh", "component_id": chicken["id"], "vessels": [{"gross_g": chicken["cooked_g"]}]}
        self.change(plan, weighed)
        order = self.cooking()["order"]
        self.assertNotIn("Chicken", [one["component"] for one in order["prompts"]])


class TakenBack(LiveCase):
    def test_an_added_step_that_is_taken_back_is_gone(self) -> None:
        self.begin()
        fact = "5f0c3f5e-0000-4000-8000-00000000000d"
        self.note("added", id=fact, minutes=4, text="Wipe the bench")
        self.assertIn("Wipe the bench", [one["says"] for one in self.cooking()["order"]["steps"]])
        self.note("taken back", task=fact)
        self.assertNotIn("Wipe the bench", [one["says"] for one in self.cooking()["order"]["steps"]])

    def test_what_is_stopped_has_the_rest_of_its_minutes_left(self) -> None:
        self.steps("Chicken", {"text": "Salt it.", "hands_on_min": 9, "growth": "fixed"})
        found = self.begin()
        task = next(one["task"] for one in found["order"]["prompts"] if one["says"] == "Salt it.")
        self.at(543)
        self.note("stopped", task=task, minutes=3)
        self.note("later", task=task, minutes=5)
        step = next(one for one in self.cooking()["order"]["steps"] if one["key"] == task)
        self.assertEqual((step["start_min"], step["end_min"]), (548, 554))
        self.at(550)
        step = next(one for one in self.cooking()["order"]["steps"] if one["key"] == task)
        self.assertEqual((step["start_min"], step["end_min"]), (548, 554))
