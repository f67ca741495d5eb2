"""Days of clients, what a share of one comes to, the history of targets, and another client's portion."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Any

from sqlalchemy import delete, select, update

from tests.api.case import ApiCase, food_id
from tests.kitchens import bowl, planned
from tests.support import database
from yantai.store import tables
from yantai.work.batches.inputs import BatchInput, DishInput, EaterInput
from yantai.work.batches.make import create_batch
from yantai.work.clients.clients import save_client
from yantai.work.clients.inputs import ClientInput, TargetInput
from yantai.work.recipes.recipes import save_recipe

OATS = {"food_id": food_id("oats-rolled-dry"), "grams": 100}
APPLE = {"food_id": food_id("apple-with-skin-raw"), "grams": 120}
DAY = {"day_type": "training", "protein_g": 150, "carbohydrate_g": 250, "fat_g": 60, "extras": [OATS]}
LUNCH = {"slot": "lunch", "day_type": "training", "day_share": 0.6}
DINNER = {"slot": "dinner", "day_type": "training", "day_share": 0.4}


class Days(ApiCase):
    def oats(self) -> dict[str, float]:
        return dict(self.get(f"/foods/{OATS['food_id']}")["food"]["per_100g"])

    def made(self, **more: Any) -> dict[str, Any]:
        body = {"name": "Ada", "days": [DAY], "targets": [LUNCH, DINNER]} | more
        return dict(self.send("POST", "/clients", body, status=201))

    def test_a_share_is_what_the_extras_leave_of_the_day(self) -> None:
        made, oats = self.made(), self.oats()
        lunch, dinner = made["targets"]
        for name, whole in (("protein_g", 150), ("carbohydrate_g", 250), ("fat_g", 60)):
            self.assertAlmostEqual(lunch[name], 0.6 * (whole - oats[name]))
            self.assertAlmostEqual(lunch[name] + dinner[name] + oats[name], whole)
        self.assertEqual(made["days"][0]["extras"][0]["name"], self.get(f"/foods/{OATS['food_id']}")["food"]["name"])
        self.assertEqual(self.get(f"/clients/{made['id']}"), made)
        self.assertEqual(self.get("/clients"), [made])

    def test_a_batch_keeps_what_the_share_came_to(self) -> None:
        made = self.made()
        recipe = save_recipe(database(), self.who, bowl(), None)
        eaters = [EaterInput(target_id=uuid.UUID(made["targets"][0]["id"]), count=3)]
        assert recipe.id is not None
        given = BatchInput(
            name="Bowls", cook_on=date(2026, 11, 29), dishes=[DishInput(recipe_id=recipe.id, eaters=eaters)]
        )
        plan = create_batch(database(), self.who, given)
        self.assertAlmostEqual(plan.rows[0].target.protein_g or 0, made["targets"][0]["protein_g"], places=3)
        changed = {"name": "Ada", "days": [DAY | {"protein_g": 100}], "targets": [LUNCH, DINNER], "version": 1}
        self.send("PUT", f"/clients/{made['id']}", changed)
        later = self.get(f"/batches/{plan.batch.id}/plan")
        self.assertEqual(later["rows"][0]["target"]["protein_g"], plan.rows[0].target.protein_g)

    def test_what_makes_no_sense_is_named(self) -> None:
        cases: list[tuple[dict[str, Any], str, str]] = [
            ({"days": []}, "/targets/0/day_share", "no training day"),
            ({"targets": [LUNCH | {"protein_g": 5}]}, "/targets/0/day_share", "not both"),
            ({"targets": [LUNCH | {"day_share": 1.5}]}, "/targets/0/day_share", "0.01 to 1"),
            ({"days": [DAY | {"protein_g": 700}]}, "/targets/0/protein_g", "0 to 300"),
            ({"days": [DAY, DAY]}, "/days/1/day_type", "already"),
            ({"days": [DAY | {"protein_g": 4000}]}, "/days/0/protein_g", "0 to 800"),
            ({"days": [{"day_type": "training"}]}, "/days/0/protein_g", "at least one"),
            ({"days": [DAY | {"extras": [OATS | {"grams": 0}]}]}, "/days/0/extras/0/grams", "0.1 to"),
            ({"days": [DAY | {"extras": [OATS | {"food_id": "0" * 32}]}]}, "/days/0/extras/0/food_id", "another"),
            (
                {"days": [DAY | {"extras": [OATS | {"grams": 1900}]}]},
                "/targets/0/day_share",
                "leave nothing",
            ),
        ]
        for change, pointer, words in cases:
            with self.subTest(pointer=pointer, words=words):
                body = {"name": "Ada", "days": [DAY], "targets": [LUNCH, DINNER]} | change
                self.assert_fault(self.send("POST", "/clients", body, status=422), pointer, words)
        self.assertEqual(self.get("/clients"), [])

    def test_a_food_that_is_edited_moves_the_share_and_may_leave_nothing(self) -> None:
        label = {"protein_g": 10, "carbohydrate_g": 10, "fat_g": 10, "kcal": 170}
        food = {"name": "Bar", "group": "own", "state": "as-sold", "label": label}
        bar = self.send("POST", "/foods", food, status=201)
        extra = {"food_id": bar["food"]["id"], "grams": 200}
        day = {"day_type": "training", "protein_g": 60, "extras": [extra]}
        made = self.made(days=[day], targets=[LUNCH])
        self.assertAlmostEqual(made["targets"][0]["protein_g"], 0.6 * 40)
        rich = food | {"label": label | {"protein_g": 40, "kcal": 290}, "version": 1}
        self.send("PUT", f"/foods/{bar['food']['id']}", rich)
        (client,) = self.get("/clients")
        self.assertEqual(client["targets"][0]["protein_g"], 0)
        self.assertIn("leave nothing for a container. Mend the day.", client["targets"][0]["conflict"])
        recipe = save_recipe(database(), self.who, bowl(), None)
        eaters = [{"target_id": client["targets"][0]["id"], "count": 1}]
        given = {"name": "Bowls", "cook_on": "2026-11-29", "dishes": [{"recipe_id": str(recipe.id), "eaters": eaters}]}
        problem = self.send("POST", "/batches", given, status=422)
        self.assert_fault(problem, "/dishes/0/eaters/day_share", "leave nothing")

    def test_days_as_typed_stand_against_their_meals(self) -> None:
        body = {"name": "Ada", "days": [DAY], "targets": [LUNCH, DINNER | {"day_share": 0.3}]}
        found = self.send("POST", "/clients/days", body)
        (day,) = found["days"]
        oats = self.oats()
        self.assertEqual([part["kind"] for part in day["parts"]], ["extra", "target", "target"])
        self.assertAlmostEqual(day["left"]["protein_g"], 150 - oats["protein_g"])
        protein = next(gauge for gauge in day["gauges"] if gauge["nutrient"] == "protein_g")
        self.assertAlmostEqual(protein["off"], -0.1 * (150 - oats["protein_g"]))
        self.assertEqual(day["notes"], ["The meals take 90 % of what is left; 10 % belong to no meal."])
        self.assertAlmostEqual(found["targets"][1]["fat_g"], 0.3 * (60 - oats["fat_g"]))
        self.assertEqual(self.get("/clients"), [])

    def test_the_days_of_a_batch_count_its_containers_and_the_other_meals_as_targeted(self) -> None:
        plan = self.plan()
        ada = next(row for row in plan["rows"] if row["client"] == "Ada Vance")
        client = self.get(f"/clients/{ada['client_id']}")
        body = {name: client[name] for name in ("name", "targets", "tolerance", "version")}
        for target in body["targets"]:
            target.pop("conflict")
        body["targets"].append({"slot": "supper", "protein_g": 20, "carbohydrate_g": 20, "fat_g": 5})
        body["days"] = [{"day_type": "any", "protein_g": 140, "extras": [OATS]}]
        self.send("PUT", f"/clients/{ada['client_id']}", body)
        (day,) = self.get(f"/batches/{plan['batch']['id']}/days")
        self.assertEqual(
            [(part["kind"], part["name"]) for part in day["parts"][1:]],
            [("container", "lunch"), ("container", "dinner"), ("target", "supper")],
        )
        held = [row["amounts"]["protein_g"] for row in plan["rows"] if row["client"] == "Ada Vance"]
        self.assertAlmostEqual(day["total"]["protein_g"], sum(held) + 20 + self.oats()["protein_g"])

    def with_a_day(self, name: str = "Ada Vance") -> None:
        (client,) = [one for one in self.get("/clients") if one["name"] == name]
        body = {key: client[key] for key in ("name", "targets", "tolerance", "version", "allergens")}
        for target in body["targets"]:
            target.pop("conflict")
        body["days"] = [{"day_type": "any", "protein_g": 140, "extras": [APPLE]}]
        self.send("PUT", f"/clients/{client['id']}", body)

    def test_a_day_has_one_container_of_each_meal_however_the_lines_are_split(self) -> None:
        plan = self.plan()
        self.with_a_day()
        before = self.get(f"/batches/{plan['batch']['id']}/days")[0]
        row = plan["rows"][0]
        split = self.change(plan, {"kind": "split-row", "row_id": row["id"], "count": 2})["plan"]
        after = self.get(f"/batches/{plan['batch']['id']}/days")[0]
        self.assertEqual(after["total"], before["total"])
        self.assertEqual([one["name"] for one in after["instead"]], ["lunch"])
        smaller = {"kind": "containers", "row_id": split["rows"][1]["id"], "count": 2, "capacity_ml": 200}
        small = self.change(split, smaller)["plan"]["rows"][1]
        instead = self.get(f"/batches/{plan['batch']['id']}/days")[0]["instead"][0]["total"]["protein_g"]
        taken = before["total"]["protein_g"] - row["amounts"]["protein_g"]
        self.assertAlmostEqual(instead, taken + small["amounts"]["protein_g"])

    def test_vegetables_fruit_fibre_and_minerals_against_the_coachs_aims(self) -> None:
        """The bowl has neither; 120 g of apple are all there is, as long as every meal is known."""
        plan = self.plan()
        self.with_a_day()
        there = {one["name"]: one for one in self.get(f"/batches/{plan['batch']['id']}/days")[0]["aims"]}
        produce = there["vegetables and fruit"]
        self.assertEqual((produce["amount"], produce["at_least"], produce["aim"]), (120, False, None))
        self.assertEqual({one["missed"] for one in there.values()}, {None})
        self.send("PUT", "/settings", {"daily_aims": {"produce_g": 400, "fibre_g": 1, "sodium_mg": 1}})
        (day,) = self.get(f"/batches/{plan['batch']['id']}/days")
        self.assertEqual(
            {one["name"]: one["missed"] for one in day["aims"]},
            {"vegetables and fruit": True, "fibre": False, "potassium": None, "sodium": True},
        )
        self.assertAlmostEqual(
            {one["name"]: one["amount"] for one in day["aims"]}["potassium"], day["total"]["potassium_mg"]
        )

    def test_what_is_at_hand_closes_the_gap_and_what_must_not_go_in_is_not_proposed(self) -> None:
        plan = self.plan()
        (ada,) = [one for one in self.get("/clients") if one["name"] == "Ada Vance"]
        body = {key: ada[key] for key in ("name", "tolerance", "version")}
        body["targets"] = [{k: v for k, v in target.items() if k != "conflict"} for target in ada["targets"]]
        held = sum(row["amounts"]["protein_g"] for row in plan["rows"] if row["client"] == "Ada Vance")
        yoghurt = {"food_id": food_id("greek-yogurt-plain-nonfat"), "serving_g": 100, "most": 3}
        per_100g = self.get(f"/foods/{yoghurt['food_id']}")["food"]["per_100g"]["protein_g"]
        body |= {"days": [{"protein_g": held + 2 * per_100g}], "at_hand": [yoghurt]}
        saved = self.send("PUT", f"/clients/{ada['id']}", body)
        self.assertEqual([(one["serving_g"], one["most"], one["kept_out"]) for one in saved["at_hand"]], [(100, 3, [])])
        (day,) = self.get(f"/batches/{plan['batch']['id']}/days")
        (fill_up,) = day["fill_ups"]
        self.assertEqual([(one["servings"], one["grams"]) for one in fill_up["foods"]], [(2, 200)])
        self.assertTrue(fill_up["closes"])
        self.assertAlmostEqual(fill_up["total"]["protein_g"], held + 2 * per_100g)
        avoiding = body | {"version": saved["version"], "allergens": ["milk"]}
        self.assertEqual(self.send("PUT", f"/clients/{ada['id']}", avoiding)["at_hand"][0]["kept_out"], ["milk"])
        (day,) = self.get(f"/batches/{plan['batch']['id']}/days")
        self.assertEqual(day["fill_ups"], [])

    def test_what_is_at_hand_is_checked(self) -> None:
        yoghurt = {"food_id": food_id("greek-yogurt-plain-nonfat"), "serving_g": 100}
        for at_hand, pointer, words in [
            ([yoghurt, yoghurt], "/at_hand/1/food_id", "already"),
            ([yoghurt | {"food_id": "0" * 32}], "/at_hand/0/food_id", "another"),
            ([yoghurt | {"serving_g": 0}], "/at_hand/0/serving_g", "0.1 to"),
            ([yoghurt | {"most": 5}], "/at_hand/0/most", "1 to 4"),
            ([yoghurt] * 13, "/at_hand", "more than the 12"),
        ]:
            with self.subTest(pointer=pointer):
                body = {"name": "Ada", "at_hand": at_hand}
                self.assert_fault(self.send("POST", "/clients", body, status=422), pointer, words)

    def test_the_nearest_batch_has_the_meal_that_this_one_lacks(self) -> None:
        """Supper from a batch two days later counts, one four days later does not."""
        plan = self.plan()
        self.with_a_day()
        (ada,) = [one for one in self.get("/clients") if one["name"] == "Ada Vance"]
        body = {key: ada[key] for key in ("name", "days", "tolerance", "version")}
        body["days"][0]["extras"] = []
        body["targets"] = [
            {key: value for key, value in target.items() if key != "conflict"} for target in ada["targets"]
        ] + [{"slot": "supper", "protein_g": 30}]
        supper = self.send("PUT", f"/clients/{ada['id']}", body)["targets"][-1]["id"]
        recipe = plan["dishes"][0]["recipe_id"]
        for cook_on, kind in (("2026-12-03", "target"), ("2026-12-01", "container")):
            dishes = [{"recipe_id": recipe, "eaters": [{"target_id": supper, "count": 1}]}]
            self.send("POST", "/batches", {"name": cook_on, "cook_on": cook_on, "dishes": dishes}, status=201)
            (day,) = self.get(f"/batches/{plan['batch']['id']}/days")
            with self.subTest(cook_on=cook_on):
                self.assertEqual(day["parts"][-1]["kind"], kind)
        self.assertEqual(day["parts"][-1]["name"], "supper from 2026-12-01")

    def test_each_kind_of_day_has_its_own_meals(self) -> None:
        """A training lunch stands in for the lunch of any day; a dinner of any day is eaten on both."""
        days = [
            {"day_type": "training", "protein_g": 140},
            {"day_type": "rest", "protein_g": 110, "extras": [OATS], "sodium_mg": 2000, "fibre_g": 30},
        ]
        targets = [
            {"slot": "lunch", "protein_g": 40},
            {"slot": "lunch", "day_type": "training", "protein_g": 60},
            {"slot": "dinner", "protein_g": 50},
        ]
        found = self.send("POST", "/clients/days", {"name": "Ada", "days": days, "targets": targets})
        training, rest = found["days"]
        self.assertEqual(training["total"]["protein_g"], 110)
        self.assertAlmostEqual(rest["total"]["protein_g"], 90 + self.oats()["protein_g"])
        sides = {gauge["nutrient"]: (gauge["side"], gauge["tolerance"]) for gauge in rest["gauges"]}
        self.assertEqual(sides, {"protein_g": ("aim", 6), "sodium_mg": ("at most", 0), "fibre_g": ("at least", 0)})
        # What a target does not aim at is not known of its container, which is not zero.
        self.assertIn("sodium_mg", rest["total"]["at_least"])
        known = {gauge["nutrient"]: gauge["known"] for gauge in rest["gauges"]}
        self.assertEqual(known, {"protein_g": True, "sodium_mg": False, "fibre_g": False})
        self.assertEqual([target["protein_g"] for target in found["targets"]], [40, 60, 50])


class History(ApiCase):
    def test_each_change_is_told_with_what_was_before(self) -> None:
        lunch = {"slot": "lunch", "protein_g": 45, "carbohydrate_g": 55}
        made = self.send("POST", "/clients", {"name": "Ada", "targets": [lunch]}, status=201)
        path = f"/clients/{made['id']}"
        self.send("PUT", path, {"name": "Ada V", "targets": [lunch], "version": 1})
        body = {"name": "Ada", "targets": [lunch | {"protein_g": 50, "carbohydrate_g": None}], "version": 2}
        self.send("PUT", path, body)
        self.send("PUT", path, {"name": "Ada", "days": [DAY], "targets": [LUNCH], "version": 3})
        newest, second, first = self.get(f"{path}/targets")
        self.assertEqual(first["lines"], ["Lunch: 45 g protein, 55 g carbohydrate"])
        self.assertEqual(
            second["lines"], ["Lunch: protein 50 g instead of 45 g, carbohydrate no longer aimed at (55 g)"]
        )
        self.assertIn("The training day: 150 g protein", newest["lines"][0])
        self.assertRegex(newest["lines"][0], "extras 100 g .*[Oo]ats")
        self.assertIn("Lunch: taken away", newest["lines"])
        self.assertEqual(newest["changed_by"], "Test Coach")

    def test_a_record_can_neither_be_changed_nor_deleted(self) -> None:
        save_client(database(), self.who, ClientInput(name="Ada", targets=[TargetInput(slot="x", kcal=500)]), None)
        with database().workspace(self.who.workspace_id) as session:
            session.execute(update(tables.TargetRecord).values(changed_by="nobody"))
            session.execute(delete(tables.TargetRecord))
            self.assertEqual(session.scalars(select(tables.TargetRecord.changed_by)).all(), ["Test Coach"])


class OtherPortions(ApiCase):
    def test_half_of_another_clients_portion(self) -> None:
        planned(self.who)
        ada = self.get("/clients")[0]
        lunch = ada["targets"][0]
        found = self.get(f"/targets/{lunch['id']}/scaled", factor=0.5)
        self.assertEqual(found["name"], "Ada Vance, lunch")
        self.assertEqual((found["before"]["protein_g"], found["after"]["protein_g"]), (45, 22.5))
        self.assertIsNone(found["after"]["kcal"])
        self.assert_fault(
            self.client.get(f"/api/v1/targets/{lunch['id']}/scaled", params={"factor": 9}).json(), "/factor", "0.1 to 5"
        )
        other = self.other_kitchen().get(f"/api/v1/targets/{lunch['id']}/scaled", params={"factor": 1})
        self.assertEqual(other.status_code, 404)
