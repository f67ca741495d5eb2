"""Batches of several dishes: made, grown and shrunk, pots shared and split, choices, copies; and what is refused."""

from __future__ import annotations

import json
import uuid
from typing import Any

from tests.api.case import API, ApiCase
from tests.kitchens import CHICKEN, bowl, from_parts, line, planned
from tests.support import database
from yantai.formats.plan_document import read_plan
from yantai.formats.plan_result import compute_plan
from yantai.work.clients.clients import save_client
from yantai.work.clients.inputs import ClientInput, TargetInput
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, RecipeInput
from yantai.work.recipes.recipes import save_recipe

Json = dict[str, Any]


class Dishes(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.first = planned(self.who)
        self.parts = save_recipe(database(), self.who, from_parts(), None)
        self.clients = {client["name"]: client for client in self.get("/clients")}

    def target(self, name: str, place: int = 0) -> str:
        return str(self.clients[name]["targets"][place]["id"])

    def made(self, *dishes: tuple[str, list[tuple[str, int]]], status: int = 201, **more: Any) -> Json:
        body = {
            "name": "Sunday",
            "cook_on": "2026-12-06",
            "dishes": [
                {"recipe_id": recipe, "eaters": [{"target_id": key, "count": count} for key, count in eaters]}
                for recipe, eaters in dishes
            ],
            **more,
        }
        return dict(self.send("POST", "/batches", body, status=status))

    def two(self) -> Json:
        """The bowl for Ada's lunch, and the same recipe once more for her dinner and Milo."""
        recipe = str(self.first.dishes[0].recipe_id)
        return self.made(
            (recipe, [(self.target("Ada Vance"), 5)]),
            (recipe, [(self.target("Ada Vance", 1), 3), (self.target("Milo Brandt"), 4)]),
        )

    def grouped(self) -> Json:
        return self.made((str(self.parts.id), [(self.target("Ada Vance"), 5), (self.target("Milo Brandt"), 4)]))

    def component(self, plan: Json, name: str, place: int = 0) -> Json:
        found: list[Json] = [one for one in plan["components"] if one["name"] == name]
        return found[place]

    def refused(self, plan: Json, change: Json, pointer: str, words: str) -> None:
        self.assert_fault(self.change(plan, change, status=422), f"/changes/0/{pointer}", words)

    def test_two_dishes_are_one_batch_with_pots_of_their_own(self) -> None:
        plan = self.two()
        self.assertEqual([len(dish["parts"]) for dish in plan["dishes"]], [3, 3])
        self.assertEqual(len(plan["components"]), 6)
        self.assertEqual([row["count"] for row in plan["rows"]], [5, 3, 4])
        self.assertEqual(len(plan["shareable"]), 3)
        (brief,) = [one for one in self.get("/batches") if one["name"] == "Sunday"]
        self.assertEqual((brief["containers"], brief["components"], len(brief["dishes"])), (12, 6, 2))

    def test_one_pot_is_the_sum_of_what_its_dishes_take_and_its_weight_moves_all(self) -> None:
        plan = self.two()
        one, other = (self.component(plan, "Bulgur", place) for place in (0, 1))
        share = {"kind": "share-pot", "component_id": other["id"], "with_component_id": one["id"]}
        shared = self.change(plan, share)["plan"]
        pot = self.component(shared, "Bulgur")
        self.assertEqual(len(shared["components"]), 5)
        taken = [
            part["needed_g"] for dish in shared["dishes"] for part in dish["parts"] if part["component_id"] == pot["id"]
        ]
        self.assertAlmostEqual(sum(taken), pot["needed_g"])
        self.assertAlmostEqual(pot["needed_g"], one["needed_g"] + other["needed_g"])
        for before, after in zip(plan["rows"], shared["rows"], strict=True):
            self.assertEqual([cell["grams"] for cell in after["cells"]], [cell["grams"] for cell in before["cells"]])
        short = self.change(shared, self.weigh(pot, 0.7 * pot["needed_g"]), confirmed=True)["plan"]
        for dish, before, after in zip(shared["dishes"], taken, self.takes(short, pot["id"]), strict=True):
            self.assertLess(after, before, dish["name"])
        self.assertLessEqual(sum(self.takes(short, pot["id"])), 0.7 * pot["needed_g"] + 1e-6)
        self.refused(short, {"kind": "split-pot", "component_id": pot["id"], "dish_id": shared["dishes"][0]["id"]},
                     "component_id", "weighed. Take the weight back")  # fmt: skip

    def test_an_allergen_in_a_shared_pot_reaches_every_dish(self) -> None:
        """Milo must not have milk and eats of both dishes; butter goes into the one pot of bulgur."""
        recipe, milo = str(self.first.dishes[0].recipe_id), (self.target("Milo Brandt"), 2)
        plan = self.made((recipe, [(self.target("Ada Vance"), 3), milo]), (recipe, [milo]))
        one, other = (self.component(plan, "Bulgur", place)["id"] for place in (0, 1))
        shared = self.change(plan, {"kind": "share-pot", "component_id": other, "with_component_id": one})["plan"]
        self.assertTrue(all(self.cell(row, one)["grams"] for row in shared["rows"]))
        butter = {"kind": "add-line", "component_id": one, "food_id": self.food("butter-unsalted"), "purchased_g": 40}
        rows = self.change(shared, butter)["plan"]["rows"]
        reached = [row for row in rows if row["client"] == "Milo Brandt"]
        self.assertEqual(len({row["dish_id"] for row in reached}), 2)
        for row in rows:
            cell = self.cell(row, one)
            if row in reached:
                self.assertEqual((cell["grams"], [reason["word"] for reason in cell["left_out"]]), (0, ["milk"]))
            else:
                self.assertEqual(cell["left_out"], [])
                self.assertGreater(cell["grams"], 0)

    def cell(self, row: Json, component_id: str) -> Json:
        return next(cell for cell in row["cells"] if cell["component_id"] == component_id)

    def takes(self, plan: Json, component_id: str) -> list[float]:
        return [
            part["needed_g"]
            for dish in plan["dishes"]
            for part in dish["parts"]
            if part["component_id"] == component_id
        ]

    def grams(self, row: Json) -> list[float]:
        return [cell["grams"] for cell in row["cells"]]

    def weigh(self, component: Json, grams: float) -> Json:
        return {"kind": "weigh", "component_id": component["id"], "vessels": [{"gross_g": grams}]}

    def test_pots_that_are_not_the_same_are_not_merged(self) -> None:
        plan = self.two()
        bulgur, other = (self.component(plan, "Bulgur", place) for place in (0, 1))
        sauce = self.component(plan, "Sauce", 1)
        share = {"kind": "share-pot", "component_id": sauce["id"], "with_component_id": bulgur["id"]}
        self.refused(plan, share, "with_component_id", "they differ in method. Make them the same")
        salted = {
            "kind": "line", "component_id": other["id"], "line_id": other["lines"][2]["id"],
            "food_id": self.food("salt-table-dry"), "purchased_g": 60,
        }  # fmt: skip
        changed = self.change(plan, salted)["plan"]
        share |= {"component_id": other["id"]}
        self.refused(changed, share, "with_component_id", "% of one and .* of the other")
        both = {**share, "component_id": bulgur["id"]}
        self.refused(changed, both, "with_component_id", "one dish has both")
        weighed = self.change(changed, self.weigh(bulgur, bulgur["cooked_g"]))["plan"]
        self.refused(weighed, share, "with_component_id", "in the pan already")

    def food(self, key: str) -> str:
        return str(reference_id(key))

    def test_cooked_apart_is_a_dish_of_its_own_that_shares_the_other_pots(self) -> None:
        plan = self.two()
        milo = plan["rows"][2]
        sauce = next(cell for cell in milo["cells"] if cell["left_out"])
        apart = {"kind": "apart", "component_id": sauce["component_id"], "row_ids": [milo["id"]]}
        made = self.change(plan, apart)["plan"]
        dish = next(dish for dish in made["dishes"] if dish["name"].endswith("for Milo Brandt"))
        row = next(row for row in made["rows"] if row["id"] == milo["id"])
        self.assertEqual(row["dish_id"], dish["id"])
        own = self.component(made, "Sauce for Milo Brandt")
        self.assertEqual(made["components"][0]["id"], own["id"], "first in the order of work")
        self.assertTrue(row["cells"][2]["left_out"], "it still has milk in it")
        swap = {
            "kind": "line", "component_id": own["id"], "line_id": own["lines"][0]["id"],
            "food_id": self.food("soy-yogurt-sweetened"), "purchased_g": 500,
        }  # fmt: skip
        without = self.change(made, swap)["plan"]
        row = next(row for row in without["rows"] if row["id"] == milo["id"])
        self.assertEqual(row["cells"][2]["left_out"], [])
        self.assertGreater(row["cells"][2]["grams"], 0)
        chicken = row["cells"][0]["component_id"]
        self.assertEqual(len(self.takes(without, chicken)), 2, "the chicken is one pot still")

    def test_an_open_choice_is_told_and_a_barred_one_refused(self) -> None:
        plan = self.grouped()
        self.assertEqual(
            [point["title"] for point in plan["to_settle"] if "not chosen" in point["title"]],
            ["Ada Vance, lunch: base not chosen", "Milo Brandt, lunch: base not chosen"],
        )
        row = plan["rows"][0]
        rice, quinoa, chicken, _ = plan["dishes"][0]["parts"]
        self.assertEqual([cell["limit"] for cell in row["cells"]][:2], ["not chosen", "not chosen"])
        # What is missed before it is chosen is no point of its own.
        self.assertEqual(len([point for point in plan["to_settle"] if point["row_id"] == row["id"]]), 1)
        both = {"kind": "choice", "row_id": row["id"], "chosen": [rice["component_id"], quinoa["component_id"]]}
        self.refused(plan, both, "chosen", "takes 1 of base; 2 are chosen")
        self.refused(plan, {**both, "chosen": [chicken["component_id"]]}, "chosen", "no such part to choose")
        chosen = self.change(plan, {**both, "chosen": [quinoa["component_id"]]})["plan"]
        self.assertGreater(chosen["rows"][0]["cells"][1]["grams"], 0)
        self.assertNotIn("Ada Vance, lunch: base not chosen", [point["title"] for point in chosen["to_settle"]])

    def test_choices_are_spread_over_lines_and_what_is_barred_never_goes_in(self) -> None:
        eater = ClientInput(
            name="Sol Amberg",
            exclusions=["quinoa"],
            targets=[TargetInput(slot="lunch", protein_g=40, carbohydrate_g=50)],
        )
        sol = save_client(database(), self.who, eater, None)
        plan = self.made((str(self.parts.id), [(self.target("Ada Vance"), 5), (str(sol.targets[0].id), 2)]))
        spread = self.change(plan, {"kind": "spread", "dish_id": plan["dishes"][0]["id"]})["plan"]
        rice, quinoa, *_ = (part["component_id"] for part in spread["dishes"][0]["parts"])
        by_client: dict[str, list[tuple[str, int]]] = {}
        for row in spread["rows"]:
            (chosen,) = row["chosen"]
            by_client.setdefault(row["client"], []).append((chosen, row["count"]))
        self.assertEqual(sorted(count for _, count in by_client["Ada Vance"]), [2, 3])
        self.assertEqual(by_client["Sol Amberg"], [(rice, 2)])
        barred = {"kind": "choice", "row_id": spread["rows"][-1]["id"], "chosen": [quinoa]}
        self.refused(spread, barred, "chosen", "must not have Quinoa")
        same = self.change(spread, {"kind": "spread", "dish_id": plan["dishes"][0]["id"], "same": True})["plan"]
        self.assertEqual(len({row["chosen"][0] for row in same["rows"] if row["client"] == "Ada Vance"}), 1)

    def test_one_of_five_in_a_smaller_container(self) -> None:
        plan = self.two()
        row = plan["rows"][0]
        split = self.change(plan, {"kind": "split-row", "row_id": row["id"], "count": 1})["plan"]
        self.assertEqual([one["count"] for one in split["rows"]], [4, 1, 3, 4])
        room = {"kind": "containers", "row_id": split["rows"][1]["id"], "count": 1, "capacity_ml": 400}
        smaller = self.change(split, room)["plan"]
        self.assertLessEqual(smaller["rows"][1]["volume_ml"], 400 + 1e-6)
        self.assertEqual(self.grams(smaller["rows"][0]), self.grams(split["rows"][0]))
        merge = {"kind": "merge-row", "row_id": smaller["rows"][1]["id"], "into_row_id": row["id"]}
        merged = self.change(smaller, merge)["plan"]
        self.assertEqual([one["count"] for one in merged["rows"]], [5, 3, 4])
        self.refused(merged, {"kind": "split-row", "row_id": row["id"], "count": 5}, "count", "takes 1 to 4 of them")
        other = {"kind": "merge-row", "row_id": row["id"], "into_row_id": plan["rows"][1]["id"]}
        self.refused(merged, other, "into_row_id", "same client, meal, kind of day and dish")

    def test_out_of_the_plan_and_back_without_losing_it(self) -> None:
        plan = self.two()
        sauce = self.component(plan, "Sauce")
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": sauce["id"], "grams": 33}
        pinned = self.change(plan, pin)["plan"]
        aside = self.change(pinned, {"kind": "aside", "component_id": sauce["id"], "aside": True})["plan"]
        self.assertEqual([one["name"] for one in aside["aside"]], ["Sauce"])
        self.assertEqual(len(aside["rows"][0]["cells"]), 2)
        self.refused(aside, self.weigh(sauce, 500), "component_id", "out of the plan")
        back = self.change(aside, {"kind": "aside", "component_id": sauce["id"], "aside": False})["plan"]
        self.assertEqual([cell["grams"] for cell in back["rows"][0]["cells"]],
                         [cell["grams"] for cell in pinned["rows"][0]["cells"]])  # fmt: skip

    def test_what_would_leave_nothing_is_refused(self) -> None:
        plan = self.grouped()
        (dish,) = plan["dishes"]
        self.refused(plan, {"kind": "remove-dish", "dish_id": dish["id"]}, "dish_id", "at least one dish")
        for part in dish["parts"][:3]:
            change = {"kind": "remove-part", "dish_id": dish["id"], "component_id": part["component_id"]}
            plan = self.change(plan, change)["plan"]
        last = {"kind": "remove-part", "dish_id": dish["id"], "component_id": dish["parts"][3]["component_id"]}
        self.refused(plan, last, "component_id", "Nothing would be left")
        last = {"kind": "aside", "component_id": dish["parts"][3]["component_id"], "aside": True}
        self.refused(plan, last, "component_id", "Nothing would be left")

    def test_what_was_weighed_is_not_taken_out_silently(self) -> None:
        plan = self.two()
        chicken = self.component(plan, "Chicken")
        weighed = self.change(plan, self.weigh(chicken, chicken["cooked_g"]))["plan"]
        dish = plan["dishes"][0]["id"]
        out = {"kind": "remove-part", "dish_id": dish, "component_id": chicken["id"]}
        self.refused(weighed, out, "component_id", "cooked and weighed")
        self.refused(
            weighed, {"kind": "aside", "component_id": chicken["id"], "aside": True}, "component_id", "weighed"
        )
        gone = self.change(weighed, {"kind": "remove-dish", "dish_id": dish})["plan"]
        self.assertEqual(len(gone["dishes"]), 1)
        back = self.change(gone, {"kind": "remove-dish", "dish_id": dish, "removed": False})["plan"]
        self.assertEqual(self.component(back, "Chicken")["weighing"]["cooked_g"], round(chicken["cooked_g"], 3))

    def test_everything_left_out_is_told(self) -> None:
        eater = ClientInput(
            name="No Bowl",
            exclusions=["chicken", "bulgur", "yogurt"],
            targets=[TargetInput(slot="lunch", protein_g=40)],
        )
        nobody = save_client(database(), self.who, eater, None)
        plan = self.made((str(self.first.dishes[0].recipe_id), [(str(nobody.targets[0].id), 1)]))
        self.assertIn("No Bowl, lunch: nothing is in it", [point["title"] for point in plan["to_settle"]])

    def test_the_document_of_several_dishes_is_computed_alike_and_taken_in(self) -> None:
        plan = self.two()
        one, other = (self.component(plan, "Bulgur", place) for place in (0, 1))
        share = {"kind": "share-pot", "component_id": other["id"], "with_component_id": one["id"]}
        plan = self.change(plan, share)["plan"]
        text = self.client.get(f"{API}/batches/{plan['batch']['id']}/document").text
        result = compute_plan(read_plan(text))
        for row, container in zip(plan["rows"], result.containers, strict=True):
            grams = {cell["component_id"]: cell["grams"] for cell in row["cells"]}
            self.assertEqual(container.grams, {key: round(value, 3) for key, value in grams.items()})
        taken = self.send("POST", "/batches/import", {"text": text, "cook_on": "2026-12-13"}, status=201)
        again = self.get(f"/batches/{taken['batch_id']}/plan")
        self.assertEqual([len(dish["parts"]) for dish in again["dishes"]], [3, 3])
        self.assertEqual(len(again["components"]), 5)
        for before, after in zip(plan["rows"], again["rows"], strict=True):
            self.assertEqual([cell["grams"] for cell in after["cells"]], [cell["grams"] for cell in before["cells"]])
        lost = json.loads(text)
        lost["dishes"][1]["parts"] = lost["dishes"][1]["parts"][:1]
        refused = self.send("POST", "/batches/import", {"text": json.dumps(lost), "cook_on": "2026-12-13"}, status=422)
        self.assertRegex(refused["detail"], "is in no dish")

    def test_last_week_again_with_the_targets_of_today(self) -> None:
        plan = self.two()
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][2]["id"], "grams": 40}
        plan = self.change(plan, pin)["plan"]
        for component in plan["components"]:
            plan = self.change(plan, self.weigh(component, 1.02 * component["cooked_g"]), confirmed=True)["plan"]
        ada = self.clients["Ada Vance"]
        ada["targets"][0]["protein_g"] = 52
        targets = [{key: value for key, value in one.items() if key != "conflict"} for one in ada["targets"]]
        body = {key: ada[key] for key in ("name", "version", "allergens", "dislikes", "note")} | {"targets": targets}
        self.send("PUT", f"/clients/{ada['id']}", body)
        body = {"name": "Next Sunday", "cook_on": "2026-12-13"}
        again = self.send("POST", f"/batches/{plan['batch']['id']}/copies", body, status=201)
        self.assertEqual([row["count"] for row in again["rows"]], [5, 3, 4])
        self.assertEqual(again["rows"][0]["target"]["protein_g"], 52)
        self.assertEqual(again["rows"][0]["cells"][2]["pinned_g"], 40)
        self.assertTrue(all(one["weighing"] is None and not one["raw_fixed"] for one in again["components"]))
        self.assertEqual(self.component(again, "Chicken")["yield_source"], "measured in this kitchen")
        missing = self.send("POST", f"/batches/{uuid.uuid4()}/copies", body, status=404)
        self.assertEqual(missing["type"], "missing")

    def test_a_kit_is_weighed_raw_and_teaches_no_yield(self) -> None:
        plan = self.two()
        chicken = self.component(plan, "Chicken")
        kit = {
            "kind": "pot", "component_id": chicken["id"], "packed_raw": True, "kit_text": "Four hours on low.",
            "whole_pans": False,
        }  # fmt: skip
        packed = self.change(plan, kit)["plan"]
        raw = self.component(packed, "Chicken")
        self.assertGreater(raw["needed_g"], chicken["needed_g"])
        self.assertAlmostEqual(raw["yield_factor"], 1, places=1)
        weighed = self.change(packed, self.weigh(raw, round(raw["cooked_g"])))["plan"]
        self.assertEqual(self.component(weighed, "Chicken")["doubts"], [])
        self.refused(weighed, {**kit, "packed_raw": False}, "packed_raw", "is weighed raw. Take the weight back")
        learned = [one["name"] for one in self.get("/yields")]
        self.assertEqual(learned, [])

    def test_a_dish_that_comes_back_brings_what_went_with_it_and_no_more(self) -> None:
        """Milo had been taken out before: he stays out, however often the dish goes and comes."""
        plan = self.two()
        milo = next(row for row in plan["rows"] if row["client"] == "Milo Brandt")
        plan = self.change(plan, {"kind": "remove-row", "row_id": milo["id"], "removed": True})["plan"]
        there = [row["id"] for row in plan["rows"]]
        second = plan["dishes"][1]["id"]
        for _ in range(2):
            changed = self.change(plan, {"kind": "remove-dish", "dish_id": second, "removed": True})
            self.assertEqual([row["id"] for row in changed["plan"]["rows"]], there[:1])
            plan = self.change(changed["plan"], *changed["inverse"])["plan"]
            self.assertEqual([row["id"] for row in plan["rows"]], there)
            self.assertEqual(len(plan["dishes"]), 2)

    def test_deleted_is_in_no_list_and_comes_back(self) -> None:
        plan = self.two()
        gone = self.change(plan, {"kind": "delete", "deleted": True})["plan"]
        self.assertNotIn("Sunday", [one["name"] for one in self.get("/batches")])
        self.assertIsNotNone(self.get(f"/batches/{plan['batch']['id']}/plan")["batch"]["deleted_at"])
        self.change(gone, {"kind": "delete", "deleted": False})
        self.assertIn("Sunday", [one["name"] for one in self.get("/batches")])

    def test_twelve_dishes_and_no_more(self) -> None:
        recipe = str(self.first.dishes[0].recipe_id)
        plan = self.made(*[(recipe, [(self.target("Ada Vance"), 1)])] * 12)
        self.assertEqual(len(plan["components"]), 36)
        self.refused(plan, {"kind": "add-dish", "recipe_id": recipe}, "recipe_id", "12 dishes at most")
        self.assert_fault(self.made(*[(recipe, [(self.target("Ada Vance"), 1)])] * 13, status=422), "/dishes", "12")

    def test_a_pot_is_offered_once_however_many_dishes_have_the_like(self) -> None:
        recipe = str(self.first.dishes[0].recipe_id)
        plan = self.made(*[(recipe, [(self.target("Ada Vance"), 1)])] * 4)
        offered = [one["other_id"] for one in plan["shareable"]]
        self.assertEqual((len(offered), len(set(offered))), (9, 9))
        firsts = {part["component_id"] for part in plan["dishes"][0]["parts"]}
        self.assertEqual({one["component_id"] for one in plan["shareable"]}, firsts)
        while plan["shareable"]:
            pair = plan["shareable"][0]
            change = {"kind": "share-pot", "component_id": pair["other_id"], "with_component_id": pair["component_id"]}
            plan = self.change(plan, change)["plan"]
        self.assertEqual({one["id"] for one in plan["components"]}, firsts)

    def test_sixty_components_twelve_dishes_and_hundreds_of_containers(self) -> None:
        """Nothing is silently zero: every container holds what it should, or the plan says what it misses."""
        foods = ("rice-white-long-grain-dry", "carrot-raw", "broccoli-raw", CHICKEN, "quinoa-dry")
        recipes = [
            save_recipe(
                database(),
                self.who,
                RecipeInput(
                    name=f"Dish {number}",
                    components=[
                        ComponentInput(
                            name=f"Part {number}.{place}", role="mixed", method="boiled", maximum_g=300,
                            lines=[line(food, 400 + 20 * number)],
                        )
                        for place, food in enumerate(foods)
                    ],
                ),
                None,
            )
            for number in range(12)
        ]  # fmt: skip
        eaters = [(self.target("Ada Vance"), 20), (self.target("Milo Brandt"), 15)]
        plan = self.made(*[(str(recipe.id), eaters) for recipe in recipes])
        self.assertEqual((len(plan["components"]), sum(row["count"] for row in plan["rows"])), (60, 420))
        off = {one["row_id"] for one in plan["to_settle"]}
        for row in plan["rows"]:
            self.assertGreater(row["total_g"], 0)
            self.assertTrue(row["id"] in off or all(gauge["miss"] == 0 for gauge in row["gauges"]))
        for component in plan["components"]:
            taken = sum(
                row["count"] * cell["grams"]
                for row in plan["rows"]
                for cell in row["cells"]
                if cell["component_id"] == component["id"]
            )
            self.assertAlmostEqual(component["needed_g"], taken, places=3)

    def test_a_recipe_says_its_groups_and_places(self) -> None:
        shown = self.get(f"/recipes/{self.parts.id}")
        self.assertEqual(shown["groups"], {"base": 1})
        self.assertEqual([one["group"] for one in shown["components"]], ["base", "base", None, None])
        self.assertEqual((shown["components"][3]["place"], shown["components"][3]["tub_ml"]), ("beside", 60))
        few = from_parts().model_dump(mode="json") | {"groups": {"base": 3}, "name": "Few"}
        self.assert_fault(
            self.send("POST", "/recipes", few, status=422), "/groups/base", "takes 3 of base, which has 2"
        )
        none = from_parts().model_dump(mode="json") | {"groups": {}, "name": "None"}
        refused = self.send("POST", "/recipes", none, status=422)
        self.assert_fault(refused, "/components/0/group", "There is no group “base”")
        self.assertEqual(bowl().groups, {})
