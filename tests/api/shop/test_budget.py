"""What a container of a batch may cost: in the plan as a limit, shown, and among the ways out."""

from __future__ import annotations

from typing import Any

from tests.api.shop.test_costs import BULGUR, Priced
from tests.kitchens import CHICKEN
from tests.support import database
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput
from yantai.work.recipes.recipes import save_recipe

Json = dict[str, Any]


class Budget(Priced):
    def setUp(self) -> None:
        super().setUp()
        self.price_everything()

    def limited(self, budget: float | None, status: int = 200) -> Json:
        plan = self.get(f"/batches/{self.batch}/plan")
        head = {name: plan["batch"][name] for name in ("name", "cook_on", "step_g", "buffer_share")}
        answer = self.change(plan, {"kind": "batch", **head, "budget": budget}, status=status)
        return dict(answer if status != 200 else answer["plan"])

    def cost(self, row: Json) -> Json:
        return next(dict(gauge) for gauge in row["gauges"] if gauge["nutrient"] == "cost")

    def by_hand(self, plan: Json) -> list[float]:
        """What each container costs: packs of one size, so a gram costs the price over the size; what is cooked of a
        line over what its pot gives, times what is filled."""
        each = {item["name"]: item for item in self.get(f"/batches/{self.batch}/shopping")["items"]}
        per_g = {}
        for name, item in each.items():
            pack = self.get(f"/foods/{item['food_id']}")["packs"][0]
            per_g[name] = pack["price"] / pack["grams"]
        pots = {
            component["id"]: sum(line["purchased_g"] * per_g.get(line["name"], 0.0) for line in component["lines"])
            / component["cooked_g"]
            for component in plan["components"]
        }
        return [sum(cell["grams"] * pots[cell["component_id"]] for cell in row["cells"]) for row in plan["rows"]]

    def test_without_one_no_cost_is_told_and_nothing_moves(self) -> None:
        plan = self.get(f"/batches/{self.batch}/plan")
        self.assertFalse([gauge for row in plan["rows"] for gauge in row["gauges"] if gauge["nutrient"] == "cost"])
        wide = self.limited(5000)
        self.assertEqual(
            [[cell["grams"] for cell in row["cells"]] for row in plan["rows"]],
            [[cell["grams"] for cell in row["cells"]] for row in wide["rows"]],
        )

    def test_what_a_container_costs_by_hand(self) -> None:
        plan = self.limited(5000)
        for row, cost in zip(plan["rows"], self.by_hand(plan), strict=True):
            gauge = self.cost(row)
            self.assertAlmostEqual(gauge["amount"], cost, places=4)
            self.assertEqual(
                (gauge["side"], gauge["target"], gauge["miss"], gauge["at_least"]), ("at most", 5000, 0, False)
            )

    def test_it_is_kept_where_the_bands_allow(self) -> None:
        free = self.limited(5000)
        dearest = max(self.cost(row)["amount"] for row in free["rows"])
        plan = self.limited(round(dearest * 0.985, 2))
        for row, before in zip(plan["rows"], free["rows"], strict=True):
            self.assertTrue(all(gauge["miss"] == 0 for gauge in row["gauges"]), row["gauges"])
            self.assertLessEqual(self.cost(row)["amount"], self.cost(before)["amount"] + 0.05)
        self.assertAlmostEqual(self.by_hand(plan)[0], self.cost(plan["rows"][0])["amount"], places=1)

    def test_out_of_reach_it_is_missed_and_there_are_ways_out(self) -> None:
        free = self.limited(5000)
        least = min(self.cost(row)["amount"] for row in free["rows"])
        plan = self.limited(round(least * 0.6, 2))
        row = plan["rows"][0]
        self.assertGreater(self.cost(row)["miss"], 0)
        told = next(one for one in plan["to_settle"] if one["row_id"] == row["id"])
        self.assertIn("cost", told["title"])
        ways = self.get(f"/batches/{self.batch}/rows/{row['id']}/ways")
        budget = next(way for way in ways if way["kind"] == "budget")
        after = self.change(plan, *budget["changes"])["plan"]
        self.assertTrue(all(gauge["miss"] == 0 for gauge in after["rows"][0]["gauges"]))
        self.assertGreater(after["batch"]["budget"], plan["batch"]["budget"])

    def test_every_way_that_is_offered_meets_the_budget_when_it_is_taken(self) -> None:
        """Another food and component cost by the packs that are then bought, which are others than those of a guess: a
        small pack is dear, a large one cheap."""
        for food in ("ground-turkey-93-lean-raw", "ground-chicken-raw", "turkey-breast-skinless-raw"):
            self.priced(food, ("taste", 150, 4.0), ("tray", 700, 2.5))
        for food in ("rice-white-long-grain-dry", "millet-dry", "quinoa-dry"):
            self.priced(food, ("taste", 100, 2.0), ("bag", 900, 1.0))
        line = LineInput(food_id=reference_id("rice-white-long-grain-dry"), purchased_g=500)
        rice = ComponentInput(name="Plain rice", role="grain", method="boiled", maximum_g=900, lines=[line])
        save_recipe(database(), self.who, RecipeInput(name="Rice", components=[rice]), None)
        costs = [self.cost(row)["amount"] for row in self.limited(5000)["rows"]]
        taken = set()
        for share in (0.9, 0.8, 0.65):
            plan = self.limited(round(max(costs) * share, 2))
            missed = [row for row in plan["rows"] if self.cost(row)["miss"]]
            for row in missed[:2]:
                for way in self.get(f"/batches/{self.batch}/rows/{row['id']}/ways"):
                    with self.subTest(share=share, way=way["title"]):
                        answer = self.change(plan, *way["changes"], confirmed=True)
                        after = next(one for one in answer["plan"]["rows"] if one["id"] == row["id"])
                        self.assertEqual([gauge for gauge in after["gauges"] if gauge["miss"]], [])
                        taken.add(way["kind"])
                        plan = self.change(answer["plan"], *answer["inverse"], confirmed=True)["plan"]
        self.assertLessEqual({"budget", "food"}, taken)

    def test_a_food_without_a_price_makes_it_a_lower_bound(self) -> None:
        save_supply(database(), self.who, reference_id(BULGUR), SupplyInput(packs=[]))
        plan = self.limited(5000)
        self.assertTrue(all(self.cost(row)["at_least"] for row in plan["rows"]))

    def test_a_new_price_is_a_new_plan(self) -> None:
        before = self.limited(5000)
        save_supply(
            database(), self.who, reference_id(CHICKEN),
            SupplyInput(packs=[PackInput(name="tray", grams=400, price=99)]),
        )  # fmt: skip
        after = self.get(f"/batches/{self.batch}/plan")
        self.assertGreater(self.cost(after["rows"][0])["amount"], self.cost(before["rows"][0])["amount"] + 5)

    def test_what_makes_no_sense_is_told_and_it_is_undone(self) -> None:
        self.assert_fault(self.limited(0, status=422), "/changes/0/budget", "0.01")
        plan = self.limited(4.5)
        self.assertEqual(plan["batch"]["budget"], 4.5)
        log = self.get(f"/batches/{self.batch}/history")
        self.assertIn("a container costs at most 4.50 instead of not set", str(log))
        self.assertIsNone(self.limited(None)["batch"]["budget"])

    def test_a_copy_and_a_document_have_it_too(self) -> None:
        self.limited(3.75)
        copy = self.send(
            "POST", f"/batches/{self.batch}/copies", {"name": "Again", "cook_on": "2026-12-20"}, status=201
        )
        self.assertEqual(copy["batch"]["budget"], 3.75)
        document = self.client.get(f"/api/v1/batches/{self.batch}/document").json()
        self.assertEqual((document["version"], document["budget"]), (6, 3.75))
        chicken = next(
            one for part in document["components"] for one in part["ingredients"] if "Chicken" in one["name"]
        )
        self.assertGreater(chicken["price"], 0)

    def test_another_kitchen_takes_the_budget_and_not_the_prices(self) -> None:
        self.limited(3.75)
        document = self.client.get(f"/api/v1/batches/{self.batch}/document").text
        other = self.other_kitchen()
        taken = other.post("/api/v1/batches/import", json={"text": document, "cook_on": "2026-12-20"}).json()
        self.assertTrue(any("A container costs at most 3.75." in note for note in taken["notes"]), taken)
        plan = other.get(f"/api/v1/batches/{taken['batch_id']}/plan").json()
        gauge = self.cost(plan["rows"][0])
        self.assertEqual((gauge["target"], gauge["amount"], gauge["at_least"]), (3.75, 0, True))
