"""The log of a batch: read, taken back and made again, by anybody and on any device."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy import text

from tests.api.case import ApiCase, command, food_id
from tests.support import database


class History(ApiCase):
    def history(self, plan: dict[str, Any]) -> Any:
        return self.get(f"/batches/{plan['batch']['id']}/history")

    def take_back(self, plan: dict[str, Any], of: str, status: int = 200, wish: str | None = None) -> Any:
        body = {"command_id": wish or str(uuid.uuid4()), "of": of, "device": "tablet"}
        return self.send("POST", f"/batches/{plan['batch']['id']}/taken-back", body, status=status)

    def pin(self, plan: dict[str, Any], grams: float | None, row: int = 0, component: int = 0) -> dict[str, Any]:
        ids = {"row_id": plan["rows"][row]["id"], "component_id": plan["components"][component]["id"]}
        return {"kind": "pin", **ids, "grams": grams}

    def test_it_says_who_changed_what_before_and_after(self) -> None:
        plan = self.plan()
        first = self.change(plan, self.pin(plan, 120))["plan"]
        containers = {"kind": "containers", "row_id": plan["rows"][0]["id"], "count": 9, "capacity_ml": 1000}
        self.change(first, self.pin(plan, 150), containers)
        commands = self.history(plan)["commands"]
        self.assertEqual([one["number"] for one in commands], [3, 2, 1])
        whose = f"{plan['rows'][0]['client']}, {plan['rows'][0]['slot']}"
        name = plan["components"][0]["name"]
        self.assertEqual(commands[0]["words"][0], f"{whose}, {name}: pinned at 150 g instead of 120 g")
        self.assertIn(f"containers 9 instead of {plan['rows'][0]['count']}", commands[0]["words"][1])
        self.assertEqual(commands[1]["words"], [f"{whose}, {name}: pinned at 120 g"])
        self.assertRegex(commands[2]["words"][0], "^made of “")
        self.assertEqual({one["by"] for one in commands}, {self.who.name})

    def test_undo_and_redo_work_for_whoever_comes_and_say_whose_change_it_is(self) -> None:
        plan = self.plan()
        before = plan["rows"][0]["cells"][0]
        pinned = self.change(plan, self.pin(plan, 120))
        step = self.history(plan)["steps"]["undo"]
        self.assertEqual((step["by"], step["own"], pinned["steps"]["undo"]), (self.who.name, True, step))
        back = self.take_back(plan, step["id"])
        self.assertEqual(back["plan"]["rows"][0]["cells"][0], before)
        self.assertIsNone(back["steps"]["undo"])
        again = self.take_back(plan, back["steps"]["redo"]["id"])
        self.assertEqual(again["plan"]["rows"][0]["cells"][0]["pinned_g"], 120)
        self.assertEqual(again["steps"]["undo"]["id"], step["id"])
        commands = self.history(plan)["commands"]
        self.assertEqual([one["undoes"] for one in commands], [3, 2, None, None])
        self.assertEqual([one["undone_by"] for one in commands], [None, self.who.name, None, None])

    def test_a_long_history_says_how_much_is_not_shown(self) -> None:
        plan = self.plan()
        for grams in (120, 130, 140):
            plan = self.change(plan, self.pin(plan, grams))["plan"]
        read = self.get(f"/batches/{plan['batch']['id']}/history", limit=2)
        self.assertEqual(([one["number"] for one in read["commands"]], read["earlier"]), ([4, 3], 2))
        self.assertIn("140 g", read["steps"]["undo"]["words"][0])
        # A window that missed some asks for those since the version it shows.
        missed = self.get(f"/batches/{plan['batch']['id']}/history", since=plan["batch"]["version"] - 1)
        self.assertEqual([one["number"] for one in missed["commands"]], [4])

    def test_a_wish_that_is_sent_again_counts_once_and_another_under_its_id_is_refused(self) -> None:
        plan = self.plan()
        step = self.change(plan, self.pin(plan, 120))["steps"]["undo"]
        wish = str(uuid.uuid4())
        first, second = (self.take_back(plan, step["id"], wish=wish) for _ in range(2))
        self.assertEqual(first, second)
        self.take_back(plan, first["steps"]["redo"]["id"], wish=wish, status=422)
        self.assertEqual(len(self.history(plan)["commands"]), 3)

    def test_what_happened_at_the_stove_is_never_stale(self) -> None:
        """Two helpers weigh two pots, each on the plan as it was when they opened it."""
        plan = self.plan()
        for component in plan["components"][:2]:
            weigh = {
                "kind": "weigh",
                "component_id": component["id"],
                "vessels": [{"gross_g": component["cooked_g"]}],
            }
            added = {"kind": "add-line", "component_id": component["id"], "food_id": food_id("olive-oil"),
                     "purchased_g": 5}  # fmt: skip
            self.command(plan, command(plan, weigh))
            self.command(plan, command(plan, added))
        read = self.get(f"/batches/{plan['batch']['id']}/plan")
        self.assertEqual([one["weighing"] is not None for one in read["components"]][:2], [True, True])

    def test_one_pot_weighed_by_two_shows_both_until_somebody_says_which_is_right(self) -> None:
        plan = self.plan()
        component = plan["components"][0]
        grams = component["cooked_g"]

        def weigh(cooked_g: float, *, corrects: bool = False) -> dict[str, Any]:
            weighed = {"kind": "weigh", "component_id": component["id"], "vessels": [{"gross_g": cooked_g}]}
            return weighed | {"corrects": corrects}

        first = self.change(plan, weigh(grams))
        self.assertEqual(first["plan"]["components"][0]["weighing"]["others"], [])
        # Made on the plan as it was before the first weight came.
        second = self.command(plan, command(plan, weigh(grams + 40)))["plan"]
        weighing = second["components"][0]["weighing"]
        self.assertAlmostEqual(weighing["cooked_g"], grams + 40)
        self.assertEqual([round(one["cooked_g"] - grams, 3) for one in weighing["others"]], [0])
        settle = next(one for one in second["to_settle"] if one["component_id"] == component["id"])
        self.assertEqual(settle["title"], f"{component['name']}: weighed more than once")
        chosen = self.change(second, weigh(grams, corrects=True))
        weighing = chosen["plan"]["components"][0]["weighing"]
        self.assertEqual((weighing["cooked_g"], weighing["others"]), (grams, []))
        self.assertNotIn(settle["title"], [one["title"] for one in chosen["plan"]["to_settle"]])
        # Taken back, it is a question again.
        back = self.take_back(plan, chosen["steps"]["undo"]["id"])["plan"]
        weighing = back["components"][0]["weighing"]
        self.assertEqual([round(one["cooked_g"] - grams, 3) for one in [*weighing["others"], weighing]], [0, 40])

    def test_a_stale_change_is_refused_with_what_changed_since(self) -> None:
        plan = self.plan()
        self.change(plan, self.pin(plan, 120))
        problem = self.change(plan, self.pin(plan, 90, component=1), status=409)
        self.assertEqual(problem["type"], "stale")
        self.assertRegex(problem["detail"], f"Since then: {self.who.name}: .*pinned at 120 g")

    def test_what_a_later_change_stands_on_stays_and_says_whose_that_is(self) -> None:
        plan = self.plan()
        first = self.change(plan, self.pin(plan, 120))
        other = self.change(first["plan"], self.pin(plan, 60, component=1))
        self.change(other["plan"], self.pin(plan, 150))
        problem = self.take_back(plan, first["steps"]["undo"]["id"], status=422)
        self.assertRegex(problem["detail"], f"{self.who.name} changed this afterwards .*150 g instead of 120 g")
        # What nothing stands on may go back in any order.
        back = self.take_back(plan, other["steps"]["undo"]["id"])
        self.assertIsNone(back["plan"]["rows"][0]["cells"][1]["pinned_g"])
        self.assertEqual(back["plan"]["rows"][0]["cells"][0]["pinned_g"], 150)

    def test_what_stands_on_it_through_what_taking_back_would_change_stays(self) -> None:
        """Weighing fixes the raw amounts, so what is added at the stove later stands on it; a food beside the
        components is made by putting it there, so what is pinned or set of it stands on that."""
        plan = self.plan()
        component, row = plan["components"][0]["id"], plan["rows"][0]["id"]
        gross = plan["components"][0]["cooked_g"]
        weighed = self.change(plan, {"kind": "weigh", "component_id": component, "vessels": [{"gross_g": gross}]})
        oil = {"kind": "add-line", "component_id": component, "food_id": food_id("olive-oil"), "purchased_g": 20}
        added = self.change(weighed["plan"], oil)
        problem = self.take_back(plan, weighed["steps"]["undo"]["id"], status=422)
        self.assertIn("20 g of Olive oil added at the stove", problem["detail"])
        beside = {"kind": "extra", "row_id": row, "food_id": food_id("olive-oil"), "grams": 11}
        side = self.change(added["plan"], beside)
        other = self.change(side["plan"], beside | {"food_id": food_id("almonds-raw"), "grams": 20})
        made = next(one for one in side["plan"]["components"] if one["name"] == "Olive oil")
        self.change(other["plan"], {"kind": "pin", "row_id": row, "component_id": made["id"], "grams": 14})
        self.assertIn("14 g", self.take_back(plan, side["steps"]["undo"]["id"], status=422)["detail"])
        # Another food beside the components is another matter.
        self.take_back(plan, other["steps"]["undo"]["id"])

    def test_nothing_goes_back_past_targets_that_were_taken_anew(self) -> None:
        plan = self.plan()
        target = {"kind": "target", "row_id": plan["rows"][0]["id"], "protein_g": 30, "carbohydrate_g": 50}
        first = self.change(plan, target)
        path = f"/batches/{plan['batch']['id']}/targets"
        self.send("POST", path, version=first["plan"]["batch"]["version"])
        problem = self.take_back(plan, first["steps"]["undo"]["id"], status=422)
        self.assertRegex(problem["detail"], "targets were taken as the clients have them now.*Change it by hand")
        self.assertIsNone(self.history(plan)["steps"]["undo"])

    def test_a_later_change_of_a_kind_that_is_not_known_any_more_is_no_fault(self) -> None:
        plan = self.plan()
        first = self.change(plan, self.pin(plan, 120))
        second = command(first["plan"], self.pin(plan, 90, component=1))
        self.command(plan, second)
        change = "UPDATE command SET payload = jsonb_set(payload, '{0,kind}', '\"stir\"'), "
        change += "inverse = jsonb_set(inverse, '{0,kind}', '\"stir\"') WHERE number = 3"
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text(change))
        problem = self.take_back(plan, first["steps"]["undo"]["id"], status=422)
        self.assertIn("not known any more", problem["detail"])
        # Sent again after a long time, it is answered, and not made twice.
        self.assertEqual(self.command(plan, second)["inverse"], [])
        self.assertEqual(len(self.history(plan)["commands"]), 3)

    def test_a_correction_of_a_weight_does_not_hide_one_that_came_since(self) -> None:
        plan = self.plan()
        component, grams = plan["components"][0]["id"], plan["components"][0]["cooked_g"]

        def weigh(more: float) -> dict[str, Any]:
            return {
                "kind": "weigh",
                "component_id": component,
                "vessels": [{"gross_g": grams + more}],
                "corrects": True,
            }

        seen = self.change(plan, weigh(0))["plan"]
        self.command(seen, command(seen, weigh(30)))
        late = self.command(seen, command(seen, weigh(60)))["plan"]
        weighing = late["components"][0]["weighing"]
        self.assertEqual([round(one["cooked_g"] - grams) for one in [*weighing["others"], weighing]], [30, 60])

    def test_what_is_gone_is_told_when_it_would_be_taken_back(self) -> None:
        plan = self.plan()
        step = self.change(plan, self.pin(plan, 120))["steps"]["undo"]
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text("DELETE FROM container_class WHERE id = :id"), {"id": plan["rows"][0]["id"]})
        self.assertIn("not in the batch any more", self.take_back(plan, step["id"], status=422)["detail"])

    def test_what_is_taken_back_is_not_taken_back_again(self) -> None:
        plan = self.plan()
        step = self.change(plan, self.pin(plan, 120))["steps"]["undo"]
        self.take_back(plan, step["id"])
        self.assertRegex(self.take_back(plan, step["id"], status=422)["detail"], "taken back already")
        self.take_back(plan, str(uuid.uuid4()), status=404)

    def test_a_kind_that_is_not_known_any_more_is_told_and_stays(self) -> None:
        plan = self.plan()
        step = self.change(plan, self.pin(plan, 120))["steps"]["undo"]
        change = "UPDATE command SET payload = jsonb_set(payload, '{0,kind}', '\"stir\"') WHERE id = :id"
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text(change), {"id": step["id"]})
        self.assertEqual(self.history(plan)["commands"][0]["words"], ["A change of a kind that is not known any more"])
        self.assertRegex(self.take_back(plan, step["id"], status=422)["detail"], "not known any more")
        self.assertEqual(self.get(f"/batches/{plan['batch']['id']}/plan")["rows"][0]["cells"][0]["pinned_g"], 120)

    def weigh(self, plan: dict[str, Any], grams: float, minutes_ago: float, clock: timedelta) -> Any:
        """A weight that a device hands in so many minutes later, by a clock that is off by so much."""
        sent = datetime.now(UTC) + clock
        happened = sent - timedelta(minutes=minutes_ago)
        change = {"kind": "weigh", "component_id": plan["components"][0]["id"], "vessels": [{"gross_g": grams}]}
        told = {"happened_at": happened.isoformat(), "sent_at": sent.isoformat(), "device": "tablet"}
        return self.command(plan, command(plan, change, confirmed=True) | told)["plan"]["components"][0]["weighing"]

    def test_a_weight_is_dated_by_when_the_pot_stood_on_the_scale_whatever_the_clock_says(self) -> None:
        for clock in (timedelta(0), timedelta(days=-700), timedelta(hours=5)):
            with self.subTest(clock=clock):
                plan = self.plan()
                weighing = self.weigh(plan, round(plan["components"][0]["cooked_g"]), 20, clock)
                ago = datetime.now(UTC) - datetime.fromisoformat(weighing["weighed_at"])
                self.assertAlmostEqual(ago.total_seconds(), 1200, delta=60)
                happened = datetime.fromisoformat(self.history(plan)["commands"][0]["happened_at"])
                self.assertAlmostEqual((datetime.now(UTC) - happened).total_seconds(), 1200, delta=60)

    def test_nothing_happens_after_it_arrived(self) -> None:
        plan = self.plan()
        weighing = self.weigh(plan, round(plan["components"][0]["cooked_g"]), -30, timedelta(0))
        self.assertLessEqual(datetime.fromisoformat(weighing["weighed_at"]), datetime.now(UTC))

    def test_an_earlier_weight_that_is_handed_in_later_does_not_count_before_somebody_says_so(self) -> None:
        plan = self.plan()
        expected = round(plan["components"][0]["cooked_g"])
        self.weigh(plan, expected, 0, timedelta(0))
        weighing = self.weigh(plan, expected - 50, 20, timedelta(days=3))
        self.assertEqual(weighing["cooked_g"], expected)
        self.assertEqual([other["cooked_g"] for other in weighing["others"]], [expected - 50])
        (learned,) = [one for one in self.get("/yields") if one["kind"] == "component"]
        read = self.get(f"/batches/{plan['batch']['id']}/plan")["components"][0]
        self.assertAlmostEqual(learned["measured"][-1]["yield_factor"], expected / read["basis_g"], places=3)

    def test_a_clock_that_is_wrong_is_told_beside_ours(self) -> None:
        plan = self.plan()
        early = (datetime.now(UTC) - timedelta(days=400)).isoformat()
        self.command(plan, command(plan, self.pin(plan, 120)) | {"happened_at": early, "device": "Old tablet"})
        newest = self.history(plan)["commands"][0]
        self.assertEqual((newest["device"], newest["happened_at"][:4]), ("Old tablet", early[:4]))
        near = datetime.now(UTC).isoformat()
        read = self.get(f"/batches/{plan['batch']['id']}/plan")
        self.command(read, command(read, self.pin(plan, 130)) | {"happened_at": near})
        self.assertIsNone(self.history(plan)["commands"][0]["happened_at"])

    def test_nobody_reads_or_takes_back_in_another_kitchen(self) -> None:
        plan = self.plan()
        step = self.change(plan, self.pin(plan, 120))["steps"]["undo"]
        self.client = self.other_kitchen()
        self.send("GET", f"/batches/{plan['batch']['id']}/history", status=404)
        self.take_back(plan, step["id"], status=404)
