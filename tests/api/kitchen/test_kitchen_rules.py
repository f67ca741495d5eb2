"""What a kitchen counts by, what it has learned, and what it makes of an unlikely weight."""

from __future__ import annotations

import uuid
from typing import Any

from tests.api.case import API, ApiCase, food_id
from tests.kitchens import planned


class Rules(ApiCase):
    def test_a_switch_is_shown_before_it_is_made_and_comes_true(self) -> None:
        plan = self.plan()
        shown = self.get("/settings/switch", energy_rule="eu", carbohydrate="available")
        self.assertEqual(self.get("/settings")["energy_rule"], "general")
        bulgur = next(one for one in shown if one["name"] == "Chicken bowl: Bulgur")
        # 600 g of dry bulgur hold 12.5 % fibre: all of it leaves the carbohydrate, and counts 2 kcal instead of 4.
        fibre = bulgur["before"]["fibre_g"]
        self.assertAlmostEqual(bulgur["before"]["carbohydrate_g"] - bulgur["after"]["carbohydrate_g"], fibre, places=6)
        self.assertAlmostEqual(bulgur["before"]["kcal"] - bulgur["after"]["kcal"], 2 * fibre, places=6)
        self.assertTrue(any(one["kind"] == "container" for one in shown))
        self.send("PUT", "/settings", {"energy_rule": "eu", "carbohydrate": "available"})
        recipe = self.get(f"/recipes/{plan['dishes'][0]['recipe_id']}")
        now = next(one for one in recipe["components"] if one["name"] == "Bulgur")["figures"]["per_100g"]
        self.assertEqual(now, bulgur["after"])
        account = self.get("/session")
        self.assertEqual((account["energy_rule"], account["carbohydrate"]), ("eu", "available"))

    def test_nothing_moves_when_nothing_is_switched(self) -> None:
        planned(self.who)
        self.assertEqual(self.get("/settings/switch", energy_rule="general", carbohydrate="total"), [])

    def test_only_what_moves_on_the_screen_is_named(self) -> None:
        planned(self.who)
        for change in self.get("/settings/switch", energy_rule="eu", carbohydrate="total"):
            before, after = (
                [f"{side['kcal']:.0f}", *(f"{side[key]:.1f}" for key in ("protein_g", "carbohydrate_g", "fat_g"))]
                for side in (change["before"], change["after"])
            )
            self.assertNotEqual(before, after, change["name"])

    def test_label_energy_is_the_sources_own(self) -> None:
        self.send("PUT", "/settings", {"energy_rule": "label"})
        detail = self.get(f"/foods/{food_id('bulgur-wheat-dry')}")
        self.assertEqual(detail["food"]["per_100g"]["kcal"], detail["stated_kcal"])

    def test_free_foods_are_left_out_and_their_size_is_told(self) -> None:
        body = {
            "name": "x",
            "components": [
                {
                    "name": "a",
                    "lines": [
                        {"food_id": food_id("vinegar-balsamic"), "purchased_g": 50},
                        {"food_id": food_id("tomato-red-ripe-raw"), "purchased_g": 300},
                    ],
                }
            ],
        }
        before = self.send("POST", "/recipes/preview", body)["components"][0]["figures"]
        self.send("PUT", "/settings", {"free_foods": ["vinegar"]})
        after = self.send("POST", "/recipes/preview", body)["components"][0]
        self.assertTrue(after["lines"][0]["free"])
        self.assertAlmostEqual(
            before["totals"]["kcal"] - after["figures"]["totals"]["kcal"], after["figures"]["uncounted_kcal"]
        )
        self.assertGreater(after["figures"]["uncounted_kcal"], 30)

    def test_cups_are_those_of_the_kitchen(self) -> None:
        grams = {}
        for spoons in ("us", "metric"):
            self.send("PUT", "/settings", {"spoons": spoons})
            grams[spoons] = self.send("POST", "/recipes/read", {"text": "1 cup whole milk"})["lines"][0]["grams"]
        self.assertAlmostEqual(grams["metric"] / grams["us"], 250 / 236.5882365, places=6)

    def test_bad_settings_are_located(self) -> None:
        self.assert_fault(
            self.send("PUT", "/settings", {"free_foods": ["cake"]}, status=422), "/free_foods", "not one of"
        )
        vessels = [{"name": "", "empty_g": 0}]
        problem = self.send("PUT", "/settings", {"vessels": vessels}, status=422)
        self.assert_fault(problem, "/vessels/0/name", "name")
        self.assert_fault(problem, "/vessels/0/empty_g", "1 to")

    def test_units_are_a_persons_own_and_stored_figures_stay(self) -> None:
        before = self.get("/foods", text="bulgur")
        shown = self.send("PUT", "/person", {"mass_unit": "oz", "temperature_unit": "F", "energy_unit": "kJ"})
        self.assertEqual((shown["mass_unit"], shown["temperature_unit"], shown["energy_unit"]), ("oz", "F", "kJ"))
        self.assertEqual(self.get("/foods", text="bulgur"), before)

    def test_a_refusal_speaks_to_the_person_who_asked(self) -> None:
        plan = self.plan()
        row, component = plan["rows"][0], plan["components"][0]
        pin = {"kind": "pin", "row_id": row["id"], "component_id": component["id"], "grams": 9000}
        for mass, words in (("oz", "317.5 oz of .*from 0 to 70.5 oz"), ("g", "9,000 g of .*from 0 to 2,000 g")):
            with self.subTest(mass=mass):
                self.send("PUT", "/person", {"mass_unit": mass})
                self.assert_fault(self.change(plan, pin, status=422), "/changes/0/grams", words)
                # Whoever asks next is spoken to in his own.
                self.other_kitchen().get(f"{API}/settings")


class Weighed(ApiCase):
    def weigh(self, plan: dict[str, Any], gross: float, vessel: float = 0, status: int = 200, **rest: Any) -> Any:
        weigh = {
            "kind": "weigh",
            "component_id": plan["components"][0]["id"],
            "vessels": [{"gross_g": gross, "vessel_g": vessel}],
        }
        return self.change(plan, weigh, status=status, **rest)

    def test_a_pan_left_on_is_named_and_one_tap_mends_it(self) -> None:
        self.send(
            "PUT",
            "/settings",
            {"vessels": [{"name": "Roasting tray", "empty_g": 1312}, {"name": "Bowl", "empty_g": 300}]},
        )
        plan = self.plan()
        right = round(plan["components"][0]["cooked_g"])
        problem = self.weigh(plan, right + 1312, status=409)
        self.assertEqual(problem["type"], "doubtful")
        self.assertIn("Roasting tray was left on", problem["mends"][0]["words"])
        (vessel,) = problem["mends"][0]["vessels"]
        mended = self.weigh(plan, vessel["gross_g"], vessel["vessel_g"])["plan"]["components"][0]
        self.assertEqual(mended["weighing"]["cooked_g"], right)
        self.assertEqual(mended["doubts"], [])

    def test_a_doubt_that_was_recorded_anyway_stays_with_its_mends(self) -> None:
        self.send("PUT", "/settings", {"vessels": [{"name": "Roasting tray", "empty_g": 1312}]})
        plan = self.plan()
        right = round(plan["components"][0]["cooked_g"])
        kept = self.weigh(plan, right + 1312, confirmed=True)["plan"]
        (vessel,) = kept["components"][0]["doubts"][0]["vessels"]
        mended = self.weigh(kept, vessel["gross_g"], vessel["vessel_g"])["plan"]["components"][0]
        self.assertEqual((mended["weighing"]["cooked_g"], mended["doubts"]), (right, []))

    def test_kilograms_for_grams_are_refused_with_the_mend(self) -> None:
        plan = self.plan()
        problem = self.weigh(plan, round(plan["components"][0]["cooked_g"]) / 1000, status=422)
        self.assertIn("Kilograms", problem["mends"][0]["words"])

    def test_what_a_kitchen_measures_becomes_what_it_expects(self) -> None:
        plan = self.plan()
        pan = plan["components"][0]
        self.assertEqual(self.get("/yields"), [])
        self.weigh(plan, pan["cooked_g"] * 1.06)
        learned = {(one["kind"], one["name"]): one for one in self.get("/yields")}
        food = learned["food", "Chicken thigh, skinless"]
        (measured,) = food["measured"]
        self.assertAlmostEqual(measured["yield_factor"], pan["cooked_g"] * 1.06 / pan["basis_g"], places=3)
        self.assertLess(food["prior"]["expected"], food["estimate"]["expected"])
        self.assertLess(food["estimate"]["expected"], measured["yield_factor"])
        # The next recipe with it starts from there, and says so.
        body = {
            "name": "x",
            "components": [
                {
                    "name": "a",
                    "method": "roasted",
                    "lines": [{"food_id": food_id("chicken-thigh-skinless-raw"), "purchased_g": 1000}],
                }
            ],
        }
        expected = self.send("POST", "/recipes/preview", body)["components"][0]["lines"][0]["expected"]
        self.assertEqual(expected["source"], "measured in this kitchen")
        self.assertAlmostEqual(expected["expected"], food["estimate"]["expected"], places=6)
        other = self.other_kitchen().post(f"{API}/recipes/preview", json=body).json()
        self.assertNotEqual(other["components"][0]["lines"][0]["expected"]["source"], "measured in this kitchen")

    def test_a_batch_does_not_confirm_itself_and_a_withdrawn_weight_teaches_nothing(self) -> None:
        plan = self.plan()
        pan = plan["components"][0]
        weighed = self.weigh(plan, pan["cooked_g"] * 1.06)
        after = weighed["plan"]["components"][0]
        self.assertEqual(after["lines"][0]["expected"], pan["lines"][0]["expected"])
        self.change(weighed["plan"], {"kind": "withdraw", "component_id": pan["id"]})
        self.assertEqual(self.get("/yields"), [])

    def test_bone_taken_off_is_no_food(self) -> None:
        plan = self.plan()
        pan = plan["components"][0]
        weigh = {
            "kind": "weigh",
            "component_id": pan["id"],
            "removed_g": 120,
            "vessels": [{"gross_g": pan["cooked_g"] + 120, "vessel_g": 0}],
        }
        changed = self.change(plan, weigh)
        weighed = changed["plan"]["components"][0]["weighing"]
        self.assertAlmostEqual(weighed["cooked_g"], pan["cooked_g"], places=2)
        self.assertEqual(weighed["removed_g"], 120)
        problem = self.change(changed["plan"], weigh | {"removed_g": 99999}, status=422)
        self.assertIn("leaves no food", problem["detail"])


class Many(ApiCase):
    """Several batches of one recipe: what the kitchen learns of it, and what one slip does."""

    def weighed(self, shares: list[float]) -> dict[str, Any]:
        """The history of the chicken after pans at these shares of what was expected at first."""
        first = self.plan()
        pan = first["components"][0]
        recipe, targets = first["dishes"][0]["recipe_id"], [t["id"] for c in self.get("/clients") for t in c["targets"]]
        self.expected = pan["cooked_g"] / pan["basis_g"]
        for index, share in enumerate(shares):
            body = {
                "name": f"Batch {index}",
                "cook_on": "2026-11-29",
                "dishes": [{"recipe_id": recipe, "eaters": [{"target_id": targets[0], "count": 5}]}],
            }
            plan = self.send("POST", "/batches", body, 201)
            component = plan["components"][0]
            weigh = {
                "kind": "weigh",
                "component_id": component["id"],
                "vessels": [{"gross_g": component["basis_g"] * self.expected * share, "vessel_g": 0}],
            }
            self.change(plan, weigh, confirmed=True)
        chicken = self.get(f"/recipes/{recipe}")["components"][0]["id"]
        return next(one for one in self.get("/yields") if one["id"] == chicken)

    def test_many_pans_outweigh_the_prior_and_one_slip_does_not(self) -> None:
        few = self.weighed([1.08])
        self.assertGreater(few["prior_share"], 0.2)
        many = self.weighed([1.08, 1.07, 1.09, 1.08, 1.08, 2.1])
        self.assertLess(many["prior_share"], few["prior_share"])
        # The pan weighed first was of another recipe, so six count here.
        self.assertEqual(len(many["measured"]), 6)
        slip = max(many["measured"], key=lambda one: one["yield_factor"])
        self.assertLess(slip["weight"], 0.1)
        self.assertTrue(all(one["weight"] > 0.9 for one in many["measured"] if one is not slip))
        self.assertAlmostEqual(many["estimate"]["expected"], self.expected * 1.08, delta=0.03 * self.expected)

    def test_the_next_batch_expects_what_was_learned(self) -> None:
        learned = self.weighed([1.1, 1.1, 1.1, 1.1])
        plan = self.get("/batches")[0]
        shown = self.get(f"/batches/{plan['id']}/plan")
        recipe = self.get(f"/recipes/{shown['dishes'][0]['recipe_id']}")
        figures = recipe["components"][0]["figures"]
        self.assertEqual(figures["yield_source"], "measured in this kitchen")
        self.assertAlmostEqual(figures["yield_factor"], learned["estimate"]["expected"], places=6)


class Doors(ApiCase):
    """Addresses that name nothing here, and words that are not known."""

    def test_missing_things_say_so(self) -> None:
        nobody = str(uuid.uuid4())
        for method, path, body in (
            ("GET", f"/recipes/{nobody}/recipe.json", None),
            ("GET", f"/recipes/{nobody}/recipe.csv", None),
            ("GET", f"/foods/{nobody}", None),
            ("PUT", f"/foods/{nobody}/supply", {}),
            ("POST", "/recipes/answers", {"words": "x", "food_id": nobody}),
            ("POST", "/recipes/read", {"text": "1 egg", "food_id": nobody}),
        ):
            with self.subTest(path=path):
                problem = self.send(method, path, body, status=404)
                self.assertIn("There is no such", problem["detail"])
        self.send("PUT", f"/foods/{nobody}/archived", status=404, archived=True)

    def test_words_that_are_not_known_are_refused(self) -> None:
        for path, body in (
            ("/settings", {"energy_rule": "best"}),
            ("/settings", {"spoons": "silver"}),
            ("/settings", {"colour": "red"}),
            ("/person", {"mass_unit": "stone"}),
        ):
            with self.subTest(body=body):
                self.send("PUT", path, body, status=422)
        self.assertEqual(self.get("/settings")["energy_rule"], "general")

    def test_settings_of_one_kitchen_are_not_anothers(self) -> None:
        self.send("PUT", "/settings", {"energy_rule": "net", "vessels": [{"name": "Tray", "empty_g": 900}]})
        other = self.other_kitchen().get(f"{API}/settings").json()
        self.assertEqual((other["energy_rule"], other["vessels"]), ("general", []))

    def test_a_vessel_is_changed_and_taken_out(self) -> None:
        made = self.send(
            "PUT", "/settings", {"vessels": [{"name": "Tray", "empty_g": 900}, {"name": "Pot", "empty_g": "2 kg"}]}
        )
        pot, tray = made["vessels"]
        self.assertEqual((pot["name"], pot["empty_g"]), ("Pot", 2000))
        kept = self.send("PUT", "/settings", {"vessels": [{**tray, "empty_g": 950}]})
        self.assertEqual(kept["vessels"], [{**tray, "empty_g": 950}])

    def test_words_for_forms(self) -> None:
        words = self.get("/foods/words")
        self.assertIn("canned-drained", words["states"])
        self.assertIn("vegan", words["diets"])
