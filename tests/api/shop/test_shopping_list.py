"""What is to be bought: each food once, over components and batches, in the order of the aisles, in packs."""

from __future__ import annotations

import csv
import io
import math
import uuid
from collections import defaultdict
from decimal import ROUND_HALF_UP, Decimal
from typing import Any

from pypdf import PdfReader

from tests.api.case import API, ApiCase
from tests.kitchens import CHICKEN, planned
from tests.support import database
from yantai.core.shopping.packs import Sold
from yantai.core.targets.targets import Figures
from yantai.formats.shopping_document import ShoppingDocument
from yantai.store import tables
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput
from yantai.work.recipes.recipes import save_recipe

Json = dict[str, Any]


class Shopping(ApiCase):
    def shopping(self, plan: Json, *others: Json) -> Json:
        wanted = {"with": [other["batch"]["id"] for other in others]}
        return dict(self.get(f"/batches/{plan['batch']['id']}/shopping", **wanted))

    def item(self, found: Json, name: str) -> Json:
        return next(item for item in found["items"] if item["name"] == name)

    def packs(self, food: str, *packs: tuple[str, float, float | None], drained: float | None = None) -> None:
        given = [PackInput(name=name, grams=grams, price=price, drained_g=drained) for name, grams, price in packs]
        save_supply(database(), self.who, reference_id(food), SupplyInput(packs=given))

    def test_each_food_once_as_the_containers_need_it(self) -> None:
        """Against the sum over all containers: what is in them, back through the yield and what is trimmed off."""
        plan = self.plan()
        found = self.shopping(plan)
        bought: dict[str, float] = defaultdict(float)
        for place, component in enumerate(plan["components"]):
            in_containers = sum(row["count"] * row["cells"][place]["grams"] for row in plan["rows"])
            self.assertAlmostEqual(in_containers, component["needed_g"], delta=0.1)
            for line in component["lines"]:
                share = line["cooked_g"] / component["cooked_g"]
                cooked = component["cooked_g"] * share
                raw = cooked / line["expected"]["expected"] / line["retained_share"] if cooked else line["edible_g"]
                bought[line["name"]] += raw / (1 - line["refuse_share"])
        bought.pop("Water")
        self.assertEqual({item["name"] for item in found["items"]}, set(bought))
        for item in found["items"]:
            self.assertAlmostEqual(item["grams"], bought[item["name"]], delta=0.1)
            self.assertAlmostEqual(item["grams"], sum(need["grams"] for need in item["needs"]))

    def test_without_any_price_no_cost_is_told(self) -> None:
        found = self.shopping(self.plan())
        self.assertEqual((found["cost"], found["without_price"]), (None, len(found["items"])))

    def test_in_the_order_of_the_aisles(self) -> None:
        aisles = [item["aisle"] for item in self.shopping(self.plan())["items"]]
        self.assertEqual(
            aisles, sorted(aisles, key=["dry goods", "oils and condiments", "dairy and eggs", "meat"].index)
        )
        self.assertEqual(len(set(aisles)), 4)

    def test_several_batches_are_bought_in_one_trip(self) -> None:
        one, other = self.plan(), dict(self.get(f"/batches/{planned(self.who).batch.id}/plan"))
        alone = self.shopping(one)
        self.assertEqual([batch["id"] for batch in alone["others"]], [other["batch"]["id"]])
        both = self.shopping(one, other)
        self.assertEqual((len(both["batches"]), both["others"]), (2, []))
        for item in alone["items"]:
            twice = self.item(both, item["name"])
            self.assertAlmostEqual(twice["grams"], 2 * item["grams"])
            self.assertEqual(len({need["batch_id"] for need in twice["needs"]}), 2)

    def test_in_packs_at_least_cost_and_what_a_little_more_saves(self) -> None:
        self.packs(CHICKEN, ("tray", 400, 3.1), ("large tray", 1000, 6.9))
        found = self.shopping(self.plan())
        chicken = self.item(found, "Chicken thigh, skinless")
        cheapest, *others = chicken["choices"]
        packed = sum(pack["count"] * pack["grams"] for pack in cheapest["packs"])
        self.assertAlmostEqual(packed - chicken["grams"], cheapest["left_g"])
        prices = {"tray": 3.1, "large tray": 6.9}
        self.assertAlmostEqual(cheapest["cost"], sum(p["count"] * prices[p["name"]] for p in cheapest["packs"]))
        self.assertEqual(found["cost"], cheapest["cost"])
        self.assertEqual(found["without_price"], len(found["items"]) - 1)
        for other in others:
            self.assertGreater(other["cost"], cheapest["cost"])
            self.assertLess(other["left_g"], cheapest["left_g"])

    def test_a_can_counts_by_what_it_drains_to(self) -> None:
        """Five hundred grams of drained chickpeas are three cans of 400 g that drain to 240 g."""
        line = LineInput(food_id=reference_id("chickpeas-canned-drained"), purchased_g=500)
        recipe = RecipeInput(name="Peas", components=[ComponentInput(name="Chickpeas", maximum_g=900, lines=[line])])
        saved = save_recipe(database(), self.who, recipe, None)
        self.plan()
        target = self.get("/clients")[0]["targets"][0]["id"]
        dish = {"recipe_id": str(saved.id), "eaters": [{"target_id": target, "count": 2}]}
        plan = self.send("POST", "/batches", {"name": "Peas", "cook_on": "2026-12-06", "dishes": [dish]}, status=201)
        fixed = {
            "kind": "raw", "component_id": plan["components"][0]["id"], "fixed": True,
            "lines": [{"line_id": plan["components"][0]["lines"][0]["id"], "purchased_g": 500}],
        }  # fmt: skip
        plan = self.change(plan, fixed)["plan"]
        self.packs("chickpeas-canned-drained", ("can", 400, 0.85), drained=240)
        peas = self.shopping(plan)["items"][0]
        self.assertEqual([(pack["count"], pack["grams"]) for pack in peas["choices"][0]["packs"]], [(3, 240)])
        self.assertEqual((peas["choices"][0]["left_g"], peas["choices"][0]["cost"], peas["by_net"]), (220, 2.55, False))
        self.packs("chickpeas-canned-drained", ("can", 400, 0.85))
        peas = self.shopping(plan)["items"][0]
        self.assertEqual((peas["choices"][0]["packs"][0]["count"], peas["by_net"]), (2, True))

    def test_it_goes_out_as_csv(self) -> None:
        self.packs(CHICKEN, ("=tray", 400, 3.1))
        plan = self.plan()
        answer = self.client.get(f"{API}/batches/{plan['batch']['id']}/shopping.csv")
        self.assertEqual(answer.headers["content-type"], "text/csv; charset=utf-8")
        rows = list(csv.DictReader(io.StringIO(answer.text)))
        items = self.shopping(plan)["items"]
        self.assertEqual([row["food"] for row in rows], [item["name"] for item in items])
        for row, item in zip(rows, items, strict=True):
            self.assertAlmostEqual(float(row["needed_g"]), item["grams"], delta=0.05)
            chosen = next(iter(item["choices"]), None)
            self.assertEqual(row["cost"], "" if chosen is None else f"{chosen['cost']:.2f}")
            self.assertEqual(bool(row["packs"]), chosen is not None)
        chicken = next(row for row in rows if row["food"] == "Chicken thigh, skinless")
        # The packs begin with their number, so no spreadsheet takes them for a formula.
        self.assertRegex(chicken["packs"], r"^\d+ x =tray 400 g$")
        self.assertEqual(chicken["for"], "Chicken (Bowls)")

    def test_it_goes_out_as_a_page_to_print(self) -> None:
        """What is read back from the page: every food that is to buy, in its packs, with its price in the currency."""
        self.packs(CHICKEN, ("#tray[1]", 400, 3.1))
        plan = self.plan()
        settings = {
            key: value for key, value in self.get("/settings").items() if key not in ("workspace", "free_kinds")
        }
        self.send("PUT", "/settings", {**settings, "currency": "EUR"})
        path = f"{API}/batches/{plan['batch']['id']}/shopping.pdf"
        answer = self.client.get(path)
        self.assertEqual(answer.headers["content-type"], "application/pdf")
        pages = [" ".join(page.extract_text().split()) for page in PdfReader(io.BytesIO(answer.content)).pages]
        items = self.shopping(plan)["items"]
        for item in items:
            self.assertIn(item["name"], pages[0])
        chosen = self.item({"items": items}, "Chicken thigh, skinless")["choices"][0]
        self.assertIn(f"{chosen['packs'][0]['count']} × #tray[1] 400 g", pages[0])
        self.assertIn(f"€{chosen['cost']:.2f}", pages[0])
        self.assertEqual(self.client.get(path).content, answer.content)

    def sold(self, food: str, *packs: PackInput) -> None:
        save_supply(database(), self.who, reference_id(food), SupplyInput(packs=list(packs)))

    def test_by_weight_it_is_what_is_needed_to_the_cent(self) -> None:
        self.sold(CHICKEN, PackInput(name="at the counter", grams=1000, price=8.9, sold=Sold.WEIGHT))
        plan = self.plan()
        chicken = self.item(self.shopping(plan), "Chicken thigh, skinless")
        (choice,) = chicken["choices"]
        ((pack, left),) = [(choice["packs"][0], choice["left_g"])]
        self.assertAlmostEqual(pack["grams"], chicken["grams"])
        self.assertEqual((pack["count"], pack["sold"], left), (1, "by weight", 0))
        cents = Decimal(repr(pack["grams"])) * 890 / 1000
        self.assertEqual(Decimal(str(choice["cost"])) * 100, cents.quantize(Decimal(1), ROUND_HALF_UP))
        self.assertEqual(pack["price"], choice["cost"])
        # No whole pack decides how much is cooked, and one more of them is nothing.
        line = next(line for one in plan["components"] for line in one["lines"] if line["name"] == chicken["name"])
        self.assertEqual((line["packs"], [one["packs"] for one in chicken["enough"]]), ([], [0]))
        rows = self.client.get(f"{API}/batches/{plan['batch']['id']}/shopping.csv").text
        self.assertIn(f"{round(pack['grams'], 1):g} g at the counter", rows)

    def test_by_the_piece_it_is_whole_pieces(self) -> None:
        self.sold(CHICKEN, PackInput(name="thigh", grams=110, price=0.9, sold=Sold.PIECE))
        chicken = self.item(self.shopping(self.plan()), "Chicken thigh, skinless")
        pack = chicken["choices"][0]["packs"][0]
        self.assertEqual((pack["count"], pack["sold"]), (math.ceil(chicken["grams"] / 110), "by the piece"))

    def test_a_pack_for_nothing_is_taken_and_one_without_a_price_is_passed_over_aloud(self) -> None:
        self.packs(CHICKEN, ("gift", 300, 0), ("tray", 400, 3.1), ("sack", 5000, None))
        chicken = self.item(self.shopping(self.plan()), "Chicken thigh, skinless")
        self.assertEqual({pack["name"] for pack in chicken["choices"][0]["packs"]}, {"gift"})
        self.assertEqual((chicken["choices"][0]["cost"], chicken["passed_over"]), (0, ["sack"]))

    def test_no_more_is_left_over_than_the_kitchen_allows(self) -> None:
        plan = self.plan()
        need = self.item(self.shopping(plan), "Chicken thigh, skinless")["grams"]
        self.packs(CHICKEN, ("tray", 100, 5), ("case", round(need * 1.5), 1))
        first, other = self.item(self.shopping(plan), "Chicken thigh, skinless")["choices"][:2]
        self.assertEqual((first["packs"][0]["name"], other["packs"][0]["name"]), ("case", "tray"))
        settings = {
            key: value for key, value in self.get("/settings").items() if key not in ("workspace", "free_kinds")
        }
        self.send("PUT", "/settings", {**settings, "most_left_share": 0.3})
        chicken = self.item(self.shopping(plan), "Chicken thigh, skinless")
        first, other = chicken["choices"][:2]
        self.assertEqual((first["packs"][0]["name"], other["packs"][0]["name"]), ("tray", "case"))
        self.assertEqual((first["left_g"] <= 0.3 * need, chicken["leaves_more"]), (True, False))
        self.packs(CHICKEN, ("case", round(need * 1.5), 1))
        chicken = self.item(self.shopping(plan), "Chicken thigh, skinless")
        self.assertEqual((len(chicken["choices"]), chicken["leaves_more"]), (1, True))
        refused = self.send("PUT", "/settings", {**settings, "most_left_share": -1}, status=422)
        self.assert_fault(refused, "/most_left_share", "0")

    def test_what_is_in_the_pan_is_bought(self) -> None:
        plan = self.plan()
        chicken = plan["components"][0]
        weigh = {"kind": "weigh", "component_id": chicken["id"], "vessels": [{"gross_g": chicken["cooked_g"]}]}
        found = self.shopping(self.change(plan, weigh)["plan"])
        self.assertEqual(found["in_the_pan"], ["Chicken"])
        self.assertNotIn("Chicken thigh, skinless", [item["name"] for item in found["items"]])

    def test_what_is_not_here_is_told(self) -> None:
        plan = self.plan()
        path = f"{API}/batches/{plan['batch']['id']}/shopping"
        self.assertEqual(self.client.get(path, params={"with": str(reference_id(CHICKEN))}).status_code, 404)
        self.assertEqual(self.other_kitchen().get(path).status_code, 404)

    def test_what_is_added_at_eating_is_bought_or_left_to_the_clients(self) -> None:
        plan = self.plan()
        part = plan["dishes"][0]["parts"][0]
        place = {"kind": "place", "dish_id": plan["dishes"][0]["id"], "component_id": part["component_id"]}
        plan = self.change(plan, {**place, "place": "at eating"})["plan"]
        path = f"/batches/{plan['batch']['id']}/shopping"
        component = next(one for one in plan["components"] if one["id"] == part["component_id"])
        self.assertGreater(component["fresh_g"], 0)
        bought = {item["name"]: item["grams"] for item in self.get(path)["items"]}
        left = {item["name"]: item["grams"] for item in self.get(path, fresh=False)["items"]}
        for line in component["lines"]:
            if line["name"] != "Water":
                elsewhere = sum(
                    other["purchased_g"]
                    for one in plan["components"] if one["id"] != component["id"]
                    for other in one["lines"] if other["name"] == line["name"]
                )  # fmt: skip
                self.assertAlmostEqual(left.get(line["name"], 0), elsewhere, delta=0.1)
                self.assertAlmostEqual(bought[line["name"]], elsewhere + line["purchased_g"], delta=0.1)

    def test_extras_of_the_days_are_bought_for_as_many_days_as_there_are_containers(self) -> None:
        """Two of the client's slots have containers for at most so many days: each day has its extra once."""
        plan = self.plan()
        row = plan["rows"][0]
        with database().workspace(self.who.workspace_id) as session:
            client = session.get_one(tables.Client, uuid.UUID(row["client_id"]))
            day = tables.Day(
                id=uuid.uuid4(), workspace_id=client.workspace_id, client_id=client.id, day_type=row["day_type"],
                position=9, figures=Figures(protein_g=150),
            )  # fmt: skip
            session.add(day)
            session.flush()
            session.add(
                tables.DayExtra(
                    workspace_id=client.workspace_id, day_id=day.id, position=0,
                    food_id=reference_id("almonds-raw"), grams=30,
                )
            )  # fmt: skip
        days = max(
            one["count"] for one in plan["rows"]
            if (one["client_id"], one["day_type"]) == (row["client_id"], row["day_type"])
        )  # fmt: skip
        path = f"/batches/{plan['batch']['id']}/shopping"
        self.assertNotIn("Almonds", {item["name"] for item in self.get(path)["items"]})
        almonds = self.item(self.get(path, extras=True), "Almonds")
        self.assertAlmostEqual(almonds["grams"], 30 * days)
        self.assertEqual(
            [need["component"] for need in almonds["needs"]], [f"extras of {row['client']}, without peel or shell"]
        )

    def test_how_sure_the_packs_suffice_and_what_one_more_or_fewer_does(self) -> None:
        """Against a normal distribution written down here: a pot is log-normal, its low end the 1 % quantile."""
        plan = self.plan()
        self.packs(CHICKEN, ("tray", 400, 3.1))
        pot = next(one for one in plan["components"] if one["name"] == "Chicken")
        item = self.item(self.shopping(plan), "Chicken thigh, skinless")
        self.assertEqual([one["packs"] for one in item["enough"]], [-1, 0, 1])
        sigma = math.log(pot["cooked_g"] / pot["cooked_low_g"]) / 2.326
        for one in item["enough"]:
            cooked = pot["cooked_g"] * one["grams"] / item["grams"]
            z = math.log(cooked / pot["needed_g"]) / sigma
            self.assertAlmostEqual(one["share"], (1 + math.erf(z / math.sqrt(2))) / 2, places=6)
        self.assertEqual(self.item(self.shopping(plan), "Salt, table")["enough"], [])

    def test_of_a_food_in_several_pots_all_have_to_suffice(self) -> None:
        """Two batches of the same: the pots come out independently, so the probabilities are multiplied."""
        one, other = self.plan(), dict(self.get(f"/batches/{planned(self.who).batch.id}/plan"))
        self.packs(CHICKEN, ("tray", 400, 3.1))
        pots = [next(pot for pot in plan["components"] if pot["name"] == "Chicken") for plan in (one, other)]
        item = self.item(self.shopping(one, other), "Chicken thigh, skinless")
        self.assertEqual(len(item["needs"]), 2)
        for told in item["enough"]:
            share = 1.0
            for pot in pots:
                sigma = math.log(pot["cooked_g"] / pot["cooked_low_g"]) / 2.326
                z = math.log(pot["cooked_g"] * told["grams"] / item["grams"] / pot["needed_g"]) / sigma
                share *= (1 + math.erf(z / math.sqrt(2))) / 2
            self.assertAlmostEqual(told["share"], share, places=6)

    def test_a_pot_that_does_not_spread_suffices_or_not(self) -> None:
        """The chicken of one of two batches is in pieces, which suffice, or with a pack fewer do not."""
        one, other = self.plan(), dict(self.get(f"/batches/{planned(self.who).batch.id}/plan"))
        chicken = other["components"][0]["id"]
        school = {"kind": "school", "component_id": chicken, "school": "pieces", "pieces": 40}
        other = self.change(other, school)["plan"]
        self.packs(CHICKEN, ("tray", 400, 3.1))
        pot = one["components"][0]
        item = self.item(self.shopping(one, other), "Chicken thigh, skinless")
        fewer, chosen, _ = item["enough"]
        self.assertIsNone(other["components"][0]["enough"])
        sigma = math.log(pot["cooked_g"] / pot["cooked_low_g"]) / 2.326
        z = math.log(pot["cooked_g"] * chosen["grams"] / item["grams"] / pot["needed_g"]) / sigma
        self.assertAlmostEqual(chosen["share"], (1 + math.erf(z / math.sqrt(2))) / 2, places=6)
        counted = other["components"][0]
        self.assertLess(counted["cooked_g"] * fewer["grams"] / item["grams"], counted["needed_g"])
        self.assertEqual(fewer["share"], 0)

    def test_surer_is_more_raw_and_the_pot_says_so(self) -> None:
        plan = self.plan()
        head = {name: plan["batch"][name] for name in ("name", "cook_on", "step_g", "buffer_share")}
        sure = self.change(plan, {"kind": "batch", **head, "buffer_share": 0, "sure_share": 0.95})["plan"]
        for before, after in zip(plan["components"], sure["components"], strict=True):
            if after["enough"] is None:
                continue
            self.assertAlmostEqual(after["enough"], 0.95, places=6, msg=after["name"])
            self.assertLess(before["enough"], 0.95)
            sigma = math.log(after["cooked_g"] / after["cooked_low_g"]) / 2.326
            self.assertAlmostEqual(after["cooked_g"], after["needed_g"] * math.exp(1.644854 * sigma), delta=0.1)
        self.assertTrue(any(one["enough"] for one in sure["components"]))
        grams = [[[cell["grams"] for cell in row["cells"]] for row in one["rows"]] for one in (plan, sure)]
        self.assertEqual(grams[0], grams[1])
        refused = self.change(sure, {"kind": "batch", **head, "sure_share": 1.0}, status=422)
        self.assert_fault(refused, "/changes/0/sure_share", "0.995")

    def test_in_the_order_in_which_this_coach_walks(self) -> None:
        plan = self.plan()
        usual = self.get("/aisles")
        self.assertFalse(usual["is_own"])
        own = [
            "meat",
            "oils and condiments",
            *(one for one in usual["aisles"] if one not in ("meat", "oils and condiments")),
        ]
        saved = self.send("PUT", "/aisles", {"aisles": own})
        self.assertEqual((saved["aisles"], saved["is_own"]), (own, True))
        aisles = list(dict.fromkeys(item["aisle"] for item in self.shopping(plan)["items"]))
        self.assertEqual(aisles, [one for one in own if one in aisles])
        self.assertEqual(aisles[:2], ["meat", "oils and condiments"])
        self.assert_fault(self.send("PUT", "/aisles", {"aisles": ["moon"]}, status=422), "/aisles/0", "no aisle “moon”")
        twice = self.send("PUT", "/aisles", {"aisles": ["meat", "meat"]}, status=422)
        self.assert_fault(twice, "/aisles", "twice")
        self.assertEqual(self.send("PUT", "/aisles", {"aisles": []})["aisles"], usual["aisles"])

    def test_as_an_open_document(self) -> None:
        self.packs(CHICKEN, ("tray", 400, 3.1), ("large tray", 1000, 6.9))
        plan = self.plan()
        answer = self.client.get(f"{API}/batches/{plan['batch']['id']}/shopping.json")
        self.assertEqual(answer.headers["content-type"], "application/json")
        document = ShoppingDocument.model_validate_json(answer.text)
        found = self.shopping(plan)
        self.assertEqual([item.food for item in document.items], [item["name"] for item in found["items"]])
        for item, shown in zip(document.items, found["items"], strict=True):
            self.assertAlmostEqual(item.needed_g, sum(need.grams for need in item.needs))
            self.assertAlmostEqual(item.needed_g, item.in_house_g + item.to_buy_g, places=6)
            self.assertEqual(item.cost, shown["choices"][0]["cost"] if shown["choices"] else None)
            if item.packs:
                bought = sum(pack.grams * pack.count for pack in item.packs)
                self.assertAlmostEqual(bought, item.to_buy_g + (item.left_g or 0), delta=0.06)

    def test_amounts_as_they_are_picked_up(self) -> None:
        """Onions of 110 g each, so many that they suffice."""
        line = LineInput(food_id=reference_id("onion-raw"), purchased_g=500)
        recipe = RecipeInput(name="Onions", components=[ComponentInput(name="Onions", maximum_g=900, lines=[line])])
        saved = save_recipe(database(), self.who, recipe, None)
        self.plan()
        target = self.get("/clients")[0]["targets"][0]["id"]
        dish = {"recipe_id": str(saved.id), "eaters": [{"target_id": target, "count": 2}]}
        plan = self.send("POST", "/batches", {"name": "Onions", "cook_on": "2026-12-06", "dishes": [dish]}, status=201)
        onion = self.shopping(plan)["items"][0]
        count = -(-onion["to_buy_g"] // 110)
        if count > 2:
            self.assertEqual(onion["picked"], f"about {count:.0f} medium ones")
        self.assertEqual(onion["pot_id"], plan["components"][0]["id"])
