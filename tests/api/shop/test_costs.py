"""What a batch costs: by hand, against Decimals that know nothing of the code, and to the hundredth everywhere."""

from __future__ import annotations

import math
from collections import defaultdict
from decimal import ROUND_HALF_UP, Decimal
from typing import Any

from tests.api.case import ApiCase
from tests.kitchens import CHICKEN, planned
from tests.support import database
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput
from yantai.work.recipes.recipes import save_recipe

Json = dict[str, Any]
CENT = Decimal("0.01")
BULGUR = "bulgur-wheat-dry"


def money(value: float) -> Decimal:
    return Decimal(str(value)).quantize(CENT)


class Priced(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.plan_now = self.plan()
        self.batch = self.plan_now["batch"]["id"]

    def priced(self, food: str, *packs: tuple[str, float, float]) -> None:
        given = [PackInput(name=name, grams=grams, price=price) for name, grams, price in packs]
        save_supply(database(), self.who, reference_id(food), SupplyInput(packs=given))

    def price_everything(self) -> None:
        for at, item in enumerate(self.get(f"/batches/{self.batch}/shopping")["items"]):
            packs = [PackInput(name="pack", grams=90 + 37 * at, price=round(0.37 + 0.61 * at, 2))]
            save_supply(database(), self.who, item["food_id"], SupplyInput(packs=packs))

    def costs(self, **query: Any) -> Json:
        return dict(self.get(f"/batches/{self.batch}/costs", **query))

    def assert_adds_up(self, found: Json) -> None:
        foods, rows = found["foods"], found["rows"]
        self.assertEqual(sum(money(one["used"]) for one in foods), money(found["used"]))
        self.assertEqual(sum(money(one["cost"]) for one in rows) + money(found["spare"]), money(found["used"]))
        self.assertEqual(sum(money(one["cost"]) for one in found["clients"]), money(found["in_containers"]))
        self.assertEqual(sum(money(one["cost"]) for one in found["components"]), money(found["used"]))
        for one in foods:
            self.assertEqual(sum(money(line["cost"]) for line in one["lines"]), money(one["used"]))
            self.assertEqual(money(one["used"]) - money(one["from_house"]), money(one["paid"]) - money(one["left"]))
        for one in rows:
            low, high, count = money(one["each_low"]), money(one["each_high"]), one["count"]
            self.assertLessEqual(high - low, CENT)
            dear = (money(one["cost"]) - low * count) / CENT
            self.assertEqual(low * (count - int(dear)) + high * int(dear), money(one["cost"]))


class Costs(Priced):
    def test_one_food_by_hand(self) -> None:
        """Three trays of 400 g at 3.10 are 9.30; of 1,200 g so many are used as the plan needs."""
        self.priced(CHICKEN, ("tray", 400, 3.1))
        found = self.costs()
        chicken = next(one for one in found["foods"] if one["name"] == "Chicken thigh, skinless")
        trays = math.ceil(chicken["grams"] / 400)
        self.assertEqual(money(chicken["paid"]), money(3.1) * trays)
        used = money(chicken["paid"]) * Decimal(str(chicken["grams"])) / (400 * trays)
        self.assertEqual(money(chicken["used"]), used.quantize(CENT, ROUND_HALF_UP))
        self.assertEqual(len(found["without_price"]), len(found["foods"]) - 1)
        self.assert_adds_up(found)

    def test_everything_adds_up_to_the_hundredth_and_each_container_is_its_grams(self) -> None:
        self.price_everything()
        found = self.costs()
        self.assertEqual(found["without_price"], [])
        self.assert_adds_up(found)
        of_component = {one["component_id"]: money(one["cost"]) for one in found["components"]}
        due: dict[str, Decimal] = defaultdict(Decimal)
        for place, component in enumerate(self.plan_now["components"]):
            in_all = Decimal(str(component["cooked_g"]))
            for row in self.plan_now["rows"]:
                grams = Decimal(str(row["cells"][place]["grams"])) * row["count"]
                due[row["id"]] += of_component[component["id"]] * grams / in_all
        for row in found["rows"]:
            self.assertLess(abs(due[row["row_id"]] - money(row["cost"])), len(of_component) * CENT)
        containers = sum(row["count"] for row in found["rows"])
        self.assertAlmostEqual(found["per_container"], found["in_containers"] / containers, delta=0.006)
        protein = sum(row["count"] * row["amounts"]["protein_g"] for row in self.plan_now["rows"])
        self.assertAlmostEqual(found["per_100g_protein"], 100 * found["in_containers"] / protein, delta=0.006)

    def test_what_is_in_the_house_counts_with_what_was_paid_for_it(self) -> None:
        self.priced(CHICKEN, ("tray", 400, 3.1))
        lot = {"food_id": str(reference_id(CHICKEN)), "grams": 300, "place": "fridge", "paid": 1.2}
        self.send("POST", "/house/lots", {"lots": [lot]}, status=201)
        chicken = next(one for one in self.costs()["foods"] if one["name"] == "Chicken thigh, skinless")
        self.assertEqual(chicken["from_house"], 1.2)
        self.assert_adds_up(self.costs())

    def test_of_a_packed_batch_what_it_took_counts(self) -> None:
        self.price_everything()
        lots = [
            {"food_id": item["food_id"], "grams": item["grams"] * 2, "place": "fridge", "paid": 10}
            for item in self.get(f"/batches/{self.batch}/shopping")["items"]
        ]
        self.send("POST", "/house/lots", {"lots": lots}, status=201)
        plan = self.plan_now
        for component in plan["components"]:
            vessels = [{"gross_g": component["cooked_g"] + 800, "vessel_g": 800}]
            weigh = {"kind": "weigh", "component_id": component["id"], "vessels": vessels}
            plan = self.change(plan, weigh, confirmed=True)["plan"]
        before = self.costs()
        plan = self.change(plan, {"kind": "packed", "packed": True})["plan"]
        after = self.costs()
        self.assertEqual((after["paid"], after["used"]), (0, before["used"]))
        self.assertAlmostEqual(after["used"], 5 * len(lots), delta=0.05)
        self.assert_adds_up(after)

    def test_a_stated_cost_that_does_not_multiply_back_is_caught(self) -> None:
        self.price_everything()
        found = self.costs()
        containers = sum(row["count"] for row in found["rows"])
        self.assertIn("that is what they cost", self.costs(stated=found["per_container"])["check"])
        wrong = self.costs(stated=found["per_container"] + 0.5)["check"]
        self.assertIn(f"{containers} × {found['per_container'] + 0.5:.2f} come to", wrong)
        self.assertIn("more than that", wrong)
        self.assertEqual(self.costs()["check"], "")


class Cheaper(Priced):
    def ways(self) -> list[Json]:
        return list(self.get(f"/batches/{self.batch}/cheaper"))

    def test_without_prices_there_is_none(self) -> None:
        self.assertEqual(self.ways(), [])

    def met(self, plan: Json) -> set[str]:
        return {
            row["id"] for row in plan["rows"] if all(not gauge["miss"] and gauge["known"] for gauge in row["gauges"])
        }

    def taken(self, kind: str) -> tuple[Json, Json, float]:
        """A way of a kind that is taken as it is offered: the plan before and after, and what is paid less then."""
        way = next(one for one in self.ways() if one["kind"] == kind)
        before, paid = self.get(f"/batches/{self.batch}/plan"), self.costs()
        after = self.change(before, *way["changes"])["plan"]
        self.assertLessEqual(self.met(before), self.met(after))
        now = self.costs()
        spent = "paid" if kind == "waste" else "used"
        self.assertAlmostEqual(paid[spent] - now[spent], way["saving"], delta=0.02)
        return before, after, way["saving"]

    def test_a_food_that_costs_less_is_solved_and_saves_what_is_said(self) -> None:
        self.price_everything()
        self.priced(CHICKEN, ("tray", 400, 9.1))
        self.priced("ground-turkey-93-lean-raw", ("tray", 500, 2.0))
        self.priced("ground-chicken-raw", ("tray", 500, 2.1))
        _, after, saving = self.taken("food")
        names = {line["name"] for component in after["components"] for line in component["lines"]}
        self.assertNotIn("Chicken thigh, skinless", names)
        self.assertGreater(saving, 1)

    def test_a_component_of_another_recipe_is_solved_and_saves_what_is_said(self) -> None:
        """Plain rice of another recipe in the place of bulgur that has become dear."""
        self.price_everything()
        self.priced(BULGUR, ("bag", 500, 19.0))
        self.priced("rice-white-long-grain-dry", ("bag", 1000, 1.0))
        line = LineInput(food_id=reference_id("rice-white-long-grain-dry"), purchased_g=500)
        rice = ComponentInput(name="Plain rice", role="grain", method="boiled", maximum_g=900, lines=[line])
        save_recipe(database(), self.who, RecipeInput(name="Rice", components=[rice]), None)
        _, after, _ = self.taken("component")
        self.assertIn("Plain rice", {component["name"] for component in after["components"]})

    def test_a_pack_fewer_where_more_is_cooked_than_is_needed(self) -> None:
        """A fifth more than the need is cooked, and what goes beyond it is a small pack more."""
        self.price_everything()
        plan = self.get(f"/batches/{self.batch}/plan")
        head = {name: plan["batch"][name] for name in ("name", "cook_on", "step_g")}
        plan = self.change(plan, {"kind": "batch", **head, "buffer_share": 0.2})["plan"]
        need = plan["components"][0]["lines"][0]["purchased_g"]
        self.priced(CHICKEN, ("tray", round(need * 0.9 / 5), 3.0))
        before, after, saving = self.taken("waste")
        self.assertAlmostEqual(saving, 3.0, delta=1.5)
        chicken = [one["components"][0] for one in (before, after)]
        self.assertLess(chicken[1]["cooked_g"], chicken[0]["cooked_g"])
        self.assertGreaterEqual(chicken[1]["cooked_g"], chicken[1]["needed_g"] - 0.05)

    def test_packs_are_shared_with_another_batch(self) -> None:
        other = planned(self.who)
        self.priced(BULGUR, ("sack", 20_000, 30.0))
        way = next(one for one in self.ways() if one["kind"] == "together")
        self.assertEqual((way["with_id"], way["saving"]), (str(other.batch.id), 30.0))
        self.assertIn("Bulgur wheat", way["detail"])
