from __future__ import annotations

import uuid
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from tests.api.case import API, ApiCase, command, food_id
from tests.api.independent import independent_rows
from tests.kitchens import bowl, planned
from tests.support import database
from yantai.work.recipes.recipes import read_recipe, save_recipe

MACROS = ("kcal", "protein_g", "carbohydrate_g", "fat_g")


class Plan(ApiCase):
    def test_figures_agree_with_an_independent_computation(self) -> None:
        plan = self.plan()
        for row, expected in zip(plan["rows"], independent_rows(plan), strict=True):
            for macro in MACROS:
                self.assertAlmostEqual(row["amounts"][macro], expected[macro], delta=0.1)

    def test_targets_are_met_inside_the_tolerances(self) -> None:
        rows = self.plan()["rows"]
        self.assertGreaterEqual(sum(len(row["gauges"]) for row in rows), 2 * len(rows))
        for row in rows:
            for gauge in row["gauges"]:
                self.assertLessEqual(abs(gauge["amount"] - gauge["target"]), gauge["tolerance"] + 1e-3)

    def test_the_chain_adds_up(self) -> None:
        plan = self.plan()
        self.assertGreaterEqual(len(plan["components"]), 3)
        for index, component in enumerate(plan["components"]):
            in_containers = sum(row["cells"][index]["grams"] * row["count"] for row in plan["rows"])
            self.assertAlmostEqual(component["needed_g"], in_containers)
            self.assertAlmostEqual(component["cooked_g"], component["needed_g"] * 1.03)
            self.assertAlmostEqual(component["spare_g"], component["cooked_g"] - component["needed_g"])
            self.assertAlmostEqual(component["purchased_g"], sum(line["purchased_g"] for line in component["lines"]))

    def test_an_allergen_keeps_its_component_out_and_is_cautioned(self) -> None:
        plan = self.plan()
        milo = next(row for row in plan["rows"] if row["client"] == "Milo Brandt")
        self.assertEqual(
            (milo["cells"][2]["grams"], milo["cells"][2]["left_out"]),
            (0, [{"word": "milk", "of": "Greek yogurt, plain, nonfat"}]),
        )
        self.assertEqual(milo["cells"][1]["disliked"], [{"word": "bulgur", "of": "Bulgur wheat"}])
        self.assertIn("Milo Brandt must avoid milk", plan["cautions"][0])

    def test_a_target_out_of_reach_says_what_holds_it(self) -> None:
        plan = self.plan()
        body = {"kind": "target", "row_id": plan["rows"][0]["id"], "kcal": None}
        body |= {"protein_g": 150, "carbohydrate_g": 20, "fat_g": 2}
        after = self.change(plan, body)["plan"]
        (settle,) = after["to_settle"]
        self.assertIn("Ada Vance, lunch", settle["title"])
        self.assertIn("short", settle["title"])
        self.assertRegex(settle["detail"], "What holds it: .*(at its least|at its most|full)")


class Changes(ApiCase):
    def assert_undone(self, before: dict[str, Any], answer: dict[str, Any]) -> None:
        """The inverse brings every figure back."""
        undone = self.change(answer["plan"], *answer["inverse"], confirmed=True)["plan"]
        for plan in (before, undone):
            plan["batch"] = plan["batch"] | {"version": 0, "changed_at": ""}
        self.assertEqual(undone, before)

    def test_every_change_is_taken_back_by_its_inverse(self) -> None:
        plan = self.plan()
        row, component = plan["rows"][0]["id"], plan["components"][0]
        batch = {"name": "Renamed", "cook_on": "2026-12-01", "step_g": 1, "buffer_share": 0.1}
        targets = {"kcal": 600, "protein_g": 40, "carbohydrate_g": None, "fat_g": None}
        raw = [{"line_id": component["lines"][0]["id"], "purchased_g": 1500}]
        cases: list[dict[str, Any]] = [
            {"kind": "pin", "row_id": row, "component_id": component["id"], "grams": 99},
            {"kind": "target", "row_id": row, **targets},
            {"kind": "containers", "row_id": row, "count": 9, "capacity_ml": None},
            {"kind": "bounds", "component_id": component["id"], "minimum_g": 10, "maximum_g": 100},
            {"kind": "raw", "component_id": component["id"], "fixed": True, "lines": raw},
            {"kind": "batch", **batch},
            self.weigh(component, component["cooked_g"]),
        ]
        for change in cases:
            with self.subTest(kind=change["kind"]):
                before = self.get(f"/batches/{plan['batch']['id']}/plan")
                answer = self.change(before, change)
                self.assertNotEqual(answer["plan"]["rows"], None)
                self.assert_undone(before, answer)

    def weigh(self, component: dict[str, Any], grams: float) -> dict[str, Any]:
        vessels = [{"gross_g": round(grams) + 900, "vessel_g": 900}]
        return {"kind": "weigh", "component_id": component["id"], "vessels": vessels}

    def test_a_pin_holds_and_the_others_make_up_for_it(self) -> None:
        plan = self.plan()
        row, component = plan["rows"][0], plan["components"][2]
        pin = {"kind": "pin", "row_id": row["id"], "component_id": component["id"], "grams": 33.5}
        after = self.change(plan, pin)["plan"]["rows"][0]
        self.assertEqual((after["cells"][2]["grams"], after["cells"][2]["limit"]), (33.5, "pinned"))
        self.assertTrue(all(gauge["miss"] == 0 for gauge in after["gauges"]))

    def test_a_weigh_in_replaces_the_estimate_everywhere(self) -> None:
        plan = self.plan()
        chicken = plan["components"][0]
        lighter = round(chicken["cooked_g"] * 0.94)
        after = self.change(plan, self.weigh(chicken, lighter))["plan"]
        measured = after["components"][0]
        self.assertEqual(measured["weighing"]["cooked_g"], lighter)
        self.assertEqual(measured["cooked_g"], lighter)
        self.assertTrue(measured["raw_fixed"])
        # The same macros in less weight, but for the raw amounts, which were rounded to whole grams.
        ratio = measured["per_100g"]["protein_g"] / chicken["per_100g"]["protein_g"]
        self.assertAlmostEqual(ratio, chicken["cooked_g"] / lighter, delta=0.002)
        self.assertLess(after["rows"][0]["cells"][0]["grams"], plan["rows"][0]["cells"][0]["grams"])
        self.assertLessEqual(measured["needed_g"], lighter)

    def test_a_sum_stays_the_weighings_it_was_typed_from(self) -> None:
        plan = self.plan()
        component = plan["components"][0]
        third = round(component["cooked_g"] / 3)
        change = self.weigh(component, component["cooked_g"])
        change["vessels"] = [{"gross_g": f"{third}+{third + 10}+{third - 10 + 640}-640", "vessel_g": 0}]
        weighing = self.change(plan, change)["plan"]["components"][0]["weighing"]
        self.assertEqual([one["gross_g"] for one in weighing["vessels"]], [third, third + 10, third + 630])
        self.assertEqual([one["vessel_g"] for one in weighing["vessels"]], [0, 0, 640])
        self.assertAlmostEqual(weighing["cooked_g"], 3 * third)

    def test_several_vessels_add_up(self) -> None:
        plan = self.plan()
        change = self.weigh(plan["components"][0], 1)
        half = plan["components"][0]["cooked_g"] / 2
        change["vessels"] = [{"gross_g": half + 500, "vessel_g": 500}, {"gross_g": half, "vessel_g": 0}]
        after = self.change(plan, change)["plan"]
        self.assertAlmostEqual(after["components"][0]["cooked_g"], 2 * half, delta=0.001)

    def test_an_unlikely_weight_is_asked_about_and_can_be_confirmed(self) -> None:
        plan = self.plan()
        change = self.weigh(plan["components"][0], plan["components"][0]["cooked_g"] * 1.8)
        problem = self.change(plan, change, status=409)
        self.assertEqual(problem["type"], "doubtful")
        self.assertIn("It may be:", problem["detail"])
        self.assertIsNotNone(self.change(plan, change, confirmed=True)["plan"]["components"][0]["weighing"])

    def test_a_weight_ten_times_the_raw_is_refused_even_when_confirmed(self) -> None:
        plan = self.plan()
        change = self.weigh(plan["components"][0], plan["components"][0]["basis_g"] * 10)
        problem = self.change(plan, change, status=422, confirmed=True)
        self.assert_fault(problem, "/changes/0/vessels/0/gross_g", "10.0 times")

    def test_a_call_that_is_sent_again_counts_once(self) -> None:
        """The answer was lost and the tablet sends the same call again, whatever it asks and at whichever version."""
        plan = self.plan()
        chicken, row = plan["components"][0], plan["rows"][0]["id"]
        wishes = [
            {"kind": "add-line", "component_id": chicken["id"], "food_id": food_id("olive-oil"), "purchased_g": 20},
            {"kind": "extra", "row_id": row, "food_id": food_id("kale-raw"), "grams": 50},
            {"kind": "pin", "row_id": row, "component_id": chicken["id"], "grams": 150},
            self.weigh(chicken, chicken["cooked_g"]),
            {"kind": "withdraw", "component_id": chicken["id"]},
        ]
        for wish in wishes:
            with self.subTest(kind=wish["kind"]):
                sent = command(plan, wish, confirmed=True)
                first = self.command(plan, sent)
                later = sent | {"version": first["plan"]["batch"]["version"]}
                for again in (sent, later, later | {"confirmed": False}):
                    self.assertEqual(self.command(plan, again), first)
                plan = first["plan"]

    def test_what_was_sent_again_can_still_be_taken_back(self) -> None:
        plan = self.plan()
        sent = command(
            plan,
            {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][0]["id"], "grams": 9},
        )
        self.command(plan, sent)
        self.assert_undone(plan, self.command(plan, sent))

    def test_one_id_is_one_wish(self) -> None:
        """A corrected weight, or bones that are taken off after all, under the id of what was recorded is refused."""
        plan = self.plan()
        weigh = self.weigh(plan["components"][0], plan["components"][0]["cooked_g"])
        sent = command(plan, weigh)
        recorded = self.command(plan, sent)["plan"]
        other = self.plan()
        for plan_of, changed in (
            (plan, sent | {"changes": [weigh | {"removed_g": 30}]}),
            (plan, sent | {"changes": [weigh, weigh]}),
            (other, sent),
        ):
            with self.subTest(changes=changed["changes"]):
                problem = self.command(plan_of, changed, status=422)
                self.assertIn("with other figures", problem["detail"])
        self.assertEqual(self.get(f"/batches/{plan['batch']['id']}/plan"), recorded)

    def test_a_wish_that_was_refused_is_free_to_be_made(self) -> None:
        plan = self.plan()
        sent = command(plan, self.weigh(plan["components"][0], plan["components"][0]["cooked_g"] * 1.8))
        self.assertEqual(self.command(plan, sent, status=409)["type"], "doubtful")
        made = self.command(plan, sent | {"confirmed": True})["plan"]
        self.assertIsNotNone(made["components"][0]["weighing"])

    def test_two_kitchens_may_use_one_id(self) -> None:
        plan = self.plan()
        row, component = plan["rows"][0]["id"], plan["components"][0]["id"]
        sent = command(plan, {"kind": "pin", "row_id": row, "component_id": component, "grams": 90})
        self.command(plan, sent)
        self.setUp()
        plan = self.plan()
        pin = {
            "kind": "pin",
            "row_id": plan["rows"][0]["id"],
            "component_id": plan["components"][0]["id"],
            "grams": 80,
        }
        made = self.command(plan, command(plan, pin) | {"command_id": sent["command_id"]})["plan"]
        self.assertEqual(made["rows"][0]["cells"][0]["pinned_g"], 80)

    def test_a_corrected_weight_is_a_new_event(self) -> None:
        plan = self.plan()
        cooked = plan["components"][0]["cooked_g"]
        after = self.change(plan, self.weigh(plan["components"][0], cooked))["plan"]
        after = self.change(after, self.weigh(plan["components"][0], cooked * 0.97))["plan"]
        self.assertEqual(after["components"][0]["cooked_g"], round(cooked * 0.97))

    def test_a_raw_amount_flows_to_the_grams(self) -> None:
        plan = self.plan()
        chicken = plan["components"][0]
        oil = next(line for line in chicken["lines"] if line["name"] == "Olive oil")
        amount = [{"line_id": oil["id"], "purchased_g": oil["purchased_g"] + 60}]
        change = {"kind": "raw", "component_id": chicken["id"], "fixed": True, "lines": amount}
        after = self.change(plan, change)["plan"]
        self.assertGreater(after["components"][0]["per_100g"]["fat_g"], chicken["per_100g"]["fat_g"])
        self.assertNotEqual(after["rows"], plan["rows"])
        self.assertTrue(after["components"][0]["raw_fixed"])

    def test_bad_values_are_named_with_the_mend_and_change_nothing(self) -> None:
        plan = self.plan()
        row, component = plan["rows"][0]["id"], plan["components"][0]
        line = component["lines"][0]["id"]
        pin = {"kind": "pin", "row_id": row, "component_id": component["id"]}
        weigh = self.weigh(component, 1)
        raw = {"kind": "raw", "component_id": component["id"], "fixed": True}
        none = {"kcal": None, "protein_g": None, "carbohydrate_g": None, "fat_g": None}
        cases: list[tuple[dict[str, Any], str, str]] = [
            (pin | {"grams": 9000}, "grams", "9,000 g of Chicken in one container; give from 0 to 2,000 g"),
            (pin | {"grams": -1}, "grams", "from 0"),
            (pin | {"grams": "some"}, "grams", "not a weight"),
            ({"kind": "target", "row_id": row, **none, "kcal": 40_000}, "kcal", "0 to 4,000 kcal"),
            ({"kind": "containers", "row_id": row, "count": 900, "capacity_ml": None}, "count", "0 to 100"),
            ({"kind": "containers", "row_id": row, "count": 2.5, "capacity_ml": None}, "count", "whole number"),
            (
                {"kind": "bounds", "component_id": component["id"], "minimum_g": 90, "maximum_g": 5},
                "minimum_g",
                "above the most",
            ),
            (raw | {"lines": [{"line_id": line, "purchased_g": -4}]}, "lines/0/purchased_g", "from 0"),
            (weigh | {"vessels": []}, "vessels", "at least one vessel"),
            (weigh | {"vessels": [{"gross_g": 0, "vessel_g": 0}]}, "vessels/0/gross_g", "scale is 0 g"),
            (weigh | {"vessels": [{"gross_g": 500, "vessel_g": 900}]}, "vessels/0/vessel_g", "exchanged"),
            ({"kind": "packed", "packed": True}, "packed", "Not weighed yet: Chicken, Bulgur, Sauce"),
        ]
        for change, field, words in cases:
            with self.subTest(field=field, words=words):
                self.assert_fault(self.change(plan, change, status=422), f"/changes/0/{field}", words)
        self.assertEqual(self.get(f"/batches/{plan['batch']['id']}/plan"), plan)

    def test_changes_of_one_command_are_made_together_or_not_at_all(self) -> None:
        plan = self.plan()
        row, component = plan["rows"][0]["id"], plan["components"][0]["id"]
        good = {"kind": "pin", "row_id": row, "component_id": component, "grams": 50}
        self.change(plan, good, good | {"grams": -1}, status=422)
        self.assertEqual(self.get(f"/batches/{plan['batch']['id']}/plan"), plan)

    def test_two_windows_do_not_overwrite_each_other(self) -> None:
        plan = self.plan()
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][0]["id"], "grams": 80}
        self.change(plan, pin)
        problem = self.change(plan, pin | {"grams": 120}, status=409)
        self.assertEqual(problem["type"], "stale")
        self.assertIn("Test Coach changed this batch", problem["detail"])
        now = self.get(f"/batches/{plan['batch']['id']}/plan")
        self.assertEqual(now["rows"][0]["cells"][0]["grams"], 80)

    def test_a_batch_is_packed_once(self) -> None:
        """Packing it anew would keep what it would be by now, and leave its version behind the one that is shown."""
        plan = self.plan()
        already = self.change(plan, {"kind": "packed", "packed": False}, status=422)
        self.assert_fault(already, "/changes/0/packed", "open already")
        for component in plan["components"]:
            plan = self.change(plan, self.weigh(component, component["cooked_g"]), confirmed=True)["plan"]
        packed = self.change(plan, {"kind": "packed", "packed": True})["plan"]
        already = self.change(packed, {"kind": "packed", "packed": True}, status=422)
        self.assert_fault(already, "/changes/0/packed", "packed already")
        self.assertEqual(self.get(f"/batches/{packed['batch']['id']}/plan"), packed)
        opened = self.change(packed, {"kind": "packed", "packed": False})["plan"]
        self.assertIsNone(opened["batch"]["packed_at"])

    def test_a_packed_batch_is_closed_until_opened_again(self) -> None:
        plan = self.plan()
        for component in plan["components"]:
            plan = self.change(plan, self.weigh(component, component["cooked_g"]))["plan"]
        plan = self.change(plan, {"kind": "packed", "packed": True})["plan"]
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][0]["id"], "grams": 80}
        self.assertEqual(self.change(plan, pin, status=409)["type"], "closed")
        (brief,) = self.get("/batches")
        self.assertEqual((brief["next_step"], brief["weighed"]), ("Packed", 3))
        plan = self.change(plan, {"kind": "packed", "packed": False})["plan"]
        self.change(plan, pin)


class NewBatch(ApiCase):
    def test_bad_values_are_named_with_the_mend(self) -> None:
        plan = self.plan()
        target = self.get("/clients")[0]["targets"][0]["id"]
        dish = {"recipe_id": plan["dishes"][0]["recipe_id"]}

        def eaten(**other: Any) -> dict[str, Any]:
            return {**dish, "eaters": [{"target_id": target, "count": 2, **other}]}

        good = {"name": "Next", "cook_on": "2026-11-29", "dishes": [eaten()]}
        cases: list[tuple[dict[str, Any], str, str]] = [
            ({"name": " "}, "/name", "batch's name"),
            ({"cook_on": ""}, "/cook_on", "not a date"),
            ({"dishes": []}, "/dishes", "at least one dish"),
            ({"dishes": [dish]}, "/dishes/0/eaters", "at least one client"),
            ({"dishes": [dish, eaten(count=0)]}, "/dishes/1/eaters/0/count", "from 1 to 100"),
            ({"dishes": [eaten(target_id=str(uuid.uuid4()))]}, "/dishes/0/eaters/0/target_id", "removed"),
            ({"dishes": [{**dish, "eaters": eaten()["eaters"] * 2}]}, "/dishes/0/eaters", "twice"),
            ({"step_g": 0}, "/step_g", "0.1 to 100 g"),
            ({"buffer_share": 3}, "/buffer_share", "0 to 0.5"),
        ]
        for change, pointer, words in cases:
            with self.subTest(pointer=pointer):
                self.assert_fault(self.send("POST", "/batches", good | change, status=422), pointer, words)
        self.assertEqual(self.send("POST", "/batches", good, status=201)["batch"]["name"], "Next")

    def test_editing_the_recipe_leaves_the_batch_until_it_is_taken(self) -> None:
        plan = self.plan()
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][0]["id"], "grams": 80}
        plan = self.change(plan, pin)["plan"]
        recipe = read_recipe(database(), self.who, uuid.UUID(plan["dishes"][0]["recipe_id"]))
        given = bowl()
        less = type(given)(name="Chicken bowl", components=given.components[:2], version=recipe.version)
        save_recipe(database(), self.who, less, recipe.id)
        kept = self.get(f"/batches/{plan['batch']['id']}/plan")
        self.assertEqual((kept["rows"], kept["dishes"][0]["recipe_changed"]), (plan["rows"], True))
        path = f"/batches/{plan['batch']['id']}/recipe"
        taken = self.send("POST", path, version=kept["batch"]["version"])
        self.assertEqual([component["name"] for component in taken["components"]], ["Chicken", "Bulgur"])
        self.assertEqual(taken["rows"][0]["cells"][0]["pinned_g"], 80)
        self.assertFalse(taken["dishes"][0]["recipe_changed"])

    def test_today_says_what_is_next(self) -> None:
        planned(self.who)
        (brief,) = self.get("/batches")
        self.assertEqual(brief["next_step"], "Cook, and weigh each component as it comes out")
        self.assertEqual((brief["clients"], brief["containers"], brief["components"]), (2, 12, 3))


class Previews(ApiCase):
    def test_a_preview_is_the_plan_that_the_change_then_makes_and_keeps_nothing(self) -> None:
        plan = self.plan()
        pin = {
            "kind": "pin",
            "row_id": plan["rows"][0]["id"],
            "component_id": plan["components"][0]["id"],
            "grams": 150,
        }
        body = {"version": plan["batch"]["version"], "changes": [pin]}
        path = f"/batches/{plan['batch']['id']}"
        preview = self.send("POST", f"{path}/preview", body)
        self.assertEqual(preview["rows"][0]["cells"][0]["grams"], 150)
        self.assertEqual(self.get(f"{path}/plan"), plan)
        made = self.change(plan, pin)["plan"]
        self.assertEqual(made["rows"], preview["rows"])
        self.assertEqual(made["components"], preview["components"])
        self.assertEqual(self.send("POST", f"{path}/preview", body, status=409)["type"], "stale")
        wrong = body | {"version": made["batch"]["version"], "changes": [pin | {"grams": -1}]}
        self.assert_fault(self.send("POST", f"{path}/preview", wrong, status=422), "/changes/0/grams", "from 0")

    def test_a_weight_that_is_only_looked_at_is_not_recorded(self) -> None:
        plan = self.plan()
        component = plan["components"][0]
        weigh = {
            "kind": "weigh",
            "component_id": component["id"],
            "vessels": [{"gross_g": component["cooked_g"] + 800, "vessel_g": 800}],
        }
        body = {"version": plan["batch"]["version"], "changes": [weigh]}
        path = f"/batches/{plan['batch']['id']}"
        for _ in range(2):
            preview = self.send("POST", f"{path}/preview", body)
            self.assertAlmostEqual(preview["components"][0]["weighing"]["cooked_g"], component["cooked_g"], places=3)
            self.assertIsNone(self.get(f"{path}/plan")["components"][0]["weighing"])
        # The same command is still free to be meant.
        self.assertIsNotNone(self.change(plan, weigh)["plan"]["components"][0]["weighing"])

    def test_a_preview_beside_the_change_itself_is_answered_or_stale(self) -> None:
        plan = self.plan()
        path = f"{API}/batches/{plan['batch']['id']}"
        for component in plan["components"]:
            pin = {"kind": "pin", "row_id": plan["rows"][1]["id"], "component_id": component["id"], "grams": 60}
            body = {"version": plan["batch"]["version"], "changes": [pin]}
            with ThreadPoolExecutor(3) as pool:
                looked = [pool.submit(self.client.post, f"{path}/preview", json=body) for _ in range(2)]
                changed = pool.submit(self.client.post, f"{path}/changes", json=command(plan, pin))
            self.assertEqual(changed.result().status_code, 200)
            self.assertLessEqual({one.result().status_code for one in looked}, {200, 409})
            plan = changed.result().json()["plan"]


class SideBySide(ApiCase):
    def test_two_batches_by_component_and_by_container(self) -> None:
        plan = self.plan()
        batch = plan["batch"]
        targets = {one["name"]: one["targets"] for one in self.get("/clients")}
        given = {
            "name": "Next",
            "cook_on": "2026-12-06",
            "dishes": [
                {
                    "recipe_id": plan["dishes"][0]["recipe_id"],
                    "eaters": [{"target_id": targets["Ada Vance"][0]["id"], "count": 2}],
                }
            ],
        }
        after = self.send("POST", "/batches", given, status=201)
        found = self.get(f"/batches/{after['batch']['id']}/compared", other=batch["id"])
        self.assertEqual((found["other"], found["packed_at"]), ("Bowls", None))
        lunch = found["rows"][0]
        self.assertEqual((lunch["name"], lunch["now_count"], lunch["then_count"]), ("Ada Vance, lunch", 2, 5))
        for index, cell in enumerate(lunch["cells"]):
            self.assertEqual(cell["now_g"], after["rows"][0]["cells"][index]["grams"])
            self.assertEqual(cell["then_g"], plan["rows"][0]["cells"][index]["grams"])
        milo = found["rows"][2]
        self.assertEqual((milo["name"], milo["now_count"], milo["now"]), ("Milo Brandt, lunch", 0, None))
        self.assertEqual([one["name"] for one in found["components"]], ["Chicken", "Bulgur", "Sauce"])
        self.assertEqual(found["components"][0]["then_g"], plan["components"][0]["cooked_g"])
        self.send("GET", f"/batches/{batch['id']}/compared", status=404, other="0" * 32)
