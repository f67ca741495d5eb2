"""Schools, shortfalls and ways out through the API: what is offered is met when it is taken, and comes back."""

from __future__ import annotations

import json
import math
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from tests.api.case import API, ApiCase, command, food_id
from yantai.formats.plan_document import read_plan
from yantai.formats.plan_result import compute_plan

Plan = dict[str, Any]


class PlanCase(ApiCase):
    def row(self, plan: Plan, index: int = 0) -> dict[str, Any]:
        return dict(plan["rows"][index])

    def aim(self, plan: Plan, index: int = 0, **figures: float) -> Plan:
        empty = dict.fromkeys(("kcal", "protein_g", "carbohydrate_g", "fat_g"))
        change = {"kind": "target", "row_id": plan["rows"][index]["id"], **empty, **figures}
        return dict(self.change(plan, change)["plan"])

    def is_met(self, plan: Plan, index: int = 0) -> bool:
        return all(gauge["miss"] == 0 for gauge in plan["rows"][index]["gauges"])

    def grams(self, plan: Plan, component: int) -> list[float]:
        return [row["cells"][component]["grams"] for row in plan["rows"]]

    def school(self, plan: Plan, component: int, school: str, **figures: Any) -> dict[str, Any]:
        change = {"kind": "school", "component_id": plan["components"][component]["id"], "school": school, **figures}
        return dict(self.change(plan, change))

    def ways(self, plan: Plan, index: int = 0) -> list[dict[str, Any]]:
        found = self.get(f"/batches/{plan['batch']['id']}/rows/{plan['rows'][index]['id']}/ways")
        return list(found)

    def assert_undone(self, before: Plan, answer: dict[str, Any]) -> None:
        undone = self.change(answer["plan"], *answer["inverse"], confirmed=True)["plan"]
        for plan in (before, undone):
            plan["batch"] |= {"version": 0, "changed_at": ""}
        self.assertEqual(undone, before)


class Schools(PlanCase):
    def test_each_school_and_back(self) -> None:
        plan = self.plan()
        cases: list[tuple[str, dict[str, Any]]] = [
            ("pieces", {"pieces": 16}),
            ("fixed measure", {"unit_g": 45, "unit_part": 0.5}),
            ("equal split", {}),
            ("plate shares", {"plate_share": 2}),
            ("built raw", {"pieces": 16}),
            ("by eye", {"eye_g": 80}),
            ("one pot", {}),
        ]
        for school, figures in cases:
            with self.subTest(school):
                answer = self.school(plan, 0, school, **figures)
                component = answer["plan"]["components"][0]
                cells = [row["cells"][0] for row in answer["plan"]["rows"]]
                part = answer["plan"]["dishes"][0]["parts"][0]
                self.assertEqual(part["school"], school)
                if school in ("pieces", "fixed measure", "built raw"):
                    for cell in cells:
                        units = cell["units"] / part["unit_part"]
                        self.assertAlmostEqual(units, round(units), places=6)
                if school == "equal split":
                    # 5, 3 and 4 containers, one step more where that comes out even; what is over is the cook's.
                    shared = math.floor(component["cooked_g"] / 12 / 5 + 1e-9) * 5
                    self.assertLessEqual({cell["grams"] for cell in cells}, {shared, shared + 5})
                    self.assertAlmostEqual(component["over_g"], component["cooked_g"] - component["needed_g"])
                    self.assertLess(component["over_g"], 3 * 5)
                if school == "by eye":
                    self.assertEqual({(cell["grams"], cell["estimated"]) for cell in cells}, {(80, True)})
                if school == "built raw":
                    self.assertAlmostEqual(component["cooked_g"], sum(line["edible_g"] for line in component["lines"]))
                self.assert_undone(plan, answer)
                plan = self.get(f"/batches/{plan['batch']['id']}/plan")

    def test_a_school_without_its_figure_is_refused_with_the_mend(self) -> None:
        plan = self.plan()
        component = plan["components"][0]["id"]
        for school, pointer, words in (
            ("pieces", "/changes/0/pieces", "how many pieces"),
            ("fixed measure", "/changes/0/unit_g", "weigh one scoop"),
            ("built raw", "/changes/0/pieces", "how many units"),
        ):
            change = {"kind": "school", "component_id": component, "school": school}
            self.assert_fault(self.change(plan, change, status=422), pointer, words)

    def test_a_mixture_is_one_thing(self) -> None:
        plan = self.plan()
        plan = self.school(plan, 0, "one pot")["plan"]
        plan = self.school(plan, 1, "one pot")["plan"]
        first, second = self.grams(plan, 0), self.grams(plan, 1)
        ratios = [a / b for a, b in zip(first, second, strict=True)]
        self.assertAlmostEqual(min(ratios), max(ratios), places=6)
        self.assertAlmostEqual(plan["rows"][0]["cells"][0]["mixed_g"], first[0] + second[0])

    def test_limits_on_one_side(self) -> None:
        """The sodium of a lunch is capped below what it holds: it is kept, or the miss is told in mg."""
        plan = self.plan()
        held = plan["rows"][0]["amounts"]["sodium_mg"]
        target = {key: plan["rows"][0]["target"][key] for key in ("kcal", "protein_g", "carbohydrate_g", "fat_g")}
        change = {"kind": "target", "row_id": plan["rows"][0]["id"], **target, "sodium_mg": held * 0.5}
        after = self.change(plan, change)["plan"]
        (gauge,) = [one for one in after["rows"][0]["gauges"] if one["nutrient"] == "sodium_mg"]
        self.assertEqual(gauge["side"], "at most")
        self.assertLess(gauge["amount"], held)
        if gauge["miss"]:
            self.assertIn("sodium", after["to_settle"][0]["title"])


class Short(PlanCase):
    def short(self) -> Plan:
        """The chicken came out at half of what the containers would take, its raw amounts as they are."""
        plan = self.plan()
        chicken = plan["components"][0]
        halved = [{"line_id": line["id"], "purchased_g": line["purchased_g"] / 2} for line in chicken["lines"]]
        raw = {"kind": "raw", "component_id": chicken["id"], "fixed": True, "lines": halved}
        plan = self.change(plan, raw)["plan"]
        weigh = {
            "kind": "weigh",
            "component_id": chicken["id"],
            "vessels": [{"gross_g": plan["components"][0]["cooked_g"]}],
        }
        return dict(self.change(plan, weigh, confirmed=True)["plan"])

    def test_all_share_a_shortfall_and_nobody_gets_what_is_not_there(self) -> None:
        plan = self.short()
        chicken = plan["components"][0]
        taken = sum(row["cells"][0]["grams"] * row["count"] for row in plan["rows"])
        self.assertLessEqual(taken, chicken["cooked_g"] + 1e-6)
        self.assertGreater(taken, 0.95 * chicken["cooked_g"])
        self.assertTrue(all(row["cells"][0]["grams"] > 0 for row in plan["rows"]))
        self.assertIn("its share of the pot", {row["cells"][0]["limit"] for row in plan["rows"]})
        self.assertIn("the pot of Chicken gives", plan["to_settle"][0]["detail"])

    def test_some_go_first(self) -> None:
        plan = self.short()
        batch = plan["batch"]
        ranked = {key: batch[key] for key in ("name", "cook_on", "step_g", "buffer_share")}
        plan = self.change(plan, {"kind": "batch", "sharing": "ranked", **ranked})["plan"]
        for index in (0, 1):
            row = plan["rows"][index]
            last = {"kind": "containers", "row_id": row["id"], "count": row["count"], "rank": 1}
            plan = self.change(plan, last | {"capacity_ml": row["capacity_ml"]})["plan"]
        self.assertTrue(self.is_met(plan, 2), plan["rows"][2]["gauges"])
        self.assertFalse(self.is_met(plan, 0))

    def test_leftovers_are_a_decision(self) -> None:
        plan = self.plan()
        for component in plan["components"]:
            weigh = {
                "kind": "weigh",
                "component_id": component["id"],
                "vessels": [{"gross_g": component["cooked_g"] * 1.02}],
            }
            plan = self.change(plan, weigh, confirmed=True)["plan"]
        batch = {key: plan["batch"][key] for key in ("name", "cook_on", "step_g", "buffer_share")}
        kept = sum(component["spare_g"] for component in plan["components"])
        spread = self.change(plan, {"kind": "batch", "leftover": "spread", **batch})["plan"]
        self.assertLess(sum(component["spare_g"] for component in spread["components"]), kept)
        self.assertEqual(spread["to_settle"], [])
        extra = self.change(spread, {"kind": "batch", "leftover": "extra containers", **batch})["plan"]
        self.assertIsNotNone(extra["dishes"][0]["extra"])


class WaysOut(PlanCase):
    def test_every_way_that_can_be_taken_meets_the_target_and_comes_back(self) -> None:
        plan = self.plan()
        sauce = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][2]["id"]}
        plan = self.change(plan, sauce | {"grams": 20})["plan"]
        plan = self.aim(plan, protein_g=45, carbohydrate_g=55, fat_g=24)
        self.assertFalse(self.is_met(plan))
        ways = self.ways(plan)
        kinds = {way["kind"] for way in ways}
        self.assertTrue({"extra", "target"} <= kinds, kinds)
        for way in ways:
            if not way["changes"]:
                continue
            with self.subTest(way["title"]):
                answer = self.change(plan, *way["changes"])
                self.assertTrue(self.is_met(answer["plan"]), answer["plan"]["rows"][0]["gauges"])
                undone = self.change(answer["plan"], *answer["inverse"], confirmed=True)["plan"]
                self.assertEqual(undone["rows"], plan["rows"])
                self.assertEqual(len(undone["components"]), len(plan["components"]))
                plan = undone

    def test_what_a_cook_would_do_comes_first_strange_foods_and_the_target_last(self) -> None:
        """What is in the dish, then a part or food of the same kind, the client's own extras, room, another batch."""
        order = ["limit", "amount", "component", "food", "own extra", "room", "move", "extra", "target"]
        plan = self.aim(self.plan(), protein_g=45, carbohydrate_g=55, fat_g=30)
        ways = self.ways(plan)
        ranked = [(order.index(way["kind"]), way["moved"]) for way in ways]
        self.assertEqual(ranked, sorted(ranked))
        self.assertEqual(ways[-1]["kind"], "target")
        strange = [way for way in ways if way["kind"] == "extra"]
        self.assertEqual(len(strange), 1)
        self.assertGreaterEqual(strange[0]["changes"][0]["grams"], 5)

    def test_a_food_of_the_clients_own_day_comes_before_a_strange_one(self) -> None:
        plan = self.plan()
        client = self.get(f"/clients/{plan['rows'][0]['client_id']}")
        day = {"day_type": "any", "protein_g": 150, "extras": [{"food_id": food_id("almonds-raw"), "grams": 20}]}
        keys = ("id", "slot", "day_type", "protein_g", "carbohydrate_g", "fat_g", "kcal", "capacity_ml")
        targets = [{key: one[key] for key in keys} for one in client["targets"]]
        body = {"name": client["name"], "targets": targets, "days": [day], "version": client["version"]}
        self.send("PUT", f"/clients/{client['id']}", body)
        ways = self.ways(self.aim(plan, protein_g=45, carbohydrate_g=55, fat_g=30))
        kinds = [way["kind"] for way in ways]
        self.assertIn("own extra", kinds)
        self.assertIn("Almonds", ways[kinds.index("own extra")]["title"])
        self.assertLess(kinds.index("own extra"), kinds.index("extra"))

    def test_no_way_out_asks_more_of_a_weighed_pot_than_it_holds(self) -> None:
        plan = self.plan()
        chicken = plan["components"][0]
        lines = [{"line_id": one["id"], "purchased_g": round(one["purchased_g"] / 2)} for one in chicken["lines"]]
        raw = {"kind": "raw", "component_id": chicken["id"], "fixed": True, "lines": lines}
        weigh = {"kind": "weigh", "component_id": chicken["id"]}
        vessels = [{"gross_g": round(chicken["cooked_g"] / 2), "vessel_g": 0}]
        plan = self.change(plan, raw, weigh | {"vessels": vessels}, confirmed=True)["plan"]
        missed = [index for index, row in enumerate(plan["rows"]) if any(gauge["miss"] for gauge in row["gauges"])]
        self.assertTrue(missed)
        for index in missed:
            for way in self.ways(plan, index):
                if way["kind"] == "target":
                    continue
                with self.subTest(way=way["title"]):
                    body = {"version": plan["batch"]["version"], "changes": way["changes"], "confirmed": True}
                    then = self.send("POST", f"/batches/{plan['batch']['id']}/preview", body)
                    for component in then["components"]:
                        if component["weighing"]:
                            self.assertGreaterEqual(component["spare_g"], -0.5)

    def test_no_extra_holds_what_the_client_must_avoid(self) -> None:
        plan = self.aim(self.plan(), 2, protein_g=45, carbohydrate_g=55, fat_g=30)
        self.assertEqual(plan["rows"][2]["client"], "Milo Brandt")
        offered = [way for way in self.ways(plan, 2) if way["kind"] == "extra"]
        self.assertTrue(offered)
        for way in offered:
            food = self.get(f"/foods/{way['changes'][0]['food_id']}")["food"]
            self.assertNotIn("milk", food["allergens"])

    def test_a_tolerance_in_percent_is_shown_in_grams_of_the_target(self) -> None:
        plan = self.plan()
        client = self.get(f"/clients/{plan['rows'][0]['client_id']}")
        body = {name: client[name] for name in ("name", "version")}
        in_percent = {"percent": True, "kcal": 10, "protein_g": 4, "carbohydrate_g": 5, "fat_g": 10}
        saved = self.send("PUT", f"/clients/{client['id']}", body | {"tolerance": in_percent})
        self.assertEqual(saved["tolerance"] | in_percent, saved["tolerance"])
        plan = self.get(f"/batches/{plan['batch']['id']}/plan")
        bands = {gauge["nutrient"]: gauge["tolerance"] for gauge in plan["rows"][0]["gauges"]}
        self.assertEqual(bands, {"protein_g": 1.8, "carbohydrate_g": 2.75, "fat_g": 1.8})
        too_much = {"tolerance": in_percent | {"fat_g": 150}, "version": saved["version"]}
        problem = self.send("PUT", f"/clients/{client['id']}", body | too_much, status=422)
        self.assert_fault(problem, "/tolerance/tolerance_fat_g", "0 to 100 %")

    def exclude(self, plan: Plan, index: int, *words: str) -> None:
        client = self.get(f"/clients/{plan['rows'][index]['client_id']}")
        body = {name: client[name] for name in ("name", "tolerance", "version", "allergens", "dislikes")}
        self.send("PUT", f"/clients/{client['id']}", body | {"exclusions": list(words)})

    def test_a_food_that_a_client_excludes_stays_out_and_is_not_offered(self) -> None:
        plan = self.plan()
        self.exclude(plan, 0, "bulgur", "oil")
        plan = self.get(f"/batches/{plan['batch']['id']}/plan")
        self.assertEqual(
            [[why["word"] for why in cell["left_out"]] for cell in plan["rows"][0]["cells"]], [["oil"], ["bulgur"], []]
        )
        self.assertEqual([cell["grams"] for cell in plan["rows"][0]["cells"][:2]], [0, 0])
        self.assertGreater(plan["rows"][2]["cells"][1]["grams"], 0)
        oil = {"kind": "extra", "row_id": plan["rows"][0]["id"], "food_id": food_id("olive-oil"), "grams": 5}
        self.assert_fault(
            self.change(plan, oil, status=422), "/changes/0/food_id", "contains oil; Ada Vance must avoid"
        )

    def test_an_extra_with_an_allergen_is_refused(self) -> None:
        plan = self.plan()
        extra = {"kind": "extra", "row_id": plan["rows"][2]["id"], "food_id": food_id("feta"), "grams": 20}
        self.assert_fault(self.change(plan, extra, status=422), "/changes/0/food_id", "must avoid")

    def test_an_extra_goes_to_one_row_only(self) -> None:
        plan = self.plan()
        extra = {"kind": "extra", "row_id": plan["rows"][0]["id"], "food_id": food_id("olive-oil"), "grams": 7}
        after = self.change(plan, extra)["plan"]
        self.assertEqual(self.grams(after, 3), [7, 0, 0])
        self.assertEqual(after["components"][3]["needed_g"], 7 * after["rows"][0]["count"])

    def test_a_met_row_needs_none_and_anothers_batch_is_not_there(self) -> None:
        plan = self.plan()
        self.assertEqual(self.ways(plan), [])
        path = f"{API}/batches/{plan['batch']['id']}/rows/{plan['rows'][0]['id']}/ways"
        self.assertEqual(self.other_kitchen().get(path).status_code, 404)
        self.assertEqual(self.client.get(path.replace(plan["rows"][0]["id"], plan["batch"]["id"])).status_code, 404)

    def salmon(self) -> dict[str, Any]:
        """A recipe whose protein brings the fat that chicken does not."""
        lines = [{"food_id": food_id("salmon-atlantic-farmed-raw"), "purchased_g": 1000}]
        part = {"name": "Salmon", "role": "protein", "method": "baked", "maximum_g": 300, "lines": lines}
        grain = {"name": "Millet", "role": "grain", "method": "boiled", "maximum_g": 400}
        grain["lines"] = [{"food_id": food_id("millet-dry"), "purchased_g": 500}]
        return dict(self.send("POST", "/recipes", {"name": "Salmon plate", "components": [part, grain]}, status=201))

    def fat_lunch(self) -> Plan:
        """Only Ada's lunch is cooked, and it asks for more fat than the bowl holds."""
        plan = self.plan()
        others = [
            {"kind": "containers", "row_id": row["id"], "count": 0, "capacity_ml": None} for row in plan["rows"][1:]
        ]
        plan = self.change(plan, *others)["plan"]
        return self.aim(plan, protein_g=45, carbohydrate_g=55, fat_g=25)

    def test_the_component_of_another_recipe_takes_the_place_and_gives_it_back(self) -> None:
        self.salmon()
        plan = self.fat_lunch()
        (way,) = [way for way in self.ways(plan) if way["kind"] == "component"]
        self.assertEqual(way["title"], "Salmon from “Salmon plate” instead of Chicken")
        self.assertIn("For all containers of this batch.", way["detail"])
        answer = self.change(plan, *way["changes"])
        after = answer["plan"]
        self.assertTrue(self.is_met(after))
        self.assertEqual(after["components"][0]["name"], "Salmon")
        self.assertEqual(after["components"][0]["id"], plan["components"][0]["id"])
        # An older change of a line can still be taken back across the swap: its id is the old one again.
        lines = [line["id"] for line in plan["components"][0]["lines"]]
        undone = self.change(after, *answer["inverse"])
        self.assertEqual([line["id"] for line in undone["plan"]["components"][0]["lines"]], lines)
        again = self.change(undone["plan"], *undone["inverse"])["plan"]
        self.assertEqual(again["rows"], after["rows"])
        taken_back = self.change(again, *answer["inverse"])
        self.assertEqual(taken_back["plan"]["components"], plan["components"])
        self.assertEqual(taken_back["plan"]["rows"], plan["rows"])

    def test_no_component_with_what_somebody_here_must_avoid(self) -> None:
        recipe = self.salmon()
        plan = self.fat_lunch()
        milo = self.get(f"/clients/{plan['rows'][2]['client_id']}")
        body = {name: milo[name] for name in ("name", "tolerance", "version")}
        self.send("PUT", f"/clients/{milo['id']}", body | {"allergens": ["fish", "milk"]})
        self.assertEqual([way["kind"] for way in self.ways(plan) if "Salmon" in way["title"]], [])
        self.assertEqual(recipe["components"][0]["allergens"], ["fish"])

    def test_a_component_in_the_pan_stays(self) -> None:
        self.salmon()
        plan = self.fat_lunch()
        (way,) = [way for way in self.ways(plan) if way["kind"] == "component"]
        fixed = {"kind": "raw", "component_id": plan["components"][0]["id"], "fixed": True}
        plan = self.change(plan, fixed)["plan"]
        problem = self.change(plan, *way["changes"], status=422)
        self.assert_fault(problem, "/changes/0/component_id", "in the pan already")
        self.assertFalse([way for way in self.ways(plan) if way["kind"] == "component"])

    def test_containers_move_to_another_batch_in_one_go_and_come_back(self) -> None:
        recipe = self.salmon()
        plan = self.fat_lunch()
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][2]["id"]}
        plan = self.change(plan, pin | {"grams": 30})["plan"]
        ada = self.get(f"/clients/{plan['rows'][0]['client_id']}")
        given = {
            "name": "Salmon Monday",
            "cook_on": "2026-11-30",
            "dishes": [{"recipe_id": recipe["id"], "eaters": [{"target_id": ada["targets"][1]["id"], "count": 1}]}],
        }
        other = self.send("POST", "/batches", given, status=201)
        (way,) = [way for way in self.ways(plan) if way["kind"] == "move"]
        answer = self.change(plan, *way["changes"])
        self.assertEqual([row["slot"] for row in answer["plan"]["rows"]], ["dinner", "lunch"])
        there = self.get(f"/batches/{other['batch']['id']}/plan")
        self.assertEqual(there["batch"]["version"], other["batch"]["version"] + 1)
        moved = there["rows"][-1]
        self.assertEqual((moved["client"], moved["slot"], moved["count"]), ("Ada Vance", "lunch", 5))
        self.assertTrue(all(gauge["miss"] == 0 for gauge in moved["gauges"]))
        back = self.change(answer["plan"], *answer["inverse"])
        self.assertEqual(back["plan"]["rows"], plan["rows"])
        self.assertEqual(len(self.get(f"/batches/{other['batch']['id']}/plan")["rows"]), 1)
        again = self.change(back["plan"], *back["inverse"])["plan"]
        self.assertEqual(again["rows"], answer["plan"]["rows"])
        # Two windows that move to each other at the same moment wait for one another, whichever comes first.
        there = self.get(f"/batches/{other['batch']['id']}/plan")
        moves = [
            (again, {"kind": "move", "row_id": again["rows"][0]["id"], "to_batch_id": there["batch"]["id"]}),
            (there, {"kind": "move", "row_id": there["rows"][0]["id"], "to_batch_id": again["batch"]["id"]}),
        ]
        with ThreadPoolExecutor(2) as pool:
            done = [
                pool.submit(
                    self.client.post,
                    f"{API}/batches/{plan['batch']['id']}/changes",
                    json=command(plan, move),
                )
                for plan, move in moves
            ]
        # Each move tells the other batch, so the second finds its own changed: it is asked again, not broken.
        self.assertEqual(sorted(one.result().status_code for one in done), [200, 409])
        again = self.get(f"/batches/{again['batch']['id']}/plan")
        into_itself = {"kind": "move", "row_id": again["rows"][0]["id"], "to_batch_id": again["batch"]["id"]}
        self.assert_fault(self.change(again, into_itself, status=422), "/changes/0/row_id", "already")

    def second_batch(self, plan: Plan) -> Plan:
        """Another batch of the same recipe, with Ada's lunch in it too."""
        ada = self.get(f"/clients/{plan['rows'][0]['client_id']}")
        given = {
            "name": "Second",
            "cook_on": "2026-11-30",
            "dishes": [
                {
                    "recipe_id": plan["dishes"][0]["recipe_id"],
                    "eaters": [{"target_id": ada["targets"][0]["id"], "count": 2}],
                }
            ],
        }
        return dict(self.send("POST", "/batches", given, status=201))

    def test_an_extra_stays_behind_when_its_only_container_moves_and_comes_back_with_it(self) -> None:
        plan = self.plan()
        extra = {"kind": "extra", "row_id": plan["rows"][0]["id"], "food_id": food_id("olive-oil"), "grams": 7}
        plan = self.change(plan, extra)["plan"]
        self.assertEqual(len(plan["components"]), 4)
        other = self.second_batch(plan)
        move = {"kind": "move", "row_id": plan["rows"][0]["id"], "to_batch_id": other["batch"]["id"]}
        answer = self.change(plan, move)
        self.assertEqual(len(answer["plan"]["components"]), 3)
        back = self.change(answer["plan"], *answer["inverse"])
        self.assertEqual(self.grams(back["plan"], 3), [7, 0, 0])
        self.assertEqual(back["plan"]["rows"], plan["rows"])
        again = self.change(back["plan"], *back["inverse"])["plan"]
        self.assertEqual(again["rows"], answer["plan"]["rows"])

    def test_two_rows_of_one_meal_stand_side_by_side_as_two(self) -> None:
        plan = self.plan()
        other = self.second_batch(plan)
        move = {"kind": "move", "row_id": plan["rows"][0]["id"], "to_batch_id": other["batch"]["id"]}
        self.change(plan, move)
        found = self.get(f"/batches/{other['batch']['id']}/compared", other=plan["batch"]["id"])
        names = [row["name"] for row in found["rows"]]
        self.assertEqual(names, ["Ada Vance, lunch", "Ada Vance, lunch", "Ada Vance, dinner", "Milo Brandt, lunch"])
        self.assertEqual([row["now_count"] for row in found["rows"]], [2, 5, 0, 0])
        self.assertEqual([row["then_count"] for row in found["rows"]], [0, 0, 3, 4])

    def test_nothing_moves_into_a_packed_batch_or_out_of_the_air(self) -> None:
        plan = self.plan()
        other = self.second_batch(plan)
        for component in other["components"]:
            weigh = {
                "kind": "weigh",
                "component_id": component["id"],
                "vessels": [{"gross_g": component["cooked_g"]}],
            }
            other = self.change(other, weigh, confirmed=True)["plan"]
        other = self.change(other, {"kind": "packed", "packed": True})["plan"]
        move = {"kind": "move", "row_id": plan["rows"][0]["id"], "to_batch_id": other["batch"]["id"]}
        problem = self.change(plan, move, status=409)
        self.assertIn("“Second” is packed", problem["detail"])
        take = {"kind": "take", "row_id": plan["rows"][0]["id"], "position": 0}
        self.change(plan, take | {"from_batch_id": other["batch"]["id"]}, status=409)
        self.change(plan, move | {"to_batch_id": "0" * 32}, status=404)
        # The weighed pans teach this batch another yield, but every row is still in it.
        now = self.get(f"/batches/{plan['batch']['id']}/plan")
        self.assertEqual([row["id"] for row in now["rows"]], [row["id"] for row in plan["rows"]])
        self.assertEqual(now["batch"], plan["batch"])

    def test_a_component_made_of_nothing_or_of_unknown_food_is_refused(self) -> None:
        plan = self.plan()
        part = {"name": "Other", "role": "protein", "method": "baked"}
        change = {"kind": "component", "component_id": plan["components"][0]["id"], "recipe_component_id": None}
        line = {"food_id": "0" * 32, "purchased_g": 100}
        cases: list[tuple[dict[str, Any], str]] = [
            ({"component": part | {"lines": []}, "line_ids": []}, "/changes/0/line_ids"),
            ({"component": part | {"lines": [line]}, "line_ids": []}, "/changes/0/line_ids"),
            ({"component": part | {"lines": [line]}, "line_ids": ["1" * 32]}, "/changes/0/food_id"),
        ]
        for given, pointer in cases:
            with self.subTest(pointer):
                self.assert_fault(self.change(plan, change | given, status=422), pointer, ".")
        self.assertEqual(self.get(f"/batches/{plan['batch']['id']}/plan"), plan)

    def test_the_reach_map_tells_in_from_out(self) -> None:
        plan = self.aim(self.plan(), protein_g=45, carbohydrate_g=55, fat_g=45)
        found = self.get(f"/batches/{plan['batch']['id']}/reach")
        self.assertEqual([point["name"] for point in found["components"]], ["Chicken", "Bulgur", "Sauce"])
        self.assertFalse(found["targets"][0]["inside"])
        for point in [*found["components"], *found["targets"]]:
            self.assertAlmostEqual(point["protein"] + point["carbohydrate"] + point["fat"], 1)


class OnHand(PlanCase):
    def with_a_pack(self) -> Plan:
        """Chicken thigh is bought in trays of 900 g."""
        packs = [{"name": "tray", "grams": 900, "price": 7.2}]
        path = f"/foods/{food_id('chicken-thigh-skinless-raw')}/supply"
        self.send("PUT", path, {"measures": [], "packs": packs})
        return self.plan()

    def test_whole_packs_and_how_many_containers_they_fill(self) -> None:
        plan = self.with_a_pack()
        chicken = plan["components"][0]
        (pack,) = chicken["lines"][0]["packs"]
        needed = chicken["lines"][0]["purchased_g"]
        self.assertEqual(pack["needed"], math.ceil(needed / 900))
        change = {"kind": "packs", "component_id": chicken["id"], "line_id": chicken["lines"][0]["id"], "pack_g": 900}
        answer = self.change(plan, change)
        packed = answer["plan"]["components"][0]
        self.assertTrue(packed["raw_fixed"])
        self.assertAlmostEqual(packed["lines"][0]["purchased_g"], 900 * pack["needed"], places=2)
        before, after = chicken["lines"], packed["lines"]
        self.assertAlmostEqual(
            after[1]["purchased_g"] / after[0]["purchased_g"],
            before[1]["purchased_g"] / before[0]["purchased_g"],
            places=5,
        )
        filled = self.get(f"/batches/{plan['batch']['id']}/filled")
        counts = {row["row_id"]: row["fills"] for row in filled["rows"]}
        taken = sum(row["cells"][0]["grams"] * counts[row["id"]] for row in answer["plan"]["rows"])
        self.assertLessEqual(taken, packed["cooked_g"] + 1e-6)
        least = min(row["cells"][0]["grams"] for row in answer["plan"]["rows"])
        self.assertLess(packed["cooked_g"] - taken, least)
        self.assertGreaterEqual(sum(counts.values()), 12)

    def test_fewer_packs_fill_fewer(self) -> None:
        plan = self.with_a_pack()
        chicken = plan["components"][0]
        change = {"kind": "packs", "component_id": chicken["id"], "line_id": chicken["lines"][0]["id"], "pack_g": 900}
        one = self.change(plan, change | {"packs": 1})["plan"]
        filled = self.get(f"/batches/{plan['batch']['id']}/filled")
        self.assertLess(sum(row["fills"] for row in filled["rows"]), 12)
        counts = {row["row_id"]: row["fills"] for row in filled["rows"]}
        changes = [
            {"kind": "containers", "row_id": row["id"], "count": counts[row["id"]], "capacity_ml": row["capacity_ml"]}
            for row in one["rows"]
        ]
        after = self.change(one, *changes)["plan"]
        self.assertGreaterEqual(after["components"][0]["spare_g"], -1e-6)
        self.assertEqual(after["to_settle"], [])

    def test_nothing_known_is_said(self) -> None:
        plan = self.plan()
        answer = self.client.get(f"{API}/batches/{plan['batch']['id']}/filled")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("weigh a component", answer.json()["errors"][0]["message"])


class OpenDocument(PlanCase):
    def computed(self, plan: Plan) -> tuple[dict[str, Any], Any]:
        document = self.get(f"/batches/{plan['batch']['id']}/document")
        return document, compute_plan(read_plan(json.dumps(document)))

    def assert_same(self, plan: Plan) -> None:
        """The file alone gives the grams, the macros and the purchases that the screen shows."""
        document, result = self.computed(plan)
        keys = [component["key"] for component in document["components"]]
        for row, container in zip(plan["rows"], result.containers, strict=True):
            self.assertEqual((row["count"], container.met), (container.count, self.all_inside(row)))
            for key, cell in zip(keys, row["cells"], strict=True):
                self.assertAlmostEqual(container.grams[key], cell["grams"], places=2)
            self.assertAlmostEqual(container.holds["protein_g"], row["amounts"]["protein_g"], places=2)
        for shown, component in zip(plan["components"], result.components, strict=True):
            self.assertAlmostEqual(component.cooked_g, shown["cooked_g"], places=2)
            bought = [line.purchased_g for line in component.ingredients]
            for grams, line in zip(bought, shown["lines"], strict=True):
                self.assertAlmostEqual(grams, line["purchased_g"], places=2)

    def all_inside(self, row: dict[str, Any]) -> bool:
        return all(gauge["miss"] == 0 for gauge in row["gauges"])

    def test_a_planned_batch(self) -> None:
        self.assert_same(self.plan())

    def test_with_pins_schools_limits_and_a_weighed_pot(self) -> None:
        plan = self.plan()
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][2]["id"]}
        plan = self.change(plan, pin | {"grams": 35})["plan"]
        plan = self.school(plan, 0, "pieces", pieces=20)["plan"]
        plan = self.aim(plan, 1, protein_g=40, kcal=520, sodium_mg=900)
        weigh = {
            "kind": "weigh",
            "component_id": plan["components"][1]["id"],
            "vessels": [{"gross_g": plan["components"][1]["cooked_g"] * 0.7}],
        }
        self.assert_same(self.change(plan, weigh, confirmed=True)["plan"])

    def test_anothers_batch_is_not_there(self) -> None:
        path = f"{API}/batches/{self.plan()['batch']['id']}/document"
        self.assertEqual(self.other_kitchen().get(path).status_code, 404)
